import fc from 'fast-check';
import {
  BadPattern,
  CONTACT_PATTERNS,
  dSubOrder,
  gridPlaces,
  header,
  headerOrder,
  leftToRight,
  lookAt,
  mate,
  modularPlug,
  PLUG_8P,
  ringPlaces,
  type ContactLayout,
  type Face,
} from '@near-spoke/core';

const of = (id: string): ContactLayout => {
  const found = CONTACT_PATTERNS.find((layout) => layout.id === id);
  if (!found) throw new Error(id);
  return found;
};
/** Rows of a face from the top, each from left to right. */
function rows(layout: ContactLayout, face: Face): string[] {
  const places = lookAt(layout, { face, latch: 'down' });
  const heights = [...new Set(places.map(({ yMm }) => yMm))].sort((a, b) => b - a);
  return heights.map((height) =>
    places
      .filter(({ yMm }) => yMm === height)
      .sort((a, b) => a.xMm - b.xMm)
      .map(({ contact }) => contact)
      .join(' '),
  );
}

describe('contact patterns', () => {
  it('count a D-sub plug from the left of its wide row, its socket and its solder side from the right', () => {
    expect(rows(of('d-sub-9'), 'mating')).toEqual(['1 2 3 4 5', '6 7 8 9']);
    expect(rows(of('d-sub-9'), 'rear')).toEqual(['5 4 3 2 1', '9 8 7 6']);
    expect(rows(mate(of('d-sub-9')), 'mating')).toEqual(['5 4 3 2 1', '9 8 7 6']);
    expect(rows(mate(of('d-sub-9')), 'rear')).toEqual(['1 2 3 4 5', '6 7 8 9']);
    expect(rows(of('d-sub-25'), 'mating').map((row) => row.split(' ').length)).toEqual([13, 12]);
    expect(rows(of('d-sub-hd-15'), 'mating')).toEqual(['1 2 3 4 5', '6 7 8 9 10', '11 12 13 14 15']);
  });

  it('count a header of two rows across, 1 and 2 opposite', () => {
    expect(rows(header(2, 5), 'mating')).toEqual(['2 4 6 8 10', '1 3 5 7 9']);
    expect(rows(header(2, 5), 'rear')).toEqual(['10 8 6 4 2', '9 7 5 3 1']);
    expect(rows(header(1, 4), 'mating')).toEqual(['1 2 3 4']);
  });

  it('have a flat ribbon meet their contacts from one side to the other', () => {
    for (const [layout, order] of [
      [of('d-sub-9'), dSubOrder(9)],
      [of('d-sub-15'), dSubOrder(15)],
      [of('d-sub-25'), dSubOrder(25)],
    ] as const) {
      expect(leftToRight(layout, { face: 'mating', latch: 'down' })).toEqual(order);
    }
    const across = lookAt(header(2, 5), { face: 'mating', latch: 'down' }).sort(
      (a, b) => a.xMm - b.xMm || a.yMm - b.yMm,
    );
    expect(across.map(({ contact }) => contact)).toEqual(headerOrder(10));
  });

  it('agree with the eight-contact modular plug that has long been there', () => {
    expect(rows(modularPlug(8), 'mating')).toEqual(rows(PLUG_8P, 'mating'));
    expect(rows(modularPlug(6), 'rear')).toEqual(['1 2 3 4 5 6']);
  });

  it('are the same face mirrored twice, and meet their mates contact to like contact', () => {
    for (const layout of CONTACT_PATTERNS) {
      expect(mate(mate(layout)).places)
        .withContext(layout.id)
        .toEqual(layout.places);
      const [plug, socket] = [
        lookAt(layout, { face: 'mating', latch: 'down' }),
        lookAt(mate(layout), { face: 'mating', latch: 'down' }),
      ];
      // Brought face to face, a socket's left is the plug's right.
      for (const { contact, xMm, yMm } of plug) {
        const other = socket.find((place) => place.contact === contact);
        expect([other?.xMm, other?.yMm])
          .withContext(`${layout.id} ${contact}`)
          .toEqual([-xMm || 0, yMm]);
      }
      // What is soldered behind a plug lies as what is seen in front of its socket.
      expect(rows(layout, 'rear'))
        .withContext(layout.id)
        .toEqual(rows(mate(layout), 'mating'));
    }
  });

  it('have each contact once and no two in one place', () => {
    for (const { id, places } of CONTACT_PATTERNS) {
      expect(new Set(places.map(({ contact }) => contact)).size)
        .withContext(id)
        .toBe(places.length);
      expect(new Set(places.map(({ xMm, yMm }) => `${xMm}/${yMm}`)).size)
        .withContext(id)
        .toBe(places.length);
    }
    expect(new Set(CONTACT_PATTERNS.map(({ id }) => id)).size).toBe(CONTACT_PATTERNS.length);
  });
});

describe('a connector of one’s own', () => {
  it('is laid out as a grid however it is counted: every place once, neighbours a pitch apart', () => {
    const law = fc.property(
      fc.integer({ min: 1, max: 4 }),
      fc.integer({ min: 1, max: 12 }),
      fc.constantFrom('row by row' as const, 'across' as const, 'to and fro' as const),
      fc.constantFrom('left' as const, 'right' as const),
      (rowCount, columns, count, begins) => {
        const grid = { rows: rowCount, columns, pitchMm: 2, rowPitchMm: 3, count, begins };
        const places = gridPlaces(grid);
        const [first] = places;
        const side = begins === 'left' ? -1 : 1;
        return (
          places.length === rowCount * columns &&
          new Set(places.map(({ xMm, yMm }) => `${xMm}/${yMm}`)).size === places.length &&
          Math.abs(places.reduce((sum, { xMm }) => sum + xMm, 0)) < 1e-9 &&
          Math.abs((first?.xMm ?? NaN) - side * (columns - 1)) < 1e-9
        );
      },
    );
    expect(() => fc.assert(law)).not.toThrow();
  });

  it('is laid out as a ring that turns the way it is told, or an arc of one', () => {
    const ring = ringPlaces({ contacts: ['1', '2', '3', '4'], radiusMm: 4, fromDeg: 90, turns: 'clockwise' });
    expect(ring.map(({ xMm, yMm }) => [xMm, yMm])).toEqual([
      [0, 4],
      [4, 0],
      [0, -4],
      [-4, 0],
    ]);
    const arc = ringPlaces({
      contacts: ['a', 'b', 'c'],
      radiusMm: 4,
      fromDeg: 180,
      turns: 'clockwise',
      overDeg: 180,
      middle: 'm',
    });
    expect(arc.map(({ contact, xMm, yMm }) => [contact, xMm, yMm])).toEqual([
      ['a', -4, 0],
      ['b', 0, 4],
      ['c', 4, 0],
      ['m', 0, 0],
    ]);
  });

  it('is refused in a sentence where it cannot be', () => {
    const grid = { rows: 2, columns: 3, pitchMm: 2, rowPitchMm: 2, count: 'across', begins: 'left' } as const;
    expect(() => gridPlaces({ ...grid, rows: 0 })).toThrowError(BadPattern, /at least one row/);
    expect(() => gridPlaces({ ...grid, columns: 150 })).toThrowError(BadPattern, /At most 200/);
    expect(() => gridPlaces({ ...grid, pitchMm: 0 })).toThrowError(BadPattern, /Give the pitch/);
    expect(() => gridPlaces({ ...grid, lengths: [4] })).toThrowError(BadPattern, /longer than the grid/);
    const ring = { contacts: ['1', '1'], radiusMm: 3, fromDeg: 0, turns: 'clockwise' } as const;
    expect(() => ringPlaces(ring)).toThrowError(BadPattern, /stands twice/);
    expect(() => ringPlaces({ ...ring, contacts: [] })).toThrowError(BadPattern, /at least one/);
    expect(() => ringPlaces({ ...ring, contacts: ['1'], radiusMm: -1 })).toThrowError(BadPattern, /radius/);
  });
});
