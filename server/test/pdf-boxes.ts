import { inflateSync } from 'node:zlib';

/** A drawn outline's bounds on its page, in millimetres from the upper left corner. */
export interface Box {
  page: number;
  leftMm: number;
  topMm: number;
  widthMm: number;
  heightMm: number;
}

type Matrix = readonly [number, number, number, number, number, number];
const MM = 25.4 / 72;

const times = (m: Matrix, k: Matrix): Matrix => [
  m[0] * k[0] + m[1] * k[2],
  m[0] * k[1] + m[1] * k[3],
  m[2] * k[0] + m[3] * k[2],
  m[2] * k[1] + m[3] * k[3],
  m[4] * k[0] + m[5] * k[2] + k[4],
  m[4] * k[1] + m[5] * k[3] + k[5],
];

/** The content of each page, and how large it is, in the order in which they stand in the file. */
function pages(pdf: Buffer): { widthPt: number; heightPt: number; content: string }[] {
  const text = pdf.toString('latin1');
  const objects = new Map<string, { head: string; body: Buffer | null }>();
  for (const match of text.matchAll(/(\d+) 0 obj\n([\s\S]*?)\nendobj/g)) {
    const [, id = '', whole = ''] = match;
    const at = whole.indexOf('stream\n');
    const head = at < 0 ? whole : whole.slice(0, at);
    const length = Number(/\/Length (\d+)/.exec(head)?.[1] ?? 0);
    const from = (match.index ?? 0) + match[0].indexOf('stream\n') + 7;
    objects.set(id, { head, body: at < 0 ? null : pdf.subarray(from, from + length) });
  }
  return [...objects.values()]
    .filter(({ head }) => /\/Type \/Page\b/.test(head))
    .map(({ head }) => {
      const [, , width = '0', height = '0'] =
        /\/MediaBox \[([\d.]+) ([\d.]+) ([\d.]+) ([\d.]+)\]/.exec(head)?.slice(1) ?? [];
      const body = objects.get(/\/Contents (\d+) 0 R/.exec(head)?.[1] ?? '')?.body;
      const content = body ? inflateSync(body).toString('latin1') : '';
      return { widthPt: Number(width), heightPt: Number(height), content };
    });
}

/** Paper sizes of a PDF's pages. */
export const papersIn = (pdf: Buffer): { widthMm: number; heightMm: number }[] =>
  pages(pdf).map(({ widthPt, heightPt }) => ({ widthMm: widthPt * MM, heightMm: heightPt * MM }));

/** Bounds of every path that a PDF draws: its numbers followed through every change of scale and place (ISO 32000-1, 8.3). */
export function boxesIn(pdf: Buffer): Box[] {
  return pages(pdf).flatMap(({ content, heightPt }, page) => {
    const boxes: Box[] = [];
    const stack: Matrix[] = [];
    let at: Matrix = [1, 0, 0, 1, 0, 0];
    let points: [number, number][] = [];
    let numbers: number[] = [];
    const point = (x: number, y: number): [number, number] => [
      at[0] * x + at[2] * y + at[4],
      at[1] * x + at[3] * y + at[5],
    ];
    const close = (): void => {
      if (points.length > 1) {
        const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
        const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
        boxes.push({
          page,
          leftMm: left * MM,
          topMm: (heightPt - high) * MM,
          widthMm: (right - left) * MM,
          heightMm: (high - low) * MM,
        });
      }
      points = [];
    };
    for (const token of content.split(/\s+/)) {
      if (/^[-+]?\d*\.?\d+$/.test(token)) {
        numbers.push(Number(token));
        continue;
      }
      const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = numbers;
      if (token === 'q') stack.push(at);
      else if (token === 'Q') at = stack.pop() ?? at;
      else if (token === 'cm') at = times([a, b, c, d, e, f], at);
      else if (token === 're') points.push(point(a, b), point(a + c, b + d));
      else if (token === 'm' || token === 'l') points.push(point(a, b));
      else if (token === 'c') points.push(point(a, b), point(c, d), point(e, f));
      else if (['S', 's', 'f', 'f*', 'B', 'n'].includes(token)) close();
      numbers = [];
    }
    return boxes;
  });
}
