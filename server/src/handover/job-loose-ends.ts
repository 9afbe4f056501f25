import type { ReportLooseEnd } from '@near-spoke/core/report';
import { asc, eq } from 'drizzle-orm';
import type { Sql } from '../db/open.js';
import { cableType, connectorType, crewMember, looseEnd, looseGiven, loosePhoto } from '../db/schema.js';
import { photoHeadOf } from '../jpeg.js';
import type { PhotoBytes } from '../links/notes.js';

/** The ends of the loose-work book that a job was given, oldest first, as a report tells them. */
export async function readJobLooseEnds(db: Sql, jobId: string): Promise<ReportLooseEnd[]> {
  const rows = await db
    .select({
      end: looseEnd,
      by: crewMember.name,
      cable: cableType.sheet,
      connector: connectorType.sheet,
    })
    .from(looseGiven)
    .innerJoin(looseEnd, eq(looseEnd.id, looseGiven.looseEndId))
    .innerJoin(crewMember, eq(crewMember.id, looseEnd.by))
    .innerJoin(cableType, eq(cableType.id, looseEnd.cableTypeId))
    .innerJoin(connectorType, eq(connectorType.id, looseEnd.connectorTypeId))
    .where(eq(looseGiven.jobId, jobId))
    .orderBy(asc(looseEnd.seq));
  const photos = await photosGiven(db, jobId);
  return rows.map(({ end, by, cable, connector }) => ({
    id: end.id,
    at: end.at.toISOString(),
    by,
    name: end.name,
    cable: cable.name,
    connector: connector.name,
    outcome: end.outcome,
    lot: end.lot,
    tool: end.tool,
    stopgap: end.stopgap,
    proof: end.proof,
    notAsCard: end.notAsCard,
    functionTest: end.functionTest,
    photos: photos
      .filter(({ looseEndId }) => looseEndId === end.id)
      .map(({ jpegBase64 }) => photoHeadOf(Buffer.from(jpegBase64, 'base64'))),
  }));
}

/** The photos of a job's loose ends, those that are wanted. */
export async function readLoosePhotos(
  db: Sql,
  jobId: string,
  wanted: ReadonlySet<string>,
): Promise<PhotoBytes> {
  const found: PhotoBytes = new Map();
  for (const { jpegBase64 } of await photosGiven(db, jobId)) {
    const { sha256 } = photoHeadOf(Buffer.from(jpegBase64, 'base64'));
    if (wanted.has(sha256)) found.set(sha256, jpegBase64);
  }
  return found;
}

const photosGiven = (db: Sql, jobId: string): Promise<{ looseEndId: string; jpegBase64: string }[]> =>
  db
    .select({ looseEndId: loosePhoto.looseEndId, jpegBase64: loosePhoto.jpegBase64 })
    .from(loosePhoto)
    .innerJoin(looseGiven, eq(looseGiven.looseEndId, loosePhoto.looseEndId))
    .where(eq(looseGiven.jobId, jobId))
    .orderBy(asc(loosePhoto.seq));
