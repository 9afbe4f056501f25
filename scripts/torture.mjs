import { checkNode, ensurePackages } from './lib/machine.mjs';
import { ensureBuild } from './lib/build.mjs';
import { parseArgs } from 'node:util';
import { Plain, runMain, say } from './lib/plain.mjs';

const HELP = `npm run torture [-- --minutes N] [--times N] [--processes N]    hurts a running application of its own at random while work is recorded, and
                                   counts what was acknowledged, lost, kept twice or by half (10 minutes, and each harm at least --times; Ctrl-C ends it and counts)`;

const quantile = (values, q) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? NaN;
};

function readOptions() {
  const number = (text) => (/^\d+(\.\d+)?$/.test(text) ? Number(text) : NaN);
  try {
    const { values } = parseArgs({
      options: {
        minutes: { type: 'string', default: '10' },
        times: { type: 'string', default: '0' },
        processes: { type: 'string', default: '1' },
        help: { type: 'boolean' },
      },
    });
    const [minutes, times, processes] = ['minutes', 'times', 'processes'].map((name) => number(values[name]));
    if (minutes > 0 && Number.isInteger(times) && Number.isInteger(processes) && processes > 0)
      return { minutes, times, processes, help: values.help };
  } catch {
    // Said below.
  }
  throw new Plain(`Give minutes over 0, and a number of processes.\n${HELP}`);
}

await runMain(async () => {
  checkNode();
  const { minutes, times, processes, help } = readOptions();
  if (help) return say(HELP);
  ensurePackages();
  await ensureBuild();
  const { torture } = await import('./lib/torture.mjs');
  const enough = new AbortController();
  process.once('SIGINT', () => {
    say('Counting what is there.');
    enough.abort();
  });
  const result = await torture({ minutes, processes, timesEach: times, enough: enough.signal, said: say });
  const seconds = (ms) => `${(ms / 1000).toFixed(1)} s`;
  say('');
  for (const [name, times] of Object.entries(result.done)) {
    const own = result.away.filter((each) => each.name === name).map(({ ms }) => ms);
    say(
      `${name.padEnd(20)} ${String(times).padStart(4)} times, saving again after ${seconds(quantile(own, 0.5))}, at most ${seconds(Math.max(...own))}`,
    );
  }
  const all = result.away.map(({ ms }) => ms);
  say(
    `All: ${all.length}, saving again after ${seconds(quantile(all, 0.5))} at the median, ${seconds(Math.max(...all))} at most.`,
  );
  say(
    `Acknowledged ${result.acknowledged}, lost ${result.lost}, kept twice ${result.twice}, by half ${result.half}; sendings that had to be repeated ${result.refused}.`,
  );
  for (const error of result.errors) say(error);
  const bad = result.lost + result.twice + result.half + result.errors.length;
  if (bad > 0 || all.includes(Infinity)) process.exitCode = 1;
});
