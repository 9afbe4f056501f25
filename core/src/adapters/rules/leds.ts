import { preferredValues } from '../../quantities/preferred.js';
import { familyOf, placeWords, type AdapterNet, type Coupling, type PlacedPin } from '../design.js';
import { places, type RuleFinding } from './finding.js';
import { packsOn } from './supply.js';

/** Volts at which it begins to conduct, by what is said of its colour (typical); unknown is anywhere between. */
const FORWARD_V: readonly [RegExp, readonly [number, number]][] = [
  [/\b(red|amber|yellow|orange)\b/i, [1.55, 1.85]],
  [/\b(white|blue|green)\b/i, [2.4, 2.9]],
];
const ANY_COLOUR = [1.55, 2.9] as const;
/** Beyond that it rises with the current as over a resistor, ohm (typical). */
const SLOPE_OHM = { least: 10, most: 30 };
/** A small LED bears this; is seen indoors from this; and a logic output gives this without its levels sagging. */
const BEARS_A = 0.02;
const SEEN_A = 0.0002;
const OUTPUT_GIVES_A = 0.008;
const WANTED_A = 0.005;
const TOLERANCE = 0.05;

interface Feed {
  /** From what it falls to, to what it rises to, while the LED is meant to be lit. */
  leastV: number;
  mostV: number;
}

/** What a side of an LED stands at while it is lit. */
function standsAt(
  placed: PlacedPin,
  nets: readonly AdapterNet[],
  couplings: readonly Coupling[],
  plus: boolean,
): Feed | null {
  const net = nets.find(({ pins }) => pins.some(({ pin }) => pin === placed.pin));
  if (!net) return null;
  const pins = net.pins.map(({ pin }) => pin);
  const source = pins.find(({ kind }) => kind === 'supply-out');
  if (source?.volts) return { leastV: source.volts[0], mostV: source.volts[1] };
  if (pins.some(({ kind }) => kind === 'ground')) return { leastV: 0, mostV: 0 };
  const [pack] = packsOn([net], couplings);
  if (pack) return { leastV: pack.endV, mostV: pack.freshV };
  const output = pins.find(({ kind }) => kind === 'output' || kind === 'both');
  const family = output && familyOf(output);
  if (family)
    return plus
      ? { leastV: family.outHighV, mostV: family.supplyV || family.outHighV }
      : { leastV: 0, mostV: family.outLowV };
  return pins.some(({ kind }) => kind === 'open-collector') ? { leastV: 0, mostV: 0.3 } : null;
}

const milliamperes = (amperes: number): string => `${Number((1000 * amperes).toPrecision(2))} mA`;

/**
 * Every LED in a lead: which way round it goes, what flows through it with fresh and with flat cells, and which resistor
 * it wants. Something is said of each.
 */
export function ledRules(nets: readonly AdapterNet[], couplings: readonly Coupling[]): RuleFinding[] {
  return couplings.flatMap((coupling): RuleFinding[] => {
    const { from, to, parts } = coupling;
    const led = parts.find(({ kind }) => kind === 'LED');
    if (!led) return [];
    const contacts = places([from, to]);
    const between = `The LED between ${placeWords(from)} and ${placeWords(to)}`;
    const say = (severity: RuleFinding['severity'], words: string, remedy: string): RuleFinding[] => [
      { rule: 'led', severity, contacts, words: `${between}: ${words}`, remedy },
    ];
    const pack = parts.find(({ kind, cells }) => kind === 'battery' && cells)?.cells;
    const ends = [from, to].map((side) => ({ side, stands: standsAt(side, nets, couplings, true) }));
    const [plus, minus] = ends.toSorted(
      (a, b) => (b.stands?.mostV ?? -Infinity) - (a.stands?.mostV ?? -Infinity),
    ) as [(typeof ends)[number], (typeof ends)[number]];
    const below = standsAt(minus.side, nets, couplings, false);
    const feed = pack
      ? { leastV: pack.count * pack.endV, mostV: pack.count * pack.freshV }
      : plus.stands && below
        ? { leastV: plus.stands.leastV - below.mostV, mostV: plus.stands.mostV - below.leastV }
        : null;
    if (!feed || feed.mostV <= 0)
      return say(
        'unsure',
        'what feeds it is not known, so neither its way round nor its resistor can be.',
        'Say what supplies one side, and what the other side goes to: volts of the supply, or the cells of the pack.',
      );
    // eslint-disable-next-line no-restricted-syntax -- what a person calls the part, not what we say
    const [least, most] = FORWARD_V.find(([colour]) => colour.test(led.words))?.[1] ?? ANY_COLOUR;
    const slope = (SLOPE_OHM.least + SLOPE_OHM.most) / 2;
    const ohm = parts.reduce((sum, part) => sum + (part.kind === 'resistor' ? (part.ohm ?? 0) : 0), 0);
    const wanted = Math.max(0, (feed.mostV + feed.leastV) / 2 - (least + most) / 2) / WANTED_A - slope;
    const proposed = preferredValues('E12', 10, 100_000).find((each) => each >= wanted) ?? 100_000;
    const round = pack
      ? 'long leg (anode) towards the plus of the pack, flat side (cathode) towards its minus'
      : `long leg (anode) towards ${placeWords(plus.side)}, flat side (cathode) towards ${placeWords(minus.side)}`;
    const take = `Put ${proposed} ohm in its way; ${round}.`;
    if (feed.mostV < least)
      return say(
        'wrong',
        `${feed.mostV.toFixed(1)} V at most do not light it: it takes ${least} to ${most} V.`,
        'Take one cell more, or an LED of another colour.',
      );
    if (ohm === 0) return say('wrong', 'nothing limits its current.', take);
    const flowsMost = (feed.mostV - least) / (ohm * (1 - TOLERANCE) + SLOPE_OHM.least);
    const flowsLeast = Math.max(0, (feed.leastV - most) / (ohm * (1 + TOLERANCE) + SLOPE_OHM.most));
    const figures = `${ohm} ohm let ${milliamperes(flowsMost)} through at ${feed.mostV.toFixed(1)} V and ${milliamperes(flowsLeast)} at ${feed.leastV.toFixed(1)} V`;
    if (flowsMost > BEARS_A)
      return say('wrong', `${figures}: a small LED bears about ${milliamperes(BEARS_A)}.`, take);
    const driven = [from, to].some(({ pin }) => pin.kind === 'output' || pin.kind === 'both');
    if (driven && flowsMost > OUTPUT_GIVES_A)
      return say('unsure', `${figures}: more than a logic output gives without its levels sagging.`, take);
    if (flowsLeast < SEEN_A)
      return say(
        'unsure',
        `${figures}: dark, or nearly so, at the lower end.`,
        `Say its colour, or take one cell more or less resistance; ${round}.`,
      );
    return say(
      'note',
      `${figures}; ${round}.`,
      'Look at the leg before it is cut: afterwards the flat side tells.',
    );
  });
}
