import { enter, expect, openJob, openLink, press, test } from './crew';

test('a tablet that loses its network in the middle of a card says so, keeps its place, and goes on when it is back', async ({
  page,
}) => {
  await enter(page, 'Tobi Lund');
  await openJob(page);
  await openLink(page, 'P1-17');
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Terminate' }).click();
  await expect(page.getByText(/^Step 1 of \d+$/)).toBeVisible();
  await press(page, 'PageDown', 'PageDown');
  await expect(page.getByText(/^Step 3 of \d+$/)).toBeVisible();

  await page.context().setOffline(true);
  const away = page.getByText(/No answer from the server since \d\d:\d\d/);
  await expect(away).toBeVisible();
  await press(page, 'PageDown');
  await expect(page.getByText(/^Step 4 of \d+$/)).toBeVisible();
  await page.getByRole('button', { name: 'Look now' }).click();
  await expect(away).toBeVisible();

  await page.context().setOffline(false);
  await expect(page.getByText('The server answers again.')).toBeVisible();
  await expect(page.getByText(/^Step 4 of \d+$/)).toBeVisible();
  await page.getByRole('button', { name: 'Good' }).click();
  await expect(page.getByText('The server answers again.')).toBeHidden();
});
