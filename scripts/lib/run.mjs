import { spawn, spawnSync } from 'node:child_process';

/** Runs a command to its end, output kept. */
export function capture(command, args, options = {}) {
  const result = spawnSync(command, args, { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024, ...options });
  return {
    ok: result.status === 0,
    status: result.status,
    output: `${result.stdout ?? ''}${result.stderr ?? ''}`,
  };
}

/** Runs a command to its end with its output shown; answers whether it succeeded. */
export function show(command, args, options = {}) {
  return spawnSync(command, args, { stdio: 'inherit', ...options }).status === 0;
}

/** Runs a command without blocking; answers its status and output. */
export function captureLater(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { ...options, stdio: ['ignore', 'pipe', 'pipe'] });
    let output = '';
    const keep = (chunk) => (output += chunk);
    child.stdout.on('data', keep);
    child.stderr.on('data', keep);
    child.on('error', (error) => resolve({ ok: false, status: null, output: `${output}${error.message}` }));
    child.on('close', (status) => resolve({ ok: status === 0, status, output }));
  });
}

export const onPath = (command) => capture('sh', ['-c', `command -v ${command}`]).ok;
