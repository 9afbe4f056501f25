import { randomUUID } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import { startApplication } from './lib/application.mjs';
import { demoPerson } from './lib/caller.mjs';
import { cuttingBench, cuttingReport } from './lib/cutting-bench.mjs';
import { fieldBench, fieldReport } from './lib/field-bench.mjs';
import { framesBench, framesReport } from './lib/frames-bench.mjs';
import { hearingBench, hearingReport } from './lib/hearing-bench.mjs';
import { malformedBench, malformedReport } from './lib/malformed-bench.mjs';
import { judgementBench, judgementReport } from './lib/judgement-bench.mjs';
import { root } from './lib/folders.mjs';
import { loadBench, loadReport } from './lib/load-bench.mjs';
import { searchBench, searchReport } from './lib/search-bench.mjs';
import { tracesBench, tracesReport } from './lib/traces-bench.mjs';
import { reflectometryBench, reflectometryReport } from './lib/reflectometry-bench.mjs';
import { checkNode, ensureChromium, ensurePackages } from './lib/machine.mjs';
import { runMain, say } from './lib/plain.mjs';
import { freePort } from './lib/postgres.mjs';

const RUNS = 5;
const SAVES = 40;
const MANY = 1000;
const ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const spread = (values) =>
  `${Math.round(median(values))} ms (${Math.round(Math.min(...values))} to ${Math.round(Math.max(...values))})`;

async function repeat(times, measure) {
  const values = [];
  for (let run = 0; run < times; run++) values.push(await measure(run));
  return values;
}

/** A signed-in page on a fresh browser profile, at a slowed processor where asked. */
async function signedInPage(browser, url, slowdown = 1) {
  const page = await (
    await browser.newContext({ baseURL: url, viewport: { width: 1280, height: 800 } })
  ).newPage();
  const session = await page.context().newCDPSession(page);
  await session.send('Emulation.setCPUThrottlingRate', { rate: slowdown });
  await page.goto('/sign-in');
  await page.getByRole('button', { name: 'Ines Varga' }).click();
  await page.getByRole('heading', { name: 'Jobs' }).waitFor();
  return page;
}

async function firstLoad(browser, url) {
  const page = await (await browser.newContext({ baseURL: url })).newPage();
  const session = await page.context().newCDPSession(page);
  await session.send('Network.enable');
  await session.send('Emulation.setCPUThrottlingRate', { rate: 4 });
  const scripts = new Set();
  let bytes = 0;
  session.on(
    'Network.responseReceived',
    ({ requestId, type }) => type === 'Script' && scripts.add(requestId),
  );
  session.on(
    'Network.loadingFinished',
    ({ requestId, encodedDataLength }) => scripts.has(requestId) && (bytes += encodedDataLength),
  );
  const from = performance.now();
  await page.goto('/sign-in', { waitUntil: 'commit' });
  await page.getByRole('button', { name: 'Tobi Lund' }).waitFor();
  const usableMs = performance.now() - from;
  await page.waitForLoadState('networkidle');
  await page.context().close();
  return { bytes, usableMs };
}

async function jobPage(browser, url, jobId, rows, slowdown) {
  const page = await signedInPage(browser, url, slowdown);
  const from = performance.now();
  await page.goto(`/jobs/${jobId}`, { waitUntil: 'commit' });
  await page
    .locator('ns-link-table tbody tr')
    .nth(rows - 1)
    .waitFor({ state: 'attached' });
  await page
    .locator('ns-spoke-map .spoke')
    .nth(rows - 1)
    .waitFor({ state: 'attached' });
  const ms = performance.now() - from;
  await page.context().close();
  return ms;
}

/** A caller of the HTTP interface, signed in as the demo's lead. */
async function signedInCaller(url) {
  const call = await demoPerson(url);
  return async (method, path, body) => {
    const answer = await call(method, path, body);
    if (!answer.ok) throw new Error(`${method} ${path}: ${await answer.text()}`);
    return answer.json();
  };
}

async function manyLinks(call) {
  const job = {
    id: randomUUID(),
    site: 'Bench',
    title: 'A thousand links',
    hub: 'B-1',
    scheme: 'T568B',
    units: 'metric',
  };
  await call('POST', '/api/jobs', job);
  const links = Array.from({ length: MANY }, (_, i) => ({
    id: randomUUID(),
    label: `B-${i}`,
    panel: `P${Math.floor(i / 48)}`,
    port: String(i % 48),
    room: `room ${i % 40}`,
    outlet: `outlet ${i}`,
    cableTypeId: 'cat6-u',
    nearConnectorId: 'jack-punched',
    farConnectorId: 'jack-toolless',
    lengthM: 10 + (i % 80),
    route: [],
  }));
  await call('POST', `/api/jobs/${job.id}/links`, { links });
  return job.id;
}

const straight = Object.fromEntries([...'12345678'].map((c) => [c, [c]]));
const exchanged = { ...straight, 1: ['2'], 2: ['1'] };

async function saving(call, jobId, arrivals) {
  const [link] = await call('GET', `/api/jobs/${jobId}/links`);
  return repeat(SAVES, async () => {
    const test = {
      id: randomUUID(),
      instrumentName: 'bench',
      unplugged: true,
      reading: { instrument: 'coded-mapper', arrivals, joins: [], splits: null },
    };
    const from = performance.now();
    await call('POST', `/api/links/${link.id}/tests`, test);
    const ms = performance.now() - from;
    // Work ends what was measured before it, so that every save judges one reading.
    await call('POST', `/api/links/${link.id}/terminations`, {
      id: randomUUID(),
      side: 'near',
      connectorTypeId: 'jack-punched',
      outcome: 'good',
      connectorsSpoiled: 0,
    });
    return ms;
  });
}

function report(f) {
  return `# Performance

Measured by \`npm run bench\` on ${f.machine}, ${f.date}. Medians of ${RUNS} runs (smallest to largest); saving: ${SAVES} runs.
Timings are never asserted in tests; this page is written by the measurement itself.

| What | Figure |
| --- | --- |
| Warm start, \`npm start\` to "ready" (database, instruments, server) | ${spread(f.warmStart)} |
| First load, compressed JavaScript to the sign-in page | ${(f.load.bytes / 1024).toFixed(0)} kB |
| First load to usable, processor slowed 4 times | ${spread(f.usable)} |
| Job page with 34 links, reloaded whole | ${spread(f.small)} |
| Job page with 34 links, processor slowed 4 times | ${spread(f.smallSlow)} |
| Job page with ${MANY} links, reloaded whole | ${spread(f.large)} |
| Saving a passing reading, verdict and standing included (HTTP) | ${spread(f.savePass)} |
| Saving a failing reading, explanations and next look included (HTTP) | ${spread(f.saveFail)} |
| One diagnosis in the browser, the documented examples of all instrument classes | ${spread(f.judging)} |

"Usable" is the moment a button of the page can be pressed; a job page counts as drawn when its
last table row and last spoke are there.
`;
}

const PAGE = join(root, 'docs/performance.md');
const HEADS = {
  frames: '## Frames of a large table',
  field: '## A day without a network',
  load: '## A large job and a crowd',
  malformed: '## What nobody should send',
  cutting: '## Cutting',
  search: '## Search',
  judgement: '## Judgement',
  reflectometry: '## Reflectometry',
  hearing: '## Hearing a meter',
  traces: '## Traces of another world',
  // Of traces that do not ship with the project: kept as they were measured.
  circuit: '## Traces of a circuit simulator',
};

/** Replaces one part of the page; the others stay as they were measured last. */
function writePart(part, text) {
  const known = existsSync(PAGE) ? readFileSync(PAGE, 'utf8') : '';
  const cuts = Object.entries(HEADS)
    .map(([name, head]) => [name, known.indexOf(head)])
    .filter(([, at]) => at >= 0)
    .sort(([, one], [, other]) => one - other);
  const parts = { application: known.slice(0, cuts[0]?.[1] ?? known.length) };
  cuts.forEach(([name, at], n) => (parts[name] = known.slice(at, cuts[n + 1]?.[1] ?? known.length)));
  parts[part] = text;
  const all = ['application', ...Object.keys(HEADS)].map((name) => parts[name]?.trim()).filter(Boolean);
  writeFileSync(PAGE, `${all.join('\n\n')}\n`);
  say(text);
}

/** Milliseconds for one diagnosis, with its next look, in the browser itself: every documented example, many times. */
async function diagnosisInBrowser(browser) {
  const examples = readdirSync(join(root, 'docs/examples'))
    .filter((name) => name.endsWith('.reading.json'))
    .map((name) => JSON.parse(readFileSync(join(root, 'docs/examples', name), 'utf8')));
  const { outputFiles } = await build({
    stdin: {
      contents: `import { diagnose, expectTold } from './core/src/index.ts';
        globalThis.judge = ({ link, observations }) => diagnose(expectTold(link), observations);`,
      resolveDir: root,
    },
    bundle: true,
    write: false,
    format: 'iife',
    logLevel: 'error',
  });
  const page = await (await browser.newContext()).newPage();
  await page.addScriptTag({ content: outputFiles[0].text });
  const times = await page.evaluate((files) => {
    const all = [];
    for (let round = 0; round < 12; round++) {
      for (const file of files) {
        const from = performance.now();
        globalThis.judge(file);
        // The first rounds warm the page up.
        if (round > 1) all.push(performance.now() - from);
      }
    }
    return all;
  }, examples);
  await page.context().close();
  return times;
}

async function benchApplication() {
  const executablePath = ensureChromium();
  const { chromium } = await import('@playwright/test');
  const home = mkdtempSync(join(tmpdir(), 'near-spoke-bench-'));
  chmodSync(home, 0o755);
  const port = await freePort();
  await (await startApplication({ port, home })).stop();
  const warmStart = await repeat(RUNS, async () => {
    const from = performance.now();
    const application = await startApplication({ port, home });
    const ms = performance.now() - from;
    await application.stop();
    return ms;
  });
  const application = await startApplication({ port, home });
  const browser = await chromium.launch({ executablePath, args: ARGS });
  try {
    const { url } = application;
    const call = await signedInCaller(url);
    const [demo] = await call('GET', '/api/jobs');
    const loads = await repeat(RUNS, () => firstLoad(browser, url));
    const small = await repeat(RUNS, () => jobPage(browser, url, demo.id, 34, 1));
    const smallSlow = await repeat(RUNS, () => jobPage(browser, url, demo.id, 34, 4));
    const many = await manyLinks(call);
    const large = await repeat(RUNS, () => jobPage(browser, url, many, MANY, 1));
    const text = report({
      machine: `${cpus().length} cores (${cpus()[0].model.trim()}), ${Math.round(totalmem() / 2 ** 30)} GiB, Node.js ${process.versions.node}`,
      date: new Date().toISOString().slice(0, 10),
      warmStart,
      load: loads[0],
      usable: loads.map((l) => l.usableMs),
      small,
      smallSlow,
      large,
      savePass: await saving(call, many, straight),
      saveFail: await saving(call, many, exchanged),
      judging: await diagnosisInBrowser(browser),
    });
    writePart('application', text);
  } finally {
    await browser.close();
    await application.stop();
    rmSync(home, { recursive: true, force: true });
  }
}

/** `npm run bench` measures everything; `npm run bench -- application`, `frames`, `load`, `malformed`, `cutting`, `search`, `judgement`, `reflectometry`, `hearing` or `traces` one part. */
await runMain(async () => {
  checkNode();
  ensurePackages();
  const [only] = process.argv.slice(2);
  const asked = (part) => only === undefined || only === part;
  if (asked('application')) await benchApplication();
  if (asked('field'))
    writePart('field', fieldReport(await fieldBench({ executablePath: ensureChromium(), args: ARGS })));
  if (asked('frames'))
    writePart('frames', framesReport(await framesBench({ executablePath: ensureChromium(), args: ARGS })));
  if (asked('load')) writePart('load', loadReport(await loadBench()));
  if (asked('malformed')) {
    say('Sending 10,000 requests and 2,000 files that nobody should: some minutes.');
    writePart('malformed', malformedReport(await malformedBench()));
  }
  if (asked('cutting')) {
    say('Cutting 240 random jobs.');
    writePart('cutting', cuttingReport(await cuttingBench()));
  }
  if (asked('search')) {
    say('Asking 200,000 links twelve questions: a minute.');
    writePart('search', searchReport(await searchBench()));
  }
  if (asked('judgement')) {
    say('Judging 20,000 histories, or as many as HISTORIES says: most of an hour on two cores.');
    writePart('judgement', judgementReport(await judgementBench()));
  }
  if (asked('reflectometry')) {
    say('Reading 5,600 seeded traces: a quarter of an hour on two cores.');
    writePart('reflectometry', reflectometryReport(await reflectometryBench()));
  }
  if (asked('hearing')) {
    say('Hearing eight beepers in six rooms: most of an hour on two cores.');
    writePart('hearing', hearingReport(await hearingBench()));
  }
  if (asked('traces')) {
    say('Reading traces of another world.');
    writePart('traces', tracesReport(await tracesBench()));
  }
});
