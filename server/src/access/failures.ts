import { createHash } from 'node:crypto';
import type { Pool } from 'pg';
import { RateLimiterMemory, RateLimiterPostgres, type RateLimiterAbstract } from 'rate-limiter-flexible';

const WINDOW_S = 5 * 60;
/** How often a key failed is asked, never whether it may: nobody is locked out. */
const NO_LIMIT = Number.MAX_SAFE_INTEGER;

/** How often tries failed lately, counted for all processes that serve one database. */
export class Failures {
  private constructor(private readonly counter: RateLimiterAbstract) {}

  /** Counted in the database (table `failed_try`). */
  static shared(pool: Pool): Failures {
    return new Failures(
      new RateLimiterPostgres({
        storeClient: pool,
        storeType: 'pool',
        tableName: 'failed_try',
        tableCreated: true,
        clearExpiredByTimeout: true,
        keyPrefix: '',
        points: NO_LIMIT,
        duration: WINDOW_S,
      }),
    );
  }

  /** Counted in this process alone. */
  static own(): Failures {
    return new Failures(new RateLimiterMemory({ keyPrefix: '', points: NO_LIMIT, duration: WINDOW_S }));
  }

  /** How often a key failed within the last five minutes since it first did. */
  async timesOf(key: string): Promise<number> {
    return (await this.counter.get(digest(key)))?.consumedPoints ?? 0;
  }

  async count(key: string): Promise<void> {
    await this.counter.penalty(digest(key));
  }

  async forget(key: string): Promise<void> {
    await this.counter.delete(digest(key));
  }
}

/** Somebody's passphrase may have got into the field of the name: neither is kept as it was typed. */
const digest = (key: string): string => createHash('sha256').update(key).digest('hex');
