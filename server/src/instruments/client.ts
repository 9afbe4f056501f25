import { randomUUID } from 'node:crypto';
import { connect, type Socket } from 'node:net';
import {
  decodeReading,
  linkFault,
  type PracticeBreak,
  MAX_ANSWER_LINES,
  MAX_LINE_BYTES,
  PROTOCOL_GREETING,
  ProtocolError,
  readCommand,
  type Instrument,
  type Link,
  type TakenReading,
} from '@near-spoke/contracts';
import type { KnownTypes } from './alike.js';
import type { InstrumentClass, LinkEnd, Reading, SchemeId, ToldFault } from '@near-spoke/core';

/** Why an instrument gave no reading. */
export class InstrumentError extends Error {
  constructor(
    readonly kind: 'unreachable' | 'silent' | 'disconnected' | 'garbled' | 'refused',
    message: string,
  ) {
    super(message);
  }
}

export interface InstrumentAddress {
  host: string;
  port: number;
  /** No answer line for this long ends the exchange. */
  silenceMs: number;
}

/**
 * Talks to one instrument over TCP, one exchange per connection. An exchange ends in a whole
 * answer or in an InstrumentError; a broken-off answer is never a reading.
 */
export class InstrumentClient {
  constructor(private readonly address: InstrumentAddress | null) {}

  /** What the instrument says of itself, connected or not. */
  async identify(): Promise<Instrument[]> {
    if (!this.address) return [];
    try {
      const lines = await this.exchange('IDENTIFY');
      const value = (word: string): string =>
        lines.find((l) => l.startsWith(`${word} `))?.slice(word.length + 1) ?? '';
      return [
        {
          name: value('NAME') || 'instrument',
          classes: value('CLASSES').split(' ') as InstrumentClass[],
          connected: true,
          simulated: value('SIMULATED') === 'yes',
        },
      ];
    } catch (error) {
      if (!(error instanceof InstrumentError)) throw error;
      return [{ name: 'Instrument', classes: [], connected: false, simulated: false }];
    }
  }

  async read(
    instrument: InstrumentClass,
    end: LinkEnd,
    linkId: string,
    plan?: Reading,
  ): Promise<TakenReading> {
    const [identity] = await this.identify();
    const lines = await this.exchange(readCommand(instrument, end, linkId, plan));
    try {
      const reading = decodeReading(lines);
      if (reading.instrument !== instrument)
        throw new ProtocolError(`Asked for ${instrument}, answered ${reading.instrument}.`);
      return {
        takenId: randomUUID(),
        instrumentName: identity?.name ?? 'instrument',
        simulated: identity?.simulated ?? false,
        reading,
      };
    } catch (error) {
      if (error instanceof ProtocolError)
        throw new InstrumentError('garbled', `${error.message} Nothing was saved; read again.`);
      throw error;
    }
  }

  /** Tells a simulated link what a hand has done to it. A real instrument has no such command, and needs none. */
  async work(
    linkId: string,
    place: 'near' | 'far' | 'mended' | 'replaced' | 'outlet' | 'unplug',
    planned: Link,
    scheme: SchemeId,
    types: KnownTypes,
  ): Promise<void> {
    const [identity] = await this.identify();
    if (!identity?.simulated) return;
    const plan = { label: planned.label, scheme, lengthM: planned.lengthM, ...types };
    await this.exchange(`WORK ${place} ${linkId} ${JSON.stringify(plan)}`);
  }

  /** Tells a simulated reel that some of it was cut off. A real instrument has no such command. */
  async draw(reelId: string, lengthM: number): Promise<void> {
    const [identity] = await this.identify();
    if (identity?.simulated) await this.exchange(`DRAW ${reelId} ${lengthM}`);
  }

  /** Has a simulated set break a practice link; a real instrument has no such command. */
  async breakForPractice(practiceId: string, how: PracticeBreak): Promise<void> {
    const calm = how.noise ? 'noisy' : 'calm';
    await this.exchange(`BREAK ${practiceId} ${how.count} ${how.seed} ${calm} ${JSON.stringify(how.plan)}`);
  }

  /** What a practice link really has. */
  async reveal(practiceId: string): Promise<ToldFault[]> {
    const lines = await this.exchange(`REVEAL ${practiceId}`);
    return lines.map((line) => {
      const fault = linkFault.safeParse(JSON.parse(line.slice('FAULT '.length)));
      if (!fault.success) throw new InstrumentError('garbled', 'The instrument’s answer makes no sense.');
      return fault.data;
    });
  }

  private exchange(request: string): Promise<string[]> {
    const { address } = this;
    if (!address)
      throw new InstrumentError('unreachable', 'No instrument is set up. Key the reading in instead.');
    return new Promise((resolve, reject) => {
      const socket = connect({ host: address.host, port: address.port });
      const fail = (error: InstrumentError): void => {
        socket.destroy();
        reject(error);
      };
      socket.setTimeout(address.silenceMs, () =>
        fail(
          new InstrumentError(
            'silent',
            'The instrument stopped answering. Check it and read again, or key the reading in.',
          ),
        ),
      );
      socket.on('error', () =>
        fail(
          new InstrumentError(
            'unreachable',
            'The instrument cannot be reached. Check that it is on, or key the reading in.',
          ),
        ),
      );
      socket.on('close', () =>
        fail(
          new InstrumentError(
            'disconnected',
            'The instrument hung up in the middle. Nothing was saved; read again.',
          ),
        ),
      );
      collectAnswer(socket, request, resolve, fail);
    });
  }
}

function collectAnswer(
  socket: Socket,
  request: string,
  resolve: (lines: string[]) => void,
  fail: (error: InstrumentError) => void,
): void {
  const garbled = (): void =>
    fail(
      new InstrumentError(
        'garbled',
        'The instrument’s answer makes no sense. Nothing was saved; read again.',
      ),
    );
  let pending = '';
  let greeted = false;
  const lines: string[] = [];
  const take = (line: string): boolean => {
    if (!greeted) {
      greeted = line === PROTOCOL_GREETING;
      if (greeted) socket.write(`${request}\n`);
      else garbled();
      return !greeted;
    }
    if (line.startsWith('ERROR ')) {
      const [, code, ...words] = line.split(' ');
      fail(new InstrumentError('refused', `The instrument refuses: ${words.join(' ') || code}`));
      return true;
    }
    if (line.startsWith('DONE ')) {
      if (Number(line.slice(5)) !== lines.length) garbled();
      else {
        resolve(lines);
        socket.end();
        socket.removeAllListeners('close');
      }
      return true;
    }
    lines.push(line);
    if (lines.length > MAX_ANSWER_LINES) garbled();
    return lines.length > MAX_ANSWER_LINES;
  };
  socket.setEncoding('utf8');
  socket.on('data', (chunk: string) => {
    const parts = (pending + chunk).split('\n');
    pending = parts.pop() ?? '';
    for (const part of parts) if (take(part.trimEnd())) return;
    if (pending.length > MAX_LINE_BYTES) garbled();
  });
}
