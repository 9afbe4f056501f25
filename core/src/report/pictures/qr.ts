import qrcode from 'qrcode-generator';
import { drawing, element, PAPER } from '../../drawing/svg.js';

/** Modules of a QR symbol for a text (ISO/IEC 18004, correction level M), row by row; true is dark. */
export function qrModules(text: string): boolean[][] {
  const symbol = qrcode(0, 'M');
  symbol.addData(text, 'Byte');
  symbol.make();
  const count = symbol.getModuleCount();
  return Array.from({ length: count }, (_, row) =>
    Array.from({ length: count }, (__, column) => symbol.isDark(row, column)),
  );
}

/** Light modules that a reader wants on every side. */
export const QUIET_ZONE = 4;

/** The dark modules of a QR symbol as one path in a square of a size, its quiet zone included. */
export function qrPath(text: string, x: number, y: number, sizeMm: number): string {
  const modules = qrModules(text);
  const step = sizeMm / (modules.length + 2 * QUIET_ZONE);
  const at = (k: number): string => ((k + QUIET_ZONE) * step).toFixed(4);
  return modules
    .flatMap((row, r) =>
      row.flatMap((dark, c) => {
        // Dark modules side by side are one bar, so that no hairline shows between them.
        if (!dark || row[c - 1]) return [];
        let to = c;
        while (row[to]) to++;
        return [
          `M${(x + Number(at(c))).toFixed(4)} ${(y + Number(at(r))).toFixed(4)}h${((to - c) * step).toFixed(4)}v${step.toFixed(4)}h${(-(to - c) * step).toFixed(4)}z`,
        ];
      }),
    )
    .join('');
}

/** A QR symbol as a drawing. */
export function qrPicture(text: string, sizeMm: number): { svg: string; widthMm: number; heightMm: number } {
  return {
    svg: drawing(
      sizeMm,
      sizeMm,
      `QR: ${text}`,
      element('path', { d: qrPath(text, 0, 0, sizeMm), fill: PAPER.ink }),
    ),
    widthMm: sizeMm,
    heightMm: sizeMm,
  };
}
