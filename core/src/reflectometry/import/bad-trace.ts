/** A trace file that cannot be read: what is wrong, where, and what to do. */
export class BadTrace extends Error {
  constructor(
    message: string,
    /** Line it is in, counted from 1; null where it is no one line's fault. */
    readonly line: number | null = null,
  ) {
    super(line === null ? message : `Line ${line}: ${message}`);
  }
}

/** Something in a trace file that only the person who made it knows. */
export class TraceQuestion extends BadTrace {
  constructor(
    readonly asks: 'interval' | 'channel' | 'time unit',
    message: string,
    /** Answers to choose from; empty where a figure is asked. */
    readonly choices: readonly string[] = [],
  ) {
    super(message);
  }
}
