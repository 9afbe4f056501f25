import {
  believe,
  placesToMend,
  type Belief,
  type EchoEvent,
  type EchoReading,
  type MapReading,
  type TouchReading,
} from '../src/index.js';
import { expectation } from './links.js';

const CONTACTS = ['1', '2', '3', '4', '5', '6', '7', '8'];
const PAIRS = ['1-2', '3-6', '4-5', '7-8'];

const slipShare = (belief: Belief, slip: string): number =>
  belief.hypotheses.reduce((sum, h) => sum + (h.faults.some((f) => f.slip === slip) ? h.weight : 0), 0);
const onlyAt = (belief: Belief, ...places: string[]): number =>
  belief.hypotheses.reduce((sum, h) => sum + (placesToMend(h).join() === places.join() ? h.weight : 0), 0);

/** Ohms of each path from end to end; null for one that is open. */
const ohms = (figures: readonly (number | null)[]): TouchReading => ({
  instrument: 'ohmmeter',
  touches: figures.map((ohm, i) => ({
    from: { end: 'near', contacts: [String(i + 1)] },
    to: { end: 'far', contacts: [String(i + 1)] },
    closed: ohm !== null,
    ohm,
  })),
});
const echoes = (from: 'near' | 'far', ends: readonly EchoEvent[]): EchoReading => ({
  instrument: 'pair-reflectometer',
  from,
  pairs: Object.fromEntries(PAIRS.map((pair, i) => [pair, [ends[i] as EchoEvent]])),
});
const opens = (...metres: number[]): EchoEvent[] => metres.map((distanceM) => ({ kind: 'open', distanceM }));
const map = (arrivals: Record<string, string[]>, joins: string[][] = []): MapReading => ({
  instrument: 'coded-mapper',
  arrivals: { ...Object.fromEntries(CONTACTS.map((c) => [c, [c]])), ...arrivals },
  joins,
  splits: null,
});

describe('a place that nobody knows', () => {
  it('may lie behind one that is known: a wire that is joined on the way and does not arrive is broken beyond, or open there', () => {
    const link = expectation({ lengthM: 74 });
    const read = echoes('near', opens(71.1, 72.5, 0, 71.5));
    const short: EchoEvent = { kind: 'short', distanceM: 46.8 };
    const joined = map({ 4: ['5'], 5: ['5'] }, [['4', '5']]);
    const belief = believe(link, [joined, { ...read, pairs: { ...read.pairs, '4-5': [short] } }]);
    expect(slipShare(belief, 'pierced-pair')).toBeGreaterThan(0.95);
    // Ends go wrong oftener, and nothing here tells the two apart.
    expect(onlyAt(belief, 'far', 'cable')).toBeLessThan(0.95);
    expect(slipShare(belief, 'broken-conductor')).toBeGreaterThan(0.03);
  });

  it('counts from the far end by the pairs that go through, not by a plan that is three metres short', () => {
    const link = expectation({ lengthM: 45.6 });
    const belief = believe(link, [map({ 7: [] }), echoes('far', opens(48.1, 48.8, 48.9, 45.8))]);
    const [first] = belief.hypotheses;
    expect(first?.faults[0]?.slip).toBe('broken-conductor');
    expect(first?.faults[0]?.distanceM).toBeGreaterThan(1.5);
    expect(first?.faults[0]?.distanceM).toBeLessThan(4.5);
  });
});

describe('a length that ohms tell', () => {
  it('is another than the plan has, where all paths have two thirds of its ohms: not equipment at both ends', () => {
    const link = expectation({ cable: 'cat5e-u', far: 'jack-toolless', lengthM: 42.5 });
    const belief = believe(link, [ohms([2.33, 2.48, 2.6, 2.39, 2.3, 2.48, 2.39, null])]);
    expect(slipShare(belief, 'equipment-left')).toBeLessThan(0.05);
    expect(slipShare(belief, 'wrong-length')).toBeGreaterThan(0.4);
  });

  it('lets a loop be closed at the far end of a shorter cable', () => {
    const link = expectation({
      cable: 'cat6-f-outdoor',
      near: 'jack-punched-screened',
      far: 'plug-outdoor',
      lengthM: 43.9,
    });
    const strand = { ...map({ 1: ['1', 'S'], S: ['1', 'S'] }, [['1', 'S']]) };
    const loop: TouchReading = {
      instrument: 'ohmmeter',
      touches: [
        {
          from: { end: 'near', contacts: ['1'] },
          to: { end: 'near', contacts: ['S'] },
          closed: true,
          ohm: 2.86,
        },
      ],
    };
    expect(onlyAt(believe(link, [strand, loop]), 'far')).toBeGreaterThan(0.05);
  });

  it('another link has too: a reading with 3.6 ohm beside one with 6 is of another link', () => {
    const link = expectation({ cable: 'cat5e-u', far: 'jack-toolless', lengthM: 69 });
    const belief = believe(link, [
      ohms([6.11, 6.07, 5.97, 5.97, 6, 5.87, 5.96, 5.97]),
      ohms([3.47, 3.67, 3.6, 3.69, null, null, 3.58, 3.73]),
    ]);
    expect(slipShare(belief, 'equipment-left')).toBeLessThan(0.05);
    expect(belief.stray[1]?.share).toBeGreaterThan(0.9);
    expect(belief.stray[0]?.share).toBeLessThan(0.1);
  });

  it('is learned on a short link within what a meter reads to', () => {
    // A tenth of an ohm is a tenth of these: eight paths a third over are one cable of another length or copper.
    const link = expectation({ lengthM: 12 });
    const belief = believe(link, [ohms([1.14, 1.17, 1.01, 1.05, 1.21, 1.12, 1.1, 1.15])]);
    expect(slipShare(belief, 'poor-joint')).toBeLessThan(0.05);
    expect(slipShare(belief, 'unexplained')).toBeLessThan(0.05);
  });

  it('from two readings is one length', () => {
    const link = expectation({ lengthM: 68 });
    const both = [echoes('far', opens(35.1, 34.4, 35.4, 34.8)), echoes('near', opens(35, 34.9, 35.7, 35.5))];
    const lengths = new Set(
      believe(link, both).hypotheses.flatMap(({ faults }) =>
        faults.flatMap(({ slip, variant }) => (slip === 'wrong-length' ? [variant] : [])),
      ),
    );
    expect(lengths.size).toBe(1);
  });

  it('leaves a belief where a place lies beyond the cable that it would be', () => {
    const coax = expectation({ cable: 'rg6', near: 'coax-f', far: 'coax-f', lengthM: 74.1 });
    const dark: MapReading = {
      instrument: 'coded-mapper',
      arrivals: { C: [], S: ['S'] },
      joins: [],
      splits: null,
    };
    const end: EchoReading = {
      instrument: 'pair-reflectometer',
      from: 'far',
      pairs: { 'C-S': [{ kind: 'open', distanceM: 14.5 }] },
    };
    const belief = believe(coax, [dark, end]);
    expect(belief.hypotheses.every(({ weight }) => weight >= 0 && weight <= 1)).toBeTrue();
    expect(slipShare(belief, 'broken-conductor')).toBeGreaterThan(0.8);
  });
});
