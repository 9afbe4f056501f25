import { createHash } from 'node:crypto';
import {
  copyFileSync,
  createReadStream,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join, resolve } from 'node:path';
import { root } from './folders.mjs';
import { Plain } from './plain.mjs';
import { clientPrograms, runningCluster, startHomeCluster } from './postgres.mjs';
import { isTaken, takeFolder } from './processes.mjs';
import { captureLater } from './run.mjs';

const FORMAT = 'near-spoke/backup';
const FORMAT_VERSION = 1;
const MANIFEST = 'manifest.json';
const DUMP = 'database.dump';
/** What lies beside the database in a data folder and is worth keeping. */
const BESIDE = ['instruments/world.json'];

const NAME = /^near-spoke-\d{4}-\d\d-\d\dT\d\d-\d\d-\d\d$/;

async function checksum(file) {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(file)) hash.update(piece);
  return hash.digest('hex');
}

/** Where the database answers: one given, that of a running application, or the home's own, started for as long as needed. */
async function reachDatabase(home) {
  if (process.env.DATABASE_URL) return { url: process.env.DATABASE_URL, letGo: async () => undefined };
  if (isTaken(home)) return { url: runningCluster(home), letGo: async () => undefined };
  if (!existsSync(home)) throw new Plain(`There is no data folder ${home}.`);
  const folder = await takeFolder(home);
  const cluster = await startHomeCluster(home);
  return {
    url: cluster.url,
    letGo: async () => {
      cluster.stop();
      folder.letGo();
    },
  };
}

/** A program of PostgreSQL with the passphrase out of sight of other people's `ps`. */
async function postgres(program, url, args) {
  const address = new URL(url);
  const env = { ...process.env, PGPASSWORD: decodeURIComponent(address.password) };
  address.password = '';
  return captureLater(join(clientPrograms(), program), [...args, '--dbname', address.href], { env });
}

/** The migrations that a database has had, by when they were made. */
async function migrationsOf(url) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query(
      'SELECT created_at::bigint AS made FROM drizzle.__drizzle_migrations ORDER BY 1',
    );
    return rows.map(({ made }) => Number(made));
  } catch {
    return [];
  } finally {
    await client.end();
  }
}

const knownMigrations = () =>
  JSON.parse(readFileSync(join(root, 'server/src/db/migrations/meta/_journal.json'), 'utf8')).entries.map(
    ({ when }) => when,
  );

/**
 * Makes a backup of a data folder, while the application runs or not: a folder with the database as of one moment, what
 * lies beside it, and their checksums. It has its name only once it is whole.
 *
 * @param into folder that backups lie in
 * @param keep so many are kept; older ones of ours are thrown away. All where left out.
 * @returns the backup's folder
 */
export async function makeBackup(home, into, { keep = Infinity } = {}) {
  const made = new Date().toISOString();
  const name = `near-spoke-${made.slice(0, 19).replaceAll(':', '-')}`;
  const folder = join(resolve(into), name);
  const part = `${folder}.part`;
  if (existsSync(folder)) throw new Plain(`${folder} is there already: wait a second and try again.`);
  mkdirSync(part, { recursive: true, mode: 0o700 });
  try {
    const database = await reachDatabase(home);
    try {
      const migrations = await migrationsOf(database.url);
      if (migrations.length === 0)
        throw new Plain(`The database of ${home} is empty: start the application once.`);
      const { ok, output } = await postgres('pg_dump', database.url, [
        '--format=custom',
        '--no-owner',
        '--no-acl',
        `--file=${join(part, DUMP)}`,
      ]);
      if (!ok) throw new Plain(`The database could not be read. PostgreSQL says:\n${output.trim()}`);
      for (const each of BESIDE.filter((one) => existsSync(join(home, one))))
        copyFileSync(join(home, each), join(part, each.replace('/', '-')));
      const files = {};
      for (const file of readdirSync(part))
        files[file] = { bytes: statSync(join(part, file)).size, sha256: await checksum(join(part, file)) };
      const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
      writeFileSync(
        join(part, MANIFEST),
        `${JSON.stringify({ format: FORMAT, formatVersion: FORMAT_VERSION, made, version, migrations, files }, null, 2)}\n`,
      );
    } finally {
      await database.letGo();
    }
    renameSync(part, folder);
  } catch (error) {
    rmSync(part, { recursive: true, force: true });
    if (error.code === 'ENOSPC') throw new Plain(`The disk is full: no backup was made in ${into}.`);
    throw error;
  }
  const ours = readdirSync(into)
    .filter((each) => NAME.test(each) && existsSync(join(into, each, MANIFEST)))
    .sort();
  for (const old of ours.slice(0, Math.max(0, ours.length - keep)))
    rmSync(join(into, old), { recursive: true, force: true });
  return folder;
}

/** Reads a backup's manifest and holds every file against it. */
export async function checkBackup(folder) {
  const file = join(folder, MANIFEST);
  if (!existsSync(file)) throw new Plain(`${folder} is no backup: it has no ${MANIFEST}.`);
  let manifest;
  try {
    manifest = JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    throw new Plain(`${file} is damaged: it is no JSON. Take another backup.`);
  }
  if (manifest.format !== FORMAT || !(manifest.formatVersion <= FORMAT_VERSION))
    throw new Plain(
      `${folder} was made by a newer version (${manifest.version ?? 'unknown'}): bring this one up to date first.`,
    );
  const newest = Math.max(...knownMigrations());
  if (manifest.migrations.some((made) => made > newest))
    throw new Plain(
      `${folder} holds a database of a newer version (${manifest.version}): bring this one up to date first.`,
    );
  for (const [name, { bytes, sha256 }] of Object.entries(manifest.files)) {
    if (name.includes('/') || name.includes('\\') || name.startsWith('.'))
      throw new Plain(`${folder} names a file outside itself (${name}): it is not used.`);
    const path = join(folder, name);
    if (!existsSync(path)) throw new Plain(`${name} is missing in ${folder}. Take another backup.`);
    if (statSync(path).size !== bytes || (await checksum(path)) !== sha256)
      throw new Plain(
        `${name} in ${folder} is damaged: it is not what was written. Take another backup; nothing was changed.`,
      );
  }
  if (!manifest.files[DUMP]) throw new Plain(`${folder} holds no database.`);
  return manifest;
}

/** Brings a backup into a data folder that has no database yet; what fails leaves no half of it behind. */
export async function restoreBackup(folder, home) {
  const manifest = await checkBackup(folder);
  if (process.env.DATABASE_URL)
    throw new Plain(
      'Unset DATABASE_URL: into a server of yours restore with pg_restore, as docs/backup.md says.',
    );
  if (existsSync(home) && readdirSync(home).length > 0)
    throw new Plain(`${home} is not empty. Set NEAR_SPOKE_HOME to a new folder, or move this one away.`);
  const taken = await takeFolder(home);
  let cluster = null;
  try {
    cluster = await startHomeCluster(home);
    const { ok, output } = await postgres('pg_restore', cluster.url, [
      '--exit-on-error',
      '--single-transaction',
      '--no-owner',
      '--no-acl',
      join(folder, DUMP),
    ]);
    if (!ok) throw new Plain(`The database could not be brought back. PostgreSQL says:\n${output.trim()}`);
    for (const each of BESIDE) {
      const from = join(folder, each.replace('/', '-'));
      if (!existsSync(from)) continue;
      mkdirSync(join(home, each, '..'), { recursive: true });
      copyFileSync(from, join(home, each));
    }
    cluster.stop();
    taken.letGo();
  } catch (error) {
    cluster?.stop();
    const note = join(home, 'database-is-in');
    if (existsSync(note)) rmSync(readFileSync(note, 'utf8').trim(), { recursive: true, force: true });
    rmSync(home, { recursive: true, force: true });
    throw error;
  }
  return manifest;
}

const HOUR = 3;
const LOOK_EVERY_MS = 60_000;
const NIGHTS = 14;

/** Makes a backup every night, or as soon after as the application runs; answers how to stop looking. */
export function backUpNightly(home, into, said) {
  let busy = false;
  const look = async () => {
    const now = new Date();
    const today = now.toISOString().slice(0, 10);
    const has = existsSync(into) && readdirSync(into).some((each) => each.startsWith(`near-spoke-${today}`));
    if (busy || has || now.getHours() < HOUR) return;
    busy = true;
    try {
      said(`Backup made: ${await makeBackup(home, into, { keep: NIGHTS })}`);
    } catch (error) {
      said(`No backup was made. ${error instanceof Plain ? error.message : String(error)}`);
    } finally {
      busy = false;
    }
  };
  const timer = setInterval(() => void look(), LOOK_EVERY_MS);
  return () => clearInterval(timer);
}
