import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { crewToTell, tellCrew } from './crew.js';
import { applicationRole, type ApplicationRole } from './roles.js';
import * as schema from './schema.js';
import { NamedStatements } from './statements.js';

export type Database = NodePgDatabase<typeof schema> & { $client: pg.Pool };
/** A database or a transaction on it. */
export type Sql = Database | Parameters<Parameters<Database['transaction']>[0]>[0];

export interface OpenDatabase {
  db: Database;
  /** A few connections that no work can take away: for who is signed in, and whether the database answers. */
  quick: Database;
  /** Where it works, with the rights it works with. */
  url: string;
  /** Why it works with more rights than it needs; null where it does not. */
  unrestricted: string | null;
  /** How its connections are used just now. */
  figures(): PoolFigures;
  close(): Promise<void>;
}

export interface PoolFigures {
  total: number;
  idle: number;
  /** Who waits for one. */
  waiting: number;
}

/** Any numbers that only this application uses: whoever holds one brings the schema up to date, or puts in the first rows. */
const MIGRATION_LOCK = 4_870_013;
const FURNISHING_LOCK = 4_870_014;

/** How long one statement, one wait for a lock and one pause inside a transaction may last. */
const LIMITS = { statement: 30_000, lock: 10_000, idleInTransaction: 15_000 };

const QUICK_CONNECTIONS = 4;

/**
 * A pool whose connections work for the crew that is worked for where they are taken (`inCrew`), and that takes back a
 * connection as soon as it is lost, whoever has it: a transaction whose BEGIN fails is never given back by drizzle-orm, so
 * that each would cost the pool one place for good.
 */
class CrewPool extends pg.Pool {
  override connect(): Promise<pg.PoolClient>;
  override connect(
    callback: (
      error: Error | undefined,
      client: pg.PoolClient | undefined,
      done: (release?: Error | boolean) => void,
    ) => void,
  ): void;
  override connect(callback?: Parameters<pg.Pool['connect']>[0]): Promise<pg.PoolClient> | void {
    const taken = this.take(crewToTell());
    if (!callback) return taken;
    taken.then(
      (client) => callback(undefined, client, (error) => client.release(error)),
      (error: unknown) => callback(error as Error, undefined, () => undefined),
    );
  }

  private async take(crew: string): Promise<pg.PoolClient> {
    const client = await super.connect();
    const release = client.release.bind(client);
    let out = true;
    const giveBack = (error?: Error | boolean): void => {
      if (!out) return;
      out = false;
      client.off('end', lost);
      release(error);
    };
    const lost = (): void => giveBack(true);
    client.once('end', lost);
    client.release = giveBack;
    try {
      await tellCrew(client, crew);
    } catch (error) {
      // Nobody is to work for the wrong crew.
      giveBack(true);
      throw error;
    }
    return client;
  }
}

function openPool(url: string, most: number): pg.Pool {
  const pool = new CrewPool({
    connectionString: url,
    max: most,
    connectionTimeoutMillis: 5000,
    statement_timeout: LIMITS.statement,
    lock_timeout: LIMITS.lock,
    idle_in_transaction_session_timeout: LIMITS.idleInTransaction,
  });
  // A connection lost while idle is replaced on next use; one lost at work fails that request alone.
  pool.on('error', () => undefined);
  const statements = new NamedStatements();
  pool.on('connect', (client) => {
    client.on('error', () => undefined);
    statements.of(client);
  });
  return pool;
}

/**
 * Does what only one process may do at a time: of two that start together the second waits until the first is done with it.
 *
 * @param lock which of such things it is
 */
async function oneAtATime<T>(url: string, lock: number, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 5000 });
  client.on('error', () => undefined);
  await client.connect();
  try {
    await client.query('SELECT pg_advisory_lock($1)', [lock]);
    return await work(client);
  } finally {
    // The lock ends with its connection.
    await client.end();
  }
}

/** Brings the schema up to date. Answers the role that the application works as. */
const bringUpToDate = (url: string, migrationsFolder: string): Promise<ApplicationRole> =>
  oneAtATime(url, MIGRATION_LOCK, async (client) => {
    await migrate(drizzle(client, { schema }), { migrationsFolder });
    return applicationRole(client, url);
  });

/** Puts into a database what it begins with, whichever of several processes comes first. */
export const furnish = (url: string, work: () => Promise<void>): Promise<void> =>
  oneAtATime(url, FURNISHING_LOCK, work);

const readers = new Map<string, Database>();

/** One connection of a thread of its own, for reading; it is closed when it has been idle for a while. */
export function openReader(url: string): Database {
  const known = readers.get(url);
  if (known) return known;
  const reader = drizzle(openPool(url, 1), { schema });
  readers.set(url, reader);
  return reader;
}

/** Brings the schema up to date as its owner, and opens pools as the application's own role. `migrationsFolder` holds the generated SQL. */
export async function openDatabase(url: string, migrationsFolder: string): Promise<OpenDatabase> {
  const role = await bringUpToDate(url, migrationsFolder);
  const [pool, few] = [openPool(role.url, 10), openPool(role.url, QUICK_CONNECTIONS)];
  return {
    url: role.url,
    unrestricted: role.because,
    db: drizzle(pool, { schema }),
    quick: drizzle(few, { schema }),
    figures: () => ({ total: pool.totalCount, idle: pool.idleCount, waiting: pool.waitingCount }),
    close: async () => {
      await Promise.all([pool.end(), few.end()]);
    },
  };
}
