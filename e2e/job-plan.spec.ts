import { readFileSync } from 'node:fs';
import { enter, expect, press, test } from './crew';

test('a sheet in feet becomes a plan: mended, added whole, fed together, its duct hot and longer, and cut from boxes', async ({
  page,
}) => {
  await enter(page, 'Ines Varga');
  // A job of its own: the demo's are other stories'.
  await page.getByRole('button', { name: 'Start a job' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByLabel('Site')).toBeFocused();
  await dialog.getByLabel('Site').fill('Song school');
  await dialog.getByLabel('What is done there').fill('Auditorium seats');
  await dialog.getByLabel('Hub, as its door says').fill('SS-1');
  await dialog.getByRole('combobox', { name: /^Units/ }).click();
  await page.getByRole('option', { name: /feet|imperial/i }).click();
  await dialog.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('heading', { name: 'No links yet' })).toBeVisible();
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Plan' }).click();

  await expect(page.getByRole('heading', { name: '0 links' })).toBeVisible();
  await press(page, 'i');
  const cells = dialog.getByLabel('Cells, pasted with their heads');
  await expect(cells).toBeFocused();
  const rows = Array.from({ length: 12 }, (_, n) =>
    [
      `W-${String(n + 1).padStart(2, '0')}`,
      n + 21,
      `seat ${n + 1}`,
      'Auditorium',
      90 + 20 * n,
      `rack 6 ft; hall duct ${84 + 20 * n}`,
    ].join('\t'),
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
  await page.getByRole('button', { name: 'W-12', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'W-12: will it carry?' })).toBeVisible();
  await expect(page.locator('.side')).toContainText('no longer than 295 ft');

  // Several links at once.
  for (const label of ['W-01', 'W-02', 'W-03'])
    await page.getByRole('checkbox', { name: `${label} with others` }).check();
  await page.getByRole('combobox', { name: 'Power over it' }).click();
  await page.getByRole('option', { name: /^type 4/ }).click();
  await expect(page.getByRole('button', { name: 'Set it for 3 links' })).toBeDisabled();
  await page.getByLabel('Device takes').fill('71');
  await page.getByRole('button', { name: 'Set it for 3 links' }).click();
  await expect(row('W-03')).toContainText('71 W');
  await expect(row('W-03')).not.toContainText('short');

  // The duct under a summer roof: what runs there warms itself over what it is made for. It turns out longer, too.
  await page.getByRole('button', { name: /hall duct/ }).click();
  await page.getByLabel('Warmest air').fill('138');
  await page.getByRole('checkbox', { name: /Closed in/ }).check();
  await page.getByLabel('Longer by').fill('12');
  await page.getByRole('button', { name: 'Keep the stretch' }).click();
  await expect(row('W-03')).toContainText('142 ft');
  await expect(row('W-03')).toContainText('warmth:');
  await expect(row('W-03')).toContainText('short');
  await page.reload();
  await expect(row('W-03')).toContainText('warmth:');

  // By keyboard from link to link.
  await page.getByRole('button', { name: 'W-01', exact: true }).click();
  await press(page, 'ArrowDown');
  await expect(page.getByRole('heading', { name: 'W-02: will it carry?' })).toBeVisible();
  await expect(page.locator('.side')).toContainText('hall duct at 77 °F, open');

  await page.getByRole('link', { name: 'Materials and cutting' }).click();
  await expect(page.getByRole('heading', { name: 'How to cut it' })).toBeVisible();
  await expect(page.locator('ns-cut-strips').first()).toContainText('W-12');
  await expect(page.locator('.buy')).toContainText('Cat 6 unscreened, box of 1000 ft');
  await expect(page.locator('.buy')).toContainText('8-contact jack, tool-less');
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Shopping list, CSV' }).click();
  expect((await saving).suggestedFilename()).toBe('shopping-list.csv');

  // The list that is to be filled in is filled in, and the job is offered for what it comes to.
  const filling = page.waitForEvent('download');
  await page.getByRole('button', { name: 'List to fill in, CSV' }).click();
  const table = readFileSync(await (await filling).path(), 'utf8')
    .trim()
    .split('\r\n');
  const [head = '', ...items] = table;
  const priced = items.map((row, n) => row.replace(/,,EUR,/, `,${n + 1}.25,EUR,`));
  const offer = page.locator('ns-offer-form');
  await offer.locator('input[type=file]').setInputFiles({
    name: 'prices.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from([head, ...priced].join('\r\n')),
  });
  await expect(offer).toContainText(/Prices of .*, in EUR/);
  await expect(offer).toContainText('No price yet of an hour of work.');
  await offer.getByLabel('An hour').fill('58');
  await expect(offer.locator('.sum')).toContainText(/[\d,]+\.\d\d EUR/);
  const offered = page.waitForEvent('download');
  await offer.getByRole('button', { name: 'Offer, PDF' }).click();
  expect((await offered).suggestedFilename()).toMatch(/^offer .*\.pdf$/);

  // Two are not wanted after all; one comes back. What is bought follows.
  await page.goBack();
  for (const label of ['W-11', 'W-12'])
    await page.getByRole('checkbox', { name: `${label} with others` }).check();
  await page.getByLabel('Why they are not wanted').fill('no seats there');
  await page.getByRole('button', { name: 'Take them out of the job' }).click();
  await expect(page.getByRole('heading', { name: '10 links' })).toBeVisible();
  await page.getByText('Taken out of the job: 2').click();
  await page.getByRole('button', { name: 'Bring W-11 back' }).click();
  await expect(page.getByRole('heading', { name: '11 links' })).toBeVisible();
  await expect(page.getByText('Taken out of the job: 1')).toBeVisible();
  await page.getByRole('link', { name: 'W-12', exact: true }).click();
  await expect(page.getByText('W-12 was taken out of the job')).toBeVisible();
  await page.goBack();

  // As a table, by keys alone: the first room's name carried down, a port exchanged, a link more from a spreadsheet.
  await expect(page.getByRole('heading', { name: '11 links' })).toBeVisible();
  await press(page, 't');
  const cell = (row: number, column: number) =>
    page.locator('cdk-virtual-scroll-viewport .row').nth(row).locator('.cell').nth(column);
  await expect(cell(0, 0)).toHaveText('W-01');
  await press(page, 'l', 'ArrowRight', 'ArrowRight', 'ArrowRight');
  await page.keyboard.type('Balcony');
  await press(page, 'Enter', 'ArrowUp', 'Shift+ArrowDown', 'Shift+ArrowDown', 'Alt+ArrowDown');
  await expect(cell(2, 3)).toHaveText('Balcony');
  await press(page, 'ArrowLeft', 'Control+ArrowUp');
  await page.keyboard.type('22');
  await press(page, 'Enter');
  await expect(page.getByRole('button', { name: /^Keep/ })).toBeDisabled();
  await page.keyboard.type('21');
  await press(page, 'Enter', 'Home', 'Control+ArrowDown');
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.evaluate(
    (text) => navigator.clipboard.writeText(text),
    'W-13\tP1\t60\tStage\tlectern\tCat 6 unscreened\tjack-punched\tjack-toolless\t64 ft',
  );
  await press(page, 'Control+v');
  await expect(cell(11, 8)).toHaveText('64 ft');
  await page.reload();
  await expect(cell(11, 8)).toHaveText('64 ft');
  await page.getByRole('button', { name: 'Keep 4 links' }).click();
  await expect(page.getByRole('button', { name: 'Keep', exact: true })).toBeDisabled();
  await page.reload();
  await expect(cell(1, 2)).toHaveText('21');
  await expect(cell(11, 4)).toHaveText('lectern');

  // And the same again next door.
  await page.getByRole('link', { name: 'Auditorium seats' }).click();
  await page.getByRole('button', { name: 'Change the job' }).click();
  await dialog.getByRole('button', { name: 'Use its plan again' }).click();
  await dialog.getByLabel('Hub, as its door says').fill('SS-2');
  await dialog.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('heading', { name: 'SS-2' })).toBeVisible();
  await expect(page.locator('ns-link-table tbody tr')).toHaveCount(12);
  await page.getByRole('button', { name: 'Change the job' }).click();
  await dialog.getByRole('button', { name: 'Close the job' }).click();
  await expect(page.getByRole('heading', { name: 'Nothing is done here any more' })).toBeVisible();
});
