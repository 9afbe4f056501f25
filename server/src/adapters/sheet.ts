import {
  buildPlan,
  buildProof,
  gangWords,
  probesPlan,
  runWords,
  jointRows,
  wireName,
  type AdapterDesign,
  type ProofTouch,
  type WorkedUpAdapter,
  stagesDrawn,
  stageSvg,
  type Hands,
} from '@near-spoke/core';
import { printPdf } from '../print/printer.js';
import { faceSvg, layoutOf, leadSvg } from './drawing.js';

const INK = '#1b2225';
const SECOND = '#56626a';
const WRONG = '#a8321f';
/** PDF points in a millimetre. */
const PT = 72 / 25.4;
const PAGE_WIDTH = 595 - 2 * 36;

/** What stands on a build sheet beside the design. */
export interface SheetHead {
  version: number;
  made: string;
  photos: readonly { words: string; jpeg: string }[];
  /** By which the touches of its proof are put into order. */
  hands: Hands;
}

const heading = (text: string): unknown => ({ text, bold: true, fontSize: 12, margin: [0, 12, 0, 3] });
const head = (...names: string[]): unknown[] => names.map((text) => ({ text, bold: true, color: SECOND }));
const lines = {
  hLineWidth: (): number => 0.5,
  vLineWidth: (): number => 0,
  hLineColor: (): string => '#d9d8d0',
  paddingTop: (): number => 2,
  paddingBottom: (): number => 2,
};

const touchWords = ({ one, other, should, sweep }: ProofTouch): string =>
  `${gangWords(one).join(' and ')}  ${sweep ? 'swept over' : 'to'}  ${runWords(other).join(', ')}: must ${should}`;

/** Both faces of each connector, millimetres as `scale` millimetres on the paper. */
function faces(design: AdapterDesign, scale: number): unknown[] {
  return design.ends.flatMap((end): unknown[] => {
    const layout = layoutOf(end);
    if (!layout) return [{ text: `${end.id} ${end.name}: ${end.connector}, not drawn.`, color: SECOND }];
    const drawn = (['rear', 'mating'] as const).map((face) =>
      faceSvg(layout, { face, latch: 'down' }, PT * scale),
    );
    const widest = Math.max(...drawn.map(({ width }) => width));
    const fits = widest <= PAGE_WIDTH / 2 - 8;
    const box = (n: 0 | 1, words: string): unknown => ({
      width: fits ? PAGE_WIDTH / 2 - 8 : '*',
      stack: [
        { text: words, color: SECOND, fontSize: 7.5 },
        { svg: drawn[n]?.svg, width: drawn[n]?.width, margin: [0, 2, 0, 4] },
      ],
      unbreakable: true,
    });
    const title = {
      text: `${end.id} ${end.name}: ${end.connector}${layout.cue ? `, ${layout.cue}` : ''}`,
      bold: true,
      margin: [0, 6, 0, 1],
    };
    const sides = [
      box(0, 'Wiring side: what you solder or press'),
      box(1, 'Mating face: what the device meets'),
    ];
    const note = [
      ...(layout.confirm
        ? [
            {
              text: 'Numbered in more than one way: read the figures moulded beside the contacts.',
              color: WRONG,
            },
          ]
        : []),
      ...(end.note ? [{ text: end.note, color: SECOND }] : []),
    ];
    return [{ stack: [title, fits ? { columns: sides } : { stack: sides }, ...note], unbreakable: fits }];
  });
}

function findingLines({ findings }: WorkedUpAdapter): unknown[] {
  const told = findings.filter(({ severity }) => severity !== 'note');
  return told.length === 0
    ? [{ text: 'No rule says wrong or unsure.' }]
    : [
        {
          ul: told.map(({ severity, words, remedy }) => ({
            text: `${severity === 'wrong' ? 'WRONG' : 'Unsure'}: ${words} ${remedy}`,
            color: severity === 'wrong' ? WRONG : INK,
          })),
        },
      ];
}

const boxes = (words: readonly string[]): unknown => ({
  layout: lines,
  table: {
    widths: [14, '*'],
    body: words.map((text) => [{ canvas: [{ type: 'rect', x: 0, y: 1, w: 8, h: 8, lineWidth: 0.7 }] }, text]),
    dontBreakRows: true,
  },
});

/** The build sheet of an adapter: what to lay out, join and prove, with both faces of each connector at scale. */
export function sheetPdf(
  design: AdapterDesign,
  worked: WorkedUpAdapter,
  scale: number,
  { version, made, photos, hands }: SheetHead,
): Promise<Buffer> {
  const proof = buildProof(design, worked);
  const touches = probesPlan(worked.nets, design.ends, hands);
  const lead = leadSvg(design, worked);
  const steps = buildPlan(design, worked).map(({ end, contact, words, colour, farColour }) => {
    const where = end === null || contact === null ? '' : `${end}: `;
    const other = farColour && farColour !== colour ? ` (${wireName(farColour)} in the other half)` : '';
    return `${where}${words}${colour ? `, ${wireName(colour)}${other}` : ''}`;
  });
  const list = (title: string, words: readonly string[]): unknown[] =>
    words.length > 0 ? [heading(title), boxes(words)] : [];
  return printPdf({
    pageSize: 'A4',
    pageMargins: [36, 40, 36, 44],
    // The faces are measures: their numbers stay readable for whoever checks them.
    compress: false,
    info: { title: `Build sheet, ${design.name}` },
    defaultStyle: { font: 'Atkinson', fontSize: 8.6, color: INK },
    footer: (page: number, pages: number): unknown => ({
      margin: [36, 12],
      columns: [
        `${design.name}, version ${version}. ${made} Local code and licensed practice come first.`,
        { text: `${page} of ${pages}`, alignment: 'right', width: 50 },
      ],
      color: SECOND,
      fontSize: 7.5,
    }),
    content: [
      { text: design.name, bold: true, fontSize: 18 },
      {
        text: `${design.ends.map(({ id, name, connector }) => `${id} ${name} (${connector})`).join('; ')}. ${design.lengthM} m.`,
        color: SECOND,
        margin: [0, 2, 0, 8],
      },
      { svg: lead.svg, width: Math.min(PAGE_WIDTH, (lead.width * 600) / Math.max(600, lead.height)) },
      heading('Joining table'),
      {
        layout: lines,
        table: {
          headerRows: 1,
          widths: [60, '*', 34, 90, 110],
          dontBreakRows: true,
          body: [head('Net', 'Contacts', 'Wire', 'Colour', 'Because'), ...jointRows(design, worked)],
        },
      },
      ...(worked.noWires ? [{ text: worked.noWires, color: WRONG }] : []),
      heading('Rules'),
      ...findingLines(worked),
      ...stagesDrawn(design).flatMap(({ drawing }) => [
        heading('Level stage'),
        { svg: stageSvg(drawing, INK), width: Math.min(drawing.width * 0.8, 440) },
      ]),
      heading(`Faces, ${scale} : 1`),
      ...faces(design, scale),
      ...list('Build, threaded parts first', steps),
      ...list(
        `Prove, nothing plugged in, with two probes: about ${Math.ceil(touches.seconds / 60)} min`,
        touches.touches.map(touchWords),
      ),
      ...list('Then the parts', proof.parts),
      ...list('Then voltage and polarity, before the device is connected', proof.supplies),
      ...list('Then what it has to do', proof.functions),
      ...photos.flatMap(({ words, jpeg }) => [
        { image: `data:image/jpeg;base64,${jpeg}`, fit: [PAGE_WIDTH / 2, 260], margin: [0, 10, 0, 2] },
        { text: words, color: SECOND },
      ]),
    ],
  });
}
