import type { BuiltLink, SiteActivity, SiteAsBuilt, SiteSummary } from '@near-spoke/contracts';
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import type { Sql } from '../db/open.js';
import {
  activity,
  crewMember,
  handover,
  job,
  link,
  linkNote,
  linkSearchHere as linkSearch,
} from '../db/schema.js';
import { readLinks } from '../links/store.js';
import { notFound } from '../problems.js';

/** So many lines of what happened are shown. */
const LOG_LINES = 500;

/** Jobs of one building name it alike, but for capitals and blanks. */
const siteName = sql<string>`lower(regexp_replace(trim(${job.site}), '\\s+', ' ', 'g'))`;
const same = (site: string) => eq(siteName, site.trim().replace(/\s+/g, ' ').toLowerCase());

export function siteHandlers({ db }: Context): Pick<Handlers, 'listSites' | 'siteAsBuilt' | 'siteActivity'> {
  return {
    listSites: async (): Promise<SiteSummary[]> => {
      const rows = await db
        .select({
          site: sql<string>`min(${job.site})`,
          jobs: sql<number>`count(DISTINCT ${job.id})::int`,
          links: sql<number>`count(${link.id})::int`,
          handedOver: sql<number>`(count(*) FILTER (WHERE ${link.stage} = 'handed-over'))::int`,
          at: sql<string | null>`max(${linkSearch.lastAt})`,
        })
        .from(job)
        .leftJoin(link, and(eq(link.jobId, job.id), isNull(link.outAt)))
        .leftJoin(linkSearch, eq(linkSearch.linkId, link.id))
        .groupBy(siteName)
        .orderBy(siteName);
      return rows.map(({ at, ...row }) => ({ ...row, at: at === null ? null : new Date(at).toISOString() }));
    },

    siteAsBuilt: async ({ params }): Promise<SiteAsBuilt> => {
      const jobs = await jobsOf(db, params.site);
      const links: BuiltLink[] = [];
      for (const { id } of jobs) links.push(...(await builtLinks(db, id)));
      return {
        site: jobs[0]?.site ?? params.site,
        jobs: jobs.map(({ id, title, hub, scheme, units }) => ({ id, title, hub, scheme, units })),
        links,
      };
    },

    siteActivity: async ({ params }): Promise<SiteActivity[]> => {
      const jobs = await jobsOf(db, params.site);
      const titles = new Map(jobs.map(({ id, title }) => [id, title]));
      const rows = await db
        .select({ entry: activity, by: crewMember.name, label: link.label })
        .from(activity)
        .innerJoin(crewMember, eq(crewMember.id, activity.by))
        .leftJoin(link, eq(link.id, activity.linkId))
        .where(inArray(activity.jobId, [...titles.keys()]))
        .orderBy(desc(activity.at), desc(activity.id))
        .limit(LOG_LINES);
      return rows.map(({ entry: { id, at, linkId, jobId, what }, by, label }) => ({
        id,
        at: at.toISOString(),
        by,
        linkId,
        label,
        what,
        jobId,
        job: jobId === null ? null : (titles.get(jobId) ?? null),
      }));
    },
  };
}

async function jobsOf(db: Sql, site: string) {
  const jobs = await db.select().from(job).where(same(site)).orderBy(asc(job.createdAt), asc(job.id));
  if (jobs.length === 0) throw notFound('site');
  return jobs;
}

async function builtLinks(db: Sql, jobId: string): Promise<BuiltLink[]> {
  const links = await readLinks(db, { jobId });
  const noted = await db
    .select({ linkId: linkNote.linkId, notes: sql<number>`count(*)::int` })
    .from(linkNote)
    .innerJoin(link, eq(link.id, linkNote.linkId))
    .where(eq(link.jobId, jobId))
    .groupBy(linkNote.linkId);
  const handed = await db
    .select({ linkId: handover.linkId, at: sql<string>`max(${handover.at})` })
    .from(handover)
    .innerJoin(link, eq(link.id, handover.linkId))
    .where(eq(link.jobId, jobId))
    .groupBy(handover.linkId);
  const [notes, at] = [
    new Map(noted.map((row) => [row.linkId, row.notes])),
    new Map(handed.map((row) => [row.linkId, new Date(row.at).toISOString()])),
  ];
  return links.map(({ id, label, near, far, cableTypeId, lengthM, route, stage, standing }) => ({
    id,
    jobId,
    label,
    near,
    far,
    cableTypeId,
    lengthM,
    route,
    stage,
    standing,
    notes: notes.get(id) ?? 0,
    handedOverAt: stage === 'handed-over' ? (at.get(id) ?? null) : null,
  }));
}
