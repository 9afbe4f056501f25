import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as schema from './schema.js';

export type Database = NodePgDatabase<typeof schema>;
/** A database or a transaction on it. */
export type Sql = Database | Parameters<Parameters<Database['transaction']>[0]>[0];

export interface OpenDatabase {
  db: Database;
  close(): Promise<void>;
}

/** Opens a pool and brings the schema up to date. `migrationsFolder` holds the generated SQL. */
export async function openDatabase(url: string, migrationsFolder: string): Promise<OpenDatabase> {
  const pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 5000 });
  // A connection lost while idle is replaced on next use; health says so meanwhile.
  pool.on('error', () => undefined);
  const db = drizzle(pool, { schema });
  await migrate(db, { migrationsFolder });
  return { db, close: () => pool.end() };
}
