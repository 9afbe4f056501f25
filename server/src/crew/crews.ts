import {
  INVITATION_LENGTH,
  INVITATION_LETTERS,
  type crewRename,
  type Invitation,
  type newInvitation,
} from '@near-spoke/contracts';
import { and, desc, eq, gt, isNotNull, isNull, or } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { createHash, randomInt } from 'node:crypto';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import { keepOnce } from '../db/once.js';
import type { Sql } from '../db/open.js';
import { crew, crewInvitation, crewMember } from '../db/schema.js';
import { changedSince, idTaken, notFound } from '../problems.js';

const DAYS = 7;
const DAY_MS = 24 * 60 * 60 * 1000;
const newCode = (): string =>
  Array.from(
    { length: INVITATION_LENGTH },
    () => INVITATION_LETTERS[randomInt(INVITATION_LETTERS.length)],
  ).join('');

/** Calls the crew that is worked in otherwise. */
export async function renameCrew(
  tx: Sql,
  { name, version }: z.output<typeof crewRename>,
  by: string,
): Promise<void> {
  const [now] = await tx.select().from(crew).for('update');
  if (!now) throw notFound('crew');
  if (now.name === name) return;
  if (now.version !== version)
    throw changedSince({ name: now.name, version: now.version }, 'another lead', new Date().toISOString());
  await tx.update(crew).set({ name, version: version + 1 });
  await logActivity(tx, { by, what: `called the crew ${name}; it was ${now.name}` });
}

const who = alias(crewMember, 'who');

/** Codes that still let somebody in, or did; the newest first. */
export async function readInvitations(db: Sql): Promise<Invitation[]> {
  const rows = await db
    .select({ row: crewInvitation, by: crewMember.name, usedBy: who.name })
    .from(crewInvitation)
    .innerJoin(crewMember, eq(crewMember.id, crewInvitation.by))
    .leftJoin(who, eq(who.id, crewInvitation.usedBy))
    .where(or(isNotNull(crewInvitation.usedBy), gt(crewInvitation.expiresAt, new Date())))
    .orderBy(desc(crewInvitation.at), desc(crewInvitation.id));
  return rows.map(({ row, by, usedBy }) => ({
    id: row.id,
    role: row.role,
    by,
    at: row.at.toISOString(),
    expiresAt: row.expiresAt.toISOString(),
    usedBy,
  }));
}

/**
 * Makes a code by which somebody of another crew comes in. It is told once; sent again because no answer came, it gets a new
 * code, and the one that nobody has seen lets nobody in any more.
 */
export async function invite(
  tx: Sql,
  sent: z.output<typeof newInvitation>,
  by: string,
): Promise<{ code: string; invitation: Invitation }> {
  const code = newCode();
  const codeHash = createHash('sha256').update(code).digest('hex');
  const expiresAt = new Date(Date.now() + DAYS * DAY_MS);
  if (await keepOnce(tx, crewInvitation, { ...sent, codeHash, by, expiresAt }, sent))
    await logActivity(tx, { by, what: `made a code to come into the crew as ${sent.role}` });
  else {
    const renewed = await tx
      .update(crewInvitation)
      .set({ codeHash })
      .where(and(eq(crewInvitation.id, sent.id), eq(crewInvitation.by, by), isNull(crewInvitation.usedBy)))
      .returning({ id: crewInvitation.id });
    if (renewed.length === 0) throw idTaken();
  }
  const invitation = (await readInvitations(tx)).find(({ id }) => id === sent.id);
  if (!invitation) throw idTaken();
  return { code: code.replace(/(.{4})(?=.)/g, '$1-'), invitation };
}

/** Takes a code back that nobody has used; a second time changes nothing. */
export async function takeBack(tx: Sql, id: string, by: string): Promise<void> {
  const gone = await tx
    .delete(crewInvitation)
    .where(and(eq(crewInvitation.id, id), isNull(crewInvitation.usedBy)))
    .returning({ role: crewInvitation.role });
  for (const { role } of gone)
    await logActivity(tx, { by, what: `took back a code to come into the crew as ${role}` });
}
