import { jobDays, jobSchedule, newJobSchedule } from '../schedule.js';
import { everyone, inJob, workers, type Endpoint } from './endpoint.js';

/** Who works on a job when. */
export const scheduleEndpoints = {
  readSchedule: {
    method: 'get',
    path: '/api/jobs/:jobId/schedule',
    summary: 'Who works on a job and when its places are open, with the crew’s pace',
    access: everyone,
    params: inJob,
    response: jobDays,
  },
  keepSchedule: {
    method: 'patch',
    path: '/api/jobs/:jobId/schedule',
    summary: 'Say who works on a job and when its places are open',
    access: workers,
    params: inJob,
    body: newJobSchedule,
    response: jobSchedule,
  },
} as const satisfies Record<string, Endpoint>;
