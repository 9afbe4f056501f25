import { spoke } from '../src/spoke.js';

const run = (...args: string[]) => spoke(args, () => '');
const answer = (...args: string[]): Record<string, unknown> =>
  JSON.parse(run(...args, '--json').out) as Record<string, unknown>;

describe('spoke locate', () => {
  it('places an echo by a time read off a screen, with its sum', () => {
    const { status, out } = run(
      'locate',
      '--echo',
      '41,8 ns',
      '--vf',
      '0.66',
      '--per-division',
      '10ns',
      '--edge',
      '2ns',
    );
    expect(status).toBe(0);
    expect(out).toContain('Echo at 4.1');
    expect(out).toContain('0.660 × 0.2998 m/ns × ');
    const two = answer(
      'locate',
      '--cursors',
      '12.0ns,53.8ns',
      '--vf',
      '0.66',
      '--per-division',
      '10ns',
      '--edge',
      '2ns',
    );
    expect(two['value']).toBeCloseTo(
      answer('locate', '--echo', '0.0418us', '--vf', '0.66', '--per-division', '10ns', '--edge', '2ns')[
        'value'
      ] as number,
      9,
    );
  });

  it('says open or short by the echo’s sign, takes the lead off, and is reached by spoke trace too', () => {
    const short = answer(
      'locate',
      '--echo',
      '151.9ns',
      '--cable',
      'cat6-u',
      '--lead',
      '1m',
      '--lead-vf',
      '0.66',
      '--height',
      '-35%',
    );
    expect([short['kind'], short['what']]).toEqual(['short', 'Short at']);
    expect(run('trace', '--echo', '151.9ns', '--cable', 'cat6-u').out).toBe(
      run('locate', '--echo', '151.9ns', '--cable', 'cat6-u').out,
    );
    const bare = answer('locate', '--echo', '151.9ns', '--cable', 'cat6-u');
    // A metre of lead is 10.1 ns, and so 1.05 m of this cable.
    expect((bare['value'] as number) - (short['value'] as number)).toBeCloseTo(1.045, 1);
  });

  it('places an open by two capacitances and a short by two loops', () => {
    expect(
      run('locate', '--open-near', '0.62nF', '--open-far', '1010 pF', '--length', '31.4m').out,
    ).toContain('Open at 11.94 m');
    const leads = answer(
      'locate',
      '--open-near',
      '0.65nF',
      '--open-far',
      '1.04nF',
      '--leads',
      '30pF',
      '--length',
      '31.4 m',
    );
    expect(leads['value']).toBeCloseTo(11.944, 3);
    const out = run(
      'locate',
      '--short-near',
      '2.1',
      '--short-far',
      '3.4 ohm',
      '--length',
      '31.4m',
      '--good-loop',
      '5.29',
    ).out;
    expect(out).toContain('Short at 11.84 m');
    expect(out).toContain('the contact itself has 0.10 ohm');
    expect(run('locate', '--loop', '5.3', '--gauge', '24').out).toContain(
      'or 20.10 m of copper-clad aluminium',
    );
    expect(run('locate', '--wires', '5.31,5.75,5.33').out).toContain('wire 1 has too much');
  });

  it('narrows one end’s reading by a good pair of the same cable', () => {
    const wide = answer('locate', '--open-near', '0.62nF', '--cable', 'cat6-u', '--length', '31.4m')[
      'u95'
    ] as number;
    const narrow = answer('locate', '--open-near', '0.62nF', '--good-pair', '1.63nF', '--length', '31.4m')[
      'u95'
    ] as number;
    expect(narrow).toBeLessThan(wide / 3);
  });

  it('says of each figure that cannot be what is wrong and what to write', () => {
    const cases: [string[], string][] = [
      [[], 'Say what was read'],
      [['--echo', '41.8', '--vf', '0.66'], '--echo 41.8: write a time with its unit'],
      [['--echo', '41.8ns'], 'Say which cable'],
      [['--echo', '41.8ns', '--cable', 'string'], 'there is no such cable'],
      [['--cursors', '53.8ns', '--vf', '0.66'], '--cursors 12.0ns,53.8ns'],
      [['--cursors', '53.8ns,12ns', '--vf', '0.66'], 'first cursor on the launch'],
      [['--echo', '4ns', '--vf', '0.66', '--lead', '1m'], 'before the lead of 1 m ends'],
      [['--echo', '41.8ns', '--vf', '0.66', '--points', 'hump'], 'edge or peak'],
      [['--open-near', '0.62nF', '--open-far', '1nF'], 'Say how long the cable is'],
      [['--open-near', '0.62nF'], 'One end alone needs a figure of the cable'],
      [['--open-near', '9nF', '--cable', 'cat6-u', '--length', '31.4m'], 'something is connected'],
      [['--short-near', '2.1'], 'only from both ends'],
      [['--loop', '0.1', '--leads', '0.3'], 'less than the leads alone'],
      [['--wires', '1,2'], 'three loops in ohms'],
      [['--meter', '3'], 'There is no option --meter'],
      [['--echo'], '--echo wants a value'],
    ];
    for (const [args, words] of cases) {
      const { status, out, err } = run('locate', ...args);
      expect([status, out]).withContext(args.join(' ')).toEqual([2, '']);
      expect(err).withContext(args.join(' ')).toContain(words);
    }
  });
});

describe('spoke velocity by times', () => {
  it('takes one piece by two typed figures: 4 m in 41.8 ns', () => {
    const { out } = run(
      'velocity',
      '--echo',
      '41.8ns',
      '--length',
      '4m',
      '--per-division',
      '10ns',
      '--edge',
      '2ns',
    );
    expect(out).toMatch(/Velocity factor 0\.63[89]/);
    expect(out).toContain('2 × 4 m / (0.2998 m/ns × ');
  });

  it('is free of the lead with several pieces, and says which does not fit', () => {
    // 2 L / (0.66 c) and 10 ns of lead
    const pieces = ['50.43ns=4m', '111.07ns=10m', '212.15ns=20m'].flatMap((piece) => ['--piece', piece]);
    const three = JSON.parse(
      run('velocity', ...pieces, '--edge', '1ns', '--per-division', '50ns', '--json').out,
    ) as {
      velocityFactor: number;
      offsetS: number;
    };
    expect(three.velocityFactor).toBeCloseTo(0.66, 2);
    expect(three.offsetS).toBeCloseTo(10e-9, 9);
    const odd = ['50.43ns=4m', '141.07ns=10m', '212.15ns=20m'].flatMap((piece) => ['--piece', piece]);
    expect(run('velocity', ...odd, '--edge', '1ns', '--per-division', '50ns').out).toContain('DOES NOT FIT');
  });

  it('refuses a piece without time or length', () => {
    for (const [args, words] of [
      [['--piece', '41.8ns'], 'a time and a length'],
      [['--piece', '41.8=4m'], 'write a time with its unit'],
      [['--echo', '41.8ns'], 'Say how long the piece is'],
      [['--echo', '41.8ns', '--length', '40m'], 'no cable has'],
      [['--echo', '41.8ns', '--length', '4m', 'trace.csv'], 'not both'],
    ] as const) {
      const { status, err } = run('velocity', ...args);
      expect(status).withContext(args.join(' ')).toBe(2);
      expect(err).withContext(args.join(' ')).toContain(words);
    }
  });
});
