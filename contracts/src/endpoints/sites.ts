import * as z from 'zod';
import { inSite, siteActivity, siteAsBuilt, siteSummary } from '../sites.js';
import { everyone, type Endpoint } from './endpoint.js';

/** Buildings over all their jobs. */
export const sitesEndpoints = {
  listSites: {
    method: 'get',
    path: '/api/sites',
    summary: 'Sites, with how much is built and handed over at each',
    access: everyone,
    response: z.array(siteSummary),
  },
  siteAsBuilt: {
    method: 'get',
    path: '/api/sites/:site',
    summary: 'All links of a site over its jobs, as they are built',
    access: everyone,
    params: inSite,
    response: siteAsBuilt,
  },
  siteActivity: {
    method: 'get',
    path: '/api/sites/:site/activity',
    summary: 'What happened at a site over its jobs, newest first',
    access: everyone,
    params: inSite,
    response: z.array(siteActivity),
  },
} as const satisfies Record<string, Endpoint>;
