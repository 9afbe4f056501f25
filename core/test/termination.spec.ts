import fc from 'fast-check';
import {
  buildCard,
  CABLE_TYPES,
  CONNECTOR_TYPES,
  judgePart,
  type SchemeId,
  type WorkCard,
} from '../src/index.js';

const cable = (id: string) => CABLE_TYPES.find((c) => c.id === id) as (typeof CABLE_TYPES)[number];
const connector = (id: string) =>
  CONNECTOR_TYPES.find((c) => c.id === id) as (typeof CONNECTOR_TYPES)[number];
const card = (connectorId: string, cableId = 'cat6-u', scheme: SchemeId = 'T568B'): WorkCard =>
  buildCard({ cable: cable(cableId), connector: connector(connectorId), scheme });
const ids = (made: WorkCard): string[] => made.steps.map((step) => step.id);

describe('the work card', () => {
  it('of a closed plug threads the boot before it strips, and reads the colours before it crimps', () => {
    expect(ids(card('plug-closed'))).toEqual([
      'thread',
      'strip',
      'core',
      'arrange',
      'trim',
      'insert',
      'crimp',
      'finish',
    ]);
  });

  it('of a pass-through plug has no trimming before the crimp, which cuts', () => {
    expect(ids(card('plug-pass-through'))).toEqual([
      'thread',
      'strip',
      'core',
      'arrange',
      'slide',
      'crimp',
      'finish',
    ]);
    expect(card('plug-pass-through').strip.trimMm).toBeNull();
  });

  it('of a screened outdoor plug keeps the drain and puts it into the clip before the crimp', () => {
    const steps = ids(card('plug-outdoor', 'cat6-f-outdoor'));
    expect(steps.indexOf('screen')).toBeGreaterThan(steps.indexOf('strip'));
    expect(steps.indexOf('bond')).toBeLessThan(steps.indexOf('crimp'));
    expect(steps.indexOf('bond')).toBeGreaterThan(0);
  });

  it('of an unscreened jack has nothing to thread and nothing to bond', () => {
    expect(ids(card('jack-punched'))).toEqual(['strip', 'core', 'lay', 'punch', 'finish']);
  });

  it('of a tool-less jack threads the wiring cap, lays, trims and closes', () => {
    expect(ids(card('jack-toolless'))).toEqual(['thread', 'strip', 'core', 'lay', 'trim', 'close', 'finish']);
  });

  it('lays the conductors in the scheme’s order, contact 1 first', () => {
    expect(card('plug-closed', 'cat6-u', 'T568A').order.map((l) => l.conductor)).toEqual([
      'WH-GN',
      'GN',
      'WH-OG',
      'BU',
      'WH-BU',
      'OG',
      'WH-BN',
      'BN',
    ]);
  });

  it('gives each slot of a jack the conductor of the contact it feeds', () => {
    const made = card('jack-punched');
    const byContact = new Map(made.order.map((l) => [l.contact, l.conductor]));
    const slots = [...(made.slots?.left ?? []), ...(made.slots?.right ?? [])];
    expect(slots.length).toBe(8);
    for (const slot of slots) expect(slot.conductor).toBe(byContact.get(slot.contact) ?? '');
  });

  it('marks a point of no return on every card, and nothing is read back after it', () => {
    for (const id of ['plug-closed', 'plug-pass-through', 'jack-punched', 'jack-toolless']) {
      const { steps } = card(id);
      const point = steps.findIndex((step) => step.noWayBack);
      expect(point).withContext(id).toBeGreaterThan(0);
      expect(steps.slice(point).some((step) => step.picture === 'face'))
        .withContext(id)
        .toBeFalse();
    }
  });

  it('gives a reason and an acceptance look with every step', () => {
    for (const type of CONNECTOR_TYPES.filter((c) => c.style !== 'other')) {
      for (const step of card(type.id).steps) {
        expect(step.reason).withContext(`${type.id} ${step.id}`).not.toBe('');
        expect(step.accept).withContext(`${type.id} ${step.id}`).not.toBe('');
      }
    }
  });

  it('says so where there is no card yet', () => {
    expect(() => card('coax-n', 'rg213')).toThrowError(RangeError, /no work card for N plug, crimp/);
  });
});

describe('a ring part', () => {
  const body = { bodyMm: 11.7 };

  it('goes first when it passes the jacket and not the connector', () => {
    expect(
      judgePart({ name: 'boot', boreMm: 9, outsideMm: 13, lengthMm: 24 }, { jacketMm: 7.6 }, body).when,
    ).toBe('first');
  });

  it('never goes on when its bore is no wider than the jacket', () => {
    expect(
      judgePart({ name: 'boot', boreMm: 6, outsideMm: 10, lengthMm: 24 }, { jacketMm: 6 }, body).when,
    ).toBe('never');
  });

  it('is called "first" or "any time" only where it really passes the jacket, for any sizes', () => {
    const size = fc.double({ min: 1, max: 40, noNaN: true });
    fc.assert(
      fc.property(size, size, size, (boreMm, jacketMm, bodyMm) => {
        const { when } = judgePart(
          { name: 'ring', boreMm, outsideMm: boreMm + 2, lengthMm: 5 },
          { jacketMm },
          { bodyMm },
        );
        expect(when === 'never').toBe(boreMm <= jacketMm);
        if (when === 'any time') expect(boreMm).toBeGreaterThan(bodyMm);
      }),
    );
  });
});
