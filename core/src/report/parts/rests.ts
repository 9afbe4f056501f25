import {
  blindnessInWords,
  type FaultKind,
  INSTRUMENTS,
  type InstrumentClass,
} from '../../continuity/instruments.js';
import { blindTo, heldAs } from '../../continuity/blindness.js';
import { expectLink } from '../../continuity/expectation.js';
import { exceptionWords } from '../../continuity/verdict-words.js';
import { notCorrected } from '../../links/standing.js';
import type { Block, Cell } from '../blocks.js';
import type { ReportData } from '../report-data.js';
import { dayOf } from '../times.js';

/** What was tested with, how often, and what such a reading alone cannot see, worked out on a link it was used on. */
export function instruments(data: ReportData): Block[] {
  const used = new Map<
    InstrumentClass,
    { names: Set<string>; readings: number; keyed: number; simulated: number; blind: string }
  >();
  for (const detail of data.links)
    for (const test of notCorrected(detail.tests)) {
      const { instrument } = test.reading;
      const known = used.get(instrument) ?? {
        names: new Set<string>(),
        readings: 0,
        keyed: 0,
        simulated: 0,
        blind: blindnessInWords(blindOf(data, detail, test.reading)),
      };
      known.names.add(test.instrumentName);
      known.readings++;
      if (test.source === 'keyed') known.keyed++;
      if (test.simulated) known.simulated++;
      used.set(instrument, known);
    }
  if (used.size === 0) return [{ type: 'text', text: 'Nothing has been tested yet.' }];
  return [
    {
      type: 'table',
      columns: [
        { name: 'Kind', share: 5 },
        { name: 'Called', share: 5 },
        { name: 'Readings', share: 4, figures: true },
        { name: 'Proves at most', share: 3 },
        { name: 'Such a reading alone cannot see', share: 10 },
      ],
      rows: [...used.entries()].map(([id, { names, readings, keyed, simulated, blind }]): Cell[] => [
        { text: INSTRUMENTS[id].name, strong: true },
        [...names].join(', '),
        {
          text: String(readings),
          note: [keyed > 0 && `${keyed} keyed in`, simulated > 0 && `${simulated} simulated`]
            .filter(Boolean)
            .join(', '),
        },
        INSTRUMENTS[id].proves,
        blind || 'nothing on our list',
      ]),
    },
  ];
}

function blindOf(
  { cables, connectors }: ReportData,
  { link, scheme }: ReportData['links'][number],
  reading: ReportData['links'][number]['tests'][number]['reading'],
): readonly FaultKind[] {
  const cable = cables.find(({ id }) => id === link.cableTypeId);
  const near = connectors.find(({ id }) => id === link.near.connectorId);
  const far = connectors.find(({ id }) => id === link.far.connectorId);
  if (!cable || !near || !far) return [];
  return blindTo(expectLink({ cable, lengthM: link.lengthM, scheme, near, far }), [heldAs(reading)]);
}

/** Passes in spite of a reading, ends with a stopgap, links that were taken back. */
export function exceptions(data: ReportData): Block[] {
  const rows = data.links.flatMap(({ link, diagnosis, terminations, reopenings }): Cell[][] => [
    ...(diagnosis?.exception
      ? [[{ text: link.label, strong: true }, 'pass by exception', exceptionWords(diagnosis.exception)]]
      : []),
    ...notCorrected(terminations)
      .filter(({ stopgap }) => stopgap !== '')
      .map(({ side, stopgap, by, at }) => [
        { text: link.label, strong: true },
        `stopgap, ${side} end`,
        { text: stopgap, note: `${by}, ${dayOf(at)}. To be redone.` },
      ]),
    ...reopenings.map(({ reason, by, at }) => [
      { text: link.label, strong: true },
      'reopened after handover',
      { text: reason, note: `${by}, ${dayOf(at)}` },
    ]),
  ]);
  if (rows.length === 0)
    return [{ type: 'text', text: 'None: no pass in spite of a reading, no stopgap, nothing taken back.' }];
  return [
    {
      type: 'table',
      columns: [
        { name: 'Link', share: 3 },
        { name: 'What', share: 5 },
        { name: 'Reason', share: 14 },
      ],
      rows,
    },
  ];
}
