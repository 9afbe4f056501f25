import fc from 'fast-check';
import type { AdapterEnd, Net } from '@near-spoke/core';

/** An end with contacts of these names. */
export const end = (id: string, contacts: readonly string[], layout: string | null = null): AdapterEnd => ({
  id,
  name: id,
  connector: '',
  sheetFace: null,
  contactBearsA: 1,
  layout,
  pins: contacts.map((contact) => ({
    contact,
    signal: contact,
    kind: 'both',
    levels: null,
    volts: null,
    currentA: null,
    needed: false,
    pullUp: false,
    together: null,
    source: 'sheet',
  })),
});

/** Contacts dealt out to nets: each row of cards is a contact, its figure the net. */
export const anyNets = (most: number, nets: number): fc.Arbitrary<Net[]> =>
  fc
    .array(fc.tuple(fc.constantFrom('A', 'B', 'C'), fc.integer({ min: 1, max: nets })), {
      minLength: 2,
      maxLength: most,
    })
    .map((cards) => {
      const points = cards.map(([place, net], n) => ({ net, point: { end: place, contact: String(n + 1) } }));
      return [...new Set(cards.map(([, net]) => net))].map((net) => ({
        name: `n${net}`,
        points: points.filter((each) => each.net === net).map(({ point }) => point),
      }));
    });

/** The ends that nets speak of. */
export const endsOf = (nets: readonly Net[]): AdapterEnd[] => {
  const points = nets.flatMap((net) => net.points);
  return [...new Set(points.map((point) => point.end))].map((id) =>
    end(
      id,
      points.filter((point) => point.end === id).map(({ contact }) => contact),
    ),
  );
};
