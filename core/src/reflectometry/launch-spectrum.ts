import type { Ground } from './ground.js';
import { SHAPE_ROOM, shapeAsVector, shapeSpectrum, type PulseShape } from './pulse-shape.js';
import type { Spectrum } from './spectrum.js';

/** A launch's spectrum as the record sees it, and its slopes by the launch's own figures, in their order. */
export interface LaunchSpectra {
  value: Spectrum;
  slopes: readonly Spectrum[];
}

/** A fit asks for the launch that it has just asked for: while echoes alone move, and where a step was taken. */
const last = new WeakMap<Ground, { figures: readonly number[]; spectra: LaunchSpectra }>();

/** The spectrum of a launch on a ground's contour, with what it has beyond its figures, through what the record passes. */
export function launchSpectra(ground: Ground, launch: PulseShape): LaunchSpectra {
  const figures = shapeAsVector(launch);
  const known = last.get(ground);
  if (known && figures.every((figure, n) => figure === known.figures[n])) return known.spectra;
  const spectra = spectraOf(ground, launch, figures.length);
  last.set(ground, { figures, spectra });
  return spectra;
}

function spectraOf(ground: Ground, launch: PulseShape, figures: number): LaunchSpectra {
  const { omega, sigma, passRe, passIm, extraRe, extraIm } = ground;
  const bins = omega.length;
  const all = Array.from({ length: 1 + figures }, (): Spectrum => ({
    re: new Float64Array(bins),
    im: new Float64Array(bins),
  }));
  const form = new Float64Array(SHAPE_ROOM);
  for (let bin = 0; bin < bins; bin++) {
    shapeSpectrum(launch, sigma, omega[bin]!, form);
    form[0]! += extraRe[bin]!;
    form[1]! += extraIm[bin]!;
    const pRe = passRe[bin]!;
    const pIm = passIm[bin]!;
    for (let n = 0; n <= figures; n++) {
      const re = form[2 * n]!;
      const im = form[2 * n + 1]!;
      const { re: intoRe, im: intoIm } = all[n]!;
      intoRe[bin] = re * pRe - im * pIm;
      intoIm[bin] = re * pIm + im * pRe;
    }
  }
  return { value: all[0]!, slopes: all.slice(1) };
}
