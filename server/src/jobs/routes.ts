import type { Activity } from '@near-spoke/contracts';
import { desc, eq } from 'drizzle-orm';
import { logActivity } from '../activity.js';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { activity, crewMember, job, link } from '../db/schema.js';
import { readLinks } from '../links/store.js';
import { insertLinks } from '../links/plan.js';
import { changedSince, notFound } from '../problems.js';
import { readJob, readJobs } from './store.js';

const LOG_LINES = 200;

type Ids = 'listJobs' | 'addJob' | 'changeJob' | 'listLinks' | 'addLinks' | 'jobActivity';

export function jobHandlers({ db }: Context): Pick<Handlers, Ids> {
  return {
    listJobs: () => readJobs(db),

    addJob: ({ body, crew }) =>
      db.transaction(async (tx) => {
        const added = await tx
          .insert(job)
          .values({ ...body, updatedBy: crew.id })
          .onConflictDoNothing()
          .returning({ id: job.id });
        if (added.length > 0)
          await logActivity(tx, { by: crew.id, jobId: body.id, what: `started the job ${body.title}` });
        return readJob(tx, body.id);
      }),

    changeJob: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        const [row] = await tx.select().from(job).where(eq(job.id, params.jobId)).for('update');
        if (!row) throw notFound('job');
        const current = await readJob(tx, row.id);
        if (row.version !== body.version) throw changedSince(current, current.updatedBy, current.updatedAt);
        const { version, ...fields } = body;
        await tx
          .update(job)
          .set({ ...fields, version: version + 1, updatedAt: new Date(), updatedBy: crew.id })
          .where(eq(job.id, row.id));
        await logActivity(tx, {
          by: crew.id,
          jobId: row.id,
          what: `changed the job’s ${Object.keys(fields).join(', ')}`,
        });
        return readJob(tx, row.id);
      }),

    listLinks: async ({ params }) => {
      await readJob(db, params.jobId);
      return readLinks(db, { jobId: params.jobId });
    },

    addLinks: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        await insertLinks(tx, params.jobId, body.links, crew.id);
        const wanted = new Set(body.links.map((l) => l.id));
        return (await readLinks(tx, { jobId: params.jobId })).filter((l) => wanted.has(l.id));
      }),

    jobActivity: async ({ params }): Promise<Activity[]> => {
      await readJob(db, params.jobId);
      const rows = await db
        .select({ entry: activity, by: crewMember.name, label: link.label })
        .from(activity)
        .innerJoin(crewMember, eq(crewMember.id, activity.by))
        .leftJoin(link, eq(link.id, activity.linkId))
        .where(eq(activity.jobId, params.jobId))
        .orderBy(desc(activity.id))
        .limit(LOG_LINES);
      return rows.map(({ entry, by, label }) => ({
        id: entry.id,
        at: entry.at.toISOString(),
        by,
        linkId: entry.linkId,
        label,
        what: entry.what,
      }));
    },
  };
}
