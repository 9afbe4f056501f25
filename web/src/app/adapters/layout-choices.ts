import { CONTACT_LAYOUTS, type ContactLayout } from '@near-spoke/core';

/** Connectors to choose from, family by family, plug before its socket. */
export interface LayoutGroup {
  name: string;
  layouts: ContactLayout[];
}

const FAMILIES: readonly (readonly [name: string, begins: RegExp])[] = [
  ['D-sub', /^d-sub/],
  ['Headers and ribbon sockets', /^header/],
  ['Modular', /^modular/],
  ['Phone plugs', /^phone/],
  ['Coaxial', /^coax/],
  ['DIN', /^din/],
  ['Mini-DIN', /^mini-din/],
  ['USB', /^usb/],
  ['M8 and M12', /^m(8|12)/],
  ['Terminals, pads, leads', /^(terminals|pads|leads)/],
];

export const LAYOUT_GROUPS: readonly LayoutGroup[] = FAMILIES.map(([name, begins]) => ({
  name,
  layouts: CONTACT_LAYOUTS.filter(({ id }) => begins.test(id.replace(/^mate:/, ''))),
}));
