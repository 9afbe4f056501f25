import {
  BadCursors,
  BadMetering,
  CAPACITANCE_ERRORS,
  CATALOGUE_FARAD_SHARE,
  faradPerM,
  lengthByLoop,
  loopByGauge,
  lossByHeight,
  NORMAL_95,
  openByBothEnds,
  openByPerMetre,
  perMetreByGoodPair,
  placeByCursors,
  RESISTANCE_ERRORS,
  shortByBothEnds,
  unbalanceOf,
  withoutLeads,
  type Metered,
  type MeterErrors,
} from '@near-spoke/core';
import { CURSOR_HELP, CURSOR_VALUED, cursorsAsked, leadTold, lineTold } from './cursor-options.js';
import { BadInput, type Outcome } from './outcome.js';
import { Options } from './options.js';

export const LOCATE_HELP = `spoke locate [options]

Where a fault is, without a file: by times read off a screen, or by a meter's figures. Units as written.

By a screen's cursors
${CURSOR_HELP}
By capacitance, both wires of the pair, both ends dead and free
  --open-near C        from the near end; with --open-far C and --length needs no figure of the cable
  --open-far C         from the far end
  --per-metre C        the cable's capacitance per metre (52pF), with --open-near alone
  --good-pair C        or that of a good pair of the same cable, with --length
By resistance
  --loop R             loop ohms of a pair joined at its far end: its length, with --gauge
  --short-near R       loop ohms of a pair that is shorted somewhere, its far end open; with --short-far R
  --short-far R        the same from the far end; with --length, and --gauge or --good-loop
  --good-loop R        loop ohms of a good pair of the same cable, joined at its far end
  --wires R12,R13,R23  three loops over three wires joined at the far end: the pair 1, 2 against each other
Beside them
  --length LENGTH      length of the cable
  --length-u LENGTH    half width of its 95 % interval (1 %)
  --gauge AWG          gauge of its wires (24)
  --temperature C      in degrees Celsius (20)
  --leads FIGURE       what the meter's leads alone read; taken off first
  --meter-share SHARE  the meter's stated error, share of the reading (3 % farads, 1 % ohms)
  --meter-fixed FIGURE and its fixed part (10 pF, 0.03 ohm)
  --json               { what, value, u95, unit, kind, arithmetic, notes, cautions }
  --help               this text

Exit status: 0, or 2 for bad input.
`;

const VALUED = [
  ...CURSOR_VALUED,
  '--open-near',
  '--open-far',
  '--per-metre',
  '--good-pair',
  '--loop',
  '--short-near',
  '--short-far',
  '--good-loop',
  '--wires',
  '--length',
  '--length-u',
  '--gauge',
  '--temperature',
  '--leads',
  '--meter-share',
  '--meter-fixed',
];

/** What is printed, as text or as JSON. */
interface Answer {
  what: string;
  value: number;
  u95: number;
  unit: 'm' | 'ohm';
  kind: 'open' | 'short' | null;
  arithmetic: string;
  notes: string[];
  cautions: readonly string[];
}

type Way = (options: Options) => Answer;

/** The option that tells which way is meant, and the way. */
const WAYS: readonly [string, Way][] = [
  ['--echo', byCursors],
  ['--cursors', byCursors],
  ['--open-near', byCapacitance],
  ['--loop', byLoop],
  ['--short-near', byShort],
  ['--wires', byWires],
];

/** `spoke locate`. */
export function locateCommand(args: readonly string[]): Outcome {
  const options = new Options(args, { valued: VALUED, flags: ['--json'], help: LOCATE_HELP });
  const way = WAYS.find(([option]) => options.has(option))?.[1];
  if (!way || options.names.length > 0)
    throw new BadInput(
      `Say what was read: --echo or --cursors, --open-near, --loop, --short-near or --wires.\n${LOCATE_HELP}`,
    );
  let answer: Answer;
  try {
    answer = way(options);
  } catch (error) {
    if (error instanceof BadCursors || error instanceof BadMetering) throw new BadInput(error.message);
    throw error;
  }
  return {
    status: 0,
    out: options.has('--json') ? `${JSON.stringify(answer, null, 2)}\n` : inWords(answer),
    err: '',
  };
}

function inWords({ what, value, u95, unit, arithmetic, notes, cautions }: Answer): string {
  const digits = unit === 'm' ? 2 : 3;
  return [
    `${what} ${value.toFixed(digits)} ${unit}, give or take ${u95.toFixed(digits)} ${unit} (95 %)`,
    `  ${arithmetic}`,
    ...notes.map((note) => `  ${note}`),
    ...cautions.map((caution) => `  Mind: ${caution}`),
    '',
  ].join('\n');
}

function byCursors(options: Options): Answer {
  const { line, velocityU95 } = lineTold(options);
  const reading = cursorsAsked(options);
  const place = placeByCursors(reading, line, velocityU95, leadTold(options, line.velocityFactor));
  const { budget, kind } = place;
  const notes = [
    `timing ${budget.timingM.toFixed(3)} m, velocity ${budget.velocityM.toFixed(3)} m, lead ${budget.leadM.toFixed(3)} m`,
  ];
  if (reading.points === 'peak')
    notes.push(
      `peak to peak reads ${((place.lateS * line.velocityFactor * 299_792_458) / 2).toFixed(2)} m long on this line, by typical loss; that is taken off`,
    );
  const loss =
    reading.echoShare === null || reading.edgeS === null
      ? null
      : lossByHeight(reading.echoShare, place.distanceM, line, reading.edgeS);
  if (loss)
    notes.push(
      `by its height, were it a plain end: ${loss.dbPer100M.toFixed(1)} dB per 100 m at about ${(loss.aboutHz / 1e6).toFixed(0)} MHz, typical ${loss.typicalDbPer100M.toFixed(1)}`,
    );
  return {
    what: kind === null ? 'Echo at' : `${kind === 'open' ? 'Open' : 'Short'} at`,
    value: place.distanceM,
    u95: place.u95M,
    unit: 'm',
    kind,
    arithmetic: place.arithmetic,
    notes,
    cautions: ['Both ends unplugged and dead before anything is clipped on.'],
  };
}

const errorsTold = (
  options: Options,
  usual: MeterErrors,
  quantity: 'capacitance' | 'resistance',
): MeterErrors => ({
  share: options.share('--meter-share') ?? usual.share,
  fixed: options.quantity('--meter-fixed', quantity) ?? usual.fixed,
});

function lengthTold(options: Options): { lengthM: number; deviationM: number } {
  const lengthM = options.quantity('--length', 'length');
  if (lengthM === null) throw new BadInput('Say how long the cable is: --length 31.4m.');
  const u = options.quantity('--length-u', 'length') ?? 0.01 * lengthM;
  return { lengthM, deviationM: u / NORMAL_95 };
}

/** A reading with the leads' own taken off. */
function read(options: Options, option: string, quantity: 'capacitance' | 'resistance'): number | null {
  const figure = options.quantity(option, quantity);
  return figure === null ? null : withoutLeads(figure, options.quantity('--leads', quantity) ?? 0, option);
}

function mustRead(options: Options, option: string, quantity: 'capacitance' | 'resistance'): number {
  const figure = read(options, option, quantity);
  if (figure === null) throw new BadInput(`${option} wants a value.`);
  return figure;
}

const placed = (kind: 'open' | 'short', metered: Metered, notes: string[] = []): Answer => ({
  what: kind === 'open' ? 'Open at' : 'Short at',
  unit: 'm',
  kind,
  notes: [...notes, 'counted from the near end, along the cable'],
  ...metered,
});

function byCapacitance(options: Options): Answer {
  const errors = errorsTold(options, CAPACITANCE_ERRORS, 'capacitance');
  const near = mustRead(options, '--open-near', 'capacitance');
  const far = read(options, '--open-far', 'capacitance');
  const cable = options.cable();
  const typical = cable && { farad: faradPerM(cable), u95Share: CATALOGUE_FARAD_SHARE };
  if (far !== null) return placed('open', openByBothEnds(near, far, lengthTold(options), errors, typical));
  const lengthM = options.quantity('--length', 'length');
  const good = read(options, '--good-pair', 'capacitance');
  if (good !== null) {
    const perMetre = perMetreByGoodPair(good, lengthTold(options).lengthM, errors);
    return placed('open', openByPerMetre(near, perMetre, { lengthM, byGoodPair: true, errors }));
  }
  const perM = options.quantity('--per-metre', 'capacitance');
  const perMetre = perM === null ? typical : { farad: perM, u95Share: 0.03 };
  if (!perMetre)
    throw new BadInput(
      'One end alone needs a figure of the cable: --per-metre 52pF, --good-pair 1.63nF with --length, or --cable ID.',
    );
  return placed('open', openByPerMetre(near, perMetre, { lengthM, errors }), [
    'A good pair of the same cable, or the reading from the far end, would narrow this.',
  ]);
}

const gaugeTold = (options: Options): { awg: number; temperatureC: number } => ({
  awg: options.number('--gauge', 10, 40) ?? options.cable()?.awg ?? 24,
  temperatureC: options.number('--temperature', -40, 90) ?? 20,
});

function byLoop(options: Options): Answer {
  const { awg, temperatureC } = gaugeTold(options);
  const loop = mustRead(options, '--loop', 'resistance');
  const length = lengthByLoop(loop, awg, temperatureC, errorsTold(options, RESISTANCE_ERRORS, 'resistance'));
  return {
    ...length,
    what: 'Length',
    unit: 'm',
    kind: null,
    notes: [
      `as copper of ${awg} AWG at ${temperatureC} °C`,
      ...length.or.map(({ metal, lengthM }) => `or ${lengthM.toFixed(2)} m of ${metal}: look at a cut end`),
    ],
  };
}

function byShort(options: Options): Answer {
  const errors = errorsTold(options, RESISTANCE_ERRORS, 'resistance');
  const far = read(options, '--short-far', 'resistance');
  if (far === null)
    throw new BadInput(
      'A short’s own resistance drops out only from both ends: give --short-near and --short-far.',
    );
  const length = lengthTold(options);
  const { awg, temperatureC } = gaugeTold(options);
  const good = read(options, '--good-loop', 'resistance');
  const loop =
    good === null
      ? loopByGauge(awg, length.lengthM, temperatureC)
      : { ohm: good, deviation: errors.fixed / NORMAL_95 };
  const short = shortByBothEnds(mustRead(options, '--short-near', 'resistance'), far, length, loop, errors);
  return placed('short', short, [
    `the contact itself has ${short.contactOhm.toFixed(2)} ohm, give or take ${short.contactU95.toFixed(2)}`,
  ]);
}

function byWires(options: Options): Answer {
  const text = options.text('--wires') as string;
  const loops = text.split(/[,;]/).map(Number);
  if (loops.length !== 3 || loops.some((loop) => !(loop > 0)))
    throw new BadInput(`--wires ${text}: three loops in ohms are wanted, such as 5.31,5.35,5.33.`);
  const leads = options.quantity('--leads', 'resistance') ?? 0;
  const [r12, r13, r23] = loops.map((loop) => withoutLeads(loop, leads, '--wires')) as [
    number,
    number,
    number,
  ];
  const found = unbalanceOf(r12, r13, r23, errorsTold(options, RESISTANCE_ERRORS, 'resistance'));
  const suspect =
    found.suspect === null
      ? 'no more than the wires of a good pair differ'
      : `wire ${found.suspect + 1} has too much: a bad joint on its way or at its contact`;
  return {
    what: 'Wire 1 over wire 2 by',
    value: found.differenceOhm,
    u95: found.differenceU95,
    unit: 'ohm',
    kind: null,
    arithmetic: found.arithmetic,
    notes: [`${(found.share * 100).toFixed(1)} % of the loop: ${suspect}`],
    cautions: found.cautions,
  };
}
