import { adapterFile, designOf, fieldErrors } from '@near-spoke/contracts';
import {
  BadDesign,
  CONTACT_LAYOUTS,
  buildProof,
  inOrderSeconds,
  probesPlan,
  placeWords,
  workUp,
  type AdapterDesign,
  type Coupling,
  type ProofTouch,
  type WorkedUpAdapter,
} from '@near-spoke/core';
import { parseJson } from './json.js';
import { BadInput, type Outcome } from './outcome.js';

export const ADAPTER_HELP = `spoke adapter FILE [--json] | --connectors

Works an adapter up: the joining table with a conductor for each join, what is electrically wrong
with it and what mends that, and the fewest touches of a beeper that prove it once it is built. FILE
is a near-spoke/adapter file (docs/file-formats.md); - reads standard input.

  --connectors   the connectors that a layout may name
  --json   { name, joins, couplings, dead, spares, findings, proof }
  --help   this text

Exit status: 0 when no rule says wrong, 1 when one does, 2 for bad input.
`;

/** `spoke adapter`. */
export function adapterCommand(args: readonly string[], readText: (path: string) => string): Outcome {
  if (args.length === 1 && args[0] === '--connectors') return { status: 0, out: connectorList(), err: '' };
  const names = args.filter((arg) => arg !== '--json');
  const [name] = names;
  const unknown = names.find((arg) => arg.startsWith('--'));
  if (unknown) throw new BadInput(`There is no option ${unknown}.\n${ADAPTER_HELP}`);
  if (name === undefined || names.length > 1) throw new BadInput(`Name one file.\n${ADAPTER_HELP}`);
  const parsed = adapterFile.safeParse(parseJson(readText(name)));
  if (!parsed.success)
    throw new BadInput(
      fieldErrors(parsed.error)
        .map(({ path, message }) => `${name}: ${path}: ${message}`)
        .join('\n'),
    );
  let worked: WorkedUpAdapter;
  try {
    worked = workUp(designOf(parsed.data));
  } catch (error) {
    if (error instanceof BadDesign) throw new BadInput(`${name}: ${error.message}`);
    throw error;
  }
  const status = worked.findings.some(({ severity }) => severity === 'wrong') ? 1 : 0;
  const out = args.includes('--json')
    ? `${JSON.stringify(asJson(designOf(parsed.data), worked), null, 2)}\n`
    : asText(designOf(parsed.data), worked);
  return { status, out, err: '' };
}

/** Every connector that a layout may name. */
function connectorList(): string {
  const width = Math.max(...CONTACT_LAYOUTS.map(({ id }) => id.length));
  return CONTACT_LAYOUTS.map(
    ({ id, name, confirm }) =>
      `${id.padEnd(width)}  ${name}${confirm ? ' (read the figures moulded beside the contacts)' : ''}\n`,
  ).join('');
}

const couplingWords = ({ from, to, parts }: Coupling): string =>
  `${placeWords(from)} to ${placeWords(to)} through ${parts
    .map(({ kind, ohm, words }) =>
      [kind, ohm === undefined ? '' : `${ohm} ohm`, words].filter(Boolean).join(' '),
    )
    .join(', ')}`;

function asJson(design: AdapterDesign, worked: WorkedUpAdapter): object {
  return {
    name: design.name,
    joins: worked.rows.map(({ net, wire, reasons }) => ({
      net: net.name,
      contacts: net.pins.map(placeWords),
      wire,
      reasons,
    })),
    couplings: worked.couplings.map(({ from, to, parts }) => ({
      from: placeWords(from),
      to: placeWords(to),
      parts,
    })),
    dead: worked.dead.map(placeWords),
    spares: worked.spares,
    findings: worked.findings,
    proof: probesPlan(worked.nets, design.ends).touches.map(({ one, other, ...touch }) => ({
      ...touch,
      one: one.map(placeWords),
      other: other.map(placeWords),
    })),
  };
}

/** Wires to draw and blocks to make of them, where both ends are headers and no cable is named. */
function jumperLines({ jumpers }: WorkedUpAdapter): string[] {
  if (!jumpers) return [];
  const colours = jumpers.jumpers.map(({ colour }) => colour).join(', ');
  return [
    `Draw ${jumpers.jumpers.length} single wires off a rainbow ribbon, or from a box: ${colours}.`,
    ...jumpers.jumpers.map(
      ({ signal, colour, from, to }) =>
        `${colour.padEnd(5)} ${placeWords(from)} to ${placeWords(to)}, ${signal}`,
    ),
    ...jumpers.blocks.map(
      ({ end, contacts, mark }) =>
        `${contacts.length > 1 ? 'block' : 'single'} at ${end}: ${contacts.join(' ')}, ${mark}`,
    ),
    ...(jumpers.free.length > 0 ? [`left free: ${jumpers.free.map(placeWords).join(', ')}`] : []),
  ];
}

function asText(design: AdapterDesign, worked: WorkedUpAdapter): string {
  const { name } = design;
  const { parts, supplies, functions } = buildProof(design, worked);
  const { rows, couplings, dead, findings, spares, noWires, notProven } = worked;
  const plan = probesPlan(worked.nets, design.ends);
  const width = Math.max(4, ...rows.map(({ net }) => net.name.length));
  const section = (title: string, lines: readonly string[]): string[] =>
    lines.length > 0 ? ['', title, ...lines.map((line) => `  ${line}`)] : [];
  const row = ({ net, wire, reasons }: WorkedUpAdapter['rows'][number]): string =>
    `${net.name.padEnd(width)}  ${net.pins.map((pin) => `${placeWords(pin)} ${pin.pin.signal}`).join(' = ')}${
      wire === null ? '' : `  [${wire}: ${reasons.join(', ')}]`
    }`;
  return `${[
    name,
    ...section('Join', rows.map(row)),
    ...section('Through parts', couplings.map(couplingWords)),
    ...section(
      'Joined to nothing: insulate and keep, or cut',
      dead.map((pin) => `${placeWords(pin)} ${pin.pin.signal}`),
    ),
    ...section('Spare conductors', spares.length > 0 ? [spares.join(', ')] : []),
    ...section(
      'Conductors',
      [noWires, notProven].filter((words) => words !== ''),
    ),
    ...section('Loose wires', jumperLines(worked)),
    ...section(
      'Rules',
      findings.length > 0
        ? findings.map(({ severity, words, remedy }) => `${severity.toUpperCase()} ${words} ${remedy}`)
        : ['nothing to say'],
    ),
    ...section(
      `Prove it, nothing plugged in: two probes, about ${Math.ceil(plan.seconds / 60)} min (all in order: ${Math.ceil(inOrderSeconds(worked.nets, design.ends) / 60)})`,
      plan.touches.map((touch, n) => `${String(n + 1).padStart(2)}  ${touchWords(touch)}`),
    ),
    ...section(
      'Then, parts fitted',
      parts.map((words) => `meter ${words}`),
    ),
    ...section('Then voltage and polarity, before the device is connected', supplies),
    ...section('Then what it has to do', functions),
  ].join('\n')}\n`;
}

const touchWords = ({ one, other, should, nets, why, sweep }: ProofTouch): string =>
  `${one.map(placeWords).join(' + ')}  ${sweep ? 'swept over' : 'to'}  ${other.map(placeWords).join(sweep ? ', ' : ' + ')}: must ${should}${
    why === 'path' ? ` (${nets.join()})` : ''
  }`;
