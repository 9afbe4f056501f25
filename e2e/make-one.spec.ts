import type { Page } from '@playwright/test';
import { enter, expect, press, test } from './crew';

/** Presses the key of a tile; says which. */
async function take(page: Page, tile: RegExp): Promise<void> {
  const key = page.getByRole('button', { name: tile }).first().locator('kbd');
  await expect(key).toBeVisible();
  await page.keyboard.press(((await key.textContent()) ?? '').trim().toLowerCase());
}

test.describe('work without a job', () => {
  const ends: readonly [what: string, ...tiles: RegExp[]][] = [
    [
      '8-contact plug on Cat 6',
      /Four twisted pairs, solid/,
      /Cat 6 unscreened/,
      /8-contact plug, closed end/,
    ],
    ['crimp BNC', /Coax/, /RG-58/, /BNC plug, crimp/],
    ['compression F', /Coax/, /RG-6, 75/, /F plug, compression/],
    ['telephone extension', /telephone/, /Telephone cable, 2 pairs/, /British style, extension/],
    ['splice', /no screen/, /Alarm cable, 4/, /splice/],
  ];
  for (const [what, ...tiles] of ends)
    test(`from the jobs to the first step of ${what} in four keys`, async ({ page }) => {
      await enter(page);
      await expect(page.getByRole('heading', { name: 'Jobs' })).toBeVisible();
      await page.keyboard.press('m');
      for (const tile of tiles) await take(page, tile);
      await expect(page.getByText(/^Step 1 of \d+$/)).toBeVisible();
      expect(1 + tiles.length).toBeLessThanOrEqual(4);
    });

  test('one end is made, metered, kept in the book, made again by one key, and given to a job', async ({
    page,
  }) => {
    const name = `cord ${Date.now()}`;
    await enter(page);
    await page.goto('/bench/make');
    await take(page, /Coax/);
    await take(page, /RG-6, 75/);
    await take(page, /F plug, compression/);
    await press(page, 'p');
    const title = page.locator('#prove-title');
    await expect(title).toHaveText('This path should beep');
    for (let n = 0; n < 9 && !/^Proved/.test((await title.textContent())?.trim() ?? ''); n++)
      await press(
        page,
        /nothing should beep/.test((await title.textContent()) ?? '') ? 'PageUp' : 'PageDown',
      );
    await page.getByLabel('What it is, if that is to be kept').fill(name);
    await page.getByRole('button', { name: 'Take this proof' }).click();
    await page.getByRole('button', { name: 'Record it' }).click();
    await expect(page.getByText(/^Metered: \d+ touches/)).toBeVisible();
    await page.getByRole('button', { name: /Record it as good/ }).click();
    await expect(page.getByText(`${name}, good, proved.`)).toBeVisible();
    await page.getByRole('button', { name: 'Something else' }).first().click();
    // Again by one key.
    const again = page.getByRole('region', { name: 'Again' });
    await expect(again).toContainText('F plug, compression, for RG-6 on RG-6, 75 ohm');
    await page.keyboard.press('a');
    await expect(page.getByText(/^Step 1 of \d+$/)).toBeVisible();
    await page.keyboard.press('Backspace');
    await page.getByRole('checkbox', { name }).check();
    await page.getByRole('combobox', { name: 'Job' }).click();
    await page.getByRole('option', { name: /visitor dome/i }).click();
    await page.getByRole('button', { name: 'Give 1 to this job' }).click();
    await expect(page.getByRole('listitem').filter({ hasText: name })).toContainText(
      /Given to .*[Vv]isitor dome/,
    );
  });

  test('a batch of cords is reckoned, and made end by end under their names, with a function test and a photo', async ({
    page,
  }) => {
    const name = `cords ${Date.now()}`;
    await enter(page);
    await page.goto('/bench/make');
    await page.getByRole('link', { name: 'Cords', exact: true }).click();
    for (const [label, text] of [
      ['What they are called', name],
      ['How many', '2'],
      [/^Cable, for one/, '0,6'],
      ['A connector, with its parts', '0.5'],
      ['An hour of work', '36'],
      ['One that is bought ready', '60'],
    ] as const)
      await page.getByRole('textbox', { name: label }).fill(text);
    await expect(
      page.getByRole('heading', { name: 'Make them: from 1 on making is cheaper.' }),
    ).toBeVisible();
    await expect(page.getByRole('row', { name: /8-contact plug, closed end 4/ })).toBeVisible();
    await page.getByRole('link', { name: 'Make them' }).click();
    await expect(page.getByText(`0 of 4 ends are in the book. Next is ${name} 1 A.`)).toBeVisible();
    await page.getByRole('button', { name: 'Record it' }).click();
    await page.getByText('A function test, or photos, to keep with it').click();
    await page.getByLabel('When I do this, that happens').fill('the link lamp lights');
    await page.getByRole('button', { name: 'Add it' }).click();
    await page
      .getByRole('group', { name: 'the link lamp lights' })
      .getByRole('button', { name: 'Does', exact: true })
      .click();
    await page.getByLabel(/Photo of the finished end/).setInputFiles({
      name: 'end.png',
      mimeType: 'image/png',
      buffer: await page.screenshot({ clip: { x: 0, y: 0, width: 120, height: 90 } }),
    });
    await expect(page.getByRole('img', { name: 'Photo 1, not kept yet' })).toBeVisible();
    await page.getByRole('button', { name: /Record it as good/ }).click();
    await expect(page.getByText(`1 of 4 ends are in the book. Next is ${name} 1 B.`)).toBeVisible();
    // The next of its kind has to do the same.
    await page.getByRole('button', { name: 'Record it' }).click();
    await expect(page.getByRole('button', { name: 'As the last one: the link lamp lights' })).toBeVisible();
    await page.getByRole('button', { name: 'Something else' }).first().click();
    const line = page.getByRole('listitem').filter({ hasText: `${name} 1 A` });
    await expect(line).toContainText('Does what it has to.');
    const photo = line.getByRole('img', { name: 'Photo 1' });
    await expect(photo).toBeVisible();
    expect(await photo.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(0);
  });
});
