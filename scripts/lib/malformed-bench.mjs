import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startApplication } from './application.mjs';
import { demoPerson } from './caller.mjs';
import { root } from './folders.mjs';
import { Plain, say } from './plain.mjs';
import { freePort } from './postgres.mjs';
import { captureLater } from './run.mjs';

const REQUESTS = Number(process.env.REQUESTS ?? 10_000);
const FILES = Number(process.env.FILES ?? 2000);

/** Sends an application of its own what nobody should, and has files read that came to harm. */
export async function malformedBench() {
  const home = mkdtempSync(join(tmpdir(), 'near-spoke-malformed-'));
  chmodSync(home, 0o755);
  const application = await startApplication({ port: await freePort(), home });
  try {
    const { url } = application;
    const { cookie, token } = (await demoPerson(url)).signedIn;
    const trial = join(root, 'scripts/lib/malformed-trial.ts');
    const sent = [url, cookie, token, String(REQUESTS), String(FILES), root];
    const { output } = await captureLater(process.execPath, ['--import', 'tsx', trial, ...sent], {
      cwd: root,
    });
    const line = output.split('\n').find((one) => one.startsWith('{'));
    if (!line) throw new Plain(`The trial did not end:\n${output.slice(-2000)}`);
    const result = JSON.parse(line);
    for (const { what, status, body } of [...result.requests.broken, ...result.files.broken].slice(0, 20))
      say(`${what}: ${status} ${body}`);
    return result;
  } finally {
    await application.stop();
    rmSync(home, { recursive: true, force: true });
  }
}

/** The benchmark as a section of docs/performance.md. */
export function malformedReport({ requests, files, stillSignedIn }) {
  const seconds = (ms) => (ms < 1000 ? `${Math.round(ms)} ms` : `${(ms / 1000).toFixed(1)} s`);
  const row = (name, { count, broken, slowest, slowestWas }) =>
    `| ${name} | ${count.toLocaleString('en')} | ${broken.length} | ${seconds(slowest)} (${slowestWas}) |`;
  return `## What nobody should send

Requests to every endpoint, half of them damaged on their way, a quarter with headers that do not fit, some to places that do not exist; and
readings, plans, traces and archives that were cut, doubled, spoiled or written otherwise. One that breaks is answered with a 5xx, or with words that
are a program's and no person's.

| What | Sent | Broke | Slowest of what was refused or answered |
| --- | --- | --- | --- |
${row('Requests', requests)}
${row('Files', files)}

Whoever sent all that was ${stillSignedIn ? 'still' : 'no longer'} signed in, and the rest still stood.
`;
}
