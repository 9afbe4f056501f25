import {
  appendFileSync,
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startApplication } from '../lib/application.mjs';
import { demoPerson } from '../lib/caller.mjs';
import { checkBackup, makeBackup, restoreBackup } from '../lib/backup.mjs';
import { freePort } from '../lib/postgres.mjs';

/** A folder that the database's user may pass through, too. */
function folder(name) {
  const path = mkdtempSync(join(tmpdir(), `near-spoke-${name}-`));
  chmodSync(path, 0o755);
  return path;
}

/** All that a person would hand over of a demo. */
async function handedOver(url) {
  const call = await demoPerson(url);
  const get = async (path) => (await call('GET', path)).text();
  const jobs = JSON.parse(await get('/api/jobs'));
  const files = [];
  for (const { id } of jobs) files.push(await get(`/api/jobs/${id}/handover.json`));
  return files;
}

describe('a backup', () => {
  let place, home, port, backup;
  beforeAll(async () => {
    place = folder('backups');
    home = folder('kept');
    port = await freePort();
    const app = await startApplication({ port, home });
    // While it runs, and people record.
    backup = await makeBackup(home, place);
    writeFileSync(join(place, 'before.json'), JSON.stringify(await handedOver(app.url)));
    await app.stop();
  });
  afterAll(() => {
    for (const each of [place, home]) {
      const note = join(each, 'database-is-in');
      if (existsSync(note)) rmSync(readFileSync(note, 'utf8').trim(), { recursive: true, force: true });
      rmSync(each, { recursive: true, force: true });
    }
  });

  it('brought back into an empty folder hands over the same, byte for byte', async () => {
    const again = join(place, 'again');
    mkdirSync(again);
    await restoreBackup(backup, again);
    const app = await startApplication({ port, home: again });
    const after = await handedOver(app.url);
    await app.stop();
    expect(after).toEqual(JSON.parse(readFileSync(join(place, 'before.json'), 'utf8')));
    await expectAsync(restoreBackup(backup, again)).toBeRejectedWithError(/is not empty/);
  });

  it('that is damaged, cut short or not one is refused by file and reason, and nothing is begun', async () => {
    const target = join(place, 'never');
    const cases = [
      [(path) => appendFileSync(join(path, 'database.dump'), 'x'), /database\.dump .* is damaged/],
      [(path) => rmSync(join(path, 'database.dump')), /database\.dump is missing/],
      [(path) => writeFileSync(join(path, 'manifest.json'), '{"format":'), /manifest\.json is damaged/],
      [(path) => rmSync(join(path, 'manifest.json')), /is no backup/],
      [
        (path) => {
          const manifest = JSON.parse(readFileSync(join(path, 'manifest.json'), 'utf8'));
          manifest.migrations.push(Date.UTC(2999, 0));
          writeFileSync(join(path, 'manifest.json'), JSON.stringify(manifest));
        },
        /newer version/,
      ],
      [
        (path) => {
          const manifest = JSON.parse(readFileSync(join(path, 'manifest.json'), 'utf8'));
          manifest.files['../../outside'] = { bytes: 1, sha256: '' };
          writeFileSync(join(path, 'manifest.json'), JSON.stringify(manifest));
        },
        /outside itself/,
      ],
    ];
    for (const [n, [harm, why]] of cases.entries()) {
      const copy = join(place, `copy-${n}`);
      cpSync(backup, copy, { recursive: true });
      await expectAsync(checkBackup(copy)).toBeResolved();
      harm(copy);
      await expectAsync(restoreBackup(copy, target)).toBeRejectedWithError(why);
      expect(existsSync(target)).toBeFalse();
    }
  });

  it('is made of a folder at rest too, and only as many are kept as wanted; nothing else is touched', async () => {
    const kept = join(place, 'rotation');
    mkdirSync(join(kept, 'holiday pictures'), { recursive: true });
    const made = [];
    for (let n = 0; n < 3; n++) {
      made.push(await makeBackup(home, kept, { keep: 2 }));
      await new Promise((resolve) => setTimeout(resolve, 1100));
    }
    expect(readdirSync(kept).sort()).toEqual(
      ['holiday pictures', ...made.slice(1).map((path) => path.split('/').at(-1))].sort(),
    );
  });

  it('of a folder that is not there is none', async () => {
    const nowhere = join(place, 'nowhere');
    await expectAsync(makeBackup(nowhere, place)).toBeRejectedWithError(/There is no data folder/);
    expect(readdirSync(place).some((name) => name.endsWith('.part'))).toBeFalse();
  });
});
