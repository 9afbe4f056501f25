import type { newLinkNote, PhotoHead } from '@near-spoke/contracts';
import { and, eq, inArray, isNotNull } from 'drizzle-orm';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import type { Sql } from '../db/open.js';
import { link, linkNote } from '../db/schema.js';
import { bareOf, photoHeadOf } from '../jpeg.js';
import { notFound } from '../problems.js';
import { refreshSearch } from '../search/refresh.js';
import { alreadyRecorded, drawTurn, lockLink, onDevice, type Recorder } from './record.js';

/** Keeps a note of a link; a photo is kept without what a camera wrote into it. No verdict rests on it. */
export async function recordNote(
  tx: Sql,
  linkId: string,
  { id, deviceAt, end, words, jpeg }: z.output<typeof newLinkNote>,
  by: Recorder,
): Promise<void> {
  const bare = jpeg === null ? null : bareOf(jpeg);
  const row = await lockLink(tx, linkId);
  const sent = { id, end, words, jpegBase64: bare?.toString('base64') ?? null };
  if (await alreadyRecorded(tx, linkNote, linkId, sent)) return;
  const at = by.at ?? new Date();
  const turn = await drawTurn(tx, linkId);
  await tx.insert(linkNote).values({
    ...sent,
    ...onDevice({ deviceAt }),
    linkId,
    by: by.crewId,
    at,
    turn,
    photo: bare && sizeOf(photoHeadOf(bare)),
  });
  const what = `${bare ? 'took a photo' : 'made a note'}${end ? ` of the ${end} end` : ''}${words ? `: ${words}` : ''}`;
  await logActivity(tx, { by: by.crewId, at, jobId: row.jobId, linkId, what });
  await refreshSearch(tx, eq(link.id, linkId));
}

/** What is kept of a photo beside its bytes, from which the database works out the digest. */
export const sizeOf = ({ widthPx, heightPx, bytes }: PhotoHead): Omit<PhotoHead, 'sha256'> => ({
  widthPx,
  heightPx,
  bytes,
});

/** The photo of a note. */
export async function readNotePhoto(db: Sql, linkId: string, noteId: string): Promise<Buffer> {
  const [row] = await db
    .select({ jpeg: linkNote.jpegBase64 })
    .from(linkNote)
    .where(and(eq(linkNote.id, noteId), eq(linkNote.linkId, linkId), isNotNull(linkNote.jpegBase64)));
  if (!row?.jpeg) throw notFound('photo');
  return Buffer.from(row.jpeg, 'base64');
}

/** Bytes of photos, base64, by their digests. */
export type PhotoBytes = Map<string, string>;

const AT_A_TIME = 50;

/** The photos of some links' notes, those that are wanted. */
export async function readNotePhotos(
  db: Sql,
  linkIds: readonly string[],
  wanted: ReadonlySet<string>,
): Promise<PhotoBytes> {
  const found: PhotoBytes = new Map();
  for (let at = 0; at < linkIds.length; at += AT_A_TIME) {
    const rows = await db
      .select({ jpeg: linkNote.jpegBase64, sha256: linkNote.photoSha256 })
      .from(linkNote)
      .where(
        and(inArray(linkNote.linkId, linkIds.slice(at, at + AT_A_TIME)), isNotNull(linkNote.jpegBase64)),
      );
    for (const { jpeg, sha256 } of rows)
      if (jpeg !== null && sha256 !== null && wanted.has(sha256)) found.set(sha256, jpeg);
  }
  return found;
}
