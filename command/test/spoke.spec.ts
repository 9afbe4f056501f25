import { readFileSync } from 'node:fs';
import { BadInput } from '../src/outcome.js';
import { spoke } from '../src/spoke.js';

const example = readFileSync(
  new URL('../../docs/examples/exchanged-pair.reading.json', import.meta.url),
  'utf8',
);
type File = { link: Record<string, unknown>; observations: Record<string, unknown>[] } & Record<
  string,
  unknown
>;
const changed = (change: (file: File) => void): string => {
  const file = JSON.parse(example) as File;
  change(file);
  return JSON.stringify(file);
};
const run = (text: string, ...options: string[]) =>
  spoke(['diagnose', 'reading.json', ...options], () => text);

describe('spoke diagnose', () => {
  it('fails the documented example with status 1, both ends and the next look in a table', () => {
    const { status, out } = run(example);
    expect(status).toBe(1);
    expect(out).toContain('FAIL  1 and 2 exchanged');
    expect(out).toContain('Far plug: WH-OG and OG exchanged on 1 and 2');
    expect(out).toContain("Next look  Read the far plug's colours");
  });

  it('answers as JSON with verdict, grounds, blindness, explanations and next look', () => {
    const answer = JSON.parse(run(example, '--json').out) as Record<string, unknown>;
    expect(answer['verdict']).toBe('fail');
    expect(answer['restsOn']).toEqual(['coded mapper']);
    expect(answer['blindTo']).toContain('split');
    const [first] = answer['explanations'] as {
      probability: number;
      faults: unknown[];
      repair: { action: string };
    }[];
    expect(first?.faults).toEqual([
      {
        id: 'reversed-pair//1+2/far',
        kind: 'reversed',
        end: 'far',
        contacts: ['1', '2'],
        pairs: [2],
        distanceM: null,
      },
    ]);
    expect(first?.repair.action).toBe('redo the far end');
    expect((answer['nextLook'] as { minutes: number }).minutes).toBe(1);
  });

  it('passes a straight map with status 0, and says what it did not see', () => {
    const straight = changed(
      (file) =>
        (file.observations = [
          { instrument: 'coded-mapper', arrivals: Object.fromEntries([...'12345678'].map((c) => [c, [c]])) },
        ]),
    );
    const { status, out } = run(straight);
    expect(status).toBe(0);
    expect(out).toContain('PASS  Map right');
    expect(out).toContain('Not seen   split pair');
  });

  it('takes a short written from one side only for a short', () => {
    const short = changed(
      (file) =>
        (file.observations = [
          {
            instrument: 'coded-mapper',
            arrivals: { ...Object.fromEntries([...'12345678'].map((c) => [c, [c]])), 1: ['2'] },
          },
        ]),
    );
    expect(run(short).out).toContain('1 and 2 joined');
  });

  for (const [what, text, says] of [
    ['text', 'hello', /The file is not JSON/],
    ['another format', changed((f) => (f['format'] = 'other')), /"format": "near-spoke\/reading"/],
    [
      'an unknown cable',
      changed((f) => (f.link['cable'] = 'string')),
      /link.cable: there is no cable string. Known: cat6-u/,
    ],
    [
      'a contact the link does not have',
      changed((f) =>
        Object.assign(f.observations[0] ?? {}, {
          arrivals: { ...(f.observations[0]?.['arrivals'] as object), 9: [] },
        }),
      ),
      /observations\[0\].arrivals.9: This link has no 9/,
    ],
    ['no observations', changed((f) => (f.observations = [])), /observations: Give at least one observation/],
    [
      'a negative length',
      changed((f) => (f.link['lengthM'] = -3)),
      /link.lengthM: A length is more than 0 m/,
    ],
  ] as const) {
    it(`ends with status 2 and a sentence on ${what}`, () => {
      const { status, err, out } = run(text);
      expect([status, out]).toEqual([2, '']);
      expect(err).toMatch(says);
    });
  }

  it('ends with status 2 on unknown commands and options, no file and an unreadable file', () => {
    const none = (): string => {
      throw new BadInput('There is no such file.');
    };
    for (const args of [
      [],
      ['dig'],
      ['diagnose'],
      ['diagnose', 'a', 'b'],
      ['diagnose', 'a', '--loud'],
      ['diagnose', 'a'],
    ]) {
      const { status, err } = spoke(args, none);
      expect(status).withContext(args.join(' ')).toBe(2);
      expect(err).withContext(args.join(' ')).not.toBe('');
    }
  });

  it('explains itself', () => {
    expect(spoke(['--help'], () => '')).toEqual(jasmine.objectContaining({ status: 0 }));
    expect(spoke(['diagnose', '--help'], () => '').out).toContain('Exit status: 0 pass');
  });
});
