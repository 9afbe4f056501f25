import {
  CATALOGUE_U95,
  lineOf,
  NORMAL_95,
  type CableType,
  UNKNOWN_LOSS,
  type CursorLead,
  type CursorReading,
  type LineFigures,
} from '@near-spoke/core';
import { BadInput } from './outcome.js';
import { LEAD_UNKNOWN } from './trace-options.js';
import { quantityIn, type Options } from './options.js';

export const CURSOR_VALUED = [
  '--echo',
  '--cursors',
  '--points',
  '--per-division',
  '--edge',
  '--height',
  '--cable',
  '--vf',
  '--vf-u',
  '--lead',
  '--lead-vf',
  '--lead-u',
] as const;

export const CURSOR_HELP = `  --echo TIME          launch to echo, as written: 41.8ns, 1.32us
  --cursors T1,T2      the two readings themselves, launch first
  --points WHAT        edge (to edge, the usual) or peak (to peak, which reads long)
  --per-division TIME  the screen's time per division; the reading's uncertainty follows from it
  --edge TIME          how long the echo's edge takes to rise, by eye
  --height SHARE       the echo's height by the launch's, negative where it points down: 45% or -0.3
  --cable ID           cable of the library: its velocity factor and typical loss
  --vf NUMBER          velocity factor, where it is not the library's
  --vf-u NUMBER        half width of its 95 % interval
  --lead LENGTH        lead between instrument and cable; distances count from its far end
  --lead-vf NUMBER     its velocity factor (the cable's, where not given)
  --lead-u LENGTH      half width of the 95 % interval of its length
`;

/** What was read off the screen, for this time of it. */
export function cursorsAsked(options: Options, echo: string | null = options.text('--echo')): CursorReading {
  const points = options.text('--points') ?? 'edge';
  if (points !== 'edge' && points !== 'peak')
    throw new BadInput(`--points ${points}: edge or peak is wanted.`);
  const height = options.share('--height', 1.5);
  return {
    timeS: echo === null ? between(options) : quantityIn(echo, 'time', '--echo'),
    points,
    perDivisionS: options.quantity('--per-division', 'time'),
    edgeS: options.quantity('--edge', 'time'),
    echoShare: height,
  };
}

function between(options: Options): number {
  const text = options.text('--cursors');
  const two = text?.split(/[,;]\s*(?=\d)/) ?? [];
  if (two.length !== 2)
    throw new BadInput(
      'Say how long after the launch the echo comes: --echo 41.8ns, or --cursors 12.0ns,53.8ns.',
    );
  const [first, second] = two.map((one) => quantityIn(one, 'time', '--cursors')) as [number, number];
  return second - first;
}

/** The cable as a line, and half the 95 % interval of its velocity factor. */
export function lineTold(options: Options): { line: LineFigures; velocityU95: number } {
  const cable = options.cable();
  const vf = options.number('--vf', 0.3, 1);
  return {
    line: lineBy(cable, vf),
    velocityU95: options.number('--vf-u', 0, 0.5) ?? (vf === null ? CATALOGUE_U95 : 0),
  };
}

function lineBy(cable: CableType | null, vf: number | null): LineFigures {
  if (cable) return lineOf(cable, vf === null ? {} : { velocityFactor: vf });
  if (vf === null) throw new BadInput('Say which cable (--cable ID) or which velocity factor (--vf NUMBER).');
  return { impedanceOhm: 75, velocityFactor: vf, ...UNKNOWN_LOSS };
}

export function leadTold(options: Options, velocityFactor: number): CursorLead {
  const lengthM = options.quantity('--lead', 'length') ?? 0;
  const leadVf = options.number('--lead-vf', 0.3, 1);
  const u = options.quantity('--lead-u', 'length');
  return {
    lengthM,
    velocityFactor: leadVf ?? velocityFactor,
    deviationM: u === null ? (leadVf === null ? lengthM * LEAD_UNKNOWN : 0) : u / NORMAL_95,
  };
}
