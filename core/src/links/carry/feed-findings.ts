import type { CableType } from '../../cabling/cable-types.js';
import { wireOhmOf } from '../../cabling/conductor-ohms.js';
import { feedDirectly, type DirectLoad } from './direct-feed.js';
import { held, type Cure, type PlanFinding } from './finding.js';
import type { PlannedLink, Surroundings, Way } from './planned-link.js';
import {
  CONTACT_LIMIT_A,
  feedLink,
  JACKET_LIMIT_C,
  longestByPowerM,
  POWER_TYPES,
  powerTypeOf,
  type PowerFeed,
} from './remote-power.js';
import { MILD_C, runLengthM, type RunPiece } from './run.js';

/** A device fed over its data pairs: power, warmth, contacts. */
export function powerFindings(
  feed: PowerFeed,
  link: PlannedLink,
  { run, ends }: Way,
  around: Surroundings,
): PlanFinding[] {
  const result = feedLink(feed, link.cable, run, ends);
  const source = powerTypeOf(feed.type)?.source ?? 'typical';
  const at = { stretch: result.hottest, temperatureC: result.hottestC };
  return [
    held({
      check: 'power',
      quantity: 'power',
      source,
      is: result.mostW,
      limit: feed.deviceW,
      least: true,
      at,
      cures: () => powerCures(feed, link, { run, ends }, around),
    }),
    held({
      check: 'heat',
      quantity: 'temperature',
      source: 'typical; ISO/IEC TS 29125 and the local code for bundles decide',
      is: result.hottestC,
      limit: JACKET_LIMIT_C,
      at,
      cures: () => coolerCures(feed, link, { run, ends }, (cooled) => JACKET_LIMIT_C - cooled.hottestC),
    }),
    held({
      check: 'contact',
      quantity: 'current',
      source: 'IEC 60603-7, typical',
      is: result.wireA,
      limit: CONTACT_LIMIT_A,
    }),
  ];
}

/** What would bring enough power to the device, what changes least first. */
function powerCures(feed: PowerFeed, link: PlannedLink, { run, ends }: Way, around: Surroundings): Cure[] {
  const spareOf = (other: PowerFeed, cable: CableType): number => feedLink(other, cable, run, ends).spareW;
  const shorterM = longestByPowerM(feed, link.cable, run, ends);
  const thicker = around.cables
    .filter(
      (cable) =>
        cable.family === 'balanced' &&
        cable.pairs === link.cable.pairs &&
        !cable.stranded &&
        cable.id !== link.cable.id &&
        wireOhmOf(cable) < wireOhmOf(link.cable) * 0.99,
    )
    .map((cable): Cure => ({ cure: 'other-cable', cableId: cable.id, spare: spareOf(feed, cable) }));
  // Another type needs another source and a device that takes it.
  const feeds = POWER_TYPES.filter(({ id, deviceW }) => id !== feed.type && deviceW !== null)
    .map(({ id }): PowerFeed => ({ type: id, deviceW: feed.deviceW }))
    .map((other): Cure => ({ cure: 'other-feed', feed: other, spare: spareOf(other, link.cable) }));
  const cures = (found: readonly Cure[], most: number): Cure[] =>
    found.filter((cure) => 'spare' in cure && cure.spare >= 0).slice(0, most);
  return [
    ...cures(
      coolerCures(feed, link, { run, ends }, ({ spareW }) => spareW),
      1,
    ),
    ...cures(thicker, 2),
    ...(shorterM > 0 ? [{ cure: 'shorten', toM: shorterM } as const] : []),
    ...cures(feeds, 2),
  ];
}

/** The warmest stretch in a mild room, and what that would leave. */
function coolerCures(
  feed: PowerFeed,
  { cable }: PlannedLink,
  { run, ends }: Way,
  spareOf: (result: ReturnType<typeof feedLink>) => number,
): Cure[] {
  const warmest = run.reduce((a, b) => (b.temperatureC > a.temperatureC ? b : a), run[0] as RunPiece);
  if (warmest.temperatureC <= MILD_C) return [];
  const temperatureC = 25;
  const cooled = run.map((piece) =>
    piece.name === warmest.name ? { ...piece, temperatureC, closed: false } : piece,
  );
  const spare = spareOf(feedLink(feed, cable, cooled, ends));
  return spare >= 0 ? [{ cure: 'cooler', stretch: warmest.name, temperatureC, spare }] : [];
}

/** A load on wires of its own: what voltage is left. */
export function loadFindings(
  load: DirectLoad,
  { cable }: PlannedLink,
  run: RunPiece[],
  around: Surroundings,
): PlanFinding[] {
  const result = feedDirectly(load, cable, run);
  const spareOf = (other: DirectLoad, of: CableType, over: readonly RunPiece[] = run): number => {
    const { loadV } = feedDirectly(other, of, over);
    return loadV === null ? -1 : loadV - other.leastV;
  };
  const cures = (): Cure[] => [
    ...(result.ohm > 0
      ? [{ cure: 'shorten', toM: (runLengthM(run) * result.mostOhm) / result.ohm } as const]
      : []),
    ...around.cables
      .filter((other) => other.family === cable.family && wireOhmOf(other) < wireOhmOf(cable) * 0.99)
      .map((other): Cure => ({ cure: 'other-cable', cableId: other.id, spare: spareOf(load, other) }))
      .filter((cure) => 'spare' in cure && cure.spare >= 0),
    ...[2, 3, 4]
      .filter((wires) => wires > load.wires && 2 * wires <= cable.conductors)
      .map((wires): Cure => ({ cure: 'more-wires', wires, spare: spareOf({ ...load, wires }, cable) }))
      .filter((cure) => 'spare' in cure && cure.spare >= 0)
      .slice(0, 1),
  ];
  if (result.loadV === null)
    return [
      {
        check: 'drop',
        verdict: 'fails',
        quantity: 'voltage',
        is: null,
        limit: load.leastV,
        spare: null,
        margin: -1,
        source: 'Ohm’s law, copper at its temperature',
        cures: cures(),
      },
    ];
  return [
    held({
      check: 'drop',
      quantity: 'voltage',
      source: 'Ohm’s law, copper at its temperature',
      is: result.loadV,
      limit: load.leastV,
      least: true,
      cures,
    }),
  ];
}
