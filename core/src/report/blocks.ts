/** What stands in a cell of a table: words, and what stands small below them. */
export type Cell = string | { text: string; note?: string; strong?: boolean };

/** A photo with its words; its bytes are found by its digest. */
export interface PrintedPhoto {
  sha256: string;
  widthPx: number;
  heightPx: number;
  caption: string;
}

/** Bytes of photos, base64 of a JPEG, by their SHA-256. */
export type Photos = ReadonlyMap<string, string>;

/** A piece of a report; who prints it decides how it looks, not what it says. */
export type Block =
  | { type: 'text'; text: string; tone?: 'quiet' | 'strong' | 'caution' }
  | { type: 'heading'; text: string }
  | { type: 'facts'; facts: readonly { name: string; value: string }[] }
  | { type: 'list'; items: readonly string[] }
  | {
      type: 'table';
      /** `share` is how much of the width a column takes beside the others. */
      columns: readonly { name: string; share: number; figures?: boolean }[];
      rows: readonly (readonly Cell[])[];
    }
  /** A drawing to scale: an SVG whose viewBox counts millimetres. */
  | { type: 'picture'; svg: string; widthMm: number; heightMm: number; title: string }
  | { type: 'photos'; photos: readonly PrintedPhoto[] }
  /** What follows stays together with this, and begins a page where one is printed. */
  | { type: 'page' };

export interface Section {
  id: string;
  title: string;
  blocks: readonly Block[];
}

export interface Report {
  title: string;
  subtitle: string;
  /** When and by whom it was made: stands at the foot of every page. */
  made: string;
  paper: 'A4' | 'LETTER';
  sections: readonly Section[];
}
