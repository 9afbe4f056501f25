/** What every drawing of a report is drawn with: ink on paper, whatever the theme of a screen. */
export const PAPER = {
  ink: '#1b2225',
  second: '#56626a',
  rule: '#d9d8d0',
  accent: '#0a6b6d',
  soft: '#dcebe9',
  wrong: '#a8321f',
  sheet: '#ffffff',
} as const;

export const escapeXml = (text: string): string =>
  text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** A figure as SVG writes it: to a thousandth, without a trail of noughts. */
export const n = (value: number): string => String(Number(value.toFixed(3)));

type Attributes = Readonly<Record<string, string | number | undefined>>;

export function element(name: string, attributes: Attributes, inner = ''): string {
  const given = Object.entries(attributes)
    .filter(([, value]) => value !== undefined)
    .map(([key, value]) => ` ${key}="${typeof value === 'number' ? n(value) : escapeXml(String(value))}"`)
    .join('');
  return inner === '' ? `<${name}${given}/>` : `<${name}${given}>${inner}</${name}>`;
}

export const words = (text: string, attributes: Attributes): string =>
  element('text', { fill: PAPER.ink, 'font-size': 2.6, ...attributes }, escapeXml(text));

export const line = (x1: number, y1: number, x2: number, y2: number, more: Attributes = {}): string =>
  element('line', { x1, y1, x2, y2, stroke: PAPER.ink, 'stroke-width': 0.25, ...more });

/** A drawing whose units are millimetres. */
export const drawing = (widthMm: number, heightMm: number, title: string, inner: string): string =>
  element(
    'svg',
    {
      xmlns: 'http://www.w3.org/2000/svg',
      width: `${n(widthMm)}mm`,
      height: `${n(heightMm)}mm`,
      viewBox: `0 0 ${n(widthMm)} ${n(heightMm)}`,
      role: 'img',
      'aria-label': title,
    },
    inner,
  );

/** Words that fit a width: cut with a mark where they would not. `emOfSize` is what a letter takes of the type's size. */
export function fitted(text: string, widthMm: number, sizeMm: number, emOfSize = 0.56): string {
  const most = Math.max(1, Math.floor(widthMm / (sizeMm * emOfSize)));
  return text.length <= most ? text : `${text.slice(0, Math.max(1, most - 1))}…`;
}
