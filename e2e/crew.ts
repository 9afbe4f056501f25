import AxeBuilder from '@axe-core/playwright';
import { expect, test as base, type Locator, type Page } from '@playwright/test';

/**
 * A page that fails its test when it asks another machine for anything or logs an error.
 * E2E_SLOWDOWN=6 makes the browser that many times slower and E2E_LATENCY=900 keeps each request waiting for up to
 * so many milliseconds: both bring races to light that a quiet machine hides.
 */
export const test = base.extend<{ page: Page }>({
  page: async ({ page, baseURL }, use) => {
    const complaints: string[] = [];
    page.on('request', (request) => {
      const url = request.url();
      if (!url.startsWith(baseURL ?? '') && !url.startsWith('data:') && !url.startsWith('blob:'))
        complaints.push(`asked ${url}`);
    });
    page.on('pageerror', (error) => complaints.push(error.message));
    page.on('console', (message) => {
      // A refusal (409, 422 and the like) is logged by the browser itself, and so is a network that a test takes away; tests look
      // at those on the page.
      const expected = ['the server responded with a status of 4', 'net::ERR_INTERNET_DISCONNECTED'];
      if (message.type() === 'error' && !expected.some((words) => message.text().includes(words)))
        complaints.push(message.text());
    });
    const slowdown = Number(process.env['E2E_SLOWDOWN'] ?? 1);
    if (slowdown > 1) {
      const session = await page.context().newCDPSession(page);
      await session.send('Emulation.setCPUThrottlingRate', { rate: slowdown });
    }
    const latency = Number(process.env['E2E_LATENCY'] ?? 0);
    if (latency > 0)
      await page.route('**/api/**', async (route) => {
        await new Promise((later) => setTimeout(later, Math.random() * latency));
        await route.continue().catch(() => undefined);
      });
    await use(page);
    expect(complaints).toEqual([]);
  },
});

export { expect };

/** Enters the demo by one click and waits for the jobs. */
export async function enter(page: Page, name = 'Tobi Lund'): Promise<void> {
  await page.goto('/sign-in');
  await page.getByRole('button', { name }).click();
  await expect(page.getByRole('heading', { name: 'Jobs' })).toBeVisible();
}

export async function openJob(page: Page, title = 'Ticket hall refit'): Promise<void> {
  await page.getByRole('link', { name: title }).click();
  await expect(page.locator('ns-link-table tbody tr').first()).toBeVisible();
}

export const row = (page: Page, label: string): Locator =>
  page
    .locator('ns-link-table tbody tr')
    .filter({ has: page.getByRole('link', { name: label, exact: true }) });

/** Opens a link from the job's list. */
export async function openLink(page: Page, label: string): Promise<void> {
  await row(page, label).getByRole('link', { name: label, exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(label);
  // The line of stages is the link's own from here on, no longer the job's.
  await expect(page.locator('header .line a.here')).toBeVisible();
}

export const verdict = (page: Page): Locator => page.locator('#verdict-title');
export const next = (page: Page): Locator => page.locator('#next-title');

/** Presses a key on the page itself, as a foot switch would. */
export async function press(page: Page, ...keys: string[]): Promise<void> {
  for (const key of keys) await page.keyboard.press(key);
}

/** Walks the open card to its end and records the end as good. */
export async function walkCard(page: Page, end: 'near' | 'far'): Promise<void> {
  await expect(
    page.getByRole('button', { name: `${end === 'near' ? 'Near' : 'Far'} end`, exact: true }),
  ).toHaveAttribute('aria-pressed', 'true');
  const heading = page.locator('.middle h2');
  for (;;) {
    const title = (await heading.textContent()) ?? '';
    if (title === 'How did it go?') break;
    // The right die or adapter, where a step asks for one.
    for (const tool of await page.locator('ns-tool-in-hand').all()) {
      const needs = /This needs (\S+)\. Read/.exec((await tool.textContent()) ?? '')?.[1];
      if (needs) await tool.locator('select').selectOption(needs);
    }
    await page.keyboard.press('PageDown');
    await expect(heading).not.toHaveText(title);
  }
  await page.keyboard.press('PageDown');
}

/** Reads with the instrument, saying once per round that the ends are unplugged. */
export async function readMeter(page: Page): Promise<void> {
  await expect(page.getByRole('button', { name: /^Test R$/ })).toBeEnabled();
  await page.keyboard.press('r');
  const reminder = page.getByRole('button', { name: /Both ends are unplugged and dead/ });
  await expect(reminder.or(page.getByText('Readings, newest first')).or(verdict(page)).first()).toBeVisible();
  if (await reminder.isVisible()) await page.keyboard.press('Enter');
}

/** Looks at a simulated end as a person would, and saves what is seen. */
export async function lookAt(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Look at the simulated end' }).click();
  await page.getByRole('button', { name: /Save what was seen/ }).click();
}

/**
 * Waits for a room of a link: the room before it is left standing while this one is being loaded, and may have a
 * button of the same name.
 */
export async function inRoom(page: Page, name: string): Promise<void> {
  await expect(page.getByRole('heading', { level: 1, name: new RegExp(`, ${name}$`) })).toBeAttached();
}

/** The link's whole record as the server has it. */
export async function record(page: Page): Promise<{
  link: { stage: string; standing: string };
  tests: { reading: { instrument: string }; diagnosis: { result: string; headline: string } }[];
  terminations: { side: string }[];
  handovers: unknown[];
  cableWork: { kind: string }[];
}> {
  const id = /links\/([^/]+)/.exec(page.url())?.[1] ?? '';
  return (await page.request.get(`/api/links/${id}`)).json();
}

/** A link as a story plans it; both ends alike where only one connector is said. */
export interface StoryLink {
  label: string;
  cable: string;
  near: string;
  far?: string;
  room?: string;
  lengthM?: number;
  route?: { name: string; lengthM: number }[];
}

/** Sends something as whoever is signed in on the page. */
export async function send(page: Page, path: string, body: object): Promise<void> {
  const { token } = (await (await page.request.get('/api/session')).json()) as { token: string };
  const answer = await page.request.post(path, { data: body, headers: { 'x-near-spoke-token': token } });
  if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
}

/** A job of a story's own, so that no other story meets what it does; answers the ids of its links by their labels. */
export async function ownJob(
  page: Page,
  job: { site: string; title: string; hub: string },
  links: readonly StoryLink[],
): Promise<{ jobId: string; links: Record<string, string> }> {
  const jobId = crypto.randomUUID();
  await send(page, '/api/jobs', { id: jobId, ...job, scheme: 'T568B', units: 'metric' });
  const planned = links.map(
    ({ label, cable, near, far = near, room = 'hall', lengthM = 32, route = [] }, at) => ({
      id: crypto.randomUUID(),
      label,
      panel: 'P1',
      port: String(at + 1),
      room,
      outlet: `outlet ${at + 1}`,
      cableTypeId: cable,
      nearConnectorId: near,
      farConnectorId: far,
      lengthM,
      route,
    }),
  );
  await send(page, `/api/jobs/${jobId}/links`, { links: planned });
  return { jobId, links: Object.fromEntries(planned.map(({ label, id }) => [label, id])) };
}

/** Both ends of a link made, as good ones. */
export async function makeBothEnds(page: Page, linkId: string, connectorTypeId: string): Promise<void> {
  for (const side of ['near', 'far'])
    await send(page, `/api/links/${linkId}/terminations`, {
      id: crypto.randomUUID(),
      side,
      connectorTypeId,
      outcome: 'good',
      connectorsSpoiled: 0,
    });
}

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** Without frames to look into, axe may run in the page itself: a third of the time. */
export async function clean(page: Page, what: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).setLegacyMode().withTags(RULES).analyze();
  const told = violations.map((v) => `${what}: ${v.id} ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`);
  expect(told).toEqual([]);
}

/** Opens a link whose beeper is led, at its first touch. */
export async function leadBeeper(page: Page, label: string): Promise<void> {
  await enter(page);
  await openJob(page);
  await openLink(page, label);
  await expect(page.getByRole('button', { name: /^Beeper, led/ })).toBeVisible();
  await press(page, 'b');
  await press(page, 'Enter');
  await expect(page.getByText('Sweep: nothing should beep')).toBeVisible();
}
