import {
  enter,
  expect,
  inRoom,
  lookAt,
  next,
  openJob,
  openLink,
  press,
  readMeter,
  record,
  row,
  test,
  verdict,
  walkCard,
} from './crew';

test.describe('the failure stories of the demo, from the list to the stored record', () => {
  test.beforeEach(async ({ page }) => {
    await enter(page);
    await openJob(page);
  });

  test('P1-05, exchanged wires: colours settle the end, the far plug is redone, proved and handed over', async ({
    page,
  }) => {
    await expect(row(page, 'P1-05')).toContainText('1 and 2 exchanged');
    await openLink(page, 'P1-05');
    await expect(verdict(page)).toContainText('1 and 2 exchanged');
    await expect(page.locator('.belief')).toHaveText([/^4\d %$/, /^4\d %$/]);
    await expect(next(page)).toHaveText("Read the far plug's colours");
    await press(page, 'Enter');
    await lookAt(page);
    await expect(page.getByText('All the evidence points to the far end.')).toBeVisible();
    await expect(page.locator('.belief')).toHaveText(['100 %']);
    await page.getByRole('button', { name: /Redo the far end/ }).click();
    await walkCard(page, 'far');
    await expect(verdict(page)).toHaveText('Worked on since the last reading');
    await readMeter(page);
    await expect(verdict(page)).toContainText('Map right, pairs right');
    await page.getByRole('button', { name: /^Hand it over/ }).click();
    await inRoom(page, 'Hand over');
    await page.getByRole('button', { name: /^Hand it over/ }).click();
    await expect(page.getByRole('heading', { name: 'P1-05 is handed over' })).toBeVisible();
    const stored = await record(page);
    expect(stored.link.stage).toBe('handed-over');
    expect(stored.tests.map((t) => t.diagnosis.result)).toEqual(['fail', 'fail', 'pass']);
    expect(stored.handovers.length).toBe(1);
    await page.getByRole('link', { name: 'Ticket hall refit' }).click();
    await expect(row(page, 'P1-05')).toContainText('handed over');
  });

  test('P1-09, mixed schemes: redoing the wrong end does not help, redoing the right one does', async ({
    page,
  }) => {
    await openLink(page, 'P1-09');
    await expect(verdict(page)).toContainText('One end is T568A, the other T568B');
    const here = page.url();
    await page.goto(here.replace('/verify', '/terminate?end=near'));
    await walkCard(page, 'near');
    await readMeter(page);
    await expect(verdict(page)).toContainText('One end is T568A, the other T568B');
    await page.getByRole('button', { name: 'Far colours' }).click();
    await lookAt(page);
    await expect(next(page)).toHaveText('Redo the far end');
    await press(page, 'Enter');
    await walkCard(page, 'far');
    await readMeter(page);
    await expect(verdict(page)).toContainText('Map right');
    expect((await record(page)).terminations.map((t) => t.side)).toEqual(['near', 'far', 'near', 'far']);
  });

  test('P1-13, split pairs: the lamps still pass it, the crosstalk mapper does not, and both ends are redone', async ({
    page,
  }) => {
    await openLink(page, 'P1-13');
    await expect(verdict(page)).toContainText('Split pairs on 3-6 and 4-5');
    await expect(page.locator('ul.history')).toContainText('Every lamp lit');
    await page.getByRole('button', { name: 'Test with another instrument' }).click();
    await page.getByRole('menuitem', { name: 'lamp tester, far end bridged' }).click();
    await press(page, 'Enter');
    await expect(page.locator('ul.history li')).toHaveCount(3);
    await expect(verdict(page)).toContainText('Split pairs on 3-6 and 4-5');
    await expect(next(page)).toHaveText('Redo the near end');
    await press(page, 'Enter');
    await walkCard(page, 'near');
    await page.getByRole('button', { name: 'Test with another instrument' }).click();
    await page.getByRole('menuitem', { name: /^coded mapper with crosstalk/ }).click();
    await expect(verdict(page)).toContainText('exchanged');
    await expect(next(page)).toHaveText('Redo the far end');
    await press(page, 'Enter');
    await walkCard(page, 'far');
    await readMeter(page);
    await expect(verdict(page)).toContainText('Map right, pairs right');
    expect((await record(page)).link.stage).toBe('proved');
  });

  test('P1-16, broken conductor: the distance opens wall bay 4, the cable is replaced and both ends made again', async ({
    page,
  }) => {
    await openLink(page, 'P1-16');
    await expect(verdict(page)).toContainText('4 open; open at 23.0 m on 4-5');
    await expect(page.locator('ns-link-strip .stretch-name.hit')).toHaveText('wall bay 4');
    await expect(page.locator('ns-link-strip .note')).toHaveText('broken, 23.0 m');
    await expect(next(page)).toHaveText('Mend the cable and record it');
    await press(page, 'Enter');
    await expect(page.getByLabel(/Place from the near end/)).toHaveValue('23');
    await page.getByRole('button', { name: 'Record it' }).click();
    await expect(page.locator('ns-link-strip .bare-words')).toHaveCount(2);
    await expect(next(page)).toHaveText('Terminate the near end');
    await press(page, 'Enter');
    await walkCard(page, 'near');
    await walkCard(page, 'far');
    await readMeter(page);
    await expect(verdict(page)).toContainText('Map right');
    const stored = await record(page);
    expect(stored.cableWork.map((w) => w.kind)).toEqual(['replaced']);
    expect(stored.link.stage).toBe('proved');
  });

  test('P1-22, screen open: the drain is seen beside the clip at the far plug', async ({ page }) => {
    await openLink(page, 'P1-22');
    await expect(verdict(page)).toContainText('Screen open');
    await expect(next(page)).toHaveText("Read the far plug's colours");
    await press(page, 'Enter');
    await lookAt(page);
    await expect(page.getByText('All the evidence points to the far end.')).toBeVisible();
    await expect(page.locator('ns-link-strip .doubt .code')).toHaveText('none');
    await page.getByRole('button', { name: /Redo the far end/ }).click();
    await walkCard(page, 'far');
    await readMeter(page);
    await expect(verdict(page)).toContainText('Map right');
    expect((await record(page)).link.stage).toBe('proved');
  });

  test('C-02, water in the roof duct: the map passes, the echo does not, and the cable is mended where it is', async ({
    page,
  }) => {
    await openLink(page, 'C-02');
    await expect(verdict(page)).toContainText('Low impedance at 27.0 m');
    await expect(page.locator('ns-link-strip .stretch-name.hit')).toHaveText('roof duct');
    await page.getByText('What each reading ruled out').click();
    await expect(page.locator('.story li').last()).toContainText('cable:');
    // A roof is not opened on one echo.
    await expect(next(page)).toHaveText('Measure with a reflectometer');
    await page.getByRole('button', { name: /^Measure with a reflectometer/ }).click();
    await page.getByRole('button', { name: /Both ends are unplugged and dead/ }).click();
    await page.getByRole('button', { name: /^Mend the cable and record it/ }).click();
    await expect(page.getByLabel(/Place from the near end/)).toHaveValue('27');
    await page.getByText('Mended in place').click();
    await page.getByRole('button', { name: 'Record it' }).click();
    await expect(verdict(page)).toHaveText('Worked on since the last reading');
    await page.getByRole('button', { name: 'Test with another instrument' }).click();
    await page.getByRole('menuitem', { name: /^reflectometer/ }).click();
    await expect(verdict(page)).toContainText('Nothing wrong seen, nothing proved');
    await page.getByRole('button', { name: 'Test with another instrument' }).click();
    await page.getByRole('menuitem', { name: /^coded mapper with crosstalk/ }).click();
    await expect(verdict(page)).toContainText('Map right');
    const stored = await record(page);
    expect(stored.cableWork.map((w) => w.kind)).toEqual(['mended']);
    expect(stored.link.stage).toBe('proved');
  });
});
