import { wireOhmOf } from '../../cabling/conductor-ohms.js';
import type { CableType } from '../../cabling/cable-types.js';
import type { ConnectorType } from '../../connectors/connector-types.js';
import { TWIST_LAY } from '../../metering/resistance.js';
import { COPPER_PER_DEGREE } from '../../quantities/copper.js';
import type { RouteStretch } from '../../cabling/route-stretch.js';
import type { ApplicationId } from './applications.js';
import type { BusUse } from './bus-reach.js';
import type { SignalUse } from './coax-level.js';
import type { DirectLoad } from './direct-feed.js';
import { MODEL_CHANNEL } from './insertion-loss.js';
import type { PowerFeed } from './remote-power.js';
import { MILD_C, type RunPiece, type StretchConditions } from './run.js';

/** What a link is to carry, as far as anybody has said. */
export interface Carries {
  data?: ApplicationId | undefined;
  power?: PowerFeed | undefined;
  signal?: SignalUse | undefined;
  load?: DirectLoad | undefined;
  bus?: BusUse | undefined;
  /** Its ends are in different buildings, or one is on a mast. */
  betweenBuildings?: boolean | undefined;
}

/** A link as it is planned. */
export interface PlannedLink {
  label: string;
  cable: CableType;
  near: Pick<ConnectorType, 'kind' | 'group'>;
  far: Pick<ConnectorType, 'kind' | 'group'>;
  lengthM: number;
  route: readonly RouteStretch[];
  carries: Carries;
}

/** What the other links of the job are to this one. */
export interface Surroundings {
  conditions: readonly StretchConditions[];
  /** Jackets of all cables that lie in a stretch, this one's included, mm. */
  jacketsIn: (stretch: string) => readonly number[];
  fedIn: (stretch: string) => number;
  /** Cables that could be taken instead. */
  cables: readonly CableType[];
  /** Length of a cord at one end, metres: half of the model's where nobody has said. */
  cordM?: number | undefined;
}

/** A telephone line, by its cable or by what is on its ends, whatever cable it runs in: no data link's limits hold for it. */
export const isTelephone = ({ cable, near, far, carries }: PlannedLink): boolean =>
  cable.use === 'telephone' ||
  (carries.data === undefined && [near, far].some(({ group }) => group === 'telephone socket'));

/** A link's way with what hangs on its ends. */
export interface Way {
  run: RunPiece[];
  ends: { cordsM: number; connections: number };
}

/** A channel's cords and connections: an end with a plug on it goes straight into the device. */
export function endsOf({ near, far }: PlannedLink, { cordM }: Surroundings): Way['ends'] {
  const jacks = [near, far].filter(({ kind }) => kind !== 'plug').length;
  return { cordsM: jacks * (cordM ?? MODEL_CHANNEL.cordsM / 2), connections: 2 * jacks };
}

/** Loop resistance of one pair over a run, both wires, at its temperatures, ohm. */
export const loopOf = (cable: CableType, run: readonly RunPiece[]): number =>
  run.reduce(
    (sum, { lengthM, temperatureC }) =>
      sum +
      2 * wireOhmOf(cable) * (1 + TWIST_LAY) * lengthM * (1 + COPPER_PER_DEGREE * (temperatureC - MILD_C)),
    0,
  );
