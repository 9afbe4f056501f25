import { DRILL_KINDS } from '@near-spoke/core/drills';
import * as z from 'zod';
import { timestamp, uuid } from './text.js';

export const drillKind = z.enum(DRILL_KINDS, { error: 'There is no such drill.' });

/** One drill as it was answered; whether that was right follows from kind and seed. */
export const newDrillAnswer = z
  .strictObject({
    id: uuid,
    kind: drillKind,
    seed: z
      .int()
      .min(0)
      .max(2 ** 31 - 1),
    /** Index of the answer that was chosen. */
    chosen: z.int().min(0).max(9).nullable().default(null),
    /** Index of the piece that was laid into each place. */
    laid: z.array(z.int().min(0).max(30)).max(30).nullable().default(null),
  })
  .refine(({ chosen, laid }) => (chosen === null) !== (laid === null), {
    path: ['chosen'],
    error: 'Give the answer that was chosen, or what was laid into each place.',
  });
export type NewDrillAnswer = z.input<typeof newDrillAnswer>;

export const drillAnswer = z.object({
  id: uuid,
  at: timestamp,
  kind: drillKind,
  right: z.boolean(),
});
export type DrillAnswer = z.infer<typeof drillAnswer>;

/** A person's own answers, oldest first, and what the crew's work calls for. */
export const ownPractice = z.object({
  answers: z.array(drillAnswer),
  /** Faults found and proved gone in the last ninety days, by kind. */
  found: z.array(z.object({ slip: z.string(), times: z.int() })),
});
export type OwnPractice = z.infer<typeof ownPractice>;

/** What the crew needs: all answers of the last ninety days together, nobody's apart. */
export const crewPractice = z.object({
  kinds: z.array(z.object({ kind: drillKind, asked: z.int(), right: z.int() })),
});
export type CrewPractice = z.infer<typeof crewPractice>;
