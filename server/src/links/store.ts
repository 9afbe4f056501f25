import type {
  CableWork,
  Handover,
  Link,
  LinkNote,
  NewLink,
  Reopening,
  Termination,
  TestRecord,
} from '@near-spoke/contracts';
import { and, asc, eq, getTableColumns, inArray, isNotNull, isNull } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Sql } from '../db/open.js';
import {
  cableWork,
  crewMember,
  handover,
  job,
  reopening,
  link,
  linkEnd,
  linkNote,
  place,
  terminationAttempt,
  testRecord,
} from '../db/schema.js';
import { notFound } from '../problems.js';

const nearEnd = alias(linkEnd, 'near_end');
const farEnd = alias(linkEnd, 'far_end');
const port = alias(place, 'port');
const panel = alias(place, 'panel');
const outlet = alias(place, 'outlet');
const room = alias(place, 'room');
const outBy = alias(crewMember, 'out_by');

/** A verdict is long, and is asked for by itself. */
const { verdict: _verdict, ...LINK_COLUMNS } = getTableColumns(link);

/** Links in panel order: those that are part of a job, those that were taken out of it, or one by id. */
export async function readLinks(
  db: Sql,
  which: { jobId: string; out?: boolean } | { linkId: string },
): Promise<Link[]> {
  const rows = await db
    .select({
      link: LINK_COLUMNS,
      by: crewMember.name,
      outBy: outBy.name,
      hub: job.hub,
      port: port.name,
      panel: panel.name,
      outlet: outlet.name,
      room: room.name,
      nearConnectorId: nearEnd.connectorTypeId,
      farConnectorId: farEnd.connectorTypeId,
    })
    .from(link)
    .innerJoin(job, eq(job.id, link.jobId))
    .innerJoin(crewMember, eq(crewMember.id, link.updatedBy))
    .leftJoin(outBy, eq(outBy.id, link.outBy))
    .innerJoin(nearEnd, and(eq(nearEnd.linkId, link.id), eq(nearEnd.side, 'near')))
    .innerJoin(port, eq(port.id, nearEnd.placeId))
    .innerJoin(panel, eq(panel.id, port.parentId))
    .innerJoin(farEnd, and(eq(farEnd.linkId, link.id), eq(farEnd.side, 'far')))
    .innerJoin(outlet, eq(outlet.id, farEnd.placeId))
    .innerJoin(room, eq(room.id, outlet.parentId))
    .where(
      'jobId' in which
        ? and(eq(link.jobId, which.jobId), which.out ? isNotNull(link.outAt) : isNull(link.outAt))
        : eq(link.id, which.linkId),
    )
    .orderBy(asc(link.position), asc(link.label));
  return rows.map((row) => ({
    id: row.link.id,
    jobId: row.link.jobId,
    label: row.link.label,
    position: row.link.position,
    near: {
      hub: row.hub,
      panel: row.panel,
      port: row.port,
      connectorId: row.nearConnectorId,
      done: row.link.nearDone,
    },
    far: { room: row.room, outlet: row.outlet, connectorId: row.farConnectorId, done: row.link.farDone },
    cableTypeId: row.link.cableTypeId,
    lengthM: row.link.lengthM,
    route: row.link.route,
    carries: row.link.carries,
    stage: row.link.stage,
    standing: row.link.standing,
    nextStep: row.link.nextStep,
    ...(row.link.outAt
      ? { out: { at: row.link.outAt.toISOString(), by: row.outBy ?? '', reason: row.link.outReason } }
      : {}),
    version: row.link.version,
    updatedAt: row.link.updatedAt.toISOString(),
    updatedBy: row.by,
  }));
}

export async function readLink(db: Sql, linkId: string): Promise<Link> {
  const [found] = await readLinks(db, { linkId });
  if (!found) throw notFound('link');
  return found;
}

/** A link's plan, as it is sent and as an archive keeps it. */
export const planOf = ({ id, label, near, far, cableTypeId, lengthM, route, carries }: Link): NewLink => ({
  id,
  label,
  panel: near.panel,
  port: near.port,
  room: far.room,
  outlet: far.outlet,
  cableTypeId,
  nearConnectorId: near.connectorId,
  farConnectorId: far.connectorId,
  lengthM,
  route,
  carries,
});

/** Everything ever recorded of a link, each list oldest first. */
export interface LinkRecord {
  terminations: Termination[];
  cableWork: CableWork[];
  tests: TestRecord[];
  handovers: Handover[];
  reopenings: Reopening[];
  notes: LinkNote[];
}

const NOTHING: LinkRecord = {
  terminations: [],
  cableWork: [],
  tests: [],
  handovers: [],
  reopenings: [],
  notes: [],
};

/** The bytes of a photo are asked for by themselves. */
const { jpegBase64: _jpeg, ...NOTE_COLUMNS } = getTableColumns(linkNote);

export async function readRecord(db: Sql, linkId: string): Promise<LinkRecord> {
  const records = await readRecords(db, [linkId]);
  return records.get(linkId) ?? NOTHING;
}

/** The records of many links, by link: as many statements as there are kinds of record. */
export async function readRecords(db: Sql, linkIds: readonly string[]): Promise<Map<string, LinkRecord>> {
  const who = crewMember.name;
  const ids = [...linkIds];
  // One after another: a transaction has one connection, which asks one thing at a time.
  const terminations = await db
    .select({ row: terminationAttempt, who })
    .from(terminationAttempt)
    .innerJoin(crewMember, eq(crewMember.id, terminationAttempt.by))
    .where(inArray(terminationAttempt.linkId, ids));
  const works = await db
    .select({ row: cableWork, who })
    .from(cableWork)
    .innerJoin(crewMember, eq(crewMember.id, cableWork.by))
    .where(inArray(cableWork.linkId, ids));
  const tests = await db
    .select({ row: testRecord, who })
    .from(testRecord)
    .innerJoin(crewMember, eq(crewMember.id, testRecord.by))
    .where(inArray(testRecord.linkId, ids));
  const handovers = await db
    .select({ row: handover, who })
    .from(handover)
    .innerJoin(crewMember, eq(crewMember.id, handover.by))
    .where(inArray(handover.linkId, ids));
  const reopenings = await db
    .select({ row: reopening, who })
    .from(reopening)
    .innerJoin(crewMember, eq(crewMember.id, reopening.by))
    .where(inArray(reopening.linkId, ids));
  const notes = await db
    .select({ row: NOTE_COLUMNS, who })
    .from(linkNote)
    .innerJoin(crewMember, eq(crewMember.id, linkNote.by))
    .where(inArray(linkNote.linkId, ids));
  const [byTermination, byWork, byTest, byHandover, byReopening, byNote] = [
    // A record from before tools were named stays, to the letter, what it was: seals are over it.
    inOrder(
      terminations.map(({ row: { tool, ...row }, who: by }) => ({
        row: tool === null ? row : { ...row, tool },
        who: by,
      })),
    ),
    inOrder(works),
    inOrder(tests),
    inOrder(handovers),
    inOrder(reopenings),
    inOrder(
      notes.map(({ row: { photoSha256, photo, ...row }, who: by }) => ({
        row: { ...row, photo: photo && photoSha256 ? { sha256: photoSha256, ...photo } : null },
        who: by,
      })),
    ),
  ];
  return new Map(
    ids.map((id) => [
      id,
      {
        terminations: byTermination.get(id) ?? [],
        cableWork: byWork.get(id) ?? [],
        tests: byTest.get(id) ?? [],
        handovers: byHandover.get(id) ?? [],
        reopenings: byReopening.get(id) ?? [],
        notes: byNote.get(id) ?? [],
      },
    ]),
  );
}

interface Recorded {
  id: string;
  linkId: string;
  at: Date;
  by: string;
  seq: number;
  turn: number;
}
type Shown<R extends Recorded> = Omit<R, 'at' | 'linkId' | 'seq'> & { at: string };

/** Rows as records of each link: in their turns, the person by name, the time as text. */
function inOrder<R extends Recorded>(rows: { row: R; who: string }[]): Map<string, Shown<R>[]> {
  const byLink = new Map<string, Shown<R>[]>();
  for (const { row, who } of rows.sort((a, b) => a.row.turn - b.row.turn)) {
    const { linkId, seq: _seq, ...rest } = row;
    const shown = { ...rest, by: who, at: row.at.toISOString() } as unknown as Shown<R>;
    const list = byLink.get(linkId);
    if (list) list.push(shown);
    else byLink.set(linkId, [shown]);
  }
  return byLink;
}
