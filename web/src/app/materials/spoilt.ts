import type { SpoilCount } from '@near-spoke/contracts';

/** A crew's count of a connector: spoiled, and good. */
export type Spoilt = (connectorId: string) => { spoiled: number; good: number };

/** What the crew's record says of each connector, whoever made the ends. */
export function spoiltBy(counts: readonly SpoilCount[]): Spoilt {
  const of = new Map<string, { spoiled: number; good: number }>();
  for (const { connectorTypeId, spoiled, good } of counts) {
    const known = of.get(connectorTypeId) ?? { spoiled: 0, good: 0 };
    of.set(connectorTypeId, { spoiled: known.spoiled + spoiled, good: known.good + good });
  }
  return (connectorId) => of.get(connectorId) ?? { spoiled: 0, good: 0 };
}
