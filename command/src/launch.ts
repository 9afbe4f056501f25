import {
  CABLE_TYPES,
  fromTheDrawer,
  LAUNCH_LIMIT_WORDS,
  leftOver,
  lineOf,
  planLaunch,
  preferredResistors,
  typedQuantity,
} from '@near-spoke/core';
import { BadInput, type Outcome } from './outcome.js';

export const LAUNCH_HELP = `spoke launch --cable ID --length METRES [options]

How to set a pulse generator and an oscilloscope before measuring a cable: pulse width, edge, time
base and sample interval, which resistors match the line, and the smallest fault that would be seen
at each distance.

  --cable ID        cable of the library
  --length METRES   its length, about
  --reflection R    the smallest reflection to be seen at its far end (1, the end itself)
  --noise SHARE     noise of one sample by the launch (0.005)
  --edge TIME       the generator's fastest edge, such as 5ns
  --pulse TIME      its shortest pulse
  --bandwidth MHZ   the oscilloscope's bandwidth
  --sample TIME     its fastest sample interval
  --points N        samples it keeps
  --drawer OHMS     resistors that are there, such as 47,100,220
  --json            as JSON
  --help            this text

Exit status: 0, or 2 for bad input.
`;

const OPTIONS = [
  ...['--cable', '--length', '--reflection', '--noise'],
  ...['--edge', '--pulse', '--bandwidth', '--sample', '--points', '--drawer'],
];

/** `spoke launch`. */
export function launchCommand(args: readonly string[]): Outcome {
  const given = new Map<string, string>();
  const named = args.filter((arg) => arg !== '--json');
  for (let i = 0; i < named.length; i += 2) {
    const option = named[i] as string;
    const value = named[i + 1];
    if (!OPTIONS.includes(option)) throw new BadInput(`There is no option ${option}.\n${LAUNCH_HELP}`);
    if (value === undefined) throw new BadInput(`${option} wants a value.`);
    given.set(option, value);
  }
  const number = (option: string, usual: number | null, least: number, most: number): number => {
    const text = given.get(option);
    if (text === undefined && usual !== null) return usual;
    const value = text === undefined ? NaN : Number(text);
    if (!(value >= least && value <= most))
      throw new BadInput(`${option} ${text ?? ''}: a number from ${least} to ${most} is wanted.`);
    return value;
  };
  const cable = CABLE_TYPES.find(({ id }) => id === given.get('--cable'));
  if (!cable) throw new BadInput(`Say which cable. Cables: ${CABLE_TYPES.map(({ id }) => id).join(', ')}.`);
  const line = lineOf(cable);
  const time = (option: string): number | undefined => {
    const text = given.get(option);
    if (text === undefined) return undefined;
    const { figure, trouble } = typedQuantity(text, 'time', option);
    if (figure === null) throw new BadInput(trouble);
    if (!(figure > 0 && figure <= 1e-3))
      throw new BadInput(`${option} ${text}: a time up to 1 ms is wanted, such as 5ns.`);
    return figure;
  };
  const drawer = (given.get('--drawer') ?? '')
    .split(',')
    .filter((text) => text.trim() !== '')
    .map((text) => {
      const ohm = Number(text);
      if (!(ohm > 0 && ohm < 1e7))
        throw new BadInput(`--drawer ${text}: ohms over 0 are wanted, such as 47,100,220.`);
      return ohm;
    });
  const plan = planLaunch(
    {
      line,
      lengthM: number('--length', null, 0.5, 20_000),
      reflection: number('--reflection', 1, 0.001, 1),
      noiseShare: number('--noise', 0.005, 1e-5, 1),
    },
    {
      edgeS: time('--edge'),
      leastWidthS: time('--pulse'),
      bandwidthHz: given.has('--bandwidth') ? 1e6 * number('--bandwidth', null, 0.1, 100_000) : undefined,
      intervalS: time('--sample'),
      memory: given.has('--points') ? number('--points', null, 50, 1e9) : undefined,
    },
  );
  const match = fromTheDrawer(line.impedanceOhm, drawer) ?? preferredResistors(line.impedanceOhm);
  if (args.includes('--json'))
    return { status: 0, out: `${JSON.stringify({ ...plan, match }, null, 2)}\n`, err: '' };
  const ns = (seconds: number): string => `${Number((seconds * 1e9).toPrecision(3))} ns`;
  const out = [
    `Pulse      ${ns(plan.widthS)} wide, edge ${ns(plan.riseS)}${plan.enough ? '' : ': not enough for this, the widest worth sending'}`,
    `Record     ${ns(plan.recordS)}, ${ns(plan.divisionS)} a division, a sample at least every ${ns(plan.intervalS)}`,
    `Match      ${line.impedanceOhm} ohm: ${match.ohm.join(' and ')} ohm${match.ohm.length > 1 ? (match.inARow ? ' in a row' : ' side by side') : ''} (${match.together.toFixed(1)}), which still sends back ${(100 * leftOver(line.impedanceOhm, match.together)).toFixed(1)} %`,
    `Blind      to ${plan.deadZoneM.toFixed(2)} m; two things nearer than ${plan.resolutionM.toFixed(2)} m are one`,
    ...(plan.limitedBy.length > 0
      ? [`Limited    by ${plan.limitedBy.map((limit) => LAUNCH_LIMIT_WORDS[limit]).join(', ')}`]
      : []),
    'Smallest reflection seen',
    ...plan.smallest.map(
      ({ distanceM, reflection }) =>
        `  at ${distanceM.toFixed(1).padStart(7)} m  ${reflection >= 1 ? 'none' : `${(100 * reflection).toFixed(1)} %`}`,
    ),
  ];
  return { status: 0, out: `${out.join('\n')}\n`, err: '' };
}
