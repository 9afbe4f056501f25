import { readFileSync } from 'node:fs';
import { spoke } from '../src/spoke.js';

const example = new URL('../../docs/examples/adapters/logger-to-serial.adapter.json', import.meta.url)
  .pathname;
type Told = Record<string, unknown> & {
  joins: { from: string; to: string }[];
  ends: Record<string, unknown>[];
};
const told = (): Told => JSON.parse(readFileSync(example, 'utf8')) as Told;
const run = (change: (design: Told) => object = (design) => design, ...args: string[]) =>
  spoke(['adapter', 'a.json', ...args], () => JSON.stringify(change(told())));

describe('spoke adapter', () => {
  it('prints joining table, rules and proof of a logger on a serial port, and finds nothing wrong', () => {
    const { status, out, err } = run();
    expect([status, err]).toEqual([0, '']);
    expect(out).toMatch(/^Tide-gauge logger to a serial port\n/);
    expect(out).toMatch(/GND +A 1 GND = S 2 GND = B 5 GND {2}\[2: among the thickest, black for ground\]/);
    expect(out).toMatch(/3V3 +A 4 3V3 = S 1 VCC {2}\[1: among the thickest, red for supply\]/);
    expect(out).toContain('Prove it, nothing plugged in');
    expect(out).toMatch(/ swept over [^\n]*must stay silent\n[\s\S]*must beep \(GND\)/);
    expect(out).not.toContain('WRONG');
  });

  it('gives the same as JSON', () => {
    const { status, out } = run(undefined, '--json');
    const answer = JSON.parse(out) as {
      joins: { net: string; contacts: string[]; wire: string }[];
      findings: { severity: string }[];
      proof: { should: string; one: string[] }[];
      dead: string[];
    };
    expect(status).toBe(0);
    expect(answer.joins.find(({ net }) => net === 'GND')).toEqual(
      jasmine.objectContaining({ contacts: ['A 1', 'S 2', 'B 5'], wire: '2' }),
    );
    expect(answer.dead).toContain('A 6');
    expect(answer.findings.every(({ severity }) => severity !== 'wrong')).toBeTrue();
    expect(answer.proof.filter(({ should }) => should === 'beep').length).toBe(8);
  });

  it('ends in 1 where a rule says wrong, with contacts and remedy', () => {
    // The logger’s own output goes straight to the terminal.
    const { status, out } = run((design) => ({
      ...design,
      joins: design.joins.map((join) => (join.from === 'S 5' ? { from: 'A 2', to: 'B 2' } : join)),
    }));
    expect(status).toBe(1);
    expect(out).toMatch(/WRONG A 2 TXD to B 2 RXD: RS-232 does not read 3\.3 V logic.* A line driver/);
  });

  it('lists the connectors that a layout may name, and says then what the device has to do', () => {
    const { status, out } = spoke(['adapter', '--connectors'], () => '');
    expect(status).toBe(0);
    expect(out).toMatch(/^d-sub-9 +D-sub, 9 contacts, plug\n/);
    expect(out).toMatch(/\nmate:d-sub-9 +D-sub, 9 contacts, socket\n/);
    expect(out).toMatch(/\nm12-a-4 .*read the figures moulded/);
    const tested = run((design) => ({ ...design, functionTest: ['Each key in turn.'] })).out;
    expect(tested).toMatch(/Then what it has to do\n {2}Each key in turn\./);
  });

  it('refuses a layout that nobody knows, a cell that gains with age, and levels upside down', () => {
    const withPin = (change: object) => (design: Told) => {
      const [first, ...others] = design.ends as { pins: object[] }[];
      const [pin, ...pins] = first?.pins ?? [];
      return { ...design, ends: [{ ...first, pins: [{ ...pin, ...change }, ...pins] }, ...others] };
    };
    const volts = {
      supplyV: 3,
      outLowV: 1,
      outHighV: 0,
      inLowV: 1,
      inHighV: 2,
      leastV: 0,
      mostV: 3,
      inverted: false,
    };
    const cases: [RegExp, (design: Told) => object][] = [
      [
        /ends\[0\]\.layout: There is no connector "box"/,
        (d) => ({ ...d, ends: d.ends.map((end) => ({ ...end, layout: 'box' })) }),
      ],
      [/ends\[0\]\.pins\[0\]\.figures\.outHighV: An output’s high/, withPin({ figures: volts })],
      [/ends\[0\]\.pins\[0\]\.colour: A colour is one of/, withPin({ colour: 'XX' })],
      [
        /joins\[0\]\.parts\[0\]\.cells\.endV: A cell at the end/,
        (d) => ({
          ...d,
          joins: [
            { from: 'A 1', to: 'B 5', parts: [{ kind: 'battery', cells: { count: 1, freshV: 1, endV: 2 } }] },
          ],
        }),
      ],
    ];
    for (const [message, change] of cases) {
      const { status, err } = run(change);
      expect([status, err]).toEqual([2, jasmine.stringMatching(message)]);
    }
  });

  it('refuses what it cannot use with the field and the reason, and status 2', () => {
    const cases: [RegExp, (design: Told) => object][] = [
      [/joins\[0\]\.from: Write a contact as "A 3"/, (d) => ({ ...d, joins: [{ from: 'A3', to: 'B 2' }] })],
      [/a \(A\)|has no contact 77/, (d) => ({ ...d, joins: [{ from: 'A 77', to: 'B 2' }] })],
      [/There is no end Z/, (d) => ({ ...d, joins: [{ from: 'Z 1', to: 'B 2' }] })],
      [/ends: An adapter has at least two ends/, (d) => ({ ...d, ends: d.ends.slice(0, 1) })],
      [/ends: Two ends have the same name/, (d) => ({ ...d, ends: [d.ends[0], d.ends[0]] })],
      [/format: The file does not begin/, (d) => ({ ...d, format: 'other' })],
      [/colour/, (d) => ({ ...d, wires: [{ id: '1', colour: 'plaid', areaMm2: 1 }] })],
    ];
    for (const [words, change] of cases) {
      const { status, err } = run(change);
      expect(status).withContext(String(words)).toBe(2);
      expect(err).toMatch(words);
    }
    expect(spoke(['adapter', 'a.json'], () => '{').err).toMatch(/The file is not JSON/);
    expect(run(undefined, '--colour').status).toBe(2);
    expect(spoke(['adapter'], () => '').err).toMatch(/Name one file/);
  });

  it('says which face nobody has told', () => {
    const { out } = run((design) => ({
      ...design,
      ends: design.ends.map((one) => ({ ...one, sheetFace: null })),
    }));
    expect(out).toMatch(/UNSURE Nobody has said which face the pinout of tide-gauge logger shows\./);
  });
});
