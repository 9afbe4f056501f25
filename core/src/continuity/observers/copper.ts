import type { Frame } from '../frame.js';
import type { Touch, TouchReading } from '../readings.js';

/** What a meter's figure is good to: its own error, and what zeroing leaves of the leads. Typical. */
export const meterNoiseOhm = (ohm: number): number => Math.hypot(0.1, 0.012 * ohm);
/** Copper differs from its sheet by gauge and temperature, and the length from its plan. */
const COPPER_SPREAD = 0.07;
/** Of that, what conductors of one cable differ by among themselves: twist, joints, where the probe was put. */
const COPPER_APART = 0.03;
/** So many sound-looking paths, all off by about the same, say by how much copper and length are off together. */
const ENOUGH_PATHS = 3;
const USUAL_OFF = { least: 0.7, most: 1.4 };
/**
 * Share of conductors that are another metal or gauge than the sheet's, and how far those spread, as deviations of
 * the logarithm: upwards copper-clad aluminium and thinner wire in pairs, steel in coax; downwards no more than a
 * thicker wire, for nothing conducts better than copper.
 */
const OTHER_METAL = { share: 0.15, pairs: { up: 0.35, down: 0.15 }, coax: { up: 0.9, down: 0.3 } };
/** The same of one conductor among others that are all alike. */
const OTHER_THAN_ITS_LIKE = 0.01;
/** Two sound joints. */
export const SOUND_JOINTS_OHM = 0.04;

/** One contact at each lead, and no clips. */
export const isPlain = ({ from, to, joined }: Touch): boolean =>
  from.contacts.length === 1 && to.contacts.length === 1 && !joined?.length;

/** From end to end. */
export const isStraight = (touch: Touch): boolean => isPlain(touch) && touch.from.end !== touch.to.end;

/** What a cable's copper and length make of the sheet's ohms, all paths alike. */
export interface Copper {
  times: number;
  spread: number;
  /** Share of conductors that are another metal nevertheless. */
  other: number;
  coax: boolean;
}

/** Learned from the paths themselves where enough of them agree; else as the sheet has it. */
export function copperOf(frame: Frame, straight: readonly Touch[]): Copper {
  const coax = frame.conductors.includes('SHELL');
  const times = timesTheSheet(frame, straight);
  const known = times !== null && times > USUAL_OFF.least && times < USUAL_OFF.most;
  return known
    ? { times, spread: COPPER_APART, other: OTHER_THAN_ITS_LIKE, coax }
    : { times: 1, spread: COPPER_SPREAD, other: OTHER_METAL.share, coax };
}

/** How many times the sheet's ohms straight paths have, as far as enough of them agree within what a meter reads to. */
function timesTheSheet(frame: Frame, straight: readonly Touch[]): number | null {
  const paths = straight
    .flatMap(({ from, closed, ohm }) => {
      const w = frame.intended[from.end][frame.contactIndex(from.end, from.contacts[0] as string)] ?? -1;
      if (!closed || ohm == null || w < 0) return [];
      return [{ ohm, onSheet: frame.lengthM * (frame.ohmPerM[w] as number) + SOUND_JOINTS_OHM }];
    })
    .map((path) => ({ ...path, times: path.ohm / path.onSheet }))
    .sort((a, b) => a.times - b.times);
  const middle = paths[Math.floor(paths.length / 2)]?.times ?? 1;
  const alike = paths.filter(({ ohm, onSheet }) => {
    const meant = middle * onSheet;
    return Math.abs(ohm - meant) < 3 * Math.hypot(meterNoiseOhm(meant), COPPER_APART * meant);
  });
  return alike.length >= ENOUGH_PATHS ? middle : null;
}

/**
 * Lengths that the cable would have for an ohmmeter's figures to be those of sheet copper, in metres: by the paths
 * together where they are off by more than copper is, and by each loop as one that is closed at the other end.
 */
export function lengthsByOhms(frame: Frame, { touches }: TouchReading): number[] {
  const times = timesTheSheet(frame, touches.filter(isStraight));
  const byPaths =
    times === null || (times > USUAL_OFF.least && times < USUAL_OFF.most) ? [] : [times * frame.lengthM];
  const byLoops = touches.flatMap((touch) => {
    const { from, to, closed, ohm } = touch;
    if (!closed || ohm == null || !isPlain(touch) || from.end !== to.end) return [];
    const perM = [from, to].map(({ end, contacts }) => {
      const w = frame.intended[end][frame.contactIndex(end, contacts[0] as string)] ?? -1;
      return frame.ohmPerM[w] ?? NaN;
    });
    const lengthM = ohm / ((perM[0] as number) + (perM[1] as number));
    const off = lengthM / frame.lengthM;
    return off > LOOP_OFF.least && off < LOOP_OFF.most ? [lengthM] : [];
  });
  return [...byPaths, ...byLoops];
}

/** A loop shorter than this share of the planned one is rather closed on the way. */
const LOOP_OFF = { least: 0.5, most: 2 };

/** How likely a figure is where the sheet's copper would have so many ohms, which are known to a share besides. */
export function density(
  shown: number,
  onSheet: number,
  { times, spread: apart, other: share, coax }: Copper,
  spread = 0,
): number {
  if (onSheet === Infinity) return 0;
  const ohm = Math.min(onSheet, 30) * (times - 1) + onSheet;
  const deviation = Math.hypot(meterNoiseOhm(ohm), apart * Math.min(ohm, 30), spread * ohm);
  const usual = Math.exp(-0.5 * ((shown - ohm) / deviation) ** 2) / (deviation * Math.sqrt(2 * Math.PI));
  // The meter's own hundredths are no metal's.
  const [read, path] = [shown + 0.05, ohm + 0.05];
  const { up, down } = coax ? OTHER_METAL.coax : OTHER_METAL.pairs;
  const off = Math.log(read / path);
  const miss = off / (off > 0 ? up : down);
  const other = (2 * Math.exp(-0.5 * miss ** 2)) / (read * (up + down) * Math.sqrt(2 * Math.PI));
  return (1 - share) * usual + share * other;
}

/** The likeliest a figure can be made: by a path of about that resistance, of which nothing is unknown. */
export const logSharpest = (shown: number, copper: Copper): number =>
  Math.log(density(shown, shown / copper.times, copper)) + 0.2;
