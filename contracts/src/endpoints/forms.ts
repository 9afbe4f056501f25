import * as z from 'zod';
import { crewForm, newForm } from '../forms.js';
import { uuid } from '../text.js';
import { everyone, workers, type Endpoint } from './endpoint.js';

/** What a crew keeps as its own for reports and labels. */
export const formsEndpoints = {
  listForms: {
    method: 'get',
    path: '/api/forms',
    summary: 'The crew’s own forms of reports and labels',
    access: everyone,
    response: z.array(crewForm),
  },
  keepForm: {
    method: 'post',
    path: '/api/forms',
    summary: 'Keep a form',
    access: workers,
    body: newForm,
    response: crewForm,
  },
  removeForm: {
    method: 'delete',
    path: '/api/forms/:formId',
    summary: 'Remove a form',
    access: workers,
    params: z.object({ formId: uuid }),
    response: z.object({ removed: z.literal(true) }),
  },
} as const satisfies Record<string, Endpoint>;
