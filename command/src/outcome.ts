/** What a command gives back: text for each stream and the exit status. */
export interface Outcome {
  status: 0 | 1 | 2;
  out: string;
  err: string;
}

/** Input that cannot be used: what is wrong, where, and what to do. Exit status 2. */
export class BadInput extends Error {}
