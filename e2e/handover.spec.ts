import { readFileSync } from 'node:fs';
import { enter, expect, openJob, openLink, test } from './crew';

test('the job’s handover gives its report, a table and the complete record', async ({ page }) => {
  await enter(page, 'Ines Varga');
  await openJob(page);
  await page.getByRole('link', { name: 'Hand over' }).click();
  const files = [
    ['Report, PDF', 'report-ticket-hall-refit.pdf', '%PDF-'],
    ['Report, one page', 'report-ticket-hall-refit.html', '<!doctype html>'],
    ['Table, CSV', 'handover-ticket-hall-refit.csv', '\ufefflabel,from,to'],
    ['Complete record, JSON', 'handover-ticket-hall-refit.json', '{"format":"near-spoke/handover"'],
  ] as const;
  for (const [name, file, begins] of files) {
    const waiting = page.waitForEvent('download');
    await page.getByRole('link', { name }).click();
    const download = await waiting;
    expect(download.suggestedFilename()).toBe(file);
    expect(readFileSync(await download.path(), 'utf8').startsWith(begins)).toBe(true);
  }
  await page.getByRole('tab', { name: 'What happened' }).click();
  await expect(page.getByRole('list', { name: 'What happened, newest first' })).toContainText('handed over');
});

test('a link that is not proved cannot be handed over, and says why', async ({ page }) => {
  await enter(page);
  await openJob(page);
  await openLink(page, 'C-02');
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Hand over' }).click();
  await expect(page.getByText('It cannot be handed over yet: Low impedance at 27.0 m.')).toBeVisible();
  await expect(page.getByRole('button', { name: /Hand it over/ })).toHaveCount(0);
});

test('a viewer may look and not record', async ({ page, browser }) => {
  await enter(page, 'Ines Varga');
  await page.goto('/crew');
  await page.getByLabel('Name').fill('Site owner');
  await page.getByLabel('First passphrase, at least 12 characters').fill('only looking around');
  await page.locator('form').getByLabel('Role').click();
  await page.getByRole('option', { name: 'viewer' }).click();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('Site owner', { exact: true })).toBeVisible();

  const other = await browser.newContext();
  const theirs = await other.newPage();
  await theirs.goto('/sign-in');
  await theirs.getByLabel('Name').fill('site owner');
  await theirs.getByLabel('Passphrase').fill('only looking around');
  await theirs.getByRole('button', { name: 'Sign in' }).click();
  await openJob(theirs);
  await openLink(theirs, 'C-02');
  await expect(theirs.getByText('You may look, not record.')).toBeVisible();
  await theirs.keyboard.press('r');
  await expect(theirs.getByRole('button', { name: /unplugged and dead/ })).toHaveCount(0);
  await theirs.getByRole('button', { name: 'Site owner' }).click();
  await theirs.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(theirs.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await other.close();
});

test('a wrong passphrase is refused in words', async ({ page }) => {
  await page.goto('/sign-in');
  await page.getByLabel('Name').fill('Tobi Lund');
  await page.getByLabel('Passphrase').fill('not this');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('Name and passphrase do not belong together');
});

test('work goes on when the server is gone: it says so and nothing typed is lost', async ({ page }) => {
  await enter(page);
  await openJob(page);
  await openLink(page, 'D-05');
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByLabel('Outlet').fill('kiosk by the door');
  await page.route('**/api/**', (route) =>
    route.fulfill({ status: 503, contentType: 'text/plain', body: 'gone' }),
  );
  page.removeAllListeners('console');
  await page.getByRole('button', { name: 'Save the plan' }).click();
  await expect(page.getByRole('alert')).toContainText('Try again');
  await expect(page.getByLabel('Outlet')).toHaveValue('kiosk by the door');
});
