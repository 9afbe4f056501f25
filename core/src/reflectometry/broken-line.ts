import type { EventKind } from './events.js';
import type { LineFigures } from './line.js';
import type { Element, Load } from './network.js';

/** What can be wrong with a line at a place. */
export type LineFaultKind = 'open' | 'short' | 'poor' | 'leak' | 'wet' | 'crushed' | 'apart' | 'branch';

/** A fault of a line: what, where from the near end, and how bad, 0 to 1. */
export interface LineFault {
  kind: LineFaultKind;
  atM: number;
  severity: number;
}

interface FaultSort {
  name: string;
  /** What a person calls it who opens the wall. */
  words: string;
  /** What a trace shows it as. */
  shows: readonly EventKind[];
  /** Whether nothing behind it is reached; how the line then ends. */
  stops: Load | null;
  /** What it puts into the line, by how bad it is. */
  elements: (line: LineFigures, severity: number) => Element[];
}

/** From the mildest to the worst, evenly by ratio. */
const between = (mild: number, worst: number, severity: number): number =>
  mild * (worst / mild) ** Math.min(1, Math.max(0, severity));

const section = (line: LineFigures, lengthM: number, impedance: number, velocity: number): Element => ({
  kind: 'line',
  lengthM,
  line: {
    ...line,
    impedanceOhm: line.impedanceOhm * impedance,
    velocityFactor: line.velocityFactor * velocity,
  },
});

/** Faults of a line as a reflectometer meets them. Sizes are typical. */
export const LINE_FAULTS: Readonly<Record<LineFaultKind, FaultSort>> = {
  open: {
    name: 'Broken through',
    words: 'a conductor is broken',
    shows: ['open'],
    stops: 'open',
    elements: () => [],
  },
  short: {
    name: 'Shorted',
    words: 'the two conductors touch, a staple or a strand',
    shows: ['short'],
    stops: 'short',
    elements: () => [],
  },
  poor: {
    name: 'Poor joint',
    words: 'a corroded or loose joint: resistance in the way',
    shows: ['series-resistance', 'joint'],
    stops: null,
    elements: ({ impedanceOhm }, severity) => [
      { kind: 'series', ohm: impedanceOhm * between(0.15, 4, severity) },
    ],
  },
  leak: {
    name: 'Leak across',
    words: 'dirt or a pin through the jacket: a path across',
    shows: ['wet-or-shunt'],
    stops: null,
    elements: ({ impedanceOhm }, severity) => [
      { kind: 'shunt', ohm: impedanceOhm * between(5, 0.4, severity) },
    ],
  },
  wet: {
    name: 'Water in the cable',
    words: 'water in the cable: a stretch of low impedance that leaks',
    shows: ['low-section', 'wet-or-shunt'],
    stops: null,
    elements: (line, severity) => [
      section(line, between(0.3, 2.5, severity), between(0.85, 0.55, severity), 0.91),
      { kind: 'shunt', ohm: line.impedanceOhm * between(12, 1.5, severity) },
    ],
  },
  crushed: {
    name: 'Crushed',
    words: 'crushed or bent too tightly: a short stretch of low impedance',
    shows: ['low-section', 'wet-or-shunt', 'joint'],
    stops: null,
    elements: (line, severity) => [
      section(line, between(0.15, 0.6, severity), between(0.8, 0.5, severity), 1),
    ],
  },
  apart: {
    name: 'Pulled apart',
    words: 'untwisted, split or pulled apart: a stretch of high impedance',
    shows: ['high-section', 'series-resistance', 'joint'],
    stops: null,
    elements: (line, severity) => [section(line, between(0.3, 3, severity), between(1.2, 1.8, severity), 1)],
  },
  branch: {
    name: 'Branch left on',
    words: 'a branch nobody took off, open at its end',
    shows: ['stub', 'wet-or-shunt'],
    stops: null,
    elements: (line, severity) => [
      {
        kind: 'stub',
        chain: [{ kind: 'line', lengthM: between(0.6, 8, severity), line }],
        load: 'open',
      },
    ],
  },
};

/**
 * A line with faults in it as a chain, faults in order of their place and none beyond the first
 * that stops the wave; `load` is what closes the sound line.
 */
export function brokenLine(
  line: LineFigures,
  lengthM: number,
  faults: readonly LineFault[],
  load: Load = 'open',
): { chain: Element[]; load: Load } {
  const chain: Element[] = [];
  let at = 0;
  for (const { kind, atM, severity } of faults.toSorted((a, b) => a.atM - b.atM)) {
    const place = Math.min(Math.max(atM, at), lengthM);
    if (place > at) chain.push({ kind: 'line', lengthM: place - at, line });
    at = place;
    const { stops, elements } = LINE_FAULTS[kind];
    if (stops !== null) return { chain, load: stops };
    for (const element of elements(line, severity)) {
      chain.push(element);
      if (element.kind === 'line') at = Math.min(lengthM, at + element.lengthM);
    }
  }
  if (lengthM > at) chain.push({ kind: 'line', lengthM: lengthM - at, line });
  return { chain, load };
}
