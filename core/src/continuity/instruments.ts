/** What kinds of trouble a link can have, in the trade's words (domain: section 4). */
export const FAULT_KINDS = {
  open: 'open',
  short: 'short',
  reversed: 'reversed pair',
  transposed: 'transposed pairs',
  swap: 'single swap',
  'mixed-scheme': 'mixed schemes',
  mirror: 'mirror',
  shifted: 'shifted by one',
  scrambled: 'wrong order',
  split: 'split pair',
  'screen-open': 'screen open',
  disturbed: 'impedance off (water, crush, untwisting)',
  'high-resistance': 'high resistance',
  intermittent: 'intermittent',
} as const;

export type FaultKind = keyof typeof FAULT_KINDS;

export type InstrumentClass =
  'lamp-pairs' | 'stepping-lamps' | 'coded-mapper' | 'coded-mapper-crosstalk' | 'pair-reflectometer' | 'eye';

/** What an instrument of a class can prove, and what it cannot see. */
export interface InstrumentTraits {
  id: InstrumentClass;
  name: string;
  /** Kinds of reading it gives. */
  reading: 'lamps' | 'map' | 'echo' | 'colours';
  /** The most a clean reading proves. */
  proves: 'loops' | 'map' | 'nothing';
  blindTo: readonly FaultKind[];
  /** Minutes to take one reading, walking included. */
  minutes: number;
}

const ANALOGUE_BLIND: readonly FaultKind[] = ['high-resistance', 'intermittent', 'disturbed'];

export const INSTRUMENTS: Readonly<Record<InstrumentClass, InstrumentTraits>> = {
  'lamp-pairs': {
    id: 'lamp-pairs',
    name: 'lamp tester, far end bridged',
    reading: 'lamps',
    proves: 'loops',
    blindTo: [
      'reversed',
      'transposed',
      'mixed-scheme',
      'mirror',
      'split',
      'short',
      'screen-open',
      ...ANALOGUE_BLIND,
    ],
    minutes: 3,
  },
  'stepping-lamps': {
    id: 'stepping-lamps',
    name: 'stepping lamps',
    reading: 'map',
    proves: 'map',
    blindTo: ['split', ...ANALOGUE_BLIND],
    minutes: 3,
  },
  'coded-mapper': {
    id: 'coded-mapper',
    name: 'coded mapper',
    reading: 'map',
    proves: 'map',
    blindTo: ['split', ...ANALOGUE_BLIND],
    minutes: 2,
  },
  'coded-mapper-crosstalk': {
    id: 'coded-mapper-crosstalk',
    name: 'coded mapper with crosstalk',
    reading: 'map',
    proves: 'map',
    blindTo: ANALOGUE_BLIND,
    minutes: 2,
  },
  'pair-reflectometer': {
    id: 'pair-reflectometer',
    name: 'reflectometer, pair by pair',
    reading: 'echo',
    proves: 'nothing',
    blindTo: ['reversed', 'transposed', 'swap', 'mixed-scheme', 'mirror', 'intermittent'],
    minutes: 2,
  },
  eye: {
    id: 'eye',
    name: 'colours read by eye',
    reading: 'colours',
    proves: 'nothing',
    blindTo: ['open', 'short', 'high-resistance', 'intermittent', 'disturbed'],
    minutes: 1,
  },
};

/** "cannot see split pairs, high resistance or intermittents", for the foot of a verdict. */
export function blindnessInWords(kinds: readonly FaultKind[]): string {
  const words = kinds.map((kind) => FAULT_KINDS[kind]);
  if (words.length < 2) return words.join('');
  return `${words.slice(0, -1).join(', ')} or ${words[words.length - 1]}`;
}
