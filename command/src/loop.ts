import {
  BadMetering,
  LOOP_LAYOUTS,
  loopMeaning,
  loopReadings,
  statesAt,
  type LoopLayout,
  type SupervisedLoop,
} from '@near-spoke/core';
import { quantityIn, Options } from './options.js';
import { BadInput, type Outcome } from './outcome.js';

export const LOOP_HELP = `spoke loop [options]

What a meter must read on a supervised loop, its wires off the panel, in every state of detector and cable,
and which states nobody can tell apart.

  --layout NAME      ${LOOP_LAYOUTS.join(', ')} (two resistors)
  --contact HOW      closed (at rest, NC) or open (NO)
  --end R            the resistor that ends the loop (4.7 kohm)
  --alarm R          the one across the alarm contact (4.7 kohm)
  --fault R          the one across the fault contact (2.2 kohm)
  --length L         of the cable, panel to detector (30 m)
  --gauge N          of its wire, AWG (24)
  --tolerance SHARE  of the resistors (5%)
  --at-panel         the end's resistor lies in the panel, as it should not
  --reads R          what the meter reads: which states that can be; "open" for no reading
  --json             as JSON
  --help             this text

Exit status: 0 as it should be, 1 a warning or a reading that is not rest, 2 bad input.
`;

const VALUED = [
  '--layout',
  '--contact',
  '--end',
  '--alarm',
  '--fault',
  '--length',
  '--gauge',
  '--tolerance',
  '--reads',
];

/** `spoke loop`. */
export function loopCommand(args: readonly string[]): Outcome {
  const options = new Options(args, { valued: VALUED, flags: ['--at-panel', '--json'], help: LOOP_HELP });
  const layout = (options.text('--layout') ?? 'two resistors') as LoopLayout;
  if (!LOOP_LAYOUTS.includes(layout))
    throw new BadInput(`--layout ${layout}: one of ${LOOP_LAYOUTS.join(', ')} is wanted.`);
  const contact = options.text('--contact') ?? 'closed';
  if (contact !== 'closed' && contact !== 'open')
    throw new BadInput(`--contact ${contact}: closed or open is wanted, as the contact is at rest.`);
  const loop: SupervisedLoop = {
    layout,
    contact: contact === 'closed' ? 'closed at rest' : 'open at rest',
    endOhm: options.quantity('--end', 'resistance') ?? 4700,
    alarmOhm: options.quantity('--alarm', 'resistance') ?? 4700,
    faultOhm: options.quantity('--fault', 'resistance') ?? 2200,
    lengthM: options.quantity('--length', 'length') ?? 30,
    awg: options.number('--gauge', 10, 32) ?? 24,
    tolerance: options.share('--tolerance', 0.2) ?? 0.05,
    endAt: options.has('--at-panel') ? 'the panel' : 'the detector',
  };
  const reads = options.text('--reads');
  try {
    const answer = loopReadings(loop);
    const ohm =
      reads === null ? null : reads.trim() === 'open' ? Infinity : quantityIn(reads, 'resistance', '--reads');
    const now = ohm === null ? null : statesAt(loop, ohm);
    const bad = answer.warnings.length > 0 || (now !== null && !now.includes('at rest'));
    const out = options.has('--json')
      ? `${JSON.stringify({ ...answer, readings: answer.readings.map(asJson), now }, null, 2)}\n`
      : printed(answer, ohm === null ? null : loopMeaning(loop, ohm));
    return { status: bad ? 1 : 0, out, err: '' };
  } catch (error) {
    if (error instanceof BadMetering) throw new BadInput(error.message);
    throw error;
  }
}

/** JSON knows no infinity: no reading is null. */
const asJson = ({ state, leastOhm, mostOhm }: { state: string; leastOhm: number; mostOhm: number }) => ({
  state,
  leastOhm: Number.isFinite(leastOhm) ? leastOhm : null,
  mostOhm: Number.isFinite(mostOhm) ? mostOhm : null,
});

const ohms = (ohm: number): string =>
  ohm >= 1000 ? `${(ohm / 1000).toFixed(2)} kohm` : `${ohm.toFixed(ohm < 10 ? 1 : 0)} ohm`;

function printed(
  { readings, alike, warnings }: ReturnType<typeof loopReadings>,
  meaning: string | null,
): string {
  const lines = readings.map(
    ({ state, leastOhm, mostOhm }) =>
      `  ${state.padEnd(24)} ${mostOhm === Infinity ? 'no reading' : `${ohms(leastOhm)} to ${ohms(mostOhm)}`}`,
  );
  return [
    'READS, wires off the panel',
    ...lines,
    ...alike.map((states) => `ALIKE ${states.join(', ')}`),
    ...warnings.map((words) => `LOOK  ${words}`),
    ...(meaning === null ? [] : [`NOW   ${meaning}`]),
    'CARE  Panel off, its battery unplugged; tell whoever receives its alarms first.',
    '',
  ].join('\n');
}
