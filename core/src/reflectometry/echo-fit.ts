import { modelOf, spectraOf, type Echo, type Explanation } from './echo-model.js';
import { inTime, type Ground } from './ground.js';
import { dot, inverse, minimise, putProducts, type Normal } from './levenberg.js';
import { figureCount, shapeAsVector, shapeFromVector, type PulseShape } from './pulse-shape.js';

/** What is thought of the loss before the trace is seen. */
export interface LossPrior {
  mean: number;
  deviation: number;
}

export interface Fit extends Explanation {
  /** Sum of squared residuals over their variance. */
  misfit: number;
  /** Covariance of [launch figures, level, source, tail, loss, (delay, share) per echo]; null where they cannot be told apart. */
  covariance: () => Float64Array | null;
}

/** Index of the loss in the parameter vector. */
export const lossAt = (shape: PulseShape['shape']): number => figureCount(shape) + 3;
/** Index of an echo's delay; its share comes next. */
export const delayAt = (shape: PulseShape['shape'], echo: number): number =>
  figureCount(shape) + 4 + 2 * echo;

/** A launch's logarithms may move by about so much from where the fit began. */
const SHAPE_DEVIATION = 1.5;
/** The tail is thought to be about what the figures give, or none. */
const TAIL: LossPrior = { mean: 0.7, deviation: 0.5 };
/** A pulser is made to match the line, more or less. */
const SOURCE: LossPrior = { mean: 1, deviation: 0.3 };
const LEAST_SOURCE = 0.05;
/** Less loss than none, so far as the noise may ask for it; more than a cable can have. */
const LEAST_LOSS = -1;
const MOST_LOSS = 30;

/** How far a fit goes. */
export interface FitEffort {
  /** The most steps of all together. */
  rounds?: number;
  /** What a step has to gain of the logarithm of the likelihood to be followed by another. */
  enough?: number;
  /** Echoes that have their places already: the others find theirs first. */
  placed?: number;
}

/** Steps tried with the launch and the line held, while a new echo finds its place. */
const ROUNDS_HELD = 8;
/** A fit that leaves less than this share of what was left before is gone over again. */
const LESS_LEFT = 0.9;

/**
 * Fits launch, line, and every echo's delay and share together by Levenberg and Marquardt's least
 * squares over the record's samples; first the echoes that have no place yet alone, so that nothing
 * else bends to what a misplaced one leaves over.
 */
export function fitEchoes(
  ground: Ground,
  start: Explanation,
  prior: LossPrior,
  { rounds = 40, enough, placed = 0 }: FitEffort = {},
): Fit {
  const { shape } = start.launch;
  const anchor = shapeAsVector(start.launch);
  const vector = Float64Array.from([
    ...anchor,
    start.level,
    start.source,
    start.tail,
    start.loss,
    ...start.echoes.flatMap(({ delay, share }) => [delay, share]),
  ]);
  const samples = ground.volts.length;
  let noiseV = ground.noiseV;
  const at = (parameters: Float64Array): Normal =>
    normalEquations(ground, start, parameters, anchor, prior, { noiseV });
  const firstEcho = delayAt(shape, placed);
  const held = (parameters: Float64Array): Normal =>
    without(
      normalEquations(ground, start, parameters, anchor, prior, { noiseV, from: firstEcho }),
      firstEcho,
    );
  const costAt = (parameters: Float64Array): number =>
    normalEquations(ground, start, parameters, anchor, prior, { noiseV, from: Infinity }).cost;
  const found =
    start.echoes.length > placed
      ? minimise(vector, held, ROUNDS_HELD, { costAt, enough }).parameters
      : vector;
  let last: { of: Float64Array; misfit: number } | null = null;
  const misfitAt = (parameters: Float64Array): number => {
    if (last?.of !== parameters)
      last = { of: parameters, misfit: misfitOf(ground, explanationOf(shape, parameters, start.echoes)) };
    return last.misfit;
  };
  // What is not explained yet counts as noise, or launch and line would be bent to explain it.
  const unexplained = (parameters: Float64Array): number =>
    Math.sqrt(Math.max(1, misfitAt(parameters) / samples));
  noiseV = ground.noiseV * unexplained(found);
  let { parameters, normal } = minimise(found, at, rounds, { costAt, enough });
  const left = ground.noiseV * unexplained(parameters);
  if (left < LESS_LEFT * noiseV) {
    noiseV = left;
    ({ parameters, normal } = minimise(parameters, at, rounds, { costAt, enough }));
  }
  const explanation = explanationOf(shape, parameters, start.echoes);
  let covariance: Float64Array | null | undefined;
  return {
    ...explanation,
    misfit: misfitAt(parameters),
    covariance: () => (covariance === undefined ? (covariance = inverse(normal().matrix)) : covariance),
  };
}

/** Normal equations in which the first so many parameters stay where they are. */
function without({ cost, matrix, gradient }: Normal, first: number): Normal {
  const size = gradient.length;
  for (let i = 0; i < first; i++) {
    for (let j = 0; j < size; j++) {
      matrix[i * size + j] = 0;
      matrix[j * size + i] = 0;
    }
    matrix[i * size + i] = 1;
    gradient[i] = 0;
  }
  return { cost, matrix, gradient };
}

/** Sum of squared residuals over their variance. */
export function misfitOf(ground: Ground, explanation: Explanation): number {
  const model = modelOf(ground, explanation);
  return model.reduce((sum, volt, n) => sum + ((ground.volts[n]! - volt) / ground.noiseV) ** 2, 0);
}

function explanationOf(
  shape: PulseShape['shape'],
  parameters: Float64Array,
  like: readonly Echo[],
): Explanation {
  const figures = figureCount(shape);
  return {
    launch: shapeFromVector(shape, parameters),
    level: parameters[figures]!,
    source: parameters[figures + 1]!,
    tail: parameters[figures + 2]!,
    loss: parameters[figures + 3]!,
    echoes: like.map((echo, n) => ({
      ...echo,
      delay: parameters[figures + 4 + 2 * n]!,
      share: parameters[figures + 5 + 2 * n]!,
    })),
  };
}

/** The model in time without its level, and its slopes by the parameters from one on. */
function columnsOf(
  ground: Ground,
  explanation: Explanation,
  size: number,
  from: number,
): { value: Float64Array; columns: Float64Array[] } {
  if (from >= size) return { value: modelOf(ground, { ...explanation, level: 0 }), columns: [] };
  const figures = figureCount(explanation.launch.shape);
  const { model, slopes } = spectraOf(ground, explanation, size, from);
  // The level's slope is known; the rest come back in time two by two, the model with them.
  const asked = [model, ...slopes.filter((_, n) => n >= from && n !== figures)];
  const signals: Float64Array[] = [];
  for (let n = 0; n < asked.length; n += 2) signals.push(...inTime(ground, asked[n]!, asked[n + 1]));
  const columns = signals.slice(1, asked.length);
  if (from <= figures) columns.splice(figures - from, 0, ground.one);
  return { value: signals[0]!, columns };
}

/** @param from the first parameter whose slope is asked for: none by Infinity, for the cost alone */
function normalEquations(
  ground: Ground,
  start: Explanation,
  parameters: Float64Array,
  anchor: readonly number[],
  prior: LossPrior,
  { noiseV, from = 0 }: { noiseV: number; from?: number },
): Normal {
  const size = parameters.length;
  const { shape } = start.launch;
  const figures = figureCount(shape);
  const explanation = explanationOf(shape, parameters, start.echoes);
  const { loss, level, source } = explanation;
  const matrix = new Float64Array(size * size);
  const gradient = new Float64Array(size);
  if (loss < LEAST_LOSS || loss > MOST_LOSS || source < LEAST_SOURCE)
    return { cost: Infinity, matrix, gradient };
  const { value, columns } = columnsOf(ground, explanation, size, from);
  const weight = 1 / noiseV ** 2;
  const samples = ground.volts.length;
  const residual = new Float64Array(samples);
  let cost = 0;
  for (let n = 0; n < samples; n++) {
    const r = ground.volts[n]! - level * ground.one[n]! - value[n]!;
    residual[n] = r;
    cost += weight * r * r;
  }
  columns.forEach((column, n) => (gradient[from + n] = weight * dot(column, residual)));
  putProducts(
    columns,
    columns.map((_, n) => from + n),
    weight,
    { matrix, gradient },
  );
  const hold = (index: number, mean: number, deviation: number): void => {
    const off = (mean - parameters[index]!) / deviation;
    cost += off * off;
    gradient[index]! += off / deviation;
    matrix[index * size + index]! += 1 / deviation ** 2;
  };
  for (let n = 2; n < figures; n++) hold(n, anchor[n]!, SHAPE_DEVIATION);
  hold(figures, 0, Math.abs(anchor[1]!));
  hold(figures + 1, SOURCE.mean, SOURCE.deviation);
  hold(figures + 2, TAIL.mean, TAIL.deviation);
  hold(figures + 3, prior.mean, prior.deviation);
  start.echoes.forEach(({ likely }, n) => {
    if (!likely) return;
    hold(delayAt(shape, n) + 1, likely.share, likely.deviation);
    if (likely.delay) hold(delayAt(shape, n), likely.delay.samples, likely.delay.deviation);
  });
  return { cost: cost / 2, matrix, gradient };
}
