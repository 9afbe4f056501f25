import type { CableType } from '../cabling/cable-types.js';
import type { ConnectorType } from '../connectors/connector-types.js';
import type { Choices } from '../termination/schools.js';
import { orderOf } from './cord-as-lead.js';
import type { AdapterDesign, AdapterEnd } from './design.js';
import { joinContacts } from './edit-design.js';
import { plainPin } from './pinout-table.js';

/** Names of the two ends: the connector that was made, and the bare wires of the cable's other end. */
export const MADE_END = 'P';
export const BARE_END = 'W';

/**
 * One finished end as a lead: each contact joined to the bare conductor at the cable's other end, a coax's centre and shell to its
 * two conductors. So one end is proved with two probes like any lead; null where no conductor has a contact of its own (a
 * joint in line, a block's rows).
 * @param choices by which the end was made; what is left out is as usual
 */
export function endAsLead(
  cable: CableType,
  connector: ConnectorType,
  choices: Partial<Choices>,
): AdapterDesign | null {
  const order = orderOf(cable, connector, choices);
  if (order.length === 0) return null;
  // Solder cups stand close: what nothing is on may be bridged too.
  const others = connector.recipe === 'solder-cup' ? connector.contacts : [];
  const contacts = [...new Set([...order.map(({ contact }) => contact), ...others])];
  const wires = [...new Set(order.map(({ conductor }) => conductor))];
  const end = (id: string, name: string, places: readonly string[]): AdapterEnd => ({
    id,
    name,
    connector: name,
    sheetFace: null,
    contactBearsA: 1,
    pins: places.map((contact) => plainPin(contact, contact, 'both')),
  });
  const bare: AdapterDesign = {
    name: `${connector.name} on ${cable.name}`,
    ends: [end(MADE_END, connector.name, contacts), end(BARE_END, 'bare wires', wires)],
    joins: [],
    wires: [],
    lengthM: 1,
  };
  return order.reduce(
    (design, { contact, conductor }) =>
      joinContacts(design, { end: MADE_END, contact }, { end: BARE_END, contact: conductor }),
    bare,
  );
}
