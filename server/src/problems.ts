import { fieldErrors, type Problem } from '@near-spoke/contracts';
import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import * as z from 'zod';
import { isAway, isFull, isInTheWay, isTooLong } from './db/failures.js';

/** A refusal that reaches the person as problem details (RFC 9457). */
export class Refusal extends Error {
  readonly problem: Problem;

  constructor(status: number, title: string, detail: string, extra: Partial<Problem> = {}) {
    super(detail);
    this.problem = { type: 'about:blank', title, status, detail, ...extra };
  }
}

export const notFound = (what: string): Refusal =>
  new Refusal(404, 'Not found', `There is no such ${what}. It may have been opened from an old address.`);

/** A write that began from an older version than the record has now. */
export const changedSince = (current: unknown, changedBy: string, changedAt: string): Refusal =>
  new Refusal(
    409,
    'Changed since you opened it',
    `Changed by ${changedBy} since you opened it. Compare both and save again.`,
    {
      current,
      changedBy,
      changedAt,
    },
  );

/** Nobody works on a job that was closed. */
export const jobClosed = (): Refusal =>
  new Refusal(409, 'The job is closed', 'This job is closed: nothing of it is changed. A lead reopens it.');

/** An id that was already used for something else. */
export const idTaken = (): Refusal =>
  new Refusal(409, 'Id already used', 'This id already names another record. Make a new one and send again.');

/** One value, whatever the order of its fields; what is left out and what is null is the same. */
function canonical(value: unknown): unknown {
  if (value instanceof Date) return value.toISOString();
  if (Array.isArray(value)) return value.map(canonical);
  if (typeof value !== 'object' || value === null) return value ?? null;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, inner]) => inner !== undefined && inner !== null)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, inner]) => [key, canonical(inner)]),
  );
}
const alike = (a: unknown, b: unknown): boolean =>
  JSON.stringify(canonical(a)) === JSON.stringify(canonical(b));

/**
 * Refuses a second sending under an id that says something else than what is kept under it: a repeat is
 * harmless, other content would be lost without a word.
 */
export function refuseOther(
  kept: Readonly<Record<string, unknown>>,
  sent: { id: string } & Record<string, unknown>,
): void {
  const other = Object.keys(sent).filter((key) => sent[key] !== undefined && !alike(kept[key], sent[key]));
  if (other.length === 0) return;
  const current = Object.fromEntries(Object.keys(sent).map((key) => [key, kept[key] ?? null]));
  throw new Refusal(
    409,
    'Kept before, with other content',
    `Under this id something else is kept already: ${other.join(', ')} differ. Nothing was changed. Compare both, and send what is still to be kept under an id of its own.`,
    { current, sent },
  );
}

export function badInput(error: z.ZodError): Refusal {
  const errors = fieldErrors(error);
  const [first] = errors;
  return new Refusal(
    400,
    'Check the input',
    first ? `${first.path}: ${first.message}` : 'The input is not valid.',
    { errors },
  );
}

export const badField = (path: string, message: string, status = 422): Refusal =>
  new Refusal(status, 'Check the input', `${path}: ${message}`, { errors: [{ path, message }] });

interface HttpError {
  status?: unknown;
  type?: unknown;
}

/** Errors the body parser throws, in words. */
function bodyProblem(error: HttpError): Refusal | null {
  if (error.type === 'entity.too.large') {
    return new Refusal(413, 'Too large', 'The body is over 1 MB. Send it in smaller pieces.');
  }
  if (error.type === 'entity.parse.failed')
    return new Refusal(400, 'Not JSON', 'The body is not valid JSON.');
  if (error.type === 'encoding.unsupported' || error.type === 'charset.unsupported') {
    return new Refusal(415, 'Unknown encoding', 'Send the body as JSON in UTF-8.');
  }
  if (typeof error.status === 'number' && error.status >= 400 && error.status < 500) {
    return new Refusal(error.status, 'Bad request', 'The request could not be read.');
  }
  return null;
}

const PG_UNIQUE = '23505';
const PG_FOREIGN_KEY = '23503';
const PG_NO_RIGHT = '42501';
/** Where PostgreSQL refuses a row that a policy does not let in; its words are in whatever language it speaks. */
const CHECKS_ROWS = 'ExecWithCheckOptions';

const SOON = { type: 'about:blank', title: 'Not just now', status: 503 } as const;

/** The database away for a moment, or busy with others: nothing was kept, and trying again helps. */
export function passingProblem(error: unknown): Refusal | null {
  const again = (detail: string): Refusal => new Refusal(SOON.status, SOON.title, detail);
  if (isAway(error))
    return again(
      'The database does not answer just now. What you sent is not known to be kept: send it again.',
    );
  if (isInTheWay(error))
    return again('Somebody changed the same records at this moment. Nothing was kept: send it again.');
  if (isFull(error))
    return again(
      'The disk of the server is full: nothing was kept. Whoever looks after the server has to free some space; then send it again.',
    );
  if (isTooLong(error)) return again('It took too long beside other work. Nothing was kept: send it again.');
  return null;
}

/** Constraint violations that a race can still cause after the checks in code. */
function databaseProblem(error: unknown): Refusal | null {
  const cause = error instanceof Error && error.cause ? error.cause : error;
  const { code, constraint, routine } = cause as Record<'code' | 'constraint' | 'routine', unknown>;
  if (code === PG_UNIQUE) {
    const what = String(constraint ?? '').replaceAll('_', ' ');
    return new Refusal(409, 'Already there', `Something with this name or id is already there (${what}).`);
  }
  // A row of another crew is none: neither key nor policy tells that it is there.
  if (code === PG_FOREIGN_KEY || (code === PG_NO_RIGHT && routine === CHECKS_ROWS))
    return new Refusal(422, 'Check the input', 'It refers to something that does not exist.');
  if (code === '22P05' || code === '22021')
    return new Refusal(400, 'Check the input', 'The text holds characters that cannot be stored.');
  return null;
}

export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const refusal =
      error instanceof Refusal
        ? error
        : error instanceof z.ZodError
          ? badInput(error)
          : error instanceof URIError
            ? new Refusal(400, 'Bad address', 'The address holds characters that cannot be read.')
            : (bodyProblem(error as HttpError) ?? passingProblem(error) ?? databaseProblem(error));
    if (refusal?.problem.status === SOON.status) response.set('Retry-After', '2');
    if (!refusal || refusal.problem.status === SOON.status)
      log.error(
        { err: error, request: request.id, method: request.method, path: request.path },
        'request failed',
      );
    const kept: Problem = refusal?.problem ?? {
      type: 'about:blank',
      title: 'Could not be done',
      status: 500,
      detail: 'Something failed on the server. Look whether it was saved before you try again.',
    };
    // The number under which the log tells more.
    const problem = kept.status >= 500 && request.id ? { ...kept, request: String(request.id) } : kept;
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}
