import {
  fieldErrors,
  instrumentClass,
  linkFile,
  pathInWords,
  reading as readingShape,
  type LinkFile,
} from '@near-spoke/contracts';
import {
  checkReading,
  frameOf,
  INSTRUMENTS,
  intendedLink,
  linkAsTold,
  observe,
  seededRandom,
  type InstrumentClass,
  type LinkEnd,
  type Reading,
} from '@near-spoke/core';
import { parseJson } from './json.js';
import { BadInput, type Outcome } from './outcome.js';
import { expectationOf, orBadInput } from './told-link.js';

const CLASSES = Object.keys(INSTRUMENTS).join(', ');

export const OBSERVE_HELP = `spoke observe FILE --with CLASS [--with CLASS ...] [options]

Prints what instruments would read on a link as it physically is. FILE is a near-spoke/link file
(docs/file-formats.md); - reads standard input. The answer is a near-spoke/reading file, so that it
can be handed on: spoke observe link.json --with coded-mapper | spoke diagnose -

  --with CLASS   ${CLASSES.replace(/, (?=dc-voltage)/, ',\n                 ')}
  --from END     the end where the instrument stands: near (default) or far
  --plan FILE    what to touch, tone or feed: a reading of that class, its answers ignored
  --seed NUMBER  let the instrument err and loose joints move, as stated for its class; without
                 it the observer never errs
  --help         this text

Exit status: 0, or 2 for bad input.
`;

interface Asked {
  file: string;
  classes: InstrumentClass[];
  end: LinkEnd;
  plan: string | null;
  seed: number | null;
}

/** `spoke observe`. */
export function observeCommand(args: readonly string[], readText: (path: string) => string): Outcome {
  const asked = readArguments(args);
  const told = readLinkFile(readText(asked.file), asked.file);
  const expected = expectationOf(told.link);
  const link = orBadInput(null, () => linkAsTold(expected, told.faults));
  const frame = frameOf(intendedLink(expected));
  const plan = asked.plan === null ? undefined : readPlan(readText(asked.plan), asked.plan);
  if (plan) {
    const [problem] = checkReading(expected, plan);
    if (problem) throw new BadInput(`${asked.plan}: ${pathInWords(problem.path)}: ${problem.message}`);
  }
  const random = asked.seed === null ? undefined : seededRandom(asked.seed);
  const observations = asked.classes.map((instrument) =>
    observe(link, instrument, {
      end: asked.end,
      frame,
      ...(plan ? { plan } : {}),
      ...(random ? { random } : {}),
    }),
  );
  const file = { format: 'near-spoke/reading', formatVersion: 1, link: told.link, observations };
  return { status: 0, out: `${JSON.stringify(file, null, 2)}\n`, err: '' };
}

function readArguments(args: readonly string[]): Asked {
  const asked: Asked = { file: '', classes: [], end: 'near', plan: null, seed: null };
  const files: string[] = [];
  for (let i = 0; i < args.length; i++) {
    const arg = args[i] as string;
    if (!arg.startsWith('--')) {
      files.push(arg);
      continue;
    }
    const value = args[++i];
    if (!['--with', '--from', '--plan', '--seed'].includes(arg))
      throw new BadInput(`There is no option ${arg}.\n${OBSERVE_HELP}`);
    if (value === undefined) throw new BadInput(`${arg} wants a value.`);
    if (arg === '--with') asked.classes.push(...value.split(',').map(classOf));
    else if (arg === '--plan') asked.plan = value;
    else if (arg === '--seed') asked.seed = seedOf(value);
    else if (value === 'near' || value === 'far') asked.end = value;
    else throw new BadInput(`--from ${value}: an end is near or far.`);
  }
  const [file] = files;
  if (file === undefined || files.length > 1) throw new BadInput(`Name one file.\n${OBSERVE_HELP}`);
  if (asked.classes.length === 0) throw new BadInput(`Say --with CLASS. Classes: ${CLASSES}.`);
  return { ...asked, file };
}

function classOf(word: string): InstrumentClass {
  const parsed = instrumentClass.safeParse(word);
  if (!parsed.success) throw new BadInput(`--with ${word}: there is no such class. Classes: ${CLASSES}.`);
  return parsed.data;
}

function seedOf(word: string): number {
  const seed = Number(word);
  if (!Number.isInteger(seed) || word.trim() === '')
    throw new BadInput(`--seed ${word}: a seed is a whole number.`);
  return seed;
}

function readLinkFile(text: string, name: string): LinkFile {
  const parsed = linkFile.safeParse(parseJson(text));
  if (parsed.success) return parsed.data;
  throw new BadInput(
    fieldErrors(parsed.error)
      .map(({ path, message }) => `${name}: ${path}: ${message}`)
      .join('\n'),
  );
}

/** A plan is a reading whose answers do not matter. */
function readPlan(text: string, name: string): Reading {
  const raw = parseJson(text);
  const parsed = readingShape.safeParse(raw);
  if (parsed.success) return parsed.data;
  throw new BadInput(
    fieldErrors(parsed.error)
      .map(({ path, message }) => `${name}: ${path}: ${message}`)
      .join('\n'),
  );
}
