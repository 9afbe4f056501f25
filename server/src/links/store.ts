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
import { and, asc, eq, getTableColumns, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { alias, type PgTable } from 'drizzle-orm/pg-core';
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
  which: { jobId: string; out?: boolean } | { linkIds: readonly string[] },
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
        : inArray(link.id, [...which.linkIds]),
    )
    .orderBy(asc(link.position), asc(link.label));
  return rows.map((row) => ({
    id: row.link.id,
    jobId: row.link.jobId,
    label: row.link.label,
    position: row.link.position,
    near: {
      hub: row.link.hub ?? row.hub,
      ...(row.link.hub === null ? {} : { otherHub: true }),
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
  const [found] = await readLinks(db, { linkIds: [linkId] });
  if (!found) throw notFound('link');
  return found;
}

/** A link's plan, as it is sent and as an archive keeps it. */
export const planOf = ({ id, label, near, far, cableTypeId, lengthM, route, carries }: Link): NewLink => ({
  id,
  label,
  ...(near.otherHub ? { hub: near.hub } : {}),
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

/** Kinds of record, each with its table; the bytes of a photo are asked for by themselves. */
const KINDS = [
  { kind: 'terminations', table: terminationAttempt, without: '' },
  { kind: 'cableWork', table: cableWork, without: '' },
  { kind: 'tests', table: testRecord, without: '' },
  { kind: 'handovers', table: handover, without: '' },
  { kind: 'reopenings', table: reopening, without: '' },
  { kind: 'notes', table: linkNote, without: linkNote.jpegBase64.name },
] as const;
type Kind = (typeof KINDS)[number]['kind'];

export async function readRecord(db: Sql, linkId: string): Promise<LinkRecord> {
  const records = await readRecords(db, [linkId]);
  return records.get(linkId) ?? NOTHING;
}

/** The records of many links, by link: by one statement, whatever is recorded of them. */
export async function readRecords(db: Sql, linkIds: readonly string[]): Promise<Map<string, LinkRecord>> {
  const ids = sql.param([...linkIds]);
  const each = KINDS.map(
    ({ kind, table, without }) =>
      sql`SELECT ${kind}::text AS kind, to_jsonb(${table}) - ${without}::text AS row, ${crewMember.name} AS who, ${table.turn} AS turn
          FROM ${table} JOIN ${crewMember} ON ${crewMember.id} = ${table.by} WHERE ${table.linkId} = ANY(${ids}::uuid[])`,
  );
  const { rows } = await db.execute<{ kind: Kind; row: Record<string, unknown>; who: string }>(
    sql`SELECT kind, row, who FROM (${sql.join(each, sql` UNION ALL `)}) AS recorded ORDER BY turn`,
  );
  const records = new Map(
    linkIds.map((id): [string, LinkRecord] => [
      id,
      { terminations: [], cableWork: [], tests: [], handovers: [], reopenings: [], notes: [] },
    ]),
  );
  for (const { kind, row, who } of rows) {
    const record = records.get(row[LINK_ID] as string);
    const table = KINDS.find((one) => one.kind === kind)?.table;
    if (record && table) (record[kind] as unknown[]).push(asShown(decoded(table, row), who));
  }
  return records;
}

/** What names the link in every kind of record. */
const LINK_ID = testRecord.linkId.name;

/** A row of a table that came as JSON, each column as that column is read. */
const decoded = (table: PgTable, row: Readonly<Record<string, unknown>>): Recorded =>
  Object.fromEntries(
    Object.entries(getTableColumns(table)).flatMap(([key, column]) => {
      const value = row[column.name];
      if (value === undefined) return [];
      return [[key, value === null ? null : column.mapFromDriverValue(value)]];
    }),
  ) as unknown as Recorded;

interface Recorded {
  at: Date;
  [column: string]: unknown;
}

/** A row as people are shown it: the person by name, the time as text, what nobody said left out. */
export function asShown(row: Recorded, who: string): Record<string, unknown> {
  const { linkId: _, seq: _seq, ofCrew: _ofCrew, tool, photo, photoSha256, deviceAt, ...rest } = row;
  return {
    ...rest,
    // A record from before tools were named stays, to the letter, what it was: seals are over it.
    ...(tool === null || tool === undefined ? {} : { tool }),
    ...(deviceAt instanceof Date ? { deviceAt: deviceAt.toISOString() } : {}),
    ...(photoSha256 === undefined
      ? {}
      : { photo: photo && photoSha256 ? { sha256: photoSha256, ...photo } : null }),
    by: who,
    at: row.at.toISOString(),
  };
}
