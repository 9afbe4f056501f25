import { fieldErrors, networkFile, type ToldElement } from '@near-spoke/contracts';
import {
  CABLE_TYPES,
  imperfect,
  lineOf,
  NO_SCOPE,
  seededRandom,
  simulate,
  traceAsJson,
  type Element,
} from '@near-spoke/core';
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
  const { source, scope, chain, load, sampling, noiseV, quantumV, offsetV, seed } = parsed.data;
  const network = {
    source,
    scope: scope ? { inputOhm: scope.inputOhm ?? Infinity, inputF: scope.inputF } : NO_SCOPE,
    chain: chain.map(elementOf),
    load,
  };
  const trace = imperfect(simulated(network, sampling), { noiseV, quantumV, offsetV }, seededRandom(seed));
  if (!args.includes('--csv')) return { status: 0, out: traceAsJson(trace), err: '' };
  const rows = Array.from(
    trace.volts,
    (volt, n) => `${(trace.startS + n * trace.intervalS).toPrecision(10)},${volt.toPrecision(7)}`,
  );
  return { status: 0, out: `Time (s),Volts (V)\n${rows.join('\n')}\n`, err: '' };
}

function simulated(...args: Parameters<typeof simulate>): ReturnType<typeof simulate> {
  try {
    return simulate(...args);
  } catch (error) {
    if (error instanceof RangeError) throw new BadInput(error.message);
    throw error;
  }
}

function elementOf(told: ToldElement): Element {
  if (told.kind === 'stub') return { ...told, chain: told.chain.map(elementOf) };
  if (told.kind !== 'cable') return told;
  const cable = CABLE_TYPES.find(({ id }) => id === told.cable);
  if (!cable)
    throw new BadInput(
      `There is no cable ${told.cable}. Cables: ${CABLE_TYPES.map(({ id }) => id).join(', ')}.`,
    );
  const { velocityFactor, impedanceOhm, lengthM } = told;
  return {
    kind: 'line',
    lengthM,
    line: lineOf(cable, {
      ...(velocityFactor === undefined ? {} : { velocityFactor }),
      ...(impedanceOhm === undefined ? {} : { impedanceOhm }),
    }),
  };
}
