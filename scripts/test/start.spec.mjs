import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startApplication } from '../lib/application.mjs';
import { root } from '../lib/folders.mjs';
import { checkNode } from '../lib/machine.mjs';
import { freePort } from '../lib/postgres.mjs';

const start = (args, env = {}) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['scripts/start.mjs', ...args], {
    cwd: root,
    encoding: 'utf8',
    env: { ...process.env, DATABASE_URL: '', ...env },
    timeout: 60_000,
  });
  return { status, said: `${stdout}${stderr}` };
};

describe('npm start', () => {
  let folder;
  beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'near-spoke-start-'))));
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  it('refuses a Node.js it was not built for, and takes those it was', () => {
    for (const version of ['18.20.0', '20.18.9', '21.7.0', '22.11.0'])
      expect(() => checkNode(version)).toThrowError(/needs Node.js 20.19 or newer; this is/);
    for (const version of ['20.19.0', '20.20.2', '22.12.0', '24.0.0'])
      expect(() => checkNode(version)).not.toThrow();
  });

  it('says in a sentence that the port is in use, and names another', async () => {
    const taken = createServer();
    await new Promise((resolve) => taken.listen(0, '127.0.0.1', resolve));
    const { port } = taken.address();
    const { status, said } = start([], { PORT: String(port), NEAR_SPOKE_HOME: folder });
    taken.close();
    expect(status).toBe(1);
    expect(said).toContain(`Port ${port} is in use.`);
    expect(said).not.toContain('    at ');
  });

  for (const [what, args, env, sentence] of [
    ['an unknown option', ['--demo'], {}, 'There is no option --demo'],
    ['a port that is none', [], { PORT: 'eighty' }, 'PORT is "eighty"'],
    ['a new passphrase for nobody', ['--new-passphrase'], {}, 'wants the name of somebody'],
    ['contrary options', ['--empty', '--reset-demo'], {}, 'Choose one of'],
    ['a reset nobody confirmed', ['--reset-demo'], {}, 'Add --yes to confirm.'],
    [
      'a database that does not answer',
      [],
      { DATABASE_URL: 'postgres://nobody@127.0.0.1:1/none' },
      'The database in DATABASE_URL does not answer',
    ],
  ]) {
    it(`refuses ${what} in a sentence and ends with 1`, async () => {
      const { status, said } = start(args, {
        PORT: String(await freePort()),
        NEAR_SPOKE_HOME: folder,
        ...env,
      });
      expect(status).toBe(1);
      expect(said).toContain(sentence);
      expect(said).not.toContain('    at ');
    });
  }

  it('says that a damaged database is damaged, and leaves it as it is', async () => {
    const data = join(folder, 'home/postgres/data');
    mkdirSync(data, { recursive: true });
    for (const path of [folder, join(folder, 'home'), join(folder, 'home/postgres')]) chmodSync(path, 0o755);
    writeFileSync(join(data, 'precious'), 'do not touch');
    const { status, said } = start([], {
      PORT: String(await freePort()),
      NEAR_SPOKE_HOME: join(folder, 'home'),
    });
    expect(status).toBe(1);
    expect(said).toContain('holds no database');
    expect(readFileSync(join(data, 'precious'), 'utf8')).toBe('do not touch');
    expect(existsSync(join(folder, 'home/running'))).toBeFalse();
  });

  it('starts empty for a first lead, refuses a second start on the same data, stops cleanly and keeps the data', async () => {
    // The folder is closed to others, as a home folder is: as root the database then lies elsewhere.
    const home = join(folder, 'home');
    const port = await freePort();
    const first = await startApplication({ port, home, args: ['--empty'] });
    const health = await (await fetch(`${first.url}/api/health`)).json();
    expect(health).toEqual({ status: 'ok', version: jasmine.any(String), database: 'ok' });
    const setup = await fetch(`${first.url}/api/setup`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        id: '00000000-0000-4000-8000-0000000000aa',
        name: 'Ada',
        passphrase: 'four short words here',
      }),
    });
    expect(setup.status).toBe(200);
    const second = start([], { PORT: String(await freePort()), NEAR_SPOKE_HOME: home });
    expect(second.status).toBe(1);
    expect(second.said).toContain('already running from');
    expect(await first.stop()).toBe(0);
    await expectAsync(fetch(`${first.url}/api/health`)).toBeRejected();
    const again = await startApplication({ port, home });
    const session = await (await fetch(`${again.url}/api/session`)).json();
    expect(session).toEqual({ state: 'signed-out', demoPeople: [] });
    expect(await again.stop()).toBe(0);
    const note = join(home, 'database-is-in');
    expect(existsSync(note)).toBe(process.getuid() === 0);
    if (existsSync(note)) rmSync(readFileSync(note, 'utf8').trim(), { recursive: true });
  });
});
