import pg from 'pg';
import { NamedStatements } from '../src/db/statements.js';
import { emptyDatabase } from './harness.js';

describe('statements that come again and again', () => {
  it('are named from the third time on, where they can be planned beforehand', () => {
    const statements = new NamedStatements();
    const asked = (text: string): (string | undefined)[] => [1, 2, 3, 4].map(() => statements.nameOf(text));
    const [, , third, fourth] = asked('select * from link where id = $1');
    expect(third).toBeDefined();
    expect(fourth).toBe(third);
    expect(asked('select * from job')[3]).not.toBe(third);
    for (const text of [
      'begin',
      'set local x = 1',
      'select 1; select 2',
      'LOCK TABLE crew_member',
      'select * from link_search where words like $1',
      'select * from link_search where made_by && $1',
    ])
      expect(asked(text)).withContext(text).toEqual([undefined, undefined, undefined, undefined]);
  });

  it('are named up to a number, so that their plans do not fill the memory', () => {
    const statements = new NamedStatements();
    const names = new Set<string | undefined>();
    for (let n = 0; n < 2000; n++)
      for (let times = 0; times < 3; times++) names.add(statements.nameOf(`select ${n}`));
    names.delete(undefined);
    expect(names.size).toBe(250);
  });

  it('answer the same by name, on every connection, and after their table was changed', async () => {
    const { url, drop } = await emptyDatabase();
    const pool = new pg.Pool({ connectionString: url, max: 2 });
    const statements = new NamedStatements();
    pool.on('error', () => undefined);
    pool.on('connect', (client) => {
      // What drops the database may be quicker than the connection’s own end.
      client.on('error', () => undefined);
      statements.of(client);
    });
    try {
      await pool.query('CREATE TABLE drum (id int PRIMARY KEY, left_m int)');
      await pool.query('INSERT INTO drum SELECT n, 305 - n FROM generate_series(1, 50) AS n');
      const left = async (id: number): Promise<unknown> => {
        const { rows } = await pool.query<{ left_m: number }>({
          text: 'SELECT left_m FROM drum WHERE id = $1',
          values: [id],
        });
        return rows[0]?.left_m;
      };
      for (let round = 0; round < 20; round++)
        expect(await Promise.all([1, 2, 3, 4].map((n) => left(n)))).toEqual([304, 303, 302, 301]);
      const { rows } = await pool.query<{ count: number }>(
        'SELECT count(*)::int AS count FROM pg_prepared_statements WHERE statement LIKE $1',
        ['%drum%'],
      );
      expect(rows[0]?.count).toBe(1);
      await pool.query('ALTER TABLE drum ADD COLUMN where_is text');
      expect(await left(7)).toBe(298);
      // One that is refused leaves the connection as good as it was.
      for (let round = 0; round < 4; round++)
        await expectAsync(
          pool.query({ text: 'SELECT 1 / left_m FROM nothing_such', values: [] }),
        ).toBeRejected();
      expect(await left(8)).toBe(297);
    } finally {
      await pool.end();
      await drop();
    }
  });
});
