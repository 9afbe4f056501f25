import type { PowerReading } from '../../continuity/readings.js';
import { POWER_TYPES, powerTypeOf, type PowerFeed } from './remote-power.js';

/** What a supply, as a power tester shows it, falls short of what is planned to be fed over a link. */
export type SupplyConcern =
  | { concern: 'nothing' }
  /** It promises the device less than it takes, W. */
  | { concern: 'too-little'; offered: string; promisedW: number; wantedW: number }
  /** It feeds without asking, where a device that asks is planned. */
  | { concern: 'unasked'; offered: string }
  /** It asks first, where a device is planned that does not answer. */
  | { concern: 'waits'; offered: string }
  /** One set of pairs where the power wants both, W. */
  | { concern: 'two-pairs'; mostW: number; wantedW: number }
  /** Under what the way of feeding begins with, or over what it may have, V. */
  | { concern: 'volts'; volts: number; leastV: number; mostV: number };

/** Over one set of pairs a supply by IEEE 802.3 feeds a device at most what its types of two pairs promise. */
const MOST_ON_TWO_PAIRS_W = Math.max(
  ...POWER_TYPES.map(({ pairs, deviceW }) => (pairs === 2 ? (deviceW ?? 0) : 0)),
);
/** The most a supply by IEEE 802.3 may hold a pair at. */
const MOST_V = 57;
/** A tester shows volts to about so much, and a passive supply is not what its label says to more (typical). */
const VOLTS_TELL = { standard: 0.02, passive: 0.2 };

/** What is wrong with a supply for the device that is planned, the worst first; nothing where it will do. */
export function supplyConcerns(planned: PowerFeed, { sets, volts, offers }: PowerReading): SupplyConcern[] {
  const [wanted, offered] = [powerTypeOf(planned.type), powerTypeOf(offers ?? '')];
  const shown = [sets.a, sets.b].filter((one) => one !== 'none').length;
  if (shown === 0) return [{ concern: 'nothing' }];
  const asks = (one: typeof wanted): boolean => one !== undefined && one.deviceW !== null;
  const concerns: SupplyConcern[] = [];
  if (wanted && offered) {
    if (asks(wanted) && !asks(offered)) concerns.push({ concern: 'unasked', offered: offered.id });
    else if (!asks(wanted) && asks(offered)) concerns.push({ concern: 'waits', offered: offered.id });
    else if (offered.deviceW !== null && offered.deviceW < planned.deviceW)
      concerns.push({
        concern: 'too-little',
        offered: offered.id,
        promisedW: offered.deviceW,
        wantedW: planned.deviceW,
      });
  }
  if (asks(wanted) && shown === 1 && planned.deviceW > MOST_ON_TWO_PAIRS_W)
    concerns.push({ concern: 'two-pairs', mostW: MOST_ON_TWO_PAIRS_W, wantedW: planned.deviceW });
  const begins = planned.sourceV ?? wanted?.sourceV;
  if (volts !== undefined && begins !== undefined) {
    const share = asks(wanted) ? VOLTS_TELL.standard : VOLTS_TELL.passive;
    const [leastV, mostV] = [begins, asks(wanted) ? MOST_V : begins];
    if (volts < leastV * (1 - share) || volts > mostV * (1 + share))
      concerns.push({ concern: 'volts', volts, leastV, mostV });
  }
  return concerns;
}
