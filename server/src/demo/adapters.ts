import { adapterFile, designOf, newBuild } from '@near-spoke/contracts';
import { soundAnswers } from '@near-spoke/core';
import * as z from 'zod';
import { addBuild, keepAdapter } from '../adapters/store.js';
import type { Sql } from '../db/open.js';

const done = { at: z.iso.datetime(), by: z.uuid() };

/** Adapters of the demo's bench: the file of each, who kept it, and what was built and proved of it. */
export const demoAdapters = z.strictObject({
  format: z.literal('near-spoke/demo-adapters'),
  formatVersion: z.literal(1),
  adapters: z.array(
    z.strictObject({
      id: z.uuid(),
      /** Oldest first. */
      versions: z.array(z.strictObject({ ...done, note: z.string(), file: z.string() })).min(1),
      builds: z.array(newBuild.pick({ id: true, name: true, note: true }).extend(done)),
    }),
  ),
});

/** Keeps the demo's adapters. A lead that was proved answered as a sound one does. */
export async function keepDemoAdapters(
  tx: Sql,
  { adapters }: z.output<typeof demoAdapters>,
  read: (name: string) => unknown,
): Promise<void> {
  for (const { id, versions, builds } of adapters) {
    for (const [version, { at, by, note, file }] of versions.entries())
      await keepAdapter(
        tx,
        { id, version, note, file: adapterFile.parse(read(file)) },
        { crewId: by, at: new Date(at) },
      );
    const answers = soundAnswers(designOf(adapterFile.parse(read(versions.at(-1)?.file ?? ''))));
    for (const { at, by, ...build } of builds)
      await addBuild(
        tx,
        id,
        {
          ...build,
          version: versions.length,
          beeped: [...answers.beeped],
          parts: [...answers.parts],
          supplies: [...answers.supplies],
          functions: [...answers.functions],
        },
        { crewId: by, at: new Date(at) },
      );
  }
}
