import type { Page } from '@playwright/test';
import { clean, enter, expect, leadBeeper, press, record, test, verdict } from './crew';

test('two people prove one cable, each on a device; one is switched off in the middle and comes back', async ({
  page,
  browser,
  baseURL,
}) => {
  await leadBeeper(page, 'P1-17');
  await page.getByRole('button', { name: 'Show it at the other end too' }).click();
  const code = ((await page.locator('ns-code-sign .code').textContent()) ?? '').trim();
  await expect(page.getByRole('img', { name: `Code ${code} for a camera` })).toBeVisible();
  await clean(page, 'led beeper by two');

  // A phone of somebody who has no account.
  const phone = await browser.newContext({ baseURL: baseURL ?? '', viewport: { width: 390, height: 844 } });
  const come = async (): Promise<Page> => {
    const helper = await phone.newPage();
    await helper.goto('/help');
    return helper;
  };
  let helper = await come();
  await clean(helper, 'help by a code');
  await helper.getByLabel('Code').fill(code.toLowerCase());
  await helper.getByLabel('Your name').fill('Marek');
  await helper.getByRole('button', { name: 'Come to this end' }).click();
  await expect(helper.getByRole('heading', { name: 'Keep your lead off' })).toBeVisible();
  await expect(page.locator('ns-other-end')).toContainText('Marek at the far end');

  for (let touch = 0; touch < 7; touch++) {
    await press(page, 'PageUp');
    // Both hear of it, either one first.
    await expect(helper.getByText(`Touch ${touch + 2};`)).toBeVisible();
    await expect(page.getByText(`Touch ${touch + 2} of about`)).toBeVisible();
  }
  await expect(helper.getByRole('heading', { name: 'Put your lead on' })).toBeVisible();
  await helper.getByRole('button', { name: /^My probe is on/ }).click();
  await expect(page.locator('ns-other-end')).toContainText('is on 1');
  await clean(helper, 'a touch at the other end');
  const wide = await helper.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(390);
  await helper.getByRole('button', { name: /^It beeps/ }).click();
  await expect(page.getByText('Touch 9 of about')).toBeVisible();

  await helper.close();
  await press(page, 'PageDown');
  await expect(page.getByText('Touch 10 of about')).toBeVisible();
  helper = await come();
  // The phone knows what it helped with.
  await expect(helper.getByText('Touch 10;')).toBeVisible();
  await helper.getByRole('button', { name: /^Call them/ }).click();
  await expect(page.getByText('They call you.')).toBeVisible();
  for (let touch = 10; touch <= 15; touch++) {
    await helper.getByRole('button', { name: /^It beeps/ }).click();
    if (touch < 15) await expect(helper.getByText(`Touch ${touch + 1};`)).toBeVisible();
  }
  await expect(helper.getByRole('heading', { name: 'The whole map is known' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'The map is proved' })).toBeVisible();
  await press(page, 'Enter');
  await expect(verdict(page)).toContainText('Map right');
  const last = (await record(page)).tests.at(-1);
  const reading = last?.reading as { instrument: string; touches: unknown[] };
  expect([reading.instrument, reading.touches.length]).toEqual(['beeper', 15]);
  await expect(helper.getByRole('heading', { name: 'It is done' })).toBeVisible();
  await phone.close();
});

test('two people tell 25 unmarked wires apart, and the one that reads is switched off in the middle', async ({
  page,
  browser,
  baseURL,
}) => {
  await enter(page);
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  const wires = page.locator('ns-unmarked-wires');
  await wires.getByLabel('How many').fill('25');
  await wires.getByLabel(/There is a known return/).check();
  await wires.getByLabel(/Somebody is at the other end/).check();
  await expect(wires.getByText('5 rounds, A joining and B reading')).toBeVisible();
  await wires.getByRole('button', { name: 'Show it at the other end too' }).click();
  const code = ((await wires.locator('.code').textContent()) ?? '').trim();
  await wires.getByRole('radio', { name: 'I am at A, and join' }).click();

  const phone = await browser.newContext({
    baseURL: baseURL ?? '',
    viewport: { width: 390, height: 844 },
    colorScheme: 'dark',
  });
  let helper = await phone.newPage();
  await helper.goto(`/help/${code.replace(' ', '')}`);
  await helper.getByLabel('Your name').fill('Marek');
  await helper.getByRole('button', { name: 'Come to this end' }).click();
  await helper.getByRole('button', { name: 'These are their names' }).click();

  // Number n at A is called by the letter that comes seven later at B.
  const nameOf = (n: number): string => [...'ABCDEFGHIJKLMNOPQRSTUVWXY'][(n + 6) % 25] as string;
  for (let round = 1; round <= 5; round++) {
    await expect(wires.getByText(`Round ${round} of 5`)).toBeVisible();
    const join = ((await wires.locator('.join').textContent()) ?? '').trim().split(/\s+/).map(Number);
    await wires.getByRole('button', { name: 'Joined and proved' }).click();
    if (round === 3) {
      await helper.close();
      helper = await phone.newPage();
      await helper.goto('/help');
    }
    await expect(helper.getByRole('heading', { name: 'Which beep with the return?' })).toBeVisible();
    for (const n of join) await helper.getByRole('button', { name: nameOf(n), exact: true }).click();
    if (round === 1) await clean(helper, 'conductors that beep, dark');
    await helper.getByRole('button', { name: `${join.length} beep` }).click();
  }
  const known = wires.getByRole('list', { name: 'Number at A and name at B' }).getByRole('listitem');
  await expect(known).toHaveCount(25);
  for (const n of [1, 7, 25]) await expect(known.nth(n - 1)).toHaveText(`${n} is ${nameOf(n)}`);
  await expect(helper.getByRole('heading', { name: 'Every conductor is known' })).toBeVisible();
  await phone.close();
});

test('a lead with its ends out of reach is proved by two: one joins, the other meters', async ({
  page,
  browser,
  baseURL,
}) => {
  await enter(page);
  await page.goto('/bench/adapters');
  await page.getByRole('link', { name: 'Gangway intercom tail' }).click();
  await page.getByRole('link', { name: 'Prove', exact: true }).click();
  const way = page.getByRole('button', { name: /^Ends out of reach/ });
  await way.click();
  const total = Number(/(\d+) touches/.exec((await way.textContent()) ?? '')?.[1]);
  await page.getByRole('button', { name: 'Show it at the other end too' }).click();
  const code = ((await page.locator('ns-code-sign .code').textContent()) ?? '').trim();
  await clean(page, 'a lead out of reach');

  const phone = await browser.newContext({ baseURL: baseURL ?? '', viewport: { width: 390, height: 844 } });
  const helper = await phone.newPage();
  await helper.goto(`/help/${code.replace(' ', '')}`);
  await helper.getByLabel('Your name').fill('Marek');
  await helper.getByRole('button', { name: 'Come to this end' }).click();
  await expect(helper.getByRole('heading', { name: 'Join nothing' })).toBeVisible();
  let joined = 0;
  for (let touch = 0; touch < total; touch++) {
    await expect(helper.getByText(`Touch ${touch + 1};`)).toBeVisible();
    await expect(page.getByText(`${touch + 1} of `, { exact: false }).first()).toBeVisible();
    const words = (await page.locator('#prove-title').textContent()) ?? '';
    if (/Joined/.test(words)) {
      joined++;
      // "B 3 4" here is "B 3 + B 4" in the hand there.
      const [end = '', ...contacts] = ((await page.locator('.there strong').textContent()) ?? '')
        .trim()
        .split(' ');
      await expect(helper.locator('.touch')).toHaveText(contacts.map((c) => `${end} ${c}`).join(' + '));
      if (joined === 1) {
        await clean(helper, 'joining at the other end');
        await helper.getByRole('button', { name: /^I have joined them/ }).click();
        await expect(page.locator('ns-other-end')).toContainText('is on');
      }
    }
    await press(page, /should beep/.test(words) && !/nothing should/.test(words) ? 'PageDown' : 'PageUp');
  }
  expect(joined).toBeGreaterThan(1);
  await expect(helper.getByRole('heading', { name: 'All is touched' })).toBeVisible();
  await expect(page.getByText('No one mistake explains')).toHaveCount(0);
  await expect(page.getByText(/^It is /)).toHaveCount(0);
  await phone.close();
});
