import { connect, type Socket } from 'node:net';
import type { BenchScope, ScopeAdapter, ScopePlaceholder, TakenTrace } from '@near-spoke/contracts';
import { InstrumentError } from './client.js';

/** What a trace is to be taken with; fills the braces of an adapter's commands. */
export type ScopeRequest = Record<ScopePlaceholder, string | number>;

/** More than any trace needs: 20,000 samples as text. */
const MOST_BYTES = 1_000_000;
const MOST_SAMPLES = 20_000;
const LF = 10;

const SAMPLES = {
  int8: { bytes: 1, read: (data: Buffer, at: number) => data.readInt8(at) },
  uint8: { bytes: 1, read: (data: Buffer, at: number) => data.readUInt8(at) },
  int16be: { bytes: 2, read: (data: Buffer, at: number) => data.readInt16BE(at) },
  int16le: { bytes: 2, read: (data: Buffer, at: number) => data.readInt16LE(at) },
  float32be: { bytes: 4, read: (data: Buffer, at: number) => data.readFloatBE(at) },
  float32le: { bytes: 4, read: (data: Buffer, at: number) => data.readFloatLE(at) },
} as const;

const garbled = (): InstrumentError =>
  new InstrumentError(
    'garbled',
    'The oscilloscope’s answer makes no sense. Nothing was kept; take it again.',
  );

/**
 * Speaks to a bench oscilloscope with a pulser as its adapter file says: one connection per
 * exchange, every answer whole or an InstrumentError.
 */
export class ScopeClient {
  constructor(private readonly adapter: ScopeAdapter | null) {}

  /** Which oscilloscope it is, within reach or not; null where none is set up. */
  async identify(): Promise<BenchScope | null> {
    const { adapter } = this;
    if (!adapter) return null;
    const { name, simulated } = adapter;
    try {
      await this.talk(({ ask }) => ask(adapter.identify));
      return { name, connected: true, simulated };
    } catch (error) {
      if (!(error instanceof InstrumentError)) throw error;
      return { name, connected: false, simulated };
    }
  }

  /** One acquisition. */
  async take(request: ScopeRequest): Promise<TakenTrace> {
    const { adapter } = this;
    if (!adapter)
      throw new InstrumentError('unreachable', 'No oscilloscope is set up. Read the trace in from a file.');
    const fill = (command: string): string =>
      command.replace(/\{(\w+)\}/g, (_, name: string) => String(request[name as ScopePlaceholder]));
    return this.talk(async (line) => {
      for (const command of adapter.setUp) await line.obey(fill(command));
      if (adapter.route) await line.obey(fill(adapter.route));
      await this.refuseErrors(line);
      for (const command of adapter.acquire) await line.obey(fill(command));
      await this.refuseErrors(line);
      const preamble = preambleOf(adapter, await line.ask(adapter.preamble.query));
      const volts =
        adapter.waveform.form === 'ascii'
          ? asciiVolts(await line.ask(adapter.waveform.query))
          : blockVolts(await line.askBlock(adapter.waveform.query), adapter.waveform.sample, preamble);
      if (volts.length < 16 || volts.length > MOST_SAMPLES || !volts.every(Number.isFinite)) throw garbled();
      if (preamble.points !== null && preamble.points !== volts.length)
        throw new InstrumentError(
          'garbled',
          `The oscilloscope told of ${preamble.points} samples and sent ${volts.length}. Take it again.`,
        );
      const { intervalS, startS } = preamble;
      return {
        instrumentName: adapter.name,
        simulated: adapter.simulated,
        trace: { intervalS, startS, volts },
        shape: adapter.shape,
        lead: adapter.lead,
      };
    });
  }

  private async refuseErrors({ ask }: Line): Promise<void> {
    const { error } = this.adapter ?? {};
    if (!error) return;
    const said = await ask(error);
    if (!/^\s*[+-]?0*(,|$)/.test(said)) {
      const [number, ...words] = said.trim().split(',');
      throw new InstrumentError(
        'refused',
        `The oscilloscope refuses: ${words.join(',').replaceAll('"', '')} (${number}).`,
      );
    }
  }

  private talk<T>(work: (line: Line) => Promise<T>): Promise<T> {
    const { adapter } = this;
    if (!adapter) throw new Error('There is no adapter to talk by.');
    const socket = connect(adapter.address);
    const line = new Line(socket, adapter.silenceMs);
    return work(line).finally(() => socket.destroy());
  }
}

/** Lines and blocks over a socket, in the order they are asked for. */
class Line {
  private held = Buffer.alloc(0);
  private wake: (() => void) | null = null;
  private failed: InstrumentError | null = null;

  constructor(
    private readonly socket: Socket,
    silenceMs: number,
  ) {
    const fail = (kind: InstrumentError['kind'], words: string): void => {
      this.failed ??= new InstrumentError(kind, words);
      this.wake?.();
    };
    socket.setTimeout(silenceMs, () =>
      fail('silent', 'The oscilloscope stopped answering. Check it and take the trace again.'),
    );
    socket.on('error', () =>
      fail('unreachable', 'The oscilloscope cannot be reached. Check that it is on, or read a file in.'),
    );
    socket.on('close', () =>
      fail('disconnected', 'The oscilloscope hung up in the middle. Nothing was kept; take it again.'),
    );
    socket.on('data', (chunk: Buffer) => {
      this.held = Buffer.concat([this.held, chunk]);
      if (this.held.length > MOST_BYTES) fail('garbled', garbled().message);
      this.wake?.();
    });
  }

  /** Sends a command; where it is a query its answer is awaited and passed by. */
  async obey(command: string): Promise<void> {
    if (command.trim().split(' ')[0]?.endsWith('?')) await this.ask(command);
    else this.socket.write(`${command}\n`);
  }

  readonly ask = async (query: string): Promise<string> => {
    this.socket.write(`${query}\n`);
    const end = await this.until(() => this.held.indexOf(LF) + 1);
    return this.takeOff(end).toString('latin1').trimEnd();
  };

  /** A definite-length block: # digits length bytes, then a newline (IEEE 488.2, 8.7.9). */
  async askBlock(query: string): Promise<Buffer> {
    this.socket.write(`${query}\n`);
    await this.until(() => this.held.length >= 2);
    const digits = Number(this.held.toString('latin1', 1, 2));
    if (this.held[0] !== '#'.charCodeAt(0) || !(digits >= 1)) throw garbled();
    await this.until(() => this.held.length >= 2 + digits);
    const text = this.held.toString('latin1', 2, 2 + digits);
    const length = Number(text);
    if (!/^\d+$/.test(text) || length > MOST_BYTES) throw garbled();
    await this.until(() => this.held.length >= 2 + digits + length);
    return this.takeOff(2 + digits + length).subarray(2 + digits);
  }

  /** What there is, once a condition holds; what it gives. */
  private async until<T>(holds: () => T): Promise<T> {
    for (;;) {
      const got = holds();
      if (got) return got;
      if (this.failed) throw this.failed;
      await new Promise<void>((resolve) => {
        this.wake = resolve;
      });
    }
  }

  private takeOff(bytes: number): Buffer {
    const taken = this.held.subarray(0, bytes);
    this.held = this.held.subarray(bytes);
    return taken;
  }
}

interface Preamble {
  intervalS: number;
  startS: number;
  voltsPerCount: number;
  offsetV: number;
  points: number | null;
}

function preambleOf({ preamble: { fields } }: ScopeAdapter, text: string): Preamble {
  const figures = text.split(',').map((word) => (word.trim() === '' ? NaN : Number(word)));
  const figure = (name: (typeof fields)[number]): number | null => {
    const at = fields.indexOf(name);
    const value = at < 0 ? undefined : figures[at];
    if (at >= 0 && !Number.isFinite(value)) throw garbled();
    return value ?? null;
  };
  const intervalS = figure('intervalS') ?? NaN;
  if (!(intervalS > 0)) throw garbled();
  return {
    intervalS,
    startS: figure('startS') ?? 0,
    voltsPerCount: figure('voltsPerCount') ?? 1,
    offsetV: figure('offsetV') ?? 0,
    points: figure('points'),
  };
}

const asciiVolts = (text: string): number[] =>
  text.split(',').map((word) => (word.trim() === '' ? NaN : Number(word)));

function blockVolts(
  data: Buffer,
  sample: keyof typeof SAMPLES,
  { voltsPerCount, offsetV }: Preamble,
): number[] {
  const { bytes, read } = SAMPLES[sample];
  if (data.length % bytes !== 0) throw garbled();
  return Array.from({ length: data.length / bytes }, (_, n) =>
    Number((read(data, n * bytes) * voltsPerCount + offsetV).toPrecision(6)),
  );
}
