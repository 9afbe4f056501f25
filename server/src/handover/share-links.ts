import type { newShareLink, ShareLink } from '@near-spoke/contracts';
import { and, desc, eq, gt, isNull, sql } from 'drizzle-orm';
import { createHash, randomBytes } from 'node:crypto';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import { keepOnce } from '../db/once.js';
import type { Sql } from '../db/open.js';
import { crewMember, shareLink } from '../db/schema.js';
import { idTaken, notFound, Refusal } from '../problems.js';

const DAY_MS = 24 * 60 * 60 * 1000;
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Who may look at a job's report without an account, newest first. */
export async function readShareLinks(db: Sql, jobId: string): Promise<ShareLink[]> {
  const rows = await db
    .select({ link: shareLink, by: crewMember.name })
    .from(shareLink)
    .innerJoin(crewMember, eq(crewMember.id, shareLink.by))
    .where(eq(shareLink.jobId, jobId))
    .orderBy(desc(shareLink.at), desc(shareLink.id));
  return rows.map(({ link, by }) => ({
    id: link.id,
    at: link.at.toISOString(),
    by,
    forWhom: link.forWhom,
    expiresAt: link.expiresAt.toISOString(),
    revokedAt: link.revokedAt?.toISOString() ?? null,
    opened: link.opened,
    openedAt: link.openedAt?.toISOString() ?? null,
  }));
}

/**
 * Makes an address by which somebody may look. It is told once; sent again because no answer came, the same link
 * gets a new address, and the one that nobody has seen opens nothing any more.
 */
export async function keepShareLink(
  tx: Sql,
  { jobId, crewId, sent }: { jobId: string; crewId: string; sent: z.output<typeof newShareLink> },
): Promise<{ link: ShareLink; token: string }> {
  const token = randomBytes(32).toString('base64url');
  const { id, forWhom, days } = sent;
  const row = {
    id,
    jobId,
    by: crewId,
    forWhom,
    days,
    tokenHash: hashOf(token),
    expiresAt: new Date(Date.now() + days * DAY_MS),
  };
  if (await keepOnce(tx, shareLink, row, { ...sent, jobId }))
    await logActivity(tx, { by: crewId, jobId, what: `let ${forWhom} look at the report for ${days} days` });
  else {
    const renewed = await tx
      .update(shareLink)
      .set({ tokenHash: hashOf(token) })
      .where(
        and(
          eq(shareLink.id, id),
          eq(shareLink.by, crewId),
          eq(shareLink.opened, 0),
          isNull(shareLink.revokedAt),
        ),
      )
      .returning({ id: shareLink.id });
    if (renewed.length === 0) throw idTaken();
  }
  const link = (await readShareLinks(tx, jobId)).find((one) => one.id === id);
  if (!link) throw notFound('address');
  return { link, token };
}

/** Takes an address back; a second time changes nothing. */
export async function revokeShareLink(
  tx: Sql,
  { jobId, shareId, crewId }: { jobId: string; shareId: string; crewId: string },
): Promise<ShareLink[]> {
  const [row] = await tx
    .select()
    .from(shareLink)
    .where(and(eq(shareLink.jobId, jobId), eq(shareLink.id, shareId)))
    .for('update');
  if (!row) throw notFound('address');
  if (row.revokedAt === null) {
    await tx.update(shareLink).set({ revokedAt: new Date() }).where(eq(shareLink.id, shareId));
    await logActivity(tx, {
      by: crewId,
      jobId,
      what: `took back what let ${row.forWhom} look at the report`,
    });
  }
  return readShareLinks(tx, jobId);
}

export const notOpen = (): Refusal =>
  new Refusal(
    404,
    'Not open',
    'This address opens nothing, or no longer. Ask whoever gave it for a new one.',
  );

/**
 * The job that an address opens.
 * @throws Refusal 404 for one that never was, has run out or was taken back: a stranger is not told which
 */
export async function openShared(db: Sql, token: string): Promise<{ jobId: string; forWhom: string }> {
  const [row] = await db
    .update(shareLink)
    .set({ opened: sql`${shareLink.opened} + 1`, openedAt: new Date() })
    .where(
      and(
        eq(shareLink.tokenHash, hashOf(token)),
        gt(shareLink.expiresAt, new Date()),
        isNull(shareLink.revokedAt),
      ),
    )
    .returning({ jobId: shareLink.jobId, forWhom: shareLink.forWhom });
  if (!row) throw notOpen();
  return row;
}
