import { parse } from 'papaparse';

/** A table that a person chose is no larger than this, packed. */
const MOST_BYTES = 5_000_000;
/** Nor its workbook, unpacked. */
const MOST_UNPACKED = 100_000_000;

/** The cells of a file, row by row as text, or why there are none. */
export type TableFile = { rows: string[][]; trouble: '' } | { rows: null; trouble: string };

const no = (trouble: string): TableFile => ({ rows: null, trouble });

/** Reads a table from a file: CSV with any separator, or the first sheet of a workbook (ISO/IEC 29500) that holds anything. */
export async function readTableFile(file: File): Promise<TableFile> {
  if (file.size > MOST_BYTES) return no(`${file.name} is larger than 5 MB: split it.`);
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (!isZip(bytes)) {
    const text = new TextDecoder().decode(bytes).replace(/^\uFEFF/, '');
    if (text.includes('\u0000')) return no(`${file.name} is no table: save it as CSV or XLSX.`);
    const { data } = parse<string[]>(text.trimEnd());
    return { rows: data.map((row) => row.map(String)), trouble: '' };
  }
  if (unpackedBytes(bytes) > MOST_UNPACKED)
    return no(`${file.name} would unpack to more than 100 MB: no table of links or readings is so large.`);
  try {
    const { default: readSheets } = await import('read-excel-file/browser');
    // Figures stay as they are written, so that 007 or 31.40 is not changed on the way.
    const sheets = await readSheets(file, { parseNumber: (text) => text });
    const sheet = sheets.find(({ data }) => data.some((row) => row.some((cell) => cell !== null)));
    if (!sheet) return no(`${file.name} holds no sheet with anything in it.`);
    return { rows: sheet.data.map((row) => row.map(cellText)), trouble: '' };
  } catch {
    return no(
      `${file.name} is no workbook that can be read: it is damaged or locked. Save it again as XLSX or CSV.`,
    );
  }
}

function cellText(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  if (cell instanceof Date) return cell.toISOString().replace('T00:00:00.000Z', '');
  return String(cell as string | number | boolean);
}

const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** What the entries of a zip say they unpack to (PKWARE APPNOTE 6.3, central directory); nothing is unpacked for it. */
function unpackedBytes(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let sum = 0;
  for (let at = 0; at + 46 <= bytes.length; at++)
    if (view.getUint32(at, true) === 0x02014b50) sum += view.getUint32(at + 24, true);
  return sum;
}
