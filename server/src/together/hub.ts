import type { Logger } from 'pino';
import pg from 'pg';

/** Where every process that serves one database hears that something was told. */
export const TOLD_CHANNEL = 'near_spoke_told';

const FIRST_WAIT_MS = 200;
const LONGEST_WAIT_MS = 10_000;

type Listener = () => void;

/**
 * Hears what is told in any process that serves this database, by one connection of its own. While it is lost nothing is
 * heard, so that everybody is woken once it is back.
 */
export class Hub {
  private readonly listeners = new Map<string, Set<Listener>>();
  private client: pg.Client | null = null;
  private waitMs = FIRST_WAIT_MS;
  private retry: NodeJS.Timeout | null = null;
  private closed = false;

  constructor(
    private readonly url: string,
    private readonly log: Logger,
  ) {}

  /** Wakes a listener whenever something is told under an id. @returns ends it */
  on(id: string, listener: Listener): () => void {
    const all = this.listeners.get(id) ?? new Set();
    all.add(listener);
    this.listeners.set(id, all);
    if (!this.client && !this.retry) void this.connect();
    return () => {
      all.delete(listener);
      if (all.size === 0 && this.listeners.get(id) === all) this.listeners.delete(id);
    };
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.retry) clearTimeout(this.retry);
    await this.client?.end().catch(() => undefined);
  }

  private async connect(): Promise<void> {
    this.retry = null;
    const client = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: 5000 });
    this.client = client;
    const lost = (): void => {
      if (this.client !== client) return;
      this.client = null;
      if (this.closed || this.listeners.size === 0) return;
      this.retry = setTimeout(() => void this.connect(), this.waitMs).unref();
      this.waitMs = Math.min(LONGEST_WAIT_MS, this.waitMs * 2);
    };
    client.on('error', lost);
    client.on('end', lost);
    client.on('notification', ({ payload }) => this.wake(payload ?? ''));
    try {
      await client.connect();
      await client.query(`LISTEN ${TOLD_CHANNEL}`);
      this.waitMs = FIRST_WAIT_MS;
      for (const id of [...this.listeners.keys()]) this.wake(id);
    } catch (error) {
      this.log.warn({ error }, 'what is told elsewhere is not heard');
      await client.end().catch(() => undefined);
      lost();
    }
  }

  private wake(id: string): void {
    for (const listener of [...(this.listeners.get(id) ?? [])]) listener();
  }
}
