import * as z from 'zod';
import { handoversGiven, jobSeal, newHandovers, newSignOff, partsInAddress, signOff } from '../handovers.js';
import { linkDetail, newReopening } from '../records.js';
import { uuid } from '../text.js';
import { everyone, inJob, onLink, workers, type Endpoint } from './endpoint.js';

const inReport = inJob.extend({ parts: partsInAddress });

/** What leaves the crew: reports and tables, who accepted them, and the seal that tells a change. */
export const handoversEndpoints = {
  handOverMany: {
    method: 'post',
    path: '/api/jobs/:jobId/handovers',
    summary: 'Hand several links over: each that is proved',
    access: workers,
    params: inJob,
    body: newHandovers,
    response: handoversGiven,
  },
  reopenLink: {
    method: 'post',
    path: '/api/links/:linkId/reopenings',
    summary: 'Take a handover back, with the reason',
    access: workers,
    params: onLink,
    body: newReopening,
    response: linkDetail,
  },
  reportPdf: {
    method: 'get',
    path: '/api/jobs/:jobId/report/:parts/report.pdf',
    summary: 'Report of a job as PDF, of the parts named, in their order',
    access: everyone,
    params: inReport,
    file: 'application/pdf',
  },
  reportHtml: {
    method: 'get',
    path: '/api/jobs/:jobId/report/:parts/report.html',
    summary: 'Report of a job as one page that needs nothing else',
    access: everyone,
    params: inReport,
    file: 'text/html',
  },
  handoverCsv: {
    method: 'get',
    path: '/api/jobs/:jobId/handover.csv',
    summary: 'Handover table',
    access: everyone,
    params: inJob,
    file: 'text/csv',
  },
  handoverJson: {
    method: 'get',
    path: '/api/jobs/:jobId/handover.json',
    summary: 'Handover record, complete',
    access: everyone,
    params: inJob,
    file: 'application/json',
  },
  jobSeal: {
    method: 'get',
    path: '/api/jobs/:jobId/seal',
    summary: 'The seal over all links of a job as they are now',
    access: everyone,
    params: inJob,
    response: jobSeal,
  },
  listSignOffs: {
    method: 'get',
    path: '/api/jobs/:jobId/sign-offs',
    summary: 'Who accepted what, newest first',
    access: everyone,
    params: inJob,
    response: z.array(signOff),
  },
  addSignOff: {
    method: 'post',
    path: '/api/jobs/:jobId/sign-offs',
    summary: 'Take down who accepts the links that are handed over, and seal them',
    access: workers,
    params: inJob,
    body: newSignOff,
    response: signOff,
  },
  signOffSeal: {
    method: 'get',
    path: '/api/jobs/:jobId/sign-offs/:signOffId/seal',
    summary: 'The seal as it was when somebody signed',
    access: everyone,
    params: inJob.extend({ signOffId: uuid }),
    response: jobSeal,
  },
} as const satisfies Record<string, Endpoint>;
