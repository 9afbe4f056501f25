import { COPPER_OHM_MM2_PER_M } from '../quantities/copper.js';
import {
  familyOf,
  netsOf,
  placeWords,
  type AdapterDesign,
  type AdapterNet,
  type Coupling,
  type PlacedPin,
} from './design.js';
import { matchLevels, proposeLevelChange, type LevelFamily } from './levels.js';

export type RuleId =
  | 'two-sources'
  | 'supply-out-of-range'
  | 'supply-current'
  | 'load-unfed'
  | 'outputs-fight'
  | 'input-undriven'
  | 'no-pull-up'
  | 'ground-missing'
  | 'ground-to-supply'
  | 'signal-on-supply'
  | 'levels-damage'
  | 'levels-unread'
  | 'levels-inverted'
  | 'levels-tight'
  | 'levels-unknown'
  | 'contact-current'
  | 'voltage-drop'
  | 'shield'
  | 'pair-incomplete'
  | 'joined-not-connected'
  | 'face-unsaid'
  | 'not-metered'
  | 'unused';

/** What a rule found: where, how bad, and what mends it. */
export interface RuleFinding {
  rule: RuleId;
  severity: 'wrong' | 'unsure' | 'note';
  /** Contacts it is about, as "A 3". */
  contacts: string[];
  words: string;
  remedy: string;
}

/** A battery's end of life, and the lower end of a supply's tolerance, as shares of nominal. */
const SAGS = 0.9;
/** More drop than this share of a supply is told. */
const DROP_SHARE = 0.03;

const isOutput = ({ pin }: PlacedPin): boolean => pin.kind === 'output';
const canDrive = ({ pin: { kind } }: PlacedPin): boolean =>
  kind === 'output' || kind === 'open-collector' || kind === 'both';
const listens = ({ pin: { kind } }: PlacedPin): boolean => kind === 'input' || kind === 'both';
const places = (pins: readonly PlacedPin[]): string[] => pins.map(placeWords);
const named = (pins: readonly PlacedPin[]): string =>
  pins.map((placed) => `${placeWords(placed)} ${placed.pin.signal}`).join(', ');

/**
 * Everything that is electrically wrong, doubtful or worth knowing about an adapter, the worst
 * first. Rules look at nets and at what parts couple; a level stage in the way of a join answers for
 * its levels.
 *
 * @throws BadDesign for a join to a contact that is not there
 */
export function checkAdapter(design: AdapterDesign): RuleFinding[] {
  const { nets, couplings } = netsOf(design);
  const joined = new Set(nets.flatMap(({ pins }) => places(pins)));
  const findings = [
    ...nets.flatMap((net) => [
      ...supplyRules(net, couplings),
      ...driveRules(net, couplings),
      ...levelRules(net),
      ...shieldRules(net),
      ...currentRules(net, design),
    ]),
    ...couplings.flatMap((coupling) => coupledLevels(coupling, nets, couplings)),
    ...groundRules(design, nets),
    ...pinRules(design, joined),
    ...pairRules(design, nets),
  ];
  const order = { wrong: 0, unsure: 1, note: 2 };
  return findings.sort((a, b) => order[a.severity] - order[b.severity]);
}

function supplyRules(net: AdapterNet, couplings: readonly Coupling[]): RuleFinding[] {
  const { pins } = net;
  const out: RuleFinding[] = [];
  const sources = pins.filter(({ pin }) => pin.kind === 'supply-out');
  const loads = pins.filter(({ pin }) => pin.kind === 'supply-in');
  const grounds = pins.filter(({ pin }) => pin.kind === 'ground');
  const signals = pins.filter((placed) => canDrive(placed) || listens(placed));
  if (sources.length > 1)
    out.push({
      rule: 'two-sources',
      severity: 'wrong',
      contacts: places(sources),
      words: `${named(sources)}: two supplies in parallel, which fight even at equal voltage.`,
      remedy: 'Join one of them only, or feed each through a diode.',
    });
  if (grounds.length > 0 && sources.length + loads.length > 0)
    out.push({
      rule: 'ground-to-supply',
      severity: 'wrong',
      contacts: places([...grounds, ...sources, ...loads]),
      words: `${named([...grounds, ...sources, ...loads])} are one: a supply is shorted to ground.`,
      remedy: 'Part them: ground goes to ground, supply to supply.',
    });
  if (sources.length > 0 && signals.some(isOutput))
    out.push({
      rule: 'signal-on-supply',
      severity: 'wrong',
      contacts: places([...sources, ...signals]),
      words: `${named(signals)} stands on the supply ${named(sources)}.`,
      remedy: 'Join the signal to its own contact, or through a resistor where it is to be held high.',
    });
  for (const source of sources) {
    for (const load of loads) {
      const [gives, takes] = [source.pin.volts, load.pin.volts];
      if (!gives || !takes) continue;
      if (gives[0] < takes[0] || gives[1] > takes[1])
        out.push({
          rule: 'supply-out-of-range',
          severity: gives[1] > takes[1] ? 'wrong' : 'unsure',
          contacts: places([source, load]),
          words: `${named([source])} gives ${range(gives)}, ${named([load])} accepts ${range(takes)}.`,
          remedy:
            gives[1] > takes[1] ? 'Put a regulator between.' : 'Take a supply that holds the load’s least.',
        });
    }
    const taken = loads.reduce((sum, { pin }) => sum + pin.currentA, 0);
    if (taken > source.pin.currentA)
      out.push({
        rule: 'supply-current',
        severity: 'wrong',
        contacts: places([source, ...loads]),
        words: `${named([source])} can give ${source.pin.currentA} A; ${named(loads)} take ${taken.toFixed(2)} A.`,
        remedy: 'Feed the load from a supply of its own, grounds joined.',
      });
  }
  const fedThrough = through(net, couplings).some(({ pin }) => pin.kind === 'supply-out');
  if (loads.length > 0 && sources.length === 0 && !fedThrough)
    out.push({
      rule: 'load-unfed',
      severity: 'unsure',
      contacts: places(loads),
      words: `${named(loads)}: no supply is on this net.`,
      remedy: 'Join a supply, or say that the device has its own.',
    });
  return out;
}

const range = ([from, to]: readonly [number, number]): string =>
  from === to ? `${from} V` : `${from} to ${to} V`;

/** Pins that reach a net through parts. */
const through = ({ pins }: AdapterNet, couplings: readonly Coupling[]): PlacedPin[] => {
  const on = new Set(places(pins));
  return couplings.flatMap(({ from, to }) => [
    ...(on.has(placeWords(from)) ? [to] : []),
    ...(on.has(placeWords(to)) ? [from] : []),
  ]);
};

function driveRules(net: AdapterNet, couplings: readonly Coupling[]): RuleFinding[] {
  const out: RuleFinding[] = [];
  const outputs = net.pins.filter(isOutput);
  const beyond = through(net, couplings);
  const drivers = [...net.pins, ...beyond].filter(canDrive);
  if (outputs.length > 1)
    out.push({
      rule: 'outputs-fight',
      severity: 'wrong',
      contacts: places(outputs),
      words: `${named(outputs)}: outputs against each other.`,
      remedy: 'Cross them: what one sends goes to what the other hears.',
    });
  const inputs = net.pins.filter(({ pin }) => pin.kind === 'input');
  const held = [...net.pins, ...beyond].some(({ pin }) => pin.kind === 'supply-out' || pin.kind === 'ground');
  if (inputs.length > 0 && drivers.length === 0 && !held)
    out.push({
      rule: 'input-undriven',
      severity: 'wrong',
      contacts: places(inputs),
      words: `${named(inputs)}: nothing drives ${inputs.length > 1 ? 'these inputs' : 'this input'}.`,
      remedy: 'Join an output, or hold it by a resistor to supply or ground.',
    });
  const collectors = net.pins.filter(({ pin }) => pin.kind === 'open-collector');
  const pulled =
    net.pins.some(({ pin }) => pin.pullUp) ||
    beyond.some(({ pin }) => pin.kind === 'supply-out') ||
    outputs.length > 0;
  if (collectors.length > 0 && !pulled)
    out.push({
      rule: 'no-pull-up',
      severity: 'wrong',
      contacts: places(net.pins),
      words: `${named(collectors)} is an open collector, and nothing pulls it up.`,
      remedy: 'Add a resistor of a few kilohm to the receiver’s supply.',
    });
  return out;
}

function levelRules({ pins }: AdapterNet): RuleFinding[] {
  const drivers = pins.filter(canDrive);
  const listeners = pins.filter(listens);
  return drivers.flatMap((driver) =>
    listeners
      .filter((listener) => listener.pin !== driver.pin)
      .flatMap((listener) => levelsBetween(driver, listener)),
  );
}

/** `share` is what is left of the driver's levels behind a divider; 1 where there is none. */
function levelsBetween(driver: PlacedPin, listener: PlacedPin, share = 1): RuleFinding[] {
  const [gives, takes] = [divided(familyOf(driver.pin), share), familyOf(listener.pin)];
  const contacts = places([driver, listener]);
  const between = `${named([driver])} to ${named([listener])}`;
  if (!gives || !takes)
    return driver.pin.kind === 'open-collector'
      ? []
      : [
          {
            rule: 'levels-unknown',
            severity: 'unsure',
            contacts,
            words: `${between}: the levels of ${!gives ? placeWords(driver) : placeWords(listener)} are not known.`,
            remedy: 'Look them up, or measure them with an oscilloscope.',
          },
        ];
  const match = matchLevels(gives, takes);
  const { words: remedy } = proposeLevelChange(gives, takes, {
    bothWays: driver.pin.kind === 'both' && listener.pin.kind === 'both',
  });
  const finding = (rule: RuleId, severity: RuleFinding['severity'], words: string): RuleFinding[] => [
    { rule, severity, contacts, words: `${between}: ${words}`, remedy },
  ];
  const margins = `${match.highMarginV.toFixed(2)} V over its high threshold, ${match.lowMarginV.toFixed(2)} V under its low one`;
  switch (match.verdict) {
    case 'damages':
      return finding(
        'levels-damage',
        'wrong',
        `${gives.name} goes ${(-match.bearsV).toFixed(1)} V beyond what a ${takes.name} input bears.`,
      );
    case 'does not read':
      // An open collector's high is its pull-up's, and of no family of its own.
      return driver.pin.kind === 'open-collector' && match.lowMarginV >= 0
        ? []
        : finding('levels-unread', 'wrong', `${takes.name} does not read ${gives.name}: ${margins}.`);
    case 'inverted':
      return finding('levels-inverted', 'wrong', `${gives.name} and ${takes.name} are of opposite polarity.`);
    case 'tight':
      return finding('levels-tight', 'unsure', `little is left: ${margins}.`);
    case 'fits': {
      const sagging = matchLevels(gives, takes, { driver: SAGS });
      return sagging.highMarginV < 0
        ? finding(
            'levels-tight',
            'unsure',
            `it reads at nominal, not where the sender’s supply is a tenth low: ${sagging.highMarginV.toFixed(2)} V.`,
          )
        : [];
    }
  }
}

/** A family's levels behind a divider. */
const divided = (family: LevelFamily | null, share: number): LevelFamily | null =>
  family === null || share === 1
    ? family
    : {
        ...family,
        name: `${family.name} divided to ${Math.round(100 * share)} %`,
        supplyV: family.supplyV * share,
        outLowV: family.outLowV * share,
        outHighV: family.outHighV * share,
      };

/**
 * Levels of what resistors and diodes couple: a resistor in the way with one from there to ground
 * divides, alone it lowers nothing. A level stage answers for its own.
 */
function coupledLevels(
  { from, to, parts }: Coupling,
  nets: readonly AdapterNet[],
  couplings: readonly Coupling[],
): RuleFinding[] {
  if (!parts.every(({ kind }) => kind === 'resistor' || kind === 'diode')) return [];
  return [
    [from, to],
    [to, from],
  ].flatMap(([driver, listener]) => {
    if (!driver || !listener || !isOutput(driver) || !listens(listener)) return [];
    const ground = toGroundOhm(listener, nets, couplings);
    const series = parts.reduce((sum, { ohm = 0 }) => sum + ohm, 0);
    return levelsBetween(driver, listener, ground === null ? 1 : ground / (ground + series));
  });
}

/** Ohm of a resistor from a contact's net to a ground; null where there is none. */
function toGroundOhm(
  placed: PlacedPin,
  nets: readonly AdapterNet[],
  couplings: readonly Coupling[],
): number | null {
  const on = nets.find(({ pins }) => pins.some(({ pin }) => pin === placed.pin));
  const inNet = ({ pin }: PlacedPin): boolean => on?.pins.some((other) => other.pin === pin) ?? false;
  const grounds = ({ pin }: PlacedPin): boolean => pin.kind === 'ground';
  const down = couplings.find(
    ({ from, to, parts }) =>
      parts.length === 1 &&
      parts[0]?.kind === 'resistor' &&
      ((inNet(from) && grounds(to)) || (inNet(to) && grounds(from))),
  );
  return down?.parts[0]?.ohm ?? null;
}

function shieldRules({ pins }: AdapterNet): RuleFinding[] {
  const shields = pins.filter(({ pin }) => pin.kind === 'shield');
  const ends = new Set(shields.map(({ end }) => end));
  if (ends.size < 2) return [];
  return [
    {
      rule: 'shield',
      severity: 'unsure',
      contacts: places(shields),
      words: `${named(shields)}: the shield is grounded at both ends, where currents between two buildings’ or supplies’ grounds may run in it.`,
      remedy: 'For signal leads ground it at one end, unless the design asks for both.',
    },
  ];
}

function currentRules({ pins }: AdapterNet, { ends, wires, lengthM }: AdapterDesign): RuleFinding[] {
  const out: RuleFinding[] = [];
  const sources = pins.filter(({ pin }) => pin.kind === 'supply-out');
  const loads = pins.filter(({ pin }) => pin.kind === 'supply-in');
  const flows = loads.reduce((sum, { pin }) => sum + pin.currentA, 0);
  if (flows === 0) return [];
  for (const placed of [...sources, ...loads]) {
    const end = ends.find(({ id }) => id === placed.end);
    // Contacts of one end on one net share the current.
    const side = pins.filter((other) => other.end === placed.end && other.pin.kind === placed.pin.kind);
    const each = placed.pin.kind === 'supply-in' ? placed.pin.currentA : flows / side.length;
    if (end && each > end.contactBearsA)
      out.push({
        rule: 'contact-current',
        severity: 'wrong',
        contacts: [placeWords(placed)],
        words: `${named([placed])} carries ${each.toFixed(2)} A; a contact of ${end.connector} bears ${end.contactBearsA} A.`,
        remedy: 'Share it over several contacts, or take another connector.',
      });
  }
  const thickest = Math.max(0, ...wires.map(({ areaMm2 }) => areaMm2));
  const gives = sources[0]?.pin.volts?.[0];
  if (thickest > 0 && gives !== undefined) {
    // There and back.
    const drop = (2 * lengthM * COPPER_OHM_MM2_PER_M * flows) / thickest;
    if (drop > DROP_SHARE * gives)
      out.push({
        rule: 'voltage-drop',
        severity: 'unsure',
        contacts: places([...sources, ...loads]),
        words: `${flows.toFixed(2)} A through ${lengthM} m of ${thickest} mm2, there and back, lose ${drop.toFixed(2)} V of ${gives} V.`,
        remedy: 'Take thicker or more conductors, or a shorter lead.',
      });
  }
  return out;
}

/** A balanced pair of audio or video brings its own way back. */
const ownReturn = ({ kind, together }: PlacedPin['pin']): boolean =>
  together !== null && (kind === 'audio' || kind === 'video');

/** Ends that exchange signals or supply have to share a ground. */
function groundRules({ ends }: AdapterDesign, nets: readonly AdapterNet[]): RuleFinding[] {
  const grounded = (one: string, other: string): boolean =>
    nets.some(({ pins }) =>
      [one, other].every((id) => pins.some(({ end, pin }) => end === id && pin.kind === 'ground')),
    );
  const talks = (one: string, other: string): boolean =>
    nets.some(({ pins }) =>
      [one, other].every((id) =>
        pins.some(
          ({ end, pin }) =>
            end === id && !['ground', 'shield', 'not-connected'].includes(pin.kind) && !ownReturn(pin),
        ),
      ),
    );
  return ends.flatMap((one, n) =>
    ends.slice(n + 1).flatMap((other): RuleFinding[] =>
      talks(one.id, other.id) && !grounded(one.id, other.id)
        ? [
            {
              rule: 'ground-missing',
              severity: 'wrong',
              contacts: [one, other].flatMap(({ id, pins }) =>
                pins.filter(({ kind }) => kind === 'ground').map(({ contact }) => `${id} ${contact}`),
              ),
              words: `${one.name} and ${other.name} share signals and no ground.`,
              remedy: 'Join their grounds: a signal needs its way back.',
            },
          ]
        : [],
    ),
  );
}

function pinRules({ ends }: AdapterDesign, joined: ReadonlySet<string>): RuleFinding[] {
  return ends.flatMap(({ id, name, pins, sheetFace }) => {
    const out: RuleFinding[] = [];
    if (sheetFace === null)
      out.push({
        rule: 'face-unsaid',
        severity: 'unsure',
        contacts: [],
        words: `Nobody has said which face the pinout of ${name} shows.`,
        remedy: 'Look whether the sheet shows the mating or the wiring side: they are mirror images.',
      });
    for (const pin of pins) {
      const contacts = [`${id} ${pin.contact}`];
      const on = joined.has(contacts[0] ?? '');
      if (on && (pin.kind === 'not-connected' || pin.kind === 'reserved'))
        out.push({
          rule: 'joined-not-connected',
          severity: pin.kind === 'reserved' ? 'wrong' : 'unsure',
          contacts,
          words: `${contacts[0]} ${pin.signal} is ${pin.kind === 'reserved' ? 'reserved by its maker' : 'not connected inside'}, and joined.`,
          remedy: 'Leave it off, and insulate the wire.',
        });
      if (!on && pin.needed)
        out.push({
          rule: pin.kind === 'supply-in' ? 'load-unfed' : 'input-undriven',
          severity: 'wrong',
          contacts,
          words: `${contacts[0]} ${pin.signal} is needed and joined to nothing.`,
          remedy: 'Join it, or say that the device does without.',
        });
      else if (!on && pin.kind !== 'not-connected' && pin.kind !== 'reserved')
        out.push({
          rule: 'unused',
          severity: 'note',
          contacts,
          words: `${contacts[0]} ${pin.signal} does nothing here.`,
          remedy: 'Insulate and keep its wire, or cut it; record which.',
        });
      if (on && (pin.kind === 'supply-out' || pin.kind === 'supply-in') && pin.source !== 'metered')
        out.push({
          rule: 'not-metered',
          severity: 'note',
          contacts,
          words: `${contacts[0]} ${pin.signal}: its voltage is ${pin.source === 'sheet' ? 'from a sheet' : 'typical'}, not metered.`,
          remedy: 'Meter voltage and polarity before the device is connected.',
        });
    }
    return out;
  });
}

/** Halves of a pair go together to one place, or not at all. */
function pairRules({ ends }: AdapterDesign, nets: readonly AdapterNet[]): RuleFinding[] {
  return ends.flatMap(({ id, pins }) => {
    const groups = new Map<string, PlacedPin[]>();
    for (const pin of pins) {
      if (pin.together === null) continue;
      const placed = { end: id, contact: pin.contact, pin };
      groups.set(pin.together, [...(groups.get(pin.together) ?? []), placed]);
    }
    return [...groups.values()].flatMap((halves): RuleFinding[] => {
      const reach = halves.map((half) => {
        const net = nets.find(({ pins: on }) =>
          on.some(({ end, contact }) => end === half.end && contact === half.contact),
        );
        return (net?.pins ?? []).filter(({ end }) => end !== id).map(({ end }) => end);
      });
      const reached = reach.filter((ends2) => ends2.length > 0).length;
      return reached > 0 && reached < halves.length
        ? [
            {
              rule: 'pair-incomplete',
              severity: 'wrong',
              contacts: places(halves),
              words: `${named(halves)} belong together, and only ${reached} of ${halves.length} is joined.`,
              remedy: 'Take both through one pair, or neither.',
            },
          ]
        : [];
    });
  });
}
