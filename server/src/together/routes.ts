import type { TogetherState } from '@near-spoke/contracts';
import { AsyncResource } from 'node:async_hooks';
import type { Request, Response } from 'express';
import { cookieOf, currentSession } from '../access/sessions.js';
import { Slowing } from '../access/slowing.js';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { crewHere, crewOfCode, crewOfHelper, inCrew } from '../db/crew.js';
import { Refusal } from '../problems.js';
import { Hub } from './hub.js';
import {
  admitHelper,
  beginTogether,
  beginTouches,
  beginWires,
  endTogether,
  hashOf,
  helperOf,
  noSuchCode,
  readOpen,
  readTogether,
  tell,
  type Helper,
} from './store.js';

const COOKIE = 'near_spoke_helping';
const COOKIE_PATH = '/api/helping';
const LIFETIME_MS = 12 * 60 * 60 * 1000;
/** A silent connection is taken for dead on its way: something is said so often, and looked up in case a word was lost. */
const HEARTBEAT_MS = 15_000;

const hubs = new Set<Hub>();
const streams = new Set<Response>();

/** Ends what listens, so that the process can. */
export async function endListening(): Promise<void> {
  for (const stream of streams) stream.end();
  await Promise.all([...hubs].map((hub) => hub.close()));
  hubs.clear();
}

type TogetherHandlers = Pick<
  Handlers,
  | 'beginTogether'
  | 'beginWires'
  | 'beginTouches'
  | 'openTogether'
  | 'readTogether'
  | 'followTogether'
  | 'tellTogether'
  | 'endTogether'
  | 'joinAsHelper'
  | 'readAsHelper'
  | 'followAsHelper'
  | 'tellAsHelper'
>;

export function togetherHandlers(context: Context): TogetherHandlers {
  const { db, quick, databaseUrl, log, failures, signInLimit } = context;
  const hub = new Hub(databaseUrl, log);
  hubs.add(hub);
  const slowing = new Slowing({ name: 'helper', failures, free: signInLimit, log });
  /** Does something for the crew that a device helps; for nobody where it helps none. */
  const helping = async <T>(request: Request, work: (helper: Helper | null) => Promise<T>): Promise<T> => {
    const token = tokenIn(request);
    const ofCrew = token === null ? null : await crewOfHelper(quick, hashOf(token));
    if (token === null || ofCrew === null) return work(null);
    return inCrew(ofCrew, async () => work(await helperOf(quick, token)));
  };
  const aHelper = (helper: Helper | null): Helper => {
    if (helper) return helper;
    throw new Refusal(
      401,
      'No code yet',
      'This device helps nobody yet. Give the code that the other end shows.',
    );
  };
  return {
    beginTogether: ({ params, body, crew }) =>
      db.transaction(async (tx) => readTogether(tx, await beginTogether(tx, params.linkId, body.id, crew))),

    beginWires: ({ body, crew }) =>
      db.transaction(async (tx) => readTogether(tx, await beginWires(tx, body, crew.id))),

    beginTouches: ({ body, crew }) =>
      db.transaction(async (tx) => readTogether(tx, await beginTouches(tx, body, crew.id))),

    openTogether: () => readOpen(db),

    readTogether: ({ params }) => readTogether(db, params.togetherId),

    followTogether: ({ params, request, response }) => {
      const ofCrew = crewHere();
      return follow(hub, params.togetherId, response, {
        read: () => readTogether(db, params.togetherId),
        // Whose session is ended or goes on in another crew, or who may not work any more, is sent nothing more.
        may: async () => {
          const session = await currentSession(context, request);
          return session?.ofCrew === ofCrew && session.crew.role !== 'viewer';
        },
      });
    },

    tellTogether: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        await tell(tx, params.togetherId, body, crew.name);
        return readTogether(tx, params.togetherId);
      }),

    endTogether: ({ params }) =>
      db.transaction(async (tx) => {
        await endTogether(tx, params.togetherId);
        return readTogether(tx, params.togetherId);
      }),

    joinAsHelper: ({ body, request, response }) => {
      const from = request.ip ?? '';
      return slowing.try(`helper at ${from}`, from, async () => {
        const ofCrew = await crewOfCode(quick, body.code);
        if (ofCrew === null) throw noSuchCode();
        return inCrew(ofCrew, () =>
          db.transaction(async (tx) => {
            const { token, helper } = await admitHelper(tx, body);
            const state = await readTogether(tx, helper.togetherId, helper);
            response.cookie(COOKIE, token, {
              ...cookieOf(request),
              path: COOKIE_PATH,
              maxAge: LIFETIME_MS,
            });
            return state;
          }),
        );
      });
    },

    readAsHelper: ({ request }) =>
      helping(request, async (helper) => helper && readTogether(db, helper.togetherId, helper)),

    followAsHelper: ({ request, response }) =>
      helping(request, (known) => {
        const helper = aHelper(known);
        return follow(hub, helper.togetherId, response, {
          read: () => readTogether(db, helper.togetherId, helper),
          may: () => helping(request, async (still) => still !== null),
        });
      }),

    tellAsHelper: ({ body, request }) =>
      helping(request, (known) => {
        const helper = aHelper(known);
        return db.transaction(async (tx) => {
          await tell(tx, helper.togetherId, body, helper.name);
          return readTogether(tx, helper.togetherId, helper);
        });
      }),
  };
}

function tokenIn(request: Request): string | null {
  const cookies = (request.headers.cookie ?? '').split(';').map((part) => part.trim().split('='));
  return cookies.find(([name]) => name === COOKIE)?.[1] ?? null;
}

/**
 * Sends the state now and whenever it is another, until the other side leaves or all is ended. Whoever comes back gets
 * the state as it is then, so that nothing is missed and nothing comes twice.
 */
async function follow(
  hub: Hub,
  id: string,
  response: Response,
  { read, may }: { read: () => Promise<TogetherState>; may: () => Promise<boolean> },
): Promise<void> {
  let sent = '';
  let reading = false;
  let again = false;
  // What there is not is said before anything is sent.
  const first = await read();
  response.writeHead(200, {
    'Content-Type': 'text/event-stream',
    // Nothing on the way holds it back to press it together.
    'Cache-Control': 'no-store, no-transform',
    'X-Accel-Buffering': 'no',
  });
  const send = (state: TogetherState): void => {
    const text = JSON.stringify(state);
    if (text === sent || response.writableEnded) return;
    sent = text;
    response.write(`id: ${state.told}\ndata: ${text}\n\n`);
    if (state.ended) response.end();
  };
  // Whoever tells of news, what is read is this crew’s.
  const look = AsyncResource.bind((): void => {
    if (reading) {
      again = true;
      return;
    }
    reading = true;
    may()
      .then(async (still) => {
        if (still) send(await read());
        else response.end();
      })
      // The next look may be luckier.
      .catch(() => undefined)
      .finally(() => {
        reading = false;
        if (!again) return;
        again = false;
        look();
      });
  });
  streams.add(response);
  const quiet = hub.on(id, look);
  const beat = setInterval(() => {
    response.write(': still here\n\n');
    look();
  }, HEARTBEAT_MS);
  const gone = new Promise<void>((resolve) => response.once('close', resolve));
  send(first);
  await gone;
  clearInterval(beat);
  quiet();
  streams.delete(response);
}
