import { ensureBuild } from './lib/build.mjs';
import { checkNode, ensurePackages } from './lib/machine.mjs';
import { runMain, say } from './lib/plain.mjs';

await runMain(async () => {
  checkNode();
  ensurePackages();
  say(await ensureBuild());
});
