import { CONNECTOR_TYPES, sparesFor, takeOff, type OpenLink, type TakeOffLine } from '@near-spoke/core';

const link = (n: number, change: Partial<OpenLink> = {}): OpenLink => ({
  label: String(n),
  cableTypeId: 'c',
  pieceM: 10,
  pulled: false,
  nearConnectorId: 'plug-closed',
  farConnectorId: 'bnc-crimp',
  nearDone: false,
  farDone: false,
  ...change,
});
/** Clumsy hands: every third connector is spoiled. */
const clumsy = (): { spoiled: number; good: number } => ({ spoiled: 50, good: 100 });
const CONNECTORS = [
  {
    id: 'plug-closed',
    name: 'plug',
    parts: [{ ...CONNECTOR_TYPES[0]?.parts[0], name: 'boot', kind: 'boot', boreMm: 6.5 }],
  },
  {
    id: 'bnc-crimp',
    name: 'crimped',
    parts: [{ ...CONNECTOR_TYPES[0]?.parts[0], name: 'ferrule', kind: 'ferrule', boreMm: 7 }],
  },
] as unknown as Parameters<typeof takeOff>[1]['connectors'];
const take = (links: OpenLink[], confidence = 0.95): TakeOffLine[] =>
  takeOff(links, { connectors: CONNECTORS, cableName: () => 'cable', spoilt: clumsy, confidence });
const of = (lines: readonly TakeOffLine[], name: string): { needed: number; bring: number } =>
  lines.find((line) => line.what !== 'cable' && line.name.startsWith(name)) as never;

describe('What a job takes', () => {
  const hundred = Array.from({ length: 100 }, (_, n) => link(n));

  it('brings connectors with what this crew spoils, and what is crimped on with them', () => {
    const lines = take(hundred);
    const { bring } = sparesFor(100, clumsy(), 0.95);
    expect(bring).toBeGreaterThan(140);
    expect(of(lines, 'crimped')).toEqual(jasmine.objectContaining({ needed: 100, bring }));
    expect(of(lines, 'ferrule')).toEqual(jasmine.objectContaining({ needed: 100, bring }));
  });

  it('brings few more of what an end that is made again keeps', () => {
    expect(of(take(hundred), 'boot')).toEqual(jasmine.objectContaining({ needed: 100, bring: 105 }));
  });

  it('leaves out cable that is in and ends that are made', () => {
    const lines = take([link(1, { pulled: true, nearDone: true }), link(2)]);
    expect(lines.find(({ what }) => what === 'cable')).toEqual({
      what: 'cable',
      id: 'c',
      name: 'cable',
      metres: 10,
      pieces: 1,
    });
    expect(of(lines, 'plug').needed).toBe(1);
    expect(of(lines, 'crimped').needed).toBe(2);
    expect(of(lines, 'cable labels')).toEqual(jasmine.objectContaining({ needed: 3, bring: 4 }));
    expect(take([])).toEqual([]);
  });

  it('brings more of all for a surer trip, never less', () => {
    const [lax, sure] = [take(hundred, 0.6), take(hundred, 0.99)];
    for (const name of ['plug', 'crimped', 'ferrule'])
      expect(of(sure, name).bring).toBeGreaterThan(of(lax, name).bring);
  });
});
