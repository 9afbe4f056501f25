import type { ConnectorPart, ConnectorType } from '../connectors/connector-types.js';
import type { CableType } from '../cabling/cable-types.js';

/** When a ring part can go on, and why. */
export interface PartVerdict {
  part: ConnectorPart;
  when: 'first' | 'any time' | 'never';
  words: string;
}

/**
 * Decides from bores whether a closed ring must be threaded before the end is opened: it must
 * pass the jacket, and cannot pass the connector once that is on (domain: section 9).
 */
export function judgePart(
  part: ConnectorPart,
  cable: Pick<CableType, 'jacketMm'>,
  connector: Pick<ConnectorType, 'bodyMm'>,
): PartVerdict {
  const bore = part.boreMm.toFixed(1);
  if (part.boreMm <= cable.jacketMm) {
    return {
      part,
      when: 'never',
      words: `The ${part.name}'s bore (${bore} mm) does not pass this jacket (${cable.jacketMm.toFixed(1)} mm): take a bigger one.`,
    };
  }
  if (part.boreMm <= connector.bodyMm) {
    return {
      part,
      when: 'first',
      words: `Bore ${bore} mm passes the jacket (${cable.jacketMm.toFixed(1)} mm), not the connector (${connector.bodyMm.toFixed(1)} mm): it cannot go on later.`,
    };
  }
  return {
    part,
    when: 'any time',
    words: `Bore ${bore} mm passes the finished connector (${connector.bodyMm.toFixed(1)} mm).`,
  };
}
