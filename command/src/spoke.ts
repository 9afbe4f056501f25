import { DIAGNOSE_HELP, diagnoseText } from './diagnose.js';
import { BadInput, type Outcome } from './outcome.js';

const HELP = `spoke COMMAND

  diagnose FILE    judge a link by its readings

spoke COMMAND --help tells more.
`;

/** Reads a file, or standard input for "-"; given from outside so that this stays testable. */
export type ReadText = (path: string) => string;

/** Runs the command line. Never throws for bad input: that is exit status 2 with a sentence. */
export function spoke(args: readonly string[], readText: ReadText): Outcome {
  const [command, ...rest] = args;
  if (command === undefined || command === '--help')
    return { status: command ? 0 : 2, out: command ? HELP : '', err: command ? '' : HELP };
  if (command !== 'diagnose') return bad(`There is no command ${command}.\n${HELP}`);
  if (rest.includes('--help')) return { status: 0, out: DIAGNOSE_HELP, err: '' };
  const unknown = rest.find((arg) => arg.startsWith('--') && arg !== '--json');
  if (unknown) return bad(`There is no option ${unknown}.\n${DIAGNOSE_HELP}`);
  const files = rest.filter((arg) => !arg.startsWith('--'));
  const [file] = files;
  if (file === undefined || files.length > 1) return bad(`Name one file.\n${DIAGNOSE_HELP}`);
  try {
    return diagnoseText(readText(file), rest.includes('--json'));
  } catch (error) {
    if (error instanceof BadInput) return bad(`${file}: ${error.message}\n`);
    throw error;
  }
}

const bad = (err: string): Outcome => ({ status: 2, out: '', err });
