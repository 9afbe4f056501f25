import { conductorsOf, type CableType } from '../cabling/cable-types.js';
import { SCREEN, type ConductorId } from '../cabling/conductors.js';
import { EIGHT_CONTACTS, SCHEMES, type ContactId, type SchemeId } from '../cabling/schemes.js';
import type { AssignmentId, ConnectorType } from './connector-types.js';

/** A conductor on its contact. */
export interface AssignedContact {
  contact: ContactId;
  conductor: ConductorId;
}

/** What a person may choose that changes the assignment. */
export interface AssignmentChoices {
  scheme: SchemeId;
  /** British telephone sockets: the ringing wire too. */
  ringingWire: boolean;
  /** The end of a flat cord that lies turned over. */
  flatEnd?: 'first' | 'rolled';
}

/** Six-place plugs: lines nest around the middle, ring on the lower contact of line 1 (domain: 6P2C on 3-4). */
const MODULAR_6: readonly { contact: ContactId; pair: number; leg: 'tip' | 'ring' }[] = [
  { contact: '1', pair: 3, leg: 'tip' },
  { contact: '2', pair: 2, leg: 'tip' },
  { contact: '3', pair: 1, leg: 'ring' },
  { contact: '4', pair: 1, leg: 'tip' },
  { contact: '5', pair: 2, leg: 'ring' },
  { contact: '6', pair: 3, leg: 'ring' },
];

/** M12, X-coded (IEC 61076-2-109): its contacts as the places of an 8-contact plug. */
const M12_X: readonly { contact: ContactId; as: number }[] = [1, 2, 3, 6, 7, 8, 5, 4].map((as, i) => ({
  contact: String(i + 1),
  as,
}));

type Rule = (cable: CableType, connector: ConnectorType, choices: AssignmentChoices) => AssignedContact[];

const inOrder: Rule = (cable, connector) => {
  const wires = conductorsOf(cable).filter((w) => w.id !== 'SCREEN');
  return connector.contacts.flatMap((contact, i) => {
    const wire = wires[i];
    return wire ? [{ contact, conductor: wire.id }] : [];
  });
};

/**
 * D-sub on ribbon: the row of wires meets the contacts in zigzag, 1, 6, 2, 7, 3, 8, 4, 9, 5; a
 * two-row socket meets them 1, 2, 3 across.
 */
function ribbonOrder(connector: ConnectorType): ContactId[] {
  const count = connector.contacts.length;
  if (!connector.face.startsWith('d-sub')) return [...connector.contacts];
  const long = Math.ceil(count / 2);
  return Array.from({ length: count }, (_, i) => String(i % 2 === 0 ? i / 2 + 1 : long + (i + 1) / 2));
}

/** How each kind of connector gets its conductors. */
const RULES: Readonly<Record<AssignmentId, Rule>> = {
  scheme: (_cable, _connector, { scheme }) =>
    EIGHT_CONTACTS.map((contact, i) => ({ contact, conductor: SCHEMES[scheme].order[i] as ConductorId })),
  'scheme-m12': (_cable, _connector, { scheme }) =>
    M12_X.map(({ contact, as }) => ({ contact, conductor: SCHEMES[scheme].order[as - 1] as ConductorId })),
  'modular-6': (cable, connector, { flatEnd }) => {
    const wires = conductorsOf(cable);
    const paired = wires.some((w) => w.pair !== null);
    const contacts = connector.contacts.includes('a') ? ['3', '4'] : connector.contacts;
    if (!paired) {
      // A flat cord has no pairs: its wires keep their places side by side, about the middle.
      const before = Math.floor((contacts.length - wires.length) / 2);
      const laid = flatEnd === 'rolled' ? wires.toReversed() : wires;
      return contacts.flatMap((contact, i) => {
        const wire = laid[i - before];
        return wire ? [{ contact, conductor: wire.id }] : [];
      });
    }
    return MODULAR_6.filter((line) => contacts.includes(line.contact)).flatMap(({ contact, pair, leg }) => {
      const wire = wires.find((w) => w.pair === pair && w.leg === leg);
      return wire ? [{ contact, conductor: wire.id }] : [];
    });
  },
  british: (_cable, _connector, { ringingWire }) => [
    { contact: '2', conductor: 'BU' },
    ...(ringingWire ? [{ contact: '3', conductor: 'OG' }] : []),
    { contact: '5', conductor: 'WH-BU' },
  ],
  'pair-count': inOrder,
  // Rings in the first row by their count, tips in the row behind it.
  'pair-rows': (cable, connector) => {
    const row = connector.contacts.length / 2;
    return conductorsOf(cable)
      .filter(({ pair }) => pair !== null && pair <= row)
      .map(({ id, pair, leg }) => ({
        contact: String((pair ?? 1) + (leg === 'tip' ? row : 0)),
        conductor: id,
      }))
      .sort((a, b) => Number(a.contact) - Number(b.contact));
  },
  // The screen on contact 1, then the wires: plus first (IEC 61076-2-103 for audio).
  'screen-first': (cable, connector) => {
    const wires = conductorsOf(cable).filter(({ id }) => id !== SCREEN);
    return connector.contacts.flatMap((contact, i) => {
      const conductor = i === 0 ? (cable.screened ? SCREEN : undefined) : wires[i - 1]?.id;
      return conductor === undefined ? [] : [{ contact, conductor }];
    });
  },
  // The pair on A and B; the common wire is what is left: a wire of the second pair, else the screen.
  bus: (cable) => {
    const wires = conductorsOf(cable).filter(({ id }) => id !== SCREEN);
    const common = wires[2]?.id ?? (cable.screened ? SCREEN : undefined);
    return [
      { contact: 'A', conductor: wires[1]?.id },
      { contact: 'B', conductor: wires[0]?.id },
      { contact: 'C', conductor: common },
    ].flatMap(({ contact, conductor }) => (conductor === undefined ? [] : [{ contact, conductor }]));
  },
  ribbon: (cable, connector) => {
    const wires = conductorsOf(cable);
    return ribbonOrder(connector).flatMap((contact, i) => {
      const wire = wires[i];
      return wire ? [{ contact, conductor: wire.id }] : [];
    });
  },
  'one-to-one': inOrder,
  coax: () => [
    { contact: 'C', conductor: 'CENTRE' },
    { contact: 'S', conductor: 'SHELL' },
  ],
  'same-colour': (cable) => conductorsOf(cable).map((wire) => ({ contact: wire.id, conductor: wire.id })),
};

/** The conductor on each contact of an end. For a pinout of one's own, the adapter bench decides instead. */
export const assign: Rule = (cable, connector, choices) =>
  RULES[connector.assignment](cable, connector, choices);
