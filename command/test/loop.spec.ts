import { spoke } from '../src/spoke.js';

const loop = (...args: string[]) =>
  spoke(['loop', ...args], () => {
    throw new Error('no file is read');
  });

describe('spoke loop', () => {
  it('prints what a meter must read in each state, and what cannot be told apart', () => {
    const { status, out } = loop('--end', '2.2k', '--alarm', '2.2k', '--length', '100 ft');
    expect(status).toBe(0);
    // 2.2 kohm within 5 % and the meter's own, and twice that in alarm.
    expect(out).toMatch(/at rest +2\.0\d kohm to 2\.3\d kohm/);
    expect(out).toMatch(/alarm +4\.1\d kohm to 4\.6\d kohm/);
    expect(out).toContain('ALIKE tamper, cut');
    expect(out).toContain('battery unplugged');
  });

  it('says what a reading means, and where a short lies', () => {
    expect(loop('--reads', '4.7k').out).toContain('NOW   at rest');
    expect(loop('--reads', '9.4k').status).toBe(1);
    expect(loop('--reads', 'open').out).toContain('NOW   tamper or cut');
    expect(loop('--reads', '3.4 ohm', '--length', '40 m').out).toContain(
      'shorted, about 20 m from the panel',
    );
    expect(loop('--reads', '1.2k').out).toContain('nothing this loop can be');
    const told = JSON.parse(loop('--layout', 'one resistor', '--at-panel', '--json').out) as {
      readings: { state: string; mostOhm: number | null }[];
      warnings: string[];
    };
    expect(told.readings.find(({ state }) => state === 'cut')?.mostOhm).toBeNull();
    expect(told.warnings.length).toBe(2);
  });

  it('names what was typed wrong', () => {
    const wrong: [string[], string][] = [
      [['--layout', 'ring'], 'contact alone, one resistor'],
      [['--contact', 'both'], 'closed or open'],
      [['--end', '0 ohm'], 'read its bands'],
      [['--length', '-3 m'], 'length'],
      [['--reads', 'plenty'], 'such as 2.1 ohm'],
      [['--spin'], 'There is no option --spin'],
    ];
    for (const [args, words] of wrong) {
      const { status, err } = loop(...args);
      expect([status, err])
        .withContext(args.join(' '))
        .toEqual([2, jasmine.stringContaining(words)]);
    }
  });
});
