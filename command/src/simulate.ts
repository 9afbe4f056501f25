import { fieldErrors, networkFile, networkOf, UnknownCable, type NetworkFile } from '@near-spoke/contracts';
import { imperfect, seededRandom, simulate, traceAsJson, type Trace } from '@near-spoke/core';
import { parseJson } from './json.js';
import { BadInput, type Outcome } from './outcome.js';

export const SIMULATE_HELP = `spoke simulate FILE [--csv]

Prints the trace that a line would draw on an oscilloscope: generator, leads, cables with their
loss, parts in the way and across, stubs, and what closes the line. FILE is a near-spoke/network
file (docs/file-formats.md); - reads standard input. The answer is a near-spoke/trace file, so that
it can be handed on: spoke simulate network.json | spoke trace - --cable rg6

  --csv    a table of seconds and volts instead
  --help   this text

Exit status: 0, or 2 for bad input.
`;

/** `spoke simulate`. */
export function simulateCommand(args: readonly string[], readText: (path: string) => string): Outcome {
  const names = args.filter((arg) => arg !== '--csv');
  const [name] = names;
  const unknown = names.find((arg) => arg.startsWith('--'));
  if (unknown) throw new BadInput(`There is no option ${unknown}.\n${SIMULATE_HELP}`);
  if (name === undefined || names.length > 1) throw new BadInput(`Name one file.\n${SIMULATE_HELP}`);
  const parsed = networkFile.safeParse(parseJson(readText(name)));
  if (!parsed.success)
    throw new BadInput(
      fieldErrors(parsed.error)
        .map(({ path, message }) => `${name}: ${path}: ${message}`)
        .join('\n'),
    );
  const trace = imperfect(simulated(parsed.data), parsed.data, seededRandom(parsed.data.seed));
  if (!args.includes('--csv')) return { status: 0, out: traceAsJson(trace), err: '' };
  const rows = Array.from(
    trace.volts,
    (volt, n) => `${(trace.startS + n * trace.intervalS).toPrecision(10)},${volt.toPrecision(7)}`,
  );
  return { status: 0, out: `Time (s),Volts (V)\n${rows.join('\n')}\n`, err: '' };
}

function simulated(file: NetworkFile): Trace {
  try {
    return simulate(networkOf(file), file.sampling);
  } catch (error) {
    if (error instanceof RangeError || error instanceof UnknownCable) throw new BadInput(error.message);
    throw error;
  }
}
