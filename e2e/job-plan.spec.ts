import { enter, expect, openJob, press, test } from './crew';

test('a plan is held against what limits it: a stretch grows hot, links are fed together, a cure is read off', async ({
  page,
}) => {
  await enter(page, 'Ines Varga');
  await openJob(page, 'Visitor dome');
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Plan' }).click();
  const row = (label: string) =>
    page.locator('ns-job-plan tr').filter({ has: page.getByRole('button', { name: label, exact: true }) });
  await expect(row('V-08')).toContainText('power: 1.9 W short');
  await expect(row('V-07')).toContainText('length: 6 ft short');

  // One link's cure stands beside it.
  await page.getByRole('button', { name: 'V-08', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'V-08: will it carry?' })).toBeVisible();
  await expect(page.locator('.side')).toContainText('no longer than 138 ft');

  // Several links at once.
  for (const label of ['V-03', 'V-04', 'V-05'])
    await page.getByRole('checkbox', { name: `${label} with others` }).check();
  await page.getByRole('combobox', { name: 'Power over it' }).click();
  await page.getByRole('option', { name: /^type 4/ }).click();
  await expect(page.getByRole('button', { name: 'Set it for 3 links' })).toBeDisabled();
  await page.getByLabel('Device takes').fill('71');
  await page.getByRole('button', { name: 'Set it for 3 links' }).click();
  await expect(row('V-05')).toContainText('71 W');

  // The gallery under a summer roof, closed in: what runs there warms itself over what it is made for.
  await expect(row('V-05')).not.toContainText('short');
  await page.getByRole('button', { name: /gallery tray/ }).click();
  await page.getByLabel('Warmest air').fill('138');
  await page.getByRole('checkbox', { name: /Closed in/ }).check();
  await page.getByRole('button', { name: 'Keep the stretch' }).click();
  await expect(row('V-05')).toContainText('warmth:');
  await expect(row('V-05')).toContainText('short');
  await page.reload();
  await expect(row('V-05')).toContainText('warmth:');

  // The path's duct turns out longer: all that run in it follow, and one is over its limit now.
  await expect(row('V-06')).toContainText('length: 8 ft to spare');
  await page.getByRole('button', { name: /path duct/ }).click();
  await page.getByLabel('Longer by').fill('12');
  await page.getByRole('button', { name: 'Keep the stretch' }).click();
  await expect(row('V-06')).toContainText('299 ft');
  await expect(row('V-06')).toContainText('length: 4 ft short');
  await expect(row('V-08')).toContainText('224 ft');

  // By keyboard from link to link.
  await page.getByRole('button', { name: 'V-01', exact: true }).click();
  await press(page, 'ArrowDown');
  await expect(page.getByRole('heading', { name: 'V-02: will it carry?' })).toBeVisible();

  await page.getByRole('link', { name: 'Materials and cutting' }).click();
  await expect(page.getByRole('heading', { name: 'How to cut it' })).toBeVisible();
  await expect(page.locator('ns-cut-strips').first()).toContainText('V-04');
  await expect(page.getByText('all from what is there')).toBeVisible();
  await expect(page.locator('.buy')).toContainText('8-contact jack, tool-less');
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Shopping list, CSV' }).click();
  expect((await saving).suggestedFilename()).toBe('shopping-list.csv');
});

test('a spreadsheet in feet becomes planned links: a cell is mended, all are added, and each knows its limits', async ({
  page,
}) => {
  await enter(page, 'Tobi Lund');
  await openJob(page, 'Visitor dome');
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Plan' }).click();
  await expect(page.locator('td.least').first()).not.toBeEmpty();
  await press(page, 'i');
  const dialog = page.getByRole('dialog');
  const cells = dialog.getByLabel('Cells, pasted with their heads');
  await expect(cells).toBeFocused();
  const rows = Array.from(
    { length: 12 },
    (_, n) =>
      `W-${String(n + 1).padStart(2, '0')}\t${n + 21}\tseat ${n + 1}\tAuditorium\t${90 + 20 * n}\track 6 ft; hall duct ${84 + 20 * n}`,
  );
  const list = (...more: string[]) =>
    ['Seats', 'Link\tPort\tDevice\tRoom\tLength (ft)\tRoute', ...rows, ...more].join('\n');
  await cells.fill(list('W-01\t40\tstage\tAuditorium\tlong\t'));
  await expect(dialog.getByRole('alert')).toContainText('Row 15, label: W-01 stands in row 3 already.');
  await expect(dialog.getByRole('alert')).toContainText('Row 15, length: long is no length');
  await cells.fill(list());
  await dialog.getByRole('button', { name: 'Add 12 links' }).click();
  await expect(dialog).toBeHidden();
  const row = (label: string) =>
    page.locator('ns-job-plan tr').filter({ has: page.getByRole('button', { name: label, exact: true }) });
  await expect(row('W-01')).toContainText('90 ft');
  await expect(row('W-12')).toContainText('length: 15 ft short');
  await expect(page.getByRole('button', { name: /hall duct/ })).toContainText('12 cables');
});
