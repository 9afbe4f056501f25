import type { Job } from '@near-spoke/contracts';
import type { LinkStage } from '@near-spoke/core';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { Sql } from '../db/open.js';
import { crewMember, job, link } from '../db/schema.js';
import { notFound } from '../problems.js';

export type JobRow = typeof job.$inferSelect;

const NO_STAGES: Record<LinkStage, number> = {
  planned: 0,
  'one-end': 0,
  'both-ends': 0,
  failed: 0,
  proved: 0,
  'handed-over': 0,
};

/** All jobs, or one, as people see them. */
export async function readJobs(db: Sql, jobId?: string): Promise<Job[]> {
  const rows = await db
    .select({ job, by: crewMember.name })
    .from(job)
    .innerJoin(crewMember, eq(crewMember.id, job.updatedBy))
    .where(jobId ? eq(job.id, jobId) : undefined)
    .orderBy(asc(job.createdAt), asc(job.id));
  const counts = await db
    .select({ jobId: link.jobId, stage: link.stage, count: sql<number>`count(*)::int` })
    .from(link)
    .where(and(isNull(link.outAt), jobId ? eq(link.jobId, jobId) : undefined))
    .groupBy(link.jobId, link.stage);
  return rows.map(({ job: row, by }) => {
    const stages = { ...NO_STAGES };
    for (const count of counts) if (count.jobId === row.id) stages[count.stage] = count.count;
    const { id, site, title, hub, scheme, units, stretches, version } = row;
    return {
      id,
      site,
      title,
      hub,
      scheme,
      units,
      stretches,
      ...(row.closedAt ? { closedAt: row.closedAt.toISOString() } : {}),
      version,
      updatedAt: row.updatedAt.toISOString(),
      updatedBy: by,
      stages,
    };
  });
}

export async function readJob(db: Sql, jobId: string): Promise<Job> {
  const [found] = await readJobs(db, jobId);
  if (!found) throw notFound('job');
  return found;
}
