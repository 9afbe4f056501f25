import { restoreBackup } from './lib/backup.mjs';
import { home } from './lib/folders.mjs';
import { checkNode, ensurePackages } from './lib/machine.mjs';
import { Plain, runMain, say } from './lib/plain.mjs';

const HELP = `NEAR_SPOKE_HOME=new-folder npm run restore -- BACKUP    brings a backup into an empty data folder`;

await runMain(async () => {
  checkNode();
  const [backup, ...more] = process.argv.slice(2);
  if (backup === '--help') return say(HELP);
  if (!backup || more.length > 0) throw new Plain(`Name one backup.\n${HELP}`);
  ensurePackages();
  const { made, version } = await restoreBackup(backup, home());
  say(
    `${home()} is as it was on ${made.slice(0, 16).replace('T', ' ')} UTC (version ${version}). Start it: npm start`,
  );
});
