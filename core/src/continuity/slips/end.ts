import { SCREEN } from '../../cabling/conductors.js';
import { SCREEN_CONTACT, type ContactId } from '../../cabling/schemes.js';
import type { EndExpectation, LinkExpectation } from '../expectation.js';
import type { Effect } from '../faults.js';
import type { Frame, FramePair } from '../frame.js';
import type { FaultKind } from '../instruments.js';
import type { LinkEnd } from '../true-link.js';
import type { Way } from './way.js';

/** One end as slips see it: its contacts by their places in the frame. */
export class EndBench {
  readonly contacts: readonly ContactId[];
  /** Contacts that carry a conductor which is not the screen. */
  readonly wired: readonly number[];
  readonly here: EndExpectation;
  readonly screenAt: number;

  constructor(
    readonly expected: LinkExpectation,
    readonly frame: Frame,
    readonly end: LinkEnd,
  ) {
    this.contacts = frame.contacts[end];
    this.here = expected[end];
    this.wired = this.contacts.flatMap((contact, i) => {
      const conductor = this.here.wiring[contact];
      return conductor != null && conductor !== SCREEN ? [i] : [];
    });
    this.screenAt = expected.screened ? this.contacts.indexOf(SCREEN_CONTACT) : -1;
  }

  get paired(): boolean {
    return this.expected.conductors.some((w) => w.pair !== null);
  }

  get pairs(): readonly FramePair[] {
    return this.paired ? this.frame.pairs[this.end] : [];
  }

  /** The contacts in this order get what lay on those. */
  reordered(kind: FaultKind, to: readonly number[], from: readonly number[], variant = ''): Way {
    const order = this.contacts.map((_, i) => i);
    to.forEach((contact, i) => (order[contact] = from[i] as number));
    return { kind, contacts: to, variant, effects: [{ does: 'reorder', end: this.end, order }] };
  }

  exchanged(kind: FaultKind, swaps: readonly (readonly [number, number])[]): Way {
    return this.reordered(
      kind,
      swaps.flat(),
      swaps.flatMap(([a, b]) => [b, a]),
    );
  }

  seat(contact: number, condition: number): Effect {
    return { does: 'seat', end: this.end, contact, condition };
  }

  bridge(a: number, b: number): Effect {
    return { does: 'bridge', end: this.end, a, b };
  }
}
