import type { Locator } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { enter, expect, press, test } from './crew';

test.describe('adapters', () => {
  test('from two pinouts, one drawn from the wrong face, to a lead that is joined, mended, built, proved and printed', async ({
    page,
  }) => {
    const name = `Weather mast lead ${Date.now()}`;
    await enter(page);
    await page.goto('/bench/adapters');
    await page.getByLabel('Name', { exact: true }).fill(name);
    await page.getByLabel('Device at end A').fill('wind logger');
    await page.getByLabel('Device at end B').fill('mast display');
    await page.getByRole('button', { name: 'Put it on the bench' }).click();

    // End A from a table.
    await page.getByRole('button', { name: 'Enter the pinout of A' }).click();
    await page.getByLabel('Connector on the lead’s end').selectOption('Header, 1 by 4, socket');
    await page.getByLabel('The sheet shows').selectOption('this connector’s mating face');
    await page.getByRole('tab', { name: 'Paste' }).click();
    await page.getByLabel('A line per contact').fill('1 GND ground\n2 TXD out\n3 RXD in\n3 RXD in');
    await expect(page.getByText('Line 4: Contact 3 stands twice.')).toBeVisible();
    await page.getByLabel('A line per contact').fill('1 GND ground\n2 TXD out\n3 RXD in');
    await page.getByRole('button', { name: 'Take 3 contacts' }).click();
    await page.getByLabel('Levels of 2').selectOption('3.3 V logic');
    await page.getByLabel('Levels of 3').selectOption('3.3 V logic');
    await page.getByRole('button', { name: 'Take this pinout' }).click();

    // End B as its sheet draws it. The sheet is of the other face: its numbers say so.
    await page.getByRole('button', { name: 'Enter the pinout of B' }).click();
    await page.getByLabel('Connector on the lead’s end').selectOption('D-sub, 9 contacts, plug');
    await page.getByRole('tab', { name: 'As the sheet draws it' }).click();
    await expect(page.getByText('it is never guessed')).toBeVisible();
    await page.getByLabel('Its numbers as drawn').fill('5 4 3 2 1 / 9 8 7 6');
    await expect(page.getByText('These numbers are the wiring side.')).toBeVisible();
    await page.getByRole('button', { name: 'Take that' }).click();
    const place = (row: number, n: number) => page.getByLabel(`Row ${row}, place ${n}`);
    await place(1, 1).fill('GND');
    await place(1, 3).fill('TXD');
    await place(1, 4).fill('RXD');
    // What feeds a level stage at this end.
    await place(2, 1).fill('+5V');
    await page.getByRole('button', { name: 'Take 4 signals' }).click();
    // The first place from the left of the wiring side is contact 5, not 1.
    await expect(page.getByLabel('Signal on 5')).toHaveValue('GND');
    await expect(page.getByText('Say what contacts 2, 3, 9 do.')).toBeVisible();
    await page.getByLabel('What 9 does').selectOption('gives supply');
    await page.getByLabel('What 2 does').selectOption('input');
    await page.getByLabel('What 3 does').selectOption('output');
    await page.getByLabel('Levels of 2').selectOption('5 V CMOS');
    await page.getByLabel('Levels of 3').selectOption('5 V CMOS');
    await page.getByRole('button', { name: 'Take this pinout' }).click();

    // Join by what the signals say, with one key; the rules find two mistakes in the levels.
    await expect(page.getByText('crossed: each sends what the other receives').first()).toBeVisible();
    await press(page, 's');
    await expect(page.getByRole('button', { name: /^A 2, TXD, output, joined to B 2$/ })).toBeVisible();
    await expect(page.getByRole('heading', { name: '2 wrong, 0 unsure' })).toBeVisible();
    await page.getByText(/goes 1.4 V beyond what a 3.3 V logic input bears/).click();
    await expect(page.getByRole('button', { name: /^B 3, TXD/ })).toHaveAttribute('aria-pressed', 'true');
    await page.getByRole('button', { name: 'Do that' }).first().click();
    await page.getByRole('button', { name: 'Do that' }).first().click();
    await expect(page.getByRole('heading', { name: 'No rule speaks against it' })).toBeVisible();

    // A cable, then kept.
    await page.getByRole('link', { name: 'Cable', exact: true }).click();
    const cable = page.getByLabel('Cable from the kit');
    await cable.selectOption({ label: await firstWith(cable, /core|pairs?/i) });
    await expect(
      page.getByText('black for ground').or(page.getByText('any that is free')).first(),
    ).toBeVisible();
    await press(page, 'k');
    await page.getByLabel('What was changed, and why').fill('first drawing');
    await page.getByRole('button', { name: 'Keep version 1' }).click();
    await expect(page.getByText('none built')).toBeVisible();

    // Built, each step ticked with the pedal.
    await page.getByRole('link', { name: 'Build', exact: true }).click();
    const steps = await page
      .getByRole('listitem')
      .filter({ has: page.getByRole('checkbox') })
      .count();
    expect(steps).toBeGreaterThan(6);
    for (let n = 0; n < steps; n++) await press(page, 'PageDown');
    await expect(page.getByRole('heading', { name: 'Built', exact: true })).toBeVisible();
    await page.reload();
    await expect(page.getByRole('heading', { name: 'Built', exact: true })).toBeVisible();

    // Proved, hands free: a beep where there should be one, silence where not, and the parts as metered.
    await page.getByRole('link', { name: 'Prove', exact: true }).click();
    const title = page.locator('#prove-title');
    await expect(title).toHaveText(/beep/);
    for (let n = 0; n < 40 && !/^Proved/.test((await title.textContent())?.trim() ?? ''); n++)
      await press(
        page,
        /nothing should beep/.test((await title.textContent()) ?? '') ? 'PageUp' : 'PageDown',
      );
    await expect(title).toHaveText('Proved');
    await page.getByLabel('Mark on the lead').fill('mast 1');
    await page.getByRole('button', { name: 'Keep this build' }).click();
    await expect(page.getByRole('heading', { name: 'Built 1, proved' })).toBeVisible();

    // Printed, and given out as a file that reads back.
    const sheet = page.waitForEvent('download');
    await page.getByRole('link', { name: 'build sheet' }).click();
    const pdf = readFileSync(await (await sheet).path()).toString('latin1');
    expect(pdf.startsWith('%PDF')).toBeTruthy();
    const given = page.waitForEvent('download');
    await page.getByRole('link', { name: 'file', exact: true }).click();
    const path = await (await given).path();
    await page.goto('/bench/adapters');
    await expect(page.getByRole('row', { name: new RegExp(`${name}.*1, all proved`) })).toBeVisible();
    await page.getByLabel('Or read an adapter’s file').setInputFiles({
      name: 'lead.json',
      mimeType: 'application/json',
      buffer: readFileSync(path),
    });
    await expect(page.getByText('New, kept in this browser only')).toBeVisible();
    await expect(page.getByRole('heading', { name: 'No rule speaks against it' })).toBeVisible();
  });

  test('joined with the keyboard alone, undone, and found again after the page was left', async ({
    page,
  }) => {
    await enter(page);
    await page.goto('/bench/adapters');
    await page.getByRole('link', { name: 'Gangway intercom tail' }).click();
    const lamp = page.getByRole('button', { name: /^A BU, LAMP/ });
    await expect(lamp).toHaveAccessibleName(/joined to B VT/);
    await lamp.focus();
    await press(page, 'x');
    await expect(lamp).toHaveAccessibleName(/joined to nothing/);
    await expect(page.getByText(/B VT LAMP is needed and joined to nothing/)).toBeVisible();
    await lamp.focus();
    await page.keyboard.press('Enter');
    const other = page.getByRole('button', { name: /^B VT, LAMP/ });
    await other.focus();
    await page.keyboard.press('Enter');
    await expect(lamp).toHaveAccessibleName(/joined to B VT/);
    await press(page, 'u');
    await expect(lamp).toHaveAccessibleName(/joined to nothing/);
    await page.reload();
    await expect(page.getByText('What you changed here before is still on the bench.')).toBeVisible();
    await page.getByRole('button', { name: 'Go back to what is kept' }).click();
    await expect(lamp).toHaveAccessibleName(/joined to B VT/);
  });

  test('joined by dragging from contact to contact, and a face turned over', async ({ page }) => {
    await enter(page);
    await page.goto('/bench/adapters');
    await page.getByRole('link', { name: 'Tide-gauge logger' }).click();
    const wake = page.getByRole('button', { name: /^A 5, WAKE/ });
    const rts = page.getByRole('button', { name: /^B 7, RTS/ });
    await rts.scrollIntoViewIfNeeded();
    await wake.dragTo(rts);
    await expect(wake).toHaveAccessibleName(/joined to B 7/);
    await expect(page.getByText(/goes \d+.\d V beyond what a 3.3 V logic input bears/).first()).toBeVisible();
    await expect(page.getByText('wiring side, narrow row down')).toBeVisible();
    const face = page.getByRole('img', { name: /^D-sub, 9 contacts, plug/ });
    await expect(face).toHaveAccessibleName(/wiring side, from the top left: 5 4 3 2 1; 9 8 7 6/);
    await press(page, 'f');
    await expect(face).toHaveAccessibleName(/mating face, from the top left: 1 2 3 4 5; 6 7 8 9/);
    await page.getByRole('button', { name: /^Undo/ }).click();
    await expect(wake).toHaveAccessibleName(/joined to nothing/);
  });

  test('levels measured from samples, a part put in a join, and a photo of how the connector lies', async ({
    page,
  }) => {
    await enter(page);
    await page.goto('/bench/adapters');
    await page.getByRole('link', { name: 'Dome shutter hand-box' }).click();
    await page.getByRole('button', { name: /phone socket, 4 contacts: pinout/ }).click();
    await page.getByRole('button', { name: 'More of T' }).click();
    // A line between 0.2 and 4.8 V, a bit of 20 microseconds, one sample each microsecond.
    const rows = Array.from({ length: 600 }, (_, n) => `${n},${Math.floor(n / 20) % 3 === 0 ? 4.8 : 0.2}`);
    await page.getByLabel('Samples of T OPEN while it sends, CSV').setInputFiles({
      name: 'open.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(`Time (us),Volt (V)\n${rows.join('\n')}\n`),
    });
    await expect(page.getByText('0.20 V, 4.80 V')).toBeVisible();
    await expect(page.getByText(/20\.0 µs, about 50,000 bits a second/)).toBeVisible();
    await page.getByRole('button', { name: 'Take these levels' }).click();
    await expect(page.getByText('Measured 0.20 V low, 4.80 V high.')).toBeVisible();
    await page.getByRole('tab', { name: 'Room and how it lies' }).click();
    const words = `slot to the hinge ${Date.now()}`;
    await page.getByLabel('What the photo shows').fill(words);
    await page.getByLabel('Add a photo').setInputFiles({
      name: 'slot.png',
      mimeType: 'image/png',
      buffer: await page.screenshot(),
    });
    await expect(page.getByRole('img', { name: words })).toBeVisible();
    await page.getByRole('button', { name: 'Back to the table' }).click();
    await page.getByRole('button', { name: 'Take this pinout' }).click();

    await page.getByRole('button', { name: /^B 2, CLOSE-KEY/ }).click();
    await page.getByRole('button', { name: 'Put a part in' }).click();
    await page.getByLabel('Ohm').fill('220');
    await page.getByLabel('In words').fill('against static');
    await page.getByRole('button', { name: /^Put it in, at B/ }).click();
    await expect(page.getByText('resistor, 220 ohm, against static').first()).toBeVisible();
    await page.getByRole('link', { name: 'Versions', exact: true }).click();
    await page.getByRole('button', { name: /Version 1/ }).click();
    const change = page.getByRole('row', { name: /A R1 to B 2/ });
    await expect(change).toContainText('resistor 220 ohm against static');
    await expect(page.getByRole('row', { name: /A T/ }).first()).toContainText('0.20 to 4.80 V measured');
  });
});

async function firstWith(select: Locator, words: RegExp): Promise<string> {
  await expect(select.locator('option').nth(1)).toBeAttached();
  const names = await select.locator('option').allTextContents();
  const found = names.map((name) => name.trim()).find((name) => words.test(name));
  if (!found) throw new Error(names.join());
  return found;
}
