import { createServer } from 'node:http';
import { balance } from './balancer.js';

/** Stands before the processes of one machine. HOST and PORT are its own; PROCESS_PORTS are theirs, on this machine. */
const env = process.env;
const KEPT_OPEN_MS = 65_000;
const ENDS_WITHIN_MS = 15_000;

const ports = (env.PROCESS_PORTS ?? '').split(',').map(Number);
const server = createServer(balance(ports.map((port) => `http://127.0.0.1:${port}`)));
server.keepAliveTimeout = KEPT_OPEN_MS;
server.on('error', (error: NodeJS.ErrnoException) => {
  console.error(error.code === 'EADDRINUSE' ? `Port ${env.PORT} is in use.` : error.message);
  process.exit(1);
});
server.listen(Number(env.PORT), env.HOST ?? '127.0.0.1', () => console.log('ready'));

const stop = (): void => {
  server.close(() => process.exit(0));
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), ENDS_WITHIN_MS).unref();
};
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
