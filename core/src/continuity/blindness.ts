import { intendedLink, type LinkExpectation } from './expectation.js';
import { inflict, type PhysicalFault } from './faults.js';
import { findIn } from './findings.js';
import { frameFor, type Frame } from './frame.js';
import { FAULT_KINDS, type FaultKind, type InstrumentClass } from './instruments.js';
import { fromState, type LinkState, toState } from './link-state.js';
import { kindOfLink, remember } from './link-kind.js';
import { OBSERVERS } from './observers.js';
import type { Observer } from './observers/observer.js';
import type { Reading } from './readings.js';
import { carriedSlips, faultsAlongCable, faultsAtEnd } from './slips/catalogue.js';
import type { LinkEnd, TrueLink } from './true-link.js';

/** How an instrument is held to a link: from which end, and what it is led over. */
export interface Held {
  instrument: InstrumentClass;
  end?: LinkEnd | undefined;
  plan?: Reading | undefined;
}

/** How a reading was taken, so that it can be taken again on another link. */
export function heldAs(reading: Reading): Held {
  const end =
    'from' in reading ? reading.from : 'end' in reading && reading.end !== 'cable' ? reading.end : 'near';
  return { instrument: reading.instrument, end, plan: reading };
}

/** Faults along the cable are tried a bit past its middle, where no symmetry hides them. */
const PLACE = 0.43;
const KINDS = Object.keys(FAULT_KINDS) as FaultKind[];
/** What is no fault of the link's metal, or has no row of its own. */
const NOT_SEEN_AS_FAULT: readonly FaultKind[] = ['length', 'unexplained'];

/** Lengths are told apart by this share: what an instrument is blind to does not hang on less. */
const LENGTH_STEP = 0.1;
/** What the length tells something about, by ohms or by echoes; the others answer alike on any length. */
const LENGTH_TELLS: readonly InstrumentClass[] = [
  'beeper',
  'ohmmeter',
  'pair-reflectometer',
  'capacitance-meter',
];
const USUAL_M = 30;
/** So many kinds of link with an instrument each are remembered, and of so many kinds all cases. */
const REMEMBERED = { unseen: 3000, cases: 6 };

/** What an instrument is blind to on links of one kind: case by case of the catalogue, of what kind each is. */
const unseenBy = new Map<string, { kinds: readonly FaultKind[]; unseen: Uint8Array }>();
const casesOf = new Map<string, Cases>();

/** A kind of link with everything that may happen to it. */
interface Cases {
  expected: LinkExpectation;
  frame: Frame;
  intended: TrueLink;
  asMeant: LinkState;
  kinds: readonly FaultKind[];
  states: readonly LinkState[];
}

/**
 * Kinds of fault of which none of these instruments, held so, shows at least one case on this link: the
 * whole catalogue is tried, one fault after another, through the instruments' own observers. A kind is
 * left out only where every case of it would have shown. Links that differ only in their label, or in length by a
 * twentieth or so, are one kind.
 */
export function blindTo(expected: LinkExpectation, held: readonly Held[]): readonly FaultKind[] {
  if (held.length === 0) return [];
  const name = kindOfLink(expected);
  const instruments = new Map(held.map((one) => [keyOf(one), one]));
  const each = [...instruments].map(([key, one]) => {
    const lengthM = LENGTH_TELLS.includes(one.instrument) ? rounded(expected.lengthM) : USUAL_M;
    const kind = `${name}/${lengthM}`;
    return remember(unseenBy, REMEMBERED.unseen, `${kind}|${key}`, () => {
      const all = remember(casesOf, REMEMBERED.cases, kind, () => everyCase(ofKind(expected, lengthM)));
      const meant = readOn(all, all.asMeant, one);
      const unseen = Uint8Array.from(all.states, (state) =>
        findIn(all.expected, readOn(all, state, one), meant).length > 0 ? 0 : 1,
      );
      return { kinds: all.kinds, unseen };
    });
  });
  const blind = new Set(each[0]?.kinds.filter((_, i) => each.every(({ unseen }) => unseen[i] === 1)));
  return KINDS.filter((one) => blind.has(one) && !NOT_SEEN_AS_FAULT.includes(one));
}

const rounded = (lengthM: number): number =>
  Math.exp(Math.round(Math.log(lengthM) / LENGTH_STEP) * LENGTH_STEP);

/** A link of the same kind without a name, of that length. */
const ofKind = ({ label: _, ...expected }: LinkExpectation, lengthM: number): LinkExpectation => ({
  ...expected,
  lengthM,
});

function everyCase(expected: LinkExpectation): Cases {
  const intended = intendedLink(expected);
  const frame = frameFor(expected, intendedLink);
  const all = cases(expected, frame).filter(([first]) => first !== undefined);
  return {
    expected,
    frame,
    intended,
    asMeant: toState(frame, intended),
    kinds: all.map(([first]) => (first as PhysicalFault).kind),
    states: all.map((faults) => {
      const state = toState(frame, intended);
      for (const fault of faults) inflict(state, fault);
      return state;
    }),
  };
}

/** Everything the catalogue has for a link: single faults, and pairs split by one hand at both ends. */
function cases(expected: LinkExpectation, frame: Frame): (readonly PhysicalFault[])[] {
  const near = faultsAtEnd(expected, frame, 'near');
  const far = faultsAtEnd(expected, frame, 'far');
  const along = faultsAlongCable(expected, frame, [{ atM: PLACE * expected.lengthM, share: 1 }]);
  // Any other order made alike at both ends leaves a link that works as it should.
  const split = carriedSlips(near, far).filter(([fault]) => fault.kind === 'split');
  return [...[...near, ...far, ...along].map((fault) => [fault]), ...split];
}

function readOn(
  { frame, intended }: Cases,
  state: LinkState,
  { instrument, end = 'near', plan }: Held,
): Reading {
  const observer = OBSERVERS[instrument] as unknown as Observer<Reading>;
  let link: TrueLink | null = null;
  const look = {
    frame,
    state,
    get link() {
      return (link ??= fromState(intended, state));
    },
  };
  return observer.read(look, { end, plan }, null);
}

/** What decides an instrument's answers beside the link: its class, its end, what it is led over. */
function keyOf({ instrument, end, plan }: Held): string {
  if (!plan) return `${instrument}/${end}`;
  const asked =
    'touches' in plan
      ? plan.touches.map(({ from, to, joined }) => [from, to, joined])
      : 'tones' in plan
        ? plan.tones.map(({ on }) => on)
        : 'across' in plan
          ? [plan.feed, plan.across.map(({ contacts }) => contacts)]
          : 'screenEarthed' in plan
            ? plan.screenEarthed
            : plan.instrument === 'capacitance-meter'
              ? Object.keys(plan.nF)
              : plan.instrument === 'pair-reflectometer'
                ? Object.keys(plan.pairs)
                : plan.instrument === 'wiggle'
                  ? plan.end
                  : '';
  return `${instrument}/${end}/${JSON.stringify(asked)}`;
}
