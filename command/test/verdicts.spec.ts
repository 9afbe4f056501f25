import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { spoke } from '../src/spoke.js';

const examples = fileURLToPath(new URL('../../docs/examples', import.meta.url));
const golden = fileURLToPath(new URL('golden/verdicts', import.meta.url));
const read = (path: string): string => readFileSync(path, 'utf8');
const READING = '.reading.json';

/** Whatever changes in the judging of the documented readings shows as a diff of these files. */
describe('the golden verdicts', () => {
  const readings = readdirSync(examples).filter((name) => name.endsWith(READING));

  it('are of every documented reading', () => {
    expect(readings.length).toBeGreaterThan(9);
  });

  for (const name of readings) {
    it(`of ${basename(name, READING)} are as reviewed`, () => {
      const { out, err } = spoke(['diagnose', join(examples, name)], read);
      expect(err).toBe('');
      const file = join(golden, `${basename(name, READING)}.txt`);
      if (process.env['RENEW_GOLDEN'] === '1') {
        mkdirSync(golden, { recursive: true });
        writeFileSync(file, out);
      }
      expect(existsSync(file)).withContext('a verdict nobody has reviewed').toBeTrue();
      expect(out).toBe(read(file));
    });
  }
});

describe('the golden sheet of a lead', () => {
  it('is as reviewed', () => {
    const lead = join(examples, 'adapters/logger-to-serial.adapter.json');
    const { out, err } = spoke(['adapter', lead], read);
    expect(err).toBe('');
    const file = join(golden, '../logger-to-serial.txt');
    if (process.env['RENEW_GOLDEN'] === '1') writeFileSync(file, out);
    expect(out).toBe(read(file));
  });
});
