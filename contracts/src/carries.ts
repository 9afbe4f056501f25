import { APPLICATION_IDS, POWER_TYPE_IDS, SPACES } from '@near-spoke/core';
import * as z from 'zod';
import { line } from './text.js';

const figure = (what: string, least: number, most: number, unit: string) =>
  z
    .number({ error: `Give ${what} in ${unit}.` })
    .min(least, { error: `${what}: from ${least} to ${most} ${unit}.` })
    .max(most, { error: `${what}: from ${least} to ${most} ${unit}.` });

const volts = figure('Volts', 1, 1000, 'V');
const watts = figure('Watts', 0.1, 10_000, 'W');
const db = (what: string) => figure(what, -200, 200, 'dB');
const mhz = figure('A frequency', 0.01, 10_000, 'MHz');

/** A device fed over its data pairs; what is left out is the type's own. */
export const powerFeed = z.strictObject({
  type: z.enum(POWER_TYPE_IDS as [string, ...string[]], {
    error: `A way of feeding is one of ${POWER_TYPE_IDS.join(', ')}.`,
  }),
  deviceW: watts,
  sourceV: volts.optional(),
  sourceW: watts.optional(),
  deviceV: volts.optional(),
});

const signalUse = z
  .strictObject({
    sourceDb: db('A level'),
    unit: z.enum(['dBmV', 'dBuV', 'dBm']),
    fromMhz: mhz,
    toMhz: mhz,
    leastDb: db('A level'),
    mostDb: db('A level'),
    passiveDb: figure('A loss', 0, 100, 'dB'),
  })
  .refine(({ fromMhz, toMhz }) => fromMhz <= toMhz, {
    path: ['toMhz'],
    error: 'The band ends at or above where it begins.',
  })
  .refine(({ leastDb, mostDb }) => leastDb < mostDb, {
    path: ['mostDb'],
    error: 'The strongest level lies over the weakest.',
  });

const directLoad = z
  .strictObject({
    sourceV: volts,
    loadW: watts.optional(),
    loadA: figure('Amperes', 0.001, 100, 'A').optional(),
    leastV: volts,
    wires: z.int().min(1).max(50),
  })
  .refine(({ loadW, loadA }) => (loadW === undefined) !== (loadA === undefined), {
    path: ['loadW'],
    error: 'Give the power of the load, or its current: one of the two.',
  })
  .refine(({ leastV, sourceV }) => leastV < sourceV, {
    path: ['leastV'],
    error: 'The load works from a voltage under the source’s.',
  });

/** What a link is to carry, as far as anybody has said. */
export const carries = z.strictObject({
  data: z.enum(APPLICATION_IDS as [(typeof APPLICATION_IDS)[number]]).optional(),
  power: powerFeed.optional(),
  signal: signalUse.optional(),
  load: directLoad.optional(),
  bus: z
    .strictObject({ law: z.enum(['rs-485', 'can']), bitPerS: figure('A speed', 100, 100_000_000, 'bit/s') })
    .optional(),
  betweenBuildings: z.boolean().optional(),
});

/** What is known of a stretch that links share. */
export const stretchConditions = z.strictObject({
  name: line(60),
  temperatureC: figure('A temperature', -50, 90, '°C'),
  space: z.enum(SPACES as [(typeof SPACES)[number]], { error: `A space is one of ${SPACES.join(', ')}.` }),
  closed: z.boolean(),
  ductMm: figure('A bore', 5, 1000, 'mm').nullable(),
  mainsMm: figure('A distance', 0, 10_000, 'mm').nullable(),
});

/** The stretches of a job that somebody has said something of, each once. */
export const jobStretches = z
  .array(stretchConditions)
  .max(200, { error: 'At most 200 stretches.' })
  .superRefine((stretches, context) => {
    const seen = new Map<string, number>();
    stretches.forEach(({ name }, index) => {
      const first = seen.get(name);
      if (first !== undefined)
        context.addIssue({
          code: 'custom',
          path: [index, 'name'],
          message: `${name} stands here a second time; the first is number ${first + 1}.`,
        });
      else seen.set(name, index);
    });
  });
