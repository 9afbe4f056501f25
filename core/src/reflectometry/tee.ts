/** The factor of a way there and back, exp(rate), of a soft end with what it reflects: -off / (2 + off). */
export function wayBack(
  rateRe: number,
  rateIm: number,
  off: readonly [number, number] | null,
  out: Float64Array,
): void {
  const fade = Math.exp(rateRe);
  const re = fade * Math.cos(rateIm);
  const im = fade * Math.sin(rateIm);
  out[0] = re;
  out[1] = im;
  if (!off) return;
  const [x, y] = off;
  const d2 = (2 + x) ** 2 + y * y;
  const rRe = -(x * (2 + x) + y * y) / d2;
  const rIm = (-2 * y) / d2;
  out[0] = re * rRe - im * rIm;
  out[1] = re * rIm + im * rRe;
}

/**
 * What is seen at the tee of a line of impedance z behind a source of resistance r (both by the
 * line's nominal impedance), whose echoes come back as a factor A on the wave sent out, by what a
 * line without loss would show of the wave:
 * G = W (1 + p A / (1 - q A)), W = z (1 + r) / (r + z), q = (r - z) / (r + z), p = 1 + q.
 * Writes G, dG/dA, dG/dz and dG/dr to `out`.
 */
export function seenAt(
  r: number,
  zRe: number,
  zIm: number,
  aRe: number,
  aIm: number,
  out: Float64Array,
): void {
  // k = 1 / (r + z)
  const nRe = r + zRe;
  const n2 = nRe * nRe + zIm * zIm;
  const kRe = nRe / n2;
  const kIm = -zIm / n2;
  const pRe = 2 * r * kRe;
  const pIm = 2 * r * kIm;
  const qRe = pRe - 1;
  const wRe = (1 + r) * (zRe * kRe - zIm * kIm);
  const wIm = (1 + r) * (zRe * kIm + zIm * kRe);
  // d = 1 / (1 - q A), B = A d, S = 1 + p B
  const mRe = 1 - (qRe * aRe - pIm * aIm);
  const mIm = -(qRe * aIm + pIm * aRe);
  const m2 = mRe * mRe + mIm * mIm;
  const dRe = mRe / m2;
  const dIm = -mIm / m2;
  const bRe = aRe * dRe - aIm * dIm;
  const bIm = aRe * dIm + aIm * dRe;
  const sRe = 1 + pRe * bRe - pIm * bIm;
  const sIm = pRe * bIm + pIm * bRe;
  out[0] = wRe * sRe - wIm * sIm;
  out[1] = wRe * sIm + wIm * sRe;
  // dG/dA = W p d^2
  const d2Re = dRe * dRe - dIm * dIm;
  const d2Im = 2 * dRe * dIm;
  const wpRe = wRe * pRe - wIm * pIm;
  const wpIm = wRe * pIm + wIm * pRe;
  out[2] = wpRe * d2Re - wpIm * d2Im;
  out[3] = wpRe * d2Im + wpIm * d2Re;
  // dS/dq = B + p B^2 = B S
  const bsRe = bRe * sRe - bIm * sIm;
  const bsIm = bRe * sIm + bIm * sRe;
  const wbRe = wRe * bsRe - wIm * bsIm;
  const wbIm = wRe * bsIm + wIm * bsRe;
  const k2Re = kRe * kRe - kIm * kIm;
  const k2Im = 2 * kRe * kIm;
  // dW/dz = r (1 + r) k^2, dq/dz = -2 r k^2
  const xRe = r * ((1 + r) * sRe - 2 * wbRe);
  const xIm = r * ((1 + r) * sIm - 2 * wbIm);
  out[4] = k2Re * xRe - k2Im * xIm;
  out[5] = k2Re * xIm + k2Im * xRe;
  // dW/dr = z (z - 1) k^2, dq/dr = 2 z k^2
  const yRe = (zRe - 1) * sRe - zIm * sIm + 2 * wbRe;
  const yIm = (zRe - 1) * sIm + zIm * sRe + 2 * wbIm;
  const zkRe = zRe * k2Re - zIm * k2Im;
  const zkIm = zRe * k2Im + zIm * k2Re;
  out[6] = zkRe * yRe - zkIm * yIm;
  out[7] = zkRe * yIm + zkIm * yRe;
}
