import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './folders.mjs';
import { Plain, say } from './plain.mjs';
import { capture, onPath, show } from './run.mjs';

/** Node.js 20.19 or newer in its line, or 22.12 and later: what the packages were built for. */
export function checkNode(version = process.versions.node) {
  const [major, minor] = version.split('.').map(Number);
  const good = (major === 20 && minor >= 19) || (major === 22 && minor >= 12) || major > 22;
  if (!good)
    throw new Plain(
      `Near Spoke needs Node.js 20.19 or newer; this is ${version}. Install Node.js 20 and start again.`,
    );
}

/** Installs npm packages when the lock file is not the one they were installed from. */
export function ensurePackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const mark = join(root, 'node_modules/.near-spoke-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  say('Installing npm packages (about a minute, once).');
  if (!show('npm', ['ci', '--no-fund', '--no-audit', '--loglevel', 'error'], { cwd: root })) {
    throw new Plain(
      'The npm packages could not be installed: see npm’s message above. The first start needs the network; later ones do not.',
    );
  }
  writeFileSync(mark, lock);
}

/** Installs Debian packages: directly as root, through sudo otherwise. */
export function installDebianPackages(names, what) {
  const command = `apt-get update && apt-get install -y --no-install-recommends ${names.join(' ')}`;
  const byHand = `Install ${what} yourself and start again:\n  sudo sh -c '${command}'`;
  if (!onPath('apt-get'))
    throw new Plain(
      `${what} is missing and this system has no apt-get. Install ${what} by its own means and start again.`,
    );
  const asRoot = process.getuid?.() === 0;
  if (!asRoot && !onPath('sudo')) throw new Plain(`${what} is missing. ${byHand}`);
  say(`Installing ${what} from Debian’s packages (once).`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const sudo = process.stdin.isTTY ? ['sudo'] : ['sudo', '-n'];
  const [head, ...rest] = [...(asRoot ? [] : sudo), 'sh', '-c', command];
  const result = capture(head, rest, {
    env,
    stdio: [process.stdin.isTTY ? 'inherit' : 'ignore', 'pipe', 'pipe'],
  });
  if (!result.ok)
    throw new Plain(
      `${what} could not be installed:\n${result.output.trim().split('\n').slice(-5).join('\n')}\n${byHand}`,
    );
}

/** Debian's Chromium, for the tests and the screenshots. */
export function ensureChromium() {
  const path = '/usr/bin/chromium';
  if (!existsSync(path)) installDebianPackages(['chromium'], 'Chromium');
  if (!existsSync(path)) throw new Plain('Chromium was installed but /usr/bin/chromium is not there.');
  return path;
}
