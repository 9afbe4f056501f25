import * as z from 'zod';
import { endpoints, type Endpoint } from './endpoints.js';
import { problem } from './problems.js';

type Json = Record<string, unknown>;

const schemaOf = (schema: z.ZodType, io: 'input' | 'output'): Json => {
  const { $schema: _, ...json } = z.toJSONSchema(schema, {
    io,
    unrepresentable: 'any',
    target: 'draft-2020-12',
  }) as Json;
  return json;
};

/** The OpenAPI 3.1 document of the HTTP interface, made from the endpoint table. */
export function openApiDocument(version: string): Json {
  const paths: Record<string, Json> = {};
  for (const [id, endpoint] of Object.entries(endpoints) as [string, Endpoint][]) {
    const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
    paths[path] = { ...paths[path], [endpoint.method]: operation(id, endpoint) };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Near Spoke',
      version,
      description: 'Plan, terminate, verify and hand over low-voltage links.',
    },
    paths,
    components: {
      schemas: { Problem: schemaOf(problem, 'output') },
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'near_spoke_session' } },
    },
  };
}

function operation(id: string, endpoint: Endpoint): Json {
  const ok = endpoint.response
    ? {
        description: 'Done',
        content: { 'application/json': { schema: schemaOf(endpoint.response, 'output') } },
      }
    : { description: 'The file', content: { [endpoint.file ?? 'application/octet-stream']: {} } };
  const parameters = endpoint.params
    ? Object.entries(endpoint.params.shape).map(([name, schema]) => ({
        name,
        in: 'path',
        required: true,
        schema: schemaOf(schema as z.ZodType, 'input'),
      }))
    : [];
  return {
    operationId: id,
    summary: endpoint.summary,
    description: endpoint.access === 'anyone' ? 'Open to anyone.' : `For: ${endpoint.access.join(', ')}.`,
    ...(endpoint.access === 'anyone' ? {} : { security: [{ session: [] }] }),
    parameters,
    ...(endpoint.body
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: schemaOf(endpoint.body, 'input') } },
          },
        }
      : {}),
    ...(endpoint.upload ? { requestBody: { required: true, content: { [endpoint.upload]: {} } } } : {}),
    responses: {
      '200': ok,
      default: {
        description: 'A problem',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}
