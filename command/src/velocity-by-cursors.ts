import {
  BadCursors,
  lineOf,
  NoVelocity,
  pieceByCursors,
  roundTripS,
  UNKNOWN_LOSS,
  velocityArithmetic,
  velocityOf,
  type KnownPiece,
  type LineFigures,
  type Velocity,
} from '@near-spoke/core';
import { CURSOR_VALUED, cursorsAsked, leadTold } from './cursor-options.js';
import { BadInput, type Outcome } from './outcome.js';
import { Options, quantityIn } from './options.js';

export const CURSOR_PIECES = ['--echo', '--cursors', '--piece'];
/** The lateness by loss is reckoned with the velocity, which is not known at first. */
const ROUNDS = 3;
const LEAD_VELOCITY = 0.66;

/** `spoke velocity` by times read off a screen: pieces of known length and how long their echoes took. */
export function velocityByCursors(args: readonly string[], help: string): Outcome {
  const options = new Options(args, {
    valued: [...CURSOR_VALUED, '--piece', '--length'],
    flags: ['--json'],
    help,
  });
  if (options.names.length > 0) throw new BadInput(`Name files or times, not both.\n${help}`);
  const told = piecesTold(options);
  const lead = leadTold(options, LEAD_VELOCITY);
  const leadS = roundTripS(lead.lengthM, lead.velocityFactor);
  const cable = options.cable();
  let line: LineFigures = cable
    ? lineOf(cable)
    : { impedanceOhm: 75, velocityFactor: options.number('--vf', 0.3, 1) ?? 0.7, ...UNKNOWN_LOSS };
  const measure = (): { pieces: KnownPiece[]; velocity: Velocity } => {
    const pieces = told.map(({ echo, lengthM }) =>
      pieceByCursors(cursorsAsked(options, echo), line, lengthM),
    );
    const deviationS = roundTripS(lead.deviationM, lead.velocityFactor);
    return { pieces, velocity: velocityOf(pieces, { delayS: leadS, deviationS }) };
  };
  let measured;
  try {
    measured = measure();
    for (let round = 1; round < ROUNDS; round++) {
      line = { ...line, velocityFactor: measured.velocity.velocityFactor };
      measured = measure();
    }
  } catch (error) {
    if (error instanceof NoVelocity || error instanceof BadCursors) throw new BadInput(error.message);
    throw error;
  }
  const { pieces } = measured;
  const { velocityFactor, u95, offsetS, off } = measured.velocity;
  const rows = pieces.map(({ lengthM, delayS }, n) => ({ lengthM, delayS, off: off[n] ?? 0 }));
  if (options.has('--json'))
    return {
      status: 0,
      out: `${JSON.stringify({ velocityFactor, u95, offsetS, pieces: rows }, null, 2)}\n`,
      err: '',
    };
  const lines = rows.map(
    ({ lengthM, delayS, off: away }) =>
      `  ${velocityArithmetic(lengthM, delayS, offsetS, velocityFactor)}${Math.abs(away) > 3 ? '  DOES NOT FIT the others' : ''}`,
  );
  return {
    status: 0,
    out: `Velocity factor ${velocityFactor.toFixed(4)}, give or take ${u95.toFixed(4)} (95 %)\nBefore the cable ${(offsetS * 1e9).toFixed(2)} ns\n${lines.join('\n')}\n`,
    err: '',
  };
}

/** `--piece 41.8ns=4m`, once for each piece; or one by `--echo` and `--length`. */
function piecesTold(options: Options): { echo: string | null; lengthM: number }[] {
  const pieces = options.all('--piece').map((text) => {
    const [echo, length, more] = text.split('=');
    if (!echo || !length || more !== undefined)
      throw new BadInput(`--piece ${text}: a time and a length are wanted, such as 41.8ns=4m.`);
    return { echo, lengthM: quantityIn(length, 'length', '--piece') };
  });
  if (pieces.length > 0) return pieces;
  const lengthM = options.quantity('--length', 'length');
  if (lengthM === null) throw new BadInput('Say how long the piece is: --length 4m.');
  return [{ echo: options.text('--echo'), lengthM }];
}
