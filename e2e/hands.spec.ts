import { enter, expect, openJob, openLink, press, record, row, test, verdict, walkCard } from './crew';

test.describe('with the hands busy', () => {
  test.beforeEach(async ({ page }) => {
    await enter(page, 'Marit Osei');
    await openJob(page);
  });

  test('a passing link costs three keys from the list to the saved record, the next one two', async ({
    page,
  }) => {
    for (const label of ['D-01', 'D-02']) {
      await row(page, label).getByRole('link').click();
      await walkCard(page, 'far');
      await page.getByRole('link', { name: 'Ticket hall refit' }).click();
      await expect(row(page, label)).toContainText('to be tested');
    }
    await row(page, 'D-01').getByRole('link').focus();
    await press(page, 'Enter');
    await expect(verdict(page)).toHaveText('Not tested yet');
    await press(page, 'r', 'Enter');
    await expect(verdict(page)).toContainText('Map right');
    expect((await record(page)).link.stage).toBe('proved');
    await page.getByRole('link', { name: 'Ticket hall refit' }).click();
    await row(page, 'D-02').getByRole('link').focus();
    await press(page, 'Enter');
    await expect(verdict(page)).toHaveText('Not tested yet');
    await press(page, 'r');
    await expect(verdict(page)).toContainText('Map right');
  });

  test('a reading is keyed in without a mouse: straight in one key, a short and an open too, and corrected', async ({
    page,
  }) => {
    await row(page, 'D-03').getByRole('link').click();
    await walkCard(page, 'far');
    await expect(verdict(page)).toHaveText('Not tested yet');
    await press(page, 'k', 'Enter');
    await expect(page.getByRole('heading', { name: 'Key the reading in' })).toBeVisible();
    await press(page, '1', '2', '+', '3', '0', '=', 'Enter');
    await expect(verdict(page)).toContainText('2 arrives at 2 and 3 together; 3 open');
    const slipped = await record(page);
    expect(slipped.tests[0]?.diagnosis.result).toBe('fail');
    await page.getByRole('button', { name: 'Correct it' }).click();
    await press(page, '1', '3', 'Backspace', '=', 'Enter');
    await expect(verdict(page)).toContainText('Map right');
    await expect(page.locator('ul.history')).toContainText('corrected since');
    const stored = await record(page);
    expect(stored.tests.length).toBe(2);
    expect(stored.link.stage).toBe('proved');
  });

  test('the colours are keyed in by letters', async ({ page }) => {
    await row(page, 'P1-17').getByRole('link').click();
    await expect(verdict(page)).toContainText('Map right');
    await press(page, 'c');
    await expect(page.getByRole('heading', { name: /What do you see in the far jack/ })).toBeVisible();
    await press(page, 'w', 'o', 'o', 'w', 'g', 'u', 'w', 'u', 'g', 'w', 'n', 'n');
    await expect(page.getByText('As the card.')).toBeVisible();
    await press(page, 'Escape');
    await expect(verdict(page)).toContainText('Map right');
  });

  test('Page Down and Page Up walk a card; what was spoiled is counted and recorded', async ({ page }) => {
    await row(page, 'D-04').getByRole('link').click();
    await expect(page.getByRole('heading', { name: 'Strip 40 ± 3 mm of jacket' })).toBeVisible();
    await press(page, 'PageDown', 'PageDown');
    await expect(page.getByRole('heading', { name: 'Lay each conductor by the T568B label' })).toBeVisible();
    await expect(page.getByRole('img', { name: /Jack slots from the cable side/ })).toBeVisible();
    await press(page, 'PageUp');
    await expect(page.getByRole('heading', { name: 'Trim the separator and pull cord' })).toBeVisible();
    await press(page, 'x', 'x');
    await walkCardFromHere(page);
    await expect(page.getByRole('button', { name: 'Far end', exact: true })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await page.getByRole('button', { name: 'Near end', exact: true }).click();
    await page.getByRole('button', { name: /Record it/ }).click();
    await expect(page.getByLabel('Earlier tries at this end')).toContainText('good, 2 spoiled');
  });

  test('the plug turns in the hand: latch up reads 8 to 1, and the whole card can be shown', async ({
    page,
  }) => {
    await openLink(page, 'P1-07');
    await page.getByRole('link', { name: 'Terminate' }).click();
    await page.getByRole('button', { name: 'Far end', exact: true }).click();
    await page.getByRole('button', { name: /Lay the eight in order/ }).click();
    await expect(
      page.getByRole('img', { name: /Plug, latch down, from the left: 1 WH-OG, 2 OG/ }),
    ).toBeVisible();
    await press(page, 't');
    await expect(
      page.getByRole('img', { name: /Plug, latch up, from the left: 8 BN, 7 WH-BN/ }),
    ).toBeVisible();
    await page.getByLabel('Where the cable comes from').selectOption('cable in my right hand');
    await expect(page.getByRole('img', { name: /from the top: 1 WH-OG/ })).toBeVisible();
    await press(page, 'f');
    await expect(
      page.getByRole('img', { name: /Mating face of the plug, latch up, from the left: 1 WH-OG/ }),
    ).toBeVisible();
    await press(page, 'f', 'w');
    await expect(page.getByRole('heading', { name: 'Lay out' })).toBeVisible();
    await expect(page.locator('.middle article')).toHaveCount(8);
  });

  test('? lists the keys of the page', async ({ page }) => {
    await press(page, '?');
    const list = page.getByRole('dialog', { name: 'Keys here' });
    await expect(list).toContainText('open the link that needs work next');
    await press(page, 'Escape');
    await expect(list).toBeHidden();
  });
});

async function walkCardFromHere(page: Parameters<typeof press>[0]): Promise<void> {
  const record = page.getByRole('heading', { name: 'How did it go?' });
  for (let presses = 0; presses < 12 && !(await record.isVisible()); presses++) {
    const before = await page.locator('.middle h2').textContent();
    await press(page, 'PageDown');
    await expect(page.locator('.middle h2')).not.toHaveText(before ?? '');
  }
  await press(page, 'PageDown');
}
