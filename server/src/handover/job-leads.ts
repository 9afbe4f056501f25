import type { JobLead } from '@near-spoke/contracts';
import type { ReportAdapter } from '@near-spoke/core/report';
import { and, asc, eq } from 'drizzle-orm';
import { logActivity } from '../activity.js';
import { readAdapter } from '../adapters/store.js';
import type { Sql } from '../db/open.js';
import { adapterPhoto, jobAdapter } from '../db/schema.js';
import { photoHeadOf } from '../jpeg.js';
import type { PhotoBytes } from '../links/notes.js';

/** The leads that go with a job, in the order in which they were named. */
async function leadsOf(db: Sql, jobId: string): Promise<string[]> {
  const rows = await db
    .select({ id: jobAdapter.adapterId })
    .from(jobAdapter)
    .where(eq(jobAdapter.jobId, jobId))
    .orderBy(asc(jobAdapter.at), asc(jobAdapter.adapterId));
  return rows.map(({ id }) => id);
}

export async function listJobLeads(db: Sql, jobId: string): Promise<JobLead[]> {
  const leads: JobLead[] = [];
  for (const id of await leadsOf(db, jobId)) {
    const { version, design, builds } = await readAdapter(db, id);
    const proved = builds.filter((build) => build.version === version && build.verdict === 'proved').length;
    leads.push({ adapterId: id, name: design.name, version, built: builds.length, proved });
  }
  return leads;
}

/** Has a lead go with a job; one that does already is left. */
export async function addJobLead(
  tx: Sql,
  { jobId, adapterId, crewId }: { jobId: string; adapterId: string; crewId: string },
): Promise<void> {
  const { design } = await readAdapter(tx, adapterId);
  const added = await tx
    .insert(jobAdapter)
    .values({ jobId, adapterId, by: crewId, at: new Date() })
    .onConflictDoNothing()
    .returning({ id: jobAdapter.adapterId });
  if (added.length > 0)
    await logActivity(tx, { by: crewId, jobId, what: `${design.name} goes with the job` });
}

/** Takes a lead out of what goes with a job. */
export async function removeJobLead(
  tx: Sql,
  { jobId, adapterId, crewId }: { jobId: string; adapterId: string; crewId: string },
): Promise<void> {
  const gone = await tx
    .delete(jobAdapter)
    .where(and(eq(jobAdapter.jobId, jobId), eq(jobAdapter.adapterId, adapterId)))
    .returning({ id: jobAdapter.adapterId });
  if (gone.length === 0) return;
  const { design } = await readAdapter(tx, adapterId);
  await logActivity(tx, { by: crewId, jobId, what: `${design.name} no longer goes with the job` });
}

/** The same as a report tells them. */
export async function readJobLeads(db: Sql, jobId: string): Promise<ReportAdapter[]> {
  const leads: ReportAdapter[] = [];
  for (const id of await leadsOf(db, jobId)) {
    const { version, at, by, design, builds, photos } = await readAdapter(db, id);
    const heads = new Map<string, ReturnType<typeof photoHeadOf>>();
    for (const photo of await db.select().from(adapterPhoto).where(eq(adapterPhoto.adapterId, id)))
      heads.set(photo.id, photoHeadOf(Buffer.from(photo.jpegBase64, 'base64')));
    leads.push({
      id,
      version,
      at,
      by,
      design,
      builds: builds.map(({ name, version: of, at: built, by: who, verdict, note }) => ({
        name,
        version: of,
        at: built,
        by: who,
        verdict,
        note,
      })),
      photos: photos.flatMap(({ id: photoId, end, words }) => {
        const photo = heads.get(photoId);
        return photo ? [{ end, words, photo }] : [];
      }),
    });
  }
  return leads;
}

/** The photos of these leads, those that are wanted. */
export async function readLeadPhotos(
  db: Sql,
  adapterIds: readonly string[],
  wanted: ReadonlySet<string>,
): Promise<PhotoBytes> {
  const found: PhotoBytes = new Map();
  for (const id of adapterIds)
    for (const { jpegBase64 } of await db.select().from(adapterPhoto).where(eq(adapterPhoto.adapterId, id))) {
      const { sha256 } = photoHeadOf(Buffer.from(jpegBase64, 'base64'));
      if (wanted.has(sha256)) found.set(sha256, jpegBase64);
    }
  return found;
}
