import type { LinkEnd } from '../continuity/true-link.js';
import { formatCableLength, type UnitSystem } from '../quantities/length.js';

/** What a label can say of a link's end. */
export interface LabelledLink {
  id: string;
  label: string;
  near: { hub: string; panel: string; port: string };
  far: { room: string; outlet: string };
  lengthM: number;
  cableTypeId: string;
}

interface Words {
  site: string;
  units: UnitSystem;
  cableName: (id: string) => string;
}

/** What may stand in braces in a line of a label. */
export const LABEL_FIELDS = {
  label: 'the link’s label',
  hub: 'hub',
  panel: 'panel',
  port: 'port',
  room: 'room',
  outlet: 'outlet',
  site: 'site',
  cable: 'cable',
  length: 'length',
} as const;
export type LabelField = keyof typeof LABEL_FIELDS;

/** Lines of text for each end, with fields in braces. */
export interface LabelLines {
  near: readonly string[];
  far: readonly string[];
}

/** A field in braces that there is none of. */
export interface UnknownField {
  line: string;
  field: string;
}

/** Fields that lines name and nobody knows. */
export function unknownFields(lines: readonly string[]): UnknownField[] {
  return lines.flatMap((line) =>
    [...line.matchAll(/\{([^{}]*)\}/g)]
      .map((match) => match[1] ?? '')
      .filter((field) => !(field in LABEL_FIELDS))
      .map((field) => ({ line, field })),
  );
}

/** The text of one end's label, line by line; lines that come out empty are left out. */
export function labelText(
  link: LabelledLink,
  end: LinkEnd,
  lines: LabelLines,
  { site, units, cableName }: Words,
): string[] {
  const fields: Readonly<Record<LabelField, string>> = {
    label: link.label,
    hub: link.near.hub,
    panel: link.near.panel,
    port: link.near.port,
    room: link.far.room,
    outlet: link.far.outlet,
    site,
    cable: cableName(link.cableTypeId),
    length: formatCableLength(link.lengthM, units),
  };
  return lines[end]
    .map((line) =>
      line.replace(/\{([^{}]*)\}/g, (whole, field: string) => fields[field as LabelField] ?? whole).trim(),
    )
    .filter((line) => line !== '');
}
