import type { CrewMember } from '@near-spoke/contracts';
import type { Logger } from 'pino';
import type { Database } from './db/open.js';
import type { InstrumentClient } from './instruments/client.js';
import type { ScopeClient } from './instruments/scope.js';

/** What the resources work with. */
export interface Context {
  db: Database;
  log: Logger;
  version: string;
  instruments: InstrumentClient;
  scope: ScopeClient;
  /** Sign-in attempts that may fail per address in five minutes. */
  signInLimit: number;
}

export type SignedIn = Pick<CrewMember, 'id' | 'name' | 'role'>;
