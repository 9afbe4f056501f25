import { SCREEN } from '../cabling/conductors.js';
import type { ContactId } from '../cabling/schemes.js';
import { layoutFor } from '../connectors/own-layout.js';
import { colourAt, type Wire } from './conductor-choice.js';
import { placedStage, stageNames, type PlacedStage } from './level-stage.js';
import { netsOf, placeWords, type AdapterDesign, type AdapterEnd, type PlacedPin } from './design.js';
import type { JumperPlan } from './jumpers.js';
import { partWords } from './prove-build.js';
import { rowsOfFace } from './from-face.js';
import { layRibbon, NoRibbon, type RibbonJob, type RibbonLay } from './ribbon.js';
import { colourOn, pressedRibbon, ribbonJobOf, type WorkedUpAdapter } from './work-up.js';

/** One thing to do with the hands; ids stay the same while the design does. */
export interface BuildStep {
  id: string;
  kind: 'thread' | 'joint' | 'bridge' | 'part' | 'keep';
  words: string;
  /** Where it is done; null for what belongs to no one end. */
  end: string | null;
  contact: ContactId | null;
  wire: string | null;
  /** Insulation of the conductor there; null where it has none or none is chosen. */
  colour: string | null;
  /** And at the other end of it, where that half differs. */
  farColour: string | null;
}

/**
 * An adapter's building in order: closed rings on the cable first, then connector by connector each
 * joint in the order in which the wiring side is read, bridges and parts with them, and last the
 * conductors that are left over.
 */
export function buildPlan(design: AdapterDesign, worked: WorkedUpAdapter): BuildStep[] {
  const wires = new Map(design.wires.map((wire) => [wire.id, wire]));
  const blank = { end: null, contact: null, wire: null, colour: null, farColour: null };
  const threads = design.ends.flatMap((end) =>
    threadsOf(end).map((ring, n): BuildStep => ({
      ...blank,
      id: `thread ${end.id} ${n}`,
      kind: 'thread',
      end: end.id,
      words: `Thread the ${ring} of ${end.name} onto the cable, its open side towards ${end.id}.`,
    })),
  );
  const ribbon = ribbonSteps(design, worked);
  const splices = spliceSteps(design, worked);
  const whole = ribbon.length + splices.length > 0;
  const pressed = whole ? design.ends.slice(0, 2).map(({ id }) => id) : [];
  const joints = design.ends
    .filter(({ id }) => !pressed.includes(id))
    .flatMap((end) =>
      inReadingOrder(end).flatMap((contact): BuildStep[] => {
        const row = worked.rows.find(({ net }) =>
          net.pins.some((pin) => pin.end === end.id && pin.contact === contact),
        );
        if (!row) return [];
        const own = row.net.pins.filter((pin) => pin.end === end.id).map((pin) => pin.contact);
        // Where the conductor goes: to the net's contact elsewhere, or to a part that lies there.
        const elsewhere =
          row.net.pins.find((pin) => pin.end !== end.id) ??
          (row.wire === null
            ? undefined
            : worked.couplings.find(({ from }) => own.includes(from.contact) && from.end === end.id)?.to);
        const first = inReadingOrder(end).find((each) => own.includes(each));
        const pin = end.pins.find((each) => each.contact === contact);
        const wire = row.wire === null ? undefined : wires.get(row.wire);
        const at = { end: end.id, contact };
        if (contact !== first || !elsewhere) {
          // The first contact of a bridge at one end alone has nothing to be bridged to yet.
          if (contact === first) return [];
          return [
            {
              ...blank,
              ...at,
              id: `bridge ${placeWords(at)}`,
              kind: 'bridge',
              words: `Bridge ${contact} ${pin?.signal ?? ''} to ${first}.`,
            },
          ];
        }
        return [
          {
            ...blank,
            ...at,
            id: `joint ${placeWords(at)}`,
            kind: 'joint',
            words: `Contact ${contact}, ${pin?.signal ?? ''}`,
            wire: row.wire,
            colour: pin ? colourOn(design, worked.rows, { ...at, pin }) : null,
            farColour: elsewhere.pin.colour ?? (wire ? colourAt(wire, elsewhere.end) : null),
          },
        ];
      }),
    );
  const { nets } = netsOf(design);
  const loose = jumperSteps(worked.jumpers);
  const parts = worked.couplings.flatMap(({ from, to, parts: between }, n): BuildStep[] => {
    const row = worked.rows.find(({ net }) => net.pins.some(({ pin }) => pin === from.pin));
    const wire = row?.wire ? wires.get(row.wire) : undefined;
    const stage = placedStage(design, nets, { from, to, parts: between });
    if (stage && stage.parts.length > 0) return stageSteps(design, stage, n);
    return [
      {
        ...blank,
        id: `part ${n} ${placeWords(from)} ${placeWords(to)} ${between.map(({ kind }) => kind).join()}`,
        kind: 'part',
        // Parts lie at the end that a join goes to.
        end: to.end,
        contact: to.contact,
        words: `Fit ${between.map(partWords).join(', then ')} between ${placeWords(from)} ${from.pin.signal} and ${placeWords(to)} ${to.pin.signal}, sleeved.`,
        wire: wire?.id ?? null,
        colour: wire ? colourAt(wire, to.end) : null,
      },
    ];
  });
  const spares = (whole ? [] : worked.spares).map((id): BuildStep => {
    const wire = wires.get(id);
    return {
      ...blank,
      id: `keep ${id}`,
      kind: 'keep',
      words: keepsItsScreen(design, wire)
        ? screenWords(design, id)
        : design.spares === 'cut'
          ? `Cut conductor ${id} off at both ends, flush with the jacket.`
          : `Insulate conductor ${id} at both ends and fold it back.`,
      wire: id,
      colour: wire?.colour ?? null,
    };
  });
  return [
    ...(splices.length > 0 ? [] : threads),
    ...ribbon,
    ...splices,
    ...(loose.length > 0 ? loose : joints),
    ...parts,
    ...spares,
    ...(loose.length > 0 ? [] : reliefSteps(design, whole)),
  ];
}

/** Loose wires: drawn from a ribbon or a box, plugged one by one, then held together as blocks. */
function jumperSteps(plan: JumperPlan | null): BuildStep[] {
  if (!plan) return [];
  const blank = { wire: null, farColour: null };
  const wires = plan.jumpers.map(({ signal, colour, from, to }): BuildStep => ({
    ...blank,
    id: `jumper ${placeWords(from)} ${placeWords(to)}`,
    kind: 'joint',
    words: `${signal}: one wire from ${placeWords(from)} to ${placeWords(to)}`,
    end: from.end,
    contact: from.contact,
    colour,
    farColour: colour,
  }));
  const blocks = plan.blocks.map(({ end, contacts, mark }): BuildStep => ({
    ...blank,
    id: `block ${end} ${contacts.join(' ')}`,
    kind: 'keep',
    words:
      contacts.length > 1
        ? `Tape or house ${contacts.join(', ')} of ${end} as one block: ${mark}.`
        : `Single wire at ${end} ${contacts[0] ?? ''}: ${mark}.`,
    end,
    contact: contacts[0] ?? null,
    colour: null,
  }));
  return [...wires, ...blocks];
}

/** A pull on the lead must not reach its joints: each end that was wired by hand is held by its jacket. */
function reliefSteps({ ends }: AdapterDesign, whole: boolean): BuildStep[] {
  const wired = ends.filter(({ pins }) => !whole && !pins.some(({ colour }) => colour !== undefined));
  return wired.map(({ id, name, layout }) => {
    const gland = threadsOf({ layout }).find((ring) => /gland|seal/.test(ring));
    return {
      id: `relief ${id}`,
      kind: 'keep',
      words: `Hold the jacket at ${name} (${id}): ${gland ? 'the gland nut tight on it' : 'clamped in the hood, or tied where there is none'}; pull, and see that no joint moves.`,
      end: id,
      contact: null,
      wire: null,
      colour: null,
      farColour: null,
    };
  });
}

/** A level stage as the parts that it is made of, each with where its contacts go. */
function stageSteps(design: AdapterDesign, stage: PlacedStage, n: number): BuildStep[] {
  const { driver, receiver, end } = stage;
  const nodes: Readonly<Record<string, string>> = { ...stageNames(design, stage) };
  return stage.parts.map(({ id, what, contacts }) => {
    const ends = Object.entries(contacts).map(([contact, node]) => ({
      contact,
      to: nodes[node] ?? `the ${node}`,
    }));
    const goes = ends.some(({ contact }) => contact === 'one')
      ? `: from ${ends.map(({ to }) => to).join(' to ')}`
      : ends.length > 0
        ? `: ${ends.map(({ contact, to }) => `${contact} to ${to}`).join(', ')}`
        : '';
    return {
      id: `stage ${n} ${placeWords(driver)} ${placeWords(receiver)} ${id}`,
      kind: 'part',
      words: `${id}, ${what}${goes}, sleeved.`,
      end,
      contact: (end === driver.end ? driver : receiver).contact,
      wire: null,
      colour: null,
      farColour: null,
    };
  });
}

/**
 * A ribbon between two connectors that take it flat: press the first on, lay the conductors in the
 * far one's order, press that on. Empty where the lead is no such ribbon, or cannot be one.
 */
function ribbonSteps(design: AdapterDesign, worked: WorkedUpAdapter): BuildStep[] {
  const [near, far] = design.ends;
  const pressed = pressedRibbon(design);
  const job = ribbonJobOf(design, worked.rows);
  if (!near || !far || !pressed || !job) return [];
  const lay = laidOrNull(job);
  if (!lay) return [];
  const blank = { end: null, contact: null, wire: null, colour: null, farColour: null };
  const press = (end: AdapterEnd, words: string): BuildStep => ({
    ...blank,
    id: `press ${end.id}`,
    kind: 'joint',
    end: end.id,
    words: `Press the connector of ${end.name} on: ${words}.`,
  });
  const order = lay.turned ? job.far.toReversed() : job.far;
  const crossed: BuildStep[] =
    lay.crossings === 0
      ? []
      : [
          {
            ...blank,
            id: `slit ${far.id}`,
            kind: 'thread',
            end: far.id,
            words: `Slit the webs of the ribbon back 60 mm before ${far.name}, between the wires, never into one.`,
          },
        ];
  const looked: BuildStep[] =
    lay.crossings === 0
      ? []
      : [
          {
            ...blank,
            id: `look ${far.id}`,
            kind: 'keep',
            end: far.id,
            words: `Hold the wires flat in a clip, read them once more against the list, then cut them square in one stroke.`,
          },
        ];
  const peel = lay.peeled.map((conductor): BuildStep => {
    const wire = pressed.wires[conductor];
    return {
      ...blank,
      id: `peel ${conductor}`,
      kind: 'keep',
      end: far.id,
      words: `Peel conductor ${conductor + 1} off before ${far.name}: it is joined to nothing there.`,
      wire: wire?.id ?? null,
      colour: wire?.colour ?? null,
    };
  });
  const laid = lay.order.flatMap((conductor, place): BuildStep[] => {
    const contact = order[place];
    const wire = conductor === null ? undefined : pressed.wires[conductor];
    if (!wire || contact === undefined) return [];
    return [
      {
        ...blank,
        id: `lay ${far.id} ${contact}`,
        kind: 'joint',
        end: far.id,
        contact,
        words: `Place ${place + 1}, contact ${contact}: lay conductor ${(conductor ?? 0) + 1}`,
        wire: wire.id,
        colour: wire.colour,
      },
    ];
  });
  const held = [near, far].map((end): BuildStep => ({
    ...blank,
    id: `relief ${end.id}`,
    kind: 'keep',
    end: end.id,
    words: `Meter neighbours of ${end.name} for shorts first, then fold the ribbon over and clip its strain relief on.`,
  }));
  return [
    press(near, 'marked edge at contact 1, shell supported, level'),
    ...peel,
    ...crossed,
    ...laid,
    ...looked,
    press(
      far,
      `${lay.turned ? 'turned over, its last contact at the marked edge' : 'marked edge at contact 1'}, shell supported, level`,
    ),
    ...held,
  ];
}

/**
 * Two moulded halves: nothing is done at a contact, wire is spliced to wire, sleeves first. Empty
 * where a contact that is joined has no wire of its own colour.
 */
function spliceSteps(design: AdapterDesign, { rows }: WorkedUpAdapter): BuildStep[] {
  const [near, far] = design.ends;
  if (!near || !far || design.ends.length > 2) return [];
  const pairs = rows.map(({ net }) => {
    const at = (id: string): PlacedPin[] => net.pins.filter(({ end, pin }) => end === id && pin.colour);
    return { net, ones: at(near.id), others: at(far.id) };
  });
  if (pairs.some(({ net, ones, others }) => ones.length + others.length < net.pins.length)) return [];
  const made = pairs.filter(({ net }) => net.pins.length > 1);
  const crossing = made.filter(({ ones, others }) => ones.length > 0 && others.length > 0);
  if (crossing.length === 0) return [];
  const blank = { contact: null, wire: null, farColour: null };
  const joints = made.map(({ net, ones, others }): BuildStep => {
    // Wires of one half that are joined to each other are spliced like any two.
    const wires = [...ones, ...others];
    const [one, other] = [wires[0], others[0] ?? wires[1]];
    const named = (some: readonly PlacedPin[]): string => some.map(placeWords).join(' to ');
    return {
      ...blank,
      id: `splice ${named(wires)}`,
      kind: 'joint',
      end: one?.end ?? null,
      contact: one?.contact ?? null,
      words: `${net.name}: ${named(wires)}`,
      colour: one?.pin.colour ?? null,
      farColour: other?.pin.colour ?? null,
    };
  });
  const free = design.ends.flatMap(({ id, pins }) =>
    pins.flatMap(({ contact, colour }): BuildStep[] =>
      colour &&
      !pairs.some(({ ones, others }) =>
        [...ones, ...others].some((pin) => pin.end === id && pin.contact === contact),
      )
        ? [
            {
              ...blank,
              id: `keep ${id} ${contact}`,
              kind: 'keep',
              end: id,
              words:
                design.spares === 'cut'
                  ? `Cut the wire of ${id} ${contact} off, flush with the jacket.`
                  : `Insulate the wire of ${id} ${contact} and fold it back.`,
              colour,
            },
          ]
        : [],
    ),
  );
  return [
    {
      ...blank,
      id: 'thread outer',
      kind: 'thread',
      end: null,
      words: `Thread the outer sleeve over one half, and a small one over a wire of each of ${made.length} joints.`,
      colour: null,
    },
    ...joints,
    ...throughScreen(design),
    ...free,
  ];
}

const listensOrShows = ({ ends }: AdapterDesign): boolean =>
  ends.some(({ pins }) => pins.some(({ kind }) => kind === 'audio' || kind === 'video'));
/** A microphone or video pair keeps its screen, tied to ground at one end. */
const keepsItsScreen = (design: AdapterDesign, wire: Wire | undefined): boolean =>
  wire?.colour === SCREEN && listensOrShows(design);

function screenWords({ ends }: AdapterDesign, wire: string): string {
  const tied = ends.flatMap(({ id, pins }) => {
    const pin = pins.find(({ kind }) => kind === 'shield') ?? pins.find(({ kind }) => kind === 'ground');
    return pin ? [{ id, words: `${id} ${pin.contact} ${pin.signal}` }] : [];
  })[0];
  const others = ends.filter(({ id }) => id !== tied?.id).map(({ id }) => id);
  return tied
    ? `Bring ${wire}, sleeved, to ${tied.words}; at ${others.join(', ')} cut it back and insulate it: grounded at one end only.`
    : `Insulate conductor ${wire} at both ends and fold it back.`;
}

/** Screens of two moulded halves are joined through, like to like. */
function throughScreen(design: AdapterDesign): BuildStep[] {
  const both = design.ends.every(({ pins }) => pins.some(({ kind }) => kind === 'shield'));
  if (!both || !listensOrShows(design)) return [];
  return [
    {
      id: 'splice screens',
      kind: 'joint',
      words:
        'Join screen to screen over the finished joints, apart from every wire: the pair keeps its screen.',
      end: null,
      contact: null,
      wire: null,
      colour: null,
      farColour: null,
    },
  ];
}

function laidOrNull(job: RibbonJob): RibbonLay | null {
  try {
    return layRibbon(job);
  } catch (error) {
    if (error instanceof NoRibbon) return null;
    throw error;
  }
}

const threadsOf = ({ layout }: Pick<AdapterEnd, 'layout'>): readonly string[] =>
  layoutFor(layout ?? null)?.threads ?? [];

/** Contacts as the person wiring reads them: rows of the wiring side, or the pinout's order where nothing is drawn. */
function inReadingOrder({ layout, pins }: AdapterEnd): ContactId[] {
  const drawn = layoutFor(layout ?? null);
  const given = pins.map(({ contact }) => contact);
  if (!drawn) return given;
  const read = rowsOfFace(drawn, { face: 'rear', latch: 'down' }).flat();
  return [...read.filter((contact) => given.includes(contact)), ...given.filter((c) => !read.includes(c))];
}
