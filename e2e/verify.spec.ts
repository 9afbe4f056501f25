import { enter, expect, openJob, leadBeeper, press, record, test, verdict } from './crew';

test.describe('many links, one observation at a time', () => {
  test('a testing round is walked by the pedal, goes on for another person, and takes a table', async ({
    page,
    browser,
    baseURL,
  }) => {
    await enter(page);
    await openJob(page);
    await page.getByRole('link', { name: 'Testing round' }).click();
    await page.getByRole('button', { name: 'Read the known-good cord' }).click();
    await expect(page.getByText('The tester reads the good cord right.')).toBeVisible();
    await page.getByRole('button', { name: /begin the round/ }).click();
    const label = page.getByLabel('Label at the outlet');
    await expect(label).toHaveValue('P1-01');
    await press(page, 'PageDown');
    await expect(label).toHaveValue('P1-02');
    await press(page, 'PageDown');
    await expect(page.getByRole('row', { name: /P1-02/ })).toContainText('the same');
    await label.fill('P1-99');
    await expect(page.getByText('This job has no link P1-99.')).toBeVisible();
    await label.fill('P1-03');
    await page.getByRole('button', { name: 'Key in: all straight' }).click();
    await expect(page.getByRole('status')).toContainText('P1-03: Map right');
    await press(page, 'PageUp');
    await expect(page.getByRole('status')).toContainText('Map right, pairs right');

    const other = await (await browser.newContext({ baseURL: baseURL ?? '' })).newPage();
    await enter(other, 'Marit Osei');
    await openJob(other);
    await other.getByRole('link', { name: 'Testing round' }).click();
    await expect(other.getByRole('row', { name: /P1-03/ })).toContainText('Map right, pairs right');
    await expect(other.getByLabel('Label at the outlet')).toBeVisible();
    await other.context().close();

    await page.getByRole('button', { name: 'Bring readings in from a table' }).click();
    const csv = [
      'label,1,2,3,4,5,6,7,8',
      'P1-06,1,2,3,4,5,6,7,8',
      'P1-08,2,1,3,4,5,6,7,8',
      'P1-88,1,2,3,4,5,6,7,8',
    ].join('\r\n');
    await page.getByLabel(/A CSV or XLSX file/).setInputFiles({
      name: 'round.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(csv),
    });
    await expect(page.getByRole('row', { name: /P1-08/ })).toContainText('1 and 2 exchanged');
    await expect(page.getByRole('row', { name: /P1-88/ })).toContainText('This job has no link P1-88.');
    await page.getByRole('button', { name: 'Keep the 2 good rows only' }).click();
    await expect(page.getByRole('row', { name: /P1-08/ })).toContainText('1 and 2 exchanged');
    await expect(page.getByRole('row', { name: /P1-06/ })).toContainText('Map right');
  });

  test('a beeper is led through fifteen touches to a proved map', async ({ page }) => {
    await leadBeeper(page, 'P1-17');
    for (let touch = 0; touch < 7; touch++) await press(page, 'PageUp');
    for (let touch = 0; touch < 8; touch++) await press(page, 'PageDown');
    await expect(page.getByRole('heading', { name: 'The map is proved' })).toBeVisible();
    await press(page, 'Enter');
    await expect(verdict(page)).toContainText('Map right');
    expect((await record(page)).tests.at(-1)?.reading.instrument).toBe('beeper');
  });

  test('a practice link is broken, looked at and laid open', async ({ page }) => {
    await enter(page);
    await page.getByRole('link', { name: 'Bench', exact: true }).click();
    await page.getByRole('button', { name: 'Break a link for me' }).click();
    await page.getByRole('button', { name: 'Far colours' }).click();
    await page.getByRole('button', { name: 'Mapper with crosstalk' }).click();
    await expect(page.getByRole('list', { name: 'What was seen' }).getByRole('listitem')).toHaveCount(2);
    await page.getByRole('button', { name: 'far end', exact: true }).click();
    await page.getByRole('button', { name: 'That is my answer' }).click();
    await expect(page.getByText(/^(Right|Not so)\./)).toBeVisible();
  });
});
