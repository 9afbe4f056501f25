import { readFileSync } from 'node:fs';
import { enter, expect, openJob, openLink, press, test, verdict } from './crew';
import { spoke } from '../command/src/spoke';

const network = readFileSync('docs/examples/traces/open-pair.network.json', 'utf8');
/** What an oscilloscope would have written of a pair that ends after so many metres. */
const table = (lengthM: number): Buffer => {
  const told = JSON.parse(network) as { chain: { lengthM: number }[] };
  const [, cable] = told.chain;
  if (cable) cable.lengthM = lengthM;
  return Buffer.from(spoke(['simulate', 'n.json', '--csv'], () => JSON.stringify(told)).out);
};

test.describe('locating', () => {
  test('the demo’s broken pair and its wet coax are found, placed and printed', async ({ page }) => {
    await enter(page);
    await openJob(page);
    await openLink(page, 'P1-16');
    await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Locate' }).click();
    await expect(page.getByRole('heading', { name: 'Open at 23.0 m' })).toBeVisible();
    await expect(page.getByText(/In wall bay 4, 3\.\d to 3\.\d m past its start/)).toBeVisible();
    await expect(page.getByRole('row', { name: /46\.0.*ghost of 0\.0 and 23\.0/ })).toBeVisible();
    const cursor = page.getByRole('slider', { name: 'Cursor A on the trace, metres from the near end' });
    await cursor.focus();
    await press(page, 'Home');
    await press(page, 'ArrowRight');
    const arithmetic = page.getByText(/ns after the launch, 9\.6 ns of it in the lead/);
    await expect(arithmetic).toContainText('= 0.11 m');
    // The nearest peak behind the launch's is that of the open.
    await press(page, 'End');
    await press(page, 'e');
    await expect(arithmetic).not.toContainText('66.2');
    await press(page, '+');
    await press(page, '+');
    await expect(page.getByRole('button', { name: /Whole line/ })).toBeVisible();
    await press(page, '0');
    await expect(page.getByRole('button', { name: /Whole line/ })).toBeHidden();
    await press(page, 'p');
    const sheet = page.getByRole('dialog', { name: 'Open here' });
    await expect(sheet).toContainText('wall bay 4');
    await expect(sheet).toContainText('Before drilling or cutting');
    await page.emulateMedia({ media: 'print' });
    await expect(sheet).toBeVisible();
    await expect(page.getByRole('button', { name: 'Print this sheet' })).toBeHidden();
    await page.emulateMedia({ media: 'screen' });
    await press(page, 'Escape');
    await expect(sheet).toBeHidden();

    // Beside a pair of the same cable that is whole: the lead's joint is no news, the break is.
    await press(page, 'c');
    await expect(page.getByText(/Against pair 1-2 of this link/)).toBeVisible();
    await expect(page.getByText('Only here: open at 23.0 m')).toBeVisible();
    await expect(page.getByRole('row', { name: /joint the good one has it too/ })).toBeVisible();
    await press(page, 'c');
    await expect(page.getByText('Only here')).toBeHidden();

    // From the far end as well: the two make up the link, and the place is surer.
    await press(page, 'i');
    await page.getByLabel('Taken from').selectOption('far end');
    await page.getByRole('combobox', { name: /^Pair/ }).selectOption('4-5');
    await page.getByRole('button', { name: 'Take a trace now, simulated' }).click();
    await expect(page.getByText(/samples every/)).toContainText(/Open at 4[234]\.\d m/);
    await page.getByLabel('Both ends were unplugged and dead').check();
    await page.getByRole('button', { name: 'Keep this trace' }).click();
    await expect(page.getByText(/From both ends:/)).toContainText(/2[23]\.\d\d m from the near end/);

    await page.goto('/jobs');
    await openJob(page);
    await openLink(page, 'C-02');
    await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Locate' }).click();
    await expect(page.getByRole('heading', { name: /Wet or crushed stretch at 26\.\d m/ })).toBeVisible();
    await expect(page.getByText(/In roof duct/)).toBeVisible();
    await press(page, 'c');
    await expect(
      page.getByText(/Against the first trace, 22 Oct 2026, “aerial feeder, when it was laid”/),
    ).toBeVisible();
    await expect(page.getByText(/New: wet or crushed stretch at 26\.7 m/)).toBeVisible();
    await press(page, 'c');
    await expect(page.getByText(/Against the first trace/)).toBeHidden();
  });

  test('a trace is taken by the bench oscilloscope, from both ends, and the two agree', async ({ page }) => {
    await enter(page);
    await openJob(page);
    await openLink(page, 'P1-17');
    await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Locate' }).click();
    await expect(page.getByText('No trace of this link yet.')).toBeVisible();
    for (const end of ['near end', 'far end']) {
      await press(page, 'i');
      await page.getByLabel('Taken from').selectOption(end);
      await page.getByRole('combobox', { name: /^Pair/ }).selectOption('1-2');
      await page.getByRole('button', { name: 'Take a trace now, simulated' }).click();
      await expect(page.getByLabel('Lead, metres')).toHaveValue('1');
      await expect(page.getByText(/samples every/)).toContainText(/Open at 5[45]\.\d m/);
      await page.getByLabel('Both ends were unplugged and dead').check();
      await page.getByRole('button', { name: 'Keep this trace' }).click();
      await expect(page.getByText(/Located, taken .* pulse/)).toBeVisible();
    }
    await expect(page.getByText(/Each end sees the other: the cable is/)).toContainText(/5[45]\.\d\d m/);
  });

  test('a trace is read in from the oscilloscope’s table, told what it does not say, kept, placed and handed to Verify', async ({
    page,
  }) => {
    await enter(page);
    await openJob(page);
    await openLink(page, 'P1-18');
    await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Locate' }).click();
    await expect(page.getByText('No trace of this link yet.')).toBeVisible();
    await press(page, 'i');
    const samples = table(12).toString().split('\n').slice(1);
    const volts = samples.map((line) => line.split(',')[1]).join('\n');
    const choose = page.getByLabel(/Samples as the oscilloscope exports them/);
    await choose.setInputFiles({ name: 'volts.csv', mimeType: 'text/csv', buffer: Buffer.from(volts) });
    await expect(page.getByText(/no sample interval stands before them/)).toBeVisible();
    await page.getByLabel('Interval, ns').fill('0.5');
    await press(page, 'Tab');
    await page.getByLabel('Lead, metres').fill('0.95');
    await press(page, 'Tab');
    await expect(page.getByText(/Velocity factor: measured on another lot of this cable/)).toBeVisible();
    await page.getByLabel('Velocity factor', { exact: true }).fill('0.69');
    await press(page, 'Tab');
    await expect(page.getByText('Velocity factor: typed in.')).toBeVisible();
    await expect(page.getByText(/1500 samples every 0\.50 ns/)).toContainText('Open at 12.0 m');
    await expect(page.getByRole('button', { name: 'Keep this trace' })).toBeDisabled();
    await page.getByLabel('Both ends were unplugged and dead').check();
    await page.getByRole('button', { name: 'Keep this trace' }).click();
    await expect(page.getByRole('heading', { name: 'Open at 12.0 m' })).toBeVisible();
    await expect(page.getByText(/Located, volts\.csv/)).toBeVisible();

    await press(page, 'i');
    await choose.setInputFiles({
      name: 'bad.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('Time (s),V\n1e-9,NaN\n'),
    });
    await expect(page.getByRole('alert').filter({ hasText: 'Line' })).toBeVisible();
    await page.getByRole('button', { name: 'Leave it' }).click();
    await expect(page.getByRole('heading', { name: 'Open at 12.0 m' })).toBeVisible();
    await press(page, 'v');
    await expect(page.getByRole('list', { name: 'Readings, newest first' })).toContainText(
      /open at 12\.0 m/i,
    );
    await expect(verdict(page)).toContainText(/open at 12\.0 m/i);
  });
});
