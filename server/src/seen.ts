import { randomBytes } from 'node:crypto';
import type { RequestHandler } from 'express';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { isFromHere } from './access/here.js';
import { filesWaiting } from './handover/handover.js';
import { recordsWaiting } from './judge/judge.js';
import { notFound } from './problems.js';
import type { PoolFigures } from './db/open.js';

/** Times that matter to a hand at work, seconds. */
const BUCKETS = [0.01, 0.03, 0.1, 0.3, 1, 3, 10, 30];

/** Every request has a number, which its log line, its answer and the note of a problem show. */
export const numbered = (log: Logger): RequestHandler =>
  pinoHttp({
    logger: log,
    genReqId: (_request, response) => {
      const id = randomBytes(5).toString('hex');
      response.setHeader('X-Request-Id', id);
      return id;
    },
    // What went well is counted, not written down.
    customLogLevel: (_request, response) => (response.statusCode >= 500 ? 'error' : 'debug'),
    serializers: {
      // Cookies and tokens stay out of the log, those in an address too.
      req: ({ id, method, url }: { id: string; method: string; url: string }) => ({
        id,
        method,
        url: url.replace(/(\/api\/shared\/)[^/?]+/, '$1...'),
      }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
    },
  }) as RequestHandler;

/** Counts what the server does, and tells it in the text format of OpenMetrics on this machine alone. */
export function measured(pool: () => PoolFigures): { counted: RequestHandler; told: RequestHandler } {
  const registers = [new Registry()];
  const [registry] = registers as [Registry];
  collectDefaultMetrics({ register: registry, prefix: 'near_spoke_' });
  const requests = new Histogram({
    name: 'near_spoke_request_seconds',
    help: 'Time from a request to the end of its answer, by the kind of answer.',
    labelNames: ['method', 'status'],
    buckets: BUCKETS,
    registers,
  });
  new Gauge({
    name: 'near_spoke_database_connections',
    help: 'Connections to the database, and requests that wait for one.',
    labelNames: ['state'],
    registers,
    collect() {
      const { total, idle, waiting } = pool();
      this.set({ state: 'busy' }, total - idle);
      this.set({ state: 'idle' }, idle);
      this.set({ state: 'waited for' }, waiting);
    },
  });
  new Gauge({
    name: 'near_spoke_waiting',
    help: 'Work that waits for a thread.',
    labelNames: ['for'],
    registers,
    collect() {
      this.set({ for: 'verdict' }, recordsWaiting());
      this.set({ for: 'file' }, filesWaiting());
    },
  });
  return {
    counted: (request, response, next) => {
      const end = requests.startTimer({ method: request.method });
      // Also where who asked has left before the answer was whole.
      response.once('close', () => end({ status: `${Math.floor(response.statusCode / 100)}xx` }));
      next();
    },
    told: (request, response, next) => {
      if (!isFromHere(request)) {
        next(notFound('page'));
        return;
      }
      registry.metrics().then(
        (text) => response.type(registry.contentType).send(text),
        (error: unknown) => next(error),
      );
    },
  };
}
