import { randomUUID } from 'node:crypto';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { eq } from 'drizzle-orm';
import { readPeople } from '../src/crew/people.js';
import { FIRST_CREW, inCrew } from '../src/db/crew.js';
import { openDatabase } from '../src/db/open.js';
import { cableType, cableWork, crewMember, job as jobTable } from '../src/db/schema.js';
import { emptyDatabase, MIGRATIONS } from './harness.js';

/** The migrations as they were up to one of them. */
function migrationsUntil(last: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'near-spoke-migrations-'));
  cpSync(MIGRATIONS, folder, { recursive: true });
  const file = join(folder, 'meta/_journal.json');
  const journal = JSON.parse(readFileSync(file, 'utf8')) as { entries: { tag: string }[] };
  const until = journal.entries.findIndex(({ tag }) => tag === last);
  writeFileSync(file, JSON.stringify({ ...journal, entries: journal.entries.slice(0, until + 1) }));
  return folder;
}

describe('A database from before there were crews', () => {
  it('is the first crew’s, with its people as what they were', async () => {
    const { url, drop } = await emptyDatabase();
    const before = migrationsUntil('0034_several_processes');
    await (await openDatabase(url, before)).close();
    const raw = new pg.Client({ connectionString: url });
    await raw.connect();
    const [lead, gone, job, link] = [randomUUID(), randomUUID(), randomUUID(), randomUUID()];
    await raw.query(
      `INSERT INTO crew_member (id, name, role, active, version, passphrase_hash) VALUES
         ('${lead}', 'Ada', 'lead', true, 4, 'x'), ('${gone}', 'Bo', 'viewer', false, 2, '-');
       INSERT INTO session (token_hash, crew_id, forgery_token, expires_at) VALUES ('t', '${lead}', 'f', now() + interval '1 day');
       INSERT INTO setting (name, value) VALUES ('hands', '{}');
       INSERT INTO cable_type (id, sheet) VALUES ('c', '{"name": "Cable"}');
       INSERT INTO job (id, site, title, hub, scheme, units, updated_by)
         VALUES ('${job}', 's', 't', 'h', 'T568B', 'metric', '${lead}');
       INSERT INTO link (id, job_id, label, position, cable_type_id, length_m, updated_by)
         VALUES ('${link}', '${job}', 'L', 1, 'c', 9, '${lead}');
       INSERT INTO cable_work (id, link_id, by, turn, kind) VALUES (gen_random_uuid(), '${link}', '${lead}', 1, 'mended')`,
    );
    const after = await openDatabase(url, MIGRATIONS);
    const seen = await inCrew(FIRST_CREW, async () => ({
      people: await readPeople(after.db),
      jobs: await after.db
        .select({ title: jobTable.title, by: crewMember.name })
        .from(jobTable)
        .innerJoin(crewMember, eq(crewMember.id, jobTable.updatedBy)),
      works: (await after.db.select().from(cableWork)).length,
      cables: (await after.db.select().from(cableType)).map(({ id }) => id),
    }));
    const people = seen.people.map(({ name, role, active, version }) => [name, role, active, version]);
    expect(people.sort()).toEqual([
      ['Ada', 'lead', true, 4],
      ['Bo', 'viewer', false, 2],
    ]);
    expect([seen.jobs, seen.works, seen.cables]).toEqual([[{ title: 't', by: 'Ada' }], 1, ['c']]);
    // Who was signed in still is.
    const { rows } = await raw.query(`SELECT name, of_crew FROM door_session('t')`);
    expect(rows).toEqual([{ name: 'Ada', of_crew: FIRST_CREW }]);
    await expectAsync(raw.query('UPDATE cable_work SET turn = 9')).toBeRejectedWithError(/append-only/);
    await after.close();
    await raw.end();
    await drop();
    rmSync(before, { recursive: true });
  });
});

describe('A database from before records had turns', () => {
  it('is numbered in the order that was read from its times, and stays append-only', async () => {
    const { url, drop } = await emptyDatabase();
    const before = migrationsUntil('0011_witnessed_readings');
    await (await openDatabase(url, before)).close();
    const raw = new pg.Client({ connectionString: url });
    await raw.connect();
    const [crew, job, link] = [randomUUID(), randomUUID(), randomUUID()];
    await raw.query(
      `INSERT INTO crew_member (id, name, role, passphrase_hash) VALUES ('${crew}', 'Ada', 'lead', '');
       INSERT INTO cable_type (id, sheet) VALUES ('c', '{}');
       INSERT INTO connector_type (id, sheet) VALUES ('j', '{}');
       INSERT INTO job (id, site, title, hub, scheme, units, updated_by)
         VALUES ('${job}', 's', 't', 'h', 'T568B', 'metric', '${crew}');
       INSERT INTO link (id, job_id, label, position, cable_type_id, length_m, updated_by)
         VALUES ('${link}', '${job}', 'L', 1, 'c', 9, '${crew}')`,
    );
    const kept = async (table: string, minute: number, columns: string, values: string): Promise<string> => {
      const id = randomUUID();
      await raw.query(
        `INSERT INTO ${table} (id, link_id, by, at, ${columns})
           VALUES ('${id}', '${link}', '${crew}', '2026-11-02T09:0${minute}:00Z', ${values})`,
      );
      return id;
    };
    const attempt = (minute: number, side: string): Promise<string> =>
      kept(
        'termination_attempt',
        minute,
        'side, connector_type_id, outcome, connectors_spoiled',
        `'${side}', 'j', 'good', 0`,
      );
    const near = await attempt(1, 'near');
    const far = await attempt(2, 'far');
    const test = await kept(
      'test_record',
      4,
      'source, instrument_name, reading, diagnosis',
      `'keyed', 'm', '{}', '{}'`,
    );
    const work = await kept('cable_work', 3, 'kind', `'mended'`);
    const handover = await kept('handover', 5, 'test_id', `'${test}'`);
    await (await openDatabase(url, MIGRATIONS)).close();
    const turns = await raw.query(
      ['termination_attempt', 'cable_work', 'test_record', 'handover']
        .map((table) => `SELECT id, turn FROM ${table}`)
        .join(' UNION ALL '),
    );
    const byTurn = [...turns.rows].sort((a, b) => a.turn - b.turn);
    expect(byTurn.map(({ id }) => id)).toEqual([near, far, work, test, handover]);
    expect(byTurn.map(({ turn }) => turn)).toEqual([1, 2, 3, 4, 5]);
    expect((await raw.query('SELECT turns, judged FROM link')).rows).toEqual([{ turns: 5, judged: true }]);
    await expectAsync(raw.query('UPDATE test_record SET turn = 9')).toBeRejectedWithError(/append-only/);
    await raw.end();
    await drop();
    rmSync(before, { recursive: true });
  });
});
