import { fieldErrors } from '@near-spoke/contracts';
import type { ZodType } from 'zod';
import { BadInput } from './outcome.js';

/** Reads JSON as people save it, with or without a byte order mark. */
export function parseJson(text: string): unknown {
  try {
    return JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    throw new BadInput(`The file is not JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/** A file in the shape that a schema asks for; otherwise BadInput with each field that is wrong. */
export function parseAs<T>(schema: ZodType<T>, text: string): T {
  const parsed = schema.safeParse(parseJson(text));
  if (parsed.success) return parsed.data;
  throw new BadInput(
    fieldErrors(parsed.error)
      .map(({ path, message }) => `${path}: ${message}`)
      .join('\n'),
  );
}
