import type { Kit, Link } from '@near-spoke/contracts';
import type { PlannedLink } from '@near-spoke/core';

/** Links as their plan is checked, with their types from the kit; those whose types are not there are left out. */
export function plannedLinks(links: readonly Link[], kit: Kit): PlannedLink[] {
  const cables = new Map(kit.cables.map((cable) => [cable.id, cable]));
  const connectors = new Map(kit.connectors.map((connector) => [connector.id, connector]));
  return links.flatMap(({ label, cableTypeId, near, far, lengthM, route, carries }) => {
    const cable = cables.get(cableTypeId);
    const [atNear, atFar] = [connectors.get(near.connectorId), connectors.get(far.connectorId)];
    return cable && atNear && atFar
      ? [{ label, cable, near: atNear, far: atFar, lengthM, route, carries }]
      : [];
  });
}
