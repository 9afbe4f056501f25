import { handoverFile, reportFile } from '@near-spoke/contracts/report-files';
import {
  attachedIn,
  checkReport,
  dataInPage,
  reportFlawWords,
  changesSince,
  digestInGroups,
  isOrdinary,
  sealable,
  sealChangeWords,
  sealJob,
  sealLink,
  wordsComparable,
  type JobSeal,
  type ReportData,
} from '@near-spoke/core/report';
import { inflateSync } from 'node:zlib';
import { parseAs } from './json.js';
import { Options } from './options.js';
import { BadInput, type Outcome, type TraceFiles } from './outcome.js';

export const VERIFY_REPORT_HELP = `spoke verify-report REPORT [options]

Whether a report (PDF, page, or the near-spoke/report inside) is as it was made: its records give the seal that it
bears, its verdicts are those of its records, and every word of a page follows from them. With a newer record of the
job, what changed since.

  --against FILE     a near-spoke/handover, or a newer report, of the same job
  --seal DIGITS      the digits of the printed seal, or the first of them
  --json             as JSON
  --help             this text

Exit status: 0 as it was made, 1 it is not, or a record says something else, 2 bad input.
`;

const LARGEST_DATA_BYTES = 2 * 1024 * 1024 * 1024 - 1;

/** The data of a report, and the page they were found in, where it is one. */
interface Found {
  data: ReportData;
  page?: string;
}

function reportIn(bytes: Uint8Array): Found {
  if (Buffer.from(bytes.subarray(0, 5)).toString('latin1') === '%PDF-') {
    const attached = attachedIn(bytes);
    if (!attached) throw new BadInput('This PDF has no data attached: it is no report, or was printed anew.');
    return { data: parseAs(reportFile, inflated(attached)) };
  }
  const text = Buffer.from(bytes).toString('utf8');
  const inPage = dataInPage(text);
  if (inPage !== null) return { data: parseAs(reportFile, JSON.stringify(inPage)), page: text };
  if (text.trimStart().startsWith('<'))
    throw new BadInput('This page has no data inside: it is no report, or they were taken out.');
  return { data: parseAs(reportFile, text) };
}

function inflated(bytes: Uint8Array): string {
  try {
    return inflateSync(bytes, { maxOutputLength: LARGEST_DATA_BYTES }).toString('utf8');
  } catch {
    throw new BadInput('The data attached to this PDF are damaged.');
  }
}

/** What is on record of the same job: an export, or a newer report. */
function sealOfOther(bytes: Uint8Array): JobSeal {
  const text = Buffer.from(bytes).toString('utf8');
  if (text.replace(/^\ufeff/, '').startsWith('{"format":"near-spoke/handover"')) {
    const { job, links } = parseAs(handoverFile, text);
    return sealJob(
      job,
      links.map((detail) => sealLink(sealable(detail))),
    );
  }
  const { job, links } = reportIn(bytes).data;
  return sealJob(
    job,
    links.map((detail) => sealLink(sealable(detail))),
  );
}

/** What was found to hold, and what could not be looked at. */
function holdsWords(data: ReportData, page: string | undefined): string {
  if (page === undefined) return 'Its records give its seal.';
  return wordsComparable(data)
    ? 'Its records give its seal, and its words follow from them.'
    : 'Its records give its seal. Its words were made by another version and are not compared.';
}

/** `spoke verify-report`. */
export function verifyReportCommand(args: readonly string[], files: TraceFiles): Outcome {
  const options = new Options(args, {
    valued: ['--against', '--seal'],
    flags: ['--json'],
    help: VERIFY_REPORT_HELP,
  });
  const [path, ...more] = options.names;
  if (path === undefined || more.length > 0) throw new BadInput(`Name one report.\n${VERIFY_REPORT_HELP}`);
  const { data, page } = reportIn(files.bytes(path));
  const flaws = checkReport(data, page);
  const against = options.text('--against');
  const other = against === null ? null : sealOfOther(files.bytes(against));
  if (other && other.job.id !== data.job.id)
    throw new BadInput(
      `--against ${against}: that is of another job, ${other.job.site}: ${other.job.title}.`,
    );
  const changes = other ? changesSince(data.seal, other) : [];
  const printed = options.text('--seal')?.replaceAll(/\s/g, '').toLowerCase();
  if (printed !== undefined && !/^[0-9a-f]{8,64}$/.test(printed))
    throw new BadInput('--seal: give at least the first 8 of the 64 digits 0 to 9 and a to f.');
  const sameSeal = printed === undefined || data.seal.digest.startsWith(printed);
  const sound = flaws.length === 0 && sameSeal && changes.every(isOrdinary);
  const status = sound ? 0 : 1;
  if (options.has('--json')) {
    const told = { seal: data.seal.digest, links: data.seal.links.length, sameSeal, flaws, changes };
    return { status, out: `${JSON.stringify(told, null, 2)}\n`, err: '' };
  }
  const lines = [
    `${data.job.site}: ${data.job.title}, made ${data.made.at} by ${data.made.by}`,
    `  seal ${digestInGroups(data.seal.digest)}`,
    `  over ${data.seal.links.length} links that were handed over`,
    ...(flaws.length === 0
      ? [holdsWords(data, page)]
      : flaws.flatMap((flaw) => [
          `WRONG  ${reportFlawWords(flaw)}`,
          ...(flaw.code === 'records-changed'
            ? flaw.changes.map((each) => `       ${sealChangeWords(each)}`)
            : []),
        ])),
    ...(sameSeal ? [] : [`WRONG  The digits given are not those of this report.`]),
    ...(other === null
      ? []
      : changes.length === 0
        ? ['Nothing changed since.']
        : [
            'Since then:',
            ...changes.map((each) => `${isOrdinary(each) ? '  ' : 'WRONG  '}${sealChangeWords(each)}`),
          ]),
    ...(page === undefined && flaws.length === 0 && against === null
      ? ['What is printed on paper is compared by its digits: --seal.']
      : []),
    '',
  ];
  return { status, out: lines.join('\n'), err: '' };
}
