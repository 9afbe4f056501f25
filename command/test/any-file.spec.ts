import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { spoiled } from '../../contracts/test/spoil.js';
import { NO_TRACE_FILES, type Outcome } from '../src/outcome.js';
import { spoke } from '../src/spoke.js';

const folder = (name: string): URL => new URL(`../../${name}/`, import.meta.url);
const filesOf = (name: string, ending: string): { name: string; text: string }[] =>
  readdirSync(folder(name))
    .filter((file) => file.endsWith(ending))
    .map((file) => ({ name: file, text: readFileSync(new URL(file, folder(name)), 'utf8') }));

/** The commands that take a file of ours, with files to begin from. */
const TAKES: readonly { args: readonly string[]; files: { name: string; text: string }[] }[] = [
  { args: ['diagnose'], files: filesOf('docs/examples', '.reading.json') },
  {
    args: ['observe', '--with', 'coded-mapper', '--with', 'eye', '--with', 'pair-reflectometer'],
    files: filesOf('docs/examples/links', '.link.json'),
  },
  { args: ['order'], files: filesOf('docs/examples', '.half-done.json') },
  {
    args: ['adapter'],
    files: [...filesOf('docs/examples/adapters', '.json'), ...filesOf('demo/adapters', '.json')],
  },
  { args: ['simulate'], files: filesOf('docs/examples/traces', '.network.json') },
];
/** What no person should have to read. */
const LEAKS = /\bundefined\b|\bNaN\b|\[object|\bat .*\.ts:\d|TypeError|Invalid input|Too (?:big|small):/;

/** Runs a command on one file; whatever the file is, it ends in an outcome. */
function check({ status, out, err }: Outcome): Outcome['status'] {
  if (status === 2) {
    if (err.trim().length < 10 || out !== '') throw new Error(`No reason given: ${err}`);
  } else if (out.trim() === '' || err !== '') throw new Error(`Nothing said: ${err}`);
  const leak = LEAKS.exec(out + err);
  if (leak)
    throw new Error(`"${leak[0]}" in: ${(out + err).slice(Math.max(0, leak.index - 200), leak.index + 200)}`);
  return status;
}

describe('the command line', () => {
  for (const { args, files } of TAKES)
    it(`${args.join(' ')} judges or refuses any file in words, and never falls over`, () => {
      expect(files.length).toBeGreaterThan(0);
      for (const { name, text } of files)
        expect(check(spoke([...args, name], () => text)))
          .withContext(name)
          .not.toBe(2);
      expect(check(spoke([...args, 'empty.json'], () => '{}'))).toBe(2);
      const trees = files.map(({ text }) => JSON.parse(text) as unknown);
      fc.assert(
        fc.property(
          fc.constantFrom(...trees).chain((tree) => spoiled(tree)),
          fc.boolean(),
          (tree, json) => {
            check(spoke([...args, 'a.json', ...(json ? ['--json'] : [])], () => JSON.stringify(tree)));
          },
        ),
        { numRuns: 120 },
      );
      fc.assert(
        fc.property(
          fc.constantFrom(...files),
          fc.double({ min: 0, max: 1, noNaN: true }),
          ({ text }, share) => {
            const cut = text.slice(0, Math.floor(share * (text.length - 2)));
            if (check(spoke([...args, 'cut.json'], () => cut)) !== 2)
              throw new Error('Half a file was taken.');
          },
        ),
        { numRuns: 20 },
      );
    });

  it('takes any words after any command', () => {
    const commands = [
      'diagnose',
      'observe',
      'card',
      'order',
      'identify',
      'trace',
      'velocity',
      'launch',
      'adapter',
      'simulate',
    ];
    const options = [
      '--cable',
      '--connector',
      '--length',
      '--json',
      '--vf',
      '--end',
      '--lead',
      '--count',
      '--looking-for',
      '--',
    ];
    const word = fc.oneof(
      fc.constantFrom(...options, 'rg6', 'cat6-u', 'coax-f', 'plug-closed', '-1', '0', '12,5', 'near', ''),
      fc.string({ maxLength: 12 }).filter((text) => text !== '--help'),
    );
    const seen = new Set<number>();
    fc.assert(
      fc.property(
        fc.constantFrom(...commands, 'dance', 'constructor', '__proto__'),
        fc.array(word, { maxLength: 6 }),
        (name, words) => {
          seen.add(check(spoke([name, ...words], () => '{}', NO_TRACE_FILES)));
        },
      ),
      { numRuns: 1500 },
    );
    expect(seen.has(2)).toBeTrue();
  });
});
