import type { OwnSession, SessionState } from '@near-spoke/contracts';
import { and, asc, desc, eq, gt, ne, sql } from 'drizzle-orm';
import type { Request } from 'express';
import { isFromHere } from '../access/here.js';
import { hashPassphrase, passphraseMatches } from '../access/passphrase.js';
import { Slowing } from '../access/slowing.js';
import { beginSession, currentSession, endSession } from '../access/sessions.js';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { asCrewMember } from '../crew/routes.js';
import { crewMember, session } from '../db/schema.js';
import { isDemo } from '../demo/load.js';
import { badField, notFound, Refusal } from '../problems.js';

const LOOPBACK_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** One-click entry is for a browser on this very machine, addressed as such. */
function fromLoopback(request: Request): boolean {
  const name = (request.headers.host ?? '').replace(/:\d+$/, '');
  return isFromHere(request) && LOOPBACK_NAMES.has(name);
}

async function stateFor(context: Context, request: Request): Promise<SessionState> {
  const current = await currentSession(context, request);
  if (current) return signedIn(context, current.crew.id, current.forgeryToken);
  const people = await context.db
    .select()
    .from(crewMember)
    .where(eq(crewMember.active, true))
    .orderBy(asc(crewMember.createdAt));
  if (people.length === 0) return { state: 'setup' };
  const offered = fromLoopback(request) && (await isDemo(context.db)) ? people.slice(0, 3) : [];
  return { state: 'signed-out', demoPeople: offered.map(asCrewMember) };
}

async function signedIn(context: Context, crewId: string, token: string): Promise<SessionState> {
  const [row] = await context.db.select().from(crewMember).where(eq(crewMember.id, crewId));
  if (!row) throw new Refusal(401, 'Sign in', 'Sign in first.');
  return { state: 'signed-in', crew: asCrewMember(row), token };
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
> {
  const { db } = context;
  const [slowing, demoDoor, setupDoor] = ['sign-in', 'demo', 'setup'].map(
    (name) => new Slowing({ name, failures: context.failures, free: context.signInLimit, log: context.log }),
  ) as [Slowing, Slowing, Slowing];
  return {
    session: ({ request }) => stateFor(context, request),

    signIn: async ({ body, request, response }) => {
      const person = await slowing.try(body.name, request.ip ?? '', async () => {
        const [found] = await db
          .select()
          .from(crewMember)
          .where(eq(sql`lower(${crewMember.name})`, body.name.toLowerCase()));
        const matches = await passphraseMatches(found?.active ? found.passphraseHash : null, body.passphrase);
        if (!found || !matches)
          throw new Refusal(
            401,
            'Not recognised',
            'Name and passphrase do not belong together. Check both and try again; after several tries each takes longer.',
          );
        return found;
      });
      return signedIn(context, person.id, await beginSession(context, person.id, response));
    },

    demoSignIn: async ({ body, request, response }) => {
      await demoDoor.try(body.crewId, request.ip ?? '', async () => {
        const state = await stateFor(context, request);
        const offered = state.state === 'setup' ? [] : await demoPeople(context, request);
        if (!offered.includes(body.crewId)) {
          throw new Refusal(
            403,
            'Refused',
            'One-click entry is only for the demo’s people, on the machine it runs on.',
          );
        }
      });
      return signedIn(context, body.crewId, await beginSession(context, body.crewId, response));
    },

    signOut: async ({ request, response }) => {
      await endSession(context, request, response);
      request.headers.cookie = '';
      return stateFor(context, request);
    },

    ownSessions: ({ request }) => ownSessions(context, request),

    endOwnSession: async ({ params, request }) => {
      const here = await currentSession(context, request);
      const ended = await db
        .delete(session)
        .where(
          and(
            eq(session.crewId, here?.crew.id ?? ''),
            eq(shownId, params.sessionId),
            ne(session.tokenHash, here?.tokenHash ?? ''),
          ),
        )
        .returning({ id: session.tokenHash });
      if (ended.length === 0) throw notFound('other session of yours');
      return ownSessions(context, request);
    },

    changeOwnPassphrase: async ({ body, crew, request }) => {
      const here = await currentSession(context, request);
      await slowing.try(crew.name, request.ip ?? '', async () => {
        const [row] = await db.select().from(crewMember).where(eq(crewMember.id, crew.id));
        if (!(await passphraseMatches(row?.passphraseHash ?? null, body.old)))
          throw badField('old', 'This is not the passphrase that you have now.');
      });
      const passphraseHash = await hashPassphrase(body.next);
      await db.transaction(async (tx) => {
        await tx.update(crewMember).set({ passphraseHash }).where(eq(crewMember.id, crew.id));
        await tx
          .delete(session)
          .where(and(eq(session.crewId, crew.id), ne(session.tokenHash, here?.tokenHash ?? '')));
      });
      return ownSessions(context, request);
    },

    setup: async ({ body, request, response }) => {
      await setupDoor.try(body.name, request.ip ?? '', async () => {
        const passphraseHash = await hashPassphrase(body.passphrase);
        await db.transaction(async (tx) => {
          await tx.execute(sql`LOCK TABLE ${crewMember} IN SHARE ROW EXCLUSIVE MODE`);
          if ((await tx.select({ id: crewMember.id }).from(crewMember).limit(1)).length > 0) {
            throw new Refusal(409, 'Already set up', 'There is a crew already. Ask its lead to add you.');
          }
          await tx.insert(crewMember).values({ id: body.id, name: body.name, role: 'lead', passphraseHash });
        });
      });
      return signedIn(context, body.id, await beginSession(context, body.id, response));
    },
  };
}

/** A session is spoken of by part of its token's hash, which opens nothing. */
const shownId = sql<string>`left(${session.tokenHash}, 16)`;

/** Where the person who asks is signed in, the newest first. */
async function ownSessions(context: Context, request: Request): Promise<OwnSession[]> {
  const here = await currentSession(context, request);
  const rows = await context.db
    .select({ id: shownId, begun: session.createdAt, until: session.expiresAt, tokenHash: session.tokenHash })
    .from(session)
    .where(and(eq(session.crewId, here?.crew.id ?? ''), gt(session.expiresAt, new Date())))
    .orderBy(desc(session.createdAt));
  return rows.map(({ id, begun, until, tokenHash }) => ({
    id,
    begun: begun.toISOString(),
    until: until.toISOString(),
    here: tokenHash === here?.tokenHash,
  }));
}

async function demoPeople(context: Context, request: Request): Promise<string[]> {
  if (!fromLoopback(request) || !(await isDemo(context.db))) return [];
  const people = await context.db
    .select()
    .from(crewMember)
    .where(eq(crewMember.active, true))
    .orderBy(asc(crewMember.createdAt))
    .limit(3);
  return people.map((person) => person.id);
}
