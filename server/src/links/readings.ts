import type { Link, LinkDetail, TestRecord, newTest } from '@near-spoke/contracts';
import { pathInWords } from '@near-spoke/contracts';
import {
  checkReading,
  isMapReading,
  standingWith,
  takenWith,
  type Diagnosis,
  type FoundFault,
  type Reading,
  type Standing,
} from '@near-spoke/core';
import { inArray } from 'drizzle-orm';
import type * as z from 'zod';
import type { Sql } from '../db/open.js';
import { activity, faultFound, link, testRecord } from '../db/schema.js';
import type { Source } from '../instruments/taken.js';
import { judge } from '../judge/judge.js';
import { badField, idTaken, refuseOther, Refusal } from '../problems.js';
import {
  alreadyRecorded,
  badCorrection,
  lockLinks,
  onDevice,
  readDetail,
  refuseOver,
  type LinkRow,
  type Recorder,
} from './record.js';
import { groundsOfLinks, keepStandings, type Grounds } from './standing.js';
import { asShown, readLinks, readRecords, type LinkRecord } from './store.js';

type Kept = Omit<z.output<typeof newTest>, 'takenId'>;

/** A reading that is to be kept of a link. */
export interface ToKeep {
  linkId: string;
  test: Kept;
  /** Where it came from: the server alone says so. Asked only of a reading that is not kept yet. */
  source: Source | (() => Promise<Source>);
}

/** Of several readings, the one that cannot be kept, and why. */
export class RefusedReading extends Error {
  constructor(
    readonly at: number,
    readonly refusal: Refusal,
  ) {
    super(refusal.message);
  }
}

/** Whether a reading of this id, and with this content, is recorded of this link already. */
export const isRecorded = (
  tx: Sql,
  linkId: string,
  sent: { id: string } & Record<string, unknown>,
): Promise<boolean> => alreadyRecorded(tx, testRecord, linkId, sent);

/** Keeps a reading with its verdict, and answers the link's whole record with it in it. */
export async function recordTest(tx: Sql, one: ToKeep, by: Recorder & { name: string }): Promise<LinkDetail> {
  try {
    const details = await recordTests(tx, [one], by);
    return details.get(one.linkId) ?? (await readDetail(tx, one.linkId));
  } catch (error) {
    throw error instanceof RefusedReading ? error.refusal : error;
  }
}

/** So many links are judged side by side: as many as keep the threads busy. */
const AT_ONCE = 16;
/** So many readings go into the database by one statement. */
const BY_ONE = 200;

/** A link that readings are kept of, as it was found under its lock. */
interface Found {
  row: LinkRow;
  planned: Link;
  record: LinkRecord;
  grounds: Grounds;
}

/** A reading that is judged and not kept yet: its place among those that were sent, and its row. */
interface Judged {
  at: number;
  row: typeof testRecord.$inferInsert & { diagnosis: Diagnosis; reading: Reading };
  found: readonly FoundFault[];
}

/**
 * Keeps readings with their verdicts, all of them or none: those of one link one after another, links side by side.
 *
 * @returns the whole record of each link that something was added to
 * @throws RefusedReading where one of them cannot be kept
 */
export async function recordTests(
  tx: Sql,
  wanted: readonly ToKeep[],
  by: Recorder & { name: string },
): Promise<Map<string, LinkDetail>> {
  const ids = [...new Set(wanted.map(({ linkId }) => linkId))];
  const rows = await lockLinks(tx, ids);
  const planned = new Map((await readLinks(tx, { linkIds: ids })).map((one) => [one.id, one]));
  const records = await readRecords(tx, ids);
  const grounds = await groundsOfLinks(tx, ids);
  const labels = await labelsOfRemotes(tx, rows, wanted);
  const found = rows.map((row) => ({
    row,
    planned: planned.get(row.id) as Link,
    record: records.get(row.id) as LinkRecord,
    grounds: grounds.get(row.id) as Grounds,
  }));
  const at = by.at ?? new Date();
  const judged: Judged[][] = [];
  for (let from = 0; from < found.length; from += AT_ONCE)
    judged.push(
      ...(await Promise.all(
        found.slice(from, from + AT_ONCE).map((one) => judgeInTurn(one, wanted, { ...by, at }, labels)),
      )),
    );
  const kept = await keepJudged(tx, judged.flat(), by.name);
  await keepFound(tx, planned, judged.flat(), at);
  await logTests(tx, found, judged, at);
  const added = found.flatMap((one, n) => {
    const of = judged[n] as Judged[];
    const last = of[of.length - 1];
    if (!last) return [];
    const tests = [...one.record.tests, ...of.map(({ row }) => kept.get(row.id as string) as TestRecord)];
    const record = { ...one.record, tests };
    return [{ ...one, record, last, standing: standingWith(record, last.row.diagnosis) }];
  });
  await keepStandings(
    tx,
    added.map(({ row, standing, grounds: { practice }, last }) => ({
      linkId: row.id,
      standing,
      practice,
      turns: last.row.turn,
    })),
  );
  return new Map(
    added.map(({ row, planned: plan, grounds: { scheme, units, practice }, record, last, standing }) => [
      row.id,
      {
        link: { ...plan, ...shownOf(plan, standing) },
        scheme,
        units,
        ...record,
        diagnosis: last.row.diagnosis,
        practice,
      },
    ]),
  );
}

/** How a link stands, where its plan says it. */
const shownOf = (
  { near, far }: Link,
  { stage, words, nextStep, nearDone, farDone }: Standing,
): Partial<Link> => ({
  stage,
  standing: words,
  nextStep,
  near: { ...near, done: nearDone },
  far: { ...far, done: farDone },
});

/** Judges the readings of one link, each beside those before it. */
async function judgeInTurn(
  { row, planned, record, grounds }: Found,
  wanted: readonly ToKeep[],
  by: Recorder & { name: string; at: Date },
  labels: ReadonlyMap<string, ReadonlySet<string>>,
): Promise<Judged[]> {
  const { expected, practice, closed } = grounds;
  const judged: Judged[] = [];
  let history = record;
  for (const [at, { linkId, test, source }] of wanted.entries()) {
    if (linkId !== row.id) continue;
    await inReading(at, async () => {
      const before = history.tests.find(({ id }) => id === test.id);
      if (before) {
        const { deviceAt: _, ...content } = sentOf(test);
        return refuseOther({ ...before }, content as { id: string });
      }
      if (test.corrects !== null && !history.tests.some(({ id }) => id === test.corrects))
        throw badCorrection();
      refuseImpossible(checkReading(expected, test.reading));
      refuseUnknownRemote(test.reading, labels.get(row.jobId));
      refuseOver(row.label, planned.out !== undefined, closed);
      const from = typeof source === 'function' ? await source() : source;
      const turn = row.turns + judged.length + 1;
      const mine = { ...sentOf(test), ...from, turn } as Omit<TestRecord, 'at' | 'by' | 'diagnosis'>;
      const now = { ...mine, at: by.at.toISOString(), by: by.name };
      const { diagnosis, found } = await judge({
        expected,
        record: { ...history, tests: [...history.tests.map(withoutVerdict), now] },
        practice,
        wantsFound: true,
      });
      if (!diagnosis) throw new Error('a reading gave no verdict');
      const kept = { ...mine, ...onDevice(test), linkId, by: by.crewId, at: by.at, diagnosis };
      judged.push({ at, row: kept, found });
      history = { ...history, tests: [...history.tests, { ...now, diagnosis }] };
    });
  }
  return judged;
}

/** A verdict of before is long, and no verdict rests on it. */
function withoutVerdict({ diagnosis: _, ...test }: TestRecord): Omit<TestRecord, 'diagnosis'> {
  return test;
}

async function inReading(at: number, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    throw error instanceof Refusal ? new RefusedReading(at, error) : error;
  }
}

/** What a person sent of a reading: where it came from is for the server to say. */
function sentOf({ unplugged: _, ...sent }: Kept): { id: string } & Record<string, unknown> {
  return sent;
}

/** Inserts what was judged, and has each as people are shown it, by its id. */
async function keepJudged(tx: Sql, judged: readonly Judged[], who: string): Promise<Map<string, TestRecord>> {
  const kept = new Map<string, TestRecord>();
  const links = new Map<string, string>();
  // In the order in which they were sent.
  const sent = [...judged].sort((a, b) => a.at - b.at);
  for (let from = 0; from < sent.length; from += BY_ONE) {
    const rows = await tx
      .insert(testRecord)
      .values(sent.slice(from, from + BY_ONE).map(({ row }) => row))
      .onConflictDoNothing({ target: testRecord.id })
      .returning();
    for (const row of rows) {
      kept.set(row.id, asShown(row, who) as unknown as TestRecord);
      links.set(row.id, row.linkId);
    }
  }
  // Of its own link none was kept before, that was seen when it was judged: the id is another link's, here or from before.
  const other = sent.find(({ row }) => links.get(row.id as string) !== row.linkId);
  if (other) throw new RefusedReading(other.at, idTaken());
  return kept;
}

/** Keeps what was wrong and is now proved gone, once: the crew's own record of its slips. */
async function keepFound(
  tx: Sql,
  planned: ReadonlyMap<string, Link>,
  judged: readonly Judged[],
  at: Date,
): Promise<void> {
  const found = judged.flatMap(({ row, found: some }) => some.map((fault) => ({ row, fault })));
  if (found.length === 0) return;
  const known = await tx
    .select({ linkId: faultFound.linkId, faultId: faultFound.faultId, words: faultFound.words })
    .from(faultFound)
    .where(inArray(faultFound.linkId, [...new Set(found.map(({ row }) => row.linkId))]));
  for (const { row, fault } of found) {
    const { id: faultId, slip, kind, place, words } = fault;
    // What was found before faults had ids is known by its words.
    const before = known.some(
      (one) =>
        one.linkId === row.linkId && (one.faultId === '' ? one.words === words : one.faultId === faultId),
    );
    if (before) continue;
    const connectorTypeId = place === 'cable' ? null : (planned.get(row.linkId)?.[place].connectorId ?? null);
    const ids = { linkId: row.linkId, testId: row.id as string };
    await tx.insert(faultFound).values({ ...ids, at, slip, kind, place, faultId, words, connectorTypeId });
    known.push({ linkId: row.linkId, faultId, words });
  }
}

async function logTests(
  tx: Sql,
  found: readonly Found[],
  judged: readonly Judged[][],
  at: Date,
): Promise<void> {
  const lines = judged.flatMap((of, n) =>
    of.map(({ at: place, row }) => ({
      place,
      line: {
        by: row.by,
        at,
        jobId: (found[n] as Found).row.jobId,
        linkId: row.linkId,
        what: `tested with ${takenWith(row.reading)}${row.simulated ? ', simulated' : ''}: ${row.diagnosis.headline}`,
      },
    })),
  );
  lines.sort((a, b) => a.place - b.place);
  for (let from = 0; from < lines.length; from += BY_ONE)
    await tx.insert(activity).values(lines.slice(from, from + BY_ONE).map(({ line }) => line));
}

/** The labels of all links of the jobs in hand, where some reading names the remote that answered. */
async function labelsOfRemotes(
  tx: Sql,
  rows: readonly LinkRow[],
  wanted: readonly ToKeep[],
): Promise<Map<string, Set<string>>> {
  const labels = new Map<string, Set<string>>();
  if (!wanted.some(({ test }) => isMapReading(test.reading) && test.reading.remote !== undefined))
    return labels;
  const jobIds = [...new Set(rows.map(({ jobId }) => jobId))];
  const named = await tx
    .select({ jobId: link.jobId, label: link.label })
    .from(link)
    .where(inArray(link.jobId, jobIds));
  for (const { jobId, label } of named) labels.set(jobId, (labels.get(jobId) ?? new Set()).add(label));
  return labels;
}

/** A remote hangs at some link's outlet: one that no link of the job is called by was misread. */
function refuseUnknownRemote(reading: Reading, labels: ReadonlySet<string> | undefined): void {
  if (!isMapReading(reading) || reading.remote === undefined || labels?.has(reading.remote)) return;
  throw badField(
    'reading.remote',
    `No link of this job is called ${reading.remote}: read the remote's label again.`,
  );
}

function refuseImpossible(problems: ReturnType<typeof checkReading>): void {
  const [first] = problems;
  if (!first) return;
  const errors = problems.map((p) => ({ path: `reading.${pathInWords(p.path)}`, message: p.message }));
  throw new Refusal(422, 'This reading cannot be of this link', `${errors[0]?.path}: ${first.message}`, {
    errors,
  });
}
