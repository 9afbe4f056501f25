import { fieldErrors, type Problem } from '@near-spoke/contracts';
import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import * as z from 'zod';

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

/** An id that was already used for something else. */
export const idTaken = (): Refusal =>
  new Refusal(409, 'Id already used', 'This id already names another record. Make a new one and send again.');

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

/** Constraint violations that a race can still cause after the checks in code. */
function databaseProblem(error: unknown): Refusal | null {
  const cause = error instanceof Error && error.cause ? error.cause : error;
  const { code, constraint } = cause as { code?: unknown; constraint?: unknown };
  if (code === PG_UNIQUE) {
    const what = String(constraint ?? '').replaceAll('_', ' ');
    return new Refusal(409, 'Already there', `Something with this name or id is already there (${what}).`);
  }
  if (code === PG_FOREIGN_KEY)
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
            : (bodyProblem(error as HttpError) ?? databaseProblem(error));
    if (!refusal) log.error({ err: error, method: request.method, path: request.path }, 'request failed');
    const problem = refusal?.problem ?? {
      type: 'about:blank',
      title: 'Could not be done',
      status: 500,
      detail: 'Something failed on the server; nothing was saved. Try again, and tell the lead if it stays.',
    };
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}
