import {
  brokenTextIn,
  endpoints,
  isTooDeep,
  pathInWords,
  type AnswerOf,
  type Endpoint,
  type EndpointId,
  type ParamsOf,
  type ParsedBodyOf,
} from '@near-spoke/contracts';
import { Router, type Request, type Response } from 'express';
import { currentSession, requireForgeryToken, requireSameOrigin } from './access/sessions.js';
import type { Context, SignedIn } from './context.js';
import { inCrew, outsideCrews } from './db/crew.js';
import { isAway, isInTheWay, isTaken } from './db/failures.js';
import { badField, badInput, Refusal } from './problems.js';

export interface Call<K extends EndpointId> {
  params: ParamsOf<K>;
  body: ParsedBodyOf<K>;
  /** The person signed in; on endpoints open to anyone it may be a stranger. */
  crew: (typeof endpoints)[K]['access'] extends 'anyone' ? SignedIn | null : SignedIn;
  request: Request;
  response: Response;
}

/** Answers the JSON to send; undefined when the handler sent a file itself. */
export type Handler<K extends EndpointId> = (
  call: Call<K>,
) => Promise<(typeof endpoints)[K] extends { file: string } ? void : AnswerOf<K>>;

export type Handlers = { [K in EndpointId]: Handler<K> };

/** A record that brings its own id is kept once, however often it is sent. */
const namesItself = (body: unknown): boolean => typeof body === 'object' && body !== null && 'id' in body;

/**
 * One router from the endpoint table: every route checks, in this order, where the request comes
 * from, who sends it, whether that role may, and the shape of what was sent. There is no other
 * way to add a route, so none can be without its check.
 */
export function bindEndpoints(context: Context, handlers: Handlers): Router {
  const router = Router();
  for (const id of Object.keys(endpoints) as EndpointId[]) {
    const endpoint: Endpoint = endpoints[id];
    const handler = handlers[id] as unknown as (call: unknown) => Promise<unknown>;
    router[endpoint.method](endpoint.path, async (request, response) => {
      const changes = endpoint.method !== 'get';
      if (changes) requireSameOrigin(request);
      const session = await currentSession(context, request).catch((error: unknown) => {
        if (!isAway(error)) throw error;
        return currentSession(context, request);
      });
      if (endpoint.access !== 'anyone') {
        if (!session)
          throw new Refusal(401, 'Sign in', 'Sign in first: your session is over or was never begun.');
        if (changes) requireForgeryToken(request, session);
        if (!endpoint.access.includes(session.crew.role)) {
          throw new Refusal(
            403,
            'Not yours to do',
            `${endpoint.summary} is for: ${endpoint.access.join(', ')}. You are ${session.crew.role}.`,
          );
        }
      }
      const params = endpoint.params?.safeParse(request.params);
      if (params && !params.success) throw badInput(params.error);
      if (isTooDeep(request.body))
        throw new Refusal(
          400,
          'Check the input',
          'What was sent lies in itself deeper than anything here does.',
        );
      const broken = brokenTextIn(request.body);
      if (broken)
        throw badField(
          pathInWords(broken),
          'This text is broken: half of a character is missing. Write it anew.',
          400,
        );
      const body = endpoint.body?.safeParse(request.body ?? {});
      if (body && !body.success) throw badInput(body.error);
      const call = {
        params: params?.data,
        body: body?.data,
        crew: session?.crew ?? null,
        request,
        response,
      };
      const repeatable = !changes || namesItself(body?.data);
      const handle = (): Promise<unknown> =>
        handler(call).catch((error: unknown) => {
          const again = isInTheWay(error) || (repeatable && (isAway(error) || isTaken(error)));
          if (!again || response.headersSent) throw error;
          return handler(call);
        });
      // Whatever it asks of the database, it is that crew's.
      const answer = await (session ? inCrew(session.ofCrew, handle) : outsideCrews(handle));
      if (!response.headersSent) response.json(answer);
    });
  }
  return router;
}
