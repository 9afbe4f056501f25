import { readFileSync } from 'node:fs';
import { spoke } from '../command/src/spoke';
import { enter, expect, press, test } from './crew';

const network = readFileSync('docs/examples/traces/open-pair.network.json', 'utf8');
/** What an oscilloscope would have written of so much open coax of a velocity, behind a lead of 0.95 m. */
const piece = (lengthM: number, velocityFactor: number): Buffer => {
  const told = JSON.parse(network) as {
    chain: { cable: string; lengthM: number; velocityFactor?: number }[];
  };
  told.chain[1] = { ...told.chain[1], cable: 'rg6', lengthM, velocityFactor };
  return Buffer.from(spoke(['simulate', 'n.json', '--csv'], () => JSON.stringify(told)).out);
};

test.describe('velocity and reels', () => {
  test('a velocity is measured on a known piece of the drum, kept, and the drum’s length is measured by it', async ({
    page,
  }) => {
    await enter(page);
    await page.goto('/kit/reels');
    await page.getByRole('link', { name: /Cat 6 box A/ }).click();
    await expect(page.getByText('Ledger and measurement disagree.')).toBeVisible();
    await page.getByRole('link', { name: /RG-6 drum/ }).click();
    await expect(page.getByRole('heading', { name: 'RG-6 drum' })).toBeVisible();
    await page.getByRole('link', { name: 'Measure its velocity factor' }).click();

    const file = (name: string): ReturnType<typeof page.getByLabel> => page.getByLabel(name);
    await page.getByLabel('Lead, metres').fill('0.95');
    await press(page, 'Tab');
    await page.getByLabel('Piece 1, metres').fill('12');
    await file('Trace of piece 1').setInputFiles({
      name: 'twelve.csv',
      mimeType: 'text/csv',
      buffer: piece(12, 0.831),
    });
    await expect(page.getByText(/0\.83[01]\d ± 0\.00\d\d/)).toBeVisible();
    await expect(page.getByText(/VF = 2 d \/ \(c t\) = 2 × 12\.00 m/)).toBeVisible();
    await page.getByRole('button', { name: 'Another piece' }).click();
    await page.getByLabel('Piece 2, metres').fill('30');
    await file('Trace of piece 2').setInputFiles({
      name: 'thirty.csv',
      mimeType: 'text/csv',
      buffer: piece(30, 0.831),
    });
    await expect(page.getByText(/what lead and oscilloscope take/)).toBeVisible();
    await expect(page.getByText(/0\.83[01]\d ± 0\.00\d\d/)).toBeVisible();
    await page.getByRole('button', { name: 'Keep it for RG-6 drum' }).click();
    await expect(page.getByText('Kept for RG-6 drum.')).toBeVisible();

    await page.getByRole('link', { name: 'Kit', exact: true }).click();
    await page.getByRole('link', { name: 'Reels' }).click();
    await page.getByRole('link', { name: /RG-6 drum/ }).click();
    await expect(page.getByText(/measured on this reel, Tobi Lund/)).toBeVisible();
    await press(page, 'm');
    await page.getByRole('button', { name: 'Take it now' }).click();
    await expect(page.getByText(/11[78]\.\d+ m are on it, give or take/)).toBeVisible();
    await page.getByRole('button', { name: 'Enter it in the ledger' }).click();
    const ledger = page.getByRole('region', { name: 'Ledger, newest first' });
    // The form goes once the entry is kept; until then no key begins another.
    const draw = page.getByRole('button', { name: /Draw from it/ });
    await expect(draw).toBeVisible();
    await expect(ledger.getByRole('row').nth(1)).toContainText(/measured, ± 0\.\d m at 0\.83/);

    await press(page, 'd');
    await page.getByLabel('Length cut off, metres').fill('500');
    await expect(page.getByText('There is not so much left.')).toBeVisible();
    await page.getByLabel('Length cut off, metres').fill('18,4');
    await page.getByLabel('In words').fill('spare for the lounge');
    await page.getByRole('button', { name: 'Enter the draw' }).click();
    await expect(draw).toBeVisible();
    await expect(ledger.getByRole('row').nth(1)).toContainText('drawn, spare for the lounge');
    await expect(page.getByText(/99\.\d m left|100\.\d m left/)).toBeVisible();
    await ledger.getByRole('row').nth(1).getByRole('button', { name: 'Correct' }).click();
    await page.getByLabel('Length cut off, metres').fill('8.4');
    await page.getByRole('button', { name: 'Enter the correction' }).click();
    await expect(ledger.getByRole('row').nth(1)).toContainText('(a correction)');
    await expect(page.getByText(/109\.\d m left|110\.\d m left/)).toBeVisible();
  });

  test('a new box begins its ledger with its label', async ({ page }) => {
    await enter(page);
    await page.goto('/kit/reels');
    await page.getByRole('button', { name: 'Enter a drum or box' }).click();
    await page.getByLabel('Name').fill('Test box');
    await page.getByLabel('It is a').selectOption('box');
    await page.getByLabel('Metres on the label').fill('100');
    await page.getByRole('button', { name: 'Enter it' }).click();
    await expect(page.getByRole('heading', { name: 'Test box' })).toBeVisible();
    await expect(page.getByText(/100\.0 m left, give or take 1\.0 m/)).toBeVisible();
  });
});

test.describe('the line bench', () => {
  test('a line is broken, found with the cursor and told', async ({ page }) => {
    await enter(page);
    await page.goto('/bench/line?tool=break');
    await expect(page.getByRole('list', { name: 'Events read' })).toContainText(
      /24\.0\d m resistance in the way|23\.9\d m resistance/,
    );
    await page.getByLabel('Fault').selectOption('Shorted');
    await expect(page.getByRole('list', { name: 'Events read' })).toContainText(
      /24\.\d\d m short, -(99|100) %/,
    );
    await page.getByRole('button', { name: 'Break it for me' }).click();
    await expect(page.getByText('It is told when you have answered.')).toBeVisible();
    await page.getByRole('button', { name: 'Broken through' }).click();
    await page.getByRole('button', { name: 'That is my answer' }).click();
    await expect(page.getByText(/^(Right\.|Not quite\.)/)).toBeVisible();
    await expect(page.getByText(/Your cursor was/)).toBeVisible();
    await page.getByRole('button', { name: 'Back to my own' }).click();
    await expect(page.getByRole('heading', { name: 'What is wrong with it' })).toBeVisible();
  });

  test('a launch is planned for what is looked for', async ({ page }) => {
    await enter(page);
    await page.goto('/bench/line?tool=launch');
    await page.getByLabel('About so long, metres').fill('200');
    const wide = page.getByText(/ns wide, edges/);
    await page.getByLabel('Looked for at its far end').selectOption('its end, or a break');
    const forEnd = await wide.textContent();
    await page.getByLabel('Looked for at its far end').selectOption('a joint, 2 %');
    await expect(wide).not.toHaveText(forEnd ?? '');
    await page.getByLabel('About so long, metres').fill('no');
    await expect(page.getByRole('alert')).toContainText('Give a length from 0.5');
  });
});
