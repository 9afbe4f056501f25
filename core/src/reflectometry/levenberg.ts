/** Half the sum of squares of a model's residuals at one point, with what a step needs. */
export interface Normal {
  cost: number;
  /** J^T J, row by row. */
  matrix: Float64Array;
  /** J^T r, r = data - model: the way down. */
  gradient: Float64Array;
}

export interface Minimum {
  parameters: Float64Array;
  /** The normal equations there, worked out where they are not known yet. */
  normal: () => Normal;
  settled: boolean;
}

/** A step that gains less than this of the half sum of squares moves nothing by a thirtieth of its deviation. */
const ENOUGH = 5e-4;

/** A step that is foretold less than this share of that is not tried: models bend. */
const FORETOLD = 0.2;

/** What a step gained by what it was foretold: over the first the ground is as it seemed, under the second it bends. */
const AS_FORETOLD = 0.75;
const BENDS = 0.25;

/**
 * Least squares by Levenberg's and Marquardt's damped Gauss-Newton steps on normal equations.
 *
 * @param start parameters to begin with
 * @param normalAt the normal equations at a point; a point outside the model's bounds costs Infinity
 * @param rounds the most steps tried
 * @param options.enough a step that gains less ends the search
 * @param options.costAt the cost alone, where that is had for much less: most steps near the ground are refused by it
 * @param options.bounds the least and the most of each parameter: a step that leads beyond ends there
 */
export function minimise(
  start: Float64Array,
  normalAt: (parameters: Float64Array) => Normal,
  rounds = 40,
  {
    costAt,
    enough = ENOUGH,
    bounds,
  }: {
    costAt?: (parameters: Float64Array) => number;
    enough?: number | undefined;
    bounds?: { least: Float64Array; most: Float64Array };
  } = {},
): Minimum {
  let parameters = start;
  let known: Normal | null = null;
  let damping = 1e-3;
  const minimum = (settled: boolean): Minimum => ({
    parameters,
    normal: () => (known ??= normalAt(parameters)),
    settled,
  });
  for (let round = 0; round < rounds; round++) {
    known ??= normalAt(parameters);
    const { cost: before } = known;
    const step = solveDamped(known, damping);
    const gain = step ? foretold(known, step) : 0;
    // What a step cannot gain by the slopes it does not gain: the ground is reached.
    if (step && gain < enough * FORETOLD) return minimum(true);
    const tried = step && parameters.map((value, n) => within(value + step[n]!, n, bounds));
    const next = tried && (costAt ? null : normalAt(tried));
    const cost = tried && (next?.cost ?? costAt?.(tried) ?? Infinity);
    if (!tried || cost === null || !(cost < before)) {
      if (damping > 1e9 || (cost !== null && cost - before < enough * ENOUGH)) return minimum(true);
      damping *= 8;
      continue;
    }
    parameters = tried;
    known = next;
    const gained = (before - cost) / gain;
    if (gained > AS_FORETOLD) damping = Math.max(damping / 6, 1e-12);
    else if (gained < BENDS) damping *= 2;
    if (before - cost < enough) return minimum(true);
  }
  return minimum(false);
}

const within = (
  value: number,
  n: number,
  bounds: { least: Float64Array; most: Float64Array } | undefined,
): number => (bounds ? Math.min(bounds.most[n]!, Math.max(bounds.least[n]!, value)) : value);

/** What a step gains of the half sum of squares if the model is straight so far. */
function foretold({ matrix, gradient }: Normal, step: Float64Array): number {
  const size = step.length;
  let gain = 0;
  for (let row = 0; row < size; row++) {
    let bent = 0;
    for (let col = 0; col < size; col++) bent += matrix[row * size + col]! * step[col]!;
    gain += step[row]! * (gradient[row]! - bent / 2);
  }
  return gain;
}

function solveDamped({ matrix, gradient }: Normal, damping: number): Float64Array | null {
  const size = gradient.length;
  const damped = matrix.slice();
  for (let n = 0; n < size; n++) damped[n * size + n]! *= 1 + damping;
  return solve(damped, gradient);
}

/** Lower triangle L of a symmetric positive matrix, M = L L^T; null where it is not positive. */
function cholesky(matrix: Float64Array, size: number): Float64Array | null {
  const lower = new Float64Array(size * size);
  for (let row = 0; row < size; row++) {
    for (let col = 0; col <= row; col++) {
      let sum = matrix[row * size + col]!;
      for (let k = 0; k < col; k++) sum -= lower[row * size + k]! * lower[col * size + k]!;
      if (row === col) {
        if (!(sum > 1e-14 * matrix[row * size + row]!)) return null;
        lower[row * size + row] = Math.sqrt(sum);
      } else lower[row * size + col] = sum / lower[col * size + col]!;
    }
  }
  return lower;
}

/** Solves a symmetric positive system scaled to a unit diagonal; null where it has no one answer. */
export function solve(matrix: Float64Array, right: Float64Array): Float64Array | null {
  const size = right.length;
  const scale = right.map((_, n) => 1 / Math.sqrt(matrix[n * size + n]!));
  const scaled = matrix.map((value, at) => value * scale[Math.floor(at / size)]! * scale[at % size]!);
  const lower = cholesky(scaled, size);
  if (!lower) return null;
  const out = right.map((value, n) => value * scale[n]!);
  for (let row = 0; row < size; row++) {
    for (let k = 0; k < row; k++) out[row]! -= lower[row * size + k]! * out[k]!;
    out[row]! /= lower[row * size + row]!;
  }
  for (let row = size - 1; row >= 0; row--) {
    for (let k = row + 1; k < size; k++) out[row]! -= lower[k * size + row]! * out[k]!;
    out[row]! /= lower[row * size + row]!;
  }
  return out.map((value, n) => value * scale[n]!);
}

/** The inverse of a symmetric positive matrix; null where it has none. */
export function inverse(matrix: Float64Array): Float64Array | null {
  const size = Math.round(Math.sqrt(matrix.length));
  const out = new Float64Array(size * size);
  for (let n = 0; n < size; n++) {
    const unit = new Float64Array(size);
    unit[n] = 1;
    const column = solve(matrix, unit);
    if (!column) return null;
    for (let row = 0; row < size; row++) out[row * size + n] = column[row]!;
  }
  return out;
}

/** Scalar product, in four sums side by side: one sum would wait for itself. */
export function dot(one: Float64Array, other: Float64Array): number {
  const end = other.length;
  let a = 0;
  let b = 0;
  let c = 0;
  let d = 0;
  let n = 0;
  for (; n + 3 < end; n += 4) {
    a += one[n]! * other[n]!;
    b += one[n + 1]! * other[n + 1]!;
    c += one[n + 2]! * other[n + 2]!;
    d += one[n + 3]! * other[n + 3]!;
  }
  for (; n < end; n++) a += one[n]! * other[n]!;
  return a + b + (c + d);
}

/**
 * The scalar products of slopes with one another, J^T J times a weight, into a matrix.
 *
 * @param columns the slopes
 * @param index each slope's row in the matrix
 */
export function putProducts(
  columns: readonly Float64Array[],
  index: readonly number[],
  weight: number,
  { matrix, gradient }: Pick<Normal, 'matrix' | 'gradient'>,
): void {
  const size = gradient.length;
  const last = columns.length - 1;
  const put = (a: number, b: number, product: number): void => {
    const i = index[a]!;
    const j = index[b]!;
    matrix[i * size + j] = weight * product;
    matrix[j * size + i] = weight * product;
  };
  // Two by two: what is read once serves twice.
  for (let a = 0; a <= last; a += 2) {
    const nextA = Math.min(a + 1, last);
    for (let b = 0; b <= a; b += 2) {
      const nextB = Math.min(b + 1, last);
      const [first, second] = [columns[a]!, columns[nextA]!];
      const [third, fourth] = [columns[b]!, columns[nextB]!];
      const end = first.length;
      let p = 0;
      let q = 0;
      let r = 0;
      let s = 0;
      for (let n = 0; n < end; n++) {
        const x = first[n]!;
        const y = second[n]!;
        const u = third[n]!;
        const v = fourth[n]!;
        p += x * u;
        q += x * v;
        r += y * u;
        s += y * v;
      }
      put(a, b, p);
      put(a, nextB, q);
      put(nextA, b, r);
      put(nextA, nextB, s);
    }
  }
}
