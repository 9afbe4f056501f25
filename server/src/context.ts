import type { CrewMember } from '@near-spoke/contracts';
import type { Logger } from 'pino';
import type { Failures } from './access/failures.js';
import type { Database, PoolFigures } from './db/open.js';
import type { InstrumentClient } from './instruments/client.js';
import type { ScopeClient } from './instruments/scope.js';

/** What the resources work with. */
export interface Context {
  db: Database;
  /** Where the database is, for threads with connections of their own. */
  databaseUrl: string;
  /** How the connections to it are used. */
  connections: () => PoolFigures;
  /** Connections that no work can take away: for who is signed in, and whether the database answers. */
  quick: Database;
  log: Logger;
  version: string;
  instruments: InstrumentClient;
  scope: ScopeClient;
  /** Whether simulated instruments may be used on links: with the demo, or where they are switched on. */
  simulation: boolean;
  /** Whether crews can be kept apart: the application works with a role that row-level security binds. */
  separate: boolean;
  /** Tries at a door that failed lately, in whichever process. */
  failures: Failures;
  /** So many may fail, by person and by address, before further ones wait. */
  signInLimit: number;
  /** Whose word on where a request came from is believed: addresses, networks or `loopback`; none where it is empty. */
  trustedProxies: string;
}

export type SignedIn = Pick<CrewMember, 'id' | 'name' | 'role'>;
