import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root } from './folders.mjs';
import { Plain } from './plain.mjs';

/** Starts the application as `npm start` does, on a port and data folder of its own, and waits until it is ready. */
export function startApplication({ port, home, args = [], env = {} }) {
  const child = spawn(process.execPath, [join(root, 'scripts/start.mjs'), ...args], {
    cwd: root,
    env: { ...process.env, PORT: String(port), NEAR_SPOKE_HOME: home, DATABASE_URL: '', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  const ended = new Promise((resolve) => child.on('exit', resolve));
  const stop = async () => {
    if (child.exitCode === null) child.kill('SIGTERM');
    return ended;
  };
  return new Promise((resolve, reject) => {
    const listen = (chunk) => {
      said += chunk;
      if (said.includes('Near Spoke is ready'))
        resolve({ stop, pid: child.pid, url: `http://127.0.0.1:${port}`, said: () => said });
    };
    child.stdout.on('data', listen);
    child.stderr.on('data', listen);
    void ended.then((code) => reject(new Plain(`The application did not start (${code}):\n${said}`)));
  });
}
