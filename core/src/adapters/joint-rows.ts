import { wireName } from './conductor-choice.js';
import { placeWords, type AdapterDesign } from './design.js';
import { colourOn, type WorkedUpAdapter } from './work-up.js';

/** The rows of a joining table: net, contacts, conductor and its colour in each half, why. */
export function jointRows(design: AdapterDesign, { rows }: WorkedUpAdapter): string[][] {
  return rows.map(({ net, wire, reasons }) => {
    const colours = net.pins.flatMap((placed) => {
      const colour = colourOn(design, rows, placed);
      return colour ? [`${placed.end} ${wireName(colour)}`] : [];
    });
    return [
      net.name,
      net.pins.map((pin) => `${placeWords(pin)} ${pin.pin.signal}`).join(' = '),
      wire ?? '',
      [...new Set(colours)].join(', '),
      reasons.join(', '),
    ];
  });
}
