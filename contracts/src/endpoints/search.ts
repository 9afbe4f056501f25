import { searchFound, searchText } from '../search.js';
import { everyone, type Endpoint } from './endpoint.js';

export const searchEndpoints = {
  search: {
    method: 'get',
    path: '/api/search/:text',
    summary:
      'Links of all jobs by label, place, people, faults, instruments, days and notes; jobs, adapters and reels by name',
    access: everyone,
    params: searchText,
    response: searchFound,
  },
} as const satisfies Record<string, Endpoint>;
