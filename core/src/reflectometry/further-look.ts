import type { EventKind, KindShare } from './events.js';

/** What would tell two kinds apart that a trace alone does not. */
export interface FurtherLook {
  between: readonly [EventKind, EventKind];
  /** What to do, in words. */
  words: string;
}

const SHORT_THE_END =
  'Short the far end and take another trace: where the echo turns over, it is the end; where it stays, it is on the way.';
const TAKE_OFF =
  'Take off whatever is at the far end and take another trace: where all of it comes back from there, it was the end; where the echo stays as it is, it is on the way.';
const OTHER_END = 'Take a trace from the other end: what hides behind it shows from there.';
const SHORTER_PULSE = 'Take it again with a shorter pulse: the two edges of a stretch come apart.';

/** By the two kinds, whichever of them is the likelier. */
const LOOKS: readonly FurtherLook[] = [
  { between: ['open', 'series-resistance'], words: SHORT_THE_END },
  { between: ['open', 'high-section'], words: SHORT_THE_END },
  {
    between: ['short', 'wet-or-shunt'],
    words: 'Leave the far end open and take another trace: an echo behind it says that it is no short.',
  },
  { between: ['short', 'stub'], words: OTHER_END },
  { between: ['matched-end', 'open'], words: SHORT_THE_END },
  { between: ['loaded-end', 'series-resistance'], words: TAKE_OFF },
  { between: ['loaded-end', 'wet-or-shunt'], words: TAKE_OFF },
  { between: ['loaded-end', 'joint'], words: TAKE_OFF },
  { between: ['loaded-end', 'open'], words: SHORT_THE_END },
  { between: ['matched-end', 'short'], words: 'Leave the far end open and take another trace.' },
  { between: ['wet-or-shunt', 'low-section'], words: SHORTER_PULSE },
  {
    between: ['wet-or-shunt', 'stub'],
    words: 'Short the end of any branch that you can reach: its echo turns over, a path across stays.',
  },
  { between: ['low-section', 'stub'], words: SHORTER_PULSE },
  { between: ['series-resistance', 'high-section'], words: SHORTER_PULSE },
  {
    between: ['joint', 'series-resistance'],
    words: 'Measure the loop with an ohmmeter, far end joined: a resistance in the way adds to it.',
  },
];

/** A second kind with less belief than this is not worth another look. */
const WORTH_A_LOOK = 0.05;

/** The look that would tell a located thing from what else it could be; null where it is sure, or nothing known tells. */
export function furtherLook({ kind, or }: { kind: EventKind; or: readonly KindShare[] }): FurtherLook | null {
  const [second] = or;
  if (!second || second.probability < WORTH_A_LOOK) return null;
  return (
    LOOKS.find(
      ({ between }) => between.includes(kind) && between.includes(second.kind) && kind !== second.kind,
    ) ?? {
      between: [kind, second.kind],
      words: OTHER_END,
    }
  );
}
