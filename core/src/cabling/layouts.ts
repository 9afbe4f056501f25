import { EIGHT_CONTACTS, SCREEN_CONTACT, type ContactId } from './schemes.js';

/** What a lead is meant to do: which far contact each near contact should reach. */
export interface WiringLayout {
  id: WiringLayoutId;
  name: string;
  use: string;
  map: Readonly<Record<ContactId, ContactId>>;
}

export type WiringLayoutId = 'straight' | 'crossover' | 'crossover-4pair' | 'rollover' | 'loopback';

function layoutMap(order: string): Record<ContactId, ContactId> {
  return Object.fromEntries(EIGHT_CONTACTS.map((contact, i) => [contact, order[i] as string]));
}

/** The common 8-contact layouts. `loopback` is one plug: its contacts reach each other. */
export const WIRING_LAYOUTS: Readonly<Record<WiringLayoutId, WiringLayout>> = {
  straight: {
    id: 'straight',
    name: 'Straight-through',
    use: 'Every permanent link and nearly every cord.',
    map: layoutMap('12345678'),
  },
  crossover: {
    id: 'crossover',
    name: 'Crossover, two pairs',
    use: 'Legacy 10/100 device to device: T568A at one end, T568B at the other.',
    map: layoutMap('36145278'),
  },
  'crossover-4pair': {
    id: 'crossover-4pair',
    name: 'Crossover, four pairs',
    use: 'Legacy gigabit device to device without automatic crossing.',
    map: layoutMap('36178245'),
  },
  rollover: {
    id: 'rollover',
    name: 'Rollover',
    use: 'Serial console leads: one end is the other reversed.',
    map: layoutMap('87654321'),
  },
  loopback: {
    id: 'loopback',
    name: 'Loopback plug',
    use: 'One plug that returns each transmit pair on its receive pair.',
    map: layoutMap('36178245'),
  },
};

/** What a link should show: each near contact's far contact, with the screen where there is one. */
export function expectedMap(layout: WiringLayoutId, screened: boolean): Record<ContactId, ContactId> {
  const map = { ...WIRING_LAYOUTS[layout].map };
  if (screened) map[SCREEN_CONTACT] = SCREEN_CONTACT;
  return map;
}
