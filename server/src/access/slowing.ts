import type { Logger } from 'pino';
import { Refusal } from '../problems.js';
import type { Failures } from './failures.js';

/** What is tried at, and how. */
export interface Door {
  /** Tries at one door are no tries at another. */
  name: string;
  failures: Failures;
  /** So many failures are free. */
  free: number;
  /** Is told of every try that was refused, and where it came from. */
  log?: Pick<Logger, 'warn'>;
  sleep?: (ms: number) => Promise<void>;
}

const FIRST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 5_000;
/** Tries of one person from one address that may stand in line; a person sends one at a time. */
const MOST_IN_LINE = 4;

/**
 * Slows guessing down, per person and per address apart: past `free` failures each further try waits, longer and
 * longer, and tries of one person from one address that come to one process follow one another. A right passphrase is
 * late at worst, and is never locked out by what others tried.
 */
export class Slowing {
  private readonly lines = new Map<string, { last: Promise<unknown>; length: number }>();

  private readonly sleep: (ms: number) => Promise<void>;

  constructor(private readonly of: Door) {
    this.sleep = of.sleep ?? ((ms) => new Promise((later) => setTimeout(later, ms)));
  }

  /**
   * Runs one try in its turn, after its wait; a Refusal that it throws counts as a failure of person and address.
   *
   * @throws Refusal 429 where tries of this person from this address already stand in line
   */
  async try<T>(person: string, address: string, check: () => Promise<T>): Promise<T> {
    const key = `${person.toLowerCase()}|${address}`;
    const line = this.lines.get(key) ?? { last: Promise.resolve(), length: 0 };
    if (line.length >= MOST_IN_LINE)
      throw new Refusal(
        429,
        'Too many tries',
        'Several tries in this name are under way from here. Wait for their answers, then try again.',
      );
    line.length += 1;
    this.lines.set(key, line);
    const turn = line.last.catch(() => undefined).then(() => this.once(person, address, check));
    line.last = turn;
    try {
      return await turn;
    } finally {
      line.length -= 1;
      if (line.length === 0) this.lines.delete(key);
    }
  }

  /** How long the next try waits. */
  async waitMs(person: string, address: string): Promise<number> {
    const times = await Promise.all(this.keysOf(person, address).map((key) => this.of.failures.timesOf(key)));
    const most = Math.max(...times);
    return most < this.of.free ? 0 : Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (most - this.of.free));
  }

  private async once<T>(person: string, address: string, check: () => Promise<T>): Promise<T> {
    const ms = await this.waitMs(person, address);
    if (ms > 0) await this.sleep(ms);
    try {
      const passed = await check();
      await this.of.failures.forget(this.personKey(person));
      return passed;
    } catch (error) {
      if (error instanceof Refusal) {
        for (const key of this.keysOf(person, address)) await this.of.failures.count(key);
        // The name is not written down: a passphrase may have got into its field.
        this.of.log?.warn({ door: this.of.name, address }, 'a try was refused');
      }
      throw error;
    }
  }

  private personKey(person: string): string {
    return `${this.of.name}: person ${person.toLowerCase()}`;
  }

  private keysOf(person: string, address: string): string[] {
    return [this.personKey(person), `${this.of.name}: address ${address}`];
  }
}
