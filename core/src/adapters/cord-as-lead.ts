import type { CableType } from '../cabling/cable-types.js';
import { conductorsOf } from '../cabling/cable-types.js';
import { SCREEN } from '../cabling/conductors.js';
import { assign, type AssignedContact } from '../connectors/assignment.js';
import type { ConnectorType } from '../connectors/connector-types.js';
import { USUAL_CHOICES, type Choices } from '../termination/schools.js';
import type { AdapterDesign, AdapterEnd } from './design.js';
import { joinContacts } from './edit-design.js';
import { plainPin } from './pinout-table.js';

/** One end of a cord: what is on it, and by which choices it is made. */
export interface CordSide {
  connector: ConnectorType;
  choices: Partial<Choices>;
}

const SIDES = ['A', 'B'] as const;
const MOST_NAME = 80;

/**
 * A whole cord of pairs, or of coax, as a lead from connector to connector: contacts that meet the same conductor are joined, so that
 * it is proved with two probes like any lead. A pair brings its own way back, a coax's screen is one. Null where nothing goes from one
 * end to the other, and for wires that are neither: what those carry is a design's to say.
 */
export function cordAsLead(
  cable: CableType,
  [near, far]: readonly [CordSide, CordSide],
  lengthM: number,
): AdapterDesign | null {
  const orders = [near, far].map(({ connector, choices }) => orderOf(cable, connector, choices));
  const [atNear = [], atFar = []] = orders;
  const pairs = new Map(conductorsOf(cable).map(({ id, pair }) => [id, pair]));
  const isCoax = cable.family === 'coax';
  if (!isCoax && atNear.some(({ conductor }) => conductor !== SCREEN && !pairs.get(conductor))) return null;
  const ends = [near, far].map(({ connector }, n): AdapterEnd => ({
    id: SIDES[n] as string,
    name: connector.name,
    connector: connector.name,
    sheetFace: null,
    contactBearsA: 1,
    pins: (orders[n] ?? []).map(({ contact, conductor }) => {
      if (isCoax) return plainPin(contact, contact, contact === 'centre' ? 'video' : 'ground');
      if (conductor === SCREEN) return plainPin(contact, contact, 'shield');
      // A cord does not know its devices: of all kinds this one is balanced, and brings its own way back.
      return { ...plainPin(contact, contact, 'audio'), together: `pair ${pairs.get(conductor)}` };
    }),
  }));
  const bare: AdapterDesign = {
    name: `Cord, ${near.connector.name} to ${far.connector.name}, ${cable.name}`.slice(0, MOST_NAME),
    ends,
    joins: [],
    wires: [],
    lengthM,
  };
  const joined = atNear.flatMap(({ contact, conductor }) =>
    atFar.filter((one) => one.conductor === conductor).map((other) => [contact, other.contact] as const),
  );
  if (joined.length === 0) return null;
  return joined.reduce(
    (design, [one, other]) =>
      joinContacts(design, { end: SIDES[0], contact: one }, { end: SIDES[1], contact: other }),
    bare,
  );
}

/** Which conductor is on which contact of an end; a coax's core on its centre, its screen on its shell. */
export function orderOf(
  cable: CableType,
  connector: ConnectorType,
  choices: Partial<Choices>,
): AssignedContact[] {
  return cable.family === 'coax'
    ? conductorsOf(cable).map(({ id }, n) => ({ contact: n === 0 ? 'centre' : 'shell', conductor: id }))
    : assign(cable, connector, { ...USUAL_CHOICES, ...choices });
}
