import fc from 'fast-check';
import { z } from 'zod';
import { NASTY, putAt } from '../../contracts/test/spoil.js';

interface Shape {
  type?: string;
  properties?: Record<string, Shape>;
  required?: string[];
  additionalProperties?: Shape | boolean;
  items?: Shape;
  prefixItems?: Shape[];
  minItems?: number;
  maxItems?: number;
  minLength?: number;
  maxLength?: number;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  exclusiveMaximum?: number;
  format?: string;
  pattern?: string;
  enum?: unknown[];
  const?: unknown;
  anyOf?: Shape[];
  oneOf?: Shape[];
  allOf?: Shape[];
  $ref?: string;
}

/** Words that the trade uses, so that a good part of what is made means something. */
export interface Vocabulary {
  ids: readonly string[];
  words: readonly string[];
}

const MOST_ITEMS = 4;

function text(shape: Shape, { ids, words }: Vocabulary): fc.Arbitrary<string> {
  if (shape.format === 'uuid') return fc.oneof(fc.constantFrom(...ids), fc.uuid({ version: 4 }));
  const free = fc.string({
    minLength: shape.minLength ?? 0,
    maxLength: Math.min(shape.maxLength ?? 30, (shape.minLength ?? 0) + 30),
  });
  return fc.oneof({ weight: 4, arbitrary: fc.constantFrom(...words) }, { weight: 1, arbitrary: free });
}

function figure(shape: Shape): fc.Arbitrary<number> {
  const least =
    shape.minimum ?? (shape.exclusiveMinimum === undefined ? -1e6 : shape.exclusiveMinimum + 1e-9);
  const most = shape.maximum ?? (shape.exclusiveMaximum === undefined ? 1e6 : shape.exclusiveMaximum - 1e-9);
  if (shape.type === 'integer') {
    const [min, max] = [Math.ceil(Math.max(least, -(2 ** 31))), Math.floor(Math.min(most, 2 ** 31 - 1))];
    // Small ones are versions and counts there are.
    return fc.oneof(fc.integer({ min, max }), fc.integer({ min, max: Math.min(max, Math.max(min, 2)) }));
  }
  return fc.oneof(
    fc.double({ min: least, max: most, noNaN: true }),
    fc.constantFrom(least, most, Math.min(most, Math.max(least, 1))),
  );
}

/** Anything of a JSON schema's shape. */
function ofShape(shape: Shape | boolean | undefined, known: Vocabulary): fc.Arbitrary<unknown> {
  if (shape === undefined || typeof shape === 'boolean' || shape.$ref !== undefined)
    return fc.jsonValue({ maxDepth: 2 });
  if ('const' in shape) return fc.constant(shape.const);
  if (shape.enum) return fc.constantFrom(...shape.enum);
  const choices = shape.anyOf ?? shape.oneOf;
  if (choices) return fc.oneof(...choices.map((one) => ofShape(one, known)));
  if (shape.allOf) return ofShape(shape.allOf[0], known);
  switch (shape.type) {
    case 'string':
      return text(shape, known);
    case 'number':
    case 'integer':
      return figure(shape);
    case 'boolean':
      return fc.boolean();
    case 'null':
      return fc.constant(null);
    case 'array':
      if (shape.prefixItems) return fc.tuple(...shape.prefixItems.map((one) => ofShape(one, known)));
      return fc.array(ofShape(shape.items, known), {
        minLength: shape.minItems ?? 0,
        maxLength: Math.max(shape.minItems ?? 0, Math.min(shape.maxItems ?? MOST_ITEMS, MOST_ITEMS)),
      });
    case 'object': {
      const fields = Object.fromEntries(
        Object.entries(shape.properties ?? {}).map(([name, one]) => [name, ofShape(one, known)]),
      );
      const named = fc.record(fields, { requiredKeys: shape.required ?? [] });
      if (typeof shape.additionalProperties !== 'object') return named;
      return fc
        .tuple(
          named,
          fc.dictionary(fc.constantFrom(...known.words), ofShape(shape.additionalProperties, known), {
            maxKeys: 4,
          }),
        )
        .map(([one, more]) => ({ ...more, ...one }));
    }
    default:
      return fc.jsonValue({ maxDepth: 2 });
  }
}

/**
 * Bodies for an endpoint: of its shape, and of its shape with something else put in at one place.
 * What a schema refines beyond its shape is not known here, so many of them mean nothing: that is the point.
 */
export function anyBody(schema: z.ZodType, known: Vocabulary): fc.Arbitrary<unknown> {
  const shape = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as Shape;
  const good = ofShape(shape, known);
  const spoiled = fc
    .tuple(good, fc.nat({ max: 25 }), NASTY)
    .map(([body, place, value]) => putAt(body, place, value));
  return fc.oneof({ weight: 2, arbitrary: good }, { weight: 1, arbitrary: spoiled });
}
