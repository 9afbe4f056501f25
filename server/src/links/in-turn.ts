import pLimit, { type LimitFunction } from 'p-limit';
import { Refusal } from '../problems.js';

/** So many may record, or wait to, on one link, and on all links together. */
const MOST = { onLink: 60, inAll: 400 };

/**
 * Lets work on one link follow one another before it asks for a connection, and only so much of it go on at once, so
 * that whoever only looks never waits for who records. The order of records is the database's: processes that share it
 * still wait for each other by the link's lock.
 */
export class LinkTurns {
  private readonly slots: LimitFunction;
  private readonly lanes = new Map<string, { one: LimitFunction; users: number }>();
  private users = 0;

  /** @param atOnce how much work may go on together */
  constructor(atOnce: number) {
    this.slots = pLimit(atOnce);
  }

  /** @throws Refusal 503 where too many wait already */
  async do<T>(linkId: string, work: () => Promise<T>): Promise<T> {
    const lane = this.lanes.get(linkId) ?? { one: pLimit(1), users: 0 };
    if (lane.users >= MOST.onLink || this.users >= MOST.inAll) throw busy();
    this.lanes.set(linkId, lane);
    lane.users++;
    this.users++;
    try {
      return await lane.one(() => this.slots(work));
    } finally {
      this.users--;
      if (--lane.users === 0) this.lanes.delete(linkId);
    }
  }
}

const busy = (): Refusal =>
  new Refusal(
    503,
    'Busy',
    'Many people add to records just now. Nothing was kept: send it again in a moment.',
  );
