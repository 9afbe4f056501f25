import { formatStripLength, type UnitSystem } from '../quantities/length.js';
import type { LabelFlaw } from './label-scene.js';
import type { CableRange } from './stock.js';

/** What did not come out on a label, and what to do. */
export function labelFlawWords(flaw: LabelFlaw): string {
  switch (flaw.code) {
    case 'too-long':
      return `“${flaw.row}” has ${[...flaw.row].length} characters, a row of this label holds ${flaw.holds}: shorten it, or take a wider label.`;
    case 'too-many-lines':
      return `${flaw.lines} lines are wanted, this label holds ${flaw.holds}: leave words or lines out, or take a higher label.`;
    case 'qr-too-fine':
      return `A QR that can be read needs ${flaw.needsMm.toFixed(1)} mm of height here: left out.`;
  }
}

/** Which cables a label goes round. */
export const rangeWords = ({ leastMm, mostMm }: CableRange, units: UnitSystem): string =>
  leastMm > 0
    ? `for cables of ${formatStripLength(leastMm, units)} to ${formatStripLength(mostMm, units)}`
    : `for cables up to ${formatStripLength(mostMm, units)}`;
