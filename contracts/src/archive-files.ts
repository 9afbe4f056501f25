import type { JobSeal } from '@near-spoke/core/report';
import * as z from 'zod';
import { newJob, newLink } from './jobs.js';
import { jpegPicture } from './photos.js';
import { cableWork, handover, linkNote, reopening, termination, testRecord } from './records.js';
import { traceRecord } from './reflectometry.js';
import { line, note, timestamp, uuid } from './text.js';

/** What is in an archive, in this order; the list of them comes last. */
export const ARCHIVE_FILES = [
  'job.json',
  'kit.json',
  'links.ndjson',
  'links.csv',
  'log.ndjson',
  'manifest.json',
] as const;
export type ArchiveFile = (typeof ARCHIVE_FILES)[number];
/** What archives from before it was in them do not have. */
export const ARCHIVE_MAY_LACK: readonly ArchiveFile[] = ['log.ndjson'];

const digest = z.string().regex(/^[0-9a-f]{64}$/, { error: 'A checksum is 64 hexadecimal digits.' });

/** `near-spoke/archive`: what else is in the file, by size and SHA-256. */
export const archiveManifest = z.strictObject({
  format: z.literal('near-spoke/archive', { error: 'This is no near-spoke/archive.' }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  files: z
    .array(z.strictObject({ name: z.enum(ARCHIVE_FILES), bytes: z.int().nonnegative(), sha256: digest }))
    .max(ARCHIVE_FILES.length),
});
export type ArchiveManifest = z.infer<typeof archiveManifest>;

/** The job, who worked on it, and who signed for it. */
export const archiveJob = z.strictObject({
  job: newJob,
  /** Everybody whom its records name. */
  people: z.array(line(80)).max(5000),
  /** Rounds of tests over the job. */
  rounds: z
    .array(z.strictObject({ id: uuid, startedAt: timestamp, by: line(80), closed: z.boolean() }))
    .max(10_000)
    .default([]),
  signOffs: z
    .array(
      z.strictObject({
        id: uuid,
        at: timestamp,
        by: line(80),
        name: line(80),
        role: line(80),
        note,
        digest,
        seal: z.custom<JobSeal>((value) => typeof value === 'object' && value !== null),
      }),
    )
    .max(1000),
});

/** A link with everything recorded of it: a line of `links.ndjson`. */
export const archiveLink = z.strictObject({
  plan: newLink,
  /** Of a link that is no part of the job any more. */
  out: z.strictObject({ at: timestamp, by: line(80), reason: z.string().max(200) }).optional(),
  terminations: z.array(termination).max(10_000),
  cableWork: z.array(cableWork).max(10_000),
  tests: z.array(testRecord).max(10_000),
  handovers: z.array(handover).max(10_000),
  reopenings: z.array(reopening).max(10_000),
  /** With the bytes of their photos. */
  notes: z
    .array(linkNote.extend({ jpeg: jpegPicture.nullable() }))
    .max(10_000)
    .default([]),
  traces: z.array(traceRecord.extend({ turn: z.int().positive() })).max(1000),
  /** What was wrong and is proved gone: from it the crew's rates are learned. */
  found: z
    .array(
      z.strictObject({
        testId: uuid,
        at: timestamp,
        slip: z.string().max(60),
        kind: z.string().max(60),
        place: z.string().max(60),
        connectorTypeId: z.string().max(60).nullable(),
        faultId: z.string().max(400),
        words: z.string().max(1000),
      }),
    )
    .max(1000),
});
export type ArchiveLink = z.infer<typeof archiveLink>;

/** Something that happened: a line of `log.ndjson`, in the order of its time. */
export const archiveLine = z.strictObject({
  at: timestamp,
  by: line(80),
  linkId: uuid.nullable(),
  what: z.string().min(1).max(4000),
});
export type ArchiveLine = z.infer<typeof archiveLine>;
