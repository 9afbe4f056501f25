import { fieldErrors, pathInWords, readingFile, type ReadingFile } from '@near-spoke/contracts';
import { blindnessInWords, checkReading, diagnose, isReading, type Diagnosis } from '@near-spoke/core';
import { parseJson } from './json.js';
import { BadInput, type Outcome } from './outcome.js';
import { expectationOf, linkInWords } from './told-link.js';

export const DIAGNOSE_HELP = `spoke diagnose FILE [--json]

Judges a link by readings of any instrument class. FILE is a near-spoke/reading file
(docs/file-formats.md); - reads standard input.

  --json    the answer as JSON instead of a table
  --help    this text

Exit status: 0 pass, 1 fail or cannot tell, 2 bad input.
`;

/** `spoke diagnose`. */
export function diagnoseCommand(args: readonly string[], readText: (path: string) => string): Outcome {
  const unknown = args.find((arg) => arg.startsWith('--') && arg !== '--json');
  if (unknown) throw new BadInput(`There is no option ${unknown}.\n${DIAGNOSE_HELP}`);
  const files = args.filter((arg) => !arg.startsWith('--'));
  const [file] = files;
  if (file === undefined || files.length > 1) throw new BadInput(`Name one file.\n${DIAGNOSE_HELP}`);
  try {
    return diagnoseText(readText(file), args.includes('--json'));
  } catch (error) {
    if (error instanceof BadInput) throw new BadInput(`${file}: ${error.message}`);
    throw error;
  }
}

/** Judges the text of a reading file. */
function diagnoseText(text: string, asJson: boolean): Outcome {
  const file = readFile(text);
  const expected = expectationOf(file.link);
  const problems = file.observations.flatMap((observation, i) =>
    isReading(observation)
      ? checkReading(expected, observation).map(
          (p) => `${pathInWords(['observations', i, ...p.path])}: ${p.message}`,
        )
      : [],
  );
  if (problems.length > 0) throw new BadInput(problems.join('\n'));
  const diagnosis = diagnose(expected, file.observations);
  const out = asJson ? `${JSON.stringify(answer(diagnosis), null, 2)}\n` : table(file, diagnosis);
  return { status: diagnosis.result === 'pass' ? 0 : 1, out, err: '' };
}

function readFile(text: string): ReadingFile {
  const parsed = readingFile.safeParse(parseJson(text));
  if (parsed.success) return parsed.data;
  throw new BadInput(
    fieldErrors(parsed.error)
      .map(({ path, message }) => `${path}: ${message}`)
      .join('\n'),
  );
}

/** The diagnosis in the shape that docs/file-formats.md describes. */
function answer(diagnosis: Diagnosis): object {
  const { nextLook, explanations } = diagnosis;
  return {
    verdict: diagnosis.result,
    code: diagnosis.code,
    exception: diagnosis.exception,
    proves: diagnosis.proves,
    headline: diagnosis.headline,
    findings: diagnosis.findings,
    restsOn: diagnosis.restsOn,
    detail: diagnosis.detail,
    blindTo: diagnosis.blindTo,
    discarded: diagnosis.discarded,
    repair: diagnosis.repair && {
      action: diagnosis.repair.words,
      minutes: diagnosis.repair.minutes,
      connectors: diagnosis.repair.connectors,
    },
    explanations: explanations.map(({ probability, words, faults, repair }) => ({
      probability,
      words,
      faults,
      repair: { action: repair.words, minutes: repair.minutes },
    })),
    nextLook: nextLook && { action: nextLook.words, minutes: nextLook.minutes, outcomes: nextLook.outcomes },
  };
}

const VERDICTS = { pass: 'PASS', fail: 'FAIL', 'cannot-tell': 'CANNOT TELL' } as const;

function table(file: ReadingFile, diagnosis: Diagnosis): string {
  const lines = [
    linkInWords(file.link),
    `${VERDICTS[diagnosis.result]}  ${diagnosis.headline}`,
    diagnosis.detail,
    ...(diagnosis.restsOn.length > 0 ? [`Rests on   ${diagnosis.restsOn.join(', ')}`] : []),
    ...(diagnosis.blindTo.length > 0 ? [`Not seen   ${blindnessInWords(diagnosis.blindTo)}`] : []),
  ];
  if (diagnosis.explanations.length > 0) lines.push('', 'Share  Explanation');
  for (const { probability, words, repair } of diagnosis.explanations) {
    lines.push(
      `${`${Math.round(probability * 100)} %`.padStart(5)}  ${words} (${repair.words}, ${repair.minutes} min)`,
    );
  }
  const { nextLook, repair } = diagnosis;
  if (nextLook) {
    lines.push('', `Next look  ${nextLook.words}, about ${nextLook.minutes} min`);
    for (const { words, because, probability } of nextLook.outcomes)
      lines.push(`${`${Math.round(probability * 100)} %`.padStart(5)}  then ${words} (${because})`);
  } else if (repair) lines.push('', `Do now     ${repair.words}, ${repair.minutes} min with the retest`);
  return `${lines.join('\n')}\n`;
}
