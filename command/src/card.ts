import { fieldErrors, halfDoneFile, kitFile } from '@near-spoke/contracts';
import {
  buildCard,
  CABLE_TYPES,
  CONNECTOR_TYPES,
  formatStripLength,
  formatStripTolerance,
  insulationName,
  TOOL_TYPES,
  waysOn,
  type CableType,
  type ConnectorType,
  type HalfDone,
  type SchemeId,
  type StripPlan,
  type ToolType,
  type UnitSystem,
  type WorkCard,
} from '@near-spoke/core';
import { parseArgs } from 'node:util';
import { parseJson } from './json.js';
import { BadInput, type Outcome } from './outcome.js';

export const CARD_HELP = `spoke card --cable ID --connector ID [--scheme T568A|T568B] [options]

Prints the work card of one cable end: what to lay out, what goes on first, the steps in an order
that works, what to look at after each, and the strip plan.

  --units metric|imperial   how lengths are written (metric)
  --ringing-wire            British telephone sockets: the ringing wire too
  --soldered-pin            coax: the centre pin soldered instead of crimped
  --rolled-end              flat cord: the end that lies turned over
  --kit FILE                the crew's own sheets (near-spoke/kit), laid over the generic ones
  --list                    the cables and connectors there are
  --json                    the card as JSON
  --help                    this text

Exit status: 0 the connector fits the cable, 1 something does not fit, 2 bad input.
`;

export const ORDER_HELP = `spoke order FILE [--json] [--kit FILE]

Says what can still be done with a half-done end: go on, go back, use a split part, or cut off and
start again, with connectors, minutes and cable. FILE is a near-spoke/half-done file
(docs/file-formats.md); - reads standard input.

Exit status: 0 the work can go on, 1 it cannot simply go on, 2 bad input.
`;

/** The library that a command works with: the generic sheets under the crew's own. */
interface Library {
  cables: readonly CableType[];
  connectors: readonly ConnectorType[];
  tools: readonly ToolType[];
}

const layOver = <T extends { id: string }>(generic: readonly T[], own: readonly T[]): T[] => [
  ...generic.filter((sheet) => !own.some((o) => o.id === sheet.id)),
  ...own,
];

function readLibrary(path: string | undefined, readText: (path: string) => string): Library {
  if (path === undefined) return { cables: CABLE_TYPES, connectors: CONNECTOR_TYPES, tools: TOOL_TYPES };
  const parsed = kitFile.safeParse(parseJson(readText(path)));
  if (!parsed.success)
    throw new BadInput(
      fieldErrors(parsed.error)
        .map((e) => `${path}: ${e.path}: ${e.message}`)
        .join('\n'),
    );
  const { cables, connectors, tools } = parsed.data;
  return {
    cables: layOver(CABLE_TYPES, cables),
    connectors: layOver(CONNECTOR_TYPES, connectors),
    tools: layOver(TOOL_TYPES, tools),
  };
}

function find<T extends { id: string }>(what: string, list: readonly T[], id: string): T {
  const found = list.find((type) => type.id === id);
  if (!found) throw new BadInput(`There is no ${what} ${id}. Known: ${list.map((t) => t.id).join(', ')}.`);
  return found;
}

function oneOf<T extends string>(
  name: string,
  value: string | undefined,
  allowed: readonly T[],
  usual: T,
): T {
  if (value === undefined) return usual;
  const found = allowed.find((a) => a === value);
  if (!found) throw new BadInput(`--${name} is "${value}": give ${allowed.join(' or ')}.`);
  return found;
}

function options<T extends NonNullable<Parameters<typeof parseArgs>[0]>>(
  config: T,
): ReturnType<typeof parseArgs<T>> {
  try {
    return parseArgs(config);
  } catch (error) {
    throw new BadInput(error instanceof Error ? error.message : String(error));
  }
}

/** `spoke card`. */
export function cardCommand(args: readonly string[], readText: (path: string) => string): Outcome {
  const { values } = options({
    args: [...args],
    strict: true,
    options: {
      cable: { type: 'string' },
      connector: { type: 'string' },
      scheme: { type: 'string' },
      units: { type: 'string' },
      kit: { type: 'string' },
      'ringing-wire': { type: 'boolean' },
      'soldered-pin': { type: 'boolean' },
      'rolled-end': { type: 'boolean' },
      list: { type: 'boolean' },
      json: { type: 'boolean' },
    },
  });
  const library = readLibrary(values.kit, readText);
  if (values.list) return { status: 0, out: listing(library), err: '' };
  if (!values.cable || !values.connector)
    throw new BadInput(`Name both --cable and --connector; --list shows what there is.\n${CARD_HELP}`);
  const units = oneOf<UnitSystem>('units', values.units, ['metric', 'imperial'], 'metric');
  const card = buildCard({
    cable: find('cable', library.cables, values.cable),
    connector: find('connector', library.connectors, values.connector),
    scheme: oneOf<SchemeId>('scheme', values.scheme, ['T568A', 'T568B'], 'T568B'),
    choices: {
      ringingWire: values['ringing-wire'] ?? false,
      centrePin: values['soldered-pin'] ? 'soldered' : 'crimped',
      flatEnd: values['rolled-end'] ? 'rolled' : 'first',
    },
    units,
    tools: library.tools,
  });
  const fits = card.fit.every((check) => check.verdict !== 'does not fit');
  const possible = card.threaded.every((verdict) => verdict.when !== 'never');
  const out = values.json ? `${JSON.stringify(card, null, 2)}\n` : cardText(card, units);
  return { status: fits && possible ? 0 : 1, out, err: '' };
}

function listing({ cables, connectors }: Library): string {
  const rows = (list: readonly { id: string; name: string }[]): string[] =>
    list.map(({ id, name }) => `  ${id.padEnd(26)}${name}`);
  return ['Cables', ...rows(cables), '', 'Connectors', ...rows(connectors), ''].join('\n');
}

const FIT_WORDS = { fits: 'fits   ', 'does not fit': 'WRONG  ', unknown: 'unknown' } as const;

/** A card on plain paper. */
export function cardText(card: WorkCard, units: UnitSystem): string {
  const lines = [
    `${card.title} on ${card.cableName}`,
    `${card.source === 'typical' ? 'Typical figures: the sheet in the bag wins.' : 'Figures from the sheet in the bag.'} About ${card.minutes} min.`,
    '',
    'FITS',
    ...card.fit.map(({ verdict, words }) => `  ${FIT_WORDS[verdict]} ${words}`),
    ...(card.before.length > 0 ? ['', 'BEFORE STEP 1', ...card.before.map((words) => `  ${words}`)] : []),
    '',
    'LAY OUT',
    `  ${card.parts.join(', ')}`,
    ...card.tools.map(
      (t) =>
        `  ${t.words}${t.verdict === 'have' ? '' : t.stopgap.words ? `. Stopgap: ${t.stopgap.words}` : `. Nothing stands in. ${t.stopgap.ruins}`}`,
    ),
  ];
  if (card.threaded.length > 0) {
    lines.push('', 'RINGS');
    for (const { part, when, words } of card.threaded) lines.push(`  ${part.name}, ${when}: ${words}`);
  }
  lines.push('', 'STRIP, from the cable’s end', ...stripLines(card.strip, units));
  if (card.order.length > 0 && card.order.length <= 50) lines.push('', 'CONTACTS', ...contactLines(card));
  lines.push('', 'STEPS');
  card.steps.forEach((step, i) => {
    lines.push(
      `${`${i + 1}.`.padStart(4)} ${step.title}${step.noWayBack ? '  (no way back after this)' : ''}`,
    );
    lines.push(`     ${step.how}`, `     Good: ${step.accept}`, `     Bad:  ${step.reject}`);
    if (step.caution) lines.push(`     Care: ${step.caution}`);
    if (step.readBack) lines.push('     Read the order back before you go on.');
  });
  return `${lines.join('\n')}\n`;
}

function stripLines(plan: StripPlan, units: UnitSystem): string[] {
  const figure = (mm: number): string => formatStripLength(mm, units, plan.toleranceMm);
  const held = (mm: number): string => formatStripTolerance(mm, units, plan.toleranceMm);
  const cuts = plan.cuts.map((cut) =>
    `  ${cut.layer.padEnd(11)}${held(cut.fromEndMm).padEnd(18)}${cut.baresMm > 0 ? `bares ${figure(cut.baresMm)}` : ''}`.trimEnd(),
  );
  return [
    ...(cuts.length > 0 ? cuts : ['  nothing is stripped']),
    ...(plan.trimMm === null ? [] : [`  then cut ${held(plan.trimMm)} from the jacket`]),
    ...(plan.untwistMm === null ? [] : [`  untwist at most ${figure(plan.untwistMm)}`]),
  ];
}

function contactLines(card: WorkCard): string[] {
  return card.order.map(({ contact, conductor }) => {
    const metal: Record<string, string> = { CENTRE: 'centre', SHELL: 'shell', SCREEN: 'screen' };
    return `  ${contact.padEnd(7)}${conductor.padEnd(10)}${metal[conductor] ?? insulationName(conductor)}`;
  });
}

/** `spoke order`. */
export function orderCommand(args: readonly string[], readText: (path: string) => string): Outcome {
  const { values, positionals } = options({
    args: [...args],
    strict: true,
    allowPositionals: true,
    options: { json: { type: 'boolean' }, kit: { type: 'string' } },
  });
  const [path] = positionals;
  if (path === undefined || positionals.length > 1) throw new BadInput(`Name one file.\n${ORDER_HELP}`);
  const library = readLibrary(values.kit, readText);
  const parsed = halfDoneFile.safeParse(parseJson(readText(path)));
  if (!parsed.success)
    throw new BadInput(
      fieldErrors(parsed.error)
        .map((e) => `${path}: ${e.path}: ${e.message}`)
        .join('\n'),
    );
  const { data } = parsed;
  const input = {
    cable: find('cable', library.cables, data.cable),
    connector: find('connector', library.connectors, data.connector),
    choices: { scheme: data.scheme },
  };
  const answer = askWaysOn(input, data.done, path);
  const titles = new Map(
    buildCard(input).steps.flatMap((s) => s.operations.map((id) => [id, s.title] as const)),
  );
  const out = values.json ? `${JSON.stringify(answer, null, 2)}\n` : orderText(answer, titles);
  return { status: answer.goesOn ? 0 : 1, out, err: '' };
}

function askWaysOn(input: Parameters<typeof waysOn>[0], done: readonly string[], path: string): HalfDone {
  try {
    return waysOn(input, done);
  } catch (error) {
    if (error instanceof RangeError) throw new BadInput(`${path}: done: ${error.message}`);
    throw error;
  }
}

function orderText(answer: HalfDone, titles: ReadonlyMap<string, string>): string {
  const lines = answer.goesOn ? ['The work can go on.'] : ['The work cannot simply go on.', answer.why];
  answer.ways.forEach((way, i) => {
    const cost = `${way.connectors} connectors, ${way.minutes} min, ${way.cableMm} mm of cable`;
    lines.push('', `${i + 1}. ${way.words}`, `   Costs ${cost}.`);
    way.order.forEach((id) => lines.push(`   - ${titles.get(id) ?? id}`));
  });
  return `${lines.join('\n')}\n`;
}
