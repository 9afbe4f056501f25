import { imperfect, NO_SCOPE, seededRandom, simulate, type LinkEnd, type Trace } from '@near-spoke/core';
import { clippedOn } from './bench-line.js';
import type { World } from './world.js';

/** What the stand-in answers: text, or a binary block with its header. */
export type ScopeAnswer = string | Buffer | null;

/** Standard error numbers (SCPI-1999, volume 2, chapter 21). */
const ERRORS = {
  '-109': 'Missing parameter',
  '-104': 'Data type error',
  '-113': 'Undefined header',
  '-151': 'Invalid string data',
  '-222': 'Data out of range',
  '-224': 'Illegal parameter value',
  '-230': 'Data corrupt or stale',
  '-241': 'Hardware missing',
  '-350': 'Queue overflow',
} as const;
type ErrorNumber = keyof typeof ERRORS;
const MOST_ERRORS = 16;
/** Everything in seconds, volts and ohm; units as suffixes (SCPI-1999, volume 1, 7.7.1). */
const SUFFIXES: Readonly<Record<string, number>> = {
  '': 1,
  S: 1,
  MS: 1e-3,
  US: 1e-6,
  NS: 1e-9,
  PS: 1e-12,
  V: 1,
  MV: 1e-3,
  OHM: 1,
};
/** Noise of one sample at the input, by its range; an eight-bit converter behind it. */
const NOISE_SHARE = 0.0016;
const COUNTS = 256;

interface Settings {
  shape: 'PULSE' | 'STEP';
  widthS: number;
  riseS: number;
  volts: number;
  impedanceOhm: number;
  intervalS: number;
  points: number;
  delayS: number;
  rangeV: number;
  form: 'ASCII' | 'BYTE';
  line: { id: string; end: LinkEnd; pair: string } | null;
}

const AT_START: Settings = {
  shape: 'PULSE',
  widthS: 1e-8,
  riseS: 2e-9,
  volts: 2,
  impedanceOhm: 50,
  intervalS: 5e-10,
  points: 1500,
  delayS: 4e-8,
  rangeV: 3.2,
  form: 'BYTE',
  line: null,
};

class Refused extends Error {
  constructor(readonly number: ErrorNumber) {
    super(ERRORS[number]);
  }
}

interface Command {
  set?: (words: readonly string[]) => void;
  ask?: () => string | Buffer;
}

/**
 * A pulse generator and an eight-bit oscilloscope on one tee, by SCPI lines: what it sees is the
 * forward model of whatever line of the world it is clipped on, with noise and quantisation.
 */
export class Scope {
  private settings: Settings = { ...AT_START };
  private readonly errors: ErrorNumber[] = [];
  private taken: { trace: Trace; counts: Int8Array; quantumV: number } | null = null;
  private acquisitions = 0;
  private readonly commands: Readonly<Record<string, Command>>;

  /** @param worldNow the lines it may be clipped on, as they are when it is asked */
  constructor(private readonly worldNow: () => World) {
    const number = (name: NumberSetting, least: number, most: number): Command => ({
      set: ([word]) => {
        this.settings[name] = inRange(numberOf(word), least, most);
      },
      ask: () => scientific(this.settings[name]),
    });
    this.commands = {
      '*IDN': { ask: () => 'Near Spoke,Simulated pulser and oscilloscope,1,1' },
      '*RST': { set: () => this.reset() },
      '*CLS': { set: () => void this.errors.splice(0) },
      '*OPC': { set: () => undefined, ask: () => '1' },
      'SYSTem:ERRor': { ask: () => this.nextError() },
      'SYSTem:ERRor:NEXT': { ask: () => this.nextError() },
      'SOURce:FUNCtion': {
        set: ([word]) => {
          this.settings.shape = oneOf(word, { PULSe: 'PULSE', STEP: 'STEP' });
        },
        ask: () => this.settings.shape,
      },
      'SOURce:PULSe:WIDTh': number('widthS', 1e-9, 2e-5),
      'SOURce:PULSe:TRANsition': number('riseS', 1e-10, 1e-5),
      'SOURce:VOLTage': number('volts', 0.05, 10),
      'OUTPut:IMPedance': number('impedanceOhm', 10, 1000),
      'ACQuire:INTerval': number('intervalS', 1e-11, 1e-5),
      'ACQuire:POINts': number('points', 64, 20_000),
      'ACQuire:DELay': number('delayS', 0, 1e-3),
      'ACQuire:RANGe': number('rangeV', 0.05, 50),
      'ROUTe:LINE': { set: (words) => this.route(words), ask: () => this.routed() },
      INITiate: { set: () => this.acquire() },
      'INITiate:IMMediate': { set: () => this.acquire() },
      'WAVeform:FORMat': {
        set: ([word]) => {
          this.settings.form = oneOf(word, { ASCii: 'ASCII', BYTE: 'BYTE' });
        },
        ask: () => this.settings.form,
      },
      'WAVeform:PREamble': { ask: () => this.preamble() },
      'WAVeform:DATA': { ask: () => this.data() },
    };
  }

  /** Answers one program message: commands parted by semicolons; null where nothing was asked. */
  answer(message: string): ScopeAnswer {
    const answers: (string | Buffer)[] = [];
    let path: string[] = [];
    for (const unit of unitsOf(message)) {
      try {
        const { header, words } = unit;
        const nodes = header.startsWith(':')
          ? header.slice(1).split(':')
          : header.startsWith('*')
            ? [header]
            : [...path, ...header.split(':')];
        const said = this.run(nodes.join(':'), words);
        if (said !== null) answers.push(said);
        // What follows a semicolon goes on in the same branch (IEEE 488.2).
        if (!header.startsWith('*')) path = nodes.slice(0, -1);
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        this.note(error.number);
        break;
      }
    }
    const binary = answers.find((said) => typeof said !== 'string');
    if (binary) return binary;
    return answers.length > 0 ? answers.join(';') : null;
  }

  private run(header: string, words: readonly string[]): string | Buffer | null {
    const asks = header.endsWith('?');
    const plain = asks ? header.slice(0, -1) : header;
    const known = Object.keys(this.commands).find((pattern) => headerFits(pattern, plain));
    const command = known === undefined ? undefined : this.commands[known];
    if (!command) throw new Refused('-113');
    if (asks) {
      if (!command.ask) throw new Refused('-113');
      return command.ask();
    }
    if (!command.set) throw new Refused('-113');
    command.set(words);
    return null;
  }

  private reset(): void {
    this.settings = { ...AT_START };
    this.taken = null;
  }

  private note(number: ErrorNumber): void {
    if (this.errors.length < MOST_ERRORS) this.errors.push(number);
    else this.errors[MOST_ERRORS - 1] = '-350';
  }

  private nextError(): string {
    const number = this.errors.shift();
    return number === undefined ? '0,"No error"' : `${number},"${ERRORS[number]}"`;
  }

  private route([id, end, pair = '""']: readonly string[]): void {
    if (id === undefined || end === undefined) throw new Refused('-109');
    this.settings.line = {
      id: stringOf(id),
      end: oneOf(end, { NEAR: 'near', FAR: 'far' }),
      pair: stringOf(pair),
    };
  }

  private routed(): string {
    const { line } = this.settings;
    return line ? `"${line.id}",${line.end.toUpperCase()},"${line.pair}"` : '"",NEAR,""';
  }

  private acquire(): void {
    const { line, shape, volts, widthS, riseS, impedanceOhm, rangeV, ...sampling } = this.settings;
    const clipped = line && clippedOn(this.worldNow(), line.id, line.end, line.pair);
    if (!clipped) throw new Refused('-241');
    const source = { volts, widthS, riseS, impedanceOhm, edge: 'smooth' } as const;
    const network = {
      source: { ...source, shape: shape === 'STEP' ? ('step' as const) : ('pulse' as const) },
      scope: NO_SCOPE,
      ...clipped,
    };
    const quantumV = rangeV / COUNTS;
    try {
      const clean = simulate(network, {
        intervalS: sampling.intervalS,
        samples: Math.round(sampling.points),
        launchS: sampling.delayS,
      });
      const noiseV = NOISE_SHARE * rangeV;
      const random = seededRandom(++this.acquisitions);
      const trace = imperfect(clean, { noiseV, quantumV, offsetV: 0.004 * rangeV }, random);
      // What leaves the screen is cut off there, as a converter does.
      const counts = Int8Array.from(trace.volts, (volt) =>
        Math.max(-128, Math.min(127, Math.round(volt / quantumV))),
      );
      this.taken = { trace, counts, quantumV };
    } catch (error) {
      if (error instanceof RangeError) throw new Refused('-222');
      throw error;
    }
  }

  private preamble(): string {
    if (!this.taken) throw new Refused('-230');
    const { trace, counts, quantumV } = this.taken;
    return [trace.intervalS, trace.startS, quantumV, 0, counts.length].map(scientific).join(',');
  }

  private data(): string | Buffer {
    if (!this.taken) throw new Refused('-230');
    const { counts, quantumV } = this.taken;
    if (this.settings.form === 'ASCII')
      return Array.from(counts, (count) => scientific(count * quantumV)).join(',');
    const length = String(counts.length);
    return Buffer.concat([Buffer.from(`#${length.length}${length}`), Buffer.from(counts.buffer)]);
  }
}

type NumberSetting = {
  [K in keyof Settings]: Settings[K] extends number ? K : never;
}[keyof Settings];

const scientific = (value: number): string => value.toExponential(9).toUpperCase();

/** Program message units: header and parameters; semicolons and commas inside quotes are text. */
function unitsOf(message: string): { header: string; words: string[] }[] {
  const units = message.match(/(?:"[^"]*"|[^;])+/g) ?? [];
  return units
    .map((unit) => unit.trim())
    .filter((unit) => unit !== '')
    .map((unit) => {
      const [, header = '', rest = ''] = /^(\S+)\s*(.*)$/s.exec(unit) ?? [];
      return { header, words: (rest.match(/(?:"[^"]*"|[^,])+/g) ?? []).map((word) => word.trim()) };
    });
}

/** Whether a header is the pattern's long or short form, node by node, in any case. */
function headerFits(pattern: string, header: string): boolean {
  const [want, have] = [pattern.split(':'), header.split(':')];
  return want.length === have.length && want.every((node, n) => mnemonicFits(node, have[n] ?? ''));
}

const mnemonicFits = (mnemonic: string, word: string): boolean =>
  [mnemonic.toUpperCase(), mnemonic.replace(/[a-z]+$/, '')].includes(word.toUpperCase());

function numberOf(word: string | undefined): number {
  if (word === undefined) throw new Refused('-109');
  const [, figure, suffix = ''] = /^([+-]?[\d.]+(?:E[+-]?\d+)?)\s*([A-Z]*)$/i.exec(word) ?? [];
  const factor = SUFFIXES[suffix.toUpperCase()];
  const value = Number(figure);
  if (figure === undefined || factor === undefined || !Number.isFinite(value)) throw new Refused('-104');
  return value * factor;
}

function inRange(value: number, least: number, most: number): number {
  if (value < least * (1 - 1e-9) || value > most * (1 + 1e-9)) throw new Refused('-222');
  return value;
}

function oneOf<T>(word: string | undefined, choices: Readonly<Record<string, T>>): T {
  if (word === undefined) throw new Refused('-109');
  const chosen = Object.entries(choices).find(([mnemonic]) => mnemonicFits(mnemonic, word));
  if (!chosen) throw new Refused('-224');
  return chosen[1];
}

function stringOf(word: string): string {
  const [, text] = /^"([^"]*)"$/.exec(word) ?? [];
  if (text === undefined) throw new Refused('-151');
  return text;
}
