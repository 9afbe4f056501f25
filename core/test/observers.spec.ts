import fc from 'fast-check';
import {
  closeMap,
  mapKey,
  observe,
  type EchoReading,
  type LampReading,
  type LinkEnd,
  type TrueLink,
  type MapReading,
} from '../src/index.js';
import { expectation, linkWith, PAIR_BY_PAIR, screened, T568A, wired } from './links.js';

const plain = expectation();
const observeMap = (link: TrueLink, instrument: MapReading['instrument']) =>
  observe(link, instrument) as MapReading;
const observeLamps = (link: TrueLink) => observe(link, 'lamp-pairs') as LampReading;
const observeEchoes = (link: TrueLink, end: LinkEnd = 'near') =>
  observe(link, 'pair-reflectometer', { end }) as EchoReading;

describe('a wire mapper', () => {
  it('reads a sound link straight, with nothing joined and no splits', () => {
    const reading = observeMap(linkWith(plain), 'coded-mapper-crosstalk');
    for (const contact of Object.keys(reading.arrivals)) expect(reading.arrivals[contact]).toEqual([contact]);
    expect(reading.joins).toEqual([]);
    expect(reading.splits).toEqual([]);
  });

  it('shows an exchanged pair as two arrivals exchanged', () => {
    const far = { ...linkWith(plain).far, 1: 'OG', 2: 'WH-OG' };
    const { arrivals } = observeMap(linkWith(plain, { far }), 'coded-mapper');
    expect([arrivals['1'], arrivals['2'], arrivals['3']]).toEqual([['2'], ['1'], ['3']]);
  });

  it('shows a broken conductor as arriving nowhere', () => {
    const link = linkWith(plain, { breaks: [{ conductor: 'BU', atM: 23 }] });
    expect(observeMap(link, 'coded-mapper').arrivals['4']).toEqual([]);
  });

  it('shows a join beyond a break only from the side it is on', () => {
    const breaks = [{ conductor: 'BU', atM: 10 }];
    const beyond = linkWith(plain, { breaks, joins: [{ conductors: ['BU', 'GN'], atM: 20 }] });
    expect(observeMap(beyond, 'coded-mapper').joins).toEqual([]);
    expect(observeMap(beyond, 'coded-mapper').arrivals['6']).toEqual(['4', '6']);
    const before = linkWith(plain, { breaks, joins: [{ conductors: ['BU', 'GN'], atM: 5 }] });
    expect(observeMap(before, 'coded-mapper').joins).toEqual([['4', '6']]);
    expect(observeMap(before, 'coded-mapper').arrivals['4']).toEqual(['6']);
  });

  it('sees split pairs only when it measures crosstalk', () => {
    const end = wired(...PAIR_BY_PAIR);
    const link = linkWith(plain, { near: end, far: end });
    expect(observeMap(link, 'coded-mapper-crosstalk').splits).toEqual(['3-6', '4-5']);
    expect(observeMap(link, 'coded-mapper').splits).toBeNull();
    expect(observeMap(link, 'coded-mapper').arrivals['6']).toEqual(['6']);
  });

  it('does not take T568A at both ends for splits', () => {
    const end = wired(...T568A);
    expect(observeMap(linkWith(plain, { near: end, far: end }), 'coded-mapper-crosstalk').splits).toEqual([]);
  });

  it('reads the screen as a contact of its own', () => {
    const link = linkWith(screened(), { far: { ...linkWith(screened()).far, S: null } });
    expect(observeMap(link, 'coded-mapper').arrivals['S']).toEqual([]);
    expect(observeMap(linkWith(screened()), 'coded-mapper').arrivals['S']).toEqual(['S']);
  });

  it('does not reach a contact on which the conductor is not seated', () => {
    const link = linkWith(plain, { unseated: [{ end: 'far', contact: '7' }] });
    expect(observeMap(link, 'coded-mapper').arrivals['7']).toEqual([]);
    expect(observe(link, 'eye', { end: 'far' })).toEqual(observe(linkWith(plain), 'eye', { end: 'far' }));
  });
});

describe('a lamp per pair with the far end bridged', () => {
  const allLit = { '1-2': true, '3-6': true, '4-5': true, '7-8': true };

  it('lights every lamp on a sound link', () => {
    expect(observeLamps(linkWith(plain)).lamps).toEqual(allLit);
  });

  it('lights every lamp on split pairs, an exchanged pair and a mixed scheme: it is blind to them', () => {
    const split = wired(...PAIR_BY_PAIR);
    const exchanged = { ...linkWith(plain).far, 1: 'OG', 2: 'WH-OG' };
    expect(observeLamps(linkWith(plain, { near: split, far: split })).lamps).toEqual(allLit);
    expect(observeLamps(linkWith(plain, { far: exchanged })).lamps).toEqual(allLit);
    expect(observeLamps(linkWith(plain, { far: wired(...T568A) })).lamps).toEqual(allLit);
  });

  it('is lit by a short within the pair, which hides an open beyond it', () => {
    const link = linkWith(plain, {
      joins: [{ conductors: ['BU', 'WH-BU'], atM: 5 }],
      breaks: [{ conductor: 'BU', atM: 20 }],
    });
    expect(observeLamps(link).lamps).toEqual(allLit);
  });

  it('goes dark for the pair with an open conductor', () => {
    const link = linkWith(plain, { breaks: [{ conductor: 'BU', atM: 23 }] });
    expect(observeLamps(link).lamps).toEqual({ ...allLit, '4-5': false });
  });
});

describe('a reflectometer', () => {
  it('sees an open at the far end of each sound pair', () => {
    expect(observeEchoes(linkWith(plain)).pairs).toEqual({
      '1-2': [{ kind: 'open', distanceM: 40 }],
      '3-6': [{ kind: 'open', distanceM: 40 }],
      '4-5': [{ kind: 'open', distanceM: 40 }],
      '7-8': [{ kind: 'open', distanceM: 40 }],
    });
  });

  it('measures from the end it stands at', () => {
    const link = linkWith(plain, { breaks: [{ conductor: 'BU', atM: 23 }] });
    expect(observeEchoes(link, 'near').pairs['4-5']).toEqual([{ kind: 'open', distanceM: 23 }]);
    expect(observeEchoes(link, 'far').pairs['4-5']).toEqual([{ kind: 'open', distanceM: 17 }]);
  });

  it('sees a wet place on the way to the end, not beyond a break', () => {
    const disturbances = [{ atM: 27, lengthM: 1, impedance: 'low' as const }];
    expect(observeEchoes(linkWith(plain, { disturbances })).pairs['1-2']?.map((e) => e.kind)).toEqual([
      'low',
      'open',
    ]);
    const cut = linkWith(plain, { disturbances, breaks: [{ conductor: 'OG', atM: 9 }] });
    expect(observeEchoes(cut).pairs['1-2']).toEqual([{ kind: 'open', distanceM: 9 }]);
  });

  it('sees contacts that touch at the far end as a short there', () => {
    const link = linkWith(plain, { bridges: [{ end: 'far', contacts: ['1', '2'] }] });
    expect(observeEchoes(link).pairs['1-2']).toEqual([{ kind: 'short', distanceM: 40 }]);
  });
});

describe('closing a map', () => {
  const straightMap = (change: Record<string, string[]> = {}): MapReading => ({
    instrument: 'coded-mapper',
    arrivals: {
      ...Object.fromEntries(['1', '2', '3', '4', '5', '6', '7', '8'].map((c) => [c, [c]])),
      ...change,
    },
    joins: [],
    splits: null,
  });

  it('takes two near contacts at one far contact for a short, however little of it was written down', () => {
    const some = closeMap(straightMap({ 1: ['1'], 2: ['1', '2'] }));
    const all = closeMap(straightMap({ 1: ['1', '2'], 2: ['1', '2'] }));
    expect(some.joins).toEqual([['1', '2']]);
    expect(mapKey(some)).toBe(mapKey(all));
  });

  it('changes nothing the second time', () => {
    const contact = fc.integer({ min: 1, max: 8 }).map(String);
    fc.assert(
      fc.property(
        fc.array(fc.uniqueArray(contact, { maxLength: 3 }), { minLength: 8, maxLength: 8 }),
        (rows) => {
          const once = closeMap(straightMap(Object.fromEntries(rows.map((row, i) => [String(i + 1), row]))));
          expect(closeMap(once)).toEqual(once);
        },
      ),
    );
  });
});
