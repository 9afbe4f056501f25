import { jobFile, type JobFile } from '@near-spoke/contracts';
import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  cureSpare,
  cureWords,
  findingHeadline,
  findingWords,
  formatCableLength,
  formatTemperature,
  ORDINARY,
  planJob,
  type FindingReader,
  type JobFindings,
  type PlanFinding,
  type PlannedLink,
} from '@near-spoke/core';
import { parseAs } from './json.js';
import { Options } from './options.js';
import { BadInput, type Outcome } from './outcome.js';
import type { ReadText } from './spoke.js';

export const PLAN_HELP = `spoke plan JOB.json [options]

Holds every link of a job against what limits it: length, delay, loss, loop, remote power with its warmth, voltage,
level, bus, jackets, ducts. What is least comes first, with what would cure it. "-" reads standard input.

  --link LABEL       one link, with all its checks
  --all              every check of every link
  --json             as JSON
  --help             this text

Exit status: 0 every link will carry, 1 one will not, 2 bad input.
`;

/** `spoke plan`. */
export function planCommand(args: readonly string[], readText: ReadText): Outcome {
  const options = new Options(args, { valued: ['--link'], flags: ['--all', '--json'], help: PLAN_HELP });
  const [path, ...more] = options.names;
  if (path === undefined || more.length > 0) throw new BadInput(`Name one job file.\n${PLAN_HELP}`);
  const file = parseAs(jobFile, readText(path));
  const plan = planJob(file.links.map(plannedOf), {
    conditions: file.job.stretches ?? [],
    cables: CABLE_TYPES,
  });
  const label = options.text('--link');
  const links = plan.links.filter((link) => label === null || link.label === label);
  if (links.length === 0)
    throw new BadInput(
      label === null ? 'The job has no links to plan.' : `--link ${label}: the job has no such link.`,
    );
  const wrong = links.some(({ findings }) => findings.some(({ verdict }) => verdict === 'fails'));
  const out = options.has('--json')
    ? `${JSON.stringify({ links, stretches: plan.stretches }, null, 2)}\n`
    : printed(file, { ...plan, links }, options.has('--all') || label !== null);
  return { status: wrong ? 1 : 0, out, err: '' };
}

/** A link of a file with its types; an unknown one is named with its place. */
function plannedOf(link: JobFile['links'][number], index: number): PlannedLink {
  return {
    label: link.label,
    cable: typeIn(CABLE_TYPES, link.cableTypeId, `links[${index}].cableTypeId`, 'cable'),
    near: typeIn(CONNECTOR_TYPES, link.nearConnectorId, `links[${index}].nearConnectorId`, 'connector'),
    far: typeIn(CONNECTOR_TYPES, link.farConnectorId, `links[${index}].farConnectorId`, 'connector'),
    lengthM: link.lengthM,
    route: link.route,
    carries: link.carries ?? {},
  };
}

/** A type of the kit by its id. */
export function typeIn<T extends { id: string }>(
  types: readonly T[],
  id: string,
  path: string,
  what: string,
): T {
  const found = types.find((one) => one.id === id);
  if (!found) throw new BadInput(`${path}: there is no ${what} ${id} in the kit.`);
  return found;
}

export const readerIn = (units: FindingReader['units']): FindingReader => ({
  units,
  cableName: (id) => CABLE_TYPES.find((cable) => cable.id === id)?.name ?? id,
});

function printed({ job, links }: JobFile, plan: JobFindings, all: boolean): string {
  const reader = readerIn(job.units);
  const width = Math.max(4, ...plan.links.map(({ label }) => label.length)) + 2;
  const lines = [`${job.site}, ${job.title}: ${plan.links.length} links`, ''];
  for (const { label, findings } of plan.links) {
    const link = links.find((one) => one.label === label);
    const length = formatCableLength(link?.lengthM ?? 0, job.units).padStart(8);
    const [least] = findings;
    lines.push(
      `${label.padEnd(width)}${length}  ${least ? findingHeadline(least, reader) : 'nothing limits it that we know'}`,
    );
    const told = all
      ? findings
      : findings.filter(({ verdict }) => verdict === 'fails' || verdict === 'close');
    for (const finding of told) lines.push(...findingLines(finding, reader));
  }
  const warm = plan.stretches.filter(
    (stretch) => stretch.fed > 0 || stretch.temperatureC !== ORDINARY.temperatureC,
  );
  if (warm.length > 0) lines.push('', 'STRETCHES');
  for (const { name, temperatureC, fed, links: within, closed } of warm)
    lines.push(
      `  ${name}: ${within.length} cables, ${fed} fed, ${formatTemperature(temperatureC, job.units)}${closed ? ', closed' : ''}`,
    );
  return [...lines, ''].join('\n');
}

const MARK = { fails: 'WRONG', close: 'CLOSE', look: 'LOOK ', fits: 'FITS ' } as const;

/** One finding with its cures, as the table prints it. */
export function findingLines(finding: PlanFinding, reader: FindingReader): string[] {
  return [
    `  ${MARK[finding.verdict]} ${findingWords(finding, reader)}`,
    ...finding.cures.map((cure) =>
      `        cure: ${cureWords(cure, reader)} ${cureSpare(cure, finding, reader.units)}`.trimEnd(),
    ),
  ];
}
