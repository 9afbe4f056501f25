import loadHighs from 'highs';
import { parentPort, workerData } from 'node:worker_threads';
import {
  highsSolver,
  planCutting,
  seededRandom,
  type BoxSize,
  type LoadedHighs,
} from '../../core/src/index.js';

const BOX: BoxSize = { name: 'box', lengthM: 305, price: 100 };
const DRUM: BoxSize = { name: 'drum', lengthM: 500, price: 155 };

/** One random job: links of 5 to 90 m, up to four left-overs, one size to buy or two. */
function jobOf(seed: number, links: number) {
  const random = seededRandom(seed);
  const length = (from: number, to: number): number =>
    Math.round((from + (to - from) * random()) * 100) / 100;
  const count = links || 20 + Math.floor(480 * random());
  return {
    pieces: Array.from({ length: count }, (_, i) => ({
      label: `L${i}`,
      lengthM: length(5, 90),
      pull: `room ${Math.floor(i / 6)}`,
    })),
    held: Array.from({ length: Math.floor(5 * random()) }, (_, i) => ({
      id: `r${i}`,
      name: `reel ${i}`,
      lengthM: length(0, 250),
    })),
    sizes: random() < 0.5 ? [BOX] : [BOX, DRUM],
  };
}

const { jobs, links } = workerData as { jobs: number; links: number };
const solve = highsSolver((await loadHighs()) as LoadedHighs);
const gaps: number[] = [];
const times: number[] = [];
for (let seed = 1; seed <= jobs; seed++) {
  const { pieces, held, sizes } = jobOf(seed, links);
  const from = performance.now();
  gaps.push(planCutting(pieces, held, sizes, { solve }).gap);
  times.push(performance.now() - from);
}
parentPort?.postMessage({ gaps, times });
