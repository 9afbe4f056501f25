import type { AskedFigure } from '@near-spoke/core';

/** What a record says of how its figure was read, where it was no trace. */
export const BY_EYE = 'read by eye off a screen';

/** What the fields that tell of a trace ask for: as wide as the server takes it. */
export const TRACE_FIELDS = {
  velocity: { what: 'Velocity factor', least: 0.3, most: 1 },
  velocityU95: { what: 'How good the velocity is', least: 0, most: 0.3 },
  lead: { what: 'Lead', unit: 'metres', least: 0, most: 1000 },
  leadVelocity: { what: 'Lead’s velocity factor', least: 0.3, most: 1 },
} as const satisfies Record<string, AskedFigure>;
