import type { ConnectorType, PartKind } from '../connectors/connector-types.js';
import { sparesFor, type Spares } from './spares.js';

/** What a link that is not finished still takes. */
export interface OpenLink {
  label: string;
  cableTypeId: string;
  /** As it will be cut. */
  pieceM: number;
  /** Cable is in already. */
  pulled: boolean;
  nearConnectorId: string;
  farConnectorId: string;
  nearDone: boolean;
  farDone: boolean;
}

/** One line of what a job takes. */
export type TakeOffLine =
  | { what: 'cable'; id: string; name: string; metres: number; pieces: number }
  | ({ what: 'connector'; id: string; name: string } & Spares)
  /** Parts that a connector has round the cable: one for each end. */
  | { what: 'part'; id: string; name: string; needed: number; bring: number }
  | { what: 'label'; id: 'label'; name: string; needed: number; bring: number };

/** A label at each end, each with a spare for every ten (typical). */
const LABEL_SPARES = 0.1;
/** Parts that an end made again keeps: of those one in twenty is lost or split (typical). All others go with their connector. */
const KEPT: readonly PartKind[] = ['boot', 'cap', 'hood', 'nut', 'strain-relief'];
const KEPT_SPARES = 0.05;

/**
 * What the links of a job still take, with spares for what is spoiled.
 *
 * @param spoilt the crew's count of a connector; without one, the belief before any record
 */
export function takeOff(
  links: readonly OpenLink[],
  {
    connectors,
    cableName,
    spoilt,
    confidence,
  }: {
    connectors: readonly Pick<ConnectorType, 'id' | 'name' | 'parts'>[];
    cableName: (id: string) => string;
    spoilt: (connectorId: string) => { spoiled: number; good: number };
    confidence: number;
  },
): TakeOffLine[] {
  const lines: TakeOffLine[] = [];
  const cables = new Map<string, { metres: number; pieces: number }>();
  for (const { cableTypeId, pieceM, pulled } of links) {
    if (pulled) continue;
    const so = cables.get(cableTypeId) ?? { metres: 0, pieces: 0 };
    cables.set(cableTypeId, { metres: so.metres + pieceM, pieces: so.pieces + 1 });
  }
  for (const [id, so] of cables) lines.push({ what: 'cable', id, name: cableName(id), ...so });
  const ends = links.flatMap((link) => [
    ...(link.nearDone ? [] : [link.nearConnectorId]),
    ...(link.farDone ? [] : [link.farConnectorId]),
  ]);
  const counts = new Map<string, number>();
  for (const id of ends) counts.set(id, (counts.get(id) ?? 0) + 1);
  const parts = new Map<string, { name: string; needed: number; bring: number }>();
  for (const [id, needed] of counts) {
    const connector = connectors.find((one) => one.id === id);
    const spares = sparesFor(needed, spoilt(id), confidence);
    lines.push({ what: 'connector', id, name: connector?.name ?? id, ...spares });
    for (const part of connector?.parts ?? []) {
      const name = `${part.name}, bore ${part.boreMm} mm`;
      const so = parts.get(name) ?? { name, needed: 0, bring: 0 };
      const bring = KEPT.includes(part.kind) ? Math.ceil(needed * (1 + KEPT_SPARES)) : spares.bring;
      parts.set(name, { name, needed: so.needed + needed, bring: so.bring + bring });
    }
  }
  for (const part of parts.values()) lines.push({ what: 'part', id: part.name, ...part });
  if (ends.length > 0)
    lines.push({
      what: 'label',
      id: 'label',
      name: 'cable labels',
      needed: ends.length,
      bring: Math.ceil(ends.length * (1 + LABEL_SPARES)),
    });
  return lines;
}
