import fc from 'fast-check';
import {
  LEVEL_FAMILIES,
  matchLevels,
  workUp,
  type AdapterDesign,
  type RuleFinding,
  type Wire,
} from '@near-spoke/core';
import { end, joins, KNOWN_ADAPTERS } from './known-adapters.js';

const wire = (id: string, change: Partial<Wire> = {}): Wire => ({
  id,
  colour: 'WH',
  areaMm2: 0.14,
  pair: null,
  ...change,
});
const fed = (wires: readonly Wire[]): RuleFinding[] =>
  workUp({
    name: 'fed',
    ends: [
      end('A', 'source', 'x', '1 +24V so @24 *3,2 GND g', null, 5),
      end('B', 'load', 'x', '1 VIN si @20..28 *1 !,2 GND g', null, 5),
    ],
    joins: joins('A1-B1 A2-B2'),
    wires,
    lengthM: 0.5,
  }).findings.filter(({ severity }) => severity === 'wrong');

describe('the conductors that were chosen', () => {
  it('bear the current that goes through them, or the rule says which does not', () => {
    expect(fed([wire('1', { areaMm2: 0.25 }), wire('2', { areaMm2: 0.25 })])).toEqual([]);
    const [thin] = fed([wire('1'), wire('2')]);
    expect([thin?.rule, thin?.contacts]).toEqual(['wire-current', ['A 1', 'B 1']]);
    expect(thin?.words).toBe('+24V carries 1.00 A on conductor 1, which bears 0.70 A.');
  });

  it('are taken by what their sheet says, current and voltage', () => {
    expect(fed([wire('1', { bearsA: 2 }), wire('2', { bearsA: 2 })])).toEqual([]);
    const low = fed([wire('1', { bearsA: 2, bearsV: 12 }), wire('2', { bearsA: 2, bearsV: 12 })]);
    expect(low.map(({ rule }) => rule)).toEqual(['wire-voltage']);
    expect(low[0]?.words).toContain('24 V on conductor 1, whose insulation bears 12 V');
  });

  it('keep on one pair what belongs together, or the rule says that they do not', () => {
    const usb = (wires: readonly Wire[]): string[] =>
      workUp({
        name: 'usb',
        ends: [
          end('A', 'host', 'x', '2 D- b ~usb,3 D+ b ~usb,4 GND g', 'cmos-3v3'),
          end('B', 'device', 'x', '2 D- b ~usb,3 D+ b ~usb,4 GND g', 'cmos-3v3'),
        ],
        joins: joins('A2-B2 A3-B3 A4-B4'),
        wires,
        lengthM: 1,
      }).findings.map(({ rule }) => rule);
    expect(usb([wire('1', { pair: 1 }), wire('2', { pair: 1 }), wire('3')])).toEqual([]);
    expect(usb([wire('1'), wire('2'), wire('3')])).toEqual(['pair-split']);
  });
});

describe('margins of levels', () => {
  it('are those of the two families, at nominal and where the sender’s supply has fallen', () => {
    const logic = LEVEL_FAMILIES.filter(({ inverted }) => !inverted);
    const pair = fc.tuple(fc.constantFrom(...logic), fc.constantFrom(...logic));
    fc.assert(
      fc.property(pair, fc.integer({ min: 10, max: 50 }), ([gives, takes], tenths) => {
        const least = tenths / 10;
        const design: AdapterDesign = {
          name: 'x',
          ends: [
            end('A', 'sender', 'x', '1 OUT o,2 GND g,3 VCC si @1..6 *0.01', gives.id),
            end('B', 'hearer', 'x', '1 IN i,2 GND g', takes.id),
            end('C', 'supply', 'x', `2 GND g,3 V so @${least}..5 *1`),
          ],
          joins: joins('A1-B1 A2-B2 B2-C2 A3-C3'),
          wires: [],
          lengthM: 1,
        };
        const [margin, ...others] = workUp(design).margins;
        const share = Math.min(0.9, least / 5);
        const [there, sagging] = [matchLevels(gives, takes), matchLevels(gives, takes, { driver: share })];
        expect(others).toEqual([]);
        expect(margin?.nominal).toEqual({ highV: there.highMarginV, lowV: there.lowMarginV });
        expect(margin?.sagged.share).toBeCloseTo(share, 9);
        expect(margin?.sagged.highV).toBeCloseTo(sagging.highMarginV, 9);
      }),
    );
  });

  it('are told for every straight join of the known adapters whose levels are known', () => {
    for (const { what, design } of KNOWN_ADAPTERS)
      for (const { from, to, nominal } of workUp(design).margins) {
        expect(from.pin.levels ?? from.pin.measured)
          .withContext(what)
          .toBeTruthy();
        expect(Number.isFinite(nominal.highV) && to.pin !== from.pin)
          .withContext(what)
          .toBeTrue();
      }
  });
});
