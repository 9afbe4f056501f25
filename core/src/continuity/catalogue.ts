import { SCREEN, type ConductorId } from '../cabling/conductors.js';
import {
  EIGHT_CONTACTS,
  SCHEMES,
  SCREEN_CONTACT,
  type ContactId,
  type SchemeId,
} from '../cabling/schemes.js';
import type { LinkExpectation } from './expectation.js';
import { pairsOfConductors, type Effect, type PhysicalFault } from './faults.js';
import type { Frame } from './frame.js';
import type { FaultKind } from './instruments.js';
import { LOOSE, OPEN, POOR } from './link-state.js';
import { CARRIED_ALONG, handFactor, TYPICAL_PRACTICE, type Practice, type SlipKind } from './practice.js';
import type { LinkEnd } from './true-link.js';

const PAIR_BY_PAIR: readonly ConductorId[] = ['WH-OG', 'OG', 'WH-GN', 'GN', 'WH-BU', 'BU', 'WH-BN', 'BN'];
const POOR_WORDS = ['a little resistance', 'high resistance', 'very high resistance'] as const;

/** A slip of one kind before its rate is shared out among the ways it can happen. */
interface Way {
  kind: FaultKind;
  contacts: readonly number[];
  words: string;
  effects: readonly Effect[];
  /** Share among the ways of its slip. */
  weight?: number;
}

/**
 * Everything that is considered to happen at one end of a link, with its rate. Order slips come
 * first, whole orders before single wires: a hand first lays the order, then wires go astray.
 */
export function faultsAtEnd(
  expected: LinkExpectation,
  frame: Frame,
  end: LinkEnd,
  practice: Practice = TYPICAL_PRACTICE,
): PhysicalFault[] {
  const { connector } = expected[end];
  const where = `${end === 'near' ? 'Near' : 'Far'} ${connector === 'other' ? 'end' : connector}`;
  const bench = new EndBench(expected, frame, end);
  const ways: Partial<Record<SlipKind, Way[]>> = {
    ...(expected.family === 'balanced' ? bench.schemeOrders() : bench.plainOrders()),
    ...bench.joints(),
  };
  const wires = (contacts: readonly number[]): (ConductorId | null)[] =>
    contacts.map((c) => expected[end].wiring[frame.contacts[end][c] as string] ?? null);
  return (Object.entries(ways) as [SlipKind, Way[]][]).flatMap(([slip, list]) => {
    const total = list.reduce((sum, way) => sum + (way.weight ?? 1), 0);
    const rate = practice.rates[slip] * handFactor(expected[end], slip) * bench.factor(slip);
    return list.map((way) => ({
      kind: way.kind,
      slip,
      end,
      contacts: way.contacts.map((c) => frame.contacts[end][c] as ContactId),
      pairs:
        way.kind === 'short' || way.kind === 'equipment' ? [] : pairsOfConductors(frame, wires(way.contacts)),
      distanceM: null,
      words: `${where}: ${way.words}`,
      rate: (rate * (way.weight ?? 1)) / total,
      effects: way.effects,
    }));
  });
}

/** The ways one end can go wrong. */
class EndBench {
  private readonly contacts: readonly ContactId[];
  /** Contacts that carry a conductor which is not the screen. */
  private readonly wired: readonly number[];

  constructor(
    private readonly expected: LinkExpectation,
    private readonly frame: Frame,
    private readonly end: LinkEnd,
  ) {
    this.contacts = frame.contacts[end];
    this.wired = this.contacts.flatMap((contact, i) => {
      const conductor = expected[end].wiring[contact];
      return conductor != null && conductor !== SCREEN ? [i] : [];
    });
  }

  /** Slips per contact happen oftener where there are more contacts; the typical figures are of eight. */
  factor(slip: SlipKind): number {
    const perContact: readonly SlipKind[] = [
      'missed-slot',
      'poor-joint',
      'loose-joint',
      'touching-neighbours',
      'reversed-pair',
      'neighbour-swap',
    ];
    const few = this.expected.family === 'coax' || this.expected.family === 'line';
    return perContact.includes(slip) && !few ? this.wired.length / 8 : 1;
  }

  /** Slips of order on eight contacts wired to a scheme. */
  schemeOrders(): Partial<Record<SlipKind, Way[]>> {
    const { scheme } = this.expected[this.end];
    const other: SchemeId = scheme === 'T568A' ? 'T568B' : 'T568A';
    const pairByPair = this.laid(PAIR_BY_PAIR);
    return {
      'other-scheme': [
        {
          kind: 'mixed-scheme',
          contacts: this.numbers(['1', '2', '3', '6']),
          words: `wired as ${other}`,
          effects: [this.laid(SCHEMES[other].order)],
        },
      ],
      'pair-by-pair': [
        {
          kind: 'split',
          contacts: this.numbers(EIGHT_CONTACTS),
          words: 'laid pair by pair: 1-2, 3-4, 5-6, 7-8',
          effects: [pairByPair],
        },
      ],
      mirror: [
        this.reordered('mirror', [7, 6, 5, 4, 3, 2, 1, 0], 'whole order mirrored, held the wrong way up'),
      ],
      shift: [
        this.reordered('shifted', [-1, 0, 1, 2, 3, 4, 5, 6], 'order one contact too high, contact 1 empty'),
        this.reordered('shifted', [1, 2, 3, 4, 5, 6, 7, -1], 'order one contact too low, contact 8 empty'),
      ],
      ...this.exchanges((a, b) => scheme !== 'nested' && a.a === 0 && b.a === 2),
    };
  }

  /** Slips of order where contacts are counted off: telephone pairs, ribbon, an adapter's list. */
  plainOrders(): Partial<Record<SlipKind, Way[]>> {
    const { family } = this.expected;
    const n = this.wired.length;
    if (family === 'coax') return {};
    const legs = this.exchanges(() => false);
    if (family === 'line') return { 'reversed-pair': legs['reversed-pair'] ?? [] };
    if (n < 3) return legs;
    const step = family === 'multipair' ? 2 : 1;
    const what = family === 'multipair' ? 'whole block one row' : 'order one contact';
    const shifted = (by: number): number[] =>
      this.wired.map((_, i) => (i - by >= 0 && i - by < n ? (this.wired[i - by] as number) : -1));
    return {
      mirror: [
        this.spread('mirror', [...this.wired].reverse(), 'order mirrored: one face taken for the other'),
      ],
      shift: [
        this.spread('shifted', shifted(step), `${what} too high`),
        this.spread('shifted', shifted(-step), `${what} too low`),
      ],
      ...legs,
    };
  }

  /** Two pairs, two wires of a pair, or any two wires exchanged. */
  private exchanges(
    isOtherScheme: (p: { a: number; b: number }, q: { a: number; b: number }) => boolean,
  ): Partial<Record<SlipKind, Way[]>> {
    const { frame, end, wired } = this;
    const paired = this.expected.conductors.some((w) => w.pair !== null);
    const pairs = paired ? frame.pairs[end] : [];
    const many = wired.length > 10;
    const transposed = pairs.flatMap((p, i) =>
      pairs.slice(i + 1, many ? i + 2 : undefined).flatMap((q) => {
        if (isOtherScheme(p, q)) return [];
        return [
          this.exchanged(
            'transposed',
            [
              [p.a, q.a],
              [p.b, q.b],
            ],
            `pairs ${p.name} and ${q.name} exchanged`,
          ),
        ];
      }),
    );
    const reversed: Way[] = [];
    const neighbours: Way[] = [];
    const distant: Way[] = [];
    wired.forEach((a, i) => {
      for (const b of wired.slice(i + 1)) {
        const words = `${this.wire(a)} and ${this.wire(b)} exchanged on ${this.contacts[a]} and ${this.contacts[b]}`;
        if (paired && frame.mate[end][a] === b) reversed.push(this.exchanged('reversed', [[a, b]], words));
        else if (b - a === 1) neighbours.push(this.exchanged('swap', [[a, b]], words));
        else if (!many || b - a === 2) distant.push(this.exchanged('swap', [[a, b]], words));
      }
    });
    return {
      'transposed-pairs': transposed,
      'reversed-pair': reversed,
      'neighbour-swap': neighbours,
      'distant-swap': distant,
    };
  }

  /** What can be wrong with single joints. */
  joints(): Partial<Record<SlipKind, Way[]>> {
    const { end, contacts, wired, expected } = this;
    const { family } = expected;
    const seat = (contact: number, condition: number): Effect[] => [
      { does: 'seat', end, contact, condition },
    ];
    const touching = (a: number, b: number): Way => ({
      kind: 'short',
      contacts: [a, b],
      words:
        family === 'coax'
          ? 'a strand of the screen touches the centre'
          : family === 'line'
            ? 'the two legs touch'
            : `contacts ${contacts[a]} and ${contacts[b]} touch`,
      effects: [{ does: 'bridge', end, a, b }],
    });
    const screenAt = contacts.indexOf(SCREEN_CONTACT);
    const screened = expected.screened && screenAt >= 0;
    const neighbours = wired.slice(1).map((b, i) => touching(wired[i] as number, b));
    return {
      'missed-slot': wired.map((c) => ({
        kind: 'open',
        contacts: [c],
        words:
          family === 'balanced'
            ? `${this.wire(c)} not seated on contact ${contacts[c]}`
            : `${this.named(c)} not making contact`,
        effects: seat(c, OPEN),
      })),
      [family === 'coax' ? 'screen-strand' : 'touching-neighbours']: neighbours,
      'poor-joint': wired.flatMap((c) =>
        POOR.map((condition, grade) => ({
          kind: 'high-resistance' as const,
          contacts: [c],
          words: `${POOR_WORDS[grade]} at ${this.named(c)}`,
          effects: seat(c, condition),
        })),
      ),
      'loose-joint': wired.map((c) => ({
        kind: 'intermittent',
        contacts: [c],
        words: `${this.named(c)} loose`,
        effects: seat(c, LOOSE),
      })),
      ...(screened
        ? {
            'screen-not-bonded': [
              {
                kind: 'screen-open' as const,
                contacts: [screenAt],
                words: 'screen not bonded, drain not under the clip',
                effects: [
                  { does: 'reorder' as const, end, order: contacts.map((_, i) => (i === screenAt ? -1 : i)) },
                ],
              },
            ],
            'screen-strand': [wired[0], wired.at(-1)].flatMap((c) =>
              c === undefined
                ? []
                : [
                    {
                      kind: 'short' as const,
                      contacts: [c, screenAt],
                      words: `drain or screen touches contact ${contacts[c]}`,
                      effects: [{ does: 'bridge' as const, end, a: c, b: screenAt }],
                    },
                  ],
            ),
          }
        : {}),
      ...(family === 'balanced'
        ? {
            'equipment-left': [
              {
                kind: 'equipment' as const,
                contacts: wired,
                words: 'equipment still connected: its transformers join each pair',
                effects: [{ does: 'equipment' as const, end }],
              },
            ],
          }
        : {}),
    };
  }

  private wire(contact: number): string {
    return this.expected[this.end].wiring[this.contacts[contact] as string] ?? 'nothing';
  }

  private named(contact: number): string {
    const { family } = this.expected;
    const name = this.contacts[contact] as string;
    if (family === 'coax') return name === 'C' ? 'centre' : 'shell';
    if (family === 'line') return `${name} leg`;
    return `${this.wire(contact)} on contact ${name}`;
  }

  private numbers(contacts: readonly ContactId[]): number[] {
    return contacts.map((contact) => this.frame.contactIndex(this.end, contact));
  }

  private laid(order: readonly ConductorId[]): Effect {
    const { end, frame } = this;
    return { does: 'wire', end, wiring: order.map((conductor) => frame.conductorIndex(conductor)) };
  }

  private reordered(kind: FaultKind, order: readonly number[], words: string): Way {
    const { end } = this;
    return {
      kind,
      contacts: this.numbers(EIGHT_CONTACTS),
      words,
      effects: [{ does: 'reorder', end, order }],
    };
  }

  /** The wired contacts, in their order, get the conductors of these contacts. */
  private spread(kind: FaultKind, from: readonly number[], words: string): Way {
    const order = this.contacts.map((_, i) => i);
    this.wired.forEach((contact, i) => (order[contact] = from[i] as number));
    return { kind, contacts: this.wired, words, effects: [{ does: 'reorder', end: this.end, order }] };
  }

  private exchanged(kind: FaultKind, swaps: readonly (readonly [number, number])[], words: string): Way {
    const order = this.contacts.map((_, i) => i);
    for (const [a, b] of swaps) [order[a], order[b]] = [b, a];
    return { kind, contacts: swaps.flat(), words, effects: [{ does: 'reorder', end: this.end, order }] };
  }
}

/** Faults along the cable: each at every place that is named, or at a place nobody knows. */
export function faultsAlongCable(
  expected: LinkExpectation,
  frame: Frame,
  places: readonly CablePlace[],
  practice: Practice = TYPICAL_PRACTICE,
): PhysicalFault[] {
  const where = places.length > 0 ? places : [{ atM: null, share: 1 }];
  const slips = where.flatMap(({ atM, share }, i) =>
    cableWays(expected, frame, atM).flatMap(({ slip, ways }) => {
      const placeless = slip === 'other-outlet' || slip === 'wrong-splice';
      if (ways.length === 0 || (placeless && i > 0)) return [];
      return [{ slip, ways, atM: placeless ? null : atM, share: placeless ? 1 : share }];
    }),
  );
  return slips.flatMap(({ slip, ways, atM, share }) => {
    const total = ways.reduce((sum, way) => sum + (way.weight ?? 1), 0);
    const at = atM === null ? 'somewhere along the cable' : `${atM.toFixed(1)} m from the near end`;
    return ways.map((way): PhysicalFault => ({
      kind: way.kind,
      slip,
      end: 'cable',
      contacts: frame.contacts.near.filter((c) => {
        const conductor = expected.near.wiring[c];
        return conductor != null && way.contacts.includes(frame.conductorIndex(conductor));
      }),
      pairs: pairsOfConductors(
        frame,
        way.contacts.map((w) => frame.conductors[w] ?? null),
      ),
      distanceM: atM,
      words:
        slip === 'other-outlet'
          ? way.words
          : `Cable: ${way.words} ${slip === 'wrong-splice' ? '' : at}`.trim(),
      rate: (practice.rates[slip] * share * (way.weight ?? 1)) / total,
      effects: way.effects,
    }));
  });
}

/** A place along the cable to try, with the share of belief a fault's unknown place gives it. */
export interface CablePlace {
  atM: number | null;
  share: number;
}

/** Ways by slip; here `contacts` are conductors. */
function cableWays(
  expected: LinkExpectation,
  frame: Frame,
  place: number | null,
): { slip: SlipKind; ways: Way[] }[] {
  const atM = place ?? NaN;
  const used = new Set([...Object.values(expected.near.wiring), ...Object.values(expected.far.wiring)]);
  const all = frame.conductors.flatMap((id, w) => (used.has(id) ? [w] : []));
  const screen = frame.conductorIndex(SCREEN);
  const wires = all.filter((w) => w !== screen);
  const core = (conductors: readonly number[], condition: number): Effect[] => [
    { does: 'core', conductors, condition, atM },
  ];
  const name = (w: number): string => frame.conductors[w] as string;
  const many = wires.length > 10;
  const couples = all.flatMap((a, i) =>
    all.slice(i + 1, many ? i + 4 : undefined).map((b) => [a, b] as const),
  );
  const samePair = ([a, b]: readonly [number, number]): boolean =>
    frame.pairOf[a] === frame.pairOf[b] && (frame.pairOf[a] as number) > 0;
  const pierced = (couple: readonly [number, number]): Way => ({
    kind: 'short',
    contacts: couple,
    words: `${name(couple[0])} and ${name(couple[1])} pierced together`,
    effects: [{ does: 'join', a: couple[0], b: couple[1], atM }],
  });
  const splices = couples.filter(([a, b]) => a !== screen && b !== screen && (!many || samePair([a, b])));
  const list: { slip: SlipKind; ways: Way[] }[] = [
    {
      slip: 'broken-conductor',
      ways: wires.map((w) => ({
        kind: 'open',
        contacts: [w],
        words: `${name(w)} broken`,
        effects: core([w], OPEN),
      })),
    },
    {
      slip: 'cut-through',
      ways: [{ kind: 'open', contacts: all, words: 'cut through', effects: core(all, OPEN) }],
    },
    { slip: 'pierced-pair', ways: couples.filter(samePair).map(pierced) },
    { slip: 'pierced-others', ways: couples.filter((couple) => !samePair(couple)).map(pierced) },
    {
      slip: 'wet-or-crushed',
      ways: [{ kind: 'disturbed', contacts: [], words: 'wet or crushed', effects: [{ does: 'wet', atM }] }],
    },
    {
      slip: 'poor-conductor',
      ways: wires.flatMap((w) =>
        POOR.map((condition, grade) => ({
          kind: 'high-resistance' as const,
          contacts: [w],
          words: `${name(w)} nicked, ${POOR_WORDS[grade]}`,
          effects: core([w], condition),
        })),
      ),
    },
    {
      slip: 'loose-conductor',
      ways: wires.map((w) => ({
        kind: 'intermittent',
        contacts: [w],
        words: `${name(w)} opens and closes`,
        effects: core([w], LOOSE),
      })),
    },
  ];
  if (screen >= 0)
    list.push({
      slip: 'broken-screen',
      ways: [
        { kind: 'screen-open', contacts: [screen], words: 'screen broken', effects: core([screen], OPEN) },
      ],
    });
  if (expected.family !== 'coax')
    list.push({
      slip: 'wrong-splice',
      ways: splices.map(([a, b]) => ({
        kind: 'splice',
        contacts: [a, b],
        words: `${name(a)} and ${name(b)} exchanged at a splice`,
        effects: [{ does: 'splice', a, b }],
        weight: samePair([a, b]) ? 3 : 1,
      })),
    });
  list.push({
    slip: 'other-outlet',
    ways: [
      {
        kind: 'not-connected',
        contacts: all,
        words: 'No remote at the far end, or another outlet than the label says',
        effects: [{ does: 'absent' }],
      },
    ],
  });
  return list;
}

/** The same slip at both ends by one hand, as one thing that happened. */
export function carriedSlips(
  near: readonly PhysicalFault[],
  far: readonly PhysicalFault[],
): [PhysicalFault, PhysicalFault][] {
  const what = (fault: PhysicalFault): string => fault.words.slice(fault.words.indexOf(':'));
  const atFar = new Map(far.map((fault) => [what(fault), fault]));
  return near.flatMap((fault) => {
    const twin = CARRIED_ALONG[fault.slip] === undefined ? undefined : atFar.get(what(fault));
    return twin ? [[fault, twin] as [PhysicalFault, PhysicalFault]] : [];
  });
}
