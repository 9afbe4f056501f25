import { readFileSync } from 'node:fs';
import { enter, expect, press, test } from './crew';

test('a sheet of sixty links in feet becomes a plan: mended, added whole, fed together, its duct hot and longer, cut, offered, pulled and laid over days', async ({
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
  // Twelve go through the hall duct, the others elsewhere.
  const rows = Array.from({ length: 60 }, (_, n) => {
    const feet = n < 12 ? 90 + 20 * n : 60 + 12 * (n % 10);
    const way = n < 12 ? `hall duct ${feet - 6}` : `floor trunk ${feet - 6}`;
    const room = n < 12 ? 'Auditorium' : `Class ${1 + (n % 6)}`;
    return [`W-${String(n + 1).padStart(2, '0')}`, n + 21, `seat ${n + 1}`, room, feet, `rack 6 ft; ${way}`].join('\t'); // prettier-ignore
  });
  const list = (...more: string[]) =>
    ['Seats', 'Link\tPort\tDevice\tRoom\tLength (ft)\tRoute', ...rows, ...more].join('\n');
  await cells.fill(list('W-01\t90\tstage\tAuditorium\tlong\t'));
  await expect(dialog.getByRole('alert')).toContainText('Row 63, label: W-01 stands in row 3 already.');
  await expect(dialog.getByRole('alert')).toContainText('Row 63, length: long is no length');
  await cells.fill(list());
  await dialog.getByRole('button', { name: 'Add 60 links' }).click();
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

  // In hotter air it is worse; with less to feed it is not: what if changes nothing.
  await expect(page.getByRole('button', { name: /^What if/ })).toBeEnabled();
  await press(page, 'w');
  await expect(dialog).toContainText('Say what would be otherwise.');
  await dialog.getByLabel('All air is warmer by').fill('9');
  await expect(dialog.getByRole('row', { name: /^W-03 / })).toContainText('warmth:');
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();

  await page.getByRole('link', { name: 'Materials and cutting' }).click();
  await expect(page.getByRole('heading', { name: 'How to cut it' })).toBeVisible();
  await expect(page.locator('ns-cut-strips').first()).toContainText('W-12');
  await expect(page.locator('.buy')).toContainText('Cat 6 unscreened, box of 1000 ft');
  await expect(page.locator('.buy')).toContainText('8-contact jack, tool-less');
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Shopping list, CSV' }).click();
  expect((await saving).suggestedFilename()).toBe('shopping-list.csv');

  await page.evaluate(() => {
    window.print = () => document.body.setAttribute('data-printed', '');
  });
  await page.getByRole('button', { name: 'Print it' }).click();
  await expect(page.locator('body[data-printed]')).toBeVisible();

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

  // The first pull is in: its boxes are opened under their own names, and what is left to pull follows.
  const pulls = page.locator('.pulls li');
  const first = await pulls.first().locator('strong').innerText();
  await pulls.first().getByRole('button', { name: 'It is in' }).click();
  const told = page.getByRole('form', { name: `Pulled: ${first}` });
  await expect(told).toBeVisible();
  const pulled = await told.getByLabel(/, cut off$/).count();
  await told
    .getByLabel(/is called$/)
    .first()
    .fill('Box of the song school');
  await told.getByRole('button', { name: 'Write it into the ledgers' }).click();
  await expect(told).toBeHidden();
  await expect(page.locator('ns-cut-strips').first()).toContainText('Box of the song school');
  await expect(page.getByText(`${60 - pulled} pieces from`)).toBeVisible();

  // What is left, over days: a room that opens late makes it end later, and the days go into a calendar.
  await page.getByRole('link', { name: 'Days and people' }).click();
  const ends = page.locator('.ends');
  await expect(ends).toContainText('nine times in ten by');
  await page.getByRole('button', { name: 'A place that is not always open' }).click();
  await dialog.getByRole('combobox', { name: /^Place/ }).click();
  await page.getByRole('option', { name: 'Class 3', exact: true }).click();
  await dialog.getByLabel('From', { exact: true }).fill('14:00');
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await expect(page.locator('.side')).toContainText('Class 3');
  await expect(page.locator('ns-day-strips li', { hasText: 'Class 3' }).first()).toContainText(
    /^1[4-6]:\d\d to /,
  );
  await page.reload();
  await expect(page.locator('.side')).toContainText('14:00 to 16:30');
  await expect(ends).toContainText('nine times in ten by');
  const calendar = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Calendar of everybody' }).click();
  const ics = readFileSync(await (await calendar).path(), 'utf8');
  expect(ics).toContain('BEGIN:VCALENDAR');
  expect(ics).toContain('LOCATION:Class 3');
  await page.getByRole('link', { name: 'Back to the plan' }).click();

  // Two are not wanted after all; one comes back. What is bought follows.
  for (const label of ['W-11', 'W-12'])
    await page.getByRole('checkbox', { name: `${label} with others` }).check();
  await page.getByLabel('Why they are not wanted').fill('no seats there');
  await page.getByRole('button', { name: 'Take them out of the job' }).click();
  await expect(page.getByRole('heading', { name: '58 links' })).toBeVisible();
  await page.getByText('Taken out of the job: 2').click();
  await page.getByRole('button', { name: 'Bring W-11 back' }).click();
  await expect(page.getByRole('heading', { name: '59 links' })).toBeVisible();
  await expect(page.getByText('Taken out of the job: 1')).toBeVisible();
  await page.getByRole('link', { name: 'W-12', exact: true }).click();
  await expect(page.getByText('W-12 was taken out of the job')).toBeVisible();
  await page.goBack();

  // As a table, by keys alone: the first room's name carried down, a port exchanged, a link more from a spreadsheet.
  await expect(page.getByRole('heading', { name: '59 links' })).toBeVisible();
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
    'W-61\tP1\t21\tStage\tlectern\tCat 6 unscreened\tjack-punched\tjack-toolless\t64 ft\t\tSS-9',
  );
  await press(page, 'Control+v');
  const rowsWith = page.getByLabel('Only rows that hold');
  await rowsWith.fill('w-61');
  await expect(cell(0, 8)).toHaveText('64 ft');
  await page.reload();
  await rowsWith.fill('lectern');
  await expect(cell(0, 8)).toHaveText('64 ft');
  await page.getByRole('button', { name: 'Keep 4 links' }).click();
  await expect(page.getByRole('button', { name: 'Keep', exact: true })).toBeDisabled();
  await page.reload();
  await expect(cell(1, 2)).toHaveText('21');

  // It begins in another hub: each has its own map.
  await page.getByRole('link', { name: 'Auditorium seats' }).click();
  await expect(page.getByRole('heading', { name: 'SS-1' })).toBeVisible();
  await page.getByRole('button', { name: 'SS-9' }).click();
  await expect(page.getByRole('heading', { name: 'SS-9' })).toBeVisible();
  await expect(page.getByText('1 link, T568B')).toBeVisible();

  // And the same again next door.
  await page.getByRole('button', { name: 'Change the job' }).click();
  await dialog.getByRole('button', { name: 'Use its plan again' }).click();
  await dialog.getByLabel('Hub, as its door says').fill('SS-2');
  await dialog.getByRole('button', { name: 'Start the job' }).click();
  await expect(page.getByRole('heading', { name: 'SS-2' })).toBeVisible();
  await expect(page.locator('ns-link-table tbody tr')).toHaveCount(60);
  await page.getByRole('button', { name: 'Change the job' }).click();
  await dialog.getByRole('button', { name: 'Close the job' }).click();
  await expect(page.getByRole('heading', { name: 'Nothing is done here any more' })).toBeVisible();
});
