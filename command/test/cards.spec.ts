import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { spoke } from '../src/spoke.js';

const golden = join(dirname(fileURLToPath(import.meta.url)), 'golden');
const noFile = (): string => {
  throw new Error('no file is read');
};

/** Real combinations of the trade, each with a card that was read line by line. */
const COMBINATIONS: readonly string[] = [
  'cat6-u plug-closed T568B',
  'cat5e-u plug-closed T568A',
  'cord-26 plug-closed T568B',
  'cat6-u plug-pass-through T568B',
  'cat6-u plug-pass-through-knife T568B',
  'cat6-f-outdoor plug-outdoor T568B',
  'cat6-gel plug-large-bore T568B',
  'cat6a-f plug-screened T568A',
  'tel-2 plug-6p2c T568B',
  'tel-2 plug-6p4c T568B',
  'tel-3 plug-6p6c T568B',
  'tel-flat-4 plug-6p4c T568B',
  'cat6-u jack-punched T568B',
  'cat6-u jack-toolless T568A',
  'cat6-f-outdoor jack-punched-screened T568B',
  'cat6a-f jack-toolless-screened T568B',
  'cat6-u panel-row T568B',
  'cat5e-u wall-block-row T568A',
  'tel-2 phone-socket T568B',
  'tel-2 phone-socket T568B --ringing-wire',
  'tel-3 phone-master T568B',
  'cat6-u phone-secondary T568B',
  'tel-2 phone-jack-6 T568B',
  'tel-25 block-66 T568B',
  'tel-25 block-110 T568B',
  'rg213 coax-n T568B',
  'rg213 coax-n T568B --soldered-pin',
  'rg6 coax-f T568B',
  'rg6-quad f-compression-rg6quad T568B',
  'rg58 bnc-crimp-rg58 T568B',
  'rg59 bnc-compression-rg59 T568B',
  'mini8 n-crimp-mini8 T568B',
  'rg6 f-screwon-rg6 T568B',
  'rg59 phono-crimp-rg59 T568B',
  'ribbon-10 ribbon-socket-10 T568B',
  'ribbon-9 ribbon-dsub-9 T568B',
  'multi-9 dsub-9-plug T568B',
  'multi-5 din-5-plug T568B',
  'wire-22 splice-solder-sleeve T568B',
  'wire-18 splice-solder T568B',
  'wire-18 splice-crimp T568B',
  'tel-2 splice-gel T568B',
  'multi-5 splice-solder T568B',
  'multi-5 splice-solder-sleeve T568B',
  'tel-flat-4 plug-6p4c T568B --rolled-end',
  'cat6-u plug-load-bar T568B',
  'cord-28 plug-slim T568B',
  'cat6a-pf plug-field T568A',
  'cat6a-pf m12-x T568B',
  'cat6a-pf jack-toolless-screened T568B',
  'tel-flat-4 plug-british T568B',
  'tel-2 phone-jack-6-two T568B',
  'tel-50 block-66 T568B',
  'tel-25 strip-10 T568B',
  'tel-25 pairs-50 T568B',
  'alarm-6 terminals-screw-6 T568B',
  'access-8 terminals-spring-8 T568B',
  'thermostat-5 terminals-screw-5 T568B',
  'bus-2 terminals-bus T568B',
  'speaker-2 dc-barrel-screw T568B',
  'speaker-2 speaker-4 T568B',
  'mic-2 xlr-3-plug T568B',
  'rg174 sma-crimp-rg174 T568B',
  'rg58 tnc-crimp-rg58 T568B',
  'rg213 uhf-crimp-rg213 T568B',
  'lowloss-10 n-crimp-10mmlowloss T568B',
  'rg11 f-compression-rg11 T568B',
  'rg59 aerial-95mmclamp-rg59 T568B',
];

describe('the golden cards', () => {
  for (const combination of COMBINATIONS) {
    it(`of ${combination} are as reviewed`, () => {
      const [cable, connector, scheme, ...more] = combination.split(' ') as [string, string, string];
      const args = ['card', '--cable', cable, '--connector', connector, '--scheme', scheme, ...more];
      const { status, out, err } = spoke(args, noFile);
      expect([status, err]).toEqual([0, '']);
      const file = join(golden, `${combination.replaceAll(/[^a-zA-Z0-9]+/g, '_')}.txt`);
      if (process.env['RENEW_GOLDEN'] === '1') {
        mkdirSync(golden, { recursive: true });
        writeFileSync(file, out);
      }
      expect(existsSync(file)).withContext('a card nobody has reviewed').toBeTrue();
      expect(out).toBe(readFileSync(file, 'utf8'));
    });
  }
});

const halfDone = (change: object = {}): string =>
  JSON.stringify({
    format: 'near-spoke/half-done',
    formatVersion: 1,
    cable: 'cat6-u',
    connector: 'plug-closed',
    done: ['crimp'],
    ...change,
  });

describe('spoke card and spoke order', () => {
  it('answer the half-done question with a status of its own', () => {
    const example = fileURLToPath(
      new URL('../../docs/examples/forgotten-boot.half-done.json', import.meta.url),
    );
    const lost = spoke(['order', example], (path) => readFileSync(path, 'utf8'));
    expect(lost.status).toBe(1);
    expect(lost.out).toContain('use a split boot');
    const fine = spoke(['order', 'end.json', '--json'], () => halfDone({ done: ['thread-boot', 'crimp'] }));
    expect(fine.status).toBe(0);
    expect(JSON.parse(fine.out)).toEqual(jasmine.objectContaining({ goesOn: true, missing: [] }));
  });

  it('exit with 1 where the connector does not fit the cable', () => {
    const { status, out } = spoke(
      ['card', '--cable', 'cat6-f-outdoor', '--connector', 'plug-closed'],
      noFile,
    );
    expect(status).toBe(1);
    expect(out).toContain('WRONG   Jacket 7.6 mm is too thick by 1.3 mm');
    expect(out).toContain('boot, never:');
  });

  it('lay the crew’s own sheets over the generic ones', () => {
    const listed = spoke(['card', '--list'], noFile).out;
    expect(listed).toContain('coax-n');
    const own = {
      format: 'near-spoke/kit',
      formatVersion: 1,
      tools: [
        {
          id: 'modular-crimp',
          name: 'old pliers',
          kind: 'modular crimp tool',
          sizes: ['6'],
          source: 'sheet',
        },
      ],
    };
    const { out } = spoke(
      ['card', '--cable', 'cat6-u', '--connector', 'plug-closed', '--kit', 'kit.json'],
      () => JSON.stringify(own),
    );
    expect(out).toContain('the kit has only 8, cutting, British, 6');
  });

  it('say what is wrong with what was typed', () => {
    const bad = (...args: string[]) => spoke(args, () => halfDone({ done: ['weld'] }));
    expect(bad('card').err).toContain('Name both --cable and --connector');
    expect(bad('card', '--cable', 'rope', '--connector', 'coax-n').err).toContain('There is no cable rope');
    expect(bad('card', '--cable', 'rg6', '--connector', 'coax-f', '--units', 'cubits').err).toContain(
      '--units is "cubits"',
    );
    expect(bad('card', '--colour').err).toContain('--colour');
    expect(bad('order', 'x.json').err).toContain('no step "weld"');
    expect(spoke(['order', 'x.json'], () => '{').err).toContain('not JSON');
    for (const args of [['card'], ['order', 'x.json'], ['weld']]) expect(bad(...args).status).toBe(2);
  });
});

describe('spoke identify', () => {
  const run = (...args: string[]) => spoke(['identify', ...args], noFile);

  it('prints what to join at A and at B', () => {
    const { status, out } = run('--count', '37');
    expect(status).toBe(0);
    expect(out).toContain('2 walks');
    expect(out).toContain('Prove each join before you go.');
    expect((JSON.parse(run('--count', '37', '--json').out) as { walks: number }).walks).toBe(2);
  });

  it('is honest of 2, 5 and 9', () => {
    expect(run('--count', '2').status).toBe(1);
    expect(run('--count', '2', '--return').out).toContain('One walk');
    expect(run('--count', '5').out).toContain('3 walks');
    expect(run('--count', '9', '--return').out).toContain('2 walks');
  });

  it('uses a helper or resistors where there are some', () => {
    expect(run('--count', '25', '--return', '--helper').out).toContain('5 rounds');
    const without = run('--count', '25', '--helper').out;
    expect(without).toContain('7 rounds');
    expect(without).toContain('Round 1: the helper joins to each other 1, 2.');
    expect(without).toContain('Round 3: the helper joins to 2 4, 6,');
    expect(run('--count', '10', '--return', '--resistors', 'E12').out).toContain('One walk');
  });

  it('says what is wrong with what was typed', () => {
    for (const args of [
      [],
      ['--count', 'many'],
      ['--count', '1'],
      ['--count', '4', '--resistors', 'E7'],
      ['--count', '4', '--tolerance', '80', '--resistors', 'E6'],
    ]) {
      const { status, err } = run(...args);
      expect(status).withContext(args.join(' ')).toBe(2);
      expect(err).not.toBe('');
    }
  });
});
