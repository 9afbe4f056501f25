import type { Block, Report } from './blocks.js';
import { REPORT_PARTS, type ReportPartId } from './parts.js';
import { adapters } from './parts/adapters.js';
import { panels, routes } from './parts/drawn.js';
import { lengths } from './parts/lengths.js';
import { legend, sealed } from './parts/legend.js';
import { links } from './parts/links.js';
import { notes } from './parts/notes.js';
import { limits, terminations } from './parts/plan.js';
import { exceptions, instruments } from './parts/rests.js';
import { stories } from './parts/stories.js';
import { summary } from './parts/summary.js';
import type { ReportData } from './report-data.js';
import { minuteOf } from './times.js';

const MAKE: Readonly<Record<ReportPartId, (data: ReportData) => Block[]>> = {
  summary,
  panels,
  routes,
  links,
  stories,
  notes,
  exceptions,
  limits,
  lengths,
  instruments,
  terminations,
  adapters,
  legend,
  seal: sealed,
};

/**
 * Changes whenever the same data give other words or drawings: a report that was made by others is not held against these
 * (core/test/report/wording.spec.ts tells when it has to be raised).
 */
export const REPORT_WORDING = 7;

/** A report from its data: the same data always give the same report, word for word. */
export function makeReport(data: ReportData): Report {
  const { job, made, parts } = data;
  return {
    title: `${job.site}: ${job.title}`,
    subtitle: `Hub ${job.hub}, wired to ${job.scheme}`,
    made: `Made ${minuteOf(made.at)} by ${made.by}`,
    paper: job.units === 'metric' ? 'A4' : 'LETTER',
    sections: parts.map((id) => ({
      id,
      title: REPORT_PARTS.find((part) => part.id === id)?.name ?? id,
      blocks: MAKE[id](data),
    })),
  };
}
