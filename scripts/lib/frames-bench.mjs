import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startApplication } from './application.mjs';
import { demoPerson } from './caller.mjs';
import { freePort } from './postgres.mjs';

const ROWS = 1000;
const SLOWDOWN = 4;
const RUNS = 5;
const SETTLED_MS = 700;
const LONG_MS = 50;

const atShare = (sorted, share) =>
  sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;

async function aJob(call) {
  const job = {
    id: randomUUID(),
    site: 'Bench',
    title: 'Frames',
    hub: 'B-1',
    scheme: 'T568B',
    units: 'metric',
  };
  await call('POST', '/api/jobs', job);
  const links = Array.from({ length: ROWS }, (_, n) => ({
    id: randomUUID(),
    label: `L-${n}`,
    panel: `P${Math.floor(n / 48)}`,
    port: String(n % 48),
    room: `room ${n % 40}`,
    outlet: `outlet ${n}`,
    cableTypeId: 'cat6-u',
    nearConnectorId: 'jack-punched',
    farConnectorId: 'jack-toolless',
    lengthM: 10 + (n % 60),
    route: [{ name: 'tray', lengthM: 5 }],
  }));
  const answer = await call('POST', `/api/jobs/${job.id}/links`, { links });
  if (!answer.ok) throw new Error(await answer.text());
  return job.id;
}

const pressed = async (page, key, times) => {
  for (let n = 0; n < times; n++) await page.keyboard.press(key);
};

/** What is done in the table, by name, in this order. */
const DOINGS = {
  'Arrow keys, twelve rows': (page) => pressed(page, 'ArrowDown', 12),
  'Four cells typed': async (page) => {
    await page.keyboard.press('ArrowRight');
    for (let n = 0; n < 4; n++) {
      await page.keyboard.type('PX', { delay: 60 });
      await page.keyboard.press('Enter');
    }
  },
  Undone: (page) => pressed(page, 'Control+z', 3),
  'Scrolled, thirty notches': async (page) => {
    await page.mouse.move(600, 500);
    for (let n = 0; n < 30; n++) {
      await page.mouse.wheel(0, 120);
      await page.waitForTimeout(40);
    }
  },
  'Some rows only, seven letters': async (page) => {
    await page.getByRole('searchbox').focus();
    await page.keyboard.type('room 17', { delay: 80 });
  },
  'All rows again': (page) => pressed(page, 'Backspace', 7),
  'A block of 1,000 rows pasted': async (page) => {
    await page.keyboard.press('Enter');
    await pressed(page, 'Control+Home', 1);
    await pressed(page, 'ArrowRight', 3);
    await page.keyboard.press('Control+v');
    await page.waitForTimeout(600);
  },
  'Undone again': (page) => pressed(page, 'Control+z', 1),
  'A cell carried down 1,000 rows': async (page) => {
    await page.keyboard.press('Control+Shift+ArrowDown');
    await page.keyboard.press('Alt+ArrowDown');
  },
};

/** Frames of a plan of a thousand rows while it is worked in, the processor slowed, beside those of a page that does nothing. */
export async function framesBench({ executablePath, args }) {
  const { chromium } = await import('@playwright/test');
  const home = mkdtempSync(join(tmpdir(), 'near-spoke-frames-'));
  chmodSync(home, 0o755);
  const application = await startApplication({ port: await freePort(), home });
  const browser = await chromium.launch({ executablePath, args });
  try {
    const jobId = await aJob(await demoPerson(application.url));
    const runs = [];
    for (let run = 0; run < RUNS; run++) runs.push(await oneRun(browser, application.url, jobId));
    return Object.keys(runs[0]).map((name) => {
      const frames = runs.map((run) => run[name]);
      const worst = frames.map((gaps) => gaps.at(-1) ?? 0).sort((a, b) => a - b);
      const all = frames.flat().sort((a, b) => a - b);
      return {
        name,
        p95: atShare(all, 0.95),
        worst: atShare(worst, 0.5),
        long: all.filter((gap) => gap > LONG_MS).length / RUNS,
      };
    });
  } finally {
    await browser.close();
    await application.stop();
    rmSync(home, { recursive: true, force: true });
  }
}

async function oneRun(browser, url, jobId) {
  const context = await browser.newContext({
    baseURL: url,
    viewport: { width: 1280, height: 800 },
    permissions: ['clipboard-read', 'clipboard-write'],
  });
  try {
    const page = await context.newPage();
    const session = await context.newCDPSession(page);
    await page.goto('/sign-in');
    await page.getByRole('button', { name: 'Ines Varga' }).click();
    await page.getByRole('heading', { name: 'Jobs' }).waitFor();
    await page.goto(`/jobs/${jobId}/plan/table`);
    const first = page.locator('ns-cell-grid .cell').first();
    await first.waitFor();
    await page.waitForTimeout(2 * SETTLED_MS);
    const block = Array.from({ length: ROWS }, (_, n) => `hall ${n % 9}\toutlet x${n}`).join('\n');
    await page.evaluate((text) => navigator.clipboard.writeText(text), block);
    await session.send('Emulation.setCPUThrottlingRate', { rate: SLOWDOWN });
    await page.evaluate(() => {
      globalThis.gaps = [];
      let last = performance.now();
      const frame = () => {
        const now = performance.now();
        globalThis.gaps.push(now - last);
        last = now;
        requestAnimationFrame(frame);
      };
      requestAnimationFrame(frame);
    });
    const gapsOf = async (doing) => {
      await page.evaluate(() => (globalThis.gaps.length = 0));
      await doing(page);
      await page.waitForTimeout(SETTLED_MS);
      // The first gap began before it.
      return (await page.evaluate(() => globalThis.gaps.slice(1))).sort((a, b) => a - b);
    };
    const found = { 'Nothing done': await gapsOf(() => Promise.resolve()) };
    await first.click();
    for (const [name, doing] of Object.entries(DOINGS)) found[name] = await gapsOf(doing);
    return found;
  } finally {
    await context.close();
  }
}

/** The benchmark as a section of docs/performance.md. */
export function framesReport(rows) {
  const ms = (value) => `${Math.round(value)} ms`;
  return `## Frames of a large table

A plan of ${ROWS.toLocaleString('en')} rows as a table, worked in at a processor slowed ${SLOWDOWN} times, drawn without a graphics processor:
times from frame to frame, over ${RUNS} runs. Over ${LONG_MS} ms a hand sees it.

| What | 95 in 100 | longest, median of the runs | over ${LONG_MS} ms, frames a run |
| --- | --- | --- | --- |
${rows.map(({ name, p95, worst, long }) => `| ${name} | ${ms(p95)} | ${ms(worst)} | ${long.toFixed(1)} |`).join('\n')}
`;
}
