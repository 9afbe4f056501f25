import { categoryOf, type CableCategory } from '../../cabling/category.js';
import type { CableType } from '../../cabling/cable-types.js';
import { PERMANENT_LINK_LIMIT_M, TELEPHONE_LOOP_OHM } from '../plan-check.js';
import { applicationOf } from './applications.js';
import { held, toLookAt, type Cure, type PlanFinding } from './finding.js';
import { describedTo, leastLossMargin, longestByLossM, type Channel } from './insertion-loss.js';
import { loopOf, type PlannedLink, type Surroundings, type Way } from './planned-link.js';
import { MILD_C, runLengthM, type RunPiece } from './run.js';

const CHANNEL_LIMIT_M = 100;
const TIA = 'ANSI/TIA-568.2';
const LOOP_LIMIT_OHM = 25;
const CONNECTION_LOOP_OHM = 0.2;
const DELAY_LIMIT_NS = 555;
const CONNECTION_NS = 2.5;
const SKEW_LIMIT_NS = 50;
/** Pairs of one cable differ by at most so much, ns per 100 m, and a connection adds its own. */
const SKEW_NS_PER_100M = 45;
const CONNECTION_SKEW_NS = 1.25;
const LIGHT_M_PER_NS = 0.299792458;

/** What a data link of balanced pairs is held against: lengths, delay, resistance, loss. */
export function dataFindings(link: PlannedLink, { run, ends }: Way, around: Surroundings): PlanFinding[] {
  const { cable, lengthM, carries } = link;
  const channelM = lengthM + ends.cordsM;
  const loopOhm = loopOf(cable, run) + ends.connections * CONNECTION_LOOP_OHM;
  const category = categoryOf(cable);
  return [
    held({
      check: 'permanent-link',
      quantity: 'length',
      source: `${TIA}, ISO/IEC 11801`,
      is: lengthM,
      limit: PERMANENT_LINK_LIMIT_M,
      cures: () => [{ cure: 'shorten', toM: PERMANENT_LINK_LIMIT_M }],
    }),
    held({
      check: 'channel',
      quantity: 'length',
      source: `${TIA}, ISO/IEC 11801`,
      is: channelM,
      limit: CHANNEL_LIMIT_M,
      cures: () => [{ cure: 'shorten', toM: CHANNEL_LIMIT_M - ends.cordsM }],
    }),
    held({
      check: 'delay',
      quantity: 'time',
      source: TIA,
      is: channelM / (cable.velocityFactor * LIGHT_M_PER_NS) + ends.connections * CONNECTION_NS,
      limit: DELAY_LIMIT_NS,
    }),
    held({
      check: 'skew',
      quantity: 'time',
      source: TIA,
      is: (SKEW_NS_PER_100M * channelM) / 100 + ends.connections * CONNECTION_SKEW_NS,
      limit: SKEW_LIMIT_NS,
    }),
    held({
      check: 'loop',
      quantity: 'resistance',
      source: TIA,
      is: loopOhm,
      limit: LOOP_LIMIT_OHM,
      cures: () => [{ cure: 'shorten', toM: (lengthM * LOOP_LIMIT_OHM) / loopOhm }],
    }),
    ...(category ? lossFindings(link, category, { run, ends }, around) : []),
    ...(category === null && carries.data ? [toLookAt('category', TIA)] : []),
  ];
}

/** Loss against the channel of what it is to carry, or, where nobody said, of the cable's own category. */
function lossFindings(
  link: PlannedLink,
  category: CableCategory,
  { run, ends }: Way,
  around: Surroundings,
): PlanFinding[] {
  const wanted = link.carries.data ? applicationOf(link.carries.data) : null;
  const channelOf = (cable: CableType, own: CableCategory): Channel => ({
    cable,
    category: own,
    pieces: run,
    ...ends,
  });
  const reach = wanted?.over[category];
  if (wanted && wanted.toMhz > describedTo(category)) {
    const better = around.cables.filter((cable) => {
      const own = categoryOf(cable);
      return own !== null && describedTo(own) >= wanted.toMhz && !cable.stranded && cable.pairs === 4;
    });
    const cures = better.map((cable): Cure => ({ cure: 'other-cable', cableId: cable.id, spare: 0 }));
    if (!reach) return [{ ...toLookAt('category', 'IEEE 802.3', { cures }), verdict: 'fails' }];
    return [
      held({
        check: 'reach',
        quantity: 'length',
        source: reach.source,
        is: runLengthM(run) + ends.cordsM,
        limit: reach.mostM,
        cures: () => [{ cure: 'shorten', toM: Math.max(0, reach.mostM - ends.cordsM) }, ...cures],
      }),
    ];
  }
  const target = wanted?.category ?? category;
  const toMhz = wanted?.toMhz ?? describedTo(category);
  const { mhz, isDb, limitDb } = leastLossMargin(channelOf(link.cable, category), target, toMhz);
  const hottest = run.reduce((a, b) => (b.temperatureC > a.temperatureC ? b : a), run[0] as RunPiece);
  return [
    held({
      check: 'loss',
      quantity: 'loss',
      source: wanted ? `${wanted.name}, ${TIA}` : `${TIA}, Cat ${category} channel`,
      is: isDb,
      limit: limitDb,
      at: {
        mhz,
        ...(hottest.temperatureC > MILD_C
          ? { temperatureC: hottest.temperatureC, stretch: hottest.name }
          : {}),
      },
      cures: () => [
        { cure: 'shorten', toM: longestByLossM(channelOf(link.cable, category), target, toMhz) },
        ...around.cables.flatMap((cable): Cure[] => {
          const own = categoryOf(cable);
          if (own === null || cable.stranded || describedTo(own) < toMhz || cable.id === link.cable.id)
            return [];
          const other = leastLossMargin(channelOf(cable, own), target, toMhz);
          const spare = other.limitDb - other.isDb;
          return spare >= 0 ? [{ cure: 'other-cable', cableId: cable.id, spare }] : [];
        }),
      ],
    }),
  ];
}

/** A telephone run: its loop within a building. */
export function telephoneFindings({ cable, carries }: PlannedLink, run: RunPiece[]): PlanFinding[] {
  if (carries.load || carries.bus) return [];
  const is = loopOf(cable, run);
  return [
    held({
      check: 'telephone-loop',
      quantity: 'resistance',
      source: 'typical',
      is,
      limit: TELEPHONE_LOOP_OHM,
    }),
  ];
}
