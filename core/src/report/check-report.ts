import { changesSince, type SealChange } from '../seal/changes.js';
import { digestOfBytes } from '../seal/digest.js';
import { sealable, sealHolds, sealJob, sealLink, type JobSeal } from '../seal/seal.js';
import type { Photos } from './blocks.js';
import { REPORT_WORDING } from './make-report.js';
import type { ReportData } from './report-data.js';
import { DATA_ID, PHOTO_MARK, reportHtml } from './report-html.js';

/** Something about a report that does not fit together: it was changed after it was made. */
export type ReportFlaw =
  /** Its seal's own digits do not follow from one another. */
  | { code: 'seal-broken' }
  /** Its records do not give the digits that it prints. */
  | { code: 'records-changed'; changes: SealChange[] }
  /** A verdict that it tells is not the one that its record holds. */
  | { code: 'verdict-changed'; label: string }
  /** What it shows is not what follows from its data. */
  | { code: 'words-changed' };

/** Whether a report's words can be held against its data: only where they were made by the same words as there are here. */
export const wordsComparable = ({ wording }: Pick<ReportData, 'wording'>): boolean =>
  wording === REPORT_WORDING;

/** The data inside a report's page; null where there are none. */
export function dataInPage(html: string): unknown {
  const begins = html.indexOf(`<script type="application/json" id="${DATA_ID}">`);
  if (begins < 0) return null;
  const from = html.indexOf('>', begins) + 1;
  try {
    return JSON.parse(html.slice(from, html.indexOf('</script>', from))) as unknown;
  } catch {
    return null;
  }
}

/** Whether a page is what its data give; data that give none were not made here. */
function saysTheSame(data: ReportData, html: string): boolean {
  try {
    return reportHtml(data, photosInPage(html)) === html;
  } catch {
    return false;
  }
}

/** The photos that a page shows, by the digest of their own bytes: one that was exchanged is not found under the old. */
function photosInPage(html: string): Photos {
  const found = new Map<string, string>();
  for (let at = html.indexOf(PHOTO_MARK); at >= 0; at = html.indexOf(PHOTO_MARK, at + 1)) {
    const from = at + PHOTO_MARK.length;
    const jpeg = html.slice(from, html.indexOf('"', from));
    const bytes = bytesOfBase64(jpeg);
    if (bytes) found.set(digestOfBytes(bytes), jpeg);
  }
  return found;
}

function bytesOfBase64(text: string): Uint8Array | null {
  try {
    return Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0));
  } catch {
    return null;
  }
}

/** The links of a report that are handed over, sealed anew. */
export const sealOfReport = ({ job, links }: Pick<ReportData, 'job' | 'links'>): JobSeal =>
  sealJob(
    job,
    links.filter(({ link }) => link.stage === 'handed-over').map((detail) => sealLink(sealable(detail))),
  );

/**
 * Whether a report is as it was made: its records give its digits, its verdicts are those of its records, and, for a
 * page, every word of it follows from its data (`wordsComparable`). That the records are those of the installation only that
 * installation, or a newer record of it, can say (`changesSince`).
 */
export function checkReport(data: ReportData, html?: string): ReportFlaw[] {
  const flaws: ReportFlaw[] = [];
  if (!sealHolds(data.seal)) flaws.push({ code: 'seal-broken' });
  const now = sealOfReport(data);
  if (now.digest !== data.seal.digest)
    flaws.push({ code: 'records-changed', changes: changesSince(data.seal, now) });
  for (const { link, diagnosis, tests, handovers } of data.links) {
    if (link.stage !== 'handed-over') continue;
    const proof = tests.find(({ id }) => id === handovers.at(-1)?.testId);
    if (proof?.diagnosis.result !== diagnosis?.result)
      flaws.push({ code: 'verdict-changed', label: link.label });
  }
  if (html !== undefined && wordsComparable(data) && !saysTheSame(data, html))
    flaws.push({ code: 'words-changed' });
  return flaws;
}

export function reportFlawWords(flaw: ReportFlaw): string {
  switch (flaw.code) {
    case 'seal-broken':
      return 'The seal’s own digits do not follow from one another: it was changed by hand.';
    case 'records-changed':
      return `The records do not give the seal that the report bears (${flaw.changes.length} differences).`;
    case 'verdict-changed':
      return `${flaw.label}: the verdict told is not that of the reading it was handed over by.`;
    case 'words-changed':
      return 'What the page shows is not what follows from its records: words or figures were changed.';
  }
}
