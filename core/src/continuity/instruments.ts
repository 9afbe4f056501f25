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
  splice: 'splice made wrong',
  equipment: 'equipment still connected',
  'not-connected': 'no remote, or another outlet',
  length: 'another length than planned',
  unexplained: 'something that no explanation of ours fits',
} as const;

export type FaultKind = keyof typeof FAULT_KINDS;

export type InstrumentClass =
  | 'lamp-pairs'
  | 'lamps-one-return'
  | 'stepping-lamps'
  | 'coded-mapper'
  | 'coded-mapper-crosstalk'
  | 'beeper'
  | 'ohmmeter'
  | 'pair-reflectometer'
  | 'tone-probe'
  | 'dc-voltage'
  | 'power-tester'
  | 'capacitance-meter'
  | 'wiggle'
  | 'eye';

/** How often an instrument, with the hand that holds it, says what is not so; of touches, at the first try. Typical. */
export interface ErrorRates {
  /** A good path read as open, or a thing that is there not seen. */
  missed: number;
  /** A path read as another path, a colour as another colour. */
  wrong: number;
  /** Something seen where nothing is. */
  ghost: number;
}

/** What an instrument of a class can prove, and how often it errs; what it cannot see is computed (`blindTo`). */
export interface InstrumentTraits {
  id: InstrumentClass;
  name: string;
  /** Kinds of reading it gives. */
  reading:
    'lamps' | 'map' | 'echo' | 'colours' | 'touches' | 'tones' | 'volts' | 'feeds' | 'farads' | 'flickers';
  /** The most a clean reading proves. */
  proves: 'loops' | 'map' | 'nothing';
  /** Minutes to take one reading, walking included. */
  minutes: number;
  /** A path of more resistance than this reads open. */
  thresholdOhm: number;
  errors: ErrorRates;
  /**
   * Share of readings that are not of this link as it is: plugged into another port, the remote or the
   * eye at another outlet, keyed in wrong. Typical of people; far commoner than a tester that errs.
   */
  stray: number;
}

/** What a reading was taken with, in words; what was located without a trace says so. */
export function takenWith(reading: { instrument: InstrumentClass; by?: string | undefined }): string {
  const by = reading.by === undefined ? undefined : LOCATED_BY[reading.by];
  return by ?? INSTRUMENTS[reading.instrument].name;
}

const LOCATED_BY: Readonly<Record<string, string>> = {
  cursors: 'cursors, read by eye off a screen',
  capacitance: 'capacitance meter',
  resistance: 'ohmmeter, from both ends',
};

export const INSTRUMENTS: Readonly<Record<InstrumentClass, InstrumentTraits>> = {
  'lamp-pairs': {
    id: 'lamp-pairs',
    name: 'lamp tester, far end bridged',
    reading: 'lamps',
    proves: 'loops',
    minutes: 3,
    thresholdOhm: 300,
    errors: { missed: 0.001, wrong: 0, ghost: 0.001 },
    stray: 0.005,
  },
  'lamps-one-return': {
    id: 'lamps-one-return',
    name: 'lamps on one return, far end bridged',
    reading: 'lamps',
    proves: 'loops',
    minutes: 3,
    thresholdOhm: 300,
    errors: { missed: 0.001, wrong: 0, ghost: 0.001 },
    stray: 0.005,
  },
  'stepping-lamps': {
    id: 'stepping-lamps',
    name: 'stepping lamps',
    reading: 'map',
    proves: 'map',
    minutes: 3,
    thresholdOhm: 300,
    errors: { missed: 0.0005, wrong: 0.00001, ghost: 0.00001 },
    stray: 0.005,
  },
  'coded-mapper': {
    id: 'coded-mapper',
    name: 'coded mapper',
    reading: 'map',
    proves: 'map',
    minutes: 2,
    thresholdOhm: 300,
    errors: { missed: 0.0002, wrong: 0.000005, ghost: 0.000005 },
    stray: 0.005,
  },
  'coded-mapper-crosstalk': {
    id: 'coded-mapper-crosstalk',
    name: 'coded mapper with crosstalk',
    reading: 'map',
    proves: 'map',
    minutes: 2,
    thresholdOhm: 300,
    errors: { missed: 0.0002, wrong: 0.000005, ghost: 0.000005 },
    stray: 0.005,
  },
  beeper: {
    id: 'beeper',
    name: 'continuity beeper',
    reading: 'touches',
    proves: 'map',
    minutes: 6,
    thresholdOhm: 30,
    errors: { missed: 0.005, wrong: 0, ghost: 0.0015 },
    stray: 0.003,
  },
  ohmmeter: {
    id: 'ohmmeter',
    name: 'ohmmeter, leads zeroed',
    reading: 'touches',
    proves: 'map',
    minutes: 6,
    thresholdOhm: Infinity,
    errors: { missed: 0.005, wrong: 0, ghost: 0.0015 },
    stray: 0.003,
  },
  'pair-reflectometer': {
    id: 'pair-reflectometer',
    name: 'reflectometer, pair by pair',
    reading: 'echo',
    proves: 'nothing',
    minutes: 2,
    thresholdOhm: Infinity,
    errors: { missed: 0.002, wrong: 0.001, ghost: 0.0005 },
    stray: 0.005,
  },
  'tone-probe': {
    id: 'tone-probe',
    name: 'tone and probe',
    reading: 'tones',
    proves: 'nothing',
    minutes: 4,
    thresholdOhm: Infinity,
    errors: { missed: 0.02, wrong: 0, ghost: 0.01 },
    stray: 0.002,
  },
  'dc-voltage': {
    id: 'dc-voltage',
    name: 'DC voltage across a pair',
    reading: 'volts',
    proves: 'nothing',
    minutes: 2,
    thresholdOhm: Infinity,
    errors: { missed: 0.005, wrong: 0.0005, ghost: 0.001 },
    stray: 0.002,
  },
  'power-tester': {
    id: 'power-tester',
    name: 'power tester, which pairs are fed',
    reading: 'feeds',
    proves: 'nothing',
    minutes: 2,
    thresholdOhm: Infinity,
    errors: { missed: 0.01, wrong: 0.001, ghost: 0.002 },
    stray: 0.01,
  },
  'capacitance-meter': {
    id: 'capacitance-meter',
    name: 'capacitance meter',
    reading: 'farads',
    proves: 'nothing',
    minutes: 6,
    thresholdOhm: Infinity,
    errors: { missed: 0.002, wrong: 0.0006, ghost: 0.001 },
    stray: 0.003,
  },
  wiggle: {
    id: 'wiggle',
    name: 'wiggled while a mapper watched',
    reading: 'flickers',
    proves: 'nothing',
    minutes: 2,
    thresholdOhm: 300,
    errors: { missed: 0.1, wrong: 0, ghost: 0.00005 },
    stray: 0.002,
  },
  eye: {
    id: 'eye',
    name: 'colours read by eye',
    reading: 'colours',
    proves: 'nothing',
    minutes: 1,
    thresholdOhm: 0,
    errors: { missed: 0, wrong: 0.003, ghost: 0.0005 },
    stray: 0.003,
  },
};

/** Instruments that a crew has or has not; eyes and hands it has. */
export const TO_OWN = (Object.keys(INSTRUMENTS) as InstrumentClass[]).filter(
  (one) => one !== 'eye' && one !== 'wiggle',
);

/** "cannot see split pairs, high resistance or intermittents", for the foot of a verdict. */
export function blindnessInWords(kinds: readonly FaultKind[]): string {
  const words = kinds.map((kind) => FAULT_KINDS[kind]);
  if (words.length < 2) return words.join('');
  return `${words.slice(0, -1).join(', ')} or ${words[words.length - 1]}`;
}
