import { readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { parseArgs } from 'node:util';
import { home as homeFolder, root } from './lib/folders.mjs';
import { backUpNightly } from './lib/backup.mjs';
import { ensureBuild } from './lib/build.mjs';
import { askPassphrase, giveNewPassphrase } from './lib/new-passphrase.mjs';
import { checkNode, ensurePackages } from './lib/machine.mjs';
import { Plain, runMain, say } from './lib/plain.mjs';
import { startHomeCluster } from './lib/postgres.mjs';
import { beganAt, keepRunning, takeFolder } from './lib/processes.mjs';
import { portsOf, startServers } from './lib/servers.mjs';
import { openLog, startService } from './lib/service.mjs';

const HELP = `npm start                      install what is missing, build, start; the demo on the first start
npm start -- --empty           no demo in an empty database
npm start -- --reset-demo      throw all data away and load the demo again (asks first; --yes does not)
npm start -- --processes N      N server processes with a balancer before them (as npm run cluster -- --processes N)
npm start -- --new-passphrase NAME   give somebody a new passphrase first, who has lost it and whom nobody can let in

PORT (4870; several processes take the N ports after it too), HOST (127.0.0.1), NEAR_SPOKE_HOME (.near-spoke), NEAR_SPOKE_BACKUPS (a folder: a backup every night), DATABASE_URL (instead of a private database),
SCOPE_ADAPTER (an adapter file: a bench oscilloscope of yours instead of the simulated one)`;

const MOST_PROCESSES = 16;
const NAME_WANTED = '--new-passphrase wants the name of somebody in the crew.';

function readOptions(args) {
  let values;
  try {
    values = parseArgs({
      args,
      options: {
        empty: { type: 'boolean', default: false },
        'reset-demo': { type: 'boolean', default: false },
        yes: { type: 'boolean', default: false },
        help: { type: 'boolean', default: false },
        processes: { type: 'string', default: '1' },
        'new-passphrase': { type: 'string' },
      },
    }).values;
  } catch (error) {
    const [, named = ''] = /'(--?[\w-]*|[^']*)/.exec(error.message) ?? [];
    if (named === '--new-passphrase') throw new Plain(NAME_WANTED);
    throw new Plain(`There is no option ${named}, or not so.\n${HELP}`);
  }
  const { empty, yes, help, 'reset-demo': resetDemo, 'new-passphrase': forName = null } = values;
  if (forName === '' || forName?.startsWith('--')) throw new Plain(NAME_WANTED);
  const processes = Number(values.processes);
  if (!Number.isInteger(processes) || processes < 1 || processes > MOST_PROCESSES)
    throw new Plain(`--processes is "${values.processes}": give a number from 1 to ${MOST_PROCESSES}.`);
  const options = { empty, resetDemo, yes, help, forName, processes };
  if (options.empty && options.resetDemo) throw new Plain('Choose one of --empty and --reset-demo.');
  const port = process.env.PORT || '4870';
  if (!/^\d+$/.test(port) || Number(port) < 1 || Number(port) + (processes > 1 ? processes : 0) > 65535)
    throw new Plain(`PORT is "${port}": give a number from 1 to 65535.`);
  return { ...options, port: Number(port), host: process.env.HOST || '127.0.0.1', home: homeFolder() };
}

function checkPort(port, host) {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.on('error', (error) => {
      if (error.code === 'EADDRINUSE')
        reject(
          new Plain(
            `Port ${port} is in use. Stop what uses it, or choose another: PORT=${port + 1} npm start`,
          ),
        );
      else if (error.code === 'EACCES')
        reject(new Plain(`Port ${port} needs special rights. Choose one above 1023.`));
      else
        reject(
          new Plain(`Cannot listen on ${host}: ${error.message}. Set HOST to an address of this machine.`),
        );
    });
    probe.listen(port, host, () => probe.close(resolve));
  });
}

async function confirmReset(options) {
  if (!options.resetDemo || options.yes) return;
  if (!process.stdin.isTTY) throw new Plain('--reset-demo throws all data away. Add --yes to confirm.');
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await ask.question(
    'This throws away ALL jobs, records and people and loads the demo again. Type "reset" to go on: ',
  );
  ask.close();
  if (answer.trim() !== 'reset') throw new Plain('Nothing was changed.');
}

async function clearDatabase(url) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.query(
    'DROP SCHEMA IF EXISTS drizzle CASCADE; DROP SCHEMA public CASCADE; CREATE SCHEMA public;',
  );
  await client.end();
}

/** Refuses plainly when the database given from outside does not answer. */
async function checkGivenDatabase(url) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 5000 });
  try {
    await client.connect();
    await client.end();
  } catch (error) {
    throw new Plain(
      `The database in DATABASE_URL does not answer: ${error.message || error.code}. Check the address, or unset it to use a private one.`,
    );
  }
}

function welcome(address, build, demo) {
  say(`\nNear Spoke is ready: ${address}`);
  if (demo) {
    const { crew } = JSON.parse(readFileSync(join(build, 'demo/history.json'), 'utf8'));
    say('Demo sign-in, one click on the page, or:');
    for (const { name, role, passphrase } of crew) say(`  ${name} (${role}): ${passphrase}`);
  }
  say('Ctrl-C stops it. The data stays.\n');
}

const LOOK_EVERY_MS = 1000;

/** Starts the database again whenever it is gone, on the same data and port; answers how to stop looking. */
function keepDatabase(cluster, noted) {
  let process = { pid: cluster.pid(), began: beganAt(cluster.pid()) };
  noted(process.pid);
  const look = setInterval(() => {
    if (process.pid && beganAt(process.pid) === process.began) return;
    say('The database stopped by itself. Starting it again.');
    try {
      cluster.begin();
      process = { pid: cluster.pid(), began: beganAt(cluster.pid()) };
      noted(process.pid);
      say('The database runs again.');
    } catch (error) {
      say(error instanceof Plain ? error.message : String(error));
    }
  }, LOOK_EVERY_MS);
  return () => clearInterval(look);
}

await runMain(async () => {
  checkNode();
  const options = readOptions(process.argv.slice(2));
  if (options.help) return say(HELP);
  await confirmReset(options);
  const folder = await takeFolder(options.home);
  const undo = [folder.letGo];
  let ending = false;
  const stopAll = async (code) => {
    if (ending) return;
    ending = true;
    for (const step of undo.reverse()) await step();
    process.exit(code);
  };
  const onSignal = () => {
    say('\nStopping.');
    void stopAll(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, onSignal);
  try {
    await checkPort(options.port, options.host);
    if (options.processes > 1) for (const port of portsOf(options)) await checkPort(port, '127.0.0.1');
    ensurePackages();
    const build = await ensureBuild();
    let databaseUrl = process.env.DATABASE_URL;
    if (databaseUrl) await checkGivenDatabase(databaseUrl);
    else {
      const cluster = await startHomeCluster(options.home, options.processes);
      undo.push(cluster.stop);
      undo.push(keepDatabase(cluster, (pid) => folder.note('the database', pid, true)));
      databaseUrl = cluster.url;
    }
    const world = join(options.home, 'instruments/world.json');
    if (options.resetDemo) {
      await clearDatabase(databaseUrl);
      rmSync(world, { force: true });
    }
    if (options.forName !== null)
      await giveNewPassphrase(databaseUrl, options.forName, await askPassphrase(options.forName));
    const firstWorld = options.empty ? {} : { INSTRUMENT_FIRST_WORLD: join(build, 'demo/world.json') };
    const instrumentLog = await openLog(options.home, 'instruments');
    // Begun again it listens where the server knows it.
    let [testerPort, scopePort] = ['0', '0'];
    const instruments = await keepRunning(
      'The instrument stand-in',
      () =>
        startService(
          'The instrument stand-in',
          join(build, 'instruments.mjs'),
          {
            ...process.env,
            ...firstWorld,
            INSTRUMENT_PORT: testerPort,
            SCOPE_PORT: scopePort,
            INSTRUMENT_WORLD: world,
          },
          (line) => line.startsWith('instruments listening on '),
          instrumentLog,
        ),
      ({ line, pid }) => {
        [testerPort, scopePort] = line.split(' ').slice(-2);
        folder.note('the instrument stand-in', pid);
      },
    );
    undo.push(instruments.stop);
    // An oscilloscope of one's own stands at the address that its adapter file gives.
    const scope = process.env.SCOPE_ADAPTER
      ? {}
      : { SCOPE_ADAPTER: join(build, 'scope.adapter.json'), SCOPE_PORT: scopePort };
    const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
    const server = await startServers(
      build,
      options,
      {
        ...process.env,
        NODE_ENV: 'production',
        DATABASE_URL: databaseUrl,
        WEB_FOLDER: join(build, 'web/browser'),
        MIGRATIONS_FOLDER: join(build, 'migrations'),
        ...(options.empty ? {} : { DEMO_FOLDER: join(build, 'demo') }),
        INSTRUMENT_PORT: testerPort,
        ...scope,
        APP_VERSION: version,
      },
      (name, pid) => folder.note(name, pid),
    );
    undo.push(server.stop);
    const shown = options.host.includes(':') ? `[${options.host}]` : options.host;
    const backups = process.env.NEAR_SPOKE_BACKUPS;
    if (backups && !process.env.DATABASE_URL) undo.push(backUpNightly(options.home, backups, say));
    welcome(`http://${shown}:${options.port}/`, build, server.line === 'ready demo');
  } catch (error) {
    console.error(error instanceof Plain ? `\n${error.message}` : error);
    await stopAll(1);
  }
});
