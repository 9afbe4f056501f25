import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createServer, type Socket } from 'node:net';
import { dirname } from 'node:path';
import { MAX_LINE_BYTES, PROTOCOL_GREETING, worldFile } from '@near-spoke/contracts';
import { answer, type Bench } from './session.js';
import type { World } from './world.js';

/**
 * The instrument stand-in: a process of its own that answers on a loopback port for the links of
 * a simulated world. `INSTRUMENT_PORT`, `INSTRUMENT_WORLD` (kept between starts),
 * `INSTRUMENT_FIRST_WORLD` (copied when there is none yet).
 */
const port = Number(process.env.INSTRUMENT_PORT ?? 0);
const file = process.env.INSTRUMENT_WORLD;
const first = process.env.INSTRUMENT_FIRST_WORLD;

function readWorld(): World {
  const source = file && existsSync(file) ? file : first;
  if (!source) return { format: 'near-spoke/world', formatVersion: 1, links: {} };
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

const server = createServer(serve);
server.on('error', (error: NodeJS.ErrnoException) => {
  console.error(error.code === 'EADDRINUSE' ? `Port ${port} is in use.` : error.message);
  process.exit(1);
});
server.listen(port, '127.0.0.1', () => {
  const address = server.address();
  console.log(`instruments listening on ${typeof address === 'object' && address ? address.port : port}`);
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
