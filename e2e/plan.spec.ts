import {
  enter,
  expect,
  inRoom,
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

test('a lead starts a job and plans links; the first is terminated, tested and handed over', async ({
  page,
}) => {
  await enter(page, 'Ines Varga');
  await page.getByRole('button', { name: 'Start a job' }).click();
  const dialog = page.getByRole('dialog');
  // The dialog gives the focus to its first field once it stands; what is typed before goes where the focus goes.
  await expect(dialog.getByLabel('Site')).toBeFocused();
  await dialog.getByLabel('Site').fill('Lock keeper’s house');
  await dialog.getByLabel('What is done there').fill('New office & <b>attic</b>');
  await dialog.getByLabel('Hub, as its door says').fill('LK-1');
  await dialog.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('heading', { name: 'No links yet' })).toBeVisible();
  await expect(page.getByText('New office & <b>attic</b>')).toBeVisible();
  await page.getByRole('button', { name: 'Add links' }).first().click();
  await expect(dialog.getByLabel('First label')).toBeFocused();
  await dialog.getByLabel('First label').fill('A-09');
  await dialog.getByLabel('How many').fill('3');
  await dialog.getByLabel('First port').fill('9');
  await dialog.getByLabel('Far room').fill('attic');
  await dialog.getByLabel('First outlet').fill('desk 1');
  await dialog.getByLabel(/^Length/).fill('18.5');
  await expect(dialog.getByText('Adds A-09 to A-11.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(row(page, 'A-11')).toContainText('desk 3');
  await expect(page.locator('.next h2')).toHaveText('A-09: Terminate the near end');

  await press(page, 'Enter');
  await walkCard(page, 'near');
  await walkCard(page, 'far');
  await expect(verdict(page)).toHaveText('Not tested yet');
  await readMeter(page);
  await expect(verdict(page)).toContainText('Map right, pairs right');
  await press(page, 'h');
  await inRoom(page, 'Hand over');
  await page.getByRole('button', { name: /^Hand it over/ }).click();
  await expect(page.getByRole('heading', { name: 'A-09 is handed over' })).toBeVisible();
  const { link, terminations } = await record(page);
  expect([link.stage, terminations.map((end) => end.side)]).toEqual(['handed-over', ['near', 'far']]);
});

test('a second person’s stale plan is shown beside the first, and nothing typed is lost', async ({
  page,
  browser,
}) => {
  await enter(page, 'Ines Varga');
  await openJob(page);
  await openLink(page, 'D-06');
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByLabel('Outlet').fill('kiosk three, left');

  const other = await browser.newContext();
  const theirs = await other.newPage();
  await enter(theirs, 'Tobi Lund');
  await theirs.goto(page.url());
  await theirs.getByLabel('Length, m').fill('20.4');
  await theirs.getByRole('button', { name: 'Save the plan' }).click();
  await expect(theirs.getByText('Saved.')).toBeVisible();
  await other.close();

  await page.getByRole('button', { name: 'Save the plan' }).click();
  const conflict = page.getByRole('alert');
  await expect(conflict).toContainText('Changed by Tobi Lund since you opened it');
  await expect(conflict.getByRole('row', { name: /Outlet/ })).toContainText('kiosk three, left');
  await expect(conflict.getByRole('row', { name: /Length/ })).toContainText('20.4');
  await expect(page.getByLabel('Outlet')).toHaveValue('kiosk three, left');
  await page.getByRole('button', { name: 'Save mine over it' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('a plan says what speaks against it before it is saved', async ({ page }) => {
  await enter(page);
  await openJob(page);
  await openLink(page, 'D-05');
  await page.getByRole('link', { name: 'Plan' }).click();
  await expect(page.getByText('Route, cable and connectors agree.')).toBeVisible();
  await page.getByLabel('Length, m').fill('95');
  await expect(page.getByText(/95\.0 m of cable, 90\.0 m is the most/)).toBeVisible();
  await expect(page.getByText(/The route adds up to 18.4 m/)).toBeVisible();
});

test('the list is searched, filtered by stop and walked by keys', async ({ page }) => {
  await enter(page);
  await openJob(page, 'Visitor dome');
  await expect(page.locator('ns-link-table tbody tr')).toHaveCount(9);
  await expect(row(page, 'V-07')).toContainText('301 ft');
  await page.getByLabel('Find a label, place or fault').fill('mast');
  await expect(page.locator('ns-link-table tbody tr')).toHaveCount(1);
  await page.getByLabel('Find a label, place or fault').fill('');
  await page.getByRole('link', { name: 'Verify' }).click();
  await expect(page.getByText('0 of 9 links wait at Verify.')).toBeVisible();
  await page.getByRole('link', { name: 'Show all' }).click();
  await page.keyboard.press('l');
  await page.keyboard.press('ArrowDown');
  await expect(row(page, 'V-02').getByRole('link')).toBeFocused();
});
