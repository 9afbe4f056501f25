import {
  BadTrace,
  forFirstLook,
  readTrace,
  readTraceText,
  takeApart,
  traceAsJson,
  TraceFileReader,
  TraceQuestion,
} from '../../src/index.js';
import { sweptLine } from '../world/swept-line.js';
import { rg6, drawn, run } from './bench-line.js';

const trace = drawn({ chain: [run(30)], load: 'open', samples: 900 });
const times = Array.from(trace.volts, (_, n) => trace.startS + n * trace.intervalS);
const rows = (write: (t: number, v: number) => string): string =>
  times.map((t, n) => write(t, trace.volts[n]!)).join('\n');

/** Whether the samples came back as they were. */
function same(text: string, options = {}): boolean {
  const { trace: got } = readTraceText(text, options);
  return (
    Math.abs(got.intervalS - trace.intervalS) < 1e-14 &&
    got.volts.length === trace.volts.length &&
    got.volts.every((volt, n) => Math.abs(volt - trace.volts[n]!) < 1e-4)
  );
}

describe('A table of samples', () => {
  it('is read with no heading at all', () => {
    expect(same(rows((t, v) => `${t.toExponential(6)},${v.toFixed(5)}`))).toBeTrue();
  });

  it('is read with semicolons, decimal commas, units in the heading and Windows line ends', () => {
    const body = rows((t, v) => `${(t * 1e9).toFixed(3)};${(v * 1e3).toFixed(2)}`).replaceAll('.', ',');
    expect(same(`Zeit (ns);Kanal A (mV)\n${body}\n`.replaceAll('\n', '\r\n'))).toBeTrue();
  });

  it('is read with a byte order mark, tabs and units in a row of their own', () => {
    expect(
      same(`\uFEFFTime\tCH1\nus\tV\n${rows((t, v) => `${(t * 1e6).toFixed(7)}\t${v.toFixed(5)}`)}`),
    ).toBeTrue();
  });

  it('is read with blanks and a comment for a heading', () => {
    expect(same(`# t v\n${rows((t, v) => `  ${t.toExponential(6)}   ${v.toFixed(5)}`)}`)).toBeTrue();
  });

  it('is read where cells are in quotes', () => {
    expect(
      same(`"Time (s)","Volt"\n${rows((t, v) => `"${t.toExponential(6)}","${v.toFixed(5)}"`)}`),
    ).toBeTrue();
  });

  it('takes the interval from the preamble, as a time or as a rate', () => {
    const volts = Array.from(trace.volts, (v) => v.toFixed(5)).join('\n');
    expect(same(`Record Length,900\nSample Interval,5e-10,s\n\nCH1\n${volts}`)).toBeTrue();
    expect(same(`Sample Rate: 2 GSa/s\nVolt\n${volts}`)).toBeTrue();
    expect(same(`Sample interval: 0,5 ns\nVolt\n${volts.replaceAll('.', ',')}`)).toBeTrue();
    expect(same(volts, { intervalS: 5e-10 })).toBeTrue();
  });

  it('passes by an index of samples', () => {
    const body = Array.from(trace.volts, (v, n) => `${n},${v.toFixed(5)}`).join('\n');
    expect(same(`Sample Interval: 0.5 ns\nn,Volt\n${body}`)).toBeTrue();
  });

  it('is read where the preamble stands beside the first samples', () => {
    const preamble = ['Record Length,900', 'Sample Interval,5e-10', 'Source,CH1', 'Vertical Units,V'];
    const lines = rows((t, v) => `,,${t.toExponential(6)},${v.toFixed(5)},`).split('\n');
    const text = lines.map((text_, n) => `${preamble[n] ?? ','}${text_}`).join('\n');
    expect(same(text)).toBeTrue();
  });

  it('reads the channel asked for, and asks where there are several', () => {
    const text = `Time (s),CH1 (V),CH2 (mV)\n${rows((t, v) => `${t.toExponential(6)},0.0,${(v * 1e3).toFixed(2)}`)}`;
    expect(same(text, { channel: 'ch2' })).toBeTrue();
    const asks = catching(() => readTraceText(text));
    expect(asks).toBeInstanceOf(TraceQuestion);
    expect((asks as TraceQuestion).choices).toEqual(['CH1', 'CH2']);
    expect(() => readTraceText(text, { channel: 'CH9' })).toThrowError(
      BadTrace,
      /no channel CH9; there are CH1, CH2/,
    );
  });

  it('comes out the same however the text is cut into pieces', () => {
    const text = `Time (s),V\r\n${rows((t, v) => `${t.toExponential(6)},${v.toFixed(5)}`).replaceAll('\n', '\r\n')}`;
    const reader = new TraceFileReader();
    for (let at = 0; at < text.length; at += 7) reader.add(text.slice(at, at + 7));
    expect(reader.end()).toEqual(readTraceText(text));
  });

  it('says what it understood', () => {
    const { understood } = readTraceText(
      `Time (ns);V\n${rows((t, v) => `${(t * 1e9).toFixed(3)};${v.toFixed(5)}`)}`,
    );
    expect(understood.channel).toBe('channel 1');
    expect(understood.notes[0]).toBe('2 columns between semicolons, decimal point, from line 2 on.');
  });
});

function catching(work: () => unknown): unknown {
  try {
    work();
  } catch (error) {
    return error;
  }
  return null;
}

describe('A bad trace file', () => {
  const good = rows((t, v) => `${t.toExponential(6)},${v.toFixed(5)}`).split('\n');
  const withLine = (n: number, text: string): string =>
    ['Time (s),V', ...good.slice(0, n), text, ...good.slice(n + 1)].join('\n');
  const says = (text: string): string =>
    (catching(() => readTraceText(text)) as Error | null)?.message ?? 'nothing wrong';

  it('is told by what is wrong and in which line', () => {
    expect(says('')).toBe('The file is empty. Export the trace again.');
    expect(says('\n \n')).toBe('The file is empty. Export the trace again.');
    expect(says('Dear Sir\nplease find the trace\n')).toContain('Line 1: no number in the whole file');
    expect(says(withLine(320, '1.1e-7,NaN'))).toContain('Line 322: "NaN" is no number');
    expect(says(withLine(500, '1.1e-9,0.1'))).toContain('Line 502: the time goes back');
    expect(says(withLine(400, ''.padEnd(20_001, '1')))).toContain('Line 402: over 20,000 characters');
    expect(says(withLine(899, '3.9e-7'))).toContain(
      'Line 901: 2 numbers are expected and number 2 is missing',
    );
    expect(says('a,b\0c')).toContain('Line 1: this is no text');
    expect(says(good.slice(0, 5).join('\n'))).toContain('only 5 samples');
  });

  it('is told where the time between samples changes', () => {
    const later = times.map((t, n) => `${(t + (n > 600 ? 4e-8 : 0)).toExponential(6)},${n % 3}`).join('\n');
    expect(says(later)).toContain('Line 602: the time between samples changes');
  });

  it('asks for an interval or a unit that stands nowhere, and does not guess', () => {
    const volts = Array.from(trace.volts, (v) => v.toFixed(5)).join('\n');
    expect(says(volts)).toContain('no sample interval stands before them. Give the interval.');
    const seconds = Array.from(trace.volts, (v, n) => `${n / 2},${v.toFixed(5)}`).join('\n');
    expect(says(`Time,V\n${seconds}`)).toContain('are they s, ms, us or ns?');
    expect(same(`Time,V\n${seconds}`, { timeUnitS: 1e-9 })).toBeTrue();
  });
});

describe("Near Spoke's own trace file", () => {
  it('comes back as it went out', () => {
    expect(readTraceText(traceAsJson(trace)).trace).toEqual(trace);
  });

  it('is refused with the field that is wrong', () => {
    const says = (value: object): string =>
      (catching(() => readTraceText(JSON.stringify(value))) as Error).message;
    expect(says({ format: 'other' })).toContain('"format"');
    expect(says({ format: 'near-spoke/trace', intervalS: 0, volts: [] })).toContain('"intervalS"');
    expect(says({ format: 'near-spoke/trace', intervalS: 1, volts: [1, null] })).toContain('"volts"');
    expect(() => readTraceText('{ "format": ')).toThrowError(BadTrace, /begins like JSON and is none/);
  });
});

describe('A one-port sweep', () => {
  /** S11 of a lossless line of 10 m, open, in a form and a unit. */
  const sweep = (form: 'RI' | 'MA' | 'DB', unit: 'HZ' | 'MHZ', first = 1): string => {
    const factor = unit === 'HZ' ? 1 : 1e6;
    const lines = Array.from({ length: 1000 }, (_, n) => {
      const f = (n + first) * 0.5e6;
      const angle = (-2 * Math.PI * f * 20) / (0.82 * 299_792_458);
      const size = 0.9;
      const [a, b] =
        form === 'RI'
          ? [size * Math.cos(angle), size * Math.sin(angle)]
          : [form === 'MA' ? size : 20 * Math.log10(size), (angle * 180) / Math.PI];
      return `${f / factor} ${a} ${b}`;
    });
    return `! one port\n# ${unit} S ${form} R 75\n${lines.join('\n')}\n`;
  };
  const distance = (text: string): number => {
    const lossless = { ...rg6, skinDb: 0, dielectricDb: 0, loopOhmPerM: 0 };
    const lead = { lengthM: 0, velocityFactor: 0.82, deviationM: 0 };
    const { events } = readTrace(readTraceText(text).trace, {
      line: lossless,
      velocityDeviation: 0,
      lossKnown: true,
      lead,
    });
    return events[0]?.distanceM ?? NaN;
  };

  it('is turned into time in all its forms and units', () => {
    const first = sweep('RI', 'HZ');
    expect(distance(first)).toBeCloseTo(10, 2);
    const { volts, intervalS } = readTraceText(first).trace;
    for (const form of ['RI', 'MA', 'DB'] as const)
      for (const unit of ['HZ', 'MHZ'] as const) {
        const { trace } = readTraceText(sweep(form, unit));
        expect(trace.intervalS).toBeCloseTo(intervalS, 18);
        const off = trace.volts.map((volt, n) => Math.abs(volt - (volts[n] ?? NaN)));
        expect(Math.max(...off))
          .withContext(`${form} ${unit}`)
          .toBeLessThan(1e-9);
      }
  });

  it('is refused where it starts too high, steps unevenly, or has two ports', () => {
    expect(() => readTraceText(sweep('RI', 'HZ', 200))).toThrowError(BadTrace, /starts too high/);
    const lines = sweep('RI', 'HZ').split('\n');
    expect(() => readTraceText([...lines.slice(0, 40), ...lines.slice(60)].join('\n'))).toThrowError(
      BadTrace,
      /steps between frequencies change/,
    );
    expect(() => readTraceText('# HZ S RI R 50\n1e6 1 0 0 0 0 0 1 0\n')).toThrowError(
      BadTrace,
      /Line 2: .*three numbers/,
    );
    expect(() => readTraceText('# HZ Z RI R 50\n')).toThrowError(BadTrace, /only S parameters/);
  });
});

describe('a sweep of a thousand points', () => {
  for (const window of ['hann', 'gauss'] as const)
    it(`is read as a trace of few samples, of which nothing is lost, ${window} window`, () => {
      for (const [stopHz, lengthM, jointAtM] of [
        [5e8, 30, 12],
        [1e9, 22, 8.8],
      ] as const) {
        const reader = new TraceFileReader({ window });
        reader.add(
          sweptLine(stopHz, { lengthM, things: [{ atM: jointAtM, back: 0.25 }], velocityFactor: 0.82 }),
        );
        const { trace } = reader.end();
        expect(trace.volts.length).toBeLessThan(2100);
        const setting = {
          line: { ...rg6, velocityFactor: 0.82 },
          velocityDeviation: 0.002,
          lossKnown: true,
          lead: { lengthM: 0, velocityFactor: 0.66, deviationM: 0 },
        };
        // At the first look, of a few hundred samples, the same things stand at the same places.
        const looked = forFirstLook(trace);
        expect(looked.volts.length).toBeLessThan(420);
        for (const { events } of [
          readTrace(looked, { ...setting, hasty: true }),
          readTrace(trace, { ...setting, thorough: true }),
        ]) {
          const at = (place: number) =>
            events.find(({ distanceM, kind }) => kind !== 'ghost' && Math.abs(distanceM - place) < 0.08);
          expect(at(lengthM)?.kind).withContext(`${window} ${stopHz}`).toBe('open');
          expect(at(jointAtM)?.kind)
            .withContext(`${window} ${stopHz}`)
            .toMatch(/series-resistance|high-section/);
        }
      }
    });

  it('shows two things that lie nearer than a quicker search would tell apart', () => {
    for (const [stopHz, lengthM, first, second] of [
      [5e8, 15, { atM: 3.36, back: -0.34 }, { atM: 3.63, back: 0.27 }],
      [1e9, 28.2, { atM: 11.97, back: -0.17 }, { atM: 12.14, back: -0.18 }],
      [5e8, 19.7, { atM: 13.54, back: -0.1 }, { atM: 14.04, back: 0.18 }],
    ] as const) {
      const reader = new TraceFileReader();
      reader.add(sweptLine(stopHz, { lengthM, things: [first, second], velocityFactor: 0.82 }));
      const { events } = readTrace(reader.end().trace, {
        line: { ...rg6, velocityFactor: 0.82 },
        velocityDeviation: 0.002,
        lossKnown: true,
        lead: { lengthM: 0, velocityFactor: 0.66, deviationM: 0 },
        thorough: true,
      });
      const kindAt = (place: number) =>
        events.find(({ distanceM, kind }) => kind !== 'ghost' && Math.abs(distanceM - place) < 0.05)?.kind;
      for (const { atM, back } of [first, second])
        expect(kindAt(atM)).toMatch(back > 0 ? /series-resistance|high-section/ : /wet-or-shunt|low-section/);
      expect(kindAt(lengthM)).toBe('open');
    }
  });

  it('is looked at as it is where little of the line before the launch would be left, and any trace can be read so', () => {
    const lead = { lengthM: 0, velocityFactor: 0.66, deviationM: 0 };
    const asked = { line: rg6, velocityDeviation: 0, lossKnown: true, lead };
    const long = drawn({ chain: [run(120)], load: 'open', samples: 12_000 });
    expect(forFirstLook(long)).toBe(long);
    for (const samples of [500, 900, 1500, 2500, 4000, 8000, 20_000])
      for (const lengthM of [20, 90]) {
        const given = drawn({ chain: [run(lengthM)], load: 'open', samples });
        expect(() => takeApart(forFirstLook(given), asked))
          .withContext(`${samples}, ${lengthM} m`)
          .not.toThrow();
      }
  });

  it('is looked at as it is where its edges need few samples', () => {
    const wide = drawn({ chain: [run(30)], load: 'open', samples: 900 });
    expect(forFirstLook({ ...wide, volts: wide.volts.slice(0, 390) }).volts.length).toBe(390);
    const fine = { ...wide, intervalS: wide.intervalS / 12 };
    const slow = Float64Array.from({ length: 9600 }, (_, n) => wide.volts[Math.floor(n / 12)] ?? 0);
    expect(forFirstLook({ ...fine, volts: averagedOver(slow, 24) }).volts.length).toBe(9600);
  });
});

/** A signal without its corners. */
const averagedOver = (volts: Float64Array, over: number): Float64Array =>
  volts.map((_, n) => {
    const near = volts.subarray(Math.max(0, n - over), n + 1);
    return near.reduce((sum, volt) => sum + volt, 0) / near.length;
  });
