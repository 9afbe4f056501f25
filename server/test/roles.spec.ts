import pg from 'pg';
import { FIRST_CREW } from '../src/db/crew.js';
import { openDatabase } from '../src/db/open.js';
import { enter, jobWithLink, mapTest, MIGRATIONS, startApp, straight, type TestApp } from './harness.js';

describe('the application’s own role', () => {
  let it1: TestApp;
  let client: pg.Client;
  beforeAll(async () => {
    it1 = await startApp();
    client = new pg.Client({ connectionString: it1.database.url });
    await client.connect();
    await client.query(`SET near_spoke.crew = '${FIRST_CREW}'`);
    const lead = await enter(it1, 'lead', 'Ines');
    const { linkId } = await jobWithLink(lead);
    await lead.post(`/api/links/${linkId}/tests`, mapTest(straight)).expect(200);
  });
  afterAll(async () => {
    await client.end();
    await it1.close();
  });

  const refused = async (text: string): Promise<string> =>
    client.query(text).then(
      () => 'done',
      (error: unknown) => (error as { code: string }).code,
    );

  it('is no owner and no superuser, and does its work all the same', async () => {
    expect(it1.database.unrestricted).toBeNull();
    const { rows } = await client.query<{ super: boolean; name: string }>(
      'SELECT rolsuper AS super, rolname AS name FROM pg_roles WHERE rolname = current_user',
    );
    expect(rows[0]?.super).toBeFalse();
    expect(rows[0]?.name).toMatch(/^near_spoke_app_/);
    expect((await client.query('SELECT 1 FROM test_record')).rowCount).toBe(1);
  });

  it('can neither rewrite, empty nor unlock what is only added to', async () => {
    const { rows } = await it1.query(
      `SELECT DISTINCT c.relname AS name FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid WHERE t.tgname = 'append_only'`,
    );
    const tables = rows.map(({ name }: { name: string }) => name);
    expect(tables.length).toBeGreaterThan(10);
    for (const table of tables)
      for (const text of [
        `UPDATE ${table} SET at = now()`,
        `DELETE FROM ${table}`,
        `TRUNCATE ${table} CASCADE`,
        `ALTER TABLE ${table} DISABLE TRIGGER ALL`,
        `DROP TRIGGER append_only ON ${table}`,
        `DROP TABLE ${table} CASCADE`,
      ])
        // 42501: no right; 42703: it has no such column, which is looked at first.
        expect(['42501', '42703'])
          .withContext(text)
          .toContain(await refused(text));
    expect((await client.query('SELECT 1 FROM test_record')).rowCount).toBe(1);
  });

  it('cannot make tables or roles, nor become somebody else', async () => {
    for (const text of [
      'CREATE TABLE mine (id int)',
      'CREATE ROLE another',
      'ALTER ROLE CURRENT_USER SUPERUSER',
      'SET ROLE near_spoke',
      'SET session_replication_role = replica',
      'CREATE SCHEMA mine',
    ])
      expect(await refused(text))
        .withContext(text)
        .toBe('42501');
  });

  it('is the same for every server on one database, and let in again after the owner’s passphrase changed', async () => {
    const [one, two] = await Promise.all([
      openDatabase(it1.url, MIGRATIONS),
      openDatabase(it1.url, MIGRATIONS),
    ]);
    expect(one.url).toBe(two.url);
    expect(one.url).toBe(it1.database.url);
    const name = new URL(one.url).username;
    await it1.query(`ALTER ROLE ${name} PASSWORD 'of another time'`);
    const again = await openDatabase(it1.url, MIGRATIONS);
    expect(again.unrestricted).toBeNull();
    expect((await again.db.execute('SELECT 1 AS one')).rows.length).toBe(1);
    await Promise.all([one.close(), two.close(), again.close()]);
  });
});
