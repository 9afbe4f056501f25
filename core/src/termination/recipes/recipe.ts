import type { CableType } from '../../cabling/cable-types.js';
import { insulationName } from '../../cabling/colours.js';
import { SCREEN } from '../../cabling/conductors.js';
import type { Scheme } from '../../cabling/schemes.js';
import {
  stripToleranceMm,
  type ConnectorType,
  type PartKind,
  type ToolKind,
} from '../../connectors/connector-types.js';
import { formatStripTolerance, type UnitSystem } from '../../quantities/length.js';
import { CORE, TIP, type Girth, type Zone } from '../assembly.js';
import type { AssignedContact } from '../../connectors/assignment.js';
import type { Choices } from '../schools.js';

/** What a hand does in a step. */
export type Verb =
  | 'thread'
  | 'score'
  | 'strip'
  | 'fold back'
  | 'trim'
  | 'untwist'
  | 'straighten'
  | 'arrange'
  | 'cut'
  | 'insert'
  | 'punch'
  | 'crimp'
  | 'compress'
  | 'screw'
  | 'press'
  | 'solder'
  | 'shrink'
  | 'tie'
  | 'close'
  | 'inspect'
  | 'tug'
  | 'label';

/** What the card draws beside a step. */
export type StepPicture = 'lay-out' | 'thread' | 'strip' | 'face' | 'slots' | 'finished';

/** The figures a recipe's words may use. */
export interface CardFigures {
  cable: CableType;
  connector: ConnectorType;
  scheme: Scheme;
  choices: Choices;
  order: readonly AssignedContact[];
  units: UnitSystem;
}

/** Words of a step: alike for all, or by what is in the hand. */
export type Words = string | ((f: CardFigures) => string);

/** One step of a recipe: words for the person, geometry for the solver. */
export interface RecipeStep {
  id: string;
  verb: Verb;
  when?: (f: CardFigures) => boolean;
  title: (f: CardFigures) => string;
  how: (f: CardFigures) => string;
  reason: Words;
  /** What to look at, and what is good. */
  accept: Words;
  /** What is bad, and what that means. */
  reject: Words;
  caution?: Words;
  wrongTurns?: readonly string[] | ((f: CardFigures) => readonly string[]);
  /** The connector is spent if something was wrong before this. */
  noWayBack?: boolean;
  /** The order is read back here before going on. */
  readBack?: boolean;
  picture: StepPicture;
  minutes: number;
  tool?: ToolKind;
  /** What the end measures afterwards, where it changes. */
  girths?: (f: CardFigures) => readonly Girth[];
  /** A threaded part is brought forward to a place. */
  brings?: { part: PartKind; to: Zone };
  /** A threaded part that this step works and nothing else: without the part there is no such step. */
  works?: PartKind;
}

/** A step's words for what is in the hand. */
export const spoken = (words: Words, f: CardFigures): string =>
  typeof words === 'string' ? words : words(f);

export const says = (words: string) => (): string => words;

/** "a, b and c". */
export const named = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;

/** A strip length with what it may be off. */
export const len = (f: CardFigures, mm: number | null): string =>
  formatStripTolerance(mm ?? 0, f.units, stripToleranceMm(f.connector));

/** Where makers number differently, the figures on the body win over any drawing. */
export const numbersAsMoulded = (f: CardFigures): string =>
  f.connector.sheetDecides
    ? ' Where each number lies is moulded beside it: that and the sheet in the bag decide.'
    : '';

export const isScreened = (f: CardFigures): boolean => f.cable.screened && f.connector.screened;
export const isFoil = (f: CardFigures): boolean => f.cable.screens[0] === 'foil';

/** The order in words, contact 1 first. */
export const colours = (f: CardFigures): string =>
  f.order
    .filter((line) => line.conductor !== SCREEN)
    .map((line) => insulationName(line.conductor))
    .join(', ');

/** "5 white-blue, 2 blue". */
export const onContacts = (f: CardFigures): string =>
  f.order.map((line) => `${insulationName(line.conductor)} on ${line.contact}`).join(', ');

/** The opened core is about four fifths of the jacket, for paired cable. */
const CORE_SHARE = 0.8;
export const opened = (f: CardFigures): Girth[] => {
  const mm = f.cable.jacketMm * CORE_SHARE;
  return [
    { zone: TIP, mm },
    { zone: CORE, mm },
  ];
};
/** The finished connector at the tip. */
export const bodyOn = (f: CardFigures): Girth[] => [{ zone: TIP, mm: f.connector.bodyMm }];
