import { knownPiece, NoVelocity, roundTripS, velocityOf, type KnownPiece } from '@near-spoke/core';
import { CURSOR_HELP } from './cursor-options.js';
import { CURSOR_PIECES, velocityByCursors } from './velocity-by-cursors.js';
import { BadInput, type Outcome, type TraceFiles } from './outcome.js';
import { readTraceFrom, readTraceOptions, TRACE_OPTIONS_HELP, type TraceOptions } from './trace-options.js';

export const VELOCITY_HELP = `spoke velocity FILE --length METRES [options]
spoke velocity FILE=METRES FILE=METRES [...] [options]
spoke velocity --echo TIME --length LENGTH [options]
spoke velocity --piece TIME=LENGTH --piece TIME=LENGTH [...] [options]

The velocity factor of a cable: from the trace of a piece of known length (tell the lead), or from
two or more lengths of it, which is free of the lead's delay. The far end is left open or shorted. Without a file, times are read off a
screen by eye, with their units as written (41.8ns=4m).

By times
${CURSOR_HELP}
By files
${TRACE_OPTIONS_HELP}  --json             { velocityFactor, u95, offsetS, pieces: [{ file, lengthM, delayS, off }] }
  --help             this text

Exit status: 0, or 2 for bad input.
`;

/** The loss of the way is reckoned with the velocity, which is not known at first. */
const ROUNDS = 2;

/** `spoke velocity`. */
export function velocityCommand(args: readonly string[], files: TraceFiles): Outcome {
  if (args.some((arg) => CURSOR_PIECES.includes(arg))) return velocityByCursors(args, VELOCITY_HELP);
  const guess = args.includes('--vf') || args.includes('--cable') ? args : [...args, '--vf', '0.7'];
  const options = readTraceOptions(guess, VELOCITY_HELP);
  const told = options.names.map((name) => pieceOf(name, options.lengthM));
  if (told.length === 0) throw new BadInput(`Name a file.\n${VELOCITY_HELP}`);
  const { lead } = options.setting;
  const leadDelay = {
    delayS: roundTripS(lead.lengthM, lead.velocityFactor),
    deviationS: roundTripS(lead.deviationM, lead.velocityFactor),
  };
  let pieces: KnownPiece[] = [];
  let velocity: ReturnType<typeof velocityOf> | null = null;
  try {
    for (let round = 0; round < ROUNDS; round++) {
      const velocityFactor = velocity?.velocityFactor ?? options.setting.line.velocityFactor;
      pieces = told.map((piece) => measured(piece, withVelocity(options, velocityFactor), files));
      velocity = velocityOf(pieces, leadDelay);
    }
  } catch (error) {
    if (error instanceof NoVelocity) throw new BadInput(error.message);
    throw error;
  }
  if (!velocity) throw new BadInput(`Name a file.\n${VELOCITY_HELP}`);
  const { velocityFactor, u95, offsetS, off } = velocity;
  const rows = pieces.map((piece, n) => ({ file: told[n]?.path ?? '', ...piece, off: off[n] ?? 0 }));
  if (options.json) {
    const answer = {
      velocityFactor,
      u95,
      offsetS,
      pieces: rows.map(({ file, lengthM, delayS, off: away }) => ({ file, lengthM, delayS, off: away })),
    };
    return { status: 0, out: `${JSON.stringify(answer, null, 2)}\n`, err: '' };
  }
  const lines = rows.map(
    ({ file, lengthM, delayS, off: away }) =>
      `  ${file}  ${lengthM} m, echo after ${(delayS * 1e9).toFixed(2)} ns${Math.abs(away) > 3 ? '  DOES NOT FIT the others' : ''}`,
  );
  const before = `Before the cable ${(offsetS * 1e9).toFixed(2)} ns`;
  const out = `Velocity factor ${velocityFactor.toFixed(4)}, give or take ${u95.toFixed(4)} (95 %)\n${before}\n${lines.join('\n')}\n`;
  return { status: 0, out, err: '' };
}

function pieceOf(name: string, lengthM: number | null): { path: string; lengthM: number } {
  const [, path, length] = /^(.*)=([\d.]+)$/.exec(name) ?? [];
  if (path !== undefined && length !== undefined) return { path, lengthM: Number(length) };
  if (lengthM === null)
    throw new BadInput(`${name}: how long is this piece? Write ${name}=METRES, or --length METRES.`);
  return { path: name, lengthM };
}

const withVelocity = (options: TraceOptions, velocityFactor: number): TraceOptions => ({
  ...options,
  setting: { ...options.setting, line: { ...options.setting.line, velocityFactor } },
});

function measured(
  { path, lengthM }: { path: string; lengthM: number },
  options: TraceOptions,
  files: TraceFiles,
): KnownPiece {
  try {
    return knownPiece(readTraceFrom(path, options, files).reading, lengthM);
  } catch (error) {
    if (!(error instanceof NoVelocity)) throw error;
  }
  // An end whose echo is faint, or behind something else, is told by what explains the whole.
  const setting = { ...options.setting, thorough: true };
  try {
    return knownPiece(readTraceFrom(path, { ...options, setting }, files).reading, lengthM);
  } catch (error) {
    if (error instanceof NoVelocity) throw new BadInput(`${path}: ${error.message}`);
    throw error;
  }
}
