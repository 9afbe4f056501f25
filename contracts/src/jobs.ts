import * as z from 'zod';
import { carries, jobStretches } from './carries.js';
import { lengthM, line, timestamp, uuid, version } from './text.js';

export const scheme = z.enum(['T568A', 'T568B'], { error: 'A job is wired to T568A or T568B, never mixed.' });
export const units = z.enum(['metric', 'imperial'], { error: 'Units are metric or imperial.' });
export const stage = z.enum(['planned', 'one-end', 'both-ends', 'failed', 'proved', 'handed-over']);

export const job = z.object({
  id: uuid,
  site: z.string(),
  title: z.string(),
  hub: z.string(),
  scheme,
  units,
  /** What is known of the stretches that its links share. */
  stretches: jobStretches,
  /** When it was closed; nothing while it is worked on. */
  closedAt: timestamp.optional(),
  version,
  updatedAt: timestamp,
  updatedBy: z.string(),
  stages: z.record(stage, z.int().nonnegative()),
});
export type Job = z.infer<typeof job>;

const jobFields = {
  site: line(120),
  title: line(120),
  hub: line(40),
  scheme,
  units,
};
export const newJob = z.strictObject({ id: uuid, ...jobFields, stretches: jobStretches.optional() });
export const jobChange = z.strictObject({
  version,
  ...z.object({ ...jobFields, stretches: jobStretches, closed: z.boolean() }).partial().shape,
});
export type JobChange = z.infer<typeof jobChange>;
/** A new job with the plan of another, and nothing of its record. */
export const jobCopy = z.strictObject({
  id: uuid,
  site: jobFields.site,
  title: jobFields.title,
  hub: jobFields.hub,
});
export type JobCopy = z.infer<typeof jobCopy>;

export const routeStretch = z.strictObject({ name: line(60), lengthM });
export const label = line(24).regex(/^[\p{L}\p{N}][\p{L}\p{N}._/ -]*$/u, {
  error: 'A label is letters, figures, dots, dashes and spaces, beginning with a letter or figure.',
});

/** A link as the job's list shows it. */
export const link = z.object({
  id: uuid,
  jobId: uuid,
  label: z.string(),
  position: z.int(),
  near: z.object({
    hub: z.string(),
    /** It begins in another hub than its job's own. */
    otherHub: z.boolean().optional(),
    panel: z.string(),
    port: z.string(),
    connectorId: z.string(),
    /** It holds a good connector now. */
    done: z.boolean(),
  }),
  far: z.object({ room: z.string(), outlet: z.string(), connectorId: z.string(), done: z.boolean() }),
  cableTypeId: z.string(),
  lengthM: z.number(),
  route: z.array(z.object({ name: z.string(), lengthM: z.number() })),
  carries,
  stage,
  /** Where it stands, in words. */
  standing: z.string(),
  /** What to do next, in words; empty when nothing is left. */
  nextStep: z.string(),
  /** Since when it is no part of the job any more, by whom and why; nothing while it is. */
  out: z.object({ at: timestamp, by: z.string(), reason: z.string() }).optional(),
  version,
  updatedAt: timestamp,
  updatedBy: z.string(),
});
export type Link = z.infer<typeof link>;

const linkFields = {
  label,
  /** Where it begins; left out, or empty, in the job's own hub. */
  hub: z.union([z.literal(''), line(40)], { error: 'At most 40 characters.' }).optional(),
  panel: line(40),
  port: line(16),
  room: line(80),
  outlet: line(80),
  cableTypeId: line(40),
  nearConnectorId: line(40),
  farConnectorId: line(40),
  lengthM,
  route: z.array(routeStretch).max(30, { error: 'At most 30 stretches.' }),
  carries: carries.optional(),
};
export const newLink = z.strictObject({ id: uuid, ...linkFields });
export type NewLink = z.infer<typeof newLink>;
export const newLinks = z.strictObject({
  links: z
    .array(newLink)
    .min(1, { error: 'Give at least one link.' })
    .max(1000, { error: 'At most 1000 links at once.' }),
});
export const linkChange = z.strictObject({ version, ...z.object(linkFields).partial().shape });
export type LinkChange = z.infer<typeof linkChange>;
/** Changes of several links of a job: all, or none. */
export const linkChanges = z.strictObject({
  changes: z
    .array(linkChange.extend({ id: uuid }))
    .min(1, { error: 'Give at least one change.' })
    .max(1000, { error: 'At most 1000 links at once.' }),
});
export type LinkChanges = z.infer<typeof linkChanges>;

const someLinks = z
  .array(z.strictObject({ id: uuid, version }))
  .min(1, { error: 'Give at least one link.' })
  .max(1000, { error: 'At most 1000 links at once.' });
/** Links that are to be no part of the job any more, all or none. */
export const linksOut = z.strictObject({
  links: someLinks,
  /** Why; wanted where something was recorded of one of them. */
  reason: z.union([z.literal(''), line(200)]),
});
export type LinksOut = z.infer<typeof linksOut>;
/** Links that are to be part of the job again, all or none. */
export const linksBack = z.strictObject({ links: someLinks });
export type LinksBack = z.infer<typeof linksBack>;
