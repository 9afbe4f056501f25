import type { CrewMember, OwnCrew, OwnSession, Role, SessionState } from '@near-spoke/contracts';
import { createHash } from 'node:crypto';
import { sql } from 'drizzle-orm';
import type { Request } from 'express';
import { isFromHere } from '../access/here.js';
import { hashPassphrase, passphraseMatches } from '../access/passphrase.js';
import { Slowing } from '../access/slowing.js';
import {
  beginSession,
  currentSession,
  endSession,
  newForgeryToken,
  type Session,
} from '../access/sessions.js';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { renameCrew } from '../crew/crews.js';
import { readPeople, readPerson } from '../crew/people.js';
import { FIRST_CREW, inCrew, isAnybodyThere, outsideCrews } from '../db/crew.js';
import { crew as crews, crewMember, membership } from '../db/schema.js';
import { isDemo } from '../demo/load.js';
import { stockKit } from '../kit/store.js';
import { badField, idTaken, notFound, Refusal } from '../problems.js';

/** So many crews may one person found or work in. */
const MOST_CREWS = 40;

const LOOPBACK_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** One-click entry is for a browser on this very machine, addressed as such. */
function fromLoopback(request: Request): boolean {
  const name = (request.headers.host ?? '').replace(/:\d+$/, '');
  return isFromHere(request) && LOOPBACK_NAMES.has(name);
}

async function stateFor(context: Context, request: Request): Promise<SessionState> {
  const current = await currentSession(context, request);
  if (current) return signedIn(context, current);
  if (!(await isAnybodyThere(context.db))) return { state: 'setup' };
  return { state: 'signed-out', demoPeople: await demoPeople(context, request) };
}

interface Person extends Record<string, unknown> {
  id: string;
  name: string;
  passphrase_hash: string;
}

/** Who signs in by a name, in whichever crew. */
async function personCalled({ db }: Context, name: string): Promise<Person | undefined> {
  const { rows } = await outsideCrews(() => db.execute<Person>(sql`SELECT * FROM door_person(${name})`));
  return rows[0];
}

interface CrewRow extends Record<string, unknown> {
  id: string;
  name: string;
  role: Role;
  version: number;
}

/** The crews that somebody works in, the one worked in last first. */
async function crewsOf({ db }: Context, personId: string): Promise<OwnCrew[]> {
  const { rows } = await outsideCrews(() =>
    db.execute<CrewRow>(sql`SELECT * FROM door_crews_of(${personId})`),
  );
  return rows.map(({ id, name, role, version }) => ({ id, name, role, version }));
}

async function signedIn(
  context: Context,
  { crew, ofCrew, forgeryToken }: Pick<Session, 'crew' | 'ofCrew' | 'forgeryToken'>,
): Promise<SessionState> {
  const person = await inCrew(ofCrew, () => readPerson(context.db, crew.id));
  if (!person) throw new Refusal(401, 'Sign in', 'Sign in first.');
  const own = await crewsOf(context, crew.id);
  return { state: 'signed-in', crew: person, token: forgeryToken, inCrew: ofCrew, crews: own };
}

export function sessionHandlers(
  context: Context,
): Pick<
  Handlers,
  | 'session'
  | 'signIn'
  | 'demoSignIn'
  | 'signOut'
  | 'setup'
  | 'ownSessions'
  | 'endOwnSession'
  | 'changeOwnPassphrase'
  | 'workInCrew'
  | 'joinCrew'
  | 'foundCrew'
  | 'renameCrew'
> {
  const { db } = context;
  const [slowing, demoDoor, setupDoor, joinDoor] = ['sign-in', 'demo', 'setup', 'join'].map(
    (name) => new Slowing({ name, failures: context.failures, free: context.signInLimit, log: context.log }),
  ) as [Slowing, Slowing, Slowing, Slowing];
  const here = async (request: Request): Promise<Session> => {
    const session = await currentSession(context, request);
    if (!session) throw new Refusal(401, 'Sign in', 'Sign in first.');
    return session;
  };
  /** Goes on in another crew: pages that still show the one before are refused what they change. */
  const moveTo = async (request: Request, ofCrew: string): Promise<SessionState> => {
    const { tokenHash } = await here(request);
    await outsideCrews(() =>
      db.execute(sql`SELECT door_move(${tokenHash}, ${ofCrew}, ${newForgeryToken()})`),
    );
    return signedIn(context, await here(request));
  };
  return {
    session: ({ request }) => stateFor(context, request),

    signIn: async ({ body, request, response }) => {
      const person = await slowing.try(body.name, request.ip ?? '', async () => {
        const found = await personCalled(context, body.name);
        const own = found ? await crewsOf(context, found.id) : [];
        const matches = await passphraseMatches(
          own[0] && found ? found.passphrase_hash : null,
          body.passphrase,
        );
        if (!found || !own[0] || !matches)
          throw new Refusal(
            401,
            'Not recognised',
            'Name and passphrase do not belong together. Check both and try again; after several tries each takes longer.',
          );
        return { crewId: found.id, ofCrew: own[0].id };
      });
      return signedIn(context, await beginSession(context, person, response));
    },

    demoSignIn: async ({ body, request, response }) => {
      await demoDoor.try(body.crewId, request.ip ?? '', async () => {
        const offered = await demoPeople(context, request);
        if (!offered.some(({ id }) => id === body.crewId)) {
          throw new Refusal(
            403,
            'Refused',
            'One-click entry is only for the demo’s people, on the machine it runs on.',
          );
        }
      });
      const person = { crewId: body.crewId, ofCrew: FIRST_CREW };
      return signedIn(context, await beginSession(context, person, response));
    },

    signOut: async ({ request, response }) => {
      await endSession(context, request, response);
      request.headers.cookie = '';
      return stateFor(context, request);
    },

    ownSessions: ({ request }) => ownSessions(context, request),

    endOwnSession: async ({ params, request }) => {
      const { tokenHash } = await here(request);
      const { rows } = await outsideCrews(() =>
        db.execute(sql`SELECT door_end_others(${tokenHash}, ${params.sessionId})`),
      );
      if (rows.length === 0) throw notFound('other session of yours');
      return ownSessions(context, request);
    },

    changeOwnPassphrase: async ({ body, crew, request }) => {
      const { tokenHash } = await here(request);
      await slowing.try(crew.name, request.ip ?? '', async () => {
        const found = await personCalled(context, crew.name);
        const own = found?.id === crew.id ? found.passphrase_hash : null;
        if (!(await passphraseMatches(own, body.old)))
          throw badField('old', 'This is not the passphrase that you have now.');
      });
      const passphraseHash = await hashPassphrase(body.next);
      await outsideCrews(() =>
        db.transaction(async (tx) => {
          await tx.execute(sql`SELECT door_new_passphrase(${tokenHash}, ${passphraseHash})`);
          await tx.execute(sql`SELECT door_end_others(${tokenHash}, NULL)`);
        }),
      );
      return ownSessions(context, request);
    },

    setup: async ({ body, request, response }) => {
      await setupDoor.try(body.name, request.ip ?? '', async () => {
        const passphraseHash = await hashPassphrase(body.passphrase);
        await inCrew(FIRST_CREW, () =>
          db.transaction(async (tx) => {
            await tx.execute(sql`LOCK TABLE ${crewMember} IN SHARE ROW EXCLUSIVE MODE`);
            if (await isAnybodyThere(tx))
              throw new Refusal(409, 'Already set up', 'There is a crew already. Ask its lead to add you.');
            await tx.insert(crewMember).values({ id: body.id, name: body.name, passphraseHash });
            await tx.insert(membership).values({ personId: body.id, role: 'lead' });
            if (body.crewName !== undefined) await tx.update(crews).set({ name: body.crewName });
          }),
        );
      });
      const person = { crewId: body.id, ofCrew: FIRST_CREW };
      return signedIn(context, await beginSession(context, person, response));
    },

    workInCrew: async ({ body, crew, request }) => {
      if (!(await crewsOf(context, crew.id)).some(({ id }) => id === body.crew))
        throw notFound('crew of yours');
      return moveTo(request, body.crew);
    },

    joinCrew: async ({ body, crew, request }) => {
      const { tokenHash } = await here(request);
      const joined = await joinDoor.try(crew.name, request.ip ?? '', async () => {
        const code = createHash('sha256').update(body.code).digest('hex');
        const { rows } = await outsideCrews(() =>
          db.execute<{ crew: string }>(sql`SELECT crew FROM door_join(${tokenHash}, ${code}) AS crew`),
        );
        const [row] = rows;
        if (!row)
          throw badField(
            'code',
            'This code opens no crew, or no longer: each works once, for a week. Ask for a new one.',
          );
        return row.crew;
      });
      return moveTo(request, joined);
    },

    foundCrew: async ({ body, crew, request }) => {
      if (!context.separate)
        throw new Refusal(
          409,
          'Not here',
          'Crews cannot be kept apart on this database: the application works with its owner’s rights. See “More than one crew” in docs/running-larger.md.',
        );
      const { tokenHash } = await here(request);
      const all = await crewsOf(context, crew.id);
      if (all.length >= MOST_CREWS && !all.some(({ id }) => id === body.id))
        throw badField('name', `Nobody works in more than ${MOST_CREWS} crews.`);
      await outsideCrews(() => db.execute(sql`SELECT door_found(${tokenHash}, ${body.id}, ${body.name})`));
      // Sent again, it is there already; somebody else’s is not told of.
      const own = (await crewsOf(context, crew.id)).find(({ id }) => id === body.id);
      if (own?.name !== body.name) throw idTaken();
      await inCrew(body.id, () => db.transaction((tx) => stockKit(tx)));
      return signedIn(context, await here(request));
    },

    renameCrew: async ({ body, crew, request }) => {
      await db.transaction((tx) => renameCrew(tx, body, crew.id));
      return signedIn(context, await here(request));
    },
  };
}

interface SessionRow extends Record<string, unknown> {
  token_hash: string;
  created_at: string;
  expires_at: string;
}

/** Where the person who asks is signed in, the newest first. A session is spoken of by part of its token's hash, which opens nothing. */
async function ownSessions(context: Context, request: Request): Promise<OwnSession[]> {
  const here = await currentSession(context, request);
  const { rows } = await outsideCrews(() =>
    context.db.execute<SessionRow>(sql`SELECT * FROM door_sessions_of(${here?.tokenHash ?? ''})`),
  );
  return rows.map(({ token_hash: hash, created_at: begun, expires_at: until }) => ({
    id: hash.slice(0, 16),
    begun: new Date(begun).toISOString(),
    until: new Date(until).toISOString(),
    here: hash === here?.tokenHash,
  }));
}

/** Whom one click lets in: the demo's first people, on the machine itself. */
const demoPeople = (context: Context, request: Request): Promise<CrewMember[]> =>
  inCrew(FIRST_CREW, async () => {
    if (!fromLoopback(request) || !(await isDemo(context.db))) return [];
    return (await readPeople(context.db)).filter(({ active }) => active).slice(0, 3);
  });
