import { linkPlanFile, type LinkPlanFile } from '@near-spoke/contracts';
import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  endsOf,
  feedLink,
  formatCableLength,
  formatTemperature,
  planFindings,
  POWER_TYPES,
  runOf,
  type PlannedLink,
  type Surroundings,
} from '@near-spoke/core';
import { parseAs } from './json.js';
import { Options } from './options.js';
import { BadInput, type Outcome } from './outcome.js';
import { findingLines, readerIn, typeIn } from './plan.js';
import type { ReadText } from './spoke.js';

export const POWER_HELP = `spoke power LINK.json [options]

What a link feeds over its data pairs: current, voltage and power at the device, warmth of its bundles, what would cure
a lack, and what every other way of feeding would bring. The file is a near-spoke/link-plan. "-" reads standard input.

  --device W         what the device takes, instead of the file's
  --type TYPE        way of feeding, instead of the file's: ${POWER_TYPES.map(({ id }) => id).join(', ')}
  --json             as JSON
  --help             this text

Exit status: 0 it will feed the device, 1 it will not, 2 bad input.
`;

/** `spoke power`. */
export function powerCommand(args: readonly string[], readText: ReadText): Outcome {
  const options = new Options(args, { valued: ['--device', '--type'], flags: ['--json'], help: POWER_HELP });
  const [path, ...more] = options.names;
  if (path === undefined || more.length > 0) throw new BadInput(`Name one link file.\n${POWER_HELP}`);
  const file = parseAs(linkPlanFile, readText(path));
  const type = options.text('--type') ?? file.link.carries.power?.type;
  if (type === undefined || !POWER_TYPES.some(({ id }) => id === type))
    throw new BadInput(
      type === undefined
        ? 'link.carries.power: the file says nothing of power. Give --type and --device, or write it there.'
        : `--type ${type}: one of ${POWER_TYPES.map(({ id }) => id).join(', ')} is wanted.`,
    );
  const deviceW = options.number('--device', 0.1, 10_000) ?? file.link.carries.power?.deviceW;
  if (deviceW === undefined) throw new BadInput('--device: say how many watts the device takes.');
  const told = file.link.carries.power;
  // Figures of one supply say nothing of another.
  const feed = told?.type === type ? { ...told, deviceW } : { type, deviceW };
  const { link, around } = plannedIn(file);
  const run = runOf(link, around.conditions, around.fedIn);
  const ends = endsOf(link, around);
  const result = feedLink(feed, link.cable, run, ends);
  const findings = planFindings({ ...link, carries: { power: feed } }, around).filter(({ check }) =>
    ['power', 'heat', 'contact'].includes(check),
  );
  const others = POWER_TYPES.map(({ id, name, source }) => {
    const { mostW, spareW } = feedLink({ type: id, deviceW }, link.cable, run, ends);
    return { type: id, name, source, mostW, spareW };
  });
  const wrong = findings.some(({ verdict }) => verdict === 'fails');
  if (options.has('--json'))
    return {
      status: wrong ? 1 : 0,
      out: `${JSON.stringify({ feed, ...result, findings, others: others.map(finite) }, null, 2)}\n`,
      err: '',
    };
  const reader = readerIn(file.units);
  const { point } = result;
  const lines = [
    `${link.label}: ${link.cable.name}, ${formatCableLength(link.lengthM, file.units)}, ${deviceW} W by ${type}`,
    `  out and back ${result.ohm.toFixed(2)} ohm, warmest ${formatTemperature(result.hottestC, file.units)}`,
    point
      ? `  ${point.currentA.toFixed(3)} A, ${point.deviceV.toFixed(1)} V at the device, ${point.sourceW.toFixed(1)} W from the source, ${point.lostW.toFixed(1)} W kept by the cable`
      : '  this wire cannot carry that power at all',
    ...findings.flatMap((finding) => findingLines(finding, reader)),
    'OTHER WAYS, their least voltages',
    ...others.map(({ name, mostW, spareW }) =>
      `  ${name.padEnd(14)} ${watts(mostW).padStart(9)} at the device ${spareW >= 0 ? '' : '(too little)'}`.trimEnd(),
    ),
    'CARE  Plug in and out with the power off; a licensed person and the local code for mains and masts.',
    '',
  ];
  return { status: wrong ? 1 : 0, out: lines.join('\n'), err: '' };
}

const watts = (w: number): string => (Number.isFinite(w) ? `${w.toFixed(1)} W` : 'no limit');

/** JSON knows no infinity. */
const finite = <T extends { mostW: number; spareW: number }>(row: T) => ({
  ...row,
  mostW: Number.isFinite(row.mostW) ? row.mostW : null,
  spareW: Number.isFinite(row.spareW) ? row.spareW : null,
});

function plannedIn({ link, stretches }: LinkPlanFile): { link: PlannedLink; around: Surroundings } {
  const cable = typeIn(CABLE_TYPES, link.cable, 'link.cable', 'cable');
  return {
    link: {
      label: link.label,
      cable,
      near: typeIn(CONNECTOR_TYPES, link.near, 'link.near', 'connector'),
      far: typeIn(CONNECTOR_TYPES, link.far, 'link.far', 'connector'),
      lengthM: link.lengthM,
      route: link.route,
      carries: link.carries,
    },
    around: {
      conditions: stretches,
      cables: CABLE_TYPES,
      jacketsIn: (name) =>
        Array<number>(stretches.find((one) => one.name === name)?.fed ?? 1).fill(cable.jacketMm),
      fedIn: (name) => stretches.find((one) => one.name === name)?.fed ?? 1,
    },
  };
}
