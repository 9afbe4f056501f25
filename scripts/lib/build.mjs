import { createHash, randomBytes } from 'node:crypto';
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { basename, join, relative } from 'node:path';
import { root } from './folders.mjs';
import { Plain, say } from './plain.mjs';
import { captureLater } from './run.mjs';

const SOURCES = [
  'core/src',
  'contracts/src',
  'server/src',
  'instruments/src',
  'instruments/scope.adapter.json',
  'web/src',
  'web/public',
  'web/ngsw-config.json',
  'demo',
  'angular.json',
  'tsconfig.base.json',
  'web/tsconfig.app.json',
  'package-lock.json',
];
const KEPT_BUILDS = 3;

function filesUnder(path) {
  if (!existsSync(path)) return [];
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path)
    .sort()
    .flatMap((name) => filesUnder(join(path, name)));
}

/** A name for the sources as they are now. */
export function sourceHash() {
  const hash = createHash('sha256');
  for (const file of SOURCES.flatMap((source) => filesUnder(join(root, source)))) {
    if (file.endsWith('.spec.ts') || file.includes('/testing/')) continue;
    hash.update(relative(root, file)).update('\0').update(readFileSync(file)).update('\0');
  }
  return hash.digest('hex').slice(0, 12);
}

/**
 * Builds pages, server and instruments into dist/<hash>, unless these very sources were built
 * before. A running application keeps its own folder, so a build never pulls files from under it.
 */
export async function ensureBuild() {
  const folder = join(root, 'dist', sourceHash());
  if (existsSync(folder)) return folder;
  say('Building (half a minute, only after a change).');
  const fresh = `${folder}.building-${process.pid}`;
  mkdirSync(fresh, { recursive: true });
  try {
    await Promise.all([bundleNode(fresh), buildPages(fresh)]);
    cpSync(join(root, 'server/src/db/migrations'), join(fresh, 'migrations'), { recursive: true });
    cpSync(join(root, 'demo'), join(fresh, 'demo'), { recursive: true });
    cpSync(join(root, 'instruments/scope.adapter.json'), join(fresh, 'scope.adapter.json'));
    writeFileSync(join(fresh, 'built'), new Date().toISOString());
    if (existsSync(folder)) rmSync(fresh, { recursive: true });
    else renameSync(fresh, folder);
  } catch (error) {
    rmSync(fresh, { recursive: true, force: true });
    if (error.code === 'ENOSPC')
      throw new Plain(
        'The disk is full: the application could not be built. Free some space and start again.',
      );
    throw error;
  }
  dropOldBuilds(folder);
  return folder;
}

async function bundleNode(folder) {
  const { build } = await import('esbuild');
  const shared = {
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    logLevel: 'error',
    sourcemap: true,
  };
  await build({
    ...shared,
    entryPoints: [join(root, 'server/src/main.ts')],
    outfile: join(folder, 'server.mjs'),
    tsconfig: join(root, 'server/tsconfig.json'),
  });
  for (const worker of ['judge/judge-worker', 'handover/handover-worker'])
    await build({
      ...shared,
      entryPoints: [join(root, `server/src/${worker}.ts`)],
      outfile: join(folder, `${basename(worker)}.mjs`),
      tsconfig: join(root, 'server/tsconfig.json'),
    });
  await build({
    ...shared,
    entryPoints: [join(root, 'server/src/balance/main.ts')],
    outfile: join(folder, 'balancer.mjs'),
    tsconfig: join(root, 'server/tsconfig.json'),
  });
  await build({
    ...shared,
    entryPoints: [join(root, 'instruments/src/main.ts')],
    outfile: join(folder, 'instruments.mjs'),
    tsconfig: join(root, 'instruments/tsconfig.json'),
  });
}

async function buildPages(folder) {
  const ng = join(root, 'node_modules/.bin/ng');
  const result = await captureLater(ng, ['build', '--output-path', join(folder, 'web')], {
    cwd: root,
    env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
  });
  if (!result.ok) throw new Plain(`The pages could not be built:\n${result.output}`);
  nameTheKeptPage(join(folder, 'web/browser'));
}

/**
 * The page that a device keeps for when there is no network is the same each time, so that its nonce is too: drawn with each
 * build, so that nobody outside knows it. A page that the server sends has a nonce of its own.
 */
function nameTheKeptPage(web) {
  const [page, list] = [join(web, 'index.html'), join(web, 'ngsw.json')];
  const html = readFileSync(page, 'utf8').replaceAll('NONCE_OF_THIS_PAGE', randomBytes(18).toString('hex'));
  const kept = JSON.parse(readFileSync(list, 'utf8'));
  kept.hashTable['/index.html'] = createHash('sha1').update(html).digest('hex');
  writeFileSync(page, html);
  writeFileSync(list, `${JSON.stringify(kept, null, 1)}\n`);
}

/** Keeps the newest builds; an application still running from an older one is left its files. */
function dropOldBuilds(current) {
  const builds = readdirSync(join(root, 'dist'))
    .map((name) => join(root, 'dist', name))
    .filter((path) => path !== current && existsSync(join(path, 'built')))
    .sort((a, b) => statSync(b).mtimeMs - statSync(a).mtimeMs);
  for (const old of builds.slice(KEPT_BUILDS)) rmSync(old, { recursive: true, force: true });
}
