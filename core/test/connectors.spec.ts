import fc from 'fast-check';
import {
  CONNECTOR_TYPES,
  heldOrder,
  leftToRight,
  lookAt,
  mate,
  PLUG_8P,
  header,
  readingOrder,
  slotRows,
  wiringFace,
  SOCKET_8P,
  type ContactLayout,
  type View,
} from '../src/index.js';

const ONE_TO_EIGHT = ['1', '2', '3', '4', '5', '6', '7', '8'];
const EIGHT_TO_ONE = [...ONE_TO_EIGHT].reverse();

const layouts = fc
  .uniqueArray(fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -4, max: 4 })), {
    minLength: 1,
    maxLength: 25,
    selector: String,
  })
  .map((places): ContactLayout => ({
    id: 'any',
    name: 'any plug',
    gender: 'plug',
    places: places.map(([xMm, yMm], i) => ({ contact: String(i + 1), xMm, yMm })),
  }));
const views = fc.record({
  face: fc.constantFrom<View['face']>('mating', 'rear'),
  latch: fc.constantFrom<View['latch']>('down', 'up'),
});

describe('the 8-contact plug', () => {
  it('has contact 1 at the left when held latch down, contacts up, cable towards you', () => {
    expect(heldOrder(PLUG_8P, 'down', 'below')).toEqual(ONE_TO_EIGHT);
  });

  it('reads 8 to 1 with the latch up: the whole-plug mirror error', () => {
    expect(heldOrder(PLUG_8P, 'up', 'below')).toEqual(EIGHT_TO_ONE);
  });

  it('shows contact 1 at the right from the front, latch down', () => {
    expect(leftToRight(PLUG_8P, { face: 'mating', latch: 'down' })).toEqual(EIGHT_TO_ONE);
  });

  it('reads top to bottom from 1 with the cable in the left hand, and from 8 with it in the right', () => {
    expect(heldOrder(PLUG_8P, 'down', 'left')).toEqual(ONE_TO_EIGHT);
    expect(heldOrder(PLUG_8P, 'down', 'right')).toEqual(EIGHT_TO_ONE);
  });

  it('meets a socket whose mating face, latch down, reads 1 to 8', () => {
    expect(leftToRight(SOCKET_8P, { face: 'mating', latch: 'down' })).toEqual(ONE_TO_EIGHT);
  });
});

describe('faces of any connector', () => {
  it('are the same after two mirrors: mating the mate is the connector itself', () => {
    fc.assert(fc.property(layouts, (layout) => expect(mate(mate(layout)).places).toEqual(layout.places)));
  });

  it('show a plug’s rear as its socket’s mating face', () => {
    fc.assert(
      fc.property(layouts, fc.constantFrom<View['latch']>('down', 'up'), (layout, latch) => {
        expect(lookAt(layout, { face: 'rear', latch })).toEqual(
          lookAt(mate(layout), { face: 'mating', latch }),
        );
      }),
    );
  });

  it('lose and invent no contact in any view', () => {
    fc.assert(
      fc.property(layouts, views, (layout, view) => {
        expect(leftToRight(layout, view).sort()).toEqual(layout.places.map((p) => p.contact).sort());
      }),
    );
  });
});

describe('slots', () => {
  for (const body of CONNECTOR_TYPES.filter((type) => type.slots.length > 0)) {
    it(`of ${body.name} feed each contact once`, () => {
      const { left, right } = slotRows(body);
      const contacts = [...left, ...right].map((slot) => slot.contact);
      const all = body.assignment === 'scheme' ? ONE_TO_EIGHT : ONE_TO_EIGHT.slice(0, 6);
      expect([...contacts].sort()).toEqual([...all]);
    });
  }

  it('of a jack body are not in contact order', () => {
    for (const jack of CONNECTOR_TYPES.filter((type) => type.group === 'jack')) {
      expect(jack.slots.map((slot) => slot.contact))
        .withContext(jack.id)
        .not.toEqual([...ONE_TO_EIGHT]);
    }
  });
});

describe('a wiring face', () => {
  it('of a D-sub plug is the mirror of its socket’s', () => {
    const plug = wiringFace('d-sub-9-plug') ?? [];
    const socket = new Map((wiringFace('d-sub-9-socket') ?? []).map((p) => [p.contact, p]));
    for (const place of plug) expect(socket.get(place.contact)?.xMm).toBeCloseTo(-place.xMm, 9);
  });

  it('of a ribbon’s socket shows what its header shows in front: the odd row at the keyway, 1 at its left', () => {
    const places = wiringFace('ribbon-10') ?? [];
    const front = lookAt(header(2, 5), { face: 'mating', latch: 'down' });
    expect(readingOrder(places)).toEqual(readingOrder(front));
    expect(readingOrder(places).join(' ')).toBe('2 4 6 8 10 1 3 5 7 9');
  });

  it('of a D-sub plug has contact 1 at the upper right from the solder side', () => {
    const order = readingOrder(wiringFace('d-sub-9-plug') ?? []);
    expect(order).toEqual(['5', '4', '3', '2', '1', '9', '8', '7', '6']);
  });

  it('of a DIN plug hops about the ring: 1, 4, 2, 5, 3 from the left, on the solder side', () => {
    const places = [...(wiringFace('din-5-plug') ?? [])].sort((a, b) => a.xMm - b.xMm);
    expect(places.map((p) => p.contact)).toEqual(['1', '4', '2', '5', '3']);
  });

  it('has a place for each contact of every connector that is drawn by places, and no two in one', () => {
    for (const type of CONNECTOR_TYPES) {
      const places = wiringFace(type.face);
      if (!places) continue;
      const spots = places.map((p) => `${p.xMm.toFixed(2)} ${p.yMm.toFixed(2)}`);
      expect(new Set(spots).size).withContext(type.id).toBe(places.length);
      for (const contact of type.contacts)
        expect(places.some((p) => p.contact === contact))
          .withContext(`${type.id} ${contact}`)
          .toBeTrue();
    }
  });
});
