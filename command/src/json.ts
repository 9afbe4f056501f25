import { BadInput } from './outcome.js';

/** Reads JSON as people save it, with or without a byte order mark. */
export function parseJson(text: string): unknown {
  try {
    return JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    throw new BadInput(`The file is not JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
}
