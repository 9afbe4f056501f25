import type { CableWork, Handover, Link, Termination, TestRecord } from '@near-spoke/contracts';
import { and, asc, eq, getTableColumns } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Sql } from '../db/open.js';
import {
  cableWork,
  crewMember,
  handover,
  job,
  link,
  linkEnd,
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

/** Links in panel order: of one job, or one by id. */
/** A verdict is long, and asked for one link at a time. */
const { verdict: _verdict, ...LINK_COLUMNS } = getTableColumns(link);

export async function readLinks(db: Sql, which: { jobId: string } | { linkId: string }): Promise<Link[]> {
  const rows = await db
    .select({
      link: LINK_COLUMNS,
      by: crewMember.name,
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
    .innerJoin(nearEnd, and(eq(nearEnd.linkId, link.id), eq(nearEnd.side, 'near')))
    .innerJoin(port, eq(port.id, nearEnd.placeId))
    .innerJoin(panel, eq(panel.id, port.parentId))
    .innerJoin(farEnd, and(eq(farEnd.linkId, link.id), eq(farEnd.side, 'far')))
    .innerJoin(outlet, eq(outlet.id, farEnd.placeId))
    .innerJoin(room, eq(room.id, outlet.parentId))
    .where('jobId' in which ? eq(link.jobId, which.jobId) : eq(link.id, which.linkId))
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
    stage: row.link.stage,
    standing: row.link.standing,
    nextStep: row.link.nextStep,
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

/** Everything ever recorded of a link, each list oldest first. */
export interface LinkRecord {
  terminations: Termination[];
  cableWork: CableWork[];
  tests: TestRecord[];
  handovers: Handover[];
}

export async function readRecord(db: Sql, linkId: string): Promise<LinkRecord> {
  const who = crewMember.name;
  // One after another: a transaction has one connection, which asks one thing at a time.
  const terminations = await db
    .select({ row: terminationAttempt, who })
    .from(terminationAttempt)
    .innerJoin(crewMember, eq(crewMember.id, terminationAttempt.by))
    .where(eq(terminationAttempt.linkId, linkId));
  const works = await db
    .select({ row: cableWork, who })
    .from(cableWork)
    .innerJoin(crewMember, eq(crewMember.id, cableWork.by))
    .where(eq(cableWork.linkId, linkId));
  const tests = await db
    .select({ row: testRecord, who })
    .from(testRecord)
    .innerJoin(crewMember, eq(crewMember.id, testRecord.by))
    .where(eq(testRecord.linkId, linkId));
  const handovers = await db
    .select({ row: handover, who })
    .from(handover)
    .innerJoin(crewMember, eq(crewMember.id, handover.by))
    .where(eq(handover.linkId, linkId));
  return {
    terminations: inOrder(terminations),
    cableWork: inOrder(works),
    tests: inOrder(tests),
    handovers: inOrder(handovers),
  };
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

/** Rows as records: in their turns, the person by name, the time as text. */
function inOrder<R extends Recorded>(rows: { row: R; who: string }[]): Shown<R>[] {
  return rows
    .sort((a, b) => a.row.turn - b.row.turn)
    .map(
      ({ row: { linkId: _linkId, seq: _seq, ...row }, who }) =>
        ({ ...row, by: who, at: row.at.toISOString() }) as Shown<R>,
    );
}
