import { jointRows } from '../../adapters/joint-rows.js';
import { workUp } from '../../adapters/work-up.js';
import type { Block } from '../blocks.js';
import type { ReportData } from '../report-data.js';
import { dayOf, minuteOf } from '../times.js';
import { photoBlocks } from './notes.js';

const VERDICTS = { proved: 'proved', failed: 'failed its proof', unfinished: 'not proved through' } as const;

/** The leads that go with the job: what joins what, and what proving each that was built gave. */
export function adapters(data: ReportData): Block[] {
  const { adapters: given = [] } = data;
  if (given.length === 0) return [{ type: 'text', text: 'No lead goes with this job.' }];
  return given.flatMap((one, n): Block[] => {
    const worked = workUp(one.design);
    const wrong = worked.findings.filter(({ severity }) => severity === 'wrong');
    return [
      ...(n > 0 ? [{ type: 'page' as const }] : []),
      { type: 'heading', text: one.design.name },
      {
        type: 'facts',
        facts: [
          { name: 'Version', value: `${one.version}, ${minuteOf(one.at)}, ${one.by}` },
          ...one.design.ends.map(({ id, name, connector }) => ({
            name: `End ${id}`,
            value: `${name}: ${connector}`,
          })),
          {
            name: 'Rules',
            value: wrong.length === 0 ? 'none says wrong' : wrong.map(({ words }) => words).join(' '),
          },
        ],
      },
      {
        type: 'table',
        columns: [
          { name: 'Net', share: 4 },
          { name: 'Contacts', share: 10 },
          { name: 'Wire', share: 2 },
          { name: 'Colour', share: 6 },
        ],
        rows: jointRows(one.design, worked).map(([net = '', contacts = '', wire = '', colour = '']) => [
          { text: net, strong: true },
          contacts,
          wire,
          colour,
        ]),
      },
      ...(one.builds.length === 0
        ? [
            {
              type: 'text' as const,
              tone: 'caution' as const,
              text: 'No built one is on record: nothing of it is proved.',
            },
          ]
        : [
            {
              type: 'table' as const,
              columns: [
                { name: 'Built', share: 5 },
                { name: 'By version', share: 3 },
                { name: 'Proof', share: 5 },
                { name: 'By', share: 6 },
                { name: 'Note', share: 8 },
              ],
              rows: one.builds.map(({ name, version, verdict, by, at, note }) => [
                { text: name, strong: true },
                version === one.version ? String(version) : `${version}, older than this one`,
                VERDICTS[verdict],
                `${by}, ${dayOf(at)}`,
                note,
              ]),
            },
          ]),
      ...photoBlocks(
        data,
        one.photos.map(({ words, end, photo }) => ({ photo, caption: end ? `End ${end}: ${words}` : words })),
      ),
    ];
  });
}
