import type { Diagnosis } from '../../continuity/diagnose.js';
import { expectLink, type LinkExpectation } from '../../continuity/expectation.js';
import { isMapReading } from '../../continuity/readings.js';
import { percent } from '../../continuity/verdict-words.js';
import { notCorrected } from '../../links/standing.js';
import { cableLengthFromM, cableLengthUnit, formatCableLength } from '../../quantities/length.js';
import { EVENT_WORDS } from '../../reflectometry/event-words.js';
import type { Block } from '../blocks.js';
import { stageName } from '../link-row.js';
import { linkStory } from '../link-story.js';
import { namesOf, type Names } from '../names.js';
import { tracePicture } from '../pictures/trace.js';
import { wireMapPicture } from '../pictures/wire-map.js';
import type { ReportData, ReportLink, ReportTrace } from '../report-data.js';
import { minuteOf } from '../times.js';

/** Links that failed a test at some time. */
export const failedOnce = ({ tests }: ReportLink): boolean =>
  tests.some(({ diagnosis }) => diagnosis.result === 'fail');

/** A page per link that failed or was mended: what was read, what it was taken for, what was done, what came of it. */
export function stories(data: ReportData): Block[] {
  const told = data.links.filter(failedOnce);
  if (told.length === 0) return [{ type: 'text', text: 'No link failed a test.' }];
  const names = namesOf(data);
  return told.flatMap((detail, at) => [
    ...(at === 0 ? [] : [{ type: 'page' as const }]),
    ...story(detail, names, expectationOf(data, detail)),
  ]);
}

function expectationOf(
  { cables, connectors }: ReportData,
  { link, scheme }: ReportLink,
): LinkExpectation | null {
  const cable = cables.find(({ id }) => id === link.cableTypeId);
  const near = connectors.find(({ id }) => id === link.near.connectorId);
  const far = connectors.find(({ id }) => id === link.far.connectorId);
  if (!cable || !near || !far) return null;
  return expectLink({ cable, lengthM: link.lengthM, scheme, near, far, label: link.label });
}

function story(detail: ReportLink, names: Names, expected: LinkExpectation | null): Block[] {
  const { link, units, tests } = detail;
  const first = tests.find(({ diagnosis }) => diagnosis.result === 'fail');
  const last = notCorrected(tests).at(-1);
  const map = tests.find(({ reading, diagnosis }) => diagnosis.result === 'fail' && isMapReading(reading));
  const isOpen = detail.diagnosis?.result === 'fail';
  const mapReading = map && isMapReading(map.reading) ? map.reading : null;
  return [
    { type: 'heading', text: link.label },
    {
      type: 'facts',
      facts: [
        {
          name: 'From',
          value: `${link.near.hub} ${link.near.panel} port ${link.near.port}, ${names.connector(link.near.connectorId)}`,
        },
        {
          name: 'To',
          value: `${link.far.room}, ${link.far.outlet}, ${names.connector(link.far.connectorId)}`,
        },
        {
          name: 'Cable',
          value: `${names.cable(link.cableTypeId)}, ${formatCableLength(link.lengthM, units)}`,
        },
        { name: 'Found', value: first?.diagnosis.headline ?? '' },
        { name: 'Now', value: `${stageName(link.stage)}: ${link.standing}` },
      ],
    },
    ...(mapReading && expected && Object.keys(mapReading.arrivals).length <= 26
      ? [
          {
            type: 'picture' as const,
            title: `${link.label}, wire map as it was read`,
            ...wireMapPicture(expected, mapReading),
          },
        ]
      : []),
    ...(mapReading?.splits?.length
      ? [{ type: 'text' as const, text: `Split pairs, as they were read: ${mapReading.splits.join(', ')}.` }]
      : []),
    ...(first ? believed('What it could be, when it was found', first.diagnosis.explanations) : []),
    ...(isOpen && detail.diagnosis && tests.at(-1) !== first
      ? believed('What it can be, by all that was read since', detail.diagnosis.explanations)
      : []),
    ...(detail.traces ?? []).flatMap((trace) => traced(trace, detail)),
    { type: 'text', tone: 'strong', text: 'What was done and read' },
    {
      type: 'table',
      columns: [
        { name: 'When', share: 4 },
        { name: 'Who', share: 3 },
        { name: 'What', share: 11 },
      ],
      rows: linkStory(detail, names).map(({ at, by, what, note }) => [
        minuteOf(at),
        by,
        { text: what, note },
      ]),
    },
    ...(last && last.diagnosis.result !== 'fail' && last !== first
      ? [{ type: 'text' as const, text: `At the end: ${last.diagnosis.headline}. ${last.diagnosis.detail}` }]
      : [{ type: 'text' as const, tone: 'caution' as const, text: 'No reading since has shown it mended.' }]),
  ];
}

/** A trace with its fit, and what each of its events is and how sure that is. */
function traced(trace: ReportTrace, { link, units }: ReportLink): Block[] {
  const title = `Trace of ${trace.pair ? `pair ${trace.pair}` : 'the cable'} from the ${trace.end} end, ${trace.name}, ${minuteOf(trace.at)}`;
  const taken = `Read with a velocity factor of ${trace.velocityFactor}; metres count from the ${trace.end} end.`;
  if (trace.seen.length === 0)
    return [{ type: 'text', text: `${title}: no launch can be seen in it, so nothing can be told from it.` }];
  const length = (m: number): string => formatCableLength(m, units);
  return [
    { type: 'text', tone: 'strong', text: title },
    {
      type: 'picture',
      title,
      ...tracePicture(trace, title, {
        lengthM: link.lengthM,
        inUnits: (m) => cableLengthFromM(m, units),
        unit: cableLengthUnit(units),
      }),
    },
    { type: 'text', tone: 'quiet', text: taken },
    ...(trace.unexplained
      ? [
          {
            type: 'text' as const,
            tone: 'caution' as const,
            text: 'No chain of ours explains this trace: what its echoes are stays open.',
          },
        ]
      : []),
    ...(trace.events.length === 0
      ? []
      : [
          {
            type: 'table' as const,
            columns: [
              { name: 'At', share: 4, figures: true },
              { name: '95 % interval', share: 4, figures: true },
              { name: 'What', share: 8 },
              { name: 'Share', share: 2, figures: true },
            ],
            rows: trace.events.map(({ kind, distanceM, u95M, probability }, n) => [
              length(distanceM),
              `± ${length(u95M)}`,
              { text: EVENT_WORDS[kind], strong: n === trace.main },
              percent(probability),
            ]),
          },
        ]),
  ];
}

function believed(title: string, explanations: Diagnosis['explanations']): Block[] {
  if (explanations.length === 0) return [];
  return [
    { type: 'text', tone: 'strong', text: title },
    {
      type: 'table',
      columns: [
        { name: 'Share', share: 2, figures: true },
        { name: 'Explanation', share: 9 },
        { name: 'Its repair', share: 7 },
      ],
      rows: explanations.map(({ probability, words, repair }) => [percent(probability), words, repair.words]),
    },
  ];
}
