import type * as z from 'zod';
import { adaptersEndpoints } from './endpoints/adapters.js';
import type { Endpoint } from './endpoints/endpoint.js';
import { drillsEndpoints } from './endpoints/drills.js';
import { formsEndpoints } from './endpoints/forms.js';
import { handoversEndpoints } from './endpoints/handovers.js';
import { instrumentsEndpoints } from './endpoints/instruments.js';
import { jobsEndpoints } from './endpoints/jobs.js';
import { kitEndpoints } from './endpoints/kit.js';
import { linksEndpoints } from './endpoints/links.js';
import { looseEndpoints } from './endpoints/loose.js';
import { offersEndpoints } from './endpoints/offers.js';
import { scheduleEndpoints } from './endpoints/schedule.js';
import { searchEndpoints } from './endpoints/search.js';
import { sitesEndpoints } from './endpoints/sites.js';
import { peopleEndpoints } from './endpoints/people.js';
import { togetherEndpoints } from './endpoints/together.js';

export type { Access, Endpoint } from './endpoints/endpoint.js';

/**
 * Every route there is: path, shapes and who may use it. The server binds its handlers to this
 * table and refuses to start with one missing; the OpenAPI document is made from it.
 */
export const endpoints = {
  ...peopleEndpoints,
  ...kitEndpoints,
  ...jobsEndpoints,
  ...linksEndpoints,
  ...handoversEndpoints,
  ...formsEndpoints,
  ...offersEndpoints,
  ...scheduleEndpoints,
  ...searchEndpoints,
  ...sitesEndpoints,
  ...looseEndpoints,
  ...drillsEndpoints,
  ...adaptersEndpoints,
  ...instrumentsEndpoints,
  ...togetherEndpoints,
} as const satisfies Record<string, Endpoint>;

export type Endpoints = typeof endpoints;
export type EndpointId = keyof Endpoints;
/** What a caller sends: the schema's input. */
export type BodyOf<K extends EndpointId> = Endpoints[K] extends { body: infer S extends z.ZodType }
  ? z.input<S>
  : undefined;
/** What a handler gets: the schema's output. */
export type ParsedBodyOf<K extends EndpointId> = Endpoints[K] extends { body: infer S extends z.ZodType }
  ? z.output<S>
  : undefined;
export type ParamsOf<K extends EndpointId> = Endpoints[K] extends { params: infer S extends z.ZodType }
  ? z.output<S>
  : Record<string, never>;
export type AnswerOf<K extends EndpointId> = Endpoints[K] extends { response: infer S extends z.ZodType }
  ? z.output<S>
  : never;
