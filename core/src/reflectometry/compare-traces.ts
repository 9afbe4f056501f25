import { END_KINDS } from './events.js';
import type { PlannedLength } from './loaded-end.js';
import type { TraceEvent, TraceReading } from './read-trace.js';
import type { Trace } from './trace.js';

/** A trace that was read, as far as two are compared. */
export interface ReadForComparison {
  trace: Trace;
  /** Middle of the launch's leading edge, its height, and the level it stands on. */
  launchAtS: number;
  launchV: number;
  levelV: number;
  reading: Pick<TraceReading, 'events' | 'noiseV' | 'resolutionM' | 'deadZoneM' | 'sightM' | 'main'>;
}

/** What the other trace is of. */
export interface ComparedWith {
  /**
   * A like line that is known to be good (another pair of the cable, or another link of the same cable), whose length and
   * velocity are its own; else the same line before.
   */
  like?: boolean;
  /** How long the line of now should be, where that is known: its end is no finding there. */
  planned?: PlannedLength | undefined;
}

/** An event that one trace has and the other has not, or has otherwise. */
export interface TraceChange {
  what: 'new' | 'gone' | 'changed';
  /** As it is now; as it was, where it is gone. */
  event: TraceEvent;
  was: TraceEvent | null;
}

/** What is new on a line since an earlier trace. */
export interface TraceDifference {
  /** Now less then on the samples of now, as a share of the launch; nought where then has ended. */
  share: Float64Array;
  /** Deviation of the difference where nothing changed. */
  noiseShare: number;
  /** Whether both were launched alike; where not, the difference shows the launches as well. */
  alike: boolean;
  /** Nearest first. */
  changes: TraceChange[];
  /** Events of now, by index, that then has alike: they are the line's own, or its lead's, and nothing new. */
  shared: number[];
  /** How far the two are compared, metres: behind the end of the shorter nothing is known of it. */
  untilM: number;
}

/** Launches differ by no more than this share of their height where they were set alike. */
const ALIKE = 0.08;
/** What of a launch's length is compared sample by sample: its edge, without what comes after. */
const EDGE_SHARE = 0.5;
/** Turns in which one launch is laid on the other, and by how much their heights may be wrong. */
const ALIGN_TURNS = 3;
const GAIN_KEEPS = 0.03;
/** Pulses differ in width by no more than this share, or so many samples, where they were set alike. */
const WIDTH_KEEPS = 0.15;
const WIDTH_SAMPLES = 2;
/** Pairs of one cable are twisted differently, and cables of one type come from many lots: velocities differ by this share. */
const LIKE_VELOCITY = 0.02;
/** Reflections differ by more than this before something is said to have changed. */
const REFLECTION_KEEPS = 0.06;

/**
 * The difference of two traces of one line from one end, each taken by its own launch (time, height
 * and level), and what the events of the two say to each other. Events are the same where their
 * distances agree within their uncertainty or cannot be told apart; velocities and leads are each
 * trace's own. A like line ends where it ends: what lies behind that on this one has nothing to be compared with.
 */
export function compareTraces(
  now: ReadForComparison,
  then: ReadForComparison,
  compared: ComparedWith = {},
): TraceDifference {
  const { trace } = now;
  const share = new Float64Array(trace.volts.length);
  const thenShare = (timeS: number): number => {
    const at = (timeS + then.launchAtS - then.trace.startS) / then.trace.intervalS;
    const n = Math.floor(at);
    const [before, low, high, after] = [-1, 0, 1, 2].map((k) => then.trace.volts[n + k]);
    if (before === undefined || low === undefined || high === undefined || after === undefined) return NaN;
    // Cubic between samples (Catmull and Rom): a straight line cuts an edge's corners.
    const x = at - n;
    const volts =
      low +
      (x / 2) *
        (high -
          before +
          x * (2 * before - 5 * low + 4 * high - after + x * (3 * (low - high) + after - before)));
    return (volts - then.levelV) / then.launchV;
  };
  let launchOff = 0;
  const [lengthS, thenLengthS] = [launchLength(now), launchLength(then)];
  const launchEndsS = EDGE_SHARE * lengthS;
  const { shiftS, gain } = launchOnLaunch(now, thenShare, launchEndsS);
  for (let n = 0; n < share.length; n++) {
    const timeS = trace.startS + n * trace.intervalS - now.launchAtS;
    const was = gain * thenShare(timeS + shiftS);
    const is = (trace.volts[n]! - now.levelV) / now.launchV;
    share[n] = Number.isNaN(was) ? 0 : is - was;
    if (Math.abs(timeS) < launchEndsS) launchOff = Math.max(launchOff, Math.abs(share[n]!));
  }
  return {
    share,
    noiseShare: Math.hypot(
      now.reading.noiseV / Math.abs(now.launchV),
      then.reading.noiseV / Math.abs(then.launchV),
    ),
    alike:
      launchOff < ALIKE &&
      Math.abs(lengthS - thenLengthS) <
        Math.max(WIDTH_KEEPS * lengthS, WIDTH_SAMPLES * Math.max(trace.intervalS, then.trace.intervalS)),
    ...changesOf(now.reading, then.reading, compared),
  };
}

/**
 * How far the other launch has to be moved, and what it has to be multiplied by, to lie on this one: least squares over
 * the leading edge. Each trace's own launch is known to a part of a sample and of its noise; on a steep edge that is
 * more than what is looked for.
 */
function launchOnLaunch(
  { trace, launchAtS, launchV, levelV }: ReadForComparison,
  thenShare: (timeS: number) => number,
  launchEndsS: number,
): { shiftS: number; gain: number } {
  const { intervalS, startS, volts } = trace;
  const from = Math.max(0, Math.ceil((launchAtS - launchEndsS - startS) / intervalS));
  const to = Math.min(volts.length - 1, Math.floor((launchAtS + launchEndsS - startS) / intervalS));
  let [shiftS, gain] = [0, 1];
  for (let turn = 0; turn < ALIGN_TURNS; turn++) {
    let [aa, ab, bb, ay, by] = [0, 0, 0, 0, 0];
    for (let n = from; n <= to; n++) {
      const timeS = startS + n * intervalS - launchAtS + shiftS;
      const was = thenShare(timeS);
      const slope = (thenShare(timeS + intervalS / 2) - thenShare(timeS - intervalS / 2)) / intervalS;
      const off = (volts[n]! - levelV) / launchV - gain * was;
      if (Number.isNaN(off) || Number.isNaN(slope)) continue;
      aa += slope * slope;
      ab += slope * was;
      bb += was * was;
      ay += slope * off;
      by += was * off;
    }
    const determinant = aa * bb - ab * ab;
    if (!(determinant > 1e-6 * aa * bb)) return { shiftS: 0, gain: 1 };
    const move = (ay * bb - by * ab) / determinant;
    // Launches that lie further apart than a sample are not one launch seen twice.
    shiftS = Math.max(-intervalS, Math.min(intervalS, shiftS + move));
    gain = Math.max(1 - GAIN_KEEPS, Math.min(1 + GAIN_KEEPS, gain + (by * aa - ay * ab) / determinant));
  }
  return { shiftS, gain };
}

/** How long a pulse stands above half its height, seconds; nought for a step, which has no width. */
function launchLength({ trace, launchAtS, launchV, levelV }: ReadForComparison): number {
  const { volts, intervalS, startS } = trace;
  const from = Math.max(0, Math.ceil((launchAtS - startS) / intervalS));
  const high = (n: number): boolean => Math.abs(volts[n]! - levelV) > Math.abs(launchV) / 2;
  let n = from;
  while (n < volts.length && (n - from < 2 || high(n))) n++;
  return n - from > volts.length / 3 ? 0 : (n - from) * intervalS;
}

const isEnd = ({ kind }: TraceEvent): boolean => END_KINDS.has(kind);
/** Whether an end lies where a line should have it, within so many deviations. */
const WITHIN = 2;
const endsAt = ({ distanceM, u95M }: TraceEvent, planned: PlannedLength | undefined): boolean =>
  planned !== undefined &&
  Math.abs(distanceM - planned.lengthM) < WITHIN * Math.hypot(planned.deviationM, u95M / 2);
/** An end that hides what lies behind it. */
const hides = ({ kind }: TraceEvent): boolean => kind === 'open' || kind === 'short';

function changesOf(
  now: ReadForComparison['reading'],
  then: ReadForComparison['reading'],
  { like = false, planned }: ComparedWith,
): Pick<TraceDifference, 'changes' | 'shared' | 'untilM'> {
  const own = (events: readonly TraceEvent[]): TraceEvent[] => events.filter(({ kind }) => kind !== 'ghost');
  const [present, past] = [own(now.events), own(then.events)];
  const resolutionM = Math.max(now.resolutionM, then.resolutionM);
  const hiddenFromM = (events: readonly TraceEvent[]): number =>
    Math.min(...events.filter(hides).map(({ distanceM }) => distanceM), Infinity);
  const apart = (one: TraceEvent, other: TraceEvent): number =>
    Math.abs(one.distanceM - other.distanceM) /
    Math.max(
      resolutionM / 2,
      Math.hypot(one.u95M, other.u95M, like ? LIKE_VELOCITY * Math.max(0, one.distanceM) : 0),
    );
  const endsM = like ? hiddenFromM(past) : Infinity;
  const left = new Set(past);
  const shared: number[] = [];
  const changes = present.flatMap((event): TraceChange[] => {
    const was = [...left]
      .filter((other) => apart(event, other) < 1)
      .sort((a, b) => apart(event, a) - apart(event, b))[0];
    // Behind a like line's end there is nothing of it, and where this one should end it ends.
    const excused =
      event.distanceM > endsM + resolutionM / 2 || (like && isEnd(event) && endsAt(event, planned));
    if (!was) return excused ? [] : [{ what: 'new', event, was: null }];
    left.delete(was);
    const same = was.kind === event.kind && Math.abs(was.reflection - event.reflection) < REFLECTION_KEEPS;
    const turned = Math.sign(was.reflection) !== Math.sign(event.reflection);
    // An end whose height alone differs has other loss in front of it, which is told where it is.
    if (same || (hides(event) && was.kind === event.kind && !turned)) {
      shared.push(now.events.indexOf(event));
      return [];
    }
    return [{ what: 'changed', event, was }];
  });
  // What lies behind a new end is hidden, not gone.
  const hiddenM = hiddenFromM(present);
  const gone = [...left]
    .filter(({ distanceM }) => distanceM < hiddenM + resolutionM / 2)
    // A like line is as long as it is.
    .filter((event) => !(like && isEnd(event)))
    .map((event): TraceChange => ({ what: 'gone', event, was: event }));
  return {
    changes: [...changes, ...gone].sort((a, b) => a.event.distanceM - b.event.distanceM),
    shared,
    untilM: Math.min(endsM, hiddenM, now.sightM, then.sightM),
  };
}
