import { drawWeighted, type Random } from '../quantities/random.js';
import { carriedSlips, faultsAlongCable, faultsAtEnd } from './slips/catalogue.js';
import { intendedLink, type LinkExpectation } from './expectation.js';
import { inflict, type PhysicalFault } from './faults.js';
import { frameOf, type Frame } from './frame.js';
import { fromState, toState } from './link-state.js';
import { CARRIED_ALONG, TYPICAL_PRACTICE, type Practice } from './practice.js';
import type { LinkEnd, TrueLink } from './true-link.js';

/** A link that chance has broken. */
export interface DrawnLink {
  link: TrueLink;
  faults: readonly PhysicalFault[];
}

/**
 * Breaks links as practice has it: things that go wrong fall by their rates, a wrong idea of the order
 * may be carried to the other end, places along the cable fall anywhere.
 */
export class FaultDice {
  private readonly frame: Frame;
  private readonly intended: TrueLink;
  private readonly atEnds: readonly (readonly PhysicalFault[])[];

  constructor(
    private readonly expected: LinkExpectation,
    private readonly practice: Practice = TYPICAL_PRACTICE,
  ) {
    this.intended = intendedLink(expected);
    this.frame = frameOf(this.intended);
    const near = faultsAtEnd(expected, this.frame, 'near', practice);
    const far = faultsAtEnd(expected, this.frame, 'far', practice);
    const carried = carriedSlips(near, far).map(([a, b]) => [
      { ...a, rate: a.rate * (CARRIED_ALONG[a.slip] ?? 0) },
      b,
    ]);
    this.atEnds = [
      ...carried,
      ...[...near, ...far].map((fault) => [fault]),
      ...this.wild(near),
      ...this.wild(far),
    ];
  }

  /** How many things went wrong, by practice. */
  drawCount(random: Random): 0 | 1 | 2 | 3 {
    const { second, third, wrongShare } = this.practice;
    const rate = [...this.atEnds, ...this.along(random)].reduce((sum, [f]) => sum + (f?.rate ?? 0), 0);
    if (random() >= (wrongShare ?? 1 - Math.exp(-rate))) return 0;
    const draw = random();
    return draw < third ? 3 : draw < third + second ? 2 : 1;
  }

  /** A link with so many different things wrong. */
  draw(count: number, random: Random): DrawnLink {
    const chosen: (readonly PhysicalFault[])[] = [];
    while (chosen.length < count) {
      const things = [...this.atEnds, ...this.along(random)].filter(
        (thing) => !chosen.some((other) => other[0]?.id === thing[0]?.id),
      );
      chosen.push(
        drawWeighted(random, things, ([fault]) => fault?.rate ?? 0).map((f) => this.settle(f, random)),
      );
    }
    // Orders are laid before single wires go astray, as the catalogue lists them.
    const order = new Map(this.atEnds.map((thing, i) => [thing[0]?.id, i]));
    chosen.sort((a, b) => (order.get(a[0]?.id) ?? 1e9) - (order.get(b[0]?.id) ?? 1e9));
    const faults = chosen.flat();
    const state = toState(this.frame, this.intended);
    for (const fault of faults) inflict(state, fault);
    return { link: fromState(this.intended, state), faults };
  }

  private along(random: Random): (readonly PhysicalFault[])[] {
    const { lengthM } = this.expected;
    const atM = Math.round(random() * lengthM * 10) / 10;
    const place = Math.min(lengthM - 0.05, Math.max(0.05, atM));
    return faultsAlongCable(this.expected, this.frame, [{ atM: place, share: 1 }], this.practice).map((f) => [
      f,
    ]);
  }

  private wild(atEnd: readonly PhysicalFault[]): PhysicalFault[][] {
    const [like] = atEnd;
    if (!like || like.end === 'cable' || this.expected.family !== 'balanced') return [];
    return [
      [
        {
          ...like,
          kind: 'scrambled',
          slip: 'wild-order',
          contacts: [],
          pairs: [],
          words: `${like.end === 'near' ? 'Near' : 'Far'} end: laid in any order`,
          rate: this.practice.rates['wild-order'],
          effects: [],
        },
      ],
    ];
  }

  /** A wild order becomes one order. */
  private settle(fault: PhysicalFault, random: Random): PhysicalFault {
    if (fault.slip !== 'wild-order') return fault;
    const end = fault.end as LinkEnd;
    const wiring = Array.from(this.frame.intended[end]);
    const movable = wiring.flatMap((_, c) => (this.frame.contacts[end][c] === 'S' ? [] : [c]));
    for (let i = movable.length - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1));
      const [a, b] = [movable[i] as number, movable[j] as number];
      [wiring[a], wiring[b]] = [wiring[b] as number, wiring[a] as number];
    }
    return { ...fault, effects: [{ does: 'wire', end, wiring }] };
  }
}
