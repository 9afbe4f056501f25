import { makeBackup } from './lib/backup.mjs';
import { home } from './lib/folders.mjs';
import { checkNode, ensurePackages } from './lib/machine.mjs';
import { Plain, runMain, say } from './lib/plain.mjs';

const HELP = `npm run backup -- --to FOLDER [--keep N]    a backup of the data folder, while the application runs or not;
                                            of more than N the oldest are thrown away`;

await runMain(async () => {
  checkNode();
  const args = process.argv.slice(2);
  const of = (name) => (args.includes(name) ? args[args.indexOf(name) + 1] : undefined);
  const into = of('--to');
  const keep = args.includes('--keep') ? Number(of('--keep')) : Infinity;
  if (args.includes('--help')) return say(HELP);
  if (!into || into.startsWith('--')) throw new Plain(`Say where the backup is to go.\n${HELP}`);
  if (!(keep >= 1)) throw new Plain(`--keep wants a number from 1 on.\n${HELP}`);
  ensurePackages();
  say(`Backup made: ${await makeBackup(home(), into, { keep })}`);
});
