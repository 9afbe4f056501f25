import { chmodSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startApplication } from './lib/application.mjs';
import { root } from './lib/folders.mjs';
import { checkNode, ensureChromium, ensurePackages } from './lib/machine.mjs';
import { runMain, say } from './lib/plain.mjs';
import { freePort } from './lib/postgres.mjs';

const ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
const DESKTOP = { width: 1280, height: 800 };
const TABLET = { width: 820, height: 1180 };

const openJob = async (page, title = 'Ticket hall refit') => {
  await page.goto('/jobs');
  await page.getByRole('link', { name: title }).click();
  await page.locator('ns-link-table tbody tr').first().waitFor();
};
const openLink = async (page, label, room) => {
  await openJob(page);
  await page.locator('ns-link-table').getByRole('link', { name: label, exact: true }).click();
  await page.locator('main h1', { hasText: label }).waitFor({ state: 'attached' });
  await page.locator('header .crumbs strong', { hasText: label }).waitFor();
  await page.locator('header .line a.here').waitFor();
  if (room) await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: room }).click();
};
const openAdapter = async (page, name) => {
  await page.goto('/bench/adapters');
  await page.getByRole('link', { name }).click();
  await page.locator('ns-lead-bench').waitFor();
};
const openPlan = async (page, title) => {
  await openJob(page, title);
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Plan' }).click();
  await page.locator('td.least').first().waitFor();
};
const step = (page, name) => page.getByRole('button', { name }).click();

/** One picture per main view: what is done, from the jobs' list on, to come to it. Nothing is recorded on the way. */
const VIEWS = [
  { name: 'job', go: (page) => openJob(page) },
  { name: 'job-plan', go: (page) => openPlan(page, 'Visitor dome') },
  {
    name: 'materials',
    go: async (page) => {
      await openPlan(page, 'Visitor dome');
      await page.getByRole('link', { name: 'Materials and cutting' }).click();
      await page.locator('ns-cut-strips').nth(2).waitFor();
    },
  },
  {
    name: 'terminate-plug',
    go: async (page) => {
      await openLink(page, 'P1-22', 'Terminate');
      await step(page, 'Far end');
      await step(page, /Lay the eight in order/);
    },
  },
  {
    name: 'make-one',
    go: async (page) => {
      await page.goto('/bench/make');
      await page.getByRole('button', { name: /Four twisted pairs, solid/ }).click();
      await page.getByRole('button', { name: /Cat 6 unscreened/ }).click();
      await page.getByRole('heading', { name: /What goes on it/ }).waitFor();
    },
  },
  {
    name: 'practice',
    go: async (page) => {
      await page.goto('/bench/practice?drill=read-a-trace');
      await page.locator('ns-drill-picture svg').waitFor();
    },
  },
  {
    name: 'locate',
    go: async (page) => {
      await openLink(page, 'P1-16', 'Locate');
      await page.getByRole('heading', { name: 'Open at 23.0 m' }).waitFor();
      await page.waitForTimeout(500);
    },
  },
  {
    name: 'kit',
    go: async (page) => {
      await page.goto('/kit/connector/coax-n');
      await page.getByRole('heading', { name: 'N plug, crimp, for RG-213' }).waitFor();
    },
  },
  {
    name: 'bench',
    go: async (page) => {
      await page.goto('/bench');
      await page.getByRole('heading', { name: /Unmarked wires/ }).waitFor();
    },
  },
  { name: 'verify-exchanged', go: (page) => openLink(page, 'P1-05') },
  {
    name: 'adapter-join',
    go: async (page) => {
      await openAdapter(page, 'Tide-gauge logger');
      // What a technician would try first, and what the rules say to it.
      await page.getByRole('button', { name: /^A 5, WAKE/ }).click();
      await page.getByRole('button', { name: /^B 7, RTS/ }).click();
      await page.getByText(/beyond what a 3.3 V logic input bears/).click();
    },
  },
  {
    name: 'adapter-prove-tablet-dark',
    dark: true,
    size: TABLET,
    go: async (page) => {
      await openAdapter(page, 'Tide-gauge logger');
      await page.getByRole('link', { name: 'Prove', exact: true }).click();
      await page.getByRole('heading', { name: 'This path should beep' }).waitFor();
      await page.keyboard.press('PageDown');
    },
  },
  {
    name: 'reels',
    go: async (page) => {
      await page.goto('/kit/reels');
      await page.getByText('Ledger and measurement disagree.').waitFor();
    },
  },
  {
    name: 'led-beeper',
    go: async (page) => {
      await openLink(page, 'P1-17');
      await step(page, /^Beeper, led/);
      await step(page, /unplugged and dead/);
      for (let touch = 0; touch < 3; touch++) await page.keyboard.press('PageUp');
    },
  },
  {
    name: 'testing-round',
    go: async (page) => {
      await openJob(page);
      await page.getByRole('link', { name: 'Testing round' }).click();
      await page.getByRole('heading', { name: 'Testing round' }).waitFor();
    },
  },
  {
    name: 'hand-over-job',
    go: async (page) => {
      await openJob(page);
      await page.getByRole('link', { name: 'Hand over' }).click();
      await page.getByRole('button', { name: /^Hand over 9 links/ }).waitFor();
    },
  },
  {
    name: 'labels',
    go: async (page) => {
      await openJob(page);
      await page.getByRole('link', { name: 'Hand over' }).click();
      await page.getByRole('link', { name: 'Labels', exact: true }).click();
      await page.locator('.paper svg').first().waitFor();
    },
  },
  {
    name: 'as-built',
    go: async (page) => {
      await page.goto('/as-built/Pellan%20Quay%20ferry%20terminal');
      await page.getByRole('treeitem', { name: /Ticket hall/ }).click();
      await page.getByRole('heading', { name: 'Ticket hall' }).waitFor();
    },
  },
  {
    name: 'days',
    go: async (page) => {
      await openPlan(page, 'Visitor dome');
      await page.getByRole('link', { name: 'Days and people' }).click();
      await page.locator('.ends').waitFor();
      await page.locator('mat-progress-bar').waitFor({ state: 'detached' });
    },
  },
];

await runMain(async () => {
  checkNode();
  ensurePackages();
  const executablePath = ensureChromium();
  const { chromium } = await import('@playwright/test');
  const only = process.argv.slice(2);
  const out = join(root, 'docs/screenshots');
  mkdirSync(out, { recursive: true });
  const home = mkdtempSync(join(tmpdir(), 'near-spoke-pictures-'));
  chmodSync(home, 0o755);
  const application = await startApplication({ port: await freePort(), home });
  const browser = await chromium.launch({ executablePath, args: ARGS });
  try {
    for (const view of VIEWS.filter(({ name }) => only.length === 0 || only.includes(name))) {
      const page = await browser.newPage({
        baseURL: application.url,
        viewport: view.size ?? DESKTOP,
        colorScheme: view.dark ? 'dark' : 'light',
        reducedMotion: 'reduce',
      });
      await page.goto('/sign-in');
      await page.getByRole('button', { name: 'Tobi Lund' }).click();
      await page.getByRole('heading', { name: 'Jobs' }).waitFor();
      await view.go(page);
      await page.locator('mat-progress-bar').first().waitFor({ state: 'detached' });
      await page.evaluate(() => document.fonts.ready);
      await page.screenshot({ path: join(out, `${view.name}.png`), caret: 'hide' });
      say(view.name);
      await page.close();
    }
  } finally {
    await browser.close();
    await application.stop();
    rmSync(home, { recursive: true, force: true });
  }
});
