import type { Ground } from '../ground.js';
import type { Spectrum } from '../spectrum.js';
import type { Chain } from './chain.js';
import {
  beginAt,
  fadeOf,
  stepOver,
  wayThrough,
  type ChainModel,
  type Step,
  type Wire,
} from './chain-model.js';

/** A figure of the fit that a step's length or value moves with, and by how much. */
interface Moves {
  figure: number;
  by: number;
}

/** Figures before the chain's: source, input, flat, skin. */
const BEFORE = 4;

/** Which figures of the fit each step's length and value move with. */
function movesOf({ lead, parts, end }: Chain, way: readonly Step[]): { length: Moves[]; value: Moves[] }[] {
  let next = BEFORE + (lead ? 2 : 0);
  const at = parts.map((part) => {
    const here = next;
    next += part.kind === 'section' ? 3 : 2;
    return here;
  });
  const endAt = next;
  /** What a place along the line moves with: the end, the near edge of a part, or its far one. */
  const place = (n: number, far: boolean): Moves[] => {
    if (n >= parts.length) return end.kind === 'beyond' ? [] : [{ figure: endAt, by: 1 }];
    if (n < 0) return lead ? [{ figure: BEFORE, by: 1 }] : [];
    const part = parts[n];
    const own = at[n] as number;
    return far && part?.kind === 'section'
      ? [
          { figure: own, by: 1 },
          { figure: own + 2, by: part.length },
        ]
      : [{ figure: own, by: 1 }];
  };
  const lessThan = (moves: readonly Moves[]): Moves[] => moves.map(({ figure, by }) => ({ figure, by: -by }));
  return way.map(({ of, does }, n) => {
    if (of === 'lead') return { length: [{ figure: BEFORE, by: 1 }], value: [{ figure: BEFORE + 1, by: 1 }] };
    const part = parts[of.part];
    const own = at[of.part] ?? 0;
    if (of.between)
      return { length: [...place(of.part + 1, false), ...lessThan(place(of.part, true))], value: [] };
    if (part?.kind === 'section')
      return { length: [{ figure: own + 2, by: part.length }], value: [{ figure: own + 1, by: 1 }] };
    if (part?.kind === 'stub') return { length: [{ figure: own + 1, by: part.length }], value: [] };
    if (!part || does === 'line' || does === 'branch') throw new Error(`Step ${n} is of no part.`);
    return { length: [], value: [{ figure: own + 1, by: part.value }] };
  });
}

/**
 * What {@link seenOf} gives, and the slopes of a launch seen so by every figure of a fit, in their order: the logarithms
 * of source, input, flat and skin, then the chain's ({@link chainVector}). One way from the end to the tee and one back (the chain
 * rule from the tee on), instead of one way more for each figure.
 */
export function seenWithSlopes(
  ground: Pick<Ground, 'sigma' | 'omega'>,
  { source, input, flat, skin, chain }: Pick<ChainModel, 'source' | 'input' | 'flat' | 'skin' | 'chain'>,
  wire: Wire,
  launch: Spectrum,
): { seen: Spectrum; slopes: Spectrum[] } {
  const { sigma, omega } = ground;
  const bins = omega.length;
  const way = wayThrough(chain);
  const steps = way.length;
  const moves = movesOf(chain, way);
  const fades = way.map((step) => ('length' in step ? fadeOf(ground, wire, step.length) : null));
  const figures = moves.reduce(
    (most, { length, value }) => Math.max(most, ...[...length, ...value].map(({ figure }) => figure + 1)),
    BEFORE,
  );
  const room = (): Spectrum => ({ re: new Float64Array(bins), im: new Float64Array(bins) });
  const seen = room();
  const slopes = Array.from({ length: figures }, room);
  const [bySource, byInput, byFlat, bySkin] = slopes as [Spectrum, Spectrum, Spectrum, Spectrum];
  const wave = new Float64Array(4);
  /** The wave before each step: v and i, real and imaginary. */
  const states = new Float64Array(4 * steps);
  const add = (to: readonly Moves[], bin: number, re: number, im: number): void => {
    for (const { figure, by } of to) {
      const into = slopes[figure] as Spectrum;
      into.re[bin] = (into.re[bin] as number) + by * re;
      into.im[bin] = (into.im[bin] as number) + by * im;
    }
  };
  for (let bin = 0; bin < bins; bin++) {
    const w = omega[bin] as number;
    const qRe = wire.qRe[bin] as number;
    const qIm = wire.qIm[bin] as number;
    beginAt(wave, chain.end.kind, qRe, qIm);
    for (let n = 0; n < steps; n++) {
      states[4 * n] = wave[0] as number;
      states[4 * n + 1] = wave[1] as number;
      states[4 * n + 2] = wave[2] as number;
      states[4 * n + 3] = wave[3] as number;
      const fade = fades[n];
      stepOver(wave, way[n] as Step, fade?.re[bin] ?? 0, fade?.im[bin] ?? 0, qRe, qIm);
    }
    // H = v K / D, K = 1 + r + r c, D = v + r (i + v c), c = s times the input.
    const vRe = wave[0] as number;
    const vIm = wave[1] as number;
    const iRe = wave[2] as number;
    const iIm = wave[3] as number;
    const cRe = sigma * input;
    const cIm = w * input;
    const uRe = iRe + vRe * cRe - vIm * cIm;
    const uIm = iIm + vRe * cIm + vIm * cRe;
    const dRe = vRe + source * uRe;
    const dIm = vIm + source * uIm;
    const d2 = dRe * dRe + dIm * dIm;
    // g = 1 / D, h = v / D
    const gRe = dRe / d2;
    const gIm = -dIm / d2;
    const hRe = vRe * gRe - vIm * gIm;
    const hIm = vRe * gIm + vIm * gRe;
    const kRe = 1 + source + source * cRe;
    const kIm = source * cIm;
    const xRe = hRe * kRe - hIm * kIm;
    const xIm = hRe * kIm + hIm * kRe;
    seen.re[bin] = xRe;
    seen.im[bin] = xIm;
    // From here on by what the launch is in this bin: all slopes are in proportion to h, H and g.
    const lRe = launch.re[bin] as number;
    const lIm = launch.im[bin] as number;
    // d H / d r = h (1 + c) - H g u; by its logarithm r times that.
    const guRe = gRe * uRe - gIm * uIm;
    const guIm = gRe * uIm + gIm * uRe;
    const rRe = source * (hRe * (1 + cRe) - hIm * cIm - (xRe * guRe - xIm * guIm));
    const rIm = source * (hRe * cIm + hIm * (1 + cRe) - (xRe * guIm + xIm * guRe));
    bySource.re[bin] = rRe * lRe - rIm * lIm;
    bySource.im[bin] = rRe * lIm + rIm * lRe;
    // d H / d c = r h - r H h; c goes with the input.
    const lcRe = lRe * cRe - lIm * cIm;
    const lcIm = lRe * cIm + lIm * cRe;
    const mRe = source * (hRe - (xRe * hRe - xIm * hIm));
    const mIm = source * (hIm - (xRe * hIm + xIm * hRe));
    byInput.re[bin] = mRe * lcRe - mIm * lcIm;
    byInput.im[bin] = mRe * lcIm + mIm * lcRe;
    // What H moves by for a small v and i at the tee: g (K - H (1 + r c)) and - r g H.
    const tRe = kRe - (xRe * (1 + source * cRe) - xIm * source * cIm);
    const tIm = kIm - (xRe * source * cIm + xIm * (1 + source * cRe));
    const glRe = gRe * lRe - gIm * lIm;
    const glIm = gRe * lIm + gIm * lRe;
    let pRe = glRe * tRe - glIm * tIm;
    let pIm = glRe * tIm + glIm * tRe;
    let oRe = -source * (glRe * xRe - glIm * xIm);
    let oIm = -source * (glRe * xIm + glIm * xRe);
    // d H / d q, of all lengths and impedances together.
    let yRe = 0;
    let yIm = 0;
    for (let n = steps - 1; n >= 0; n--) {
      const step = way[n] as Step;
      const { length, value } = moves[n] as { length: Moves[]; value: Moves[] };
      const aRe = states[4 * n] as number;
      const aIm = states[4 * n + 1] as number;
      const bRe = states[4 * n + 2] as number;
      const bIm = states[4 * n + 3] as number;
      if (step.does === 'series') {
        // v' = v + x i
        add(value, bin, pRe * bRe - pIm * bIm, pRe * bIm + pIm * bRe);
        oRe += step.value * pRe;
        oIm += step.value * pIm;
        continue;
      }
      if (step.does === 'shunt') {
        add(value, bin, oRe * aRe - oIm * aIm, oRe * aIm + oIm * aRe);
        pRe += step.value * oRe;
        pIm += step.value * oIm;
        continue;
      }
      const fade = fades[n] as Spectrum;
      const eRe = fade.re[bin] as number;
      const eIm = fade.im[bin] as number;
      // d e / d length = - s q e, and d e / d q = - s length e.
      const sqRe = sigma * qRe - w * qIm;
      const sqIm = sigma * qIm + w * qRe;
      const byLengthRe = -(sqRe * eRe - sqIm * eIm);
      const byLengthIm = -(sqRe * eIm + sqIm * eRe);
      const byQRe = -step.length * (sigma * eRe - w * eIm);
      const byQIm = -step.length * (sigma * eIm + w * eRe);
      // By e, and by q of its impedance.
      let fRe: number;
      let fIm: number;
      if (step.does === 'branch') {
        // i' = i + v y, y = (1 - e) / ((1 + e) q); dy/de = -2 / ((1 + e)^2 q), dy/dq = - y / q
        const nRe = 1 + eRe;
        const nIm = eIm;
        const nqRe = nRe * qRe - nIm * qIm;
        const nqIm = nRe * qIm + nIm * qRe;
        const nq2 = nqRe * nqRe + nqIm * nqIm;
        const jRe = nqRe / nq2;
        const jIm = -nqIm / nq2;
        const admRe = (1 - eRe) * jRe + eIm * jIm;
        const admIm = (1 - eRe) * jIm - eIm * jRe;
        const n2 = nRe * nRe + nIm * nIm;
        // j / (1 + e)
        const jnRe = (jRe * nRe + jIm * nIm) / n2;
        const jnIm = (jIm * nRe - jRe * nIm) / n2;
        const ovRe = oRe * aRe - oIm * aIm;
        const ovIm = oRe * aIm + oIm * aRe;
        fRe = -2 * (ovRe * jnRe - ovIm * jnIm);
        fIm = -2 * (ovRe * jnIm + ovIm * jnRe);
        const q2 = qRe * qRe + qIm * qIm;
        const yqRe = (admRe * qRe + admIm * qIm) / q2;
        const yqIm = (admIm * qRe - admRe * qIm) / q2;
        yRe -= ovRe * yqRe - ovIm * yqIm;
        yIm -= ovRe * yqIm + ovIm * yqRe;
        pRe += oRe * admRe - oIm * admIm;
        pIm += oRe * admIm + oIm * admRe;
      } else {
        const zRe = step.by * qRe;
        const zIm = step.by * qIm;
        const z2 = zRe * zRe + zIm * zIm;
        // o / z and p z, i z and v / z
        const ozRe = (oRe * zRe + oIm * zIm) / z2;
        const ozIm = (oIm * zRe - oRe * zIm) / z2;
        const pzRe = pRe * zRe - pIm * zIm;
        const pzIm = pRe * zIm + pIm * zRe;
        const ziRe = zRe * bRe - zIm * bIm;
        const ziIm = zRe * bIm + zIm * bRe;
        // v' = ((1 + e) v + (1 - e) z i) / 2, i' = ((1 - e) v / z + (1 + e) i) / 2
        // by e: p (v - z i) / 2 - o (v - z i) / (2 z)
        const offRe = (aRe - ziRe) / 2;
        const offIm = (aIm - ziIm) / 2;
        const lessRe = pRe - ozRe;
        const lessIm = pIm - ozIm;
        fRe = lessRe * offRe - lessIm * offIm;
        fIm = lessRe * offIm + lessIm * offRe;
        // by the logarithm of z: (1 - e) / 2 (p z i - o v / z)
        const halfRe = (1 - eRe) / 2;
        const halfIm = -eIm / 2;
        const inRe = pRe * ziRe - pIm * ziIm - (ozRe * aRe - ozIm * aIm);
        const inIm = pRe * ziIm + pIm * ziRe - (ozRe * aIm + ozIm * aRe);
        const byLogRe = halfRe * inRe - halfIm * inIm;
        const byLogIm = halfRe * inIm + halfIm * inRe;
        if (value.length > 0) add(value, bin, byLogRe, byLogIm);
        const q2 = qRe * qRe + qIm * qIm;
        yRe += (byLogRe * qRe + byLogIm * qIm) / q2;
        yIm += (byLogIm * qRe - byLogRe * qIm) / q2;
        const alongRe = (1 + eRe) / 2;
        const alongIm = eIm / 2;
        const newPRe = alongRe * pRe - alongIm * pIm + halfRe * ozRe - halfIm * ozIm;
        const newPIm = alongRe * pIm + alongIm * pRe + halfRe * ozIm + halfIm * ozRe;
        const newORe = alongRe * oRe - alongIm * oIm + halfRe * pzRe - halfIm * pzIm;
        const newOIm = alongRe * oIm + alongIm * oRe + halfRe * pzIm + halfIm * pzRe;
        pRe = newPRe;
        pIm = newPIm;
        oRe = newORe;
        oIm = newOIm;
      }
      add(length, bin, fRe * byLengthRe - fIm * byLengthIm, fRe * byLengthIm + fIm * byLengthRe);
      yRe += fRe * byQRe - fIm * byQIm;
      yIm += fRe * byQIm + fIm * byQRe;
    }
    if (chain.end.kind === 'beyond') {
      yRe += pRe;
      yIm += pIm;
    }
    // q^2 = 1 + 2 flat / s + 2 skin / sqrt(s): d q by the logarithms is flat / (s q) and skin / (sqrt(s) q).
    const q2 = qRe * qRe + qIm * qIm;
    const nRe = (yRe * qRe + yIm * qIm) / q2;
    const nIm = (yIm * qRe - yRe * qIm) / q2;
    const s2 = sigma * sigma + w * w;
    byFlat.re[bin] = (flat * (nRe * sigma + nIm * w)) / s2;
    byFlat.im[bin] = (flat * (nIm * sigma - nRe * w)) / s2;
    const size = Math.sqrt(s2);
    const rootRe = Math.sqrt((size + sigma) / 2);
    const rootIm = Math.sqrt(Math.max(0, (size - sigma) / 2));
    bySkin.re[bin] = (skin * (nRe * rootRe + nIm * rootIm)) / size;
    bySkin.im[bin] = (skin * (nIm * rootRe - nRe * rootIm)) / size;
  }
  return { seen, slopes };
}
