import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startApplication } from './application.mjs';
import { demoPerson } from './caller.mjs';
import { freePort } from './postgres.mjs';

const LINKS = 100;
const LONG = 120_000;
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** A job of so many links, none of them made. */
async function aJob(call) {
  const job = {
    id: randomUUID(),
    site: 'Bench',
    title: 'Below',
    hub: 'B-1',
    scheme: 'T568B',
    units: 'metric',
  };
  await call('POST', '/api/jobs', job);
  const links = Array.from({ length: LINKS }, (_, n) => ({
    id: randomUUID(),
    label: `L-${String(n + 1).padStart(3, '0')}`,
    panel: `P${Math.floor(n / 48)}`,
    port: String((n % 48) + 1),
    room: `room ${n % 20}`,
    outlet: `outlet ${n + 1}`,
    cableTypeId: 'cat6-u',
    nearConnectorId: 'jack-punched',
    farConnectorId: 'jack-punched',
    lengthM: 10 + (n % 60),
    route: [],
  }));
  const answer = await call('POST', `/api/jobs/${job.id}/links`, { links });
  if (!answer.ok) throw new Error(await answer.text());
  return { jobId: job.id, ids: links.map(({ id }) => id) };
}

/**
 * A day's round of a hundred links without a network, through the interface: both ends of each made, each read and judged on the
 * device; then the network is back.
 */
export async function fieldBench({ executablePath, args }) {
  const { chromium } = await import('@playwright/test');
  const home = mkdtempSync(join(tmpdir(), 'near-spoke-field-'));
  chmodSync(home, 0o755);
  const application = await startApplication({ port: await freePort(), home });
  const browser = await chromium.launch({ executablePath, args });
  try {
    const { jobId, ids } = await aJob(await demoPerson(application.url));
    const context = await browser.newContext({
      baseURL: application.url,
      viewport: { width: 1280, height: 800 },
    });
    const page = await context.newPage();
    page.setDefaultTimeout(LONG);
    const timed = async (work) => {
      const begun = performance.now();
      await work();
      return performance.now() - begun;
    };
    await page.goto('/sign-in');
    await page.getByRole('button', { name: 'Ines Varga' }).click();
    await page.getByRole('heading', { name: 'Jobs' }).waitFor();
    await page.goto(`/jobs/${jobId}`);
    const keep = page.getByRole('button', { name: 'Keep this job on this device' });
    await keep.waitFor();
    const keepMs = await timed(async () => {
      await keep.click();
      await page.getByText(/On this device since/).waitFor();
    });
    await page.waitForFunction(async () =>
      (await fetch('/ngsw/state')).text().then((text) => text.includes('Clients: ')),
    );
    await context.setOffline(true);
    const openMs = await timed(async () => {
      await page.reload();
      await page.locator('ns-link-table tbody tr').first().waitFor();
    });
    const ends = [];
    for (const side of ['near', 'far']) {
      await page.goto(`/jobs/${jobId}/round`);
      await page
        .getByRole('button', { name: new RegExp(`${side} ends`) })
        .first()
        .click();
      const done = page.locator('aside p[role=status] .figure').first();
      for (let n = 0; n < LINKS; n++)
        ends.push(
          await timed(async () => {
            await page.keyboard.press('PageDown');
            await done.filter({ hasText: new RegExp(`^${n + 1}$`) }).waitFor();
          }),
        );
    }
    await page.goto(`/jobs/${jobId}/tests`);
    await page.getByRole('button', { name: /begin the round/ }).click();
    const readings = [];
    for (let n = 0; n < LINKS; n++) {
      const label = `L-${String(n + 1).padStart(3, '0')}`;
      await page.waitForFunction((next) => document.querySelector('main input')?.value === next, label);
      readings.push(
        await timed(async () => {
          await page.getByRole('button', { name: 'Key in: all straight' }).click();
          await page.getByText(`${label}: Map right`).waitFor();
        }),
      );
    }
    const records = 3 * LINKS + 1;
    await page.getByText(`${records} records wait on this device`).waitFor();
    await context.setOffline(false);
    const sendMs = await timed(() => page.getByText('All that waited here is sent.').waitFor());
    let once = 0;
    for (const id of ids) {
      const detail = await (await page.request.get(`/api/links/${id}`)).json();
      if (detail.terminations.length === 2 && detail.tests.length === 1 && detail.link.stage === 'proved')
        once++;
    }
    return { keepMs, openMs, endMs: median(ends), readingMs: median(readings), records, sendMs, once };
  } finally {
    await browser.close();
    await application.stop();
    rmSync(home, { recursive: true, force: true });
  }
}

/** The benchmark as a section of docs/performance.md. */
export function fieldReport({ keepMs, openMs, endMs, readingMs, records, sendMs, once }) {
  const s = (value) => `${(value / 1000).toFixed(1)} s`;
  const ms = (value) => `${Math.round(value)} ms`;
  return `## A day without a network

${LINKS} links through the interface, the network taken away: both ends of each made, each read, judged on the device; then it is back.

| What | Time |
| --- | --- |
| The job kept on the device, pages, kit and all ${LINKS} links | ${s(keepMs)} |
| The job opened again without a network, from a page that was closed | ${s(openMs)} |
| An end recorded, from the key to the next (median) | ${ms(endMs)} |
| A reading keyed in and judged on the device (median) | ${ms(readingMs)} |
| ${records} records sent, from the network being back until the server had all | ${s(sendMs)} |
| Links of which the server then had each record once, and the same verdict | ${once} of ${LINKS} |
`;
}
