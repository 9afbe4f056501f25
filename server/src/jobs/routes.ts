import type { Activity, Job } from '@near-spoke/contracts';
import { desc, eq } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import { logActivity } from '../activity.js';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { changesInWords } from '../changes.js';
import { keepOnce } from '../db/once.js';
import { activity, crewMember, job, link } from '../db/schema.js';
import { judgeAgain, judgeLater, ofJob } from '../links/standing.js';
import { planOf, readLinks } from '../links/store.js';
import { bringLinksBack, takeLinksOut } from '../links/out.js';
import { changePlans, insertLinks, putLinks } from '../links/plan.js';
import { changedSince, jobClosed, notFound } from '../problems.js';
import { refreshSearch } from '../search/refresh.js';
import { readJob, readJobs } from './store.js';

const LOG_LINES = 200;

type Ids =
  | 'listJobs'
  | 'addJob'
  | 'changeJob'
  | 'copyJob'
  | 'listLinks'
  | 'addLinks'
  | 'changeLinks'
  | 'listLinksOut'
  | 'takeLinksOut'
  | 'bringLinksBack'
  | 'jobActivity';

/** Which stretches were said something else of. */
function stretchesChanged(before: Job, { stretches }: Partial<Job>): string {
  const known = new Map(before.stretches.map((stretch) => [stretch.name, stretch]));
  const changed = (stretches ?? []).filter(
    (stretch) => changesInWords(known.get(stretch.name) ?? {}, stretch) !== 'nothing',
  );
  const names = changed.map(({ name }) => name);
  return `stretches${names.length > 0 ? ` (${names.join(', ')})` : ''}`;
}

export function jobHandlers(context: Context): Pick<Handlers, Ids> {
  const { db } = context;
  return {
    listJobs: () => readJobs(db),

    addJob: ({ body, crew }) =>
      db.transaction(async (tx) => {
        if (await keepOnce(tx, job, { ...body, updatedBy: crew.id }, body))
          await logActivity(tx, { by: crew.id, jobId: body.id, what: `started the job ${body.title}` });
        return readJob(tx, body.id);
      }),

    changeJob: async ({ params, body, crew }) => {
      const changed = await db.transaction(async (tx) => {
        const [row] = await tx.select().from(job).where(eq(job.id, params.jobId)).for('update');
        if (!row) throw notFound('job');
        const current = await readJob(tx, row.id);
        if (row.version !== body.version) throw changedSince(current, current.updatedBy, current.updatedAt);
        const { version, closed, ...fields } = body;
        if (row.closedAt && closed !== false) throw jobClosed();
        const closes = closed === undefined || closed === (row.closedAt !== null) ? undefined : closed;
        await tx
          .update(job)
          .set({
            ...fields,
            ...(closes === undefined ? {} : { closedAt: closes ? new Date() : null }),
            version: version + 1,
            updatedAt: new Date(),
            updatedBy: crew.id,
          })
          .where(eq(job.id, row.id));
        if (closes !== undefined)
          await logActivity(tx, {
            by: crew.id,
            jobId: row.id,
            what: closes ? 'closed the job' : 'reopened the job',
          });
        const changes = changesInWords(current, fields, { stretches: stretchesChanged(current, fields) });
        if (closes === undefined || changes !== 'nothing')
          await logActivity(tx, { by: crew.id, jobId: row.id, what: `changed the job’s ${changes}` });
        if (['site', 'title', 'hub', 'scheme'].some((field) => field in fields))
          await refreshSearch(tx, eq(link.jobId, row.id));
        if (fields.scheme !== undefined && fields.scheme !== row.scheme) await judgeAgain(tx, ofJob(row.id));
        return readJob(tx, row.id);
      });
      judgeLater(context);
      return changed;
    },

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

    changeLinks: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        const changes = body.changes.map(({ id, ...change }, index) => ({
          linkId: id,
          change,
          path: `changes[${index}].`,
        }));
        await changePlans(tx, params.jobId, changes, crew.id);
        const wanted = new Set(body.changes.map(({ id }) => id));
        return (await readLinks(tx, { jobId: params.jobId })).filter(({ id }) => wanted.has(id));
      }),

    listLinksOut: async ({ params }) => {
      await readJob(db, params.jobId);
      return readLinks(db, { jobId: params.jobId, out: true });
    },
    takeLinksOut: ({ params, body, crew }) =>
      db.transaction((tx) => takeLinksOut(tx, params.jobId, body, crew)),
    bringLinksBack: ({ params, body, crew }) =>
      db.transaction((tx) => bringLinksBack(tx, params.jobId, body, crew)),

    copyJob: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        const { scheme, units, stretches } = await readJob(tx, params.jobId);
        const copy = { ...body, scheme, units, stretches };
        if (await keepOnce(tx, job, { ...copy, updatedBy: crew.id }, body)) {
          const links = (await readLinks(tx, { jobId: params.jobId })).map((one) => ({
            ...planOf(one),
            id: randomUUID(),
          }));
          await putLinks(tx, body.id, links, crew.id, { asItWas: true });
          await logActivity(tx, {
            by: crew.id,
            jobId: body.id,
            what: `started the job ${body.title} with the plan of another: ${links.length} links`,
          });
        }
        return readJob(tx, body.id);
      }),

    jobActivity: async ({ params }): Promise<Activity[]> => {
      await readJob(db, params.jobId);
      const rows = await db
        .select({ entry: activity, by: crewMember.name, label: link.label })
        .from(activity)
        .innerJoin(crewMember, eq(crewMember.id, activity.by))
        .leftJoin(link, eq(link.id, activity.linkId))
        .where(eq(activity.jobId, params.jobId))
        .orderBy(desc(activity.at), desc(activity.id))
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
