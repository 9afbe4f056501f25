import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createServer, type Socket } from 'node:net';
import { dirname } from 'node:path';
import { MAX_LINE_BYTES, PROTOCOL_GREETING, worldFile } from '@near-spoke/contracts';
import { Scope } from './scope.js';
import { answer, type Bench } from './session.js';
import type { World } from './world.js';

/**
 * The instrument stand-ins: a process of its own that answers on two loopback ports for the links of
 * a simulated world, one for the tester's protocol and one for the bench oscilloscope's SCPI.
 * `INSTRUMENT_PORT`, `SCOPE_PORT`, `INSTRUMENT_WORLD` (kept between starts),
 * `INSTRUMENT_FIRST_WORLD` (copied when there is none yet).
 */
const port = Number(process.env.INSTRUMENT_PORT ?? 0);
const scopePort = Number(process.env.SCOPE_PORT ?? 0);
const file = process.env.INSTRUMENT_WORLD;
const first = process.env.INSTRUMENT_FIRST_WORLD;

function readWorld(): World {
  const source = file && existsSync(file) ? file : first;
  if (!source) return { format: 'near-spoke/world', formatVersion: 1, links: {}, reels: {} };
  return worldFile.parse(JSON.parse(readFileSync(source, 'utf8')));
}

/** Written beside and renamed, so that a crash leaves the old world or the new one. */
function writeWorld(world: World): void {
  if (!file) return;
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(`${file}.new`, JSON.stringify(world, null, 2));
  renameSync(`${file}.new`, file);
}

let world = readWorld();
const bench: Bench = {
  noisy: new Map(),
  get world() {
    return world;
  },
  keep(next) {
    writeWorld(next);
    world = next;
  },
};

function serve(socket: Socket): void {
  let pending = '';
  socket.setEncoding('utf8');
  socket.setTimeout(30_000, () => socket.destroy());
  socket.on('error', () => socket.destroy());
  socket.write(`${PROTOCOL_GREETING}\n`);
  socket.on('data', (chunk: string) => {
    const lines = (pending + chunk).split('\n');
    pending = lines.pop() ?? '';
    for (const line of lines) socket.write(`${answer(bench, line).join('\n')}\n`);
    if (pending.length > MAX_LINE_BYTES)
      socket.end(`ERROR line-too-long A line has at most ${MAX_LINE_BYTES} bytes.\n`);
  });
}

const scope = new Scope(() => world);

function serveScope(socket: Socket): void {
  let pending = '';
  socket.setEncoding('utf8');
  socket.setTimeout(30_000, () => socket.destroy());
  socket.on('error', () => socket.destroy());
  socket.on('data', (chunk: string) => {
    const lines = (pending + chunk).split('\n');
    pending = lines.pop() ?? '';
    for (const line of lines) {
      const said = scope.answer(line);
      if (said === null) continue;
      socket.write(said);
      socket.write('\n');
    }
    if (pending.length > MAX_LINE_BYTES) socket.destroy();
  });
}

function listen(name: string, wanted: number, onSocket: (socket: Socket) => void): Promise<number> {
  const server = createServer(onSocket);
  return new Promise((resolve) => {
    server.on('error', (error: NodeJS.ErrnoException) => {
      console.error(error.code === 'EADDRINUSE' ? `Port ${wanted} is in use for ${name}.` : error.message);
      process.exit(1);
    });
    server.listen(wanted, '127.0.0.1', () => {
      const address = server.address();
      resolve(typeof address === 'object' && address ? address.port : wanted);
    });
  });
}

const [testerAt, scopeAt] = await Promise.all([
  listen('the tester', port, serve),
  listen('the oscilloscope', scopePort, serveScope),
]);
console.log(`instruments listening on ${testerAt} ${scopeAt}`);
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
