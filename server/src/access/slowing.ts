import { Refusal } from '../problems.js';

const WINDOW_MS = 5 * 60_000;
const FIRST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 5_000;
/** Tries of one person from one address that may stand in line; a person sends one at a time. */
const MOST_IN_LINE = 4;
/** Names and addresses remembered: more than a crew has, less than a flood can make. */
const MOST_REMEMBERED = 10_000;

interface Failed {
  times: number;
  until: number;
}

/**
 * Slows guessing down, per person and per address apart: past `free` failures each further try waits, longer and
 * longer, and tries of one person from one address come one after another. A right passphrase is late at worst, and
 * is never locked out by what others tried.
 */
export class Slowing {
  private readonly failed = new Map<string, Failed>();
  private readonly lines = new Map<string, { last: Promise<unknown>; length: number }>();

  constructor(
    private readonly free: number,
    private readonly now: () => number = Date.now,
    private readonly sleep: (ms: number) => Promise<void> = (ms) =>
      new Promise((later) => setTimeout(later, ms)),
  ) {}

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
        'Several sign-ins of this name are under way from here. Wait for their answers, then try again.',
      );
    line.length += 1;
    this.lines.set(key, line);
    const turn = line.last
      .catch(() => undefined)
      .then(() => this.sleepFor(person, address))
      .then(check);
    line.last = turn;
    try {
      const passed = await turn;
      this.failed.delete(personKey(person));
      return passed;
    } catch (error) {
      if (error instanceof Refusal)
        for (const one of [personKey(person), addressKey(address)]) this.count(one);
      throw error;
    } finally {
      line.length -= 1;
      if (line.length === 0) this.lines.delete(key);
    }
  }

  /** How long the next try waits. */
  waitMs(person: string, address: string): number {
    const most = Math.max(this.timesOf(personKey(person)), this.timesOf(addressKey(address)));
    return most < this.free ? 0 : Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (most - this.free));
  }

  private async sleepFor(person: string, address: string): Promise<void> {
    const ms = this.waitMs(person, address);
    if (ms > 0) await this.sleep(ms);
  }

  private timesOf(key: string): number {
    const found = this.failed.get(key);
    return found && found.until > this.now() ? found.times : 0;
  }

  private count(key: string): void {
    if (this.failed.size >= MOST_REMEMBERED)
      for (const [old, { until }] of this.failed) if (until <= this.now()) this.failed.delete(old);
    if (this.failed.size >= MOST_REMEMBERED) this.failed.clear();
    this.failed.set(key, { times: this.timesOf(key) + 1, until: this.now() + WINDOW_MS });
  }
}

const personKey = (person: string): string => `person ${person.toLowerCase()}`;
const addressKey = (address: string): string => `address ${address}`;
