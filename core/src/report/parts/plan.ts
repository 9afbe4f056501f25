import { applicationOf } from '../../links/carry/applications.js';
import { findingWords } from '../../links/carry/finding-words.js';
import { worstFindingsFirst } from '../../links/carry/finding.js';
import { planJob } from '../../links/carry/plan-job.js';
import type { PlannedLink } from '../../links/carry/planned-link.js';
import { notCorrected } from '../../links/standing.js';
import { capitalise } from '../../continuity/verdict-words.js';
import type { Block, Cell } from '../blocks.js';
import { namesOf } from '../names.js';
import type { ReportData } from '../report-data.js';
import { dayOf } from '../times.js';
import { looseEnds } from './loose-ends.js';

const VERDICTS = { fails: 'does not fit', close: 'close', look: 'to be looked at', fits: 'fits' } as const;

/** The nearest limit of each link, and all that do not fit. */
export function limits(data: ReportData): Block[] {
  const { job } = data;
  const planned = data.links.flatMap(({ link }): PlannedLink[] => {
    const cable = data.cables.find(({ id }) => id === link.cableTypeId);
    const near = data.connectors.find(({ id }) => id === link.near.connectorId);
    const far = data.connectors.find(({ id }) => id === link.far.connectorId);
    if (!cable || !near || !far) return [];
    return [
      {
        label: link.label,
        cable,
        lengthM: link.lengthM,
        route: link.route,
        near,
        far,
        carries: link.carries,
      },
    ];
  });
  const { links } = planJob(planned, { conditions: job.stretches, cables: data.cables });
  return [
    {
      type: 'text',
      tone: 'quiet',
      text: 'Worked out from the plan: lengths, stretches and what each link is to carry, as far as anybody has said. Local code and licensed practice come first.',
    },
    {
      type: 'table',
      columns: [
        { name: 'Link', share: 3 },
        { name: 'Carries', share: 5 },
        { name: 'Stands', share: 3 },
        { name: 'Nearest to a limit', share: 14 },
      ],
      rows: links.map(({ label, findings }, at): Cell[] => {
        const sorted = worstFindingsFirst(findings);
        const worst = sorted[0];
        const told = sorted.filter(({ verdict }, n) => n === 0 || verdict === 'fails');
        return [
          { text: label, strong: true },
          carriesWords(planned[at]),
          worst ? VERDICTS[worst.verdict] : '',
          told.map((finding) => capitalise(findingWords(finding, { units: job.units }))).join(' '),
        ];
      }),
    },
  ];
}

function carriesWords(link: PlannedLink | undefined): string {
  const { data, power, signal, load, bus } = link?.carries ?? {};
  const words = [
    data && applicationOf(data).name,
    power && `power, ${power.deviceW} W`,
    signal && `signal, ${signal.fromMhz} to ${signal.toMhz} MHz`,
    load && 'a load, fed directly',
    bus && 'a bus',
  ].filter(Boolean);
  return words.join(', ') || 'not said';
}

/** Who made which end, by which sheets, of which lot. */
export function terminations(data: ReportData): Block[] {
  const names = namesOf(data);
  const rows = data.links.flatMap(({ link, terminations: tries }) =>
    notCorrected(tries)
      .filter(({ outcome }) => outcome === 'good')
      .map((t): Cell[] => [
        { text: link.label, strong: true },
        t.side,
        {
          text: names.connector(t.connectorTypeId),
          note: [t.lot && `lot ${t.lot}`, t.tool && `made with ${t.tool}`].filter(Boolean).join(', '),
        },
        `${t.by}, ${dayOf(t.at)}`,
        `connector ${t.connectorVersion}, cable ${t.cableVersion}`,
      ]),
  );
  if (rows.length === 0)
    return [{ type: 'text', text: 'No end has been terminated yet.' }, ...looseEnds(data)];
  return [
    {
      type: 'table',
      columns: [
        { name: 'Link', share: 3 },
        { name: 'End', share: 2 },
        { name: 'Connector', share: 8 },
        { name: 'By', share: 5 },
        { name: 'Card made from sheets', share: 5 },
      ],
      rows,
    },
    ...looseEnds(data),
  ];
}
