import {
  CABLE_TYPES,
  FAR_ENDS,
  lineOf,
  NO_SCOPE,
  type Element,
  type Load,
  type Network,
} from '@near-spoke/core';
import * as z from 'zod';
import { lossPoints } from './kit.js';
import { contactPair, linkEnd } from './readings.js';
import { line as textLine, timestamp, uuid } from './text.js';

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

/** A trace as it is kept: at most 20,000 samples, which is more than its edges need. */
const keptTrace = z.strictObject({
  intervalS: positive,
  startS: z.number(),
  volts: z
    .array(z.number())
    .min(16, { error: 'A trace has at least 16 samples.' })
    .max(20_000, { error: 'A trace is kept with at most 20,000 samples.' }),
});

/** What a person told of a trace, and what it is read with. */
export const traceTold = z.strictObject({
  velocityFactor: factor,
  /** Half width of its 95 % interval. */
  velocityU95: atLeastNought.max(0.3),
  impedanceOhm: positive.max(2000),
  leadM: atLeastNought.max(1000),
  leadVelocityFactor: factor,
  shape: z.enum(['pulse', 'step']).nullable(),
  /** Loss as somebody knows it; left out where it is that of the cable's sheet. */
  loss: lossPoints.optional(),
  /** How the far end is, where somebody looked. */
  farEnd: z.enum(FAR_ENDS).optional(),
});
export type TraceTold = z.infer<typeof traceTold>;

export const newTrace = z.strictObject({
  id: uuid,
  end: linkEnd,
  /** The pair it was taken on; null for coax. */
  pair: contactPair.nullable(),
  name: textLine(120),
  trace: keptTrace,
  told: traceTold,
  /** Both ends were confirmed to be unplugged and dead. */
  unplugged: z.literal(true, { error: 'Confirm first that both ends are unplugged and dead.' }),
});
export type NewTrace = z.input<typeof newTrace>;

export const traceRecord = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  end: linkEnd,
  pair: z.string().nullable(),
  name: z.string(),
  trace: z.object({ intervalS: z.number(), startS: z.number(), volts: z.array(z.number()) }),
  told: traceTold,
});
export type TraceRecord = z.infer<typeof traceRecord>;

/** A kept trace without its samples, as lists show it. */
export const traceHead = traceRecord.omit({ trace: true });
export type TraceHead = z.infer<typeof traceHead>;

/** A trace of another link of the same cable that is known to be good. */
export const goodTrace = traceHead.extend({
  linkId: uuid,
  /** What its link is called, and how long that is by its plan. */
  label: z.string(),
  lengthM: z.number(),
});
export type GoodTrace = z.infer<typeof goodTrace>;

/** A trace to be taken now by the bench oscilloscope. */
export const takeTrace = z.strictObject({
  /** A link, or a reel whose end is at hand. */
  lineId: uuid,
  end: linkEnd.default('near'),
  pair: contactPair.nullable().default(null),
  widthS: z.number().min(1e-9).max(2e-5),
  riseS: z.number().min(1e-10).max(1e-5),
  intervalS: z.number().min(1e-11).max(1e-5),
  samples: z.int().min(64).max(20_000),
});
export type TakeTrace = z.input<typeof takeTrace>;

export const takenTrace = z.object({
  instrumentName: z.string(),
  simulated: z.boolean(),
  trace: z.object({ intervalS: z.number(), startS: z.number(), volts: z.array(z.number()) }),
  shape: z.enum(['pulse', 'step']),
  lead: z.object({ lengthM: z.number(), velocityFactor: z.number() }),
});
export type TakenTrace = z.infer<typeof takenTrace>;

/** Whether a bench oscilloscope with a pulser is within reach. */
export const benchScope = z.object({ name: z.string(), connected: z.boolean(), simulated: z.boolean() });
export type BenchScope = z.infer<typeof benchScope>;

/** A network file's set-up as core simulates it, cables of the library looked up. */
export function networkOf({ source, scope, chain, load: end }: NetworkFile): Network {
  return {
    source,
    scope: scope ? { inputOhm: scope.inputOhm ?? Infinity, inputF: scope.inputF } : NO_SCOPE,
    chain: chain.map(elementOf),
    load: end,
  };
}

/** A cable that a network file names and the library does not have. */
export class UnknownCable extends Error {}

function elementOf(told: ToldElement): Element {
  if (told.kind === 'stub') return { ...told, chain: told.chain.map(elementOf) };
  if (told.kind !== 'cable') return told;
  const cable = CABLE_TYPES.find(({ id }) => id === told.cable);
  if (!cable)
    throw new UnknownCable(
      `There is no cable ${told.cable}. Cables: ${CABLE_TYPES.map(({ id }) => id).join(', ')}.`,
    );
  const { velocityFactor, impedanceOhm, lengthM } = told;
  return {
    kind: 'line',
    lengthM,
    line: lineOf(cable, {
      ...(velocityFactor === undefined ? {} : { velocityFactor }),
      ...(impedanceOhm === undefined ? {} : { impedanceOhm }),
    }),
  };
}
