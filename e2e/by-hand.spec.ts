import {
  clean,
  enter,
  expect,
  inRoom,
  makeBothEnds,
  openJob,
  openLink,
  ownJob,
  press,
  readMeter,
  row,
  test,
  verdict,
} from './crew.js';

test.describe('without a file', () => {
  test('a velocity by two typed figures, then the length on the drum by another time', async ({ page }) => {
    await enter(page);
    await page.goto('/kit/reels');
    await page.getByRole('link', { name: /RG-6 drum/ }).click();
    await page.getByRole('link', { name: 'Measure its velocity factor' }).click();
    await page.getByLabel('Piece 1, metres').fill('4');
    await page.getByText('No file: type the times off the screen').click();
    await page.getByLabel('Launch to echo, or both cursors').fill('32.1 ns');
    await page.getByLabel('Time per division').fill('5 ns');
    await page.getByLabel('Echo’s edge, about').fill('1 ns');
    // 2 x 4 m / (0.2998 m/ns x 32.1 ns) = 0.831
    await expect(page.getByText(/0\.83[12]\d ± 0\.0[01]\d\d/)).toBeVisible();
    await expect(page.getByText(/VF = 2 d \/ \(c t\) = 2 × 4\.00 m/)).toBeVisible();
    await page.getByRole('button', { name: 'Keep it for RG-6 drum' }).click();
    await expect(page.getByText('Kept for RG-6 drum.')).toBeVisible();

    await page.goto('/kit/reels');
    await page.getByRole('link', { name: /RG-6 drum/ }).click();
    // Another reel was measured by the same hand: it may still be the one that is shown.
    await expect(page.getByRole('heading', { name: 'RG-6 drum' })).toBeVisible();
    await expect(page.getByText(/measured on this reel, Tobi Lund/)).toBeVisible();
    await press(page, 'm');
    await page.getByText('No file: type the times off the screen').click();
    await page.getByLabel('Launch to echo, or both cursors').fill('0.80 us');
    await page.getByLabel('Time per division').fill('100 ns');
    await expect(page.getByText(/ m are on it, give or take/)).toBeVisible();
    await expect(page.getByText(/0\.83\d × 0\.2998 m\/ns × \(800\.0 −/)).toBeVisible();
    await page.getByRole('button', { name: 'Enter it in the ledger' }).click();
    const ledger = page.getByRole('region', { name: 'Ledger, newest first' });
    await expect(ledger.getByRole('row').nth(1)).toContainText(/measured, ± \d\.\d m at 0\.83/);
  });

  test('a fault is placed on the route by its echo’s time, with the keyboard alone', async ({ page }) => {
    await enter(page);
    await openJob(page);
    await openLink(page, 'P1-11');
    await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Locate' }).click();
    await inRoom(page, 'Locate');
    await press(page, 't');
    await page.getByLabel('Launch to echo, or both cursors').focus();
    await page.keyboard.type('12 ns to 153,8 ns');
    await press(page, 'Tab', 'Tab');
    await page.keyboard.type('20 ns');
    await expect(page.getByRole('heading', { name: /^Open at 14\.\d\d m$/ })).toBeVisible();
    await page.getByLabel('Both ends were unplugged and dead').focus();
    await press(page, ' ');
    const keep = page.getByRole('button', { name: /^Keep it as a reading/ });
    await expect(keep).toBeEnabled();
    await keep.focus();
    await press(page, 'Enter');
    await inRoom(page, 'Verify');
    await expect(verdict(page)).toContainText('1-2');
    await expect(page.getByText('cursors, read by eye off a screen').first()).toBeVisible();
  });

  test('an open is placed by two capacitances, and is a reading that the link is judged by', async ({
    page,
  }) => {
    await enter(page);
    await openJob(page);
    await expect(row(page, 'P1-12')).toBeVisible();
    await openLink(page, 'P1-12');
    await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Locate' }).click();
    await inRoom(page, 'Locate');
    await page.getByRole('button', { name: /^No file: times or a meter/ }).click();
    await page.getByRole('radio', { name: 'Capacitance' }).click();
    await page.getByLabel('From the near end').fill('0.62 nF');
    await page.getByLabel('From the far end').fill('610 pF');
    await expect(page.getByRole('heading', { name: /^Open at \d+\.\d\d m$/ })).toBeVisible();
    await expect(page.getByText(/ × 0\.620 \/ \(0\.620 \+ 0\.610\) = /)).toBeVisible();
    await page.getByLabel('Both ends were unplugged and dead').check();
    await page.getByRole('button', { name: /^Keep it as a reading/ }).click();
    await inRoom(page, 'Verify');
    await expect(page.getByText('capacitance meter').first()).toBeVisible();
  });

  test('a split that a plain map does not see, by a capacitance meter', async ({ page }) => {
    await enter(page, 'Ines Varga');
    const { jobId, links } = await ownJob(page, { site: 'Rope walk', title: 'Meter only', hub: 'R-1' }, [
      { label: 'R-01', cable: 'cat6-u', near: 'jack-punched' },
    ]);
    await makeBothEnds(page, links['R-01'] as string, 'jack-punched');
    await page.goto(`/jobs/${jobId}/links/${links['R-01']}/verify`);
    await readMeter(page);
    await expect(verdict(page)).toContainText('Map right');
    await page.getByRole('button', { name: /^Other/ }).click();
    await page.getByRole('button', { name: 'Capacitance' }).click();
    await page.getByRole('button', { name: 'taken at the near end' }).click();
    await clean(page, 'capacitances');
    await page.getByLabel('The leads alone').fill('10 pF');
    const figures = { '1-2': '1.58 nF', '3-6': '0.92 nF', '4-5': '930 pF', '7-8': '1,57 nF' };
    for (const [pair, figure] of Object.entries(figures))
      await page.getByLabel(pair, { exact: true }).fill(figure);
    await page.getByRole('button', { name: 'Save the observation' }).click();
    await expect(verdict(page)).toContainText('or is split');
    await expect(page.getByText(/^Both ends: laid pair by pair/)).toBeVisible();
  });
});
