import fc from 'fast-check';
import {
  BadPattern,
  CONTACT_LAYOUTS,
  CONTACT_PATTERNS,
  drawFace,
  facesShowing,
  layoutFor,
  layoutOfOwn,
  lookAt,
  mate,
  rowsOfFace,
  type ContactLayout,
  type OwnLayout,
  type View,
} from '@near-spoke/core';

const of = (id: string): ContactLayout => {
  const found = CONTACT_LAYOUTS.find((layout) => layout.id === id);
  if (!found) throw new Error(id);
  return found;
};
const rows = (id: string, face: View['face'], latch: View['latch'] = 'down'): string =>
  rowsOfFace(of(id), { face, latch })
    .map((row) => row.join(' '))
    .join(' / ');
const everyLayout = fc.constantFrom(...CONTACT_LAYOUTS);
const everyView = fc.record({
  face: fc.constantFrom<View['face']>('mating', 'rear'),
  latch: fc.constantFrom<View['latch']>('down', 'up'),
});

describe('the connectors known by name', () => {
  it('have ids of their own, each contact once, and no two contacts in one place', () => {
    const ids = CONTACT_LAYOUTS.map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const { id, places } of CONTACT_LAYOUTS) {
      expect(new Set(places.map(({ contact }) => contact)).size)
        .withContext(id)
        .toBe(places.length);
      const at = places.map(({ xMm, yMm }) => `${xMm.toFixed(2)} ${yMm.toFixed(2)}`);
      expect(new Set(at).size).withContext(id).toBe(places.length);
    }
  });

  it('number a five-contact DIN plug from the right looking at its pins: 1 4 2 5 3 about the ring', () => {
    expect(rows('din-5', 'mating')).toBe('2 / 5 4 / 3 1');
    // Its socket, and what is soldered, is the mirror image.
    expect(rows('mate:din-5', 'mating')).toBe('2 / 4 5 / 1 3');
    expect(rows('din-5', 'rear')).toBe('2 / 4 5 / 1 3');
    // The five over 240 degrees follow each other; six add one in the middle.
    expect(rows('mate:din-5-240', 'mating')).toBe('3 / 2 4 / 1 5');
    expect(rows('mate:din-6', 'mating')).toBe('3 / 2 4 / 6 / 1 5');
    expect(rows('mate:din-8', 'mating')).toBe('2 / 4 5 / 1 8 3 / 6 7');
  });

  it('number mini-DIN sockets from the lower right up: 2 1, 5 4 3, 8 7 6', () => {
    expect(rows('mate:mini-din-4', 'mating')).toBe('4 3 / 2 1');
    expect(rows('mate:mini-din-6', 'mating')).toBe('6 5 / 4 3 / 2 1');
    expect(rows('mate:mini-din-8', 'mating')).toBe('8 7 6 / 5 4 3 / 2 1');
    expect(rows('mini-din-8', 'mating')).toBe('6 7 8 / 3 4 5 / 1 2');
  });

  it('number USB sockets 1 to 4 from the left for A, 2 1 over 3 4 for B, and A1 to A12 over B12 to B1 for C', () => {
    expect(rows('mate:usb-a', 'mating')).toBe('1 2 3 4');
    expect(rows('mate:usb-b', 'mating')).toBe('2 1 / 3 4');
    expect(rows('mate:usb-micro-b', 'mating')).toBe('1 2 3 4 5');
    expect(
      rows('mate:usb-c', 'mating')
        .split(' / ')
        .map((row) => row.split(' ')[0]),
    ).toEqual(['A1', 'B12']);
  });

  it('ask for the moulded figures where makers number differently', () => {
    for (const id of ['m12-a-4', 'm8-3', 'mini-din-9']) expect(of(id).confirm).withContext(id).toBeTrue();
    for (const id of ['d-sub-9', 'din-5', 'mini-din-8', 'header-2x5', 'usb-a'])
      expect(of(id).confirm).withContext(id).toBeUndefined();
  });

  it('go round counter-clockwise from 1 on a sensor plug, looking at its pins', () => {
    const angle = (contact: string): number => {
      const place = of('m12-a-4').places.find((each) => each.contact === contact);
      return Math.atan2(place?.yMm ?? 0, place?.xMm ?? 0);
    };
    for (const [from, to] of [
      ['1', '2'],
      ['2', '3'],
      ['3', '4'],
      ['4', '1'],
    ] as const) {
      const turn = (angle(to) - angle(from) + 4 * Math.PI) % (2 * Math.PI);
      expect(turn)
        .withContext(`${from} to ${to}`)
        .toBeCloseTo(Math.PI / 2, 6);
    }
  });

  it('show terminals, pads and leads as they are wired: 1 at the left', () => {
    expect(rows('terminals-4', 'rear')).toBe('1 2 3 4');
    expect(CONTACT_PATTERNS.some(({ id }) => id.startsWith('terminals'))).toBeFalse();
  });
});

describe('laws of faces', () => {
  it('the mirror of a mirror is the connector itself, shell, cue and all', () => {
    fc.assert(fc.property(everyLayout, (layout) => expect(mate(mate(layout))).toEqual(layout)));
  });

  it('a plug facing its socket meets contact with like contact', () => {
    fc.assert(
      fc.property(everyLayout, (layout) => {
        // Facing each other, the one's left is the other's right.
        const facing = new Map(
          mate(layout).places.map(({ contact, xMm, yMm }) => [`${-xMm || 0} ${yMm}`, contact]),
        );
        for (const { contact, xMm, yMm } of layout.places) expect(facing.get(`${xMm} ${yMm}`)).toBe(contact);
      }),
    );
  });

  it('the numbers of a face tell which face it is, or every face that looks so', () => {
    fc.assert(
      fc.property(everyLayout, everyView, (layout, view) => {
        const told = facesShowing(layout, rowsOfFace(layout, view));
        expect(told).toContain(view);
        for (const each of told) expect(rowsOfFace(layout, each)).toEqual(rowsOfFace(layout, view));
      }),
    );
  });

  it('a D-sub’s numbers never look like those of its other face, key the same way', () => {
    for (const id of ['d-sub-9', 'd-sub-25', 'mini-din-8', 'din-5', 'header-2x5']) {
      const told = facesShowing(of(id), rowsOfFace(of(id), { face: 'rear', latch: 'down' }));
      expect(told.filter(({ latch }) => latch === 'down'))
        .withContext(id)
        .toEqual([{ face: 'rear', latch: 'down' }]);
    }
    expect(facesShowing(of('d-sub-9'), [['1', '2', '3'], ['4']])).toEqual([]);
  });
});

describe('a face as it is drawn', () => {
  it('holds every contact inside its picture, and no two touch', () => {
    fc.assert(
      fc.property(everyLayout, everyView, (layout, view) => {
        const { contacts, widthMm, heightMm, contactMm } = drawFace(layout, view);
        expect(contacts.length).toBe(layout.places.length);
        contacts.forEach(({ xMm, yMm }, n) => {
          expect(Math.abs(xMm) + contactMm).toBeLessThanOrEqual(widthMm / 2);
          expect(Math.abs(yMm) + contactMm).toBeLessThanOrEqual(heightMm / 2);
          for (const other of contacts.slice(n + 1))
            expect(Math.hypot(xMm - other.xMm, yMm - other.yMm)).toBeGreaterThan(2 * contactMm);
        });
      }),
    );
  });

  it('has y down: what is at the top of the face is at the top of the picture', () => {
    for (const view of [
      { face: 'mating', latch: 'down' },
      { face: 'rear', latch: 'up' },
    ] as const) {
      const drawn = drawFace(of('d-sub-9'), view);
      for (const { contact, xMm, yMm } of lookAt(of('d-sub-9'), view)) {
        const there = drawn.contacts.find((each) => each.contact === contact);
        expect([there?.xMm, (there?.yMm ?? 0) + yMm]).toEqual([xMm, 0]);
      }
    }
  });

  it('has its key at the bottom with the latch down, at the top with it up', () => {
    const depth = (latch: View['latch']): number =>
      Number(/M-?[\d.]+ (-?[\d.]+)V/.exec(drawFace(of('header-2x5'), { face: 'mating', latch }).key)?.[1]);
    expect(depth('down')).toBeGreaterThan(0);
    expect(depth('up')).toBe(-depth('down'));
    expect(drawFace(of('d-sub-9'), { face: 'mating', latch: 'down' }).key).toBe('');
  });

  it('of a phone plug is pointed where its tip is, from either side', () => {
    for (const id of ['phone-3', 'mate:phone-3'])
      for (const face of ['mating', 'rear'] as const) {
        const { outline, contacts } = drawFace(of(id), { face, latch: 'down' });
        const point = Number(/^M(-?[\d.]+) 0/.exec(outline)?.[1]);
        const tip = contacts.find(({ contact }) => contact === 'T')?.xMm ?? 0;
        expect(Math.sign(point)).withContext(`${id} ${face}`).toBe(Math.sign(tip));
      }
  });

  it('is told in words for who does not see it', () => {
    expect(drawFace(of('mini-din-6'), { face: 'rear', latch: 'down' }).words).toBe(
      'Mini-DIN, 6 contacts, plug, wiring side, key down, from the top left: 6 5; 4 3; 2 1',
    );
  });
});

describe('a connector that a person describes', () => {
  const own: OwnLayout = {
    name: 'Console socket',
    gender: 'socket',
    pattern: {
      shape: 'grid',
      rows: 2,
      columns: 6,
      pitchMm: 3,
      rowPitchMm: 4,
      count: 'to and fro',
      begins: 'left',
    },
    keyed: true,
    cue: 'two empty holes at each side',
  };

  it('is laid out, keyed and cued as described, and mates like any other', () => {
    const layout = layoutOfOwn(own);
    expect(rowsOfFace(layout, { face: 'mating', latch: 'down' })).toEqual([
      ['1', '2', '3', '4', '5', '6'],
      ['12', '11', '10', '9', '8', '7'],
    ]);
    expect([layout.cue, layout.shell?.keyed]).toEqual(['two empty holes at each side', true]);
    expect(mate(mate(layout)).places).toEqual(layout.places);
  });

  it('is round where its contacts are', () => {
    const ring = layoutOfOwn({
      ...own,
      cue: '',
      pattern: { shape: 'ring', contacts: ['A', 'B', 'C'], radiusMm: 5, fromDeg: 90, turns: 'clockwise' },
    });
    expect([ring.shell?.shape, ring.cue]).toEqual(['round', undefined]);
    expect(rowsOfFace(ring, { face: 'mating', latch: 'down' })).toEqual([['A'], ['C', 'B']]);
  });

  it('is refused where it cannot be laid out, and so is an id that nobody knows', () => {
    const twice = { ...own, pattern: { ...own.pattern, shape: 'grid', columns: 0 } } as OwnLayout;
    expect(() => layoutOfOwn(twice)).toThrowError(BadPattern);
    expect(() => layoutFor('d-sub-8')).toThrowError(BadPattern, /no connector "d-sub-8"/);
    expect(layoutFor(null)).toBeNull();
    expect(layoutFor('mate:d-sub-9')?.gender).toBe('socket');
  });
});
