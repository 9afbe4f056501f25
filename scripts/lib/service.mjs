import { spawn } from 'node:child_process';
import { Plain } from './plain.mjs';

const READY_WITHIN_MS = 60_000;

/**
 * Starts a child process and waits for the line that says it is ready.
 * Answers that line, a promise of its end, and how to stop it.
 */
export function startService(name, file, env, isReady) {
  // A process group of its own: a Ctrl-C reaches only us, and we stop the others in order.
  const child = spawn(process.execPath, ['--enable-source-maps', file], {
    env,
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true,
  });
  let said = '';
  let stopping = false;
  const ended = new Promise((resolve) =>
    child.on('exit', (code, signal) => resolve({ code, signal, wanted: stopping })),
  );
  const stop = async () => {
    stopping = true;
    if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
    const hard = setTimeout(() => child.kill('SIGKILL'), 5000);
    await ended;
    clearTimeout(hard);
  };
  return new Promise((resolve, reject) => {
    const late = setTimeout(() => {
      void stop();
      reject(new Plain(`${name} did not come up within a minute.\n${said.trim()}`));
    }, READY_WITHIN_MS);
    const listen = (stream, out) =>
      stream.on('data', (chunk) => {
        said = (said + chunk).slice(-4000);
        const line = said.split('\n').find(isReady);
        if (line !== undefined) {
          clearTimeout(late);
          resolve({ line, ended, stop, pid: child.pid });
        }
        if (out) process.stderr.write(chunk);
      });
    listen(child.stdout, false);
    listen(child.stderr, process.env.NEAR_SPOKE_VERBOSE === '1');
    child.on('exit', (code) => {
      clearTimeout(late);
      reject(
        new Plain(`${name} stopped at once (${code}).\n${said.trim().split('\n').slice(-6).join('\n')}`),
      );
    });
  });
}
