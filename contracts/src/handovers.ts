import { reportParts } from '@near-spoke/core';
import type { JobSeal } from '@near-spoke/core/report';
import * as z from 'zod';
import { link } from './jobs.js';
import { line, note, timestamp, uuid } from './text.js';

/** Several links handed over at once: each that is proved is, the others are told with why not. */
export const newHandovers = z.strictObject({
  handovers: z
    .array(z.strictObject({ id: uuid, linkId: uuid }))
    .min(1, { error: 'Choose at least one link.' })
    .max(200, { error: 'At most 200 links at once.' }),
});
export type NewHandovers = z.input<typeof newHandovers>;
export const handoversGiven = z.object({
  given: z.array(uuid),
  refused: z.array(z.object({ linkId: uuid, label: z.string(), why: z.string() })),
  links: z.array(link),
});
export type HandoversGiven = z.infer<typeof handoversGiven>;

/** Who accepted what was handed over, and the seal over it as it then was. */
export const signOff = z.object({
  id: uuid,
  at: timestamp,
  /** Who of the crew took it down. */
  by: z.string(),
  name: z.string(),
  role: z.string(),
  note: z.string(),
  digest: z.string(),
  /** So many links it covers. */
  links: z.int(),
});
export type SignOff = z.infer<typeof signOff>;
export const newSignOff = z.strictObject({
  id: uuid,
  name: line(80),
  role: line(80),
  note: note.default(''),
});
export type NewSignOff = z.input<typeof newSignOff>;

export const jobSeal = z.custom<JobSeal>((value) => typeof value === 'object' && value !== null);

/** Lets somebody without an account look at a job's report, until a day or until it is taken back. */
export const shareLink = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  /** Who it is for. */
  forWhom: z.string(),
  expiresAt: timestamp,
  revokedAt: timestamp.nullable(),
  /** How often it was opened, and when last. */
  opened: z.int(),
  openedAt: timestamp.nullable(),
});
export type ShareLink = z.infer<typeof shareLink>;
export const newShareLink = z.strictObject({
  id: uuid,
  forWhom: line(80),
  days: z
    .int({ error: 'Give whole days.' })
    .min(1, { error: 'At least a day.' })
    .max(365, { error: 'At most a year: give a new one then.' }),
});
/** The address is told once, when it is made: the database keeps only its SHA-256. */
export const shareLinkMade = z.object({ link: shareLink, token: z.string() });
export const shareToken = z.object({
  token: z.string().regex(/^[\w-]{43}$/, { error: 'This is no such address.' }),
});

/** The parts of a report, as an address names them: `summary,links,seal`. */
export const partsInAddress = z.string().refine((text) => reportParts(text.split(',')) !== null, {
  error: 'Name parts of a report, each once, with commas between.',
});

/** A lead that goes with a job when it is handed over. */
export const jobLead = z.object({
  adapterId: uuid,
  name: z.string(),
  version: z.int(),
  /** How many are on record, and how many of this version are proved. */
  built: z.int(),
  proved: z.int(),
});
export type JobLead = z.infer<typeof jobLead>;
export const newJobLead = z.strictObject({ adapterId: uuid });
