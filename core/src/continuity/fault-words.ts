import type { LinkExpectation } from './expectation.js';
import type { FaultTold } from './faults.js';
import type { SlipKind } from './practice.js';

type Told = Omit<FaultTold, 'kind'>;

const list = (items: readonly unknown[]): string =>
  items.length < 2 ? items.join('') : `${items.slice(0, -1).join(', ')} and ${items[items.length - 1]}`;
const GRADES: Readonly<Record<string, string>> = {
  little: 'a little resistance',
  high: 'high resistance',
  'very-high': 'very high resistance',
};

/** A conductor at a contact, as each family speaks of it. */
function named({ contacts, conductors }: Told, expected: LinkExpectation, i: number): string {
  const contact = contacts[i] as string;
  if (expected.family === 'coax') return contact === 'C' ? 'centre' : 'shell';
  if (expected.family === 'line') return `${contact} leg`;
  return `${conductors[i] ?? 'nothing'} on contact ${contact}`;
}

const exchanged = ({ conductors, contacts }: Told): string =>
  `${list(conductors.map((c) => c ?? 'nothing'))} exchanged on ${list(contacts)}`;

type Says = (fault: Told, expected: LinkExpectation) => string;

/** What each slip at an end is called. The only English about slips stands here. */
const AT_END: Partial<Record<SlipKind, Says>> = {
  'reversed-pair': exchanged,
  'neighbour-swap': exchanged,
  'distant-swap': exchanged,
  'transposed-pairs': ({ contacts: [a, b, c, d] }) => `pairs ${a}-${c} and ${b}-${d} exchanged`,
  'other-scheme': ({ variant }) => `wired as ${variant}`,
  'pair-by-pair': ({ contacts }) =>
    `laid pair by pair: ${contacts.flatMap((c, i) => (i % 2 === 0 ? [`${c}-${contacts[i + 1]}`] : [])).join(', ')}`,
  mirror: (_, { family }) =>
    family === 'balanced'
      ? 'whole order mirrored, held the wrong way up'
      : 'order mirrored: one face taken for the other',
  shift: ({ variant, contacts }, { family }) => {
    const what = family === 'multipair' ? 'whole block one row' : 'order one contact';
    const up = variant === 'up';
    const empty = family === 'multipair' ? '' : `, contact ${up ? contacts[0] : contacts.at(-1)} empty`;
    return `${what} too ${up ? 'high' : 'low'}${empty}`;
  },
  'wild-order': ({ contacts, variant }) => {
    const laid = variant.split(' ');
    return contacts.map((c, i) => `${laid[i]} on ${c}`).join(', ') || 'laid in any order';
  },
  'missed-slot': (fault, expected) =>
    expected.family === 'balanced'
      ? `${fault.conductors[0] ?? 'nothing'} not seated on contact ${fault.contacts[0]}`
      : `${named(fault, expected, 0)} not making contact`,
  'several-unseated': ({ contacts }) => `contacts ${list(contacts)} not making contact, all at once`,
  'touching-neighbours': ({ contacts }, { family }) =>
    family === 'line' ? 'the two legs touch' : `contacts ${list(contacts)} touch`,
  'touching-others': ({ contacts }) => `contacts ${list(contacts)} touch`,
  'several-touching': ({ contacts }) => `contacts ${list(contacts)} all touch, by one cause`,
  'poor-joint': (fault, expected) => `${GRADES[fault.variant] ?? ''} at ${named(fault, expected, 0)}`,
  'loose-joint': (fault, expected) => `${named(fault, expected, 0)} loose`,
  'screen-not-bonded': ({ variant }) =>
    variant === 'loose' ? 'screen bonded loosely' : 'screen not bonded, drain not under the clip',
  'screen-strand': ({ contacts }, { family }) =>
    family === 'coax'
      ? 'a strand of the screen touches the centre'
      : `drain or screen touches contact ${contacts.find((c) => c !== 'S')}`,
  'other-pair': ({ contacts, variant }) =>
    `${contacts.length > 1 ? 'the line is' : `leg ${contacts[0]} is`} on another pair (${variant})`,
  'equipment-left': () => 'equipment still connected: its transformers join each pair',
};

/** What happens along the cable is called. */
const ALONG: Partial<Record<SlipKind, Says>> = {
  'broken-conductor': ({ conductors }) => `${conductors[0]} broken`,
  'broken-screen': () => 'screen broken',
  'partly-cut': ({ conductors }) => `${list(conductors)} broken together`,
  'cut-through': () => 'cut through',
  'pierced-pair': ({ conductors }) => `${list(conductors)} pierced together`,
  'pierced-others': ({ conductors }) => `${list(conductors)} pierced together`,
  crushed: ({ conductors }) => `crushed or stapled, ${list(conductors)} pressed together`,
  'wet-or-crushed': () => 'wet or crushed',
  'poor-conductor': ({ conductors, variant }) => `${conductors[0]} nicked, ${GRADES[variant] ?? ''}`,
  'loose-conductor': ({ conductors }) => `${conductors[0]} opens and closes`,
  'wrong-splice': ({ conductors }) => `${list(conductors)} exchanged at a splice`,
};

/** What happened at an end, in words, without saying at which. */
export const slipWords = (fault: Told, expected: LinkExpectation): string =>
  AT_END[fault.slip]?.(fault, expected) ?? fault.slip;

/** What happened, in words: which end or where along the cable, and what. */
export function faultWords(fault: Told, expected: LinkExpectation): string {
  const { slip, end, distanceM } = fault;
  if (slip === 'other-outlet') return 'No remote at the far end, or another outlet than the label says';
  if (slip === 'wrong-length')
    return `The cable is ${fault.variant} m long, the plan has ${expected.lengthM.toFixed(1)} m`;
  if (slip === 'unexplained') return 'Something that no explanation of ours fits';
  if (end === 'cable') {
    const at =
      distanceM === null ? 'somewhere along the cable' : `${distanceM.toFixed(1)} m from the near end`;
    const where = slip === 'wrong-splice' ? '' : ` ${at}`;
    return `Cable: ${ALONG[slip]?.(fault, expected) ?? slip}${where}`;
  }
  const { connector } = expected[end];
  const where = `${end === 'near' ? 'Near' : 'Far'} ${connector === 'other' ? 'end' : connector}`;
  return `${where}: ${slipWords(fault, expected)}`;
}

/** Several things that happened; the same slip at both ends is said once. */
export function faultsInWords(
  faults: readonly { twin: string; end: string; words: string; slipWords: string }[],
): string {
  const [first, second] = faults;
  if (faults.length === 2 && first && second && first.twin === second.twin && first.end !== second.end)
    return `Both ends: ${first.slipWords}`;
  return faults.map((fault) => fault.words).join('; ');
}
