import type { LooseEnd, looseGiving, newLooseEnd, newLoosePhoto, Sight } from '@near-spoke/contracts';
import {
  assign,
  endAsLead,
  judgeTouches,
  readBack,
  USUAL_CHOICES,
  workUp,
  type AssignedContact,
  type MadeTouch,
} from '@near-spoke/core';
import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import { keepOnce } from '../db/once.js';
import type { Sql } from '../db/open.js';
import { cableType, connectorType, crewMember, job, looseEnd, looseGiven, loosePhoto } from '../db/schema.js';
import { bareOf } from '../jpeg.js';
import { readKit } from '../kit/store.js';
import { badField, notFound, Refusal } from '../problems.js';

/** Lines of the book that are shown. */
const SHOWN = 500;

/** The book, newest first. */
export async function readLooseEnds(db: Sql): Promise<LooseEnd[]> {
  const giver = alias(crewMember, 'giver');
  const rows = await db
    .select({ end: looseEnd, by: crewMember.name, given: looseGiven, title: job.title, giver: giver.name })
    .from(looseEnd)
    .innerJoin(crewMember, eq(crewMember.id, looseEnd.by))
    .leftJoin(looseGiven, eq(looseGiven.looseEndId, looseEnd.id))
    .leftJoin(job, eq(job.id, looseGiven.jobId))
    .leftJoin(giver, eq(giver.id, looseGiven.by))
    .orderBy(desc(looseEnd.seq))
    .limit(SHOWN);
  const names = await sheetNames(db);
  const photos = await photosOf(
    db,
    rows.map(({ end }) => end.id),
  );
  return rows.map(
    ({
      end: { seq: _seq, ofCrew: _ofCrew, touched: _touched, at, ...end },
      by,
      given,
      title,
      giver: who,
    }) => ({
      ...end,
      functionTest: [...end.functionTest],
      notAsCard: end.notAsCard && [...end.notAsCard],
      photos: photos.get(end.id) ?? [],
      at: at.toISOString(),
      by,
      cable: names.get(end.cableTypeId) ?? end.cableTypeId,
      connector: names.get(end.connectorTypeId) ?? end.connectorTypeId,
      givenTo: given && { jobId: given.jobId, title: title ?? '', at: given.at.toISOString(), by: who ?? '' },
    }),
  );
}

/** Ids of the photos of some ends, the first one first. */
async function photosOf(db: Sql, ends: readonly string[]): Promise<Map<string, string[]>> {
  const rows = await db
    .select({ id: loosePhoto.id, of: loosePhoto.looseEndId })
    .from(loosePhoto)
    .where(inArray(loosePhoto.looseEndId, [...ends]))
    .orderBy(asc(loosePhoto.seq));
  const photos = new Map<string, string[]>();
  for (const { id, of } of rows) photos.set(of, [...(photos.get(of) ?? []), id]);
  return photos;
}

async function sheetNames(db: Sql): Promise<Map<string, string>> {
  const of = (table: typeof cableType | typeof connectorType) =>
    db.select({ id: table.id, sheet: table.sheet }).from(table as typeof cableType);
  const [cables, connectors] = [await of(cableType), await of(connectorType)];
  return new Map([...cables, ...connectors].map(({ id, sheet }) => [id, sheet.name] as const));
}

/** Keeps an end in the book; what metering it came to is judged here. One that is kept already is left as it is. */
export async function keepLooseEnd(
  tx: Sql,
  end: z.output<typeof newLooseEnd>,
  crewId: string,
): Promise<void> {
  const kit = await readKit(tx);
  const cable = kit.cables.find(({ id }) => id === end.cableTypeId);
  if (!cable) throw badField('cableTypeId', 'The kit has no such cable.');
  const connector = kit.connectors.find(({ id }) => id === end.connectorTypeId);
  if (!connector) throw badField('connectorTypeId', 'The kit has no such connector.');
  const choices = { ...USUAL_CHOICES, ...end.schools, scheme: end.scheme };
  const proof = end.touched && provedBy(endAsLead(cable, connector, choices), end.touched);
  const notAsCard = end.seen && slippedOf(end.seen, assign(cable, connector, choices));
  const kept = await keepOnce(tx, looseEnd, { ...end, proof, notAsCard, by: crewId }, end);
  if (!kept) return;
  await logActivity(tx, {
    by: crewId,
    what: `made ${end.name ? `${end.name}: ` : ''}${connector.name} on ${cable.name}, ${end.outcome}${proof ? `, ${proof}` : ''}, without a job`,
  });
}

/** Contacts on which something else was seen than the card has. */
function slippedOf({ empty, colours }: Sight, card: readonly AssignedContact[]): readonly string[] {
  const stray = Object.keys(colours).find((each) => card.every(({ contact }) => contact !== each));
  if (stray !== undefined)
    throw badField('seen', `This end has no contact ${stray}. Read the contacts of its card.`);
  return readBack(card, { colours, ...(empty ? { empty } : {}) }).slipped;
}

/** Keeps a photo of an end in the book, without what a camera wrote into it. */
export async function keepLoosePhoto(
  tx: Sql,
  endId: string,
  { id, jpeg }: z.output<typeof newLoosePhoto>,
  crewId: string,
): Promise<void> {
  const [end] = await tx.select({ id: looseEnd.id }).from(looseEnd).where(eq(looseEnd.id, endId));
  if (!end) throw notFound('entry of the loose-work book');
  const sent = { id, looseEndId: endId, jpegBase64: bareOf(jpeg).toString('base64') };
  await keepOnce(tx, loosePhoto, { ...sent, by: crewId }, sent);
}

/** A photo's bytes, base64. */
export async function readLoosePhoto(db: Sql, endId: string, photoId: string): Promise<string> {
  const [photo] = await db
    .select({ jpeg: loosePhoto.jpegBase64 })
    .from(loosePhoto)
    .where(and(eq(loosePhoto.id, photoId), eq(loosePhoto.looseEndId, endId)));
  if (!photo) throw notFound('photo');
  return photo.jpeg;
}

function provedBy(
  design: ReturnType<typeof endAsLead>,
  touched: readonly MadeTouch[],
): ReturnType<typeof judgeTouches> {
  if (!design) throw badField('touched', 'This end has no contacts that could be touched one by one.');
  try {
    return judgeTouches(workUp(design).nets, touched);
  } catch (error) {
    if (error instanceof RangeError) throw badField('touched', error.message);
    throw error;
  }
}

/** Gives ends to a job, all or none; one that is the job's already stays so. */
export async function giveLooseEnds(
  tx: Sql,
  { jobId, ends }: z.output<typeof looseGiving>,
  crewId: string,
): Promise<void> {
  const [to] = await tx.select({ id: job.id }).from(job).where(eq(job.id, jobId));
  if (!to) throw notFound('job');
  const wanted = [...new Set(ends)];
  const rows = await tx
    .select({ id: looseEnd.id, name: looseEnd.name, connector: connectorType.sheet, given: looseGiven.jobId })
    .from(looseEnd)
    .innerJoin(connectorType, eq(connectorType.id, looseEnd.connectorTypeId))
    .leftJoin(looseGiven, eq(looseGiven.looseEndId, looseEnd.id))
    .where(inArray(looseEnd.id, wanted));
  if (rows.length < wanted.length) throw notFound('entry of the loose-work book');
  const elsewhere = rows.find(({ given }) => given !== null && given !== jobId);
  if (elsewhere) throw givenElsewhere(elsewhere.name || elsewhere.connector.name);
  const free = rows.filter(({ given }) => given === null);
  if (free.length === 0) return;
  const given = await tx
    .insert(looseGiven)
    .values(free.map(({ id }) => ({ looseEndId: id, jobId, by: crewId })))
    .onConflictDoNothing()
    .returning({ id: looseGiven.looseEndId });
  // Somebody else was quicker.
  if (given.length < free.length) throw givenElsewhere('One of these');
  const words = free.map(({ name, connector }) => name || connector.name).join(', ');
  await logActivity(tx, { by: crewId, jobId, what: `gave loose work to the job: ${words}` });
}

const givenElsewhere = (what: string): Refusal =>
  new Refusal(409, 'Given already', `${what} was given to another job. Read the book again.`);
