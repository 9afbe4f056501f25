import type { CrewMember } from '@near-spoke/contracts';
import type { Logger } from 'pino';
import type { Database, PoolFigures } from './db/open.js';
import type { InstrumentClient } from './instruments/client.js';
import type { ScopeClient } from './instruments/scope.js';
import type { TakenReadings } from './instruments/taken.js';

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
  /** What instruments gave lately. */
  taken: TakenReadings;
  /** Whether simulated instruments may be used on links: with the demo, or where they are switched on. */
  simulation: boolean;
  /** Sign-in attempts that may fail per address in five minutes. */
  signInLimit: number;
}

export type SignedIn = Pick<CrewMember, 'id' | 'name' | 'role'>;
