import type { Page } from '@playwright/test';
import { enter, expect, test } from './crew';

const SIZES = [
  { width: 390, height: 844 },
  { width: 820, height: 1180 },
  { width: 1280, height: 800 },
];

/** Pages that are always there, and the rooms of a job and of a link, by what stands behind their address. */
const PAGES = [
  '/jobs',
  '/find',
  '/waiting',
  '/crew',
  '/kit',
  '/kit/reels',
  '/kit/connector/plug-closed',
  '/bench',
  '/bench/adapters',
  '/bench/practice',
  '/bench/make',
  '/bench/cords',
  '/bench/line',
  '/as-built',
  '/help',
];
const JOB_ROOMS = [
  '',
  '/plan',
  '/plan/table',
  '/days',
  '/materials',
  '/labels',
  '/round',
  '/tests',
  '/figures',
  '/hand-over',
];
const LINK_ROOMS = ['/plan', '/terminate', '/verify', '/locate', '/hand-over'];

/** What goes over the side of a page at some size, as words. */
async function overTheSide(page: Page, address: string): Promise<string[]> {
  await page.goto(address);
  await expect(page.locator('main').first()).toBeVisible();
  await page.waitForLoadState('networkidle');
  const over: string[] = [];
  for (const size of SIZES) {
    await page.setViewportSize(size);
    const wide = await page.evaluate(
      () =>
        new Promise<number>((told) =>
          requestAnimationFrame(() => told(document.documentElement.scrollWidth)),
        ),
    );
    if (wide > size.width) over.push(`${address} at ${size.width}: ${wide} px`);
  }
  return over;
}

test('no page goes over the side of a phone, a tablet or a laptop', async ({ page }) => {
  await enter(page, 'Ines Varga');
  const over: string[] = [];
  for (const address of PAGES) over.push(...(await overTheSide(page, address)));
  await page.goto('/jobs');
  const job = await page.getByRole('link', { name: 'Ticket hall refit' }).getAttribute('href');
  for (const room of JOB_ROOMS) over.push(...(await overTheSide(page, `${job}${room}`)));
  await page.goto(job ?? '');
  const link = await page.locator('ns-link-table tbody a').first().getAttribute('href');
  const bare = link?.replace(/\/(?:plan|terminate|verify|locate|hand-over)$/, '');
  for (const room of LINK_ROOMS) over.push(...(await overTheSide(page, `${bare}${room}`)));
  expect(over).toEqual([]);
});
