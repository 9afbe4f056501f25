/**
 * What a failed statement means for the one who asked: whether the database is away for a moment, or
 * two people were in each other's way. PostgreSQL's codes: www.postgresql.org/docs/current/errcodes-appendix.html
 */

interface Failure {
  code?: unknown;
  message?: unknown;
}

const failureOf = (error: unknown): Failure =>
  (error instanceof Error && error.cause ? error.cause : error) as Failure;

/** Shut down, crashed, starting up; a connection that broke or was refused. */
const AWAY_CODES = ['57P01', '57P02', '57P03', '53300', 'ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT'];
const AWAY_WORDS = [
  'Connection terminated',
  'timeout exceeded when trying to connect',
  'Client has encountered a connection error',
];

/** Whether the database did not answer, so that nothing of the transaction was kept or can be known of it. */
export function isAway(error: unknown): boolean {
  const { code, message } = failureOf(error) ?? {};
  return (
    (typeof code === 'string' && (AWAY_CODES.includes(code) || code.startsWith('08'))) ||
    (typeof message === 'string' && AWAY_WORDS.some((words) => message.startsWith(words)))
  );
}

/** Deadlock found, or serialization failed: nothing was kept, and once more is likely to go through. */
export const isInTheWay = (error: unknown): boolean =>
  ['40P01', '40001'].includes(String(failureOf(error)?.code));

/**
 * Something that may be there once is there already. Of two sendings of one record that come at the same moment the later may
 * meet the other's name before its id; asked again, it finds its own record.
 */
export const isTaken = (error: unknown): boolean => String(failureOf(error)?.code) === '23505';

/** The disk that the database lies on is full: nothing of it was kept. */
export const isFull = (error: unknown): boolean => String(failureOf(error)?.code) === '53100';

/** A statement or a wait for a lock took too long and was ended; nothing was kept. */
export const isTooLong = (error: unknown): boolean =>
  ['57014', '55P03', '25P03'].includes(String(failureOf(error)?.code));
