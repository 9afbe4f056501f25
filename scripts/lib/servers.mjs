import { join } from 'node:path';
import { keepRunning } from './processes.mjs';
import { openLog, startService } from './service.mjs';

/** What one server process is called where several are told apart. */
const nameOf = (n, processes) => (processes === 1 ? 'The server' : `Server ${n + 1}`);

/** The ports of the processes: its own where there is one, else those after the one that stands before them. */
export const portsOf = ({ port, processes }) =>
  processes === 1 ? [port] : Array.from({ length: processes }, (_, n) => port + 1 + n);

/**
 * Starts the server and keeps it running: one process, or several, on this machine alone, with a balancer before them.
 *
 * @param options { host, port, home, processes }
 * @param noted is told each name and process number
 * @returns { line, stop }: what the first one said, and how to stop all
 */
export async function startServers(build, options, env, noted) {
  const { host, port, home, processes } = options;
  const ports = portsOf(options);
  const several = processes > 1;
  const stops = [];
  const stop = async () => {
    // Whoever stands before the others stops first, so that nobody is sent to one that has gone.
    for (const one of stops.reverse()) await one();
  };
  const begin = async (name, file, own, log) => {
    return keepRunning(
      name,
      () =>
        startService(name, join(build, file), { ...env, ...own }, (line) => line.startsWith('ready'), log),
      ({ pid }) => noted(name.toLowerCase(), pid),
    );
  };
  const server = async (n) => {
    const own = {
      PORT: String(ports[n]),
      HOST: several ? '127.0.0.1' : host,
      PROCESSES: String(processes),
      ...(several ? { TRUSTED_PROXIES: ['loopback', env.TRUSTED_PROXIES].filter(Boolean).join(',') } : {}),
    };
    const log = await openLog(home, several ? `server-${n + 1}` : 'server');
    return begin(nameOf(n, processes), 'server.mjs', own, log);
  };
  try {
    const begun = await Promise.allSettled(ports.map((_, n) => server(n)));
    const services = begun.flatMap((one) => (one.status === 'fulfilled' ? [one.value] : []));
    stops.push(() => Promise.all(services.map((one) => one.stop())));
    const failed = begun.find((one) => one.status === 'rejected');
    if (failed) throw failed.reason;
    if (several) {
      const own = { PORT: String(port), HOST: host, PROCESS_PORTS: ports.join(',') };
      const balancer = await begin('The balancer', 'balancer.mjs', own, await openLog(home, 'balancer'));
      stops.push(balancer.stop);
    }
    return { line: services[0].line, stop };
  } catch (error) {
    await stop();
    throw error;
  }
}
