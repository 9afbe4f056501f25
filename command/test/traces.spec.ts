import { readFileSync } from 'node:fs';
import type { TraceFiles } from '../src/outcome.js';
import { spoke } from '../src/spoke.js';

const network = readFileSync(
  new URL('../../docs/examples/traces/open-pair.network.json', import.meta.url),
  'utf8',
);
type Network = Record<string, unknown> & { chain: Record<string, unknown>[] };
const drawn = (change: (told: Network) => void = () => undefined, csv = true): string => {
  const told = JSON.parse(network) as Network;
  change(told);
  return spoke(['simulate', 'n.json', ...(csv ? ['--csv'] : [])], () => JSON.stringify(told)).out;
};

/** Files held in memory, each in pieces. */
const holding = (files: Record<string, string>): TraceFiles => ({
  inFolder: (path) => (path === 'folder' ? Object.keys(files).sort() : null),
  pieces: (path) => (files[path] ?? '').match(/[^]{1,999}/g) ?? [],
  bytes: (path) => Buffer.from(files[path] ?? ''),
});
const run = (files: Record<string, string>, ...args: string[]) => spoke(args, () => '', holding(files));
const told = ['--cable', 'cat6-u', '--vf', '0.69', '--lead', '0.95', '--lead-vf', '0.66'];
interface Answer {
  velocityFactor: number;
  noiseRms: number;
  sightM: number;
  main: number | null;
  events: {
    distanceM: number;
    u95M: number;
    kind: string;
    probability: number;
    reflection: number;
    ghostOf: number[] | null;
  }[];
}

/** The end of the line that is drawn, to a few centimetres. */
const AT_23_M = /=> {2}\d +2(2\.9|3\.0)\d\d /;

describe('spoke trace', () => {
  it('prints what a trace holds, the first fault marked', () => {
    const { status, out } = run({ 'a.csv': drawn() }, 'trace', 'a.csv', ...told);
    expect(status).toBe(0);
    expect(out).toMatch(/=> {2}2 +2(2\.9|3\.0)\d\d .* open +9\d %/);
    expect(out).toContain('ghost');
    expect(out).toContain('from the time column, in seconds');
  });

  it('answers as JSON in the documented shape', () => {
    const { out } = run({ 'a.csv': drawn() }, 'trace', 'a.csv', ...told, '--json');
    const answer = JSON.parse(out) as Answer;
    const main = answer.events[answer.main ?? -1];
    expect(answer.velocityFactor).toBe(0.69);
    expect(answer.noiseRms).toBeCloseTo(0.0053, 3);
    expect(answer.sightM).toBeGreaterThan(60);
    expect(main?.kind).toBe('open');
    expect(Math.abs((main?.distanceM ?? 0) - 23)).toBeLessThan(0.03);
    expect(main?.ghostOf).toBeNull();
    expect(answer.events.find(({ kind }) => kind === 'ghost')?.ghostOf).toEqual([0, 1]);
  });

  it('takes what lies where the line should end for its end, once that is told, and asks what hangs there', () => {
    const trace = drawn((network) => {
      network['load'] = { ohm: 220 };
    });
    const told220 = (...more: string[]): string =>
      run({ 'a.csv': trace }, 'trace', 'a.csv', ...told, ...more).out;
    expect(told220()).toContain('What is at the far end?');
    expect(told220()).toMatch(/=> .* resistance|=> .* series resistance/);
    for (const more of [
      ['--length', '23'],
      ['--far-end', 'connected'],
    ])
      expect(told220(...more)).toMatch(/=> .* (2[23]\.\d\d\d) .* loaded end /);
    expect(told220('--length', '60')).not.toMatch(/=> .* loaded end/);
  });

  it('reads a folder, one line per file, and goes on past a bad one', () => {
    const files = { 'a.csv': drawn(), 'b.csv': 'no numbers\n', 'c.csv': drawn((n) => (n['load'] = 'short')) };
    const { status, out } = run(files, 'trace', 'folder', ...told);
    expect(status).toBe(2);
    expect(out.trim().split('\n').length).toBe(3);
    expect(out).toContain('a.csv  open at 23.0');
    expect(out).toContain('b.csv  cannot be read: Line 1: no number in the whole file');
    expect(out).toContain('c.csv  short at 23.0');
    const lines = run(files, 'trace', 'folder', ...told, '--json')
      .out.trim()
      .split('\n');
    expect(lines.map((line) => (JSON.parse(line) as { file: string }).file)).toEqual([
      'a.csv',
      'b.csv',
      'c.csv',
    ]);
  });

  it('says what is missing or wrong, with status 2', () => {
    const says = (...args: string[]): string => run({ 'a.csv': drawn() }, 'trace', ...args).err;
    expect(says('a.csv')).toContain('Say which cable (--cable ID) or which velocity factor');
    expect(says('a.csv', '--cable', 'string')).toContain('there is no such cable. Cables: ');
    expect(says('a.csv', '--vf', '7')).toContain('--vf 7: a number from 0.3 to 1 is wanted');
    expect(says('a.csv', '--launch', 'chirp', '--vf', '0.7')).toContain('a launch is a pulse or a step');
    expect(says('a.csv', '--colour', 'red')).toContain('There is no option --colour');
    expect(says('none.csv', '--vf', '0.7')).toContain('none.csv: The file is empty');
    const one = drawn()
      .split('\n')
      .slice(1)
      .map((line) => line.split(',')[1])
      .join('\n');
    expect(run({ 'a.csv': one }, 'trace', 'a.csv', ...told).err).toContain('Give the interval. (--interval)');
    expect(run({ 'a.csv': one }, 'trace', 'a.csv', ...told, '--interval', '0.5ns').out).toMatch(AT_23_M);
    expect(run({ 'a.csv': one }, 'trace', 'a.csv', ...told, '--interval', '5').err).toContain(
      'a time with its unit',
    );
  });
});

describe('spoke velocity', () => {
  const piece = (lengthM: number): string =>
    drawn((n) => (n.chain[1] = { kind: 'cable', cable: 'cat6-u', lengthM, velocityFactor: 0.705 }));

  it('takes it from a piece of known length, the lead told', () => {
    const args = ['--length', '20', '--cable', 'cat6-u', '--lead', '0.95', '--lead-vf', '0.66', '--json'];
    const { out } = run({ 'a.csv': piece(20) }, 'velocity', 'a.csv', ...args);
    const { velocityFactor, u95 } = JSON.parse(out) as { velocityFactor: number; u95: number };
    expect(Math.abs(velocityFactor - 0.705)).toBeLessThan(0.001);
    expect(u95).toBeLessThan(0.002);
  });

  it('takes it from two lengths, whatever the lead', () => {
    const files = { 'a.csv': piece(8), 'b.csv': piece(30) };
    const { out } = run(files, 'velocity', 'a.csv=8', 'b.csv=30', '--cable', 'cat6-u');
    expect(out).toMatch(/Velocity factor 0\.70[45]\d, give or take 0\.00/);
    // The lead's own round trip: 0.95 m at 0.66.
    expect(out).toMatch(/Before the cable 9\.[4-8]/);
  });

  it('takes it from them whatever velocity is thought of first, though the lead’s echo lies over the launch', () => {
    for (const seed of [16, 18, 19]) {
      const seeded = (lengthM: number): string =>
        drawn((n) => {
          n['seed'] = seed;
          n.chain[1] = { kind: 'cable', cable: 'cat6-u', lengthM, velocityFactor: 0.705 };
        });
      const files = { 'a.csv': seeded(8), 'b.csv': seeded(20) };
      for (const guess of ['0.66', '0.705', '0.735']) {
        const args = ['velocity', 'a.csv=8', 'b.csv=20', '--cable', 'cat6-u', '--vf', guess];
        expect(run(files, ...args).out)
          .withContext(`${seed}, ${guess}`)
          .toMatch(/Velocity factor 0\.70[3-6]\d[^]*Before the cable 9\.[3-9]/);
      }
    }
  });

  it('asks how long a piece is', () => {
    expect(run({ 'a.csv': piece(8) }, 'velocity', 'a.csv').err).toContain('how long is this piece?');
  });
});

describe('spoke simulate', () => {
  it('hands on to spoke trace what a line would draw', () => {
    const { out } = run({ '-': drawn(undefined, false) }, 'trace', '-', ...told);
    expect(out).toMatch(AT_23_M);
  });

  it('says what is wrong with a network, and where', () => {
    const says = (change: (n: Network) => void): string => {
      const n = JSON.parse(network) as Network;
      change(n);
      return spoke(['simulate', 'n.json'], () => JSON.stringify(n)).err;
    };
    expect(says((n) => (n.chain[1] = { kind: 'cable', cable: 'rope', lengthM: 1 }))).toContain(
      'There is no cable rope',
    );
    expect(says((n) => (n.chain[1] = { kind: 'coil' }))).toContain('n.json: chain');
    expect(says((n) => (n['load'] = 'wet'))).toContain('A load is "open", "short", or parts');
    expect(says((n) => delete n['format'])).toContain('"format": "near-spoke/network"');
  });
});

describe('spoke launch', () => {
  it('says how to set generator and oscilloscope, and what would be seen', () => {
    const { out } = spoke(['launch', '--cable', 'rg6', '--length', '80'], () => '');
    expect(out).toContain('75 ohm: 150 and 150 ohm side by side');
    expect(out).toMatch(/Smallest reflection seen\n {2}at +8\.9 m/);
  });

  it('takes what the bench has, and says what limits it', () => {
    const { out } = spoke(
      [
        ...['launch', '--cable', 'rg6', '--length', '80', '--edge', '20ns', '--bandwidth', '20'],
        ...['--sample', '4ns', '--points', '2500', '--drawer', '47,100,220'],
      ],
      () => '',
    );
    expect(out).toContain('edge 26.6 ns');
    expect(out).toMatch(/Limited +by the generator’s edge, the oscilloscope’s bandwidth/);
    expect(out).toMatch(/75 ohm: 100 and 220 ohm side by side \(68\.8\), which still sends back 4\.3 %/);
  });

  it('asks for what it needs', () => {
    const says = (...args: string[]): string => spoke(['launch', ...args], () => '').err;
    expect(says('--length', '80')).toContain('Say which cable. Cables: ');
    expect(says('--cable', 'rg6')).toContain('--length : a number from 0.5 to 20000 is wanted');
    expect(says('--cable', 'rg6', '--length', 'far')).toContain('--length far: a number');
    const fine = ['--cable', 'rg6', '--length', '80'];
    expect(says(...fine, '--edge', '5')).toContain('--edge: write a time with its unit');
    expect(says(...fine, '--sample', '2s')).toContain('up to 1 ms');
    expect(says(...fine, '--drawer', '47,x')).toContain('--drawer x: ohms over 0');
    expect(says(...fine, '--points', '3')).toContain('a number from 50');
    expect(says('--power', '9')).toContain('There is no option --power');
  });
});
