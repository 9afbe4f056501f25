import { understandSearch } from '@near-spoke/core/search';
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { FIRST_CREW, inCrew } from '../../server/src/db/crew.js';
import { openDatabase } from '../../server/src/db/open.js';
import { stockKit } from '../../server/src/kit/store.js';
import { findLinks } from '../../server/src/search/routes.js';

/** Fills a database with links of many jobs and asks it what people ask; prints the times as JSON. Arguments: its address, links, runs. */
const [url = '', many = '200000', times = '20'] = process.argv.slice(2);
const [LINKS, RUNS] = [Number(many), Number(times)];
const MIGRATIONS = fileURLToPath(new URL('../../server/src/db/migrations', import.meta.url));
const PEOPLE = ['Ines Varga', 'Tobi Lund', 'Marit Osei', 'Rosa Pell', 'Lena Hart'];
const QUESTIONS = [
  'P7-05',
  'who made 3rd floor',
  'all T568A ends',
  'proved with a mapper only',
  'made by Tobi last month',
  'split pairs',
  'desk',
  'handed over this year',
  'lecture hall desk 12',
  'tested by Rosa wrong',
  'blunt blade',
  'nothing anywhere is called so',
];

const database = await openDatabase(url, MIGRATIONS);
await inCrew(FIRST_CREW, () => stockKit(database.db));
const client = new pg.Client({ connectionString: url });
await client.connect();
await client.query(`SET near_spoke.crew = '${FIRST_CREW}'`);
const ids = PEOPLE.map(() => randomUUID());
for (const [at, name] of PEOPLE.entries())
  await client.query(
    `WITH one AS (INSERT INTO crew_member (id, name, passphrase_hash) VALUES ($1, $2, 'x') RETURNING id)
     INSERT INTO membership (person_id, role) SELECT id, 'technician' FROM one`,
    [ids[at], name],
  );
const IN_A_JOB = 500;
const jobs = Math.ceil(LINKS / IN_A_JOB);
await client.query(
  `INSERT INTO job (id, site, title, hub, scheme, units, updated_by)
   SELECT gen_random_uuid(), 'Site ' || n, 'Building ' || n % 40, 'CR-' || n % 9, (CASE WHEN n % 3 = 0 THEN 'T568A' ELSE 'T568B' END)::scheme_id, 'metric', $1
   FROM generate_series(1, $2) n`,
  [ids[0], jobs],
);
await client.query(
  `INSERT INTO link (id, job_id, label, position, cable_type_id, length_m, updated_by)
   SELECT gen_random_uuid(), j.id, 'P' || 1 + n / 48 || '-' || lpad((n % 48)::text, 2, '0'), n, 'cat6-u', 30, $1
   FROM (SELECT id, row_number() OVER () AS at FROM job) j, generate_series(1, $2) n WHERE (j.at - 1) * $2 + n <= $3`,
  [ids[0], IN_A_JOB, LINKS],
);
// What the server gathers of a link (link_search_refresh), written here for so many as no crew records in an afternoon.
await client.query(
  `INSERT INTO link_search (link_id, job_id, words, stage, scheme, made_by, tested_by, handed_over_by, rests_on, faults, first_at, last_at)
   SELECT l.id, l.job_id,
     lower(l.label || ' ' || j.site || ' ' || j.title || ' ' || j.hub || ' port ' || l.position % 48 || ' '
       || (ARRAY['3rd floor', 'lecture hall', 'cellar', 'loft', 'ticket office'])[1 + l.position % 5] || ' desk ' || l.position % 60
       || ' cat 6 unscreened 8-contact jack, punched' || CASE WHEN l.position % 331 = 0 THEN ' blunt blade' ELSE '' END),
     (ARRAY['handed-over', 'proved', 'failed', 'both-ends', 'one-end', 'planned'])[1 + l.position % 6]::link_stage, j.scheme,
     ARRAY[($1::uuid[])[1 + l.position % 5]], ARRAY[($1::uuid[])[1 + l.position % 4]], ARRAY[($1::uuid[])[1]],
     CASE WHEN l.position % 7 = 0 THEN ARRAY['coded mapper', 'colours read by eye'] ELSE ARRAY['coded mapper'] END,
     CASE WHEN l.position % 97 = 0 THEN ARRAY['split'] WHEN l.position % 41 = 0 THEN ARRAY['open'] ELSE '{}' END,
     now() - random() * interval '700 days', now() - random() * interval '60 days'
   FROM link l JOIN job j ON j.id = l.job_id`,
  [ids],
);
for (const statement of [
  `INSERT INTO place (id, job_id, kind, name) SELECT gen_random_uuid(), id, 'panel', 'P' FROM job`,
  `INSERT INTO place (id, job_id, parent_id, kind, name) SELECT gen_random_uuid(), job_id, id, 'port', '1' FROM place WHERE kind = 'panel'`,
  `INSERT INTO link_end (link_id, side, place_id, connector_type_id)
   SELECT l.id, side::link_side, p.id, 'jack-punched'
   FROM link l JOIN place p ON p.job_id = l.job_id AND p.kind = 'port', unnest(ARRAY['near', 'far']) side`,
  ...['link', 'link_search', 'link_end', 'place'].map((table) => `VACUUM ANALYZE ${table}`),
])
  await client.query(statement);
const people = new Map(PEOPLE.map((name, at) => [name, [ids[at] ?? '']]));
const today = new Date().toISOString().slice(0, 10);
const answers = [];
for (const text of QUESTIONS) {
  const { query } = understandSearch(text, { today, people: PEOPLE });
  const taken: number[] = [];
  let found = 0;
  for (let run = 0; run <= RUNS; run++) {
    const begun = performance.now();
    found = (await inCrew(FIRST_CREW, () => findLinks(database.db, query, people))).count;
    // The first is asked of a cold cache, and told apart.
    if (run > 0) taken.push(performance.now() - begun);
  }
  answers.push({ text, found, taken });
}
process.stdout.write(JSON.stringify({ links: LINKS, answers }));
await client.end();
await database.close();
