import * as z from 'zod';
import { lossPoints, typeId } from './kit.js';
import { lengthM, line, timestamp, uuid } from './text.js';

const velocityFactor = z
  .number({ error: 'Give the velocity factor.' })
  .min(0.3, { error: 'No cable is slower than 0.3.' })
  .max(1, { error: 'No cable is faster than light: at most 1.' });
const lot = z.string().trim().max(40, { error: 'At most 40 characters.' });
const drawn = z.number({ error: 'Give the length in metres.' }).min(0).max(10_000);

export const reelKind = z.enum(['drum', 'box'], { error: 'Cable comes on a drum or in a box.' });

/** A drum or a box of cable. */
export const newReel = z.strictObject({
  id: uuid,
  name: line(40),
  kind: reelKind,
  cableTypeId: typeId,
  lot: lot.default(''),
  /** What its label says it held; null where it says nothing. */
  labelledM: lengthM.nullable(),
});
export type NewReel = z.input<typeof newReel>;

const entryHead = {
  id: uuid,
  /** The entry that this one takes the place of. */
  corrects: uuid.nullable().default(null),
  words: z.string().trim().max(120, { error: 'At most 120 characters.' }).default(''),
};
/** A line for a reel's ledger: cut off, or measured as it is. */
export const newReelEntry = z.discriminatedUnion(
  'what',
  [
    z.strictObject({
      ...entryHead,
      what: z.literal('drawn'),
      lengthM: drawn,
      /** The link it was drawn for. */
      linkId: uuid.nullable().default(null),
    }),
    z.strictObject({
      ...entryHead,
      what: z.literal('measured'),
      lengthM: drawn,
      /** Half width of its 95 % interval. */
      u95M: z.number().positive().max(100),
      velocityFactor,
    }),
  ],
  { error: 'A reel is drawn from or measured.' },
);
export type NewReelEntry = z.input<typeof newReelEntry>;

/** Pieces that were cut together, each drawn for a link or for cords, with the drums and boxes that were opened for them: all, or none. */
export const newPull = z.strictObject({
  reels: z.array(newReel).max(100, { error: 'At most 100 new boxes at once.' }).default([]),
  pieces: z
    .array(
      z.strictObject({
        id: uuid,
        reelId: uuid,
        /** The link it was cut for; null for cords. */
        linkId: uuid.nullable(),
        lengthM: drawn.positive({ error: 'A piece that was pulled has a length over 0.' }),
        words: entryHead.words,
      }),
    )
    .min(1, { error: 'Give at least one piece.' })
    .max(100, { error: 'At most 100 pieces at once.' }),
});
export type NewPull = z.input<typeof newPull>;

export const reelEntry = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  what: z.enum(['labelled', 'drawn', 'measured']),
  lengthM: z.number(),
  u95M: z.number().nullable(),
  velocityFactor: z.number().nullable(),
  linkId: uuid.nullable(),
  /** Label of the link it was drawn for. */
  linkLabel: z.string().nullable(),
  corrects: uuid.nullable(),
  words: z.string(),
});
export type ReelEntry = z.infer<typeof reelEntry>;

export const reelRecord = z.object({
  id: uuid,
  name: z.string(),
  kind: reelKind,
  cableTypeId: z.string(),
  lot: z.string(),
  /** Oldest first. */
  entries: z.array(reelEntry),
});
export type ReelRecord = z.infer<typeof reelRecord>;

/** One piece that a velocity was measured with. */
const piece = z.strictObject({ name: line(120), lengthM, delayNs: z.number().positive() });

/** A velocity factor that was measured, and on what. */
export const newVelocity = z.strictObject({
  id: uuid,
  cableTypeId: typeId,
  lot: lot.default(''),
  reelId: uuid.nullable().default(null),
  velocityFactor,
  /** Half width of its 95 % interval. */
  u95: z.number().positive().max(0.3, { error: 'An interval this wide tells nothing.' }),
  pieces: z.array(piece).min(1, { error: 'At least one piece was measured.' }).max(40),
  /** What the longest of them lost. */
  loss: lossPoints.nullable().default(null),
});
export type NewVelocity = z.input<typeof newVelocity>;

export const velocityRecord = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  cableTypeId: z.string(),
  lot: z.string(),
  reelId: uuid.nullable(),
  velocityFactor: z.number(),
  u95: z.number(),
  pieces: z.array(piece),
  loss: lossPoints.nullable(),
});
export type VelocityRecord = z.infer<typeof velocityRecord>;
