import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuild } from './lib/build.mjs';
import { root } from './lib/folders.mjs';
import { checkNode, ensureChromium, ensurePackages } from './lib/machine.mjs';
import { Plain, runMain, say } from './lib/plain.mjs';
import { freePort, startThrowawayCluster } from './lib/postgres.mjs';
import { captureLater } from './lib/run.mjs';
import { startApplication } from './lib/application.mjs';

const bin = (name) => join(root, 'node_modules/.bin', name);
const totals = { passed: 0, failed: 0 };
/** So many things at once: each by itself fills about one core, of which small machines have two. */
const LANES = 2;
/** Folders whose imports have rules. */
const RULED = ['core', 'contracts', 'server', 'web', 'instruments', 'command'];

/** Does one thing after another in each of so many lanes; whichever is free takes the next. */
async function inLanes(lanes, things) {
  const left = [...things];
  const lane = async () => {
    for (let next = left.shift(); next; next = left.shift()) await next();
  };
  await Promise.all(Array.from({ length: lanes }, lane));
}

/** One check that passes or fails as a whole; its output is shown when it fails. */
async function check(name, command, args, env = {}) {
  const from = Date.now();
  const { ok, output } = await captureLater(command, args, { cwd: root, env: { ...process.env, ...env } });
  totals[ok ? 'passed' : 'failed'] += 1;
  say(`${ok ? 'ok    ' : 'FAILED'} ${name} (${Math.round((Date.now() - from) / 1000)} s)`);
  if (!ok) say(output);
}

/** A runner that writes its counts to a file; no counts, or a failure it did not count, is a failure of its own. */
async function suite(name, command, args, env, readCounts) {
  const from = Date.now();
  const { ok, output } = await captureLater(command, args, { cwd: root, env: { ...process.env, ...env } });
  const counts = readCounts();
  if (!counts || (!ok && counts.failed === 0) || counts.passed + counts.failed === 0) {
    totals.failed += 1;
    say(`FAILED ${name}: it ended without a result\n${output}`);
    return;
  }
  totals.passed += counts.passed;
  totals.failed += counts.failed;
  say(
    `${counts.failed === 0 ? 'ok    ' : 'FAILED'} ${name}: ${counts.passed} passed, ${counts.failed} failed (${Math.round((Date.now() - from) / 1000)} s)`,
  );
  if (counts.failed > 0) say(output);
}

const countsIn = (file) => () => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null);

function playwrightCounts(file) {
  return () => {
    const stats = countsIn(file)()?.stats;
    // A test that passed only on a second try would be flaky; there are no second tries, and it would count as failed.
    return stats ? { passed: stats.expected, failed: stats.unexpected + stats.flaky + stats.skipped } : null;
  };
}

async function endToEnd(folder) {
  const port = await freePort();
  const home = join(folder, 'home');
  mkdirSync(home);
  const application = await startApplication({ port, home });
  try {
    const summary = join(folder, 'e2e.json');
    await suite(
      'end to end',
      bin('playwright'),
      ['test', '--config', 'e2e/playwright.config.ts'],
      { E2E_BASE_URL: `http://127.0.0.1:${port}`, E2E_SUMMARY: summary },
      playwrightCounts(summary),
    );
  } finally {
    await application.stop();
  }
}

await runMain(async () => {
  checkNode();
  ensurePackages();
  ensureChromium();
  const folder = mkdtempSync(join(tmpdir(), 'near-spoke-test-'));
  // PostgreSQL runs as another user when we are root: it has to be able to pass through.
  chmodSync(folder, 0o755);
  const cluster = await startThrowawayCluster();
  const stop = () => {
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
  process.on('SIGINT', () => {
    stop();
    process.exit(130);
  });
  try {
    const built = ensureBuild();
    // Its failure is told where it is waited for.
    built.catch(() => undefined);
    const specs = (...folders) => {
      const name = folders.join(', ');
      const summary = join(folder, `${folders[0]}.json`);
      return async () => {
        await built;
        await suite(
          name,
          process.execPath,
          [
            '--import',
            'tsx',
            'node_modules/jasmine/bin/jasmine.js',
            '--config=jasmine.json',
            '--reporter=./scripts/lib/jasmine-summary.mjs',
            ...folders.map((one) => `${one}/test/**/*.spec.{ts,mjs}`),
          ],
          { TEST_DATABASE_URL: cluster.url, JASMINE_SUMMARY: summary },
          countsIn(summary),
        );
      };
    };
    const web = async () => {
      const summary = join(folder, 'web.json');
      await built;
      await suite(
        'web',
        bin('ng'),
        ['test'],
        { KARMA_SUMMARY: summary, NG_CLI_ANALYTICS: 'false' },
        countsIn(summary),
      );
    };
    await inLanes(LANES, [
      () => check('types', process.execPath, ['scripts/types.mjs']),
      () => built,
      specs('core'),
      specs('server'),
      web,
      specs('contracts', 'instruments', 'command', 'scripts'),
      () => check('format', bin('prettier'), ['--check', '.']),
      () => check('lint', bin('eslint'), ['.']),
      () => check('dependency rules', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', ...RULED]),
    ]);
    await endToEnd(folder);
  } finally {
    stop();
  }
  say(`${totals.passed} passed, ${totals.failed} failed`);
  if (totals.failed > 0) process.exit(1);
  if (totals.passed === 0) throw new Plain('No test was run.');
});
