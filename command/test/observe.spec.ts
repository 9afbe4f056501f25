import { readdirSync, readFileSync } from 'node:fs';
import { spoke } from '../src/spoke.js';

const docs = new URL('../../docs/examples/', import.meta.url);
const read = (name: string): string => readFileSync(new URL(name, docs), 'utf8');
const names = readdirSync(docs)
  .filter((name) => name.endsWith('.reading.json'))
  .map((name) => name.replace('.reading.json', ''));
const observe = (text: string, ...options: string[]) =>
  spoke(['observe', 'link.json', ...options], () => text);
const diagnose = (text: string) => {
  const { status, out } = spoke(['diagnose', 'r.json', '--json'], () => text);
  return {
    status,
    answer: JSON.parse(out) as {
      verdict: string;
      explanations: { faults: { kind: string; end: string }[] }[];
    },
  };
};

describe('spoke observe', () => {
  it('has an example file for every instrument class', () => {
    const classes = names.map(
      (name) =>
        (JSON.parse(read(`${name}.reading.json`)) as { observations: { instrument: string }[] })
          .observations[0]?.instrument,
    );
    expect([...new Set(classes)].sort()).toEqual([
      'beeper',
      'capacitance-meter',
      'coded-mapper',
      'coded-mapper-crosstalk',
      'dc-voltage',
      'eye',
      'lamp-pairs',
      'ohmmeter',
      'pair-reflectometer',
      'power-tester',
      'stepping-lamps',
      'tone-probe',
      'wiggle',
    ]);
  });

  for (const name of names) {
    it(`reads the link of the example ${name} as its reading file says, and the diagnosis never passes it`, () => {
      const file = JSON.parse(read(`${name}.reading.json`)) as {
        observations: { instrument: string; end?: string; from?: string }[];
      };
      const [first] = file.observations;
      const end = first?.from ?? first?.end ?? 'near';
      const { status, out } = observe(
        read(`links/${name}.link.json`),
        '--with',
        first?.instrument ?? '',
        '--from',
        end,
      );
      expect(status).toBe(0);
      expect(JSON.parse(out)).toEqual(file);
      expect(diagnose(out).answer.verdict).not.toBe('pass');
    });
  }

  it('takes several classes at once, which settle more together', () => {
    const text = read('links/pinned-cable.link.json');
    const both = observe(text, '--with', 'coded-mapper,pair-reflectometer').out;
    const [first] = diagnose(both).answer.explanations;
    expect(first?.faults).toEqual([
      {
        id: 'broken-conductor//BU/cable@23.0',
        kind: 'open',
        end: 'cable',
        contacts: ['4'],
        pairs: [1],
        distanceM: 23,
      } as never,
    ]);
  });

  it('errs only with a seed, and then the same way every time', () => {
    const text = read('links/loose-contact.link.json');
    const take = (seed: string) => observe(text, '--with', 'coded-mapper', '--seed', seed).out;
    expect(take('3')).toBe(take('3'));
    expect(new Set(Array.from({ length: 30 }, (_, i) => take(String(i)))).size).toBeGreaterThan(1);
  });

  it('touches what a plan asks for', () => {
    const plan = JSON.stringify({
      instrument: 'beeper',
      touches: [
        { from: { end: 'near', contacts: ['1', '2'] }, to: { end: 'near', contacts: ['3'] }, closed: true },
      ],
    });
    const files: Record<string, string> = { 'l.json': read('links/mirrored-lead.link.json'), 'p.json': plan };
    const { out } = spoke(
      ['observe', 'l.json', '--with', 'beeper', '--plan', 'p.json'],
      (path) => files[path] ?? '',
    );
    const [reading] = (JSON.parse(out) as { observations: { touches: { closed: boolean }[] }[] })
      .observations;
    expect(reading?.touches.map((t) => t.closed)).toEqual([false]);
  });

  it('refuses with status 2 and the place what cannot be', () => {
    const text = read('links/exchanged-pair.link.json');
    expect(observe(text).err).toContain('Say --with CLASS');
    expect(observe(text, '--with', 'crystal-ball').err).toContain('there is no such class');
    expect(observe(text, '--with', 'eye', '--from', 'middle').err).toContain('an end is near or far');
    expect(observe(text, '--with', 'eye', '--seed', 'x').err).toContain('a seed is a whole number');
    const changed = (change: object) => JSON.stringify({ ...(JSON.parse(text) as object), ...change });
    const faults = [{ kind: 'broken', conductor: 'PK', atM: 3 }];
    const wrong = observe(changed({ faults }), '--with', 'eye');
    expect([wrong.status, wrong.err]).toEqual([
      2,
      jasmine.stringContaining('faults[0]: this cable has no PK conductor'),
    ]);
    expect(observe(changed({ surprise: 1 }), '--with', 'eye').err).toContain('Unknown field surprise');
    expect(observe('{', '--with', 'eye').status).toBe(2);
  });
});

describe('spoke diagnose over time', () => {
  it('takes work between readings into account: what outlives a new far end is at the near one', () => {
    const file = JSON.parse(read('exchanged-pair.reading.json')) as { observations: unknown[] };
    const [map] = file.observations;
    const { answer } = diagnose(JSON.stringify({ ...file, observations: [map, { work: 'far' }, map] }));
    expect(answer.explanations[0]?.faults[0]?.end).toBe('near');
  });

  it('names the observation, and the field in it, that is wrong', () => {
    const file = JSON.parse(read('exchanged-pair.reading.json')) as { observations: unknown[] };
    const text = JSON.stringify({ ...file, observations: [...file.observations, { work: 'roof' }] });
    const { status, err } = spoke(['diagnose', 'r.json'], () => text);
    expect([status, err]).toEqual([2, jasmine.stringContaining('observations[1].work: Work is near, far')]);
  });
});
