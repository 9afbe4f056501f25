import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { enter, expect, ownJob, press, row, test } from './crew';

/** One end of each family of the trade that the demo's crew meets. */
const ENDS = [
  { label: 'W-1', cable: 'cat6-f-outdoor', near: 'jack-punched-screened', far: 'plug-outdoor' },
  { label: 'W-2', cable: 'cat6-u', near: 'jack-toolless', far: 'plug-closed' },
  { label: 'W-3', cable: 'tel-2', near: 'phone-socket', far: 'phone-socket' },
  { label: 'W-4', cable: 'rg213', near: 'coax-n', far: 'coax-n' },
  { label: 'W-5', cable: 'rg6', near: 'coax-f', far: 'coax-f' },
] as const;

/** A job of this test's own, opened. */
async function openOwnJob(
  page: Page,
  title: string,
  ends: readonly (typeof ENDS)[number][] = ENDS,
): Promise<void> {
  await enter(page, 'Ines Varga');
  const links = ends.map((end) => ({ ...end, lengthM: 20 }));
  const { jobId } = await ownJob(page, { site: 'Bench', title, hub: 'B-1' }, links);
  await page.goto(`/jobs/${jobId}`);
  await expect(page.locator('ns-link-table tbody tr').first()).toBeVisible();
}

/** Opens a link from the list; its card is there when this returns. */
async function open(page: Page, label: string): Promise<void> {
  await row(page, label).getByRole('link', { name: label, exact: true }).click();
  await expect(page.locator('aside.steps ol li').first()).toBeVisible();
}
const heading = (page: Page) => page.locator('.middle h2');
const goOn = (page: Page) => page.getByRole('button', { name: /Page Down/ });

/** Walks from the step in hand to the record, taking the right die or adapter where one is asked for. */
async function walk(page: Page, end: 'near' | 'far'): Promise<string[]> {
  await expect(
    page.getByRole('button', { name: `${end === 'near' ? 'Near' : 'Far'} end`, exact: true }),
  ).toHaveAttribute('aria-pressed', 'true');
  const titles: string[] = [];
  for (;;) {
    const title = (await heading(page).textContent()) ?? '';
    if (title === 'How did it go?') return titles;
    titles.push(title);
    for (const tool of await page.locator('ns-tool-in-hand').all()) {
      const needs = /This needs (\S+)\. Read/.exec((await tool.textContent()) ?? '')?.[1];
      if (needs) await tool.locator('select').selectOption(needs);
    }
    await expect(goOn(page)).toBeEnabled();
    await press(page, 'PageDown');
    await expect(heading(page)).not.toHaveText(title);
  }
}

/** The first step of either end of each link of ENDS: what goes over the cable before it is stripped; a tie that opens along its length may wait. */
const FIRST: Record<string, [near: string, far: string]> = {
  'W-1': ['Strip 40 ± 3 mm of jacket', 'Thread the boot and screen sleeve'],
  'W-2': ['Thread the wiring cap', 'Thread the boot'],
  'W-3': ['Take the line off, prove it dead', 'Take the line off, prove it dead'],
  'W-4': ['Thread the heat-shrink and ferrule', 'Thread the heat-shrink and ferrule'],
  'W-5': [
    'Strip: jacket 12.7 ± 0.5 mm, screen 6.4 ± 0.5 mm, dielectric 6.4 ± 0.5 mm',
    'Strip: jacket 12.7 ± 0.5 mm, screen 6.4 ± 0.5 mm, dielectric 6.4 ± 0.5 mm',
  ],
};

for (const end of ENDS)
  test(`both ends of ${end.label} are walked from the link to its record, rings first`, async ({ page }) => {
    await openOwnJob(page, `Family of ${end.label}`, [end]);
    await open(page, end.label);
    const near = await walk(page, 'near');
    await press(page, 'PageDown');
    await expect(page.getByRole('button', { name: 'Far end', exact: true })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    const far = await walk(page, 'far');
    await press(page, 'PageDown');
    await expect(page.locator('#verdict-title')).toBeVisible();
    await page.getByRole('link', { name: `Family of ${end.label}` }).click();
    await expect(row(page, end.label)).toContainText('to be tested');
    expect([near[0], far[0]]).toEqual(FIRST[end.label]);
  });

test('a wrong die is caught before it is pressed', async ({ page }) => {
  await openOwnJob(page, 'Wrong die', [ENDS[3]]);
  await open(page, 'W-4');
  await page.getByRole('button', { name: /Crimp with the \.429 die/ }).click();
  await page.getByLabel(/Die in your hand/).selectOption('.360');
  await expect(page.getByText('Wrong die: .360 is 1.8 mm too narrow for .429')).toBeVisible();
  await expect(goOn(page)).toBeDisabled();
  await press(page, 'PageDown');
  await expect(heading(page)).toHaveText('Crimp with the .429 die');
  await page.getByLabel(/Die in your hand/).selectOption('.429');
  await expect(goOn(page)).toBeEnabled();
  await press(page, 'PageDown');
  await expect(heading(page)).toHaveText('Heat-shrink over the ferrule');
});

test('a forgotten boot: what can still be done, what it costs, and the way chosen stays on the record', async ({
  page,
}) => {
  await openOwnJob(page, 'Forgotten boot', [ENDS[1]]);
  await open(page, 'W-2');
  await page.getByRole('button', { name: 'Far end', exact: true }).click();
  await page.getByRole('button', { name: /Look, tug, close up/ }).click();
  await press(page, 'o');
  await page.getByLabel('Thread the boot').uncheck();
  await expect(page.getByText('boot cannot go on any more.')).toBeVisible();
  const ways = page.locator('.answer li');
  await expect(ways).toHaveCount(3);
  await expect(ways.nth(0)).toContainText('a split boot');
  await expect(ways.nth(1)).toContainText('Costs 1 connector, 4.1 min, 40 mm of cable.');
  await ways.nth(1).getByRole('button', { name: 'Do this' }).click();
  await expect(heading(page)).toHaveText('Thread the boot');
  await walk(page, 'far');
  await expect(page.getByRole('status').filter({ hasText: /^1$/ })).toBeVisible();
  await page.getByRole('button', { name: /Look, tug, close up/ }).click();
  await press(page, 'o');
  await page.getByLabel('Thread the boot').uncheck();
  await ways.nth(0).getByRole('button', { name: 'Do this' }).click();
  await press(page, 'PageDown');
  await expect(page.getByText('Stopgap, stays on the record until redone:')).toBeVisible();
  await press(page, 'PageDown');
  await expect(page.getByRole('button', { name: 'Near end', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('button', { name: 'Far end', exact: true }).click();
  await page.getByRole('button', { name: /Record it/ }).click();
  await expect(page.getByLabel('Earlier tries at this end')).toContainText(
    'Stopgap: Go on, and use a split boot',
  );
});

test('a mirrored insertion and a slipped pair are caught before the crimp', async ({ page }) => {
  await openOwnJob(page, 'Slipped pair', [ENDS[1]]);
  await open(page, 'W-2');
  await page.getByRole('button', { name: 'Far end', exact: true }).click();
  await page.getByRole('button', { name: /Push home, read the colours/ }).click();
  const read = async (keys: string): Promise<void> => {
    await press(page, 'c');
    await expect(page.getByRole('heading', { name: 'What do you see in the far plug?' })).toBeVisible();
    await press(page, ...keys, 'Enter');
    await expect(heading(page)).toHaveText('Push home, read the colours through the front');
  };
  await read('nwngwuuwgowo');
  await expect(page.getByText('The whole order is mirrored')).toBeVisible();
  await press(page, 'PageDown');
  await expect(heading(page)).toHaveText('Push home, read the colours through the front');
  await read('woowgwuugwnn');
  await expect(page.getByText('4 and 5 have slipped: WH-BU on 4 and BU on 5.')).toBeVisible();
  await expect(page.locator('ns-plug-face .slipped')).toHaveCount(2);
  await read('woowguwugwnn');
  await expect(page.getByText('Read back: as the card.')).toBeVisible();
  await press(page, 'PageDown');
  await expect(heading(page)).toHaveText('Crimp');
});

test('the figures of the sheet in the bag are kept for next time; a card of before still shows its own', async ({
  page,
}) => {
  await openOwnJob(page, 'Sheet in the bag', [
    { ...ENDS[1], far: 'plug-closed', near: 'wall-block-row' } as never,
  ]);
  await open(page, 'W-2');
  await expect(heading(page)).toHaveText('Strip 45 ± 5 mm of jacket');
  await walk(page, 'near');
  await press(page, 'PageDown');
  await expect(heading(page)).toHaveText('Thread the boot');
  await page.getByRole('button', { name: 'Near end', exact: true }).click();
  await page.getByRole('button', { name: 'The sheet in the bag says otherwise' }).click();
  await page.getByLabel('Jacket off, from the end').fill('0');
  await expect(page.getByRole('button', { name: 'Keep these figures' })).toBeDisabled();
  await page.getByLabel('Jacket off, from the end').fill('38');
  await page.getByRole('button', { name: 'Keep these figures' }).click();
  await expect(heading(page)).toHaveText('Strip 38 ± 5 mm of jacket');
  await page.getByRole('button', { name: /Record it/ }).click();
  const download = page.waitForEvent('download');
  await page.getByLabel('Earlier tries at this end').getByRole('link', { name: 'Its card' }).click();
  const pdf = readFileSync(await (await download).path(), 'latin1');
  expect(pdf.startsWith('%PDF')).toBeTruthy();
  await page.goto('/kit/connector/wall-block-row');
  await expect(page.getByText('wall-block-row, version 2, figures from a sheet.')).toBeVisible();
  await page.getByRole('button', { name: 'Version 1' }).click();
  await expect(page.locator('[id="strip.jacketMm"]')).toHaveValue('45');
});

test('a connector of one’s own is drawn while it is typed, refused while it makes no sense, and kept', async ({
  page,
}) => {
  await enter(page, 'Tobi Lund');
  await page.getByRole('link', { name: 'Kit' }).click();
  await page.getByLabel('Find a sheet by name').fill('n plug, crimp, for RG-58');
  await page.getByRole('link', { name: /^N plug, crimp, for RG-58/ }).click();
  await page.getByRole('button', { name: 'Copy as a new one' }).click();
  await page.getByLabel('Short name, for files and addresses').fill('our-n-58');
  await page.locator('[id="name"]').fill('N plug, the bag from the quay');
  await page.locator('[id="strip.screenMm"]').fill('99');
  await expect(page.getByText('The screen is not opened further than the jacket (22 mm).')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep the new sheet' })).toBeDisabled();
  await page.locator('[id="strip.screenMm"]').fill('13');
  await expect(page.locator('ns-sheet-preview ns-strip-plan svg')).toHaveAttribute(
    'aria-label',
    /screen off 13 mm/,
  );
  await page.locator('[id="part-0boreMm"]').fill('4.5');
  await expect(page.locator('ns-sheet-preview')).toContainText('does not pass this jacket');
  await page.locator('[id="part-0boreMm"]').fill('5.6');
  await page.getByRole('button', { name: 'Keep the new sheet' }).click();
  await expect(page.getByText('N plug, the bag from the quay is kept as version 1.')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save as a file' }).click();
  const path = await (await download).path();
  const file = JSON.parse(readFileSync(path, 'utf8')) as { connectors: { id: string }[] };
  expect(file.connectors.some((c) => c.id === 'our-n-58')).toBeTruthy();
  const take = page.getByLabel('Take from a file');
  await take.setInputFiles({
    name: 'kit.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"no"}'),
  });
  await expect(page.getByText(/kit\.json: format: The file does not begin/)).toBeVisible();
  await take.setInputFiles(path);
  await expect(page.getByText(/Taken: 0 new, 0 changed/)).toBeVisible();
});

test('a round of like ends is recorded by one key each', async ({ page }) => {
  const like = ['R-1', 'R-2', 'R-3', 'R-4'].map((label) => ({ ...ENDS[1], label }) as never);
  await openOwnJob(page, 'Round of four', like);
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Terminate' }).click();
  await page.getByRole('link', { name: 'Make like ends in one round' }).click();
  await page.getByRole('button', { name: /4 × 8-contact jack, tool-less/ }).click();
  for (const label of ['R-1', 'R-2', 'R-3']) {
    await expect(page.getByRole('heading', { level: 1 })).toContainText(label);
    await press(page, 'PageDown');
  }
  await expect(page.getByRole('heading', { level: 1 })).toContainText('R-4');
  await press(page, 'x', 'PageDown');
  await expect(page.getByRole('heading', { name: 'The round is at its end' })).toBeVisible();
  await page.getByRole('button', { name: 'Other like ends' }).click();
  await expect(page.getByRole('button', { name: /4 × 8-contact plug, closed end/ })).toBeVisible();
  await page.getByRole('link', { name: 'Round of four' }).click();
  await expect(row(page, 'R-4')).toContainText('far end waits');
});
