import * as z from 'zod';
import { uuid } from './text.js';

/** What came of bringing an archive in. */
export const archiveTaken = z.object({
  jobId: uuid,
  title: z.string(),
  links: z.int(),
  /** People who were not known here: they are kept by name and cannot sign in. */
  people: z.array(z.string()),
  /** Sheets that are not the same here; the job's links now follow those of here. */
  otherSheets: z.array(z.string()),
});
export type ArchiveTaken = z.infer<typeof archiveTaken>;
