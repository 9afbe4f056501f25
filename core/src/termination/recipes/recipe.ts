import type { CableType } from '../../cabling/cable-types.js';
import { insulationName } from '../../cabling/colours.js';
import { SCREEN } from '../../cabling/conductors.js';
import type { Scheme } from '../../cabling/schemes.js';
import type { ConnectorType, PartKind, ToolKind } from '../../connectors/connector-types.js';
import { formatStripLength, type UnitSystem } from '../../quantities/length.js';
import { CORE, TIP, type Girth, type Zone } from '../assembly.js';
import type { AssignedContact } from '../assignment.js';
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

/** One step of a recipe: words for the person, geometry for the solver. */
export interface RecipeStep {
  id: string;
  verb: Verb;
  when?: (f: CardFigures) => boolean;
  title: (f: CardFigures) => string;
  how: (f: CardFigures) => string;
  reason: string;
  /** What to look at, and what is good. */
  accept: string;
  /** What is bad, and what that means. */
  reject: string;
  caution?: string;
  wrongTurns?: readonly string[];
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
}

export const says = (words: string) => (): string => words;

/** "a, b and c". */
export const named = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;

export const len = (f: CardFigures, mm: number | null): string => formatStripLength(mm ?? 0, f.units);

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
