import type { FoundLink, FoundOther } from '@near-spoke/contracts';
import { INSTRUMENTS } from '@near-spoke/core';
import { understandSearch, type SearchQuery } from '@near-spoke/core/search';
import { and, eq, inArray, sql, type SQL } from 'drizzle-orm';
import { alias, union } from 'drizzle-orm/pg-core';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import type { Sql } from '../db/open.js';
import {
  adapterVersion,
  crewMember,
  job,
  link,
  linkEnd,
  linkSearchHere as linkSearch,
  place,
  reel,
} from '../db/schema.js';

/** So many links are shown, the newest first. */
const SHOWN = 50;
/** So many are counted: who finds more looks for less. */
const COUNTED = 1000;
const OTHERS = 12;

/** A text within another, its own signs for "anything" taken as they stand. */
const within = (word: string): string => `%${word.toLowerCase().replace(/[\\%_]/g, '\\$&')}%`;
const uuids = (ids: readonly string[]): SQL => sql`${sql.param([...ids])}::uuid[]`;
const texts = (some: readonly string[]): SQL => sql`${sql.param([...some])}::text[]`;

/** What a query asks of the gathered words and marks of a link. */
function asked(query: SearchQuery, idsOf: ReadonlyMap<string, readonly string[]>): SQL[] {
  const { madeBy, testedBy, handedOverBy } = linkSearch;
  const names = query.instruments.map((id) => INSTRUMENTS[id].name);
  return [
    ...query.words.map((word) => sql`${linkSearch.words} LIKE ${within(word)}`),
    ...(query.stages.length > 0 ? [inArray(linkSearch.stage, query.stages)] : []),
    ...(query.scheme ? [eq(linkSearch.scheme, query.scheme)] : []),
    ...query.people.map(({ name, did }) => {
      const ids = uuids(idsOf.get(name) ?? []);
      if (did === 'made') return sql`${madeBy} && ${ids}`;
      if (did === 'tested') return sql`${testedBy} && ${ids}`;
      if (did === 'handed-over') return sql`${handedOverBy} && ${ids}`;
      return sql`(${madeBy} && ${ids} OR ${testedBy} && ${ids} OR ${handedOverBy} && ${ids})`;
    }),
    ...(names.length > 0 ? [sql`${linkSearch.restsOn} && ${texts(names)}`] : []),
    ...(names.length > 0 && query.only ? [sql`${linkSearch.restsOn} <@ ${texts(names)}`] : []),
    ...(query.faults.length > 0 ? [sql`${linkSearch.faults} @> ${texts(query.faults)}`] : []),
    ...(query.from ? [sql`${linkSearch.lastAt} >= ${query.from}::timestamptz`] : []),
    ...(query.until ? [sql`${linkSearch.firstAt} < ${query.until}::timestamptz`] : []),
  ];
}

const nearEnd = alias(linkEnd, 'near_end');
const farEnd = alias(linkEnd, 'far_end');
const port = alias(place, 'port');
const panel = alias(place, 'panel');
const outlet = alias(place, 'outlet');
const room = alias(place, 'room');

/** Links that a query finds, newest first, and how many there are. */
export async function findLinks(
  db: Sql,
  query: SearchQuery,
  idsOf: ReadonlyMap<string, readonly string[]>,
): Promise<{ links: FoundLink[]; count: number; counted: boolean }> {
  const which = and(...asked(query, idsOf));
  // Who types a label wants that link: it comes before those that are newer.
  const label = query.words.find((word) => /\d/.test(word))?.toLowerCase();
  const newest = (also?: SQL) =>
    db
      .select({ linkId: linkSearch.linkId, lastAt: linkSearch.lastAt })
      .from(linkSearch)
      .where(and(which, also))
      .orderBy(sql`${linkSearch.lastAt} DESC NULLS LAST`, linkSearch.linkId)
      .limit(SHOWN);
  // Links that are called so are few and found by themselves: otherwise all that match would have to be put in order.
  const found = (
    label
      ? union(newest(sql`left(${linkSearch.words}, 40) LIKE ${`${within(label).slice(1, -1)} %`}`), newest())
      : newest()
  ).as('found');
  const shown = db
    .select({
      linkId: link.id,
      jobId: link.jobId,
      label: link.label,
      stage: link.stage,
      standing: link.standing,
      site: job.site,
      title: job.title,
      hub: job.hub,
      port: port.name,
      panel: panel.name,
      outlet: outlet.name,
      room: room.name,
      at: found.lastAt,
    })
    .from(found)
    .innerJoin(link, eq(link.id, found.linkId))
    .innerJoin(job, eq(job.id, link.jobId))
    .innerJoin(nearEnd, and(eq(nearEnd.linkId, link.id), eq(nearEnd.side, 'near')))
    .innerJoin(port, eq(port.id, nearEnd.placeId))
    .innerJoin(panel, eq(panel.id, port.parentId))
    .innerJoin(farEnd, and(eq(farEnd.linkId, link.id), eq(farEnd.side, 'far')))
    .innerJoin(outlet, eq(outlet.id, farEnd.placeId))
    .innerJoin(room, eq(room.id, outlet.parentId))
    .orderBy(
      ...(label ? [sql`lower(${link.label}) = ${label} DESC`] : []),
      sql`${found.lastAt} DESC NULLS LAST`,
      link.id,
    )
    .limit(SHOWN);
  const some = db
    .select({ one: sql`1`.as('one') })
    .from(linkSearch)
    .where(which)
    .limit(COUNTED + 1)
    .as('some');
  // Neither waits for the other: both look through the same links.
  const [rows, [counted]] = await Promise.all([
    shown,
    db.select({ n: sql<number>`count(*)::int` }).from(some),
  ]);
  const count = counted?.n ?? 0;
  return {
    links: rows.map(
      ({ hub, port: portName, panel: panelName, outlet: outletName, room: roomName, at, ...row }) => ({
        ...row,
        from: `${hub} ${panelName} port ${portName}`,
        to: `${roomName}, ${outletName}`,
        at: at?.toISOString() ?? null,
      }),
    ),
    count: Math.min(count, COUNTED),
    counted: count <= COUNTED,
  };
}

/** Jobs, adapters and reels that are called by all of some words. */
async function findOthers(db: Sql, words: readonly string[]): Promise<FoundOther[]> {
  if (words.length === 0) return [];
  const has = (text: SQL): SQL =>
    sql.join(
      words.map((word) => sql`lower(${text}) LIKE ${within(word)}`),
      sql` AND `,
    );
  const jobs = await db
    .select({ id: job.id, name: job.title, words: job.site })
    .from(job)
    .where(has(sql`${job.site} || ' ' || ${job.title} || ' ' || ${job.hub}`))
    .limit(OTHERS);
  const adapters = await db
    .selectDistinctOn([adapterVersion.adapterId], {
      id: adapterVersion.adapterId,
      name: sql<string>`${adapterVersion.design} ->> 'name'`,
      version: adapterVersion.version,
    })
    .from(adapterVersion)
    .where(has(sql`(${adapterVersion.design} ->> 'name')`))
    .orderBy(adapterVersion.adapterId, sql`${adapterVersion.version} DESC`)
    .limit(OTHERS);
  const reels = await db
    .select({ id: reel.id, name: reel.name, words: reel.cableTypeId })
    .from(reel)
    .where(has(sql`${reel.name} || ' ' || ${reel.lot}`))
    .limit(OTHERS);
  return [
    ...jobs.map((one) => ({ kind: 'job' as const, ...one })),
    ...adapters.map(({ id, name, version }) => ({
      kind: 'adapter' as const,
      id,
      name,
      words: `version ${version}`,
    })),
    ...reels.map((one) => ({ kind: 'reel' as const, ...one })),
  ];
}

/** One search over everything that a crew has on record. */
export function searchHandlers({ db }: Context): Pick<Handlers, 'search'> {
  return {
    search: async ({ params }) => {
      const people = await db.select({ id: crewMember.id, name: crewMember.name }).from(crewMember);
      const idsOf = new Map<string, string[]>();
      for (const { id, name } of people) idsOf.set(name, [...(idsOf.get(name) ?? []), id]);
      const today = new Date().toISOString().slice(0, 10);
      const { query, understood } = understandSearch(params.text, { today, people: [...idsOf.keys()] });
      const links = await findLinks(db, query, idsOf);
      const others = understood.length === 0 ? await findOthers(db, query.words) : [];
      return { understood, words: query.words, ...links, others };
    },
  };
}
