import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { Plain } from './plain.mjs';

const READY_WITHIN_MS = 180_000;
/** Work that is under way gets so long to end. */
const STOP_WITHIN_MS = 20_000;

/** A log file that begins anew when it is full; the last few are kept. */
export async function openLog(home, name) {
  // On the first start there are no packages yet when this file is read.
  const { createStream } = await import('rotating-file-stream');
  const log = createStream(`${name}.log`, { path: join(home, 'log'), size: '5M', maxFiles: 5 });
  // A log that cannot be written, on a full disk, is no reason to stop the work.
  log.on('error', () => undefined);
  return log;
}

/**
 * Starts a child process and waits for the line that says it is ready.
 * Answers that line, a promise of its end, and how to stop it.
 * @param log where all it says is kept
 */
export function startService(name, file, env, isReady, log = null) {
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
    const hard = setTimeout(() => child.kill('SIGKILL'), STOP_WITHIN_MS);
    await ended;
    clearTimeout(hard);
  };
  return new Promise((resolve, reject) => {
    const late = setTimeout(() => {
      void stop();
      reject(new Plain(`${name} did not come up within a minute.\n${said.trim()}`));
    }, READY_WITHIN_MS);
    const listen = (stream) =>
      stream.on('data', (chunk) => {
        said = (said + chunk).slice(-4000);
        const line = said.split('\n').find(isReady);
        if (line !== undefined) {
          clearTimeout(late);
          resolve({ line, ended, stop, pid: child.pid });
        }
        log?.write(chunk);
        if (process.env.NEAR_SPOKE_VERBOSE === '1') process.stderr.write(chunk);
      });
    listen(child.stdout);
    listen(child.stderr);
    child.on('exit', (code) => {
      clearTimeout(late);
      reject(
        new Plain(`${name} stopped at once (${code}).\n${said.trim().split('\n').slice(-6).join('\n')}`),
      );
    });
  });
}
