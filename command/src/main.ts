import { readFileSync, statSync } from 'node:fs';
import { BadInput } from './outcome.js';
import { spoke } from './spoke.js';

const LARGEST_BYTES = 10 * 1024 * 1024;

function readText(path: string): string {
  try {
    if (path !== '-' && statSync(path).size > LARGEST_BYTES)
      throw new BadInput('The file is over 10 MB; readings are a few kB.');
    return readFileSync(path === '-' ? 0 : path, 'utf8');
  } catch (error) {
    if (error instanceof BadInput) throw error;
    const { code } = error as NodeJS.ErrnoException;
    throw new BadInput(code === 'ENOENT' ? 'There is no such file.' : `The file cannot be read (${code}).`);
  }
}

const { status, out, err } = spoke(process.argv.slice(2), readText);
process.stdout.write(out);
process.stderr.write(err);
process.exitCode = status;
