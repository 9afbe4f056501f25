import type {
  newPull,
  newReel,
  newReelEntry,
  newVelocity,
  ReelRecord,
  VelocityRecord,
} from '@near-spoke/contracts';
import { asc, desc, eq, inArray } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { randomUUID } from 'node:crypto';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import { keepOnce } from '../db/once.js';
import type { Sql } from '../db/open.js';
import { cableType, crewMember, link, reel, reelEntry, velocityFigure } from '../db/schema.js';
import { badField, idTaken, notFound, refuseOther } from '../problems.js';

/** Who did something, and when if not now. */
interface Doing {
  crewId: string;
  at?: Date;
}

/** All reels by name, each with its ledger, oldest entry first. */
export async function readReels(db: Sql): Promise<ReelRecord[]> {
  const reels = await db.select().from(reel).orderBy(asc(reel.name));
  const entries = await db
    .select({ entry: reelEntry, by: crewMember.name, linkLabel: link.label })
    .from(reelEntry)
    .innerJoin(crewMember, eq(crewMember.id, reelEntry.by))
    .leftJoin(link, eq(link.id, reelEntry.linkId))
    .orderBy(asc(reelEntry.seq));
  return reels.map(({ createdAt: _, ofCrew: _ofCrew, ...each }) => ({
    ...each,
    entries: entries
      .filter(({ entry }) => entry.reelId === each.id)
      .map(({ entry: { seq: _seq, ofCrew: _crew, reelId: _reelId, at, ...entry }, by, linkLabel }) => ({
        ...entry,
        at: at.toISOString(),
        by,
        linkLabel,
      })),
  }));
}

async function requireCable(tx: Sql, id: string): Promise<void> {
  const [known] = await tx.select({ id: cableType.id }).from(cableType).where(eq(cableType.id, id));
  if (!known) throw badField('cableTypeId', `There is no cable ${id} in the kit.`);
}

/** Enters a reel with what its label says; one that is there already is left as it is. */
export async function addReel(
  tx: Sql,
  { labelledM, ...given }: z.output<typeof newReel>,
  { crewId, at = new Date() }: Doing,
): Promise<void> {
  await requireCable(tx, given.cableTypeId);
  if (!(await keepOnce(tx, reel, { ...given, createdAt: at }, given))) return;
  if (labelledM !== null)
    await tx.insert(reelEntry).values({
      id: randomUUID(),
      reelId: given.id,
      what: 'labelled',
      lengthM: labelledM,
      by: crewId,
      at,
    });
  await logActivity(tx, { by: crewId, at, what: `entered the ${given.kind} ${given.name}` });
}

/** Enters a line in a reel's ledger, true; one that is there already is left as it is, false. */
export async function addEntry(
  tx: Sql,
  reelId: string,
  entry: z.output<typeof newReelEntry>,
  { crewId, at = new Date() }: Doing,
): Promise<boolean> {
  const [own] = await tx.select().from(reel).where(eq(reel.id, reelId)).for('update');
  if (!own) throw notFound('reel');
  const entries = await tx.select().from(reelEntry).where(eq(reelEntry.reelId, reelId));
  const known = entries.find(({ id }) => id === entry.id);
  if (known) {
    refuseOther(known, entry);
    return false;
  }
  const [elsewhere] = await tx.select({ id: reelEntry.id }).from(reelEntry).where(eq(reelEntry.id, entry.id));
  if (elsewhere) throw idTaken();
  if (entry.corrects !== null) {
    const corrected = entries.find(({ id }) => id === entry.corrects);
    if (!corrected) throw badField('corrects', 'The entry to correct is not in this ledger.');
    if (entries.some(({ corrects }) => corrects === entry.corrects))
      throw badField('corrects', 'This entry was corrected already: correct the correction.', 409);
    if (corrected.what !== entry.what)
      throw badField('corrects', `A line that was ${corrected.what} is corrected by one of its kind.`);
  }
  if (entry.what === 'drawn' && entry.linkId !== null) {
    const [drawnFor] = await tx.select().from(link).where(eq(link.id, entry.linkId));
    if (!drawnFor) throw badField('linkId', 'There is no such link.');
    if (drawnFor.cableTypeId !== own.cableTypeId)
      throw badField(
        'linkId',
        `${drawnFor.label} is planned in ${drawnFor.cableTypeId}, not ${own.cableTypeId}.`,
      );
  }
  await tx.insert(reelEntry).values({ ...entry, reelId, by: crewId, at });
  const length = `${entry.lengthM.toFixed(1)} m`;
  const did =
    entry.what === 'drawn' ? `drew ${length} from ${own.name}` : `measured ${length} left on ${own.name}`;
  await logActivity(tx, {
    by: crewId,
    at,
    what: entry.corrects === null ? did : `corrected the ledger of ${own.name}: ${did}`,
    ...(entry.what === 'drawn' && entry.linkId ? { linkId: entry.linkId } : {}),
  });
  return true;
}

/**
 * Enters pieces that were pulled in together, each on the drum or box it came off: all, or none. A link whose piece is in a
 * ledger already is refused, so that two who tell of one pull do not draw it twice.
 *
 * @returns the pieces that were not there before
 */
export async function pullPieces(
  tx: Sql,
  { reels, pieces }: z.output<typeof newPull>,
  doing: Doing,
): Promise<z.output<typeof newPull>['pieces']> {
  for (const given of reels) await addReel(tx, given, doing);
  const wanted = [...new Set(pieces.flatMap(({ linkId }) => linkId ?? []))].sort();
  const drawnFor = wanted.length > 0 ? await drawsOf(tx, wanted) : [];
  const added = [];
  for (const [at, { reelId, ...piece }] of pieces.entries()) {
    const { linkId } = piece;
    const before = drawnFor.find(({ entry }) => linkId && entry.linkId === linkId && entry.id !== piece.id);
    const twice = linkId !== null && pieces.findIndex((one) => one.linkId === linkId) !== at;
    if (before || twice)
      throw badField(
        `pieces[${at}].linkId`,
        before
          ? `${before.label} is drawn from ${before.reel} already: correct that line where its piece was another.`
          : 'The same link stands twice in this pull.',
        409,
      );
    const entry = { ...piece, what: 'drawn' as const, corrects: null };
    if (await addEntry(tx, reelId, entry, doing)) added.push({ reelId, ...piece });
  }
  return added;
}

/** Draws for these links that hold: those that no later line corrects. The links are held until it is all kept. */
async function drawsOf(tx: Sql, linkIds: readonly string[]) {
  // In one order, so that two pulls never wait for each other.
  await tx
    .select({ id: link.id })
    .from(link)
    .where(inArray(link.id, [...linkIds]))
    .orderBy(link.id)
    .for('update');
  const later = alias(reelEntry, 'later');
  const rows = await tx
    .select({ entry: reelEntry, reel: reel.name, label: link.label, corrected: later.id })
    .from(reelEntry)
    .innerJoin(reel, eq(reel.id, reelEntry.reelId))
    .innerJoin(link, eq(link.id, reelEntry.linkId))
    .leftJoin(later, eq(later.corrects, reelEntry.id))
    .where(inArray(reelEntry.linkId, [...linkIds]));
  return rows.filter(({ entry, corrected }) => corrected === null && entry.lengthM > 0);
}

/** Velocity factors that were measured, newest first. */
export async function readVelocities(db: Sql): Promise<VelocityRecord[]> {
  const rows = await db
    .select({ figure: velocityFigure, by: crewMember.name })
    .from(velocityFigure)
    .innerJoin(crewMember, eq(crewMember.id, velocityFigure.by))
    .orderBy(desc(velocityFigure.seq));
  return rows.map(({ figure: { seq: _, ofCrew: _ofCrew, at, ...figure }, by }) => ({
    ...figure,
    at: at.toISOString(),
    by,
  }));
}

/** Keeps a velocity factor; one that is kept already is left as it is. */
export async function keepVelocity(
  tx: Sql,
  figure: z.output<typeof newVelocity>,
  { crewId, at = new Date() }: Doing,
): Promise<void> {
  await requireCable(tx, figure.cableTypeId);
  if (figure.reelId !== null) {
    const [own] = await tx.select().from(reel).where(eq(reel.id, figure.reelId));
    if (!own) throw badField('reelId', 'There is no such reel.');
    if (own.cableTypeId !== figure.cableTypeId)
      throw badField('reelId', `${own.name} holds ${own.cableTypeId}, not ${figure.cableTypeId}.`);
  }
  if (!(await keepOnce(tx, velocityFigure, { ...figure, by: crewId, at }, figure))) return;
  await logActivity(tx, {
    by: crewId,
    at,
    what: `measured a velocity factor of ${figure.velocityFactor.toFixed(3)} for ${figure.cableTypeId}`,
  });
}
