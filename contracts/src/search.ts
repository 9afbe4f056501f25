import * as z from 'zod';
import { stage } from './jobs.js';
import { timestamp, uuid } from './text.js';

export const searchText = z.object({
  text: z
    .string()
    .trim()
    .min(1, { error: 'Write what is looked for.' })
    .max(200, { error: 'At most 200 characters.' }),
});

/** A link that was found, with where it is and how it stands. */
export const foundLink = z.object({
  linkId: uuid,
  jobId: uuid,
  label: z.string(),
  site: z.string(),
  title: z.string(),
  from: z.string(),
  to: z.string(),
  stage,
  standing: z.string(),
  /** When something was last done to it; null where nothing was. */
  at: timestamp.nullable(),
});
export type FoundLink = z.infer<typeof foundLink>;

/** Anything else that is called so. */
export const foundOther = z.object({
  kind: z.enum(['job', 'adapter', 'reel']),
  id: uuid,
  name: z.string(),
  words: z.string(),
});
export type FoundOther = z.infer<typeof foundOther>;

export const searchFound = z.object({
  /** Pieces of what was typed, and what they were taken for; the rest was looked for as it stands. */
  understood: z.array(z.object({ text: z.string(), as: z.string() })),
  words: z.array(z.string()),
  links: z.array(foundLink),
  /** So many links there are; as many as are counted, where there are more. */
  count: z.int(),
  counted: z.boolean(),
  others: z.array(foundOther),
});
export type SearchFound = z.infer<typeof searchFound>;
