import type { KitKind } from '@near-spoke/contracts';
import { lossWords, typedLoss, type LossPoint } from '@near-spoke/core';

/** How a figure of a sheet is asked for. */
export interface SheetField {
  /** Where it stands in the sheet: `strip.jacketMm`. */
  path: string;
  label: string;
  input: 'text' | 'number' | 'choice' | 'yes-no' | 'list' | 'losses';
  unit?: string;
  /** May be unknown: an empty field is null. */
  nullable?: boolean;
  choices?: readonly string[];
  /** A group that is null as a whole when it is not known. */
  span?: boolean;
}

const field = (path: string, label: string, given: Partial<SheetField> = {}): SheetField => ({
  path,
  label,
  input: 'number',
  ...given,
});
const mm = (path: string, label: string, given: Partial<SheetField> = {}): SheetField =>
  field(path, label, { unit: 'mm', ...given });
const choice = (path: string, label: string, choices: readonly string[], nullable = false): SheetField =>
  field(path, label, { input: 'choice', choices, nullable });
const span = (path: string, label: string): SheetField[] => [
  mm(`${path}.min`, `${label}, least`, { span: true, nullable: true }),
  mm(`${path}.max`, `${label}, most`, { span: true, nullable: true }),
];

/** The figures of each kind of sheet, by heading. */
export const SHEET_FIELDS: Readonly<
  Record<KitKind, readonly { title: string; fields: readonly SheetField[] }[]>
> = {
  cable: [
    {
      title: 'What it is',
      fields: [
        field('name', 'Name', { input: 'text' }),
        choice('family', 'Family', ['balanced', 'coax', 'ribbon', 'multicore']),
        field('pairs', 'Pairs'),
        field('conductors', 'Conductors'),
        field('outdoor', 'For outdoors', { input: 'yes-no' }),
      ],
    },
    {
      title: 'Layers',
      fields: [
        mm('jacketMm', 'Over the jacket'),
        mm('conductorMm', 'One conductor over its insulation', { nullable: true }),
        mm('dielectricMm', 'Coax: over the dielectric', { nullable: true }),
        mm('bareMm', 'Bare conductor or coax centre', { nullable: true }),
        field('awg', 'Gauge', { unit: 'AWG' }),
        field('stranded', 'Stranded', { input: 'yes-no', nullable: true }),
      ],
    },
    {
      title: 'Screen and line',
      fields: [
        field('screened', 'Screened', { input: 'yes-no' }),
        field('screens', 'Screens from outside, foil or braid', { input: 'list' }),
        field('drain', 'Drain wire', { input: 'yes-no' }),
        field('fillers', 'Beside the conductors', { input: 'list' }),
        field('velocityFactor', 'Velocity factor'),
        field('impedanceOhm', 'Impedance', { unit: 'ohm' }),
        field('loss', 'Loss, dB per 100 m at MHz', { input: 'losses' }),
      ],
    },
  ],
  connector: [
    {
      title: 'What it is',
      fields: [
        field('name', 'Name', { input: 'text' }),
        field('minutes', 'Time of a practised hand', { unit: 'min' }),
        mm('bodyMm', 'Finished connector, widest'),
        mm('stemMm', 'Tail for the ferrule or sleeve', { nullable: true }),
        field('screened', 'Has a shell to bond', { input: 'yes-no' }),
      ],
    },
    {
      title: 'What it takes',
      fields: [
        ...span('takes.jacketMm', 'Jacket'),
        ...span('takes.conductorMm', 'Insulated conductor'),
        ...span('takes.dielectricMm', 'Dielectric'),
        ...span('takes.bareMm', 'Bare conductor'),
        field('takes.awg.thickest', 'Thickest wire', { unit: 'AWG', span: true, nullable: true }),
        field('takes.awg.thinnest', 'Thinnest wire', { unit: 'AWG', span: true, nullable: true }),
        choice('takes.wire', 'Contacts for', ['solid', 'stranded', 'either'], true),
      ],
    },
    {
      title: 'Strip lengths, from the cable’s end',
      fields: [
        mm('strip.jacketMm', 'Jacket'),
        mm('strip.screenMm', 'Screen', { nullable: true }),
        mm('strip.insulationMm', 'Dielectric or insulation', { nullable: true }),
        mm('strip.trimMm', 'Left beyond the jacket', { nullable: true }),
      ],
    },
  ],
  tool: [
    {
      title: 'What it is',
      fields: [
        field('name', 'Name', { input: 'text' }),
        field('sizes', 'Dies, adapters, blades or cavities', { input: 'list' }),
      ],
    },
  ],
};

/** The fields of each part that comes with a connector. */
export const PART_FIELDS: readonly SheetField[] = [
  field('name', 'Name', { input: 'text' }),
  mm('boreMm', 'Bore'),
  mm('outsideMm', 'Outside'),
  mm('lengthMm', 'Length'),
  choice('over', 'Goes over the', ['jacket', 'core', 'end']),
  field('split', 'Opens along its length', { input: 'yes-no' }),
  field('optional', 'Can be left out', { input: 'yes-no' }),
];

type Json = Record<string, unknown>;

/** The value at a path such as `parts.0.boreMm`. */
export function valueAt(sheet: unknown, path: string): unknown {
  return path.split('.').reduce<unknown>((value, key) => (value as Json | null)?.[key], sheet);
}

/** A copy of the sheet with the value at a path exchanged. */
export function withValue<T>(sheet: T, path: string, value: unknown): T {
  const [key, ...rest] = path.split('.');
  if (key === undefined) return value as T;
  const copy: unknown = Array.isArray(sheet) ? [...(sheet as unknown[])] : { ...(sheet as Json | null) };
  (copy as Json)[key] = rest.length === 0 ? value : withValue((copy as Json)[key], rest.join('.'), value);
  return copy as T;
}

/** A span is unknown as a whole when neither of its figures is given. */
export function withSpan<T>(sheet: T, path: string, value: unknown): T {
  const next = withValue(sheet, path, value);
  const group = path.split('.').slice(0, -1).join('.');
  const figures = Object.values((valueAt(next, group) ?? {}) as Json);
  return figures.every((figure) => figure === null || figure === undefined)
    ? withValue(next, group, null)
    : next;
}

/** What was typed, as the sheet holds it. */
export function parseField(field: SheetField, text: string): unknown {
  const trimmed = text.trim();
  switch (field.input) {
    case 'number':
      return trimmed === '' ? (field.nullable ? null : Number.NaN) : Number(trimmed.replace(',', '.'));
    case 'choice':
      return trimmed === '' ? null : trimmed;
    case 'yes-no':
      return trimmed === '' ? null : trimmed === 'yes';
    case 'list':
      return trimmed === '' ? [] : trimmed.split(';').map((word) => word.trim());
    case 'losses': {
      const { loss, trouble } = typedLoss(trimmed);
      // What is no loss is named by the sheet's own check.
      return trouble === '' ? loss : [{ mhz: NaN, dbPer100m: NaN }];
    }
    case 'text':
      return text;
  }
}

/** A figure of the sheet as text in its field. */
export function showField(field: SheetField, value: unknown): string {
  if (value === null || value === undefined || Number.isNaN(value)) return '';
  if (field.input === 'yes-no') return value ? 'yes' : 'no';
  if (field.input === 'list') return (value as string[]).join('; ');
  if (field.input === 'losses') return lossWords(value as LossPoint[]);
  return String(value);
}
