import { hubsOf } from '../../links/hubs.js';
import type { Block } from '../blocks.js';
import { countingOrder } from '../names.js';
import { panelPicture, type PanelPort } from '../pictures/panel.js';
import { routesPictures } from '../pictures/routes.js';
import type { ReportData } from '../report-data.js';

/** What drawings may be wide: an upright page less its margins. */
const WIDTH_MM = 182;
/** So many ports stand in one drawing: no page is lower. */
const PORTS_IN_ONE = 96;

/** Each panel of the hub, port by port. */
export function panels({ links }: ReportData): Block[] {
  const ports = new Map<string, PanelPort[]>();
  for (const { link } of links) {
    const name = `${link.near.hub} ${link.near.panel}`;
    ports.set(name, [
      ...(ports.get(name) ?? []),
      {
        port: link.near.port,
        label: link.label,
        to: `${link.far.room}, ${link.far.outlet}`,
        stage: link.stage,
      },
    ]);
  }
  return [...ports.entries()]
    .sort(([a], [b]) => countingOrder(a, b))
    .flatMap(([name, own]): Block[] => {
      const sorted = own.sort((a, b) => countingOrder(a.port, b.port));
      const pieces = Array.from({ length: Math.ceil(sorted.length / PORTS_IN_ONE) }, (_, at) =>
        sorted.slice(at * PORTS_IN_ONE, (at + 1) * PORTS_IN_ONE),
      );
      return [
        { type: 'heading', text: name },
        ...pieces.map((some) => ({
          type: 'picture' as const,
          title: `Panel ${name}, port by port`,
          ...panelPicture(name, some, WIDTH_MM),
        })),
      ];
    });
}

/** The ways of the cables, to one scale. */
export function routes({ links, job }: ReportData): Block[] {
  const known = links.map(({ link }) => link).filter(({ route }) => route.length > 0);
  const pictures = hubsOf(job.hub, known).flatMap((hub) =>
    routesPictures(
      known.filter(({ near }) => near.hub === hub),
      { hub, units: job.units, widthMm: WIDTH_MM },
    ),
  );
  if (pictures.length === 0) return [{ type: 'text', text: 'No link has a route on record.' }];
  const without = links.length - known.length;
  return [
    ...pictures.map((picture) => ({
      type: 'picture' as const,
      title: 'Routes from the hub, to scale',
      ...picture,
    })),
    ...(without > 0
      ? [{ type: 'text' as const, tone: 'quiet' as const, text: `${without} links have no route on record.` }]
      : []),
  ];
}
