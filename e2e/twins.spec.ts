import type { Page } from '@playwright/test';
import {
  enter,
  expect,
  makeBothEnds,
  next,
  openLink,
  ownJob,
  press,
  readMeter,
  record,
  test,
  verdict,
  walkCard,
} from './crew';

/**
 * The failure stories of the demo once more on a telephone line and on coax: wires exchanged, another order at one
 * end, split, broken, a screen open, water. What was read is keyed in, as with an instrument that speaks no protocol.
 * Two have no twin: coax has no pair to exchange or to split; a telephone line has no screen. A strand across the
 * connector stands in for the first.
 */
const LINKS = [
  ...['T-1', 'T-2', 'T-3', 'T-4', 'T-6'].map((label) => ({ label, cable: 'cat5e-u', near: 'phone-socket' })),
  ...['K-1', 'K-4', 'K-5'].map((label) => ({ label, cable: 'rg6', near: 'coax-f' })),
];

/** A job of its own, both ends of every link made. */
async function twins(page: Page): Promise<void> {
  await enter(page, 'Ines Varga');
  const { jobId, links } = await ownJob(
    page,
    { site: 'Net loft', title: 'Lines and aerials', hub: 'N-1' },
    LINKS,
  );
  for (const { label, near } of LINKS) await makeBothEnds(page, links[label] as string, near);
  await page.goto(`/jobs/${jobId}`);
  await expect(page.locator('ns-link-table tbody tr').first()).toBeVisible();
}

async function atLink(page: Page, label: string): Promise<void> {
  await twins(page);
  await openLink(page, label);
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Verify' }).click();
  await expect(verdict(page)).toHaveText('Not tested yet');
}

/** Says once that the ends are dead, where that is asked. */
async function dead(page: Page): Promise<void> {
  const reminder = page.getByRole('button', { name: /Both ends are unplugged and dead/ });
  const form = page.locator('#key-in-title, #other-title, #colour-title');
  await expect(reminder.or(form)).toBeVisible();
  if (await reminder.isVisible()) await reminder.click();
}

/** Keys in where each near contact arrives: a contact, several, or nowhere. */
async function keyIn(
  page: Page,
  rows: readonly (readonly string[])[],
  { crosstalk = false, split = [] as string[] } = {},
): Promise<void> {
  await page.getByRole('button', { name: /^Key in/ }).click();
  await dead(page);
  await page
    .getByLabel('read with')
    .selectOption({ label: crosstalk ? 'coded mapper with crosstalk' : 'coded mapper' });
  const pad = page.locator('.pad');
  for (const [first, ...more] of rows) {
    if (first === undefined) await page.getByRole('button', { name: /^Nowhere/ }).click();
    else await pad.getByRole('button', { name: first, exact: true }).click();
    for (const other of more) {
      await page.getByRole('button', { name: /^And also/ }).click();
      await pad.getByRole('button', { name: other, exact: true }).click();
    }
  }
  for (const pair of split) await page.getByRole('button', { name: `${pair} whole` }).click();
  await page.getByRole('button', { name: /^Save the reading/ }).click();
}

/** Keys in the first echo of the pair. */
async function echo(
  page: Page,
  pair: string,
  metres: string,
  { from = 'near', kind = 'open' } = {},
): Promise<void> {
  await page.getByRole('button', { name: /^Other/ }).click();
  await dead(page);
  await page.getByRole('button', { name: 'Reflectometer' }).click();
  await page.getByRole('button', { name: `taken at the ${from} end` }).click();
  await page.getByLabel(`${pair}, metres`).fill(metres);
  await page.getByLabel(`${pair}, kind of echo`).selectOption(kind);
  await page.getByRole('button', { name: 'Save the observation' }).click();
}

/** Says which colours lie at an end, in the order of its contacts. */
async function colours(page: Page, end: 'Near' | 'Far', seen: readonly string[]): Promise<void> {
  await page.getByRole('button', { name: `${end} colours` }).click();
  for (const code of seen) await page.locator('.palette').getByText(code, { exact: true }).click();
  await page.getByRole('button', { name: /Save what was seen/ }).click();
}

const evidence = (page: Page, words: string) => expect(page.getByText(words, { exact: true })).toBeVisible();

/** The end that is to be made again is, and the map is right then. */
async function redone(page: Page, end: 'near' | 'far'): Promise<void> {
  await expect(next(page)).toHaveText(`Redo the ${end} end`);
  await press(page, 'Enter');
  await walkCard(page, end);
}

async function proved(page: Page): Promise<void> {
  await readMeter(page);
  await expect(verdict(page)).toContainText('Map right');
  expect((await record(page)).link.stage).toBe('proved');
}

/** How sure one echo makes of a break hangs on how many breaks this crew has met so far. */
const afterOneEcho = /^(Measure with a reflectometer from the far end|Mend the cable and record it)$/;

test.describe('the same failures on a telephone line', () => {
  test('legs exchanged at one end: the colours say at which', async ({ page }) => {
    await atLink(page, 'T-1');
    await keyIn(page, [['b'], ['a']]);
    await expect(verdict(page)).toContainText('A and b exchanged');
    await expect(next(page)).toHaveText("Read the far end's colours");
    await colours(page, 'Far', ['BU', 'WH-BU']);
    await evidence(page, 'All the evidence points to the far end.');
    await redone(page, 'far');
    await proved(page);
  });

  test('the far socket on another pair: nothing arrives until it is laid as the near one', async ({
    page,
  }) => {
    await atLink(page, 'T-2');
    await keyIn(page, [[], []]);
    await expect(verdict(page)).toContainText('Nothing arrives');
    await colours(page, 'Far', ['WH-OG', 'OG']);
    await evidence(page, 'All the evidence points to the far end.');
    await redone(page, 'far');
    await proved(page);
  });

  test('a leg on another pair at both ends: the map is right, the pair is split', async ({ page }) => {
    await atLink(page, 'T-3');
    await keyIn(page, [['a'], ['b']], { crosstalk: true, split: ['a-b'] });
    await expect(verdict(page)).toContainText('Split pair on a-b');
    // One reading of crosstalk does not open two sockets.
    await expect(next(page)).toHaveText(/Read it again/);
    await colours(page, 'Near', ['WH-BU', 'OG']);
    await evidence(page, 'All the evidence points to the near end and the far end.');
    await redone(page, 'near');
    await keyIn(page, [['a'], []]);
    await expect(verdict(page)).toContainText('B open');
    await redone(page, 'far');
    await proved(page);
  });

  test('a leg broken on the way: seen from both ends at one place, the cable is replaced', async ({
    page,
  }) => {
    await atLink(page, 'T-4');
    await keyIn(page, [['a'], []]);
    await echo(page, 'a-b', '12');
    await expect(next(page)).toHaveText(afterOneEcho);
    await echo(page, 'a-b', '20.3', { from: 'far' });
    await evidence(page, 'All the evidence points to the cable.');
    await expect(page.locator('ns-link-strip .note')).toHaveText(/^broken, 1[12]\.\d m$/);
    await expect(next(page)).toHaveText('Mend the cable and record it');
    await press(page, 'Enter');
    await page.getByRole('button', { name: 'Record it' }).click();
    await expect(next(page)).toHaveText('Terminate the near end');
    await press(page, 'Enter');
    await walkCard(page, 'near');
    await walkCard(page, 'far');
    await proved(page);
  });

  test('water on the way: a right map does not pass it, and no cable is opened on one echo', async ({
    page,
  }) => {
    await atLink(page, 'T-6');
    await keyIn(page, [['a'], ['b']]);
    await expect(verdict(page)).toContainText('Map right');
    await echo(page, 'a-b', '12', { kind: 'low' });
    await expect(verdict(page)).toContainText('Low impedance at 12.0 m');
    // Which words depends on how often this crew met water so far; none of them is to open the cable.
    await expect(next(page)).toHaveText(/^(Measure with a reflectometer|Read it again)$/);
    await echo(page, 'a-b', '12.2', { kind: 'low' });
    await expect(next(page)).toHaveText('Mend the cable and record it');
    expect((await record(page)).link.stage).toBe('failed');
  });
});

test.describe('the same failures on coax', () => {
  test('a strand of the braid across the far connector: the echo says at which end', async ({ page }) => {
    await atLink(page, 'K-1');
    await keyIn(page, [
      ['C', 'S'],
      ['C', 'S'],
    ]);
    await expect(verdict(page)).toContainText('C and screen joined');
    await expect(next(page)).toHaveText('Measure with a reflectometer');
    await echo(page, 'C-S', '32.1', { kind: 'short' });
    await redone(page, 'far');
    await proved(page);
  });

  test('the centre broken on the way', async ({ page }) => {
    await atLink(page, 'K-4');
    await keyIn(page, [[], ['S']]);
    await expect(verdict(page)).toContainText('C open');
    await echo(page, 'C-S', '20');
    await expect(next(page)).toHaveText(afterOneEcho);
    await echo(page, 'C-S', '12.2', { from: 'far' });
    await evidence(page, 'All the evidence points to the cable.');
    await expect(next(page)).toHaveText('Mend the cable and record it');
  });

  test('the shell open at the far end', async ({ page }) => {
    await atLink(page, 'K-5');
    await keyIn(page, [['C'], []]);
    await expect(verdict(page)).toContainText('Screen open');
    await echo(page, 'C-S', '32');
    await expect(page.getByText(/^Most likely the far end/)).toBeVisible();
    await redone(page, 'far');
    await proved(page);
  });
});
