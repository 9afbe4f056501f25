import * as z from 'zod';
import type { Role } from '../people.js';
import { uuid } from '../text.js';

/** Who may call an endpoint: anyone, anyone signed in, or certain roles. */
export type Access = 'anyone' | readonly Role[];

export interface Endpoint {
  method: 'get' | 'post' | 'patch' | 'delete';
  path: string;
  summary: string;
  access: Access;
  params?: z.ZodObject;
  body?: z.ZodType;
  /** Media type of a file that is sent as it is, instead of a body. */
  upload?: string;
  /** JSON answer; endpoints that send a file name its media type instead. */
  response?: z.ZodType;
  file?: string;
}

export const everyone = ['lead', 'technician', 'viewer'] as const;
export const workers = ['lead', 'technician'] as const;
export const leads = ['lead'] as const;
export const inJob = z.object({ jobId: uuid });
export const onLink = z.object({ linkId: uuid });
