import type pg from 'pg';

/** Named once it has come so often: what comes once is not worth a plan that is kept. */
const NAMED_AFTER = 3;
/** A plan takes memory in every connection: so many texts are named, and the commonest come soonest. */
const MOST_NAMED = 250;
const MOST_COUNTED = 5000;

/** What can be planned beforehand, by itself. */
const PLANNED = /^\s*(select|insert|update|delete|with)\b[^;]*$/i;
/** How many rows look like a pattern, or share something with a list, is another for each: a plan for all of them is good for none. */
const HANGS_ON_WHAT_IS_ASKED = /\bLIKE\b|&&|@>|<@/i;

/**
 * Gives the statements that a process sends again and again a name each, so that the database reads and plans them once for
 * each connection. Joins over many tables take ten times as long to plan as to carry out.
 */
export class NamedStatements {
  private readonly names = new Map<string, string>();
  private readonly counts = new Map<string, number>();

  /** The name of a text, undefined while it has none. */
  nameOf(text: string): string | undefined {
    const known = this.names.get(text);
    if (known !== undefined || this.names.size >= MOST_NAMED || !isPlanned(text)) return known;
    const times = (this.counts.get(text) ?? 0) + 1;
    if (times < NAMED_AFTER) {
      if (this.counts.size >= MOST_COUNTED) this.counts.clear();
      this.counts.set(text, times);
      return undefined;
    }
    this.counts.delete(text);
    const name = `s${this.names.size}`;
    this.names.set(text, name);
    return name;
  }

  /** Has a connection send by name what has one. */
  of(client: pg.PoolClient): void {
    const query = client.query.bind(client) as (...sent: unknown[]) => unknown;
    const byName = (first: unknown, ...rest: unknown[]): unknown => {
      if (!isUnnamed(first)) return query(first, ...rest);
      const name = this.nameOf(first.text);
      return query(name === undefined ? first : { ...first, name }, ...rest);
    };
    client.query = byName as typeof client.query;
  }
}

/** A statement as it is sent to the driver, that has no name yet and is no stream. */
function isUnnamed(sent: unknown): sent is { text: string } {
  if (typeof sent !== 'object' || sent === null || 'submit' in sent) return false;
  const { text, name } = sent as { text?: unknown; name?: unknown };
  return typeof text === 'string' && name === undefined;
}

const isPlanned = (text: string): boolean => PLANNED.test(text) && !HANGS_ON_WHAT_IS_ASKED.test(text);
