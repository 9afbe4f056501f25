import { networkFile, newTrace, networkOf } from '@near-spoke/contracts';
import { imperfect, seededRandom, simulate } from '@near-spoke/core';
import * as z from 'zod';
import type { Sql } from '../db/open.js';
import { keepTrace } from '../traces/store.js';

/** Traces of the demo: the bench set-up each was taken with; the samples are drawn when it loads. */
export const demoTraces = z.strictObject({
  format: z.literal('near-spoke/demo-traces'),
  formatVersion: z.literal(1),
  traces: z.array(
    newTrace
      .omit({ trace: true, unplugged: true })
      .extend({ linkId: z.uuid(), at: z.iso.datetime(), by: z.uuid(), network: networkFile }),
  ),
});

type DemoTrace = z.output<typeof demoTraces>['traces'][number];

export async function takeDemoTrace(tx: Sql, { linkId, at, by, network, ...told }: DemoTrace): Promise<void> {
  const clean = simulate(networkOf(network), network.sampling);
  const { intervalS, startS, volts } = imperfect(clean, network, seededRandom(network.seed));
  const rounded = Array.from(volts, (volt) => Number(volt.toPrecision(6)));
  const trace = { ...told, trace: { intervalS, startS, volts: rounded }, unplugged: true as const };
  await keepTrace(tx, linkId, trace, { crewId: by, at: new Date(at) });
}
