import { EIGHT_CONTACTS, SCREEN_CONTACT } from '../../cabling/schemes.js';
import type {
  ConnectorPart,
  ConnectorType,
  JackSlot,
  PartKind,
  Span,
  StripFigures,
  Takes,
  ToolKind,
  ToolNeed,
} from '../connector-types.js';

/** Short ways to write the rows of the connector library. */
export const span = (min: number, max: number): Span => ({ min, max });

export const EIGHT_AND_SCREEN = [...EIGHT_CONTACTS, SCREEN_CONTACT];

const NOTHING_SAID: Takes = {
  jacketMm: null,
  conductorMm: null,
  dielectricMm: null,
  bareMm: null,
  awg: null,
  wire: null,
};
export const takes = (given: Partial<Takes>): Takes => ({ ...NOTHING_SAID, ...given });

export const strip = (jacketMm: number, given: Partial<StripFigures> = {}): StripFigures => ({
  jacketMm,
  screenMm: null,
  insulationMm: null,
  trimMm: null,
  ...given,
});

export const slots = (left: string, right: string): JackSlot[] => [
  ...[...left].map((contact, place) => ({ row: 'left' as const, place, contact })),
  ...[...right].map((contact, place) => ({ row: 'right' as const, place, contact })),
];

export const part = (
  kind: PartKind,
  boreMm: number,
  outsideMm: number,
  lengthMm: number,
  given: Partial<ConnectorPart> = {},
): ConnectorPart => ({
  name: kind.replace('-', ' '),
  kind,
  boreMm,
  outsideMm,
  lengthMm,
  over: 'jacket',
  split: false,
  optional: false,
  ...given,
});

/** The boot of a plug: the plug holds without it, but the latch snags. */
export const boot = (boreMm: number): ConnectorPart =>
  part('boot', boreMm, boreMm + 4, 24, { optional: true });

/** `tool('hex crimp tool', '.429')`. */
export const tool = (kind: ToolKind, size: string | null = null): ToolNeed => ({ kind, size });

/** Fills what most rows share. */
export const connector = (
  given: Partial<ConnectorType> &
    Pick<
      ConnectorType,
      'id' | 'name' | 'group' | 'recipe' | 'assignment' | 'face' | 'bodyMm' | 'strip' | 'takes'
    >,
): ConnectorType => ({
  kind: 'other',
  contacts: [],
  screened: false,
  stemMm: null,
  slots: [],
  parts: [],
  tools: [],
  minutes: 5,
  source: 'typical',
  ...given,
});
