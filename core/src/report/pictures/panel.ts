import type { LinkStage } from '../../links/stage.js';
import { drawing, element, fitted, PAPER, words } from '../../drawing/svg.js';
import { stageSign } from './stage-sign.js';

/** A port of a panel and the link on it. */
export interface PanelPort {
  port: string;
  label: string;
  to: string;
  stage: LinkStage;
}

const IN_A_ROW = 12;
const MARGIN = 1;
const HEIGHT_MM = 19;

/** A panel as it is looked at, port by port in their order, with what hangs on each. */
export function panelPicture(
  name: string,
  ports: readonly PanelPort[],
  widthMm: number,
): { svg: string; widthMm: number; heightMm: number } {
  const rows = Math.ceil(ports.length / IN_A_ROW);
  const heightMm = rows * HEIGHT_MM + 2 * MARGIN;
  const cell = (widthMm - 2 * MARGIN) / IN_A_ROW;
  const inner = ports
    .map(({ port, label, to, stage }, at) => {
      const x = MARGIN + (at % IN_A_ROW) * cell;
      const y = MARGIN + Math.floor(at / IN_A_ROW) * HEIGHT_MM;
      return [
        element('rect', {
          x: x + 0.4,
          y: y + 0.4,
          width: cell - 0.8,
          height: HEIGHT_MM - 1.4,
          fill: PAPER.sheet,
          stroke: PAPER.rule,
          'stroke-width': 0.3,
        }),
        words(port, { x: x + 1.6, y: y + 4, 'font-size': 2.6, fill: PAPER.second }),
        stageSign(stage, x + cell - 3.4, y + 3.2, 1.5),
        words(fitted(label, cell - 2.4, 3, 0.6), {
          x: x + 1.6,
          y: y + 8.6,
          'font-size': 3,
          'font-weight': 'bold',
        }),
        ...inLines(to, cell - 2.6, 2.1, 3).map((text, line) =>
          words(text, { x: x + 1.6, y: y + 11.8 + line * 2.5, 'font-size': 2.1, fill: PAPER.second }),
        ),
      ].join('');
    })
    .join('');
  return { svg: drawing(widthMm, heightMm, `Panel ${name}`, inner), widthMm, heightMm };
}

/** Words broken into lines of a width; what does not fit the last is cut with a mark. */
export function inLines(text: string, widthMm: number, sizeMm: number, most: number): string[] {
  const lines: string[] = [];
  const holds = Math.max(1, Math.floor(widthMm / (sizeMm * 0.54)));
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const last = lines.at(-1);
    if (last !== undefined && `${last} ${word}`.length <= holds) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  if (lines.length <= most) return lines.map((each) => fitted(each, widthMm, sizeMm, 0.54));
  return lines
    .slice(0, most)
    .map((each, at) => fitted(at === most - 1 ? `${each} …` : each, widthMm, sizeMm, 0.54));
}
