import { parentPort, workerData } from 'node:worker_threads';
import { BEEPERS, densityAt, noise, type Noise } from '../../core/test/hearing/sounds.js';
import { rocOf } from '../../core/test/hearing/trial.js';

const { room, touches, aloneS } = workerData as { room: Noise; touches: number; aloneS: number };
const LEVELS_DB = Array.from({ length: 14 }, (_, n) => 8 - 2 * n);

/** For each beeper the faintest level at which touches are heard, and what the noise alone does at that level. */
const rows = BEEPERS.map((beeper, n) => {
  let faintest: { overDb: number; delayS: number } | null = null;
  for (const overDb of LEVELS_DB) {
    const roc = rocOf(beeper, room, overDb, { touches, aloneS: 0.2, seed: 100 + n });
    if (!roc || roc.heard < 0.99 * touches) break;
    faintest = { overDb, delayS: roc.delayS };
  }
  if (!faintest) return { name: beeper.name, faintest, hits: 0, answers: 0, overNoiseHz: NaN };
  const alone = rocOf(beeper, room, faintest.overDb, { touches: 1, aloneS, seed: 900 + n });
  const pitch = beeper.hz[0]?.(0.3) ?? 0;
  // Power of the tone by the noise's in a hertz at its pitch.
  const overNoiseHz = faintest.overDb - 10 * Math.log10(densityAt(noise(room, 20, 40 + n), pitch));
  const hours = aloneS / 3600;
  return {
    name: beeper.name,
    faintest,
    hits: Math.round((alone?.falsePerHour ?? 0) * hours),
    answers: Math.round((alone?.answersPerHour ?? 0) * hours),
    overNoiseHz,
  };
});
parentPort?.postMessage(rows);
