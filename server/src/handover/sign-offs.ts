import type { newSignOff, SignOff } from '@near-spoke/contracts';
import type { JobSeal } from '@near-spoke/core/report';
import { and, desc, eq, sql } from 'drizzle-orm';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import { keepOnce } from '../db/once.js';
import type { Sql } from '../db/open.js';
import { crewMember, signOff } from '../db/schema.js';
import { notFound, Refusal } from '../problems.js';

/** Who accepted what of a job, newest first. */
export async function readSignOffs(db: Sql, jobId: string): Promise<SignOff[]> {
  const rows = await db
    .select({
      id: signOff.id,
      at: signOff.at,
      by: crewMember.name,
      name: signOff.name,
      role: signOff.role,
      note: signOff.note,
      digest: signOff.digest,
      links: sql<number>`jsonb_array_length(${signOff.seal} -> 'links')`,
    })
    .from(signOff)
    .innerJoin(crewMember, eq(crewMember.id, signOff.by))
    .where(eq(signOff.jobId, jobId))
    .orderBy(desc(signOff.seq));
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** Keeps who accepts what is handed over, with the seal over it. */
export async function keepSignOff(
  tx: Sql,
  {
    jobId,
    crewId,
    seal,
    sent,
  }: { jobId: string; crewId: string; seal: JobSeal; sent: z.output<typeof newSignOff> },
): Promise<SignOff> {
  if (seal.links.length === 0)
    throw new Refusal(
      422,
      'Nothing is handed over',
      'No link of this job is handed over yet: hand over what is proved first, then have it accepted.',
    );
  const row = { ...sent, jobId, by: crewId, digest: seal.digest, seal };
  if (await keepOnce(tx, signOff, row, { ...sent, jobId }))
    await logActivity(tx, {
      by: crewId,
      jobId,
      what: `had ${seal.links.length} links accepted by ${sent.name}, ${sent.role}`,
    });
  const kept = (await readSignOffs(tx, jobId)).find(({ id }) => id === sent.id);
  if (!kept) throw notFound('sign-off');
  return kept;
}

/** The seal as it was when somebody signed. */
export async function readSignOffSeal(db: Sql, jobId: string, signOffId: string): Promise<JobSeal> {
  const [row] = await db
    .select({ seal: signOff.seal })
    .from(signOff)
    .where(and(eq(signOff.jobId, jobId), eq(signOff.id, signOffId)));
  if (!row) throw notFound('sign-off');
  return row.seal;
}
