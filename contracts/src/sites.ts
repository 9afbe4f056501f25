import * as z from 'zod';
import { link, scheme, units } from './jobs.js';
import { activity } from './records.js';
import { timestamp, uuid } from './text.js';

/** A site by its name, as jobs name it. */
export const inSite = z.object({
  site: z.string().trim().min(1, { error: 'Name the site.' }).max(200, { error: 'At most 200 characters.' }),
});

/** A site with all its jobs. */
export const siteSummary = z.object({
  site: z.string(),
  jobs: z.int(),
  links: z.int(),
  handedOver: z.int(),
  /** When something was last done there; null where nothing was. */
  at: timestamp.nullable(),
});
export type SiteSummary = z.infer<typeof siteSummary>;

/** A link as it is built, whichever job it was made in. */
export const builtLink = link
  .pick({
    id: true,
    jobId: true,
    label: true,
    near: true,
    far: true,
    cableTypeId: true,
    lengthM: true,
    route: true,
    stage: true,
    standing: true,
  })
  .extend({ notes: z.int(), handedOverAt: timestamp.nullable() });
export type BuiltLink = z.infer<typeof builtLink>;

/** What is built at a site. */
export const siteAsBuilt = z.object({
  site: z.string(),
  jobs: z.array(z.object({ id: uuid, title: z.string(), hub: z.string(), scheme, units })),
  links: z.array(builtLink),
});
export type SiteAsBuilt = z.infer<typeof siteAsBuilt>;

/** A line of what happened at a site, with its job. */
export const siteActivity = activity.extend({ jobId: uuid.nullable(), job: z.string().nullable() });
export type SiteActivity = z.infer<typeof siteActivity>;
