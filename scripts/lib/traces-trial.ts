import { parentPort, workerData } from 'node:worker_threads';
import { drawStranger, tellStranger } from '../../core/test/world/lattice-trial.js';

/** Reads the traces of a span of seeds, and posts what was told of each. */
const { from, until } = workerData as { from: number; until: number };
const told = [];
for (let seed = from; seed < until; seed++) told.push(tellStranger(drawStranger(seed)));
parentPort?.postMessage(told);
