import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { historyFile, jobFile, type HistoryFile } from '@near-spoke/contracts';
import { eq } from 'drizzle-orm';
import { hashPassphrase } from '../access/passphrase.js';
import { addPerson } from '../crew/people.js';
import type { Database, Sql } from '../db/open.js';
import { isAnybodyThere } from '../db/crew.js';
import { crew, job, setting } from '../db/schema.js';
import type { InstrumentClient } from '../instruments/client.js';
import { insertLinks } from '../links/plan.js';
import { recordNote } from '../links/notes.js';
import { recordTest } from '../links/readings.js';
import { recordHandover, recordTermination } from '../links/record.js';
import { readLink } from '../links/store.js';
import { demoAdapters, keepDemoAdapters } from './adapters.js';
import { demoReels, enterDemoReels } from './reels.js';
import { demoTraces, takeDemoTrace } from './traces.js';

const JOB_FILES = ['pellan-quay.job.json', 'osk-hill.job.json'];
const json = (folder: string, name: string): unknown => JSON.parse(readFileSync(join(folder, name), 'utf8'));

/**
 * Loads the demo into the first crew of an empty database, in one transaction: crew, jobs, and the history replayed
 * through the same functions that record live work. Every reading is taken from the instrument
 * stand-in; none is written down beforehand.
 */
export async function loadDemo(db: Database, instruments: InstrumentClient, folder: string): Promise<void> {
  if (await isAnybodyThere(db)) return;
  const history = historyFile.parse(json(folder, 'history.json'));
  const { traces } = demoTraces.parse(json(folder, 'traces.json'));
  const adapters = demoAdapters.parse(json(folder, 'adapters.json'));
  const reels = demoReels.parse(json(folder, 'reels.json'));
  const jobs = JOB_FILES.map((name) => jobFile.parse(json(folder, name)));
  const hashes = await Promise.all(history.crew.map((person) => hashPassphrase(person.passphrase)));
  await db.transaction(async (tx) => {
    await tx.insert(setting).values({ name: 'demo', value: 'true' });
    const start = Date.parse('2026-10-01T08:00:00Z');
    await tx.update(crew).set({ name: history.crewName });
    for (const [i, { id, name, role }] of history.crew.entries())
      await addPerson(tx, {
        id,
        name,
        role,
        passphraseHash: hashes[i] as string,
        createdAt: new Date(start + i),
      });
    const lead = history.crew[0]?.id as string;
    for (const [index, file] of jobs.entries()) {
      const at = new Date(start + index);
      await tx.insert(job).values({ ...file.job, createdAt: at, updatedAt: at, updatedBy: lead });
      await insertLinks(tx, file.job.id, file.links, lead);
    }
    const names = new Map(history.crew.map(({ id, name }) => [id, name]));
    for (const event of history.events)
      await replay(tx, instruments, event, { folder, name: names.get(event.by) ?? '' });
    for (const trace of traces) await takeDemoTrace(tx, trace);
    await enterDemoReels(tx, reels);
    await keepDemoAdapters(tx, adapters, (name) => json(folder, name));
  });
}

/** Whether the demo was loaded into this database. */
export const isDemo = async (db: Database): Promise<boolean> =>
  (await db.select().from(setting).where(eq(setting.name, 'demo'))).length > 0;

type DemoEvent = HistoryFile['events'][number];

async function replay(
  tx: Sql,
  instruments: InstrumentClient,
  event: DemoEvent,
  { folder, name }: { folder: string; name: string },
): Promise<void> {
  const by = { crewId: event.by, name, at: new Date(event.at) };
  if (event.what === 'handed-over') return recordHandover(tx, event.linkId, event.id, by);
  if (event.what === 'noted') {
    const { id, end, words, photo } = event;
    const jpeg = photo ? readFileSync(join(folder, 'photos', photo)).toString('base64') : null;
    return recordNote(tx, event.linkId, { id, end, words, jpeg }, by);
  }
  if (event.what === 'terminated') {
    const link = await readLink(tx, event.linkId);
    const connectorTypeId = link[event.side].connectorId;
    const attempt = {
      id: event.id,
      side: event.side,
      connectorTypeId,
      outcome: 'good' as const,
      connectorsSpoiled: event.spoiled,
      reason: '',
      lot: '',
      stopgap: '',
      corrects: null,
    };
    return recordTermination(tx, event.linkId, attempt, by);
  }
  const { instrumentName, simulated, reading } = await instruments.read(
    event.instrument,
    event.end,
    event.linkId,
  );
  const test = {
    id: event.id,
    instrumentName,
    reading,
    corrects: null,
    misread: '',
    note: '',
    unplugged: true as const,
  };
  const source = { source: 'instrument' as const, simulated };
  await recordTest(tx, { linkId: event.linkId, test, source }, by);
}
