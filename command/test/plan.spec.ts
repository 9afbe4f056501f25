import { readFileSync } from 'node:fs';
import { spoke } from '../src/spoke.js';

const read = (path: string): string => readFileSync(new URL(`../../${path}`, import.meta.url), 'utf8');
const run = (...args: string[]) => spoke(args, read);
const given = (text: string, ...args: string[]) => spoke([...args, '-'], () => text);
const MAST = 'docs/examples/plans/mast-in-a-hot-tray.link-plan.json';

interface Finding {
  check: string;
  verdict: string;
  spare: number | null;
  source: string;
  cures: { cure: string }[];
}

describe('spoke plan', () => {
  it('prints each link with what is least, in the units of the job, and what would cure what is wrong', () => {
    const { status, out } = run('plan', 'demo/osk-hill.job.json');
    expect(status).toBe(1);
    expect(out).toMatch(/^V-07 +301 ft +length: 6 ft short$/m);
    expect(out).toContain('WRONG 301 ft of cable, 295 ft is the most for a permanent link (ANSI/TIA-568.2');
    expect(out).toContain('cure: no longer than 295 ft');
    expect(out).toContain('path duct: 3 cables, 3 fed, 59 °F, closed');
  });

  it('tells one link with all its checks, and answers nought where all will carry', () => {
    const { status, out } = run('plan', 'demo/pellan-quay.job.json', '--link', 'P1-24');
    expect(status).toBe(0);
    expect(out).toContain('CLOSE 88.0 m of cable');
    expect(out).toContain('LOOK  A line that leaves the building');
    expect(run('plan', 'demo/pellan-quay.job.json').status).toBe(0);
  });

  it('as JSON has every finding with its margin and its source', () => {
    const told = JSON.parse(run('plan', 'demo/osk-hill.job.json', '--json').out) as {
      links: { label: string; findings: Finding[] }[];
    };
    expect(told.links.length).toBe(9);
    for (const { findings } of told.links)
      for (const { verdict, spare, source } of findings) {
        expect(source).not.toBe('');
        if (verdict === 'fits') expect(spare).toBeGreaterThanOrEqual(0);
      }
  });

  it('says what is wrong with a file, and where', () => {
    const job = JSON.parse(read('demo/osk-hill.job.json')) as {
      job: { stretches: unknown[] };
      links: { cableTypeId: string; lengthM: number; carries: unknown }[];
    };
    const changed = (change: (file: typeof job) => void): string => {
      const copy = structuredClone(job);
      change(copy);
      const { status, err } = given(JSON.stringify(copy), 'plan');
      expect(status).toBe(2);
      return err;
    };
    const first = (file: typeof job) => file.links[0] ?? { cableTypeId: '', lengthM: 0, carries: {} };
    expect(changed((file) => (first(file).cableTypeId = 'string'))).toContain(
      'links[0].cableTypeId: there is no cable string in the kit',
    );
    expect(changed((file) => (first(file).lengthM = -3))).toContain(
      'links[0].lengthM: A length is more than 0 m',
    );
    expect(changed((file) => (first(file).carries = { power: { type: 'type-9', deviceW: 5 } }))).toContain(
      'links[0].carries.power.type: A way of feeding is one of type-1',
    );
    expect(changed((file) => file.job.stretches.push(file.job.stretches[0]))).toContain(
      'stands here a second time; the first is number 1',
    );
    expect(run('plan', 'demo/osk-hill.job.json', '--link', 'V-99').err).toContain('no such link');
    expect(given('{', 'plan').err).toContain('not JSON');
  });
});

describe('spoke power', () => {
  it('says what arrives at a mast by way of a hot tray, and what cures a lack', () => {
    const { status, out } = run('power', MAST);
    expect(status).toBe(1);
    expect(out).toContain('WRONG The device can have 15.5 W, it wants 15.8 W; warmest at 46 °C in roof tray');
    expect(out).toContain('cure: roof tray at 25 °C, open');
    expect(out).toMatch(/passive 12 V +\d\.\d W at the device \(too little\)/);
    expect(out).toContain('power off');
    expect(run('power', MAST, '--device', '12').status).toBe(0);
    expect(run('power', MAST, '--type', 'type-1', '--device', '12.5').out).toContain('12.5 W by type-1');
  });

  it('as JSON has the solution of P = V I - R I²', () => {
    const { ohm, point } = JSON.parse(run('power', MAST, '--device', '12', '--json').out) as {
      ohm: number;
      point: { currentA: number; deviceV: number; lostW: number };
    };
    expect(point.deviceV * point.currentA).toBeCloseTo(12, 9);
    expect(24 - point.deviceV).toBeCloseTo(point.currentA * ohm, 9);
    expect(point.lostW).toBeCloseTo(point.currentA ** 2 * ohm, 9);
  });

  it('refuses what makes no sense', () => {
    const wrong: [string[], string][] = [
      [['--type', 'usb'], 'one of type-1'],
      [['--device', '0'], 'from 0.1'],
      [['--volts', '5'], 'no option'],
    ];
    for (const [args, words] of wrong) {
      const { status, err } = run('power', MAST, ...args);
      expect(status).toBe(2);
      expect(err).toContain(words);
    }
  });
});
