import { inTime, type Ground } from '../ground.js';
import { dot, inverse, minimise, putProducts, type Normal } from '../levenberg.js';
import { shapeAsVector, shapeFromVector } from '../pulse-shape.js';
import { chainBounds, chainFrom, chainVector, isPossible, type LineEnd } from './chain.js';
import { launchSpectra } from '../launch-spectrum.js';
import { seenOf, times, wireOf, type ChainModel } from './chain-model.js';
import { seenWithSlopes } from './chain-slopes.js';

export interface ChainFit extends ChainModel {
  /** Sum of squared residuals over the noise's variance. */
  misfit: number;
  /** How far its figures are strained from what such figures are: squares of deviations. */
  strained: number;
  /** Covariance of [launch figures, level, source, input, flat, skin, chain]; null where they cannot be told apart. */
  covariance: () => Float64Array | null;
  /** Samples the model leaves. */
  left: Float64Array;
}

/** What is thought of figures before a trace is seen. */
export interface ChainPrior {
  /** Loss per sample of either law that the cable's figures would make alone. */
  flat: number;
  skin: number;
  /** Logarithms by which each kind of end is likelier or less so, for what was told of the far end. */
  ends?: Partial<Record<LineEnd['kind'], number>> | undefined;
  /** Something hangs at the far end, which may send back much and be no fault. */
  loaded?: boolean | undefined;
  /** The loss as a multiple of those figures: mean and deviation. */
  mean: number;
  deviation: number;
  lead: { at: number; deviation: number } | null;
  /** The capacitance across the tee, in samples with the line's impedance. */
  input: { mean: number; deviation: number };
}

/** A pulser is made to match the line, more or less. */
const SOURCE = { deviation: 0.5, least: 0.02, most: 12 };
/** A launch's logarithms may move by about so much from where they were learned. */
const SHAPE_DEVIATION = 0.7;
const LEVEL_DEVIATION = 1;
const LOGARITHM_DEVIATION = 4;
/** Leads are of the cable's impedance, or half or twice it. */
const LEAD_DEVIATION = 0.35;
const MOST_LOSS = 40;
/** Index of a launch's height among its figures. */
const HEIGHT = 1;

interface Vector {
  values: Float64Array;
  /** Number of figures of the launch. */
  figures: number;
}

function vectorOf(model: ChainModel): Vector {
  const launch = shapeAsVector(model.launch);
  return {
    values: Float64Array.from([
      ...launch,
      model.level,
      Math.log(model.source),
      Math.log(model.input),
      Math.log(model.flat),
      Math.log(model.skin),
      ...chainVector(model.chain),
    ]),
    figures: launch.length,
  };
}

function modelFrom(like: ChainModel, values: Float64Array, figures: number): ChainModel {
  return {
    launch: shapeFromVector(like.launch.shape, values),
    level: values[figures] as number,
    source: Math.exp(values[figures + 1] as number),
    input: Math.exp(values[figures + 2] as number),
    flat: Math.exp(values[figures + 3] as number),
    skin: Math.exp(values[figures + 4] as number),
    chain: chainFrom(like.chain, values, figures + 5),
  };
}

/** The least and the most that each figure of a fit can be. */
function boundsOf(
  { chain }: ChainModel,
  prior: ChainPrior,
  figures: number,
): { least: Float64Array; most: Float64Array } {
  const anywhere = { least: -Infinity, most: Infinity };
  const loss = (most: number) => ({ least: -Infinity, most: Math.log(MOST_LOSS * most) });
  const bounds = [
    ...Array.from({ length: figures + 1 }, () => anywhere),
    { least: Math.log(SOURCE.least), most: Math.log(SOURCE.most) },
    anywhere,
    loss(prior.flat),
    loss(prior.skin),
    ...chainBounds(chain),
  ];
  return {
    least: Float64Array.from(bounds, ({ least }) => least),
    most: Float64Array.from(bounds, ({ most }) => most),
  };
}

/** Index of the chain's first figure in the vector of a fit. */
export const chainAt = (model: ChainModel): number => shapeAsVector(model.launch).length + 5;

/**
 * Fits a launch, the loss and a chain's figures together (Levenberg and Marquardt), or all but the
 * launch's form, which stays as it was learned.
 * @param enough what a step has to gain of the logarithm of the likelihood to be followed by another
 * @param noiseV deviation that a residual is held against
 */
export function fitChain(
  ground: Ground,
  start: ChainModel,
  prior: ChainPrior,
  {
    rounds,
    launchHeld,
    noiseV = ground.noiseV,
    enough,
  }: {
    rounds: number;
    launchHeld: boolean;
    noiseV?: number;
    enough?: number | undefined;
  },
): ChainFit {
  const { values, figures } = vectorOf(start);
  const anchor = values.slice();
  const known = launchHeld ? launchSpectra(ground, start.launch) : null;
  const samples = ground.volts.length;
  const weight = 1 / noiseV ** 2;
  const size = values.length;
  let left = new Float64Array(samples);
  let strained = 0;
  let lastAsked: Float64Array | null = null;
  let lastCost = Infinity;
  /** What is left and what it costs; with the slopes of it only where they are asked for: they are most of the work. */
  const at = (parameters: Float64Array, sloped: boolean): Normal => {
    lastAsked = parameters;
    lastCost = Infinity;
    const matrix = new Float64Array(size * size);
    const gradient = new Float64Array(size);
    const model = modelFrom(start, parameters, figures);
    const { source, input, flat, skin } = model;
    if (!isPossible(model.chain, samples - start.launch.at)) return { cost: Infinity, matrix, gradient };
    const launch = known ?? launchSpectra(ground, model.launch);
    const wire = wireOf(ground, flat, skin);
    const { seen, slopes } = sloped
      ? seenWithSlopes(ground, model, wire, launch.value)
      : { seen: seenOf(ground, model, wire), slopes: [] };
    const spectra = [times(launch.value, seen)];
    const free: number[] = [];
    if (sloped && !launchHeld)
      launch.slopes.forEach((slope, n) => {
        spectra.push(times(slope, seen));
        free.push(n);
      });
    slopes.forEach((slope, n) => {
      spectra.push(slope);
      free.push(figures + 1 + n);
    });
    const signals: Float64Array[] = [];
    for (let n = 0; n < spectra.length; n += 2)
      signals.push(...inTime(ground, spectra[n] as (typeof spectra)[number], spectra[n + 1]));
    const columns = [ground.one, ...signals.slice(1, spectra.length)];
    const index = [figures, ...free];
    const value = signals[0] as Float64Array;
    const residual = new Float64Array(samples);
    let cost = 0;
    for (let n = 0; n < samples; n++) {
      const r = (ground.volts[n] as number) - model.level * (ground.one[n] as number) - (value[n] as number);
      residual[n] = r;
      cost += weight * r * r;
    }
    left = residual;
    if (sloped) {
      columns.forEach((column, n) => (gradient[index[n] as number] = weight * dot(column, residual)));
      putProducts(columns, index, weight, { matrix, gradient });
    }
    strained = 0;
    /** What is known of a figure; `by` is its slope by the parameter. */
    const hold = (figure: number, is: number, mean: number, deviation: number, by = 1): void => {
      const off = (mean - is) / deviation;
      cost += off * off;
      strained += off * off;
      gradient[figure] = (gradient[figure] as number) + (off * by) / deviation;
      matrix[figure * size + figure] = (matrix[figure * size + figure] as number) + (by / deviation) ** 2;
    };
    if (launchHeld) {
      for (let n = 0; n < figures; n++) matrix[n * size + n] = 1;
    } else
      for (let n = 2; n < figures; n++)
        hold(n, parameters[n] as number, anchor[n] as number, SHAPE_DEVIATION);
    hold(figures, model.level, 0, LEVEL_DEVIATION * Math.abs(anchor[HEIGHT] as number));
    // What has gone to nought no longer moves anything: its logarithm stays within reach of where it began.
    for (let n = figures + 1; n < figures + 5; n++)
      hold(n, parameters[n] as number, anchor[n] as number, LOGARITHM_DEVIATION);
    const { lead } = model.chain;
    // A source is made for the line, or for the lead.
    const matches = lead ? lead.value / 2 : 0;
    hold(figures + 1, Math.log(source), matches, SOURCE.deviation);
    hold(figures + 2, input, prior.input.mean, prior.input.deviation, input);
    hold(figures + 3, flat, 0.3 * prior.mean * prior.flat, (0.4 + prior.deviation) * prior.flat, flat);
    hold(figures + 4, skin, 0.7 * prior.mean * prior.skin, (0.4 + prior.deviation) * prior.skin, skin);
    if (prior.lead && lead) {
      hold(figures + 5, lead.at, prior.lead.at, prior.lead.deviation);
      hold(figures + 6, lead.value, 0, LEAD_DEVIATION);
    }
    lastCost = cost / 2;
    return { cost: lastCost, matrix, gradient };
  };
  const { parameters, normal } = minimise(values, (figuresAt) => at(figuresAt, true), rounds, {
    costAt: (figuresAt) => at(figuresAt, false).cost,
    enough,
    bounds: boundsOf(start, prior, figures),
  });
  // What is left is that of the figures asked for last.
  if (lastAsked !== parameters) at(parameters, false);
  const possible = Number.isFinite(lastCost);
  const model = modelFrom(start, parameters, figures);
  const misfit = left.reduce((sum, r) => sum + (r / ground.noiseV) ** 2, 0);
  let covariance: Float64Array | null | undefined = possible ? undefined : null;
  return {
    ...model,
    misfit: possible ? misfit : Infinity,
    strained,
    covariance: () => (covariance === undefined ? (covariance = inverse(normal().matrix)) : covariance),
    left,
  };
}
