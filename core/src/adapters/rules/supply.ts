import { COPPER_OHM_MM2_PER_M } from '../../quantities/copper.js';
import {
  knownA,
  placeWords,
  type AdapterDesign,
  type AdapterNet,
  type Coupling,
  type InlineKind,
  type PlacedPin,
} from '../design.js';
import { canDrive, isOutput, listens, named, places, takenA, through, type RuleFinding } from './finding.js';

/** More drop than this share of a supply is told. */
const DROP_SHARE = 0.03;

export function supplyRules(net: AdapterNet, couplings: readonly Coupling[]): RuleFinding[] {
  const { pins } = net;
  const out: RuleFinding[] = [];
  const sources = pins.filter(({ pin }) => pin.kind === 'supply-out');
  const loads = pins.filter(({ pin }) => pin.kind === 'supply-in');
  const grounds = pins.filter(({ pin }) => pin.kind === 'ground');
  const signals = pins.filter((placed) => canDrive(placed) || listens(placed));
  if (sources.length > 1)
    out.push({
      rule: 'two-sources',
      severity: 'wrong',
      contacts: places(sources),
      words: `${named(sources)}: two supplies in parallel, which fight even at equal voltage.`,
      remedy: 'Join one of them only, or feed each through a diode.',
    });
  if (grounds.length > 0 && sources.length + loads.length > 0)
    out.push({
      rule: 'ground-to-supply',
      severity: 'wrong',
      contacts: places([...grounds, ...sources, ...loads]),
      words: `${named([...grounds, ...sources, ...loads])} are one: a supply is shorted to ground.`,
      remedy: 'Part them: ground goes to ground, supply to supply.',
    });
  if (sources.length > 0 && signals.some(isOutput))
    out.push({
      rule: 'signal-on-supply',
      severity: 'wrong',
      contacts: places([...sources, ...signals]),
      words: `${named(signals)} stands on the supply ${named(sources)}.`,
      remedy: 'Join the signal to its own contact, or through a resistor where it is to be held high.',
    });
  for (const source of sources) {
    for (const load of loads) {
      const [gives, takes] = [source.pin.volts, load.pin.volts];
      if (!gives || !takes) continue;
      if (gives[0] < takes[0] || gives[1] > takes[1])
        out.push({
          rule: 'supply-out-of-range',
          severity: gives[1] > takes[1] ? 'wrong' : 'unsure',
          contacts: places([source, load]),
          words: `${named([source])} gives ${range(gives)}, ${named([load])} accepts ${range(takes)}.`,
          remedy:
            gives[1] > takes[1] ? 'Put a regulator between.' : 'Take a supply that holds the load’s least.',
        });
    }
    const [taken, gives] = [takenA(loads), knownA(source.pin)];
    if (gives !== null && taken > gives)
      out.push({
        rule: 'supply-current',
        severity: 'wrong',
        contacts: places([source, ...loads]),
        words: `${named([source])} can give ${gives} A; ${named(loads)} take ${taken.toFixed(2)} A.`,
        remedy: 'Feed the load from a supply of its own, grounds joined.',
      });
  }
  const fedThrough =
    through(net, couplings).some(({ pin }) => pin.kind === 'supply-out') ||
    packsOn([net], couplings).length > 0;
  if (loads.length > 0 && sources.length === 0 && !fedThrough)
    out.push({
      rule: 'load-unfed',
      severity: 'unsure',
      contacts: places(loads),
      words: `${named(loads)}: no supply is on this net.`,
      remedy: 'Join a supply, or say that the device has its own.',
    });
  return out;
}

/** What a part in a supply takes from it at the least, volts; what is not here lets no steady current through. */
const DROPS_V: Partial<Record<InlineKind, number>> = { switch: 0, resistor: 0, diode: 0.3, LED: 1.6 };

/**
 * A supply that reaches a load through a switch, a resistor or a diode is that supply still: closed, or with little
 * current flowing, the load stands at what is left of it.
 */
export function suppliesThroughParts(
  nets: readonly AdapterNet[],
  couplings: readonly Coupling[],
): RuleFinding[] {
  const netOf = ({ pin }: PlacedPin): readonly PlacedPin[] =>
    nets.find(({ pins }) => pins.some((other) => other.pin === pin))?.pins ?? [];
  return couplings.flatMap(({ from, to, parts }) => {
    const drops = parts.map(({ kind }) => DROPS_V[kind]);
    if (drops.some((drop) => drop === undefined)) return [];
    const drop = drops.reduce<number>((sum, each) => sum + (each ?? 0), 0);
    const by = parts.map(({ kind, words }) => words || kind).join(', ');
    const limits = parts.some(({ kind }) => kind === 'resistor');
    return [
      [netOf(from), netOf(to)],
      [netOf(to), netOf(from)],
    ].flatMap(([fed, feeding]) =>
      (feeding ?? [])
        .filter(({ pin }) => pin.kind === 'supply-out')
        .flatMap((source) =>
          (fed ?? [])
            .filter(({ pin }) => pin.kind === 'supply-in')
            .flatMap((load): RuleFinding[] => {
              const [gives, takes] = [source.pin.volts, load.pin.volts];
              if (!gives || !takes) return [];
              const [least, most] = [gives[0] - drop, gives[1] - drop];
              if (most <= takes[1] && least >= takes[0]) return [];
              const over = most > takes[1];
              return [
                {
                  rule: 'supply-out-of-range',
                  severity: over ? 'wrong' : 'unsure',
                  contacts: places([source, load]),
                  words: `${named([source])} gives ${range(gives)} through ${by}, ${named([load])} accepts ${range(takes)}.${over && limits ? ' A resistor lowers it only as long as current flows.' : ''}`,
                  remedy: over
                    ? 'Put a regulator between.'
                    : 'Take a supply that holds the load’s least after what lies in its way.',
                },
              ];
            }),
        ),
    );
  });
}

const range = ([from, to]: readonly [number, number]): string =>
  from === to ? `${from} V` : `${from} to ${to} V`;

export function currentRules({ pins }: AdapterNet, { ends, wires, lengthM }: AdapterDesign): RuleFinding[] {
  const out: RuleFinding[] = [];
  const sources = pins.filter(({ pin }) => pin.kind === 'supply-out');
  const loads = pins.filter(({ pin }) => pin.kind === 'supply-in');
  const flows = takenA(loads);
  const unsaid = [...sources, ...loads].filter(({ pin }) => knownA(pin) === null);
  if (sources.length > 0 && loads.length > 0 && unsaid.length > 0)
    out.push({
      rule: 'current-unknown',
      severity: 'unsure',
      contacts: places(unsaid),
      words: `${named(unsaid)}: how many amperes is not said, so nobody knows whether supply, contacts and conductors bear it.`,
      remedy: 'Read it off the device’s plate or sheet, or meter it, and enter it.',
    });
  if (flows === 0) return out;
  for (const placed of [...sources, ...loads]) {
    const end = ends.find(({ id }) => id === placed.end);
    // Contacts of one end on one net share the current.
    const side = pins.filter((other) => other.end === placed.end && other.pin.kind === placed.pin.kind);
    const each = placed.pin.kind === 'supply-in' ? (knownA(placed.pin) ?? 0) : flows / side.length;
    if (end && each > end.contactBearsA)
      out.push({
        rule: 'contact-current',
        severity: 'wrong',
        contacts: [placeWords(placed)],
        words: `${named([placed])} carries ${each.toFixed(2)} A; a contact of ${end.connector} bears ${end.contactBearsA} A.`,
        remedy: 'Share it over several contacts, or take another connector.',
      });
  }
  const thickest = Math.max(0, ...wires.map(({ areaMm2 }) => areaMm2));
  const gives = sources[0]?.pin.volts?.[0];
  if (thickest > 0 && gives !== undefined) {
    // There and back.
    const drop = (2 * lengthM * COPPER_OHM_MM2_PER_M * flows) / thickest;
    if (drop > DROP_SHARE * gives)
      out.push({
        rule: 'voltage-drop',
        severity: 'unsure',
        contacts: places([...sources, ...loads]),
        words: `${flows.toFixed(2)} A through ${lengthM} m of ${thickest} mm2, there and back, lose ${drop.toFixed(2)} V of ${gives} V.`,
        remedy: 'Take thicker or more conductors, or a shorter lead.',
      });
  }
  return out;
}

/** A battery pack that feeds a net, its other side on a ground. */
export interface Pack {
  net: AdapterNet;
  freshV: number;
  endV: number;
  words: string;
}

export function packsOn(nets: readonly AdapterNet[], couplings: readonly Coupling[]): Pack[] {
  return couplings.flatMap(({ from, to, parts }) =>
    parts.flatMap(({ kind, cells, words }): Pack[] => {
      if (kind !== 'battery' || !cells) return [];
      const plus = from.pin.kind === 'ground' ? to : to.pin.kind === 'ground' ? from : null;
      const net = nets.find(({ pins }) => pins.some(({ pin }) => pin === plus?.pin));
      if (!net) return [];
      const { count, freshV, endV } = cells;
      return [
        { net, freshV: count * freshV, endV: count * endV, words: words || `${count} cells of ${freshV} V` },
      ];
    }),
  );
}

/** A pack's voltage, new and at the end of its life, against what its loads accept. */
export function batteryRules(nets: readonly AdapterNet[], couplings: readonly Coupling[]): RuleFinding[] {
  return packsOn(nets, couplings).flatMap(({ net, freshV, endV, words }) =>
    net.pins.flatMap((load): RuleFinding[] => {
      const takes = load.pin.kind === 'supply-in' ? load.pin.volts : null;
      if (!takes || (freshV <= takes[1] && endV >= takes[0])) return [];
      const over = freshV > takes[1];
      return [
        {
          rule: 'supply-out-of-range',
          severity: over ? 'wrong' : 'unsure',
          contacts: [placeWords(load)],
          words: `${words}: ${freshV.toFixed(2)} V new and ${endV.toFixed(2)} V at the end of its life, ${named([load])} accepts ${range(takes)}.`,
          remedy: over
            ? 'Take fewer cells, or put a regulator between.'
            : 'Take one cell more, or change it sooner.',
        },
      ];
    }),
  );
}

/** What each end's supply falls to, as a share of its most: a battery at its end, or a source's lower limit. */
export function leastSupplies(
  nets: readonly AdapterNet[],
  couplings: readonly Coupling[],
): ReadonlyMap<string, number> {
  const least = new Map<string, number>();
  const falls = (pins: readonly PlacedPin[], share: number): void => {
    for (const { end, pin } of pins)
      if (pin.kind === 'supply-in') least.set(end, Math.min(share, least.get(end) ?? 1));
  };
  for (const { pins } of nets)
    for (const { pin } of pins)
      if (pin.kind === 'supply-out' && pin.volts && pin.volts[1] > 0)
        falls(pins, pin.volts[0] / pin.volts[1]);
  for (const { net, freshV, endV } of packsOn(nets, couplings)) falls(net.pins, endV / freshV);
  return least;
}
