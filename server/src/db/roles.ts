import { createHash, createHmac } from 'node:crypto';
import pg from 'pg';

/** What the application may do, and as whom. */
export interface ApplicationRole {
  /** Address of the database for a role that can neither change tables nor what is only added to. */
  url: string;
  /** Why it works with the rights of the given role instead; null where it has its own. */
  because: string | null;
}

/** The trigger that refuses to rewrite (migrations 0001 and on): tables that have it are only added to. */
const APPEND_ONLY = 'append_only';

/**
 * Gives the application a role of its own, with no more rights than its work needs: it reads and adds everywhere,
 * rewrites only what may be rewritten, and owns nothing, so that no mistake of its own can switch the append-only
 * triggers off. Call it with the schema up to date, by the role that owns it.
 *
 * The role's passphrase follows from the owner's: any number of servers on one database come to the same.
 */
export async function applicationRole(owner: pg.Client, url: string): Promise<ApplicationRole> {
  const address = new URL(url);
  const name = `near_spoke_app_${createHash('sha256').update(address.pathname).digest('hex').slice(0, 8)}`;
  const secret = createHmac('sha256', decodeURIComponent(address.password))
    .update(`${name}, the application's own role`)
    .digest('hex');
  const own = new URL(url);
  own.username = name;
  own.password = secret;
  try {
    const { rows } = await owner.query('SELECT 1 FROM pg_roles WHERE rolname = $1', [name]);
    const [role, passphrase] = [owner.escapeIdentifier(name), owner.escapeLiteral(secret)];
    if (rows.length === 0)
      await owner.query(
        `CREATE ROLE ${role} LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE NOINHERIT PASSWORD ${passphrase}`,
      );
    await grant(owner, role);
    if (!(await lets(own.href))) {
      // The owner's passphrase was changed since.
      await owner.query(`ALTER ROLE ${role} PASSWORD ${passphrase}`);
      if (!(await lets(own.href))) return { url, because: `${name} cannot sign in to the database` };
    }
    return { url: own.href, because: null };
  } catch (error) {
    return { url, because: error instanceof Error ? error.message : String(error) };
  }
}

async function grant(owner: pg.Client, role: string): Promise<void> {
  const { rows } = await owner.query<{ name: string; only: boolean }>(
    `SELECT c.oid::regclass::text AS name,
            EXISTS (SELECT FROM pg_trigger t WHERE t.tgrelid = c.oid AND t.tgname = $1) AS only
     FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
     WHERE n.nspname = 'public' AND c.relkind IN ('r', 'p', 'v')`,
    [APPEND_ONLY],
  );
  const tables = (only: boolean): string[] => rows.filter((row) => row.only === only).map(({ name }) => name);
  await owner.query('BEGIN');
  try {
    await owner.query('REVOKE CREATE ON SCHEMA public FROM PUBLIC');
    await owner.query(`GRANT USAGE ON SCHEMA public TO ${role}`);
    await owner.query(`GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO ${role}`);
    await owner.query(`REVOKE ALL ON ALL TABLES IN SCHEMA public FROM ${role}`);
    const [added, kept] = [tables(true), tables(false)];
    if (added.length > 0) await owner.query(`GRANT SELECT, INSERT ON ${added.join(', ')} TO ${role}`);
    if (kept.length > 0)
      await owner.query(`GRANT SELECT, INSERT, UPDATE, DELETE ON ${kept.join(', ')} TO ${role}`);
    await owner.query('COMMIT');
  } catch (error) {
    await owner.query('ROLLBACK');
    throw error;
  }
}

/** Whether a database lets somebody in. */
async function lets(url: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 5000 });
  client.on('error', () => undefined);
  try {
    await client.connect();
    return true;
  } catch {
    return false;
  } finally {
    await client.end().catch(() => undefined);
  }
}
