import * as z from 'zod';
import { closestIssues, issueWords } from './issue-words.js';

/** Problem details (RFC 9457), with the field concerned and what to do. */
export const problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  errors: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
  /** On 409: the record as it is now, and who changed it. */
  current: z.unknown().optional(),
  /** What was sent under an id that is kept with other content. */
  sent: z.unknown().optional(),
  changedBy: z.string().optional(),
  changedAt: z.string().optional(),
  /** On what failed at the server: the number of the request, under which its log tells more. */
  request: z.string().optional(),
});
export type Problem = z.infer<typeof problem>;

/** A Zod path as people write it: `links[3].lengthM`. */
export function pathInWords(path: readonly PropertyKey[]): string {
  return path.reduce<string>(
    (text, part) =>
      typeof part === 'number' ? `${text}[${part}]` : text ? `${text}.${String(part)}` : String(part),
    '',
  );
}

/** What is wrong with a value, field by field. */
export function fieldErrors(error: z.ZodError): { path: string; message: string }[] {
  return error.issues
    .flatMap((issue) => closestIssues(issue))
    .map((issue) => ({ path: pathInWords(issue.path) || 'body', message: issueWords(issue) }));
}

/** The first of them, with where it is. */
export function firstError(error: z.ZodError): string {
  const [first] = fieldErrors(error);
  return first ? `${first.path}: ${first.message}` : 'It cannot be.';
}
