import { root } from './lib/folders.mjs';
import { captureLater } from './lib/run.mjs';
import { Plain, runMain, say } from './lib/plain.mjs';

const PROJECTS = [
  'core/tsconfig.spec.json',
  'contracts/tsconfig.spec.json',
  'server/tsconfig.spec.json',
  'instruments/tsconfig.spec.json',
  'command/tsconfig.spec.json',
  'web/tsconfig.worker.json',
  'e2e/tsconfig.json',
];

/** Type-checks every room outside the web; `ng build` and Karma check that one. */
await runMain(async () => {
  for (const project of PROJECTS) {
    const { ok, output } = await captureLater('node_modules/.bin/tsc', ['-p', project], { cwd: root });
    if (!ok) throw new Plain(`${project}\n${output}`);
  }
  say('types hold');
});
