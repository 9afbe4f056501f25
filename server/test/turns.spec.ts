import { randomUUID } from 'node:crypto';
import { seededRandom } from '@near-spoke/core';
import { newTermination, newTest, type Link } from '@near-spoke/contracts';
import { FIRST_CREW, inCrew } from '../src/db/crew.js';
import { openDatabase } from '../src/db/open.js';
import { recordTest } from '../src/links/readings.js';
import { recordHandover, recordTermination } from '../src/links/record.js';
import { pino } from 'pino';
import { judgeWaiting } from '../src/links/standing.js';
import {
  enter,
  jobWithLink,
  mapTest,
  MIGRATIONS,
  newJob,
  newLink,
  startApp,
  straight,
  termination,
  type Caller,
  type TestApp,
} from './harness.js';

const HOUR_MS = 3_600_000;
/** Links that two people work on at once, and how often each does: `WALKS`, `STEPS` and `WALK_SEED` ask for more than a test should. */
const WALKS = Number(process.env['WALKS'] ?? 12);
const STEPS = Number(process.env['STEPS'] ?? 8);
const WALK_MS = 5_000;
const T568B = { 1: 'WH-OG', 2: 'OG', 3: 'WH-GN', 4: 'BU', 5: 'WH-BU', 6: 'GN', 7: 'WH-BN', 8: 'BN' };

describe('What is true of a link', () => {
  let app: TestApp;
  let lead: Caller;
  let tech: Caller;
  beforeAll(async () => {
    app = await startApp();
    lead = await enter(app, 'lead', 'Lead');
    tech = await enter(app, 'technician', 'Tech');
  });
  afterAll(() => app.close());

  const exchanged = { ...straight, 1: ['2'], 2: ['1'] };
  const proved = async (change: object = {}): Promise<{ jobId: string; linkId: string }> => {
    const made = await jobWithLink(lead, change);
    const at = `/api/links/${made.linkId}`;
    await tech.post(`${at}/terminations`, termination('near')).expect(200);
    await tech.post(`${at}/terminations`, termination('far')).expect(200);
    await tech.post(`${at}/tests`, mapTest()).expect(200);
    return made;
  };

  /** Readings since the last work prove a link where there are some, and none shows a fault. */
  const isProof = (sinceWork: readonly boolean[]): boolean =>
    sinceWork.length > 0 && sinceWork.every(Boolean);

  it(
    'stays what was recorded last, two people at once with clocks an hour apart',
    async () => {
      const random = seededRandom(Number(process.env['WALK_SEED'] ?? 20_261_129));
      const seen = { proved: 0, handedOver: 0 };
      const { db } = app.database;
      for (let walk = 0; walk < WALKS; walk++) {
        const { linkId } = await jobWithLink(lead, { label: `W-${walk}` });
        const person = async (crewId: string, skewMs: number): Promise<void> => {
          for (let step = 0; step < STEPS; step++) {
            const by = { crewId, name: 'Tech', at: new Date(Date.now() + skewMs) };
            const draw = random();
            await db
              .transaction(async (tx) => {
                if (draw < 0.4)
                  await recordTermination(
                    tx,
                    linkId,
                    newTermination.parse(termination(random() < 0.5 ? 'near' : 'far')),
                    by,
                  );
                else if (draw < 0.8) {
                  const { takenId: _, ...test } = newTest.parse(
                    mapTest(random() < 0.8 ? straight : exchanged),
                  );
                  const source = { source: 'keyed' as const, simulated: false };
                  await recordTest(tx, { linkId, test, source }, by);
                } else await recordHandover(tx, linkId, randomUUID(), by);
              })
              .catch((error: unknown) => {
                // A link that is not proved at that moment is not handed over: that is right.
                if (!(error instanceof Error && error.message.includes('cannot be handed over'))) throw error;
              });
          }
        };
        const skew = (): number => (random() - 0.5) * 2 * HOUR_MS;
        await inCrew(FIRST_CREW, () => Promise.all([person(lead.id, skew()), person(tech.id, skew())]));
        const { body } = await lead.get(`/api/links/${linkId}`).expect(200);
        const turns: { turn: number; what: string; passes?: boolean }[] = [
          ...body.terminations.map(({ turn }: { turn: number }) => ({ turn, what: 'work' })),
          ...body.tests.map(({ turn, reading }: { turn: number; reading: { arrivals: object } }) => ({
            turn,
            what: 'test',
            passes: JSON.stringify(reading.arrivals) === JSON.stringify(straight),
          })),
          ...body.handovers.map(({ turn }: { turn: number }) => ({ turn, what: 'handover' })),
        ].sort((a, b) => a.turn - b.turn);
        expect(new Set(turns.map(({ turn }) => turn)).size).toBe(turns.length);
        let sinceWork: boolean[] = [];
        for (const { what, passes } of turns) {
          if (what === 'work') sinceWork = [];
          else if (what === 'test') sinceWork.push(passes === true);
          else
            expect(isProof(sinceWork))
              .withContext(`handed over in walk ${walk}: ${JSON.stringify(turns)}`)
              .toBeTrue();
        }
        const shown = ['proved', 'handed-over'].includes(body.link.stage as string);
        if (shown)
          expect(isProof(sinceWork))
            .withContext(`proved in walk ${walk}: ${JSON.stringify(turns)}`)
            .toBeTrue();
        seen.proved += shown ? 1 : 0;
        seen.handedOver += body.handovers.length;
      }
      // The walks came to where something could have gone wrong.
      expect(seen.proved).toBeGreaterThan(0);
      expect(seen.handedOver).toBeGreaterThan(0);
    },
    WALKS * WALK_MS + 300_000,
  );

  it('is judged again when the job’s scheme changes, and what fails by it is not handed over', async () => {
    const { jobId, linkId } = await proved();
    for (const end of ['near', 'far'])
      await tech
        .post(`/api/links/${linkId}/tests`, {
          ...mapTest(),
          reading: { instrument: 'eye', end, colours: T568B },
        })
        .expect(200);
    expect((await lead.get(`/api/links/${linkId}`)).body.link.stage).toBe('proved');
    await lead.patch(`/api/jobs/${jobId}`, { version: 1, scheme: 'T568A' }).expect(200);
    const [listed] = (await lead.get(`/api/jobs/${jobId}/links`)).body;
    expect(listed.stage).toBe('failed');
    const refused = await lead.post(`/api/links/${linkId}/handover`, { id: randomUUID() }).expect(422);
    expect(refused.body.detail).toContain('not as the scheme');
    const log = (await lead.get(`/api/jobs/${jobId}/activity`)).body as { what: string }[];
    expect(log[0]?.what).toBe('changed the job’s scheme from T568B to T568A');
  });

  it('is taken back at once where many links are to be judged again, and given when they are', async () => {
    const job = newJob();
    await lead.post('/api/jobs', job).expect(200);
    const links = Array.from({ length: 14 }, (_, i) => newLink({ label: `M-${i}` }));
    await lead.post(`/api/jobs/${job.id}/links`, { links }).expect(200);
    for (const { id } of links) {
      await tech.post(`/api/links/${id}/terminations`, termination('near')).expect(200);
      await tech.post(`/api/links/${id}/terminations`, termination('far')).expect(200);
      await tech.post(`/api/links/${id}/tests`, mapTest()).expect(200);
    }
    // One of them holds what no judge can read.
    const [first] = links;
    const names = 'by, at, turn, source, simulated, instrument_name, diagnosis';
    await app.query(
      `INSERT INTO test_record (id, link_id, reading, ${names})
       SELECT gen_random_uuid(), link_id, '{"instrument": "nothing"}', ${names} FROM test_record WHERE link_id = $1`,
      [first?.id],
    );
    await lead.patch(`/api/jobs/${job.id}`, { version: 1, scheme: 'T568A' }).expect(200);
    // The server judges them as well, and another process beside us: the last may still be in their hands.
    const waiting = async (): Promise<number> =>
      (await app.query('SELECT count(*)::int AS n FROM link WHERE NOT judged')).rows[0].n as number;
    const other = await openDatabase(app.url, MIGRATIONS);
    const log = pino({ level: 'silent' });
    while ((await waiting()) > 1)
      await Promise.all([app.database, other].map(({ db }) => judgeWaiting({ db, log })));
    await other.close();
    const after = (await lead.get(`/api/jobs/${job.id}/links`)).body as Link[];
    const by = (stage: string): string[] =>
      after.filter((one) => one.stage === stage).map(({ label }) => label);
    expect(by('proved').length).toBe(13);
    // It holds up no other, and is not taken for proved.
    expect(after.find(({ label }) => label === 'M-0')?.standing).toBe('to be judged again');
  });

  it('counts a corrected reading nowhere: not as the first, not as the proof', async () => {
    const { jobId, linkId } = await jobWithLink(lead);
    const at = `/api/links/${linkId}`;
    await tech.post(`${at}/terminations`, termination('near')).expect(200);
    const slip = termination('far');
    await tech.post(`${at}/terminations`, slip).expect(200);
    await tech.post(`${at}/terminations`, termination('far', { corrects: slip.id })).expect(200);
    const wrong = mapTest(exchanged);
    await tech.post(`${at}/tests`, wrong).expect(200);
    const right = mapTest(straight, { corrects: wrong.id });
    await tech.post(`${at}/tests`, right).expect(200);
    const { job } = (await tech.get(`/api/jobs/${jobId}/figures`)).body;
    expect([job.firstPass.count, job.firstPass.of]).toEqual([1, 1]);
    expect(job.byConnector.map(({ of }: { of: number }) => of)).toEqual([1, 1]);
    const look = { instrument: 'eye', end: 'far', colours: T568B };
    await tech.post(`${at}/tests`, { ...mapTest(), reading: look }).expect(200);
    const { body } = await lead.post(`${at}/handover`, { id: randomUUID() }).expect(200);
    expect(body.handovers[0].testId).toBe(right.id);
    const sheet = (await lead.get(`/api/jobs/${jobId}/handover.csv`)).text;
    expect(sheet).toContain('coded mapper, keyed in');
  });
});
