import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { root } from './folders.mjs';
import { bundled } from './reflectometry-bench.mjs';

const [JOBS, LARGE_JOBS, LARGE_LINKS] = [200, 40, 500];

const quantile = (values, q) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))];
};

/** Random jobs cut from left-overs, boxes and drums, held against the bound of each. */
export async function cuttingBench() {
  // Beside the packages, so that the solver finds its own file.
  const folder = mkdtempSync(join(root, 'node_modules/.cutting-trial-'));
  try {
    const outfile = await bundled('cutting-trial', folder, { external: ['highs'] });
    const run = async (workerData) => (await once(new Worker(outfile, { workerData }), 'message'))[0];
    return {
      all: await run({ jobs: JOBS, links: 0 }),
      large: await run({ jobs: LARGE_JOBS, links: LARGE_LINKS }),
    };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

export function cuttingReport({ all, large }) {
  const percent = (share) => `${(100 * share).toFixed(2)} %`;
  const ms = (time) => `${Math.round(time)} ms`;
  return `## Cutting

${JOBS} random jobs of 20 to 500 links of 5 to 90 m, cut from up to four left-overs, boxes of 305 m and, in half of them, drums of
500 m. The gap is what a plan costs over the bound that is proved with it.

| What | Figure |
| --- | --- |
| Gap: median, 90 in 100, largest | ${percent(quantile(all.gaps, 0.5))}, ${percent(quantile(all.gaps, 0.9))}, ${percent(Math.max(...all.gaps))} |
| Plans proved to cost the least | ${all.gaps.filter((gap) => gap === 0).length} of ${JOBS} |
| One plan: median, slowest | ${ms(quantile(all.times, 0.5))}, ${ms(Math.max(...all.times))} |
| ${LARGE_LINKS} links: median, slowest of ${LARGE_JOBS} | ${ms(quantile(large.times, 0.5))}, ${ms(Math.max(...large.times))} |
`;
}
