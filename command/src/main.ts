import { closeSync, openSync, readdirSync, readFileSync, readSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { StringDecoder } from 'node:string_decoder';
import { highsSolver, type LoadedHighs } from '@near-spoke/core';
import loadHighs from 'highs';
import { BadInput } from './outcome.js';
import { spoke } from './spoke.js';

const LARGEST_BYTES = 10 * 1024 * 1024;
const LARGEST_REPORT_BYTES = 500 * 1024 * 1024;
const PIECE_BYTES = 256 * 1024;

function readText(path: string): string {
  try {
    if (path !== '-' && statSync(path).size > LARGEST_BYTES)
      throw new BadInput('The file is over 10 MB; readings are a few kB.');
    return readFileSync(path === '-' ? 0 : path, 'utf8');
  } catch (error) {
    throw asBadInput(error);
  }
}

/** A file's text piece by piece: a trace may be larger than what should be held at once. */
function* pieces(path: string): Iterable<string> {
  let file: number;
  try {
    file = path === '-' ? 0 : openSync(path, 'r');
  } catch (error) {
    throw asBadInput(error);
  }
  const buffer = Buffer.allocUnsafe(PIECE_BYTES);
  const decoder = new StringDecoder('utf8');
  try {
    for (let read = readSync(file, buffer); read > 0; read = readSync(file, buffer))
      yield decoder.write(buffer.subarray(0, read));
    yield decoder.end();
  } finally {
    if (file !== 0) closeSync(file);
  }
}

function bytes(path: string): Uint8Array {
  try {
    if (path !== '-' && statSync(path).size > LARGEST_REPORT_BYTES)
      throw new BadInput('The file is over 500 MB: no report is.');
    return readFileSync(path === '-' ? 0 : path);
  } catch (error) {
    throw asBadInput(error);
  }
}

function inFolder(path: string): string[] | null {
  try {
    if (path === '-' || !statSync(path).isDirectory()) return null;
    return readdirSync(path, { withFileTypes: true })
      .filter((entry) => entry.isFile() && !entry.name.startsWith('.'))
      .map(({ name }) => join(path, name))
      .sort();
  } catch (error) {
    throw asBadInput(error);
  }
}

function asBadInput(error: unknown): unknown {
  if (error instanceof BadInput) return error;
  const { code } = error as NodeJS.ErrnoException;
  if (code === undefined) return error;
  return new BadInput(code === 'ENOENT' ? 'There is no such file.' : `The file cannot be read (${code}).`);
}

const args = process.argv.slice(2);
// Loading it takes longer than most commands do.
const solve = args[0] === 'cut' ? highsSolver((await loadHighs()) as LoadedHighs) : undefined;
const { status, out, err } = spoke(args, readText, { inFolder, pieces, bytes }, solve);
process.stdout.write(out);
process.stderr.write(err);
process.exitCode = status;
