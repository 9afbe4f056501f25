import type { Link, LinksBack, LinksOut } from '@near-spoke/contracts';
import { and, asc, eq, inArray } from 'drizzle-orm';
import { logActivity } from '../activity.js';
import type { SignedIn } from '../context.js';
import type { Sql } from '../db/open.js';
import { job, link } from '../db/schema.js';
import { badField, changedSince, jobClosed, notFound, Refusal } from '../problems.js';
import { refreshSearch } from '../search/refresh.js';
import { outStanding } from './plan.js';
import { refuseTakenAgain } from './taken.js';
import { refreshStanding } from './standing.js';
import { readLinks } from './store.js';

/** Locks the job and the links that are meant, each as it was when it was opened or already as it is wanted. */
async function lockWanted(
  tx: Sql,
  jobId: string,
  wanted: LinksBack['links'],
  isWanted: (row: typeof link.$inferSelect) => boolean,
): Promise<(typeof link.$inferSelect)[]> {
  const [jobRow] = await tx.select().from(job).where(eq(job.id, jobId)).for('no key update');
  if (!jobRow) throw notFound('job');
  if (jobRow.closedAt) throw jobClosed();
  const ids = wanted.map(({ id }) => id);
  const rows = await tx
    .select()
    .from(link)
    .where(and(eq(link.jobId, jobId), inArray(link.id, ids)))
    .orderBy(asc(link.id))
    .for('update');
  const byId = new Map(rows.map((row) => [row.id, row]));
  for (const [i, { id, version }] of wanted.entries()) {
    const row = byId.get(id);
    if (!row) throw badField(`links[${i}].id`, 'This job has no such link.', 404);
    if (isWanted(row) || row.version === version) continue;
    const current = (await readLinks(tx, { linkIds: [id] }))[0] as Link;
    throw changedSince(current, current.updatedBy, current.updatedAt);
  }
  // What is so already is a repeat, and harmless.
  return rows.filter((row) => !isWanted(row));
}

const named = (rows: readonly { label: string }[]): string =>
  rows.length > 6 ? `${rows.length} links` : rows.map(({ label }) => label).join(', ');

/**
 * Takes links out of a job, all or none: its lists, counts, reports and plans know them no more, and their labels and
 * ports are free. What was recorded of them stays, and they can be brought back.
 *
 * @throws Refusal 403 for somebody who is no lead where something was recorded of one, 422 where that has no reason
 */
export async function takeLinksOut(
  tx: Sql,
  jobId: string,
  { links, reason }: LinksOut,
  crew: SignedIn,
): Promise<Link[]> {
  const rows = await lockWanted(tx, jobId, links, (row) => row.outAt !== null);
  const worked = rows.filter(({ turns }) => turns > 0);
  if (worked.length > 0 && crew.role !== 'lead')
    throw new Refusal(
      403,
      'A lead decides',
      `Something is recorded of ${named(worked)}: only a lead takes that out of the job.`,
    );
  if (worked.length > 0 && reason === '')
    throw badField('reason', `Say why: something is recorded of ${named(worked)}.`);
  for (const { id, version } of rows)
    await tx
      .update(link)
      .set({
        outAt: new Date(),
        outBy: crew.id,
        ...outStanding(reason),
        version: version + 1,
        updatedAt: new Date(),
        updatedBy: crew.id,
      })
      .where(eq(link.id, id));
  for (const { id } of rows)
    await logActivity(tx, {
      by: crew.id,
      jobId,
      linkId: id,
      what: `took it out of the job${reason === '' ? '' : `: ${reason}`}`,
    });
  await refreshSearch(
    tx,
    inArray(
      link.id,
      links.map(({ id }) => id),
    ),
  );
  return readLinks(tx, { jobId, out: true });
}

/**
 * Brings links back that were taken out, all or none.
 *
 * @throws Refusal 409 where a label or a port was given to another meanwhile
 */
export async function bringLinksBack(
  tx: Sql,
  jobId: string,
  { links }: LinksBack,
  crew: SignedIn,
): Promise<Link[]> {
  const rows = await lockWanted(tx, jobId, links, (row) => row.outAt === null);
  const back = new Set(rows.map(({ id }) => id));
  const gone = (await readLinks(tx, { jobId, out: true })).filter(({ id }) => back.has(id));
  refuseTakenAgain(await readLinks(tx, { jobId }), gone);
  for (const { id, version } of rows) {
    await tx
      .update(link)
      .set({
        outAt: null,
        outBy: null,
        outReason: '',
        version: version + 1,
        updatedAt: new Date(),
        updatedBy: crew.id,
      })
      .where(eq(link.id, id));
    await refreshStanding(tx, id);
    await logActivity(tx, { by: crew.id, jobId, linkId: id, what: 'brought it back into the job' });
  }
  const wanted = new Set(links.map(({ id }) => id));
  return (await readLinks(tx, { jobId })).filter(({ id }) => wanted.has(id));
}
