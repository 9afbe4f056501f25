import type {
  AdapterRecord,
  AdapterSummary,
  AdapterVersion,
  newAdapterPhoto,
  newAdapterVersion,
  madeTouch,
  newBuild,
} from '@near-spoke/contracts';
import { designOf } from '@near-spoke/contracts';
import {
  BadAnswers,
  BadDesign,
  checkAdapter,
  judgeBuild,
  type MadeTouch,
  workUp,
  type AdapterDesign,
} from '@near-spoke/core';
import { and, asc, desc, eq } from 'drizzle-orm';
import { isDeepStrictEqual } from 'node:util';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import { keepOnce } from '../db/once.js';
import type { Sql } from '../db/open.js';
import { adapter, adapterBuild, adapterPhoto, adapterVersion, crewMember } from '../db/schema.js';
import { bareOf } from '../jpeg.js';
import { badField, changedSince, notFound } from '../problems.js';

/** Who did something, and when if not now. */
interface Doing {
  crewId: string;
  at?: Date;
}

/** All adapters by name, as they are now. */
export async function readAdapters(db: Sql): Promise<AdapterSummary[]> {
  const rows = await db
    .select({ kept: adapterVersion, by: crewMember.name })
    .from(adapter)
    .innerJoin(
      adapterVersion,
      and(eq(adapterVersion.adapterId, adapter.id), eq(adapterVersion.version, adapter.version)),
    )
    .innerJoin(crewMember, eq(crewMember.id, adapterVersion.by));
  const builds = await db
    .select({ adapterId: adapterBuild.adapterId, verdict: adapterBuild.verdict })
    .from(adapterBuild);
  return rows
    .map(({ kept: { adapterId, version, at, note, design }, by }): AdapterSummary => {
      const findings = checkAdapter(design);
      const count = (severity: 'wrong' | 'unsure'): number =>
        findings.filter((finding) => finding.severity === severity).length;
      const own = builds.filter((build) => build.adapterId === adapterId);
      return {
        id: adapterId,
        version,
        at: at.toISOString(),
        by,
        note,
        name: design.name,
        ends: design.ends.map(({ name }) => name),
        wrong: count('wrong'),
        unsure: count('unsure'),
        own: design.ends.flatMap(({ layout }) => (layout && typeof layout === 'object' ? [layout] : [])),
        built: own.length,
        proved: own.filter(({ verdict }) => verdict === 'proved').length,
      };
    })
    .sort((a, b) => a.name.localeCompare(b.name));
}

const heads = (db: Sql, adapterId: string) =>
  db
    .select({ kept: adapterVersion, by: crewMember.name })
    .from(adapterVersion)
    .innerJoin(crewMember, eq(crewMember.id, adapterVersion.by))
    .where(eq(adapterVersion.adapterId, adapterId))
    .orderBy(desc(adapterVersion.version));

/** An adapter as it is now, with what was before and what was built of it. */
export async function readAdapter(db: Sql, id: string): Promise<AdapterRecord> {
  const rows = await heads(db, id);
  const versions = rows.map(({ kept: { version, at, note }, by }) => ({
    version,
    at: at.toISOString(),
    by,
    note,
  }));
  const [now] = versions;
  const [row] = rows;
  if (!now || !row) throw notFound('adapter');
  const builds = await db
    .select({ build: adapterBuild, by: crewMember.name })
    .from(adapterBuild)
    .innerJoin(crewMember, eq(crewMember.id, adapterBuild.by))
    .where(eq(adapterBuild.adapterId, id))
    .orderBy(desc(adapterBuild.seq));
  const photos = await db
    .select({
      id: adapterPhoto.id,
      at: adapterPhoto.at,
      end: adapterPhoto.end,
      words: adapterPhoto.words,
      by: crewMember.name,
    })
    .from(adapterPhoto)
    .innerJoin(crewMember, eq(crewMember.id, adapterPhoto.by))
    .where(eq(adapterPhoto.adapterId, id))
    .orderBy(asc(adapterPhoto.seq));
  return {
    id,
    ...now,
    design: row.kept.design,
    versions,
    builds: builds.map(({ build: { id: buildId, at, version, name, heard, verdict, note }, by }) => ({
      id: buildId,
      at: at.toISOString(),
      by,
      version,
      name,
      beeped: [...heard.beeped],
      ...(heard.touched ? { touched: heard.touched.map(asSent) } : {}),
      parts: [...heard.parts],
      supplies: [...heard.supplies],
      functions: [...heard.functions],
      verdict,
      note,
    })),
    photos: photos.map(({ at, ...photo }) => ({ ...photo, at: at.toISOString() })),
  };
}

/** An adapter as it was in one version. */
export async function readVersion(db: Sql, id: string, version: number): Promise<AdapterVersion> {
  const row = (await heads(db, id)).find(({ kept }) => kept.version === version);
  if (!row) throw notFound('version of this adapter');
  const { at, note, design } = row.kept;
  return { version, at: at.toISOString(), by: row.by, note, design };
}

/** A design that can be worked up; what cannot is said of the field that it lies in. */
function requireSound(design: AdapterDesign): void {
  try {
    workUp(design);
  } catch (error) {
    if (error instanceof BadDesign) throw badField('file.joins', error.message);
    throw error;
  }
}

/**
 * Keeps an adapter: a new one (version 0), or the next version of the one that was opened. A design
 * that says nothing new makes no version, so that sending twice is harmless.
 */
export async function keepAdapter(
  tx: Sql,
  { id, version, note, file }: z.output<typeof newAdapterVersion>,
  { crewId, at = new Date() }: Doing,
): Promise<void> {
  const design = designOf(file);
  requireSound(design);
  // Two that send one new adapter at once wait for each other here, and the second finds it kept.
  if (version === 0) await tx.insert(adapter).values({ id, version: 0 }).onConflictDoNothing();
  const [head] = await tx.select().from(adapter).where(eq(adapter.id, id)).for('update');
  if (!head) throw notFound('adapter');
  if (head.version > 0) {
    const now = await readVersion(tx, id, head.version);
    if (isDeepStrictEqual(JSON.parse(JSON.stringify(design)), now.design)) return;
    if (head.version !== version) throw changedSince(now, now.by, now.at);
  }
  const next = head.version + 1;
  await tx.update(adapter).set({ version: next }).where(eq(adapter.id, id));
  await tx.insert(adapterVersion).values({ adapterId: id, version: next, at, by: crewId, note, design });
  await logActivity(tx, { by: crewId, at, what: `kept the adapter ${design.name}, version ${next}` });
}

/** Keeps what proving a built lead gave; one that is kept already is left as it is. */
export async function addBuild(
  tx: Sql,
  adapterId: string,
  { id, version, name, note, ...heard }: z.output<typeof newBuild>,
  { crewId, at = new Date() }: Doing,
): Promise<void> {
  const { design } = await readVersion(tx, adapterId, version);
  const verdict = judged(design, heard);
  const sent = { id, adapterId, version, name, note, heard };
  if (!(await keepOnce(tx, adapterBuild, { ...sent, verdict, by: crewId, at }, sent))) return;
  await logActivity(tx, {
    by: crewId,
    at,
    what: `built ${design.name}, ${name}: ${verdict}`,
  });
}

/** A touch as it goes out: contacts without anything else. */
const asSent = ({ one, other, joined, beeped }: MadeTouch): z.output<typeof madeTouch> => ({
  one: [...one],
  other: [...other],
  ...(joined ? { joined: [...joined] } : {}),
  beeped,
});

function judged(
  design: AdapterDesign,
  heard: Parameters<typeof judgeBuild>[1],
): ReturnType<typeof judgeBuild> {
  try {
    return judgeBuild(design, heard);
  } catch (error) {
    if (error instanceof BadAnswers) throw badField(heard.touched ? 'touched' : 'beeped', error.message);
    throw error;
  }
}

/** Keeps a photo; one that is kept already is left as it is. */
export async function addPhoto(
  tx: Sql,
  adapterId: string,
  { id, end, words, jpeg }: z.output<typeof newAdapterPhoto>,
  { crewId, at = new Date() }: Doing,
): Promise<void> {
  const [own] = await tx.select({ id: adapter.id }).from(adapter).where(eq(adapter.id, adapterId));
  if (!own) throw notFound('adapter');
  const sent = { id, adapterId, end, words, jpegBase64: bareOf(jpeg).toString('base64') };
  await keepOnce(tx, adapterPhoto, { ...sent, by: crewId, at }, sent);
}

/** A photo's bytes, base64. */
export async function readPhoto(db: Sql, adapterId: string, photoId: string): Promise<string> {
  const [photo] = await db
    .select({ jpeg: adapterPhoto.jpegBase64 })
    .from(adapterPhoto)
    .where(and(eq(adapterPhoto.id, photoId), eq(adapterPhoto.adapterId, adapterId)));
  if (!photo) throw notFound('photo');
  return photo.jpeg;
}
