import type { Kit, Link } from '@near-spoke/contracts';
import { CABLE_TYPES, CONNECTOR_TYPES } from '@near-spoke/core';
import { isDeepStrictEqual } from 'node:util';

/** Types of a plan by names that the stand-in knows. */
export interface KnownTypes {
  cable: string;
  near: string;
  far: string;
}

/** Types that the stand-in knows as they are, so that no kit is needed to find them; null where one is a crew's own. */
export function knownAsTheyAre({ cableTypeId: cable, near, far }: Link): KnownTypes | null {
  const known = CABLE_TYPES.some(({ id }) => id === cable);
  const knows = (end: string): boolean => CONNECTOR_TYPES.some(({ id }) => id === end);
  if (!known || !knows(near.connectorId) || !knows(far.connectorId)) return null;
  return { cable, near: near.connectorId, far: far.connectorId };
}

/**
 * The stand-in knows the generic types only. A crew's own type is told to it as the generic one
 * that a tester could not tell from it; null where there is none.
 */
export function genericAlike(kit: Kit, planned: Link): KnownTypes | null {
  const own = kit.cables.find((c) => c.id === planned.cableTypeId);
  const cable = CABLE_TYPES.find(
    (c) =>
      c.id === planned.cableTypeId ||
      (own && c.family === own.family && c.pairs === own.pairs && c.screened === own.screened),
  );
  const connector = (id: string): string | undefined => {
    const sheet = kit.connectors.find((c) => c.id === id);
    const same = CONNECTOR_TYPES.find((c) => c.id === id);
    const alike = CONNECTOR_TYPES.find(
      (c) => sheet && c.kind === sheet.kind && isDeepStrictEqual(c.contacts, sheet.contacts),
    );
    return (same ?? alike)?.id;
  };
  const [near, far] = [connector(planned.near.connectorId), connector(planned.far.connectorId)];
  return cable && near && far ? { cable: cable.id, near, far } : null;
}
