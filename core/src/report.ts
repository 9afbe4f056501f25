/** What a report says and how it is drawn and checked: apart from the rest, so that pages that print nothing do not load it. */
export * from './report/blocks.js';
export * from './report/link-row.js';
export * from './report/make-report.js';
export * from './report/report-html.js';
export * from './report/check-report.js';
export { fitTrace, type KeptTrace } from './report/fit-trace.js';
export { photosIn } from './report/parts/notes.js';
export { failedOnce } from './report/parts/stories.js';
export { namesOf } from './report/names.js';
export { attachedIn } from './report/attached-data.js';
export { linkStory, type Happened } from './report/link-story.js';
export type {
  ReportAdapter,
  ReportData,
  ReportLink,
  ReportLooseEnd,
  ReportNote,
  ReportPhoto,
  ReportSignOff,
  ReportTrace,
} from './report/report-data.js';
export * from './seal/canonical.js';
export * from './seal/digest.js';
export * from './seal/seal.js';
export * from './seal/changes.js';
export * from './seal/seal-words.js';
