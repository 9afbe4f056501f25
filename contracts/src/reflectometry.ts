import type { Element, Load } from '@near-spoke/core';
import * as z from 'zod';

const factor = z
  .number()
  .min(0.3, { error: 'No cable is slower than 0.3.' })
  .max(1, { error: 'No cable is faster than light: at most 1.' });
const positive = z.number().positive();
const atLeastNought = z.number().nonnegative();

/** What a line is to a travelling wave; a cable of the library by its id, with what differs. */
const lineFigures = z.strictObject({
  impedanceOhm: positive,
  velocityFactor: factor,
  skinDb: atLeastNought.default(0),
  dielectricDb: atLeastNought.default(0),
  loopOhmPerM: atLeastNought.default(0),
});
const lumped = {
  ohm: atLeastNought.optional(),
  henry: atLeastNought.optional(),
  farad: atLeastNought.optional(),
};
const load: z.ZodType<Load> = z.union([z.enum(['open', 'short']), z.strictObject(lumped)], {
  error: 'A load is "open", "short", or parts side by side: { "ohm", "henry", "farad" }.',
}) as z.ZodType<Load>;

const lineElement = z.strictObject({
  kind: z.literal('line'),
  lengthM: z.number().positive().max(20_000),
  line: lineFigures,
});
const cableElement = z.strictObject({
  kind: z.literal('cable'),
  lengthM: z.number().positive().max(20_000),
  cable: z.string(),
  velocityFactor: factor.optional(),
  impedanceOhm: positive.optional(),
});
const partElement = z.strictObject({ kind: z.enum(['series', 'shunt']), ...lumped });
export interface CableElement {
  kind: 'cable';
  lengthM: number;
  cable: string;
  velocityFactor?: number | undefined;
  impedanceOhm?: number | undefined;
}
export type ToldElement =
  Exclude<Element, { kind: 'stub' }> | CableElement | { kind: 'stub'; chain: ToldElement[]; load: Load };
const stubElement = z.strictObject({
  kind: z.literal('stub'),
  get chain(): z.ZodType<ToldElement[]> {
    return z.array(element).max(200);
  },
  load,
});
const element: z.ZodType<ToldElement> = z.discriminatedUnion(
  'kind',
  [lineElement, cableElement, partElement, stubElement],
  { error: 'An element is a line, a cable, series, shunt or stub.' },
) as unknown as z.ZodType<ToldElement>;

/** `near-spoke/network`: a bench set-up to simulate, and how it is sampled. */
export const networkFile = z.strictObject({
  format: z.literal('near-spoke/network', {
    error: 'The file does not begin with "format": "near-spoke/network".',
  }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  source: z.strictObject({
    shape: z.enum(['pulse', 'step']),
    volts: z.number(),
    widthS: atLeastNought.default(0),
    riseS: positive,
    edge: z.enum(['smooth', 'ramp']).default('smooth'),
    impedanceOhm: positive,
  }),
  scope: z.strictObject({ inputOhm: positive.optional(), inputF: atLeastNought.default(0) }).optional(),
  chain: z.array(element).max(200),
  load,
  sampling: z.strictObject({
    intervalS: positive,
    samples: z.int().min(16).max(1_000_000),
    launchS: atLeastNought,
  }),
  noiseV: atLeastNought.default(0),
  quantumV: atLeastNought.default(0),
  offsetV: z.number().default(0),
  seed: z.int().default(1),
});
export type NetworkFile = z.infer<typeof networkFile>;
