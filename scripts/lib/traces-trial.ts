import { parentPort, workerData } from 'node:worker_threads';
import { drawStranger, tellStranger } from '../../core/test/world/lattice-trial.js';

/** Reads the traces of a span of seeds, and posts what was told of each. */
const { from, until, loads } = workerData as { from: number; until: number; loads: boolean };
const told = [];
for (let seed = from; seed < until; seed++) {
  const stranger = drawStranger(seed, { loads });
  // Where things may hang at an end, somebody looked.
  told.push(tellStranger(stranger, loads ? { farEnd: stranger.farEnd } : {}));
}
parentPort?.postMessage(told);
