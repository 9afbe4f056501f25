import { AsyncLocalStorage } from 'node:async_hooks';
import { sql } from 'drizzle-orm';
import type pg from 'pg';
import type { Sql } from './open.js';

/** Migration 0035 makes it; the demo's people are in it. */
export { FIRST_CREW } from '@near-spoke/contracts/first-crew';
/** Works for no crew: nothing of any is seen. */
const NO_CREW = '';

const here = new AsyncLocalStorage<string>();

/** Does some work for a crew: every connection that is taken during it shows and takes that crew's rows alone. */
export const inCrew = <T>(ofCrew: string, work: () => PromiseLike<T> | T): Promise<T> =>
  // A statement of drizzle-orm begins when it is waited for: it has to be here.
  here.run(ofCrew, async () => await work());

/** Does some work for no crew; what has to look over all of them asks a door. */
export const outsideCrews = <T>(work: () => PromiseLike<T> | T): Promise<T> => inCrew(NO_CREW, work);

/** The crew that is worked for. */
export function crewHere(): string {
  const crew = here.getStore();
  if (!crew) throw new Error('this is done for a crew, and nobody has said for which');
  return crew;
}

/** What each connection was last told. */
const told = new WeakMap<pg.ClientBase, string>();

/** Whom a connection that is taken now would work for. */
export const crewToTell = (): string => here.getStore() ?? NO_CREW;

/**
 * Tells a connection for which crew it works, where it works for another so far.
 *
 * @throws what the database says; the connection is then not to be used
 */
export async function tellCrew(client: pg.ClientBase, crew: string): Promise<void> {
  if (told.get(client) === crew) return;
  told.delete(client);
  await client.query("SELECT set_config('near_spoke.crew', $1, false)", [crew]);
  told.set(client, crew);
}

interface DoorRow extends Record<string, unknown> {
  answer: string;
}

/** Asks a door: a function of the database that answers one question over all crews (migration 0035). */
async function ask(db: Sql, question: ReturnType<typeof sql>): Promise<string[]> {
  const { rows } = await outsideCrews(() =>
    db.execute<DoorRow>(sql`SELECT answer FROM ${question} AS answer`),
  );
  return rows.map(({ answer }) => answer);
}

/** The crew whose report an address opens. @param token SHA-256 of what the address holds */
export const crewOfShare = async (db: Sql, token: string): Promise<string | null> =>
  (await ask(db, sql`door_share(${token})`))[0] ?? null;

/** The crew that somebody without an account helps. @param token SHA-256 of what the device holds */
export const crewOfHelper = async (db: Sql, token: string): Promise<string | null> =>
  (await ask(db, sql`door_helper(${token})`))[0] ?? null;

/** The crew whose work by two has a code. */
export const crewOfCode = async (db: Sql, code: string): Promise<string | null> =>
  (await ask(db, sql`door_code(${code})`))[0] ?? null;

/** All crews of the installation, the oldest first. */
export const allCrews = (db: Sql): Promise<string[]> => ask(db, sql`door_crews()`);

/** Crews that have links to be judged again. */
export const crewsToJudge = (db: Sql): Promise<string[]> => ask(db, sql`door_to_judge()`);

/** Whether there is anybody in any crew. */
export async function isAnybodyThere(db: Sql): Promise<boolean> {
  const { rows } = await outsideCrews(() =>
    db.execute<{ there: boolean }>(sql`SELECT door_anybody() AS there`),
  );
  return rows[0]?.there ?? false;
}
