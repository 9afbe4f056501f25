import {
  BadDesign,
  chooseDivider,
  LEVEL_FAMILIES,
  checkAdapter,
  netsOf,
  suggestJoins,
  workUp,
  wrongTouches,
  pointKey,
  type AdapterDesign,
  type RuleFinding,
} from '@near-spoke/core';
import { end, joins, KNOWN_ADAPTERS, stage } from './known-adapters.js';

const of = (findings: readonly RuleFinding[], severity: RuleFinding['severity']): string[] =>
  findings.filter((finding) => finding.severity === severity).map(({ rule }) => rule);

describe('adapters from published pinouts', () => {
  it('are at least 25, ten of them with a planted mistake', () => {
    expect(KNOWN_ADAPTERS.length).toBeGreaterThanOrEqual(25);
    expect(KNOWN_ADAPTERS.filter(({ planted }) => planted).length).toBeGreaterThanOrEqual(10);
  });

  for (const { what, design, wrong, unsure, planted } of KNOWN_ADAPTERS) {
    it(`${planted ? 'with a mistake are caught' : 'are passed'}: ${what}`, () => {
      const findings = checkAdapter(design);
      const told = findings.map(({ severity, words }) => `${severity}: ${words}`).join('\n');
      expect([...new Set(of(findings, 'wrong'))].sort())
        .withContext(told)
        .toEqual([...new Set(wrong)].sort());
      expect(of(findings, 'wrong').length).withContext(told).toBeGreaterThanOrEqual(wrong.length);
      for (const rule of unsure) expect(of(findings, 'unsure')).withContext(told).toContain(rule);
      for (const { words, remedy, contacts } of findings) {
        expect(words).toMatch(/\.$/);
        expect(remedy).toMatch(/\.$/);
        for (const contact of contacts) expect(contact).toMatch(/^[A-Z] \S+$/);
      }
    });

    it(`are proved by their list as they are meant: ${what}`, () => {
      const { proof, rows, dead } = workUp(design);
      const sound = new Map(
        [...rows.map(({ net }) => net.pins), ...dead.map((pin) => [pin])].flatMap((pins, n) =>
          pins.map((pin) => [pointKey(pin), n] as const),
        ),
      );
      expect(sound.size).toBe(design.ends.reduce((sum, { pins }) => sum + pins.length, 0));
      expect(wrongTouches(proof, sound)).toEqual([]);
      const [first] = rows;
      if (!first || first.net.pins.length < 2) return;
      const open = new Map(sound).set(pointKey(first.net.pins[1] ?? { end: '', contact: '' }), -1);
      expect(wrongTouches(proof, open).length).toBeGreaterThan(0);
    });
  }
});

describe('joins by signal', () => {
  const DTE = '2 RXD i,3 TXD o,5 GND g,7 RTS o,8 CTS i,4 DTR o,6 DSR i';
  const words = (one: ReturnType<typeof end>, other: ReturnType<typeof end>): string[] =>
    suggestJoins(one, other).map(({ join: { from, to } }) => `${from.contact}-${to.contact}`);

  it('are suggested crossed between two devices of one kind', () => {
    const suggested = words(end('A', 'a', 'DE-9', DTE), end('B', 'b', 'DE-9', DTE));
    expect(suggested.sort()).toEqual(['2-3', '3-2', '4-6', '5-5', '6-4', '7-8', '8-7'].sort());
  });

  it('are suggested straight where the one drives what the other hears under the same name', () => {
    const dce = end('B', 'b', 'DE-9', '2 RXD o,3 TXD i,5 GND g,7 RTS i,8 CTS o,4 DTR i,6 DSR o');
    expect(words(end('A', 'a', 'DE-9', DTE), dce).sort()).toEqual(
      ['2-2', '3-3', '4-4', '5-5', '6-6', '7-7', '8-8'].sort(),
    );
  });

  it('feed a load only from a supply that it accepts, and never join two outputs', () => {
    const load = end('A', 'a', 'x', '1 VIN si @4.5..5.5,2 GND g,3 OUT o');
    expect(words(load, end('B', 'b', 'x', '1 VOUT so @4.8..5.2,2 GND g,3 OUT o'))).toEqual(['2-2', '1-1']);
    expect(words(load, end('B', 'b', 'x', '1 VOUT so @11..13,2 GND g,3 OUT o'))).toEqual(['2-2']);
  });

  it('pass their own rules', () => {
    const ends = [end('A', 'a', 'DE-9', DTE, 'rs-232'), end('B', 'b', 'DE-9', DTE, 'rs-232')] as const;
    const design: AdapterDesign = {
      name: 'crossed',
      ends,
      joins: suggestJoins(ends[0], ends[1]).map(({ join }) => join),
      wires: [],
      lengthM: 2,
    };
    expect(of(checkAdapter(design), 'wrong')).toEqual([]);
  });
});

describe('nets', () => {
  const ends = [end('A', 'a', 'x', '1 ONE o,2 TWO i,3 GND g'), end('B', 'b', 'x', '1 ONE i,2 TWO o,3 GND g')];

  it('gather what is joined, however it is told, and keep parts between nets apart', () => {
    const { nets, couplings } = netsOf({ ends, joins: joins('A1-B1 B1-A2 A3-B3 A2-B3', { 'A2-B3': stage }) });
    expect(nets.map(({ pins }) => pins.length)).toEqual([3, 2]);
    expect(nets[1]?.name).toBe('GND');
    expect(couplings.length).toBe(1);
  });

  it('are the same turned round', () => {
    const turned = joins('A1-B1 A3-B3 A2-B2').map(({ from, to, parts }) => ({ from: to, to: from, parts }));
    const sets = (all: ReturnType<typeof netsOf>): string[] =>
      all.nets.map(({ pins }) => pins.map(pointKey).sort().join(' ')).sort();
    expect(sets(netsOf({ ends, joins: turned }))).toEqual(
      sets(netsOf({ ends, joins: joins('A1-B1 A3-B3 A2-B2') })),
    );
  });

  it('refuse a contact that is not there, and say which there are', () => {
    expect(() => netsOf({ ends, joins: joins('A9-B1') })).toThrowError(
      BadDesign,
      'a (A) has no contact 9: it has 1, 2, 3.',
    );
    expect(() => netsOf({ ends, joins: joins('C1-B1') })).toThrowError(BadDesign, /There is no end C/);
  });
});

describe('levels through parts', () => {
  const logger = end('A', 'logger', 'x', '1 OUT o,2 GND g', 'cmos-5');
  const board = end('B', 'board', 'x', '1 IN i !,2 GND g', 'cmos-3v3');
  const through = (parts: Parameters<typeof joins>[1], words = 'A1-B1 A2-B2 B1-B2'): string[] =>
    of(
      checkAdapter({ name: 'd', ends: [logger, board], joins: joins(words, parts), wires: [], lengthM: 1 }),
      'wrong',
    );
  const resistor = (ohm: number) => [{ kind: 'resistor' as const, words: '', ohm }];

  it('are right behind the divider that is proposed, and wrong behind one that divides too little or too much', () => {
    const [from, to] = [
      LEVEL_FAMILIES.find(({ id }) => id === 'cmos-5'),
      LEVEL_FAMILIES.find(({ id }) => id === 'cmos-3v3'),
    ];
    const divider = from && to && chooseDivider(from, to);
    if (!divider) throw new Error('no divider');
    expect(through({ 'A1-B1': resistor(divider.seriesOhm), 'B1-B2': resistor(divider.groundOhm) })).toEqual(
      [],
    );
    expect(through({ 'A1-B1': resistor(1000), 'B1-B2': resistor(100_000) })).toEqual(['levels-damage']);
    expect(through({ 'A1-B1': resistor(10_000), 'B1-B2': resistor(2200) })).toEqual(['levels-unread']);
  });

  it('are not lowered by a resistor alone', () => {
    expect(through({ 'A1-B1': resistor(4700) }, 'A1-B1 A2-B2')).toEqual(['levels-damage']);
  });

  it('of an open collector are judged by its low alone', () => {
    const detector = end('A', 'detector', 'x', '1 ALARM oc =cmos-3v3,2 GND g');
    const panel = end('B', 'panel', 'x', '1 ZONE i ^ !,2 GND g', 'cmos-5');
    const design = { name: 'o', ends: [detector, panel], joins: joins('A1-B1 A2-B2'), wires: [], lengthM: 1 };
    expect(of(checkAdapter(design), 'wrong')).toEqual([]);
  });
});

describe('an adapter worked up', () => {
  it('has a conductor with a reason for each net that crosses, and says when the cable has too few', () => {
    const known = KNOWN_ADAPTERS.find(({ what }) => what === 'device of serial bus to host');
    if (!known) throw new Error('not there');
    const wires = [
      { id: '1', colour: 'RD' as const, areaMm2: 0.2, pair: null },
      { id: '2', colour: 'WH' as const, areaMm2: 0.08, pair: 1 },
      { id: '3', colour: 'GN' as const, areaMm2: 0.08, pair: 1 },
      { id: '4', colour: 'BK' as const, areaMm2: 0.2, pair: null },
    ];
    const { rows, spares } = workUp({ ...known.design, wires });
    expect(rows.map(({ net, wire }) => [net.name, wire])).toEqual([
      ['VBUS', '1'],
      ['D-', jasmine.stringMatching(/[23]/)],
      ['D+', jasmine.stringMatching(/[23]/)],
      ['GND', '4'],
    ]);
    expect(spares).toEqual([]);
    expect(workUp({ ...known.design, wires: wires.slice(1) }).noWires).toMatch(/4 signals and 3 conductors/);
  });

  it('warns of the drop in a long thin lead', () => {
    const design: AdapterDesign = {
      name: 'long',
      ends: [
        end('A', 'a', 'x', '1 +5V so @5..5 *2,2 GND g'),
        end('B', 'b', 'x', '1 VIN si @4..6 *0.8 !,2 GND g'),
      ],
      joins: joins('A1-B1 A2-B2'),
      wires: [
        { id: '1', colour: 'RD', areaMm2: 0.14, pair: null },
        { id: '2', colour: 'BK', areaMm2: 0.14, pair: null },
      ],
      lengthM: 10,
    };
    const drop = checkAdapter(design).find(({ rule }) => rule === 'voltage-drop');
    // 2 x 10 m x 0.017241 / 0.14 mm2 x 0.8 A.
    expect(drop?.words).toContain('lose 1.97 V of 5 V');
    expect(checkAdapter({ ...design, lengthM: 0.5 }).some(({ rule }) => rule === 'voltage-drop')).toBeFalse();
  });
});

describe('a battery pack in a lead', () => {
  const fed = (cells: { count: number; freshV: number; endV: number }, volts: string): RuleFinding[] =>
    checkAdapter({
      name: 'handset',
      ends: [
        end('A', 'handset', 'phone', `T VIN si @${volts} *0.02 !,S GND g`),
        end('B', 'box', 'box', '1 PLUS g,2 MINUS g'),
      ],
      joins: joins('AS-B2 AT-B2', { 'AT-B2': [{ kind: 'battery', words: 'two cells', cells }] }),
      wires: [],
      lengthM: 1,
    });

  it('feeds its load, new and at the end of its life', () => {
    expect(of(fed({ count: 2, freshV: 1.6, endV: 0.9 }, '1.8..3.6'), 'wrong')).toEqual([]);
    expect(of(fed({ count: 2, freshV: 1.6, endV: 0.9 }, '1.8..3.6'), 'unsure')).toEqual([]);
  });

  it('is found where it is too much when new, or too little at its end', () => {
    expect(of(fed({ count: 3, freshV: 1.6, endV: 0.9 }, '1.8..3.6'), 'wrong')).toEqual([
      'supply-out-of-range',
    ]);
    const low = fed({ count: 2, freshV: 1.6, endV: 0.8 }, '1.8..3.6');
    expect(of(low, 'unsure')).toEqual(['supply-out-of-range']);
    expect(low[0]?.words).toContain('1.60 V at the end of its life');
  });

  it('lets levels sag with it: what reads at nominal may not read at its end', () => {
    const lead = (least: number): string[] =>
      checkAdapter({
        name: 'sagging',
        ends: [
          end('A', 'pack', 'x', `1 V so @${least}..5 *0.1,2 GND g`),
          end('B', 'sender', 'x', '1 VCC si @2..5.5 *0.01,2 GND g,3 TXD o', 'cmos-5'),
          end('C', 'hearer', 'x', '2 GND g,3 RXD i !', 'ttl-5'),
        ],
        joins: joins('A1-B1 A2-B2 B2-C2 B3-C3'),
        wires: [],
        lengthM: 1,
      }).flatMap(({ rule, severity }) => (severity === 'unsure' ? [rule] : []));
    expect(lead(4.5)).toEqual([]);
    // 4.4 V of 5 V, at 2 V of supply, is under the 2 V that are asked for.
    expect(lead(2)).toEqual(['levels-tight']);
  });
});

describe('a connector in its place', () => {
  const alone = (change: Partial<AdapterDesign['ends'][number]>): RuleFinding[] =>
    checkAdapter({
      name: 'x',
      ends: [{ ...end('A', 'device', 'plug', '1 X a,2 Y a'), ...change }, end('B', 'other', 'plug', '1 X a')],
      joins: [],
      wires: [],
      lengthM: 1,
    }).filter(({ rule }) => !['unused'].includes(rule));

  it('has the contacts that its pinout speaks of', () => {
    expect(alone({ layout: 'header-1x2' })).toEqual([]);
    const strange = alone({ layout: 'usb-c' });
    expect(strange.map(({ rule, contacts }) => [rule, contacts])).toEqual([
      ['contact-unknown', ['A 1', 'A 2']],
    ]);
  });

  it('is to be read or metered where makers number it differently', () => {
    expect(alone({ layout: 'm12-a-4' }).map(({ rule }) => rule)).toEqual(['numbers-unread']);
    const metered = end('A', 'device', 'plug', '1 X a').pins.map((pin) => ({
      ...pin,
      source: 'metered' as const,
    }));
    expect(alone({ layout: 'm12-a-4', pins: metered })).toEqual([]);
  });

  it('fits into its room, or the rule says which side does not', () => {
    const body = { widthMm: 31, heightMm: 13, lengthMm: 45 };
    expect(alone({ body, room: { widthMm: 40, heightMm: 20, lengthMm: 60 } })).toEqual([]);
    const [tight] = alone({ body, room: { widthMm: 40, heightMm: 12, lengthMm: 30 } });
    expect(tight?.words).toBe(
      'device: the plug is 13 mm high where 12 mm are free, 45 mm long where 30 mm are free.',
    );
  });

  it('that was found otherwise than its sheet says so to the next person', () => {
    const pins = end('A', 'device', 'plug', '1 X a').pins.map((pin) => ({ ...pin, sheetSaid: 'Y' }));
    const [found] = alone({ pins });
    expect([found?.rule, found?.severity, found?.words]).toEqual([
      'as-found',
      'note',
      'A 1 X was found so; the sheet says Y.',
    ]);
  });

  it('with two wires of one colour is to be metered again when they are cut', () => {
    const pins = end('A', 'device', 'plug', '1 X a,2 Y a').pins.map((pin) => ({ ...pin, colour: 'BK' }));
    expect(alone({ pins }).map(({ rule, severity }) => [rule, severity])).toEqual([['colour-twice', 'note']]);
  });
});

describe('levels of a device’s own sheet', () => {
  it('are judged as those of a family are', () => {
    const figures = {
      supplyV: 2.5,
      outLowV: 0.2,
      outHighV: 2.2,
      inLowV: 0.7,
      inHighV: 1.7,
      leastV: -0.3,
      mostV: 2.8,
      inverted: false,
    };
    const lead = (there: string): string[] => {
      const own = end('B', 'chip', 'x', '1 IN i !,2 GND g');
      return checkAdapter({
        name: 'x',
        ends: [
          end('A', 'sender', 'x', '1 OUT o,2 GND g', there),
          { ...own, pins: own.pins.map((pin) => (pin.contact === '1' ? { ...pin, figures } : pin)) },
        ],
        joins: joins('A1-B1 A2-B2'),
        wires: [],
        lengthM: 1,
      }).map(({ rule }) => rule);
    };
    expect(lead('cmos-3v3')).toEqual(['levels-damage']);
    expect(lead('cmos-1v8')).toEqual(['levels-unread']);
  });
});

describe('levels that were measured', () => {
  it('stand before those of the family, whose thresholds stay', () => {
    const measured = {
      lowV: 0.1,
      highV: 3.2,
      swingV: 3.1,
      edgeS: null,
      shortestBitS: null,
      edges: 9,
      noiseV: 0.01,
    };
    const lead = (levels: object): string[] => {
      const sender = end('A', 'sender', 'x', '1 TXD o,2 GND g', 'cmos-5');
      return checkAdapter({
        name: 'x',
        ends: [
          { ...sender, pins: sender.pins.map((pin) => (pin.contact === '1' ? { ...pin, ...levels } : pin)) },
          end('B', 'hearer', 'x', '1 RXD i !,2 GND g', 'cmos-3v3'),
        ],
        joins: joins('A1-B1 A2-B2'),
        wires: [],
        lengthM: 1,
      }).map(({ rule }) => rule);
    };
    expect(lead({})).toEqual(['levels-damage']);
    expect(lead({ measured })).toEqual([]);
  });
});
