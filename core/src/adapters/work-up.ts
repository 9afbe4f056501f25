import type { ContactId } from '../cabling/schemes.js';
import { layoutFor } from '../connectors/own-layout.js';
import {
  chooseConductors,
  colourAt,
  TooFewConductors,
  type Choice,
  type Passing,
  type Wire,
} from './conductor-choice.js';
import {
  knownA,
  netsOf,
  type AdapterDesign,
  type AdapterNet,
  type Coupling,
  type PlacedPin,
} from './design.js';
import type { RibbonJob } from './ribbon.js';
import { jumperPlan, type JumperPlan } from './jumpers.js';
import { proofList, type Net, type ProofTouch } from './proof-list.js';
import { checkAdapter, worstFirst, type RuleFinding } from './rules.js';
import { levelMargins, type LevelMargin } from './rules/levels.js';
import { leastSupplies } from './rules/supply.js';
import { conductorRules } from './rules/conductors.js';

/** One row of the joining table: contacts that are one, and the conductor that makes them so. */
export interface JoiningRow {
  net: AdapterNet;
  /** The conductor that carries it; null where none is chosen or the net stays at one end. */
  wire: string | null;
  reasons: string[];
}

/** An adapter worked up from its design: what to join, what is wrong with it, how to prove it. */
export interface WorkedUpAdapter {
  rows: JoiningRow[];
  /** What leads from net to net through parts. */
  couplings: Coupling[];
  /** Contacts joined to nothing. */
  dead: PlacedPin[];
  findings: RuleFinding[];
  proof: ProofTouch[];
  /** What is left between levels, join by join. */
  margins: LevelMargin[];
  /** What the proof proves: every net, and every contact that is joined to nothing. */
  nets: Net[];
  spares: string[];
  /** Why no conductors were chosen; empty where they were, or where no cable is named. */
  noWires: string;
  /** Says so where a better choice of conductors may exist; empty where none does. */
  notProven: string;
  /** Loose wires to make it of, where both ends are headers and no cable is named. */
  jumpers: JumperPlan | null;
}

/**
 * Works an adapter up: nets from its joins, a conductor for every net that leads from one end to
 * another, the rules, and the list of touches that proves it once built.
 *
 * @throws BadDesign
 */
export function workUp(design: AdapterDesign): WorkedUpAdapter {
  const { nets, couplings } = netsOf(design);
  const crossing = nets.filter(
    (net) => reaches(net).size > 1 || couplings.some((coupling) => leadsOff(net, coupling, nets)),
  );
  let choices: Choice[] = [];
  let spares: string[] = [];
  let noWires = '';
  let notProven = '';
  const pressed = pressedRibbon(design);
  if (pressed) ({ choices, spares, noWires } = onRibbon(pressed, crossing));
  else if (design.wires.length > 0) {
    try {
      const plan = chooseConductors(design.wires, crossing.map(passingOf));
      ({ choices, spares } = plan);
      if (!plan.proven)
        notProven =
          'There are so many ways to choose these conductors that not all were weighed: this one is good, and maybe not the best.';
    } catch (error) {
      if (!(error instanceof TooFewConductors)) throw error;
      noWires = error.message;
    }
  }
  const rows = nets.map((net): JoiningRow => {
    const choice = choices[crossing.indexOf(net)];
    return { net, wire: choice?.wire ?? null, reasons: choice?.reasons ?? [] };
  });
  const carried = rows.flatMap(({ net, wire }) => {
    const chosen = design.wires.find(({ id }) => id === wire);
    return chosen ? [{ net, wire: chosen }] : [];
  });
  const joined = new Set(nets.flatMap(({ pins }) => pins.map(({ end, contact }) => `${end} ${contact}`)));
  const dead = design.ends.flatMap(({ id, pins }) =>
    pins.flatMap((pin) =>
      joined.has(`${id} ${pin.contact}`) ? [] : [{ end: id, contact: pin.contact, pin }],
    ),
  );
  const proofNets: Net[] = [
    ...nets.map(({ name, pins }) => ({ name, points: pins.map(({ end, contact }) => ({ end, contact })) })),
    ...dead.map(({ end, contact, pin }) => ({
      name: `${pin.signal}, not joined`,
      points: [{ end, contact }],
    })),
  ];
  return {
    rows,
    couplings,
    dead,
    findings: worstFirst([...checkAdapter(design), ...conductorRules(carried)]),
    margins: levelMargins(nets, leastSupplies(nets, couplings)),
    proof: proofList(proofNets),
    nets: proofNets,
    spares,
    noWires,
    notProven,
    jumpers: jumperPlan(design, nets),
  };
}

/**
 * Insulation of the wire on a contact: that of its moulded lead, or of the conductor chosen for its
 * net, in the half that goes there; null where it has neither.
 */
export function colourOn(
  { wires }: Pick<AdapterDesign, 'wires'>,
  rows: readonly JoiningRow[],
  { end, pin }: PlacedPin,
): string | null {
  const row = rows.find(({ net }) => net.pins.some((each) => each.pin === pin));
  const wire = wires.find(({ id }) => id === row?.wire);
  return pin.colour ?? (wire ? colourAt(wire, end) : null);
}

/** A ribbon between the first two connectors, as it is to be laid; null where the lead is no flat ribbon. */
export function ribbonJobOf(design: AdapterDesign, rows: readonly JoiningRow[]): RibbonJob | null {
  const [near, far] = design.ends;
  const pressed = pressedRibbon(design);
  const places = layoutFor(far?.layout ?? null)?.ribbon;
  if (!near || !far || design.ends.length > 2 || !pressed || !places) return null;
  // A contact that is bridged to another of its own connector is not made by a flat ribbon.
  const flat = rows.every(
    ({ net }) => new Set(net.pins.map(({ end }) => end)).size === net.pins.length && net.pins.length > 1,
  );
  if (!flat) return null;
  const joins = rows.flatMap(({ net }): (readonly [ContactId, ContactId])[] => {
    const at = (id: string): ContactId | undefined => net.pins.find(({ end }) => end === id)?.contact;
    const [from, to] = [at(near.id), at(far.id)];
    return from && to ? [[from, to]] : [];
  });
  return { near: pressed.contacts, far: places, joins };
}

/** A ribbon that is pressed into the first connector: which conductor meets which contact is not free. */
interface PressedRibbon {
  end: string;
  contacts: readonly ContactId[];
  wires: readonly Wire[];
}

/** The ribbon of a design whose cable is one and whose first connector takes it flat; null for any other. */
export function pressedRibbon({ ends, wires }: AdapterDesign): PressedRibbon | null {
  const [first] = ends;
  const contacts = layoutFor(first?.layout ?? null)?.ribbon;
  return first && contacts && wires.some(({ edge }) => edge) ? { end: first.id, contacts, wires } : null;
}

function onRibbon(
  { end, contacts, wires }: PressedRibbon,
  nets: readonly AdapterNet[],
): { choices: Choice[]; spares: string[]; noWires: string } {
  const choices = nets.map(({ name, pins }): Choice | null => {
    const contact = pins.find((pin) => pin.end === end)?.contact;
    const wire = contact === undefined ? undefined : wires[contacts.indexOf(contact)];
    return wire ? { signal: name, wire: wire.id, reasons: [`pressed on at ${end} ${contact}`] } : null;
  });
  const short = choices.includes(null);
  const kept = choices.filter((choice) => choice !== null);
  const taken = new Set(kept.map(({ wire }) => wire));
  return {
    choices: short ? [] : kept,
    spares: wires.flatMap(({ id }) => (taken.has(id) ? [] : [id])),
    noWires: short
      ? `A ribbon of ${wires.length} does not reach every contact that is used at ${end}: take one of ${contacts.length}.`
      : '',
  };
}

const reaches = ({ pins }: AdapterNet): Set<string> => new Set(pins.map(({ end }) => end));

/** A net that leads to another end through a part, which lies there, where neither net reaches that end by itself. */
function leadsOff(net: AdapterNet, { from, to }: Coupling, nets: readonly AdapterNet[]): boolean {
  const far = nets.find(({ pins }) => pins.some(({ pin }) => pin === to.pin));
  return (
    net.pins.some(({ pin }) => pin === from.pin) &&
    !reaches(net).has(to.end) &&
    !!far &&
    !reaches(far).has(from.end)
  );
}

function passingOf({ name, pins }: AdapterNet): Passing {
  const has = (kind: PlacedPin['pin']['kind']): boolean => pins.some(({ pin }) => pin.kind === kind);
  const flows = pins.reduce((sum, { pin }) => (pin.kind === 'supply-in' ? sum + (knownA(pin) ?? 0) : sum), 0);
  return {
    signal: name,
    use:
      has('supply-out') || has('supply-in')
        ? 'supply'
        : has('ground')
          ? 'ground'
          : has('shield')
            ? 'shield'
            : 'signal',
    currentA: flows,
    together: pins.find(({ pin }) => pin.together !== null)?.pin.together ?? null,
  };
}
