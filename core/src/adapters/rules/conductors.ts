import { wireBearsA, type Wire } from '../conductor-choice.js';
import type { AdapterNet, PlacedPin } from '../design.js';
import { named, places, takenA, type RuleFinding } from './finding.js';

/** A net with the conductor that carries it. */
export interface CarriedNet {
  net: AdapterNet;
  wire: Wire;
}

const voltsOf = ({ pins }: AdapterNet): number =>
  Math.max(
    0,
    ...pins.flatMap(({ pin }) => (pin.kind === 'supply-out' && pin.volts ? pin.volts.map(Math.abs) : [])),
  );

/** What the chosen conductors bear, and whether what belongs together lies on one pair. */
export function conductorRules(carried: readonly CarriedNet[]): RuleFinding[] {
  return [...carried.flatMap(ratingRules), ...splitRules(carried)];
}

function ratingRules({ net, wire }: CarriedNet): RuleFinding[] {
  const [flows, bears] = [takenA(net.pins), wireBearsA(wire)];
  const [volts, bearsV] = [voltsOf(net), wire.bearsV ?? Infinity];
  const finding = (rule: 'wire-current' | 'wire-voltage', words: string, remedy: string): RuleFinding => ({
    rule,
    severity: 'wrong',
    contacts: places(net.pins),
    words,
    remedy,
  });
  return [
    ...(flows > bears
      ? [
          finding(
            'wire-current',
            `${net.name} carries ${flows.toFixed(2)} A on conductor ${wire.id}, which bears ${bears.toFixed(2)} A.`,
            'Take a cable with a thicker conductor for it, or share it over several.',
          ),
        ]
      : []),
    ...(volts > bearsV
      ? [
          finding(
            'wire-voltage',
            `${net.name} is at ${volts} V on conductor ${wire.id}, whose insulation bears ${bearsV} V.`,
            'Take a cable that is rated for it; local code and licensed practice come first.',
          ),
        ]
      : []),
  ];
}

/** Signals that share a name for belonging together, and do not share a pair. */
function splitRules(carried: readonly CarriedNet[]): RuleFinding[] {
  const groups = new Map<string, { pins: PlacedPin[]; pairs: Set<number | null>; nets: number }>();
  for (const { net, wire } of carried) {
    const halves = net.pins.filter(({ pin }) => pin.together !== null);
    const name = halves[0]?.pin.together;
    if (name === undefined || name === null) continue;
    const group = groups.get(name) ?? { pins: [], pairs: new Set(), nets: 0 };
    group.pins.push(...halves);
    group.pairs.add(wire.pair);
    group.nets++;
    groups.set(name, group);
  }
  return [...groups].flatMap(([name, { pins, pairs, nets }]): RuleFinding[] =>
    nets < 2 || (pairs.size === 1 && !pairs.has(null))
      ? []
      : [
          {
            rule: 'pair-split',
            severity: 'unsure',
            contacts: places(pins),
            words: `${named(pins)} belong together (${name}), and do not lie on one twisted pair.`,
            remedy: 'Take a cable with a pair for them, or keep the lead short.',
          },
        ],
  );
}
