import { crewPrices, newCrewPrices, offerOrder } from '../offers.js';
import { inJob, leads, workers, type Endpoint } from './endpoint.js';

/** What things cost, and what a job is offered for. */
export const offersEndpoints = {
  readPrices: {
    method: 'get',
    path: '/api/prices',
    summary: 'What the crew pays for what it buys',
    access: workers,
    response: crewPrices,
  },
  keepPrices: {
    method: 'patch',
    path: '/api/prices',
    summary: 'Keep another price list, or none',
    access: leads,
    body: newCrewPrices,
    response: crewPrices,
  },
  printOffer: {
    method: 'post',
    path: '/api/jobs/:jobId/offer.pdf',
    summary: 'What a job is offered for, by the crew’s price list; nothing is kept of it',
    access: workers,
    params: inJob,
    body: offerOrder,
    file: 'application/pdf',
  },
} as const satisfies Record<string, Endpoint>;
