import { pino } from 'pino';
import { createApp } from './app.js';
import { Failures } from './access/failures.js';
import { allCrews, FIRST_CREW, inCrew } from './db/crew.js';
import { furnish, openDatabase } from './db/open.js';
import { InstrumentClient } from './instruments/client.js';
import { readScopeAdapter } from './instruments/scope-adapter.js';
import { ScopeClient } from './instruments/scope.js';
import { stockKit } from './kit/store.js';
import { keepJudging } from './links/standing.js';
import { endHandovers } from './handover/handover.js';
import { endJudging, shareMachine } from './judge/judge.js';
import { isDemo, loadDemo } from './demo/load.js';
import { endListening } from './together/routes.js';

/**
 * The server process; any number of them serve one database. Everything comes from the environment, set by scripts/start.mjs:
 * DATABASE_URL, HOST, PORT, WEB_FOLDER, MIGRATIONS_FOLDER, DEMO_FOLDER (load into an empty
 * database), INSTRUMENT_PORT, SIMULATED_INSTRUMENTS (`on` or `off`; left out, on with the demo alone), SCOPE_ADAPTER (a file),
 * SCOPE_PORT (instead of the file's), APP_VERSION, TRUSTED_PROXIES (whose word on where a request came from is believed:
 * addresses, networks or `loopback`), PROCESSES (how many of these share the machine), LOG_LEVEL.
 */
const env = process.env;
const log = pino({ level: env.LOG_LEVEL ?? 'warn' });
const KEPT_OPEN_MS = 65_000;
const SIGN_INS_THAT_MAY_FAIL = 10;
const ENDS_WITHIN_MS = 15_000;

async function main(): Promise<void> {
  shareMachine(Number(env.PROCESSES ?? 1));
  const database = await openDatabase(
    env.DATABASE_URL ?? '',
    env.MIGRATIONS_FOLDER ?? 'server/src/db/migrations',
  );
  const instruments = new InstrumentClient(
    env.INSTRUMENT_PORT ? { host: '127.0.0.1', port: Number(env.INSTRUMENT_PORT), silenceMs: 15_000 } : null,
  );
  const scope = new ScopeClient(readScopeAdapter(env.SCOPE_ADAPTER, env.SCOPE_PORT));
  const { DEMO_FOLDER: demoFolder } = env;
  await furnish(database.url, async () => {
    for (const crew of await allCrews(database.db)) await inCrew(crew, () => stockKit(database.db));
    if (demoFolder) await inCrew(FIRST_CREW, () => loadDemo(database.db, instruments, demoFolder));
  });
  if (database.unrestricted)
    log.warn({ because: database.unrestricted }, 'works with the rights of the database owner');
  const demo = await inCrew(FIRST_CREW, () => isDemo(database.db));
  const context = {
    db: database.db,
    quick: database.quick,
    databaseUrl: database.url,
    connections: database.figures,
    log,
    version: env.APP_VERSION ?? '0',
    instruments,
    scope,
    failures: Failures.shared(database.quick.$client),
    simulation: env.SIMULATED_INSTRUMENTS === 'on' || (env.SIMULATED_INSTRUMENTS !== 'off' && demo),
    separate: database.unrestricted === null,
    signInLimit: SIGN_INS_THAT_MAY_FAIL,
    trustedProxies: env.TRUSTED_PROXIES ?? '',
  };
  const app = createApp(context, env.WEB_FOLDER ?? null);
  const server = app.listen(Number(env.PORT ?? 4870), env.HOST ?? '127.0.0.1', (error?: Error) => {
    if (error) {
      const inUse = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
      console.error(inUse ? `Port ${env.PORT} is in use.` : error.message);
      process.exit(1);
    }
    console.log(demo ? 'ready demo' : 'ready');
  });
  // Longer than a proxy, or a page between two keys, keeps a connection: neither writes into one that was just closed.
  server.keepAliveTimeout = KEPT_OPEN_MS;
  const judged = keepJudging(context);
  const stop = (): void => {
    judged();
    void endListening();
    server.close(
      () => void Promise.all([database.close(), endJudging(), endHandovers()]).then(() => process.exit(0)),
    );
    server.closeIdleConnections();
    // Requests under way may end.
    setTimeout(() => server.closeAllConnections(), ENDS_WITHIN_MS).unref();
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
});
