import { NORMAL_95 } from '../chance/normal.js';
import { delayAt, fitEchoes, lossAt, type Fit, type LossPrior } from './echo-fit.js';
import {
  nameEchoes,
  withSourceGhosts,
  type EventKind,
  type KindShare,
  type Reflected,
  type Setting,
} from './events.js';
import type { Heard } from './chain/chain-search.js';
import { explainByChain, type FarEnd } from './chain/explain-by-chain.js';
import { explainTrace, type Explained } from './explain-trace.js';
import { echoDistanceM, roundTripS, type LineFigures } from './line.js';
import { withLoadedEnd, type PlannedLength } from './loaded-end.js';
import { edgeSpan } from './pulse-shape.js';
import type { Ground } from './ground.js';
import { lagOf, lossOf, sightOf, standingOut } from './sight.js';
import type { Trace } from './trace.js';

/** What is known before a trace is read. */
export interface TraceSetting {
  line: LineFigures;
  /** Deviation of the velocity factor; 0 where it is taken as given. */
  velocityDeviation: number;
  /** Whether the loss figures are those of this kind of cable, or only of cables at large. */
  lossKnown: boolean | 'measured';
  /** How the far end is, where somebody looked. */
  farEnd?: FarEnd | undefined;
  /** How long the line should be, where that is known. */
  planned?: PlannedLength | undefined;
  /** The lead between instrument and cable. */
  lead: { lengthM: number; velocityFactor: number; deviationM: number };
  shape?: 'pulse' | 'step';
  /** The oscilloscope's input capacitance, which delays every echo by about Z0 C / 2. */
  scopeF?: number;
  /**
   * Whether the trace is explained as a whole by a chain of physical things, which takes about a second where
   * naming echo by echo takes a tenth, and tells kinds far better.
   */
  thorough?: boolean;
  /** Whether a glance is enough: for a first look, which a settled reading follows. */
  hasty?: boolean;
}

/** Where an uncertainty comes from, as 95 % half widths in metres. */
export interface Budget {
  timingM: number;
  velocityM: number;
  leadM: number;
}

/** A reflection on the line. */
export interface TraceEvent {
  /** From the lead's far end. */
  distanceM: number;
  /** Half width of the 95 % interval. */
  u95M: number;
  budget: Budget;
  kind: EventKind;
  /** That the kind is right, 0 to 1. */
  probability: number;
  /** What else it could be, likeliest first. */
  or: readonly KindShare[];
  /** Reflection coefficient where it is, loss and the way there taken back. */
  reflection: number;
  /** Indices of the two events between which a ghost goes to and fro. */
  ghostOf: [number, number] | null;
  /** Of a section or a stub. */
  lengthM: number | null;
  /** Round trip between launch and echo, seconds. */
  delayS: number;
}

/** A trace read. */
export interface TraceReading {
  velocityFactor: number;
  noiseV: number;
  /** How far an open would have been seen. */
  sightM: number;
  sightEndsBy: 'noise' | 'record';
  /** Nearer than this an event hides in the launch. */
  deadZoneM: number;
  /** Closer than this two events cannot be told apart. */
  resolutionM: number;
  events: TraceEvent[];
  /** Index of the first fault, or else the far end; null where there is neither. */
  main: number | null;
  /** The source's resistance by the line's impedance, as it was fitted. */
  source: number;
  /** What the line loses by this trace; null where no end of known height tells. */
  loss: FittedLoss | null;
  explained: Explained;
  /** Read thoroughly, and yet no chain of things explains it: kinds are guesses. */
  unexplained: boolean;
}

/** Loss as a trace gave it. */
export interface FittedLoss {
  /** As a multiple of what was told. */
  share: number;
  /** Half width of its 95 % interval. */
  u95: number;
  /** Where the launch has most to say, hertz. */
  aboutHz: number;
}

/** The lead's joint is listed where it stands out by so many deviations. */
const JOINT_SEEN_AT = 5;
/** What the source sends out again is listed where it stands out by so many deviations. */
const GHOST_SEEN_AT = 5.2;
/** No cable follows the law of its loss exactly: the lag it makes is known to this share. */
const LAW_KNOWN_TO = 0.05;
/** An end is taken for whole where the fit is good, its kind sure and its height near enough. */
const WELL_FITTED = 1.6;
const SURE = 0.9;
const END_ALLOWS = 0.1;
const END_KNOWN_TO = 0.03;
/** What that may cost the fit, in squared deviations. */
const MAY_COST = 9;
/** How far loss figures of a known kind of cable are off, and those of cables at large. */
const LOSS_KNOWN = { mean: 1, deviation: 0.35 };
const LOSS_MEASURED = { mean: 1, deviation: 0.1 };
const LOSS_UNKNOWN = { mean: 1, deviation: 0.8 };
/** A lead shorter than this many samples is part of the launch; its delay is known to this share. */
const LEAST_LEAD = 0.3;
const LEAD_KNOWN_TO = 0.03;
/** What an oscilloscope's input may have where nobody said, as a deviation, farads. */
const SCOPE_F = 8e-12;
/** A fault, or an end, is told from a joint and a ghost; it is the main event from this probability on. */
const FAULTS: ReadonlySet<EventKind> = new Set([
  'open',
  'short',
  'series-resistance',
  'wet-or-shunt',
  'low-section',
  'high-section',
  'stub',
  'loaded-end',
]);

const lossIn = ({ lossKnown }: TraceSetting): LossPrior =>
  lossKnown === 'measured' ? LOSS_MEASURED : lossKnown ? LOSS_KNOWN : LOSS_UNKNOWN;

/**
 * Takes a trace apart into launch and echoes: what reading it at once and reading it thoroughly have in common.
 *
 * @throws NoLaunch where the trace has no launch
 */
export function takeApart(given: Trace, setting: TraceSetting): Explained {
  const { line, lead } = setting;
  return explainTrace(given, {
    leadS: {
      delayS: roundTripS(lead.lengthM, lead.velocityFactor),
      deviationS: roundTripS(lead.deviationM, lead.velocityFactor),
    },
    line,
    loss: lossIn(setting),
    ...(setting.shape ? { shape: setting.shape } : {}),
    hasty: setting.hasty ?? false,
  });
}

/**
 * Reads a trace: what reflects, where, and how sure that is. Distances are those of an echo's front,
 * v t / 2 with the velocity of the front, and count from the lead's far end.
 *
 * @param heard is told how much of a thorough reading is done
 * @param explained the trace taken apart in the same setting, where that is done already
 * @throws NoLaunch where the trace has no launch
 */
export function readTrace(
  given: Trace,
  setting: TraceSetting,
  heard?: Heard,
  explained = takeApart(given, setting),
): TraceReading {
  const { line, lead } = setting;
  const loss = lossIn(setting);
  const { ground, trace } = explained;
  const metresPerSample = echoDistanceM(trace.intervalS, line.velocityFactor);
  const leadSamples = roundTripS(lead.lengthM, lead.velocityFactor) / trace.intervalS;
  const { launch } = explained.fit;
  const resolution = Math.max(edgeSpan(launch), 2);
  const pulse = launch.shape === 'pulse' ? Math.exp(launch.logWidth) : 0;
  const naming = { lead: leadSamples, resolution, deadZone: pulse + resolution };
  const fit = withKnownEnd(explained, naming, loss);
  const edge = edgeSpan(fit.launch);
  const length = fit.launch.shape === 'pulse' ? Math.exp(fit.launch.logWidth) : 0;
  // The residuals of the whole record say what the noise was, better than its differences did.
  const scatter = Math.sqrt(Math.max(0.25, fit.misfit / trace.volts.length));
  const echoes = reflectedOf(fit, scatter, ground);
  const inSight = trace.volts.length - fit.launch.at;
  const standsOut = standingOut(ground, fit);
  // Of what the record's end cuts off in its edge nothing can be said.
  const whole = echoes.filter(({ delay }) => delay < inSight - edge / 2);
  const chain = setting.thorough
    ? explainByChain(
        { ...explained, fit },
        whole,
        loss,
        {
          lead: leadSamples > LEAST_LEAD ? leadIn(setting, leadSamples, trace.intervalS) : null,
          input: inputOf(setting, trace.intervalS),
          farEnd: setting.farEnd,
        },
        heard,
      )
    : null;
  const { named: found, source } = chain ?? { named: nameEchoes(whole, naming), source: fit.source };
  // What the oscilloscope's input makes late is in the chain.
  const scopeLag = setting.thorough ? 0 : inputOf(setting, trace.intervalS).mean / 2;
  const named = withSourceGhosts(
    found,
    (source - 1) / (source + 1),
    (delay, share) => delay < inSight - edge / 2 && Math.abs(share) * standsOut(delay) > GHOST_SEEN_AT,
  );
  const leadDistance = leadSamples * metresPerSample;
  const placed = named.map((event): TraceEvent => {
    const distanceM = (event.delay - scopeLag) * metresPerSample - leadDistance;
    const budget = {
      timingM:
        NORMAL_95 *
        Math.hypot(event.delayDeviation, LAW_KNOWN_TO * lagOf(ground, fit, event.delay)) *
        metresPerSample,
      velocityM: (NORMAL_95 * Math.abs(distanceM) * setting.velocityDeviation) / line.velocityFactor,
      leadM: NORMAL_95 * lead.deviationM,
    };
    return {
      distanceM,
      u95M: Math.hypot(budget.timingM, budget.velocityM, budget.leadM),
      budget,
      kind: event.kind,
      probability: event.probability,
      or: event.or ?? [],
      reflection: Math.max(-1, Math.min(1, event.reflection)),
      ghostOf: event.ghostOf,
      lengthM: event.through === null ? null : event.through * metresPerSample,
      delayS: event.delay * trace.intervalS,
    };
  });
  const events = withLoadedEnd(placed, setting);
  const sight = sightOf(ground, fit);
  return {
    velocityFactor: line.velocityFactor,
    noiseV: explained.noiseV * scatter * Math.sqrt(trace.intervalS / given.intervalS),
    sightM: Math.max(0, sight.samples * metresPerSample - leadDistance),
    sightEndsBy: sight.endsBy,
    deadZoneM: (length + edge) * metresPerSample,
    resolutionM: Math.max(edge, 2) * metresPerSample,
    events,
    main: mainOf(events),
    source,
    loss: lossBy(fit, scatter, events, edge * trace.intervalS),
    unexplained: chain?.unexplained ?? false,
    explained: {
      ...explained,
      fit,
      modelV: chain?.modelV.map((volt) => volt + explained.launch.baselineV) ?? explained.modelV,
    },
  };
}

/** A launch has most of what tells loss about this share of its edge's reciprocal. */
const ABOUT_EDGE = 0.35;
/** A loss that is known no better than this tells nothing. */
const LOSS_TELLS = 0.6;

function lossBy(fit: Fit, scatter: number, events: readonly TraceEvent[], edgeS: number): FittedLoss | null {
  const end = events.find(
    ({ kind, probability }) => (kind === 'open' || kind === 'short') && probability > SURE,
  );
  const covariance = end && fit.covariance();
  if (!covariance) return null;
  const { shape } = fit.launch;
  const [at, size] = [lossAt(shape), lossAt(shape) + 1 + 2 * fit.echoes.length];
  const u95 = NORMAL_95 * scatter * Math.sqrt(Math.max(0, covariance[at * size + at]!));
  return u95 < LOSS_TELLS ? { share: fit.loss, u95, aboutHz: ABOUT_EDGE / edgeS } : null;
}

/** Echoes in order of delay, with deviations from the fit's covariance. */
function reflectedOf(fit: Fit, scatter: number, ground: Ground): Reflected[] {
  const { shape } = fit.launch;
  const size = lossAt(shape) + 1 + 2 * fit.echoes.length;
  const covariance = fit.covariance();
  const deviation = (index: number): number =>
    covariance ? scatter * Math.sqrt(covariance[index * size + index]!) : Infinity;
  return (
    fit.echoes
      .map((echo, n) => ({
        ...echo,
        delayDeviation: deviation(delayAt(shape, n)),
        shareDeviation: deviation(delayAt(shape, n) + 1),
        lostNeper: lossOf(ground, fit, echo.delay),
      }))
      // A joint that is hardly there is no event.
      .filter(
        ({ joint, share, shareDeviation }) => !joint || Math.abs(share) > JOINT_SEEN_AT * shareDeviation,
      )
      .sort((one, other) => one.delay - other.delay)
  );
}

/**
 * Where the far end is told to be open or shorted, it reflects everything: what its echo lacks is
 * loss, and the fit is done again with that known.
 */
function withKnownEnd({ fit, ground }: Explained, naming: Setting, loss: LossPrior): Fit {
  const samples = ground.volts.length;
  if (fit.misfit > WELL_FITTED * samples) return fit;
  const echoes = reflectedOf(fit, 1, ground);
  const named = nameEchoes(echoes, naming);
  const end = named.findIndex(
    ({ kind, probability }) => (kind === 'open' || kind === 'short') && probability > SURE,
  );
  if (end < 0) return fit;
  const { delay, share, shareDeviation, reflection } = named[end]!;
  if (Math.abs(Math.abs(reflection) - 1) > END_ALLOWS + 2 * shareDeviation) return fit;
  const known = { share: share / Math.abs(reflection), deviation: END_KNOWN_TO };
  const again = fitEchoes(
    ground,
    { ...fit, echoes: fit.echoes.map((echo) => (echo.delay === delay ? { ...echo, likely: known } : echo)) },
    loss,
  );
  return again.misfit < fit.misfit + MAY_COST ? again : fit;
}

/** The lead's far end in samples, as well as it is known. */
const leadIn = (
  { lead }: TraceSetting,
  samples: number,
  intervalS: number,
): { at: number; deviation: number } => ({
  at: samples,
  deviation: Math.max(
    0.02,
    roundTripS(lead.deviationM, lead.velocityFactor) / intervalS,
    LEAD_KNOWN_TO * samples,
  ),
});

/** The time of the oscilloscope's input capacitance with the line's impedance, samples. */
function inputOf({ line, scopeF }: TraceSetting, intervalS: number): { mean: number; deviation: number } {
  const perFarad = line.impedanceOhm / intervalS;
  return { mean: perFarad * (scopeF ?? 0), deviation: perFarad * (scopeF ? 0.15 * scopeF : SCOPE_F) };
}

function mainOf(events: readonly TraceEvent[]): number | null {
  const sure = events.findIndex(({ kind, probability }) => FAULTS.has(kind) && probability >= 0.5);
  if (sure >= 0) return sure;
  const any = events.findIndex(({ kind }) => FAULTS.has(kind));
  return any >= 0 ? any : null;
}
