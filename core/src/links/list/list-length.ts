import { cableLengthToM, type UnitSystem } from '../../quantities/length.js';
import { typedNumber } from '../../quantities/typed-number.js';

const M_PER_FT = 0.3048;
const FEET =
  /^(\d+(?:[.,]\d+)?)\s*(?:ft|feet|foot|['′’])\s*(?:(\d+(?:[.,]\d+)?)\s*(?:in|inch|inches|["″”])?)?$/i;
const METRES = /^(\d+(?:[.,]\d+)?)\s*(?:m|metres?|meters?)$/i;

/**
 * A length as it stands in a list: `31.4`, `31,4 m`, `103 ft`, `92' 6"`; a bare figure is in the unit given.
 *
 * @returns metres, or null where it is no length
 */
export function listLengthM(text: string, bare: UnitSystem): number | null {
  const written = text.trim();
  const [, feet, inches] = FEET.exec(written) ?? [];
  if (feet !== undefined)
    return (typedNumber(feet) + (inches === undefined ? 0 : typedNumber(inches)) / 12) * M_PER_FT;
  const [, metres] = METRES.exec(written) ?? [];
  if (metres !== undefined) return typedNumber(metres);
  const figure = typedNumber(written);
  return Number.isFinite(figure) ? cableLengthToM(figure, bare) : null;
}
