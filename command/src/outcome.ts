/** What a command gives back: text for each stream and the exit status. */
export interface Outcome {
  status: 0 | 1 | 2;
  out: string;
  err: string;
}

/** Input that cannot be used: what is wrong, where, and what to do. Exit status 2. */
export class BadInput extends Error {}

/** Files that may be large: read in pieces, or listed where a folder is named. */
export interface TraceFiles {
  /** The files of a folder, in order of name; null where the path is no folder. */
  inFolder: (path: string) => string[] | null;
  pieces: (path: string) => Iterable<string>;
  /** A whole file as it lies there. */
  bytes: (path: string) => Uint8Array;
}

/** For where no file is at hand. */
export const NO_TRACE_FILES: TraceFiles = {
  inFolder: () => null,
  pieces: () => {
    throw new BadInput('There is no such file.');
  },
  bytes: () => {
    throw new BadInput('There is no such file.');
  },
};
