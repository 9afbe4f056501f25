import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { startApplication } from '../lib/application.mjs';
import { freePort } from '../lib/postgres.mjs';
import { beganAt, takeFolder } from '../lib/processes.mjs';

/** Waits until something holds, at most half a minute. */
async function until(what, holds) {
  for (let i = 0; i < 300; i++) {
    if (await holds()) return;
    await pause(100);
  }
  throw new Error(`still not: ${what}`);
}

describe('an application whose parts are killed', () => {
  let home, app, port;
  const started = () =>
    Object.fromEntries(
      JSON.parse(readFileSync(join(home, 'running'), 'utf8')).started.map(({ name, pid }) => [name, pid]),
    );
  const health = () =>
    fetch(`${app.url}/api/health`).then(
      async (answer) => (await answer.json()).status === 'ok',
      () => false,
    );

  beforeAll(async () => {
    home = mkdtempSync(join(tmpdir(), 'near-spoke-survive-'));
    port = await freePort();
    app = await startApplication({ port, home, args: ['--empty'] });
    const setup = await fetch(`${app.url}/api/setup`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        id: '00000000-0000-4000-8000-0000000000ab',
        name: 'Ada',
        passphrase: 'four short words here',
      }),
    });
    expect(setup.status).toBe(200);
  });

  afterAll(async () => {
    await app.stop();
    const note = join(home, 'database-is-in');
    if (existsSync(note)) rmSync(readFileSync(note, 'utf8').trim(), { recursive: true, force: true });
    rmSync(home, { recursive: true, force: true });
  });

  for (const part of ['the server', 'the instrument stand-in', 'the database'])
    it(`begins ${part} again by itself, with what was kept`, async () => {
      const killed = started()[part];
      process.kill(killed, 'SIGKILL');
      await until(`${part} begun again`, async () => started()[part] !== killed);
      await until('healthy', health);
      const session = await (await fetch(`${app.url}/api/session`)).json();
      expect(session.state).toBe('signed-out');
      expect(readdirSync(join(home, 'log'))).toContain('server.log');
    });

  it('ends, at the next start, what a start that was killed left behind', async () => {
    const orphans = Object.values(started());
    process.kill(app.pid, 'SIGKILL');
    await until('the starter gone', async () => beganAt(app.pid) === null);
    app = await startApplication({ port, home });
    expect(app.said()).toContain('Ending what a start that was killed left running: the server.');
    for (const pid of orphans) expect(Object.values(started())).not.toContain(pid);
    expect(await health()).toBeTrue();
  });
});

describe('a data folder', () => {
  it('is one start’s alone, and a number that another process has now is nobody’s', async () => {
    const home = mkdtempSync(join(tmpdir(), 'near-spoke-folder-'));
    const mine = await takeFolder(home);
    mine.note('a thing long gone', 1);
    const kept = JSON.parse(readFileSync(join(home, 'running'), 'utf8'));
    expect(kept.starter).toEqual({ pid: process.pid, began: beganAt(process.pid) });
    expect(beganAt(2 ** 22 + 1)).toBeNull();
    mine.letGo();
    expect(existsSync(join(home, 'running'))).toBeFalse();
    rmSync(home, { recursive: true });
  });
});
