import { CAPACITANCE_ERRORS, fixedDeviation, shareDeviation } from '../../metering/meter.js';
import { drawNormal, type Random } from '../../quantities/random.js';
import type { Frame, FramePair } from '../frame.js';
import { INSTRUMENTS } from '../instruments.js';
import type { LinkState } from '../link-state.js';
import type { CapacitanceReading, EchoReading } from '../readings.js';
import type { LinkEnd } from '../true-link.js';
import { expectEchoes, INTACT, isIntact, type Expected } from './echo-path.js';
import { drawLoose, type Likelihood, type Observer } from './observer.js';

const { errors } = INSTRUMENTS['capacitance-meter'];
/** A catalogue's farads per metre, the planned length and the meter's own share, as one deviation (typical). */
const COMMON = Math.hypot(0.06, 0.035, shareDeviation(CAPACITANCE_ERRORS));
/** Pairs of one cable are twisted differently: their capacitances by so much (typical). */
const BETWEEN_PAIRS = 0.012;
/**
 * Two wires of different pairs have this share of a pair's capacitance, and how far cables differ in it: four pairs
 * whose wires have to those of other pairs about a seventh of what they have to each other, all others floating (typical).
 */
const SPLIT = { share: 0.58, deviation: 0.09 };
const WHOLE = { share: 1, deviation: 0 };
/** A wire that touches one of another pair brings that pair's along. */
const JOINED = { share: 1.17, deviation: 0.07 };
/** What a pair that is parted behind a splice has lies between that of a pair and that of a split. */
const PARTED = { share: 0.79, deviation: 0.14 };
/** A wire that goes on where its pair ends adds a little by the other pairs. */
export const GOES_ON = 0.04;

/** Steps of what all figures have in common, with their weights, for adding up over it. */
const STEP = 0.12;
const SCALES: readonly { scale: number; share: number }[] = (() => {
  const steps = Array.from({ length: 49 }, (_, i) => STEP * (i - 24));
  const weights = steps.map((step) => Math.exp(-0.5 * step * step));
  const sum = weights.reduce((a, b) => a + b, 0);
  return steps.map((step, i) => ({ scale: 1 + step * COMMON, share: (weights[i] as number) / sum }));
})();
/** A term this far below the greatest (logarithm) changes no digit of their sum. */
const NOTHING = -40;
const ROOT = Math.sqrt(2 * Math.PI);

/** A figure as the length of pair that has it, by the plan's farads per metre. */
export const metresOf = (frame: Frame, nF: number): number => (nF * 1e-9) / frame.faradPerM;

/** Figures as a reflectometer would show them, were nothing but ends in the way: an open at so many metres of pair. */
export const asEnds = (frame: Frame, { end, nF }: CapacitanceReading): EchoReading => ({
  instrument: 'pair-reflectometer',
  from: end,
  pairs: Object.fromEntries(
    Object.entries(nF).map(([pair, figure]) => [
      pair,
      figure === null ? [] : [{ kind: 'open' as const, distanceM: metresOf(frame, figure) }],
    ]),
  ),
});

/** Pairs that are whole agree within this share; one alone is whole where it is within so much of the plan. */
const AGREE = 0.045;
const PLAN_ALLOWS = 0.25;

/** What a whole pair of this cable has, as metres of pair, where pairs agree about it; null where they do not. */
export function wholeM(frame: Frame, reading: CapacitanceReading): number | null {
  const figures = Object.values(reading.nF).flatMap((nF) => (nF === null ? [] : [metresOf(frame, nF)]));
  const alike = figures
    .map((most) => figures.filter((metres) => metres <= most && metres > most * (1 - AGREE)))
    .sort((a, b) => b.length - a.length || (b[0] as number) - (a[0] as number))[0];
  if (!alike) return null;
  const mean = alike.reduce((sum, metres) => sum + metres, 0) / alike.length;
  // Of two and two, those that have more are whole; nothing on the leads agrees with nothing.
  const planned = Math.abs(mean - frame.lengthM) < PLAN_ALLOWS * frame.lengthM;
  return planned || (alike.length > figures.length / 2 && alike.length > 1 && mean > 2) ? mean : null;
}

/** What a pair should show: no figure, or that of so many metres of pair, each figure with a deviation of its own. */
interface Shows {
  metres: number | null;
  /** Deviation of what the metres are, beyond what pairs of one cable differ by. */
  ownM: number;
}

function shownOn(frame: Frame, state: LinkState, end: LinkEnd, pair: FramePair, openLoose: number): Shows {
  const { at } = frame;
  const { cells, lengthM } = state;
  // Equipment's windings close every pair of the end that it hangs on.
  const equipped = ((cells[at.equipment] as number) & (end === 'near' ? 1 : 2)) !== 0;
  if (equipped) return { metres: null, ownM: 0 };
  const events = isIntact(frame, state, end, pair)
    ? INTACT(lengthM)
    : expectEchoes(frame, state, end, pair, openLoose);
  const stop = events[events.length - 1] as Expected;
  if (stop.kind === 'short') return { metres: null, ownM: 0 };
  const { distanceM } = stop;
  const high = events.find(({ kind }) => kind === 'high');
  const as = !high
    ? touchesAnother(frame, state, end, pair)
      ? JOINED
      : WHOLE
    : high.anywhere
      ? PARTED
      : SPLIT;
  const beyondM = Math.max(0, lengthM - distanceM);
  return {
    metres: as.share * distanceM,
    ownM: Math.hypot(as.deviation * distanceM, distanceM > 0 ? GOES_ON * beyondM : 0),
  };
}

/** Whether one wire of a pair is joined to a wire that is not the other's. */
function touchesAnother({ at }: Frame, { cells, shorts }: LinkState, end: LinkEnd, pair: FramePair): boolean {
  if (shorts.length === 0) return false;
  const own = [cells[at[end] + pair.a] as number, cells[at[end] + pair.b] as number];
  return shorts.some(({ where, a, b }) => {
    const two = where === 'cable' ? [a, b] : [cells[at[where] + a] as number, cells[at[where] + b] as number];
    return two.filter((wire) => own.includes(wire)).length === 1;
  });
}

/** Capacitance across each pair of one end, both ends unplugged. */
export const capacitanceObserver: Observer<CapacitanceReading> = {
  read({ frame, state }, { end }, random) {
    const loose = drawLoose(state, random);
    const scale = random ? 1 + COMMON * Math.max(-2.8, Math.min(2.8, drawNormal(random))) : 1;
    const figures = frame.pairs[end].map((pair) => {
      const { metres } = shownOn(frame, state, end, pair, loose);
      const known = metres === null || Number.isNaN(metres) ? metres : metres * scale;
      const shown = random ? misread(known, frame, random) : known;
      return [pair.name, shown === null ? null : asShown(frame, shown)] as const;
    });
    return { instrument: 'capacitance-meter', end, nF: Object.fromEntries(figures) };
  },
  likelihood: (frame, reading, group) => new CapacitanceLikelihood(frame, reading, group),
  grouped: (frame) => frame.paired,
};

/** A meter of this kind shows picofarads. */
const asShown = (frame: Frame, metres: number): number =>
  Math.max(0, Math.round(metres * frame.faradPerM * 1e12) / 1000);

function misread(metres: number | null, frame: Frame, random: Random): number | null {
  const draw = random();
  if (draw < errors.wrong) return 1.2 * frame.lengthM * random();
  if (metres === null) return draw > 1 - errors.ghost ? 1.2 * frame.lengthM * random() : null;
  if (draw > 1 - errors.missed) return null;
  return Math.max(0, metres + deviationOf(frame, metres, 0) * drawNormal(random));
}

/** How well a figure is known by itself, metres of pair. */
const deviationOf = (frame: Frame, metres: number, ownM: number): number =>
  Math.hypot(fixedDeviation(CAPACITANCE_ERRORS) / frame.faradPerM, BETWEEN_PAIRS * metres, ownM);

interface SeenPair {
  pair: FramePair;
  /** As metres of pair; null for no figure. */
  metres: number | null;
  /** Logarithms per scale, by what should be shown. */
  known: Map<string, Float64Array>;
}

class CapacitanceLikelihood implements Likelihood {
  readonly best: number;
  readonly figures: number;
  private readonly seen: readonly SeenPair[];
  private readonly perScale = new Float64Array(SCALES.length);

  constructor(
    private readonly frame: Frame,
    private readonly reading: CapacitanceReading,
    group?: number,
  ) {
    this.seen = frame.pairs[reading.end].flatMap((pair) => {
      const nF = reading.nF[pair.name];
      const elsewhere = group !== undefined && frame.group[reading.end][pair.a] !== group;
      if (nF === undefined || elsewhere) return [];
      return [{ pair, metres: nF === null ? null : metresOf(frame, nF), known: new Map() }];
    });
    const figures = this.seen.flatMap(({ metres }) => (metres === null ? [] : [metres]));
    this.figures = figures.length;
    this.best = figures.reduce((sum, metres) => sum - Math.log(deviationOf(frame, metres, 0) * ROOT), 0);
  }

  of(state: LinkState, openLoose: number): number {
    const { frame, reading, perScale } = this;
    perScale.fill(0);
    for (const one of this.seen) {
      const shows = shownOn(frame, state, reading.end, one.pair, openLoose);
      const logs = this.logsOf(one, shows);
      for (let i = 0; i < perScale.length; i++) perScale[i] = (perScale[i] as number) + (logs[i] as number);
    }
    let top = -Infinity;
    for (const sum of perScale) top = Math.max(top, sum);
    let mean = 0;
    for (let i = 0; i < perScale.length; i++) {
      const below = (perScale[i] as number) - top;
      if (below > NOTHING) mean += (SCALES[i]?.share ?? 0) * Math.exp(below);
    }
    return top + Math.log(mean);
  }

  /** The same few expectations come up for thousands of links: each is worked out once. */
  private logsOf(one: SeenPair, shows: Shows): Float64Array {
    const key = `${shows.metres}|${shows.ownM}`;
    let logs = one.known.get(key);
    if (!logs) one.known.set(key, (logs = this.workedOut(one.metres, shows)));
    return logs;
  }

  private workedOut(seen: number | null, { metres, ownM }: Shows): Float64Array {
    const same = (log: number): Float64Array => new Float64Array(SCALES.length).fill(log);
    const anything = 1 / (1.2 * this.frame.lengthM);
    if (seen === null)
      return same(Math.log(metres === null ? 1 - errors.ghost - errors.wrong : errors.missed));
    if (metres === null) return same(Math.log((errors.ghost + errors.wrong) * anything));
    const right = 1 - errors.missed - errors.wrong;
    // A place nobody knows is none of those that the figures show, which are tried one by one.
    if (Number.isNaN(metres)) return same(Math.log(errors.missed * anything));
    return Float64Array.from(SCALES, ({ scale }) => {
      const meanM = metres * scale;
      const deviation = deviationOf(this.frame, meanM, ownM);
      const density = Math.exp(-0.5 * ((seen - meanM) / deviation) ** 2) / (deviation * ROOT);
      return Math.log(right * density + errors.wrong * anything);
    });
  }
}
