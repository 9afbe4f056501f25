import { formatCableLength, formatStripLength, type UnitSystem } from '../../quantities/length.js';
import type { CheckId, Cure, FindingQuantity, PlanFinding } from './finding.js';
import { powerTypeOf } from './remote-power.js';
import type { SupplyConcern } from './supply-seen.js';

// All English of the plan's findings; nothing else writes or reads it.

/** In which units people read, and what cables are called. */
export interface FindingReader {
  units: UnitSystem;
  cableName: (id: string) => string;
}

/** Each check by a word or two. */
export const CHECK_NAMES: Readonly<Record<CheckId, string>> = {
  'permanent-link': 'length',
  channel: 'length with cords',
  loss: 'loss',
  reach: 'reach',
  category: 'category',
  delay: 'delay',
  skew: 'skew',
  loop: 'loop',
  power: 'power',
  heat: 'warmth',
  contact: 'contact',
  drop: 'voltage',
  level: 'level',
  'telephone-loop': 'loop',
  bus: 'bus length',
  'outdoor-jacket': 'jacket',
  'jacket-rating': 'jacket',
  'between-buildings': 'surge and bonding',
  duct: 'duct',
  mains: 'mains beside it',
};

/** A temperature in the units of a job. */
export const formatTemperature = (celsius: number, units: UnitSystem): string =>
  units === 'metric' ? `${celsius.toFixed(0)} °C` : `${(celsius * 1.8 + 32).toFixed(0)} °F`;

/** A difference of temperatures: degrees have no zero here. */
const formatDegrees = (celsius: number, units: UnitSystem): string =>
  units === 'metric' ? `${celsius.toFixed(0)} °C` : `${(celsius * 1.8).toFixed(0)} °F`;

/** A figure of a finding with its unit. */
export function formatFigure(value: number, quantity: FindingQuantity, units: UnitSystem): string {
  switch (quantity) {
    case 'length':
      return formatCableLength(value, units);
    case 'thickness':
      return formatStripLength(value, units);
    case 'temperature':
      return formatTemperature(value, units);
    case 'loss':
    case 'level':
      return `${value.toFixed(1)} dB`;
    case 'resistance':
      return `${value.toFixed(1)} ohm`;
    case 'power':
      return `${value.toFixed(1)} W`;
    case 'current':
      return `${value.toFixed(2)} A`;
    case 'voltage':
      return `${value.toFixed(1)} V`;
    case 'share':
      return `${(100 * value).toFixed(0)} %`;
    case 'time':
      return `${value.toFixed(0)} ns`;
  }
}

const spareFigure = (value: number, quantity: FindingQuantity, units: UnitSystem): string =>
  quantity === 'temperature' ? formatDegrees(value, units) : formatFigure(value, quantity, units);

/** What is left in one line: `power: 1.1 W short at 45 °C`. */
export function findingHeadline(finding: PlanFinding, { units }: Pick<FindingReader, 'units'>): string {
  const { check, spare, quantity, verdict } = finding;
  const name = CHECK_NAMES[check];
  if (spare === null)
    return verdict === 'fails' ? `${name}: ${WRONG[check] ?? 'will not do'}` : `${name}: look`;
  // What is short is never rounded to nothing.
  const figure = spareFigure(Math.abs(spare), quantity, units);
  return spare < 0 ? `${name}: ${figure} short` : `${name}: ${figure} to spare`;
}

/** Why a check without figures fails. */
const WRONG: Partial<Readonly<Record<CheckId, string>>> = {
  'outdoor-jacket': 'not made for outdoors',
  category: 'not made for it',
  drop: 'the wire cannot carry it',
};

/** A finding as a sentence: what it comes to, what it may be, where, by whose word. */
export function findingWords(finding: PlanFinding, { units }: Pick<FindingReader, 'units'>): string {
  const { check, is, limit, quantity, at, source } = finding;
  const said = (value: number): string => formatFigure(value, quantity, units);
  const place = [
    ...(at?.mhz === undefined ? [] : [`at ${Number(at.mhz.toPrecision(3))} MHz`]),
    ...(at?.temperatureC === undefined || check === 'heat'
      ? []
      : [`at ${formatTemperature(at.temperatureC, units)}`]),
    ...(at?.stretch ? [`in ${at.stretch}`] : []),
  ].join(' ');
  const where = place === '' ? '' : ` ${place}`;
  if (is === null || limit === null)
    return `${UNTOLD[check] ?? 'Cannot be worked out.'}${where === '' ? '' : ` Stretch: ${at?.stretch ?? ''}.`}`;
  return `${MEANING[check](said(is), said(limit), where, isLeast(finding))} (${source}).`;
}

/** Whether the limit is one from below: what is to spare then lies over it. */
const isLeast = ({ is, limit, spare }: PlanFinding): boolean =>
  is !== null && limit !== null && spare !== null && (is - limit) * spare > 0;

/** What each check says of its two figures. */
const MEANING: Readonly<
  Record<CheckId, (is: string, limit: string, where: string, least: boolean) => string>
> = {
  'permanent-link': (is, limit) => `${is} of cable, ${limit} is the most for a permanent link`,
  channel: (is, limit) => `${is} with its cords, ${limit} is the most for a channel`,
  loss: (is, limit, where) => `The channel loses ${is}${where}, it may lose ${limit}`,
  reach: (is, limit) => `${is} with its cords; over this category it is good for ${limit}`,
  category: () => '',
  delay: (is, limit) => `A signal takes ${is}, it may take ${limit}`,
  skew: (is, limit) => `Pairs come in up to ${is} apart, ${limit} is the most`,
  loop: (is, limit) => `Each pair has a loop of ${is}, the channel may have ${limit}`,
  power: (is, limit, where) => `The device can have ${is}, it wants ${limit}; warmest${where}`,
  heat: (is, limit) =>
    `Warmed by its current and its neighbours a cable comes to ${is}, it is made for ${limit}`,
  contact: (is, limit) => `Each contact carries ${is}, warm it is good for ${limit}`,
  drop: (is, limit) => `${is} arrive, it works from ${limit}`,
  level: (is, limit, where, least) =>
    `${is} arrive${where}, the device ${least ? 'wants at least' : 'takes at most'} ${limit}`,
  'telephone-loop': (is, limit) =>
    `A loop of ${is}; over ${limit} is more than is usually left for a building: ask the exchange’s sheet`,
  bus: (is, limit) => `${is} of line, at this speed it reaches ${limit}`,
  'outdoor-jacket': () => '',
  'jacket-rating': () => '',
  'between-buildings': () => '',
  duct: (is, limit, where) => `Cables fill ${is} of the bore${where}, ${limit} is the most`,
  mains: (is, limit, where) => `Mains lie ${is} away${where}, unscreened pairs want ${limit}`,
};

/** What is said where there are no figures. */
const UNTOLD: Partial<Readonly<Record<CheckId, string>>> = {
  category: 'The cable’s sheet names no category that this was made for.',
  drop: 'So long a wire cannot carry that power at all.',
  'outdoor-jacket':
    'This jacket is not made for outdoors: water gets in and sunlight breaks it. Take an outdoor cable.',
  'jacket-rating':
    'Between floors and in air spaces only jackets rated for it may lie: read the print on the jacket against the local code.',
  'between-buildings':
    'A line that leaves the building wants surge protection at both entries and bonding: a licensed person, by the local code.',
};

/** What would mend it. */
export function cureWords(cure: Cure, { units, cableName }: FindingReader): string {
  switch (cure.cure) {
    case 'shorten':
      return cure.toM > 0
        ? `no longer than ${formatCableLength(Math.floor(cure.toM * 10) / 10, units)}: a nearer closet, or another way`
        : 'no length of this would do';
    case 'other-cable':
      return cableName(cure.cableId);
    case 'other-feed':
      return `feed it by ${powerTypeOf(cure.feed.type)?.name ?? cure.feed.type}, if the device takes it`;
    case 'cooler':
      return `${cure.stretch} at ${formatTemperature(cure.temperatureC, units)}, open: another way, or shade and air`;
    case 'more-wires':
      return `${cure.wires} wires side by side each way`;
    case 'amplify':
      return `an amplifier of ${Math.ceil(cure.db)} dB before the cable`;
    case 'attenuate':
      return `an attenuator of ${Math.ceil(cure.db)} dB`;
    case 'slower':
      return `${(cure.bitPerS / 1000).toLocaleString('en')} kbit/s`;
    case 'outdoor-cable':
      return 'an outdoor cable';
    case 'wider-duct':
      return `a bore of ${formatStripLength(Math.ceil(cure.toMm), units)}, or fewer cables`;
    case 'move-apart':
      return `${formatStripLength(cure.toMm, units)} apart, a metal divider, or screened cable`;
  }
}

/** What a cure would leave to spare; empty where it has no such figure. */
export const cureSpare = (
  cure: Cure,
  { quantity }: Pick<PlanFinding, 'quantity'>,
  units: UnitSystem,
): string => ('spare' in cure && cure.spare > 0 ? `+${spareFigure(cure.spare, quantity, units)}` : '');

/** A supply that will not do for the device planned, and what to do. */
export function supplyWords(concern: SupplyConcern): string {
  const name = (id: string): string => powerTypeOf(id)?.name ?? id;
  switch (concern.concern) {
    case 'nothing':
      return 'Nothing is fed, and a device is planned that lives on it: see that the supply is on and its port allowed.';
    case 'too-little':
      return `The supply offers ${name(concern.offered)}, ${concern.promisedW} W at the device, and ${concern.wantedW} W are planned: another port or supply.`;
    case 'unasked':
      return `The supply is ${name(concern.offered)} and feeds without asking: plug in nothing that is not made for it.`;
    case 'waits':
      return `The supply asks first (${name(concern.offered)}), and the device planned does not answer: it wants its own passive supply.`;
    case 'two-pairs':
      return `One set of pairs is fed, ${concern.mostW} W at the most, and ${concern.wantedW} W are planned over all four: see what the supply and its port are set to.`;
    case 'volts':
      return concern.volts < concern.leastV
        ? `${concern.volts} V is under the ${concern.leastV} V that this way of feeding begins with.`
        : `${concern.volts} V is over the ${concern.mostV} V that this way of feeding may have: plug in no device.`;
  }
}
