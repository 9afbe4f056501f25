import { enter, expect, test } from './crew';

test('a drill is answered, explained and asked again later; nothing of it is lost on leaving', async ({
  page,
}) => {
  await enter(page);
  await page.goto('/bench/practice?drill=how-far');
  await expect(page.getByRole('heading', { name: /How far is it/ })).toBeVisible();
  await page.keyboard.press('1');
  await expect(page.getByRole('status').filter({ hasText: /Right\.|Not so\./ })).toContainText('/ 2 =');
  const own = page.getByRole('listitem').filter({ hasText: 'How far is it' }).first();
  await expect(own).toContainText(/of the last 1/);
  await page.keyboard.press('PageDown');
  await expect(page.getByRole('button', { name: /^1 / })).toBeEnabled();
  await page.reload();
  await expect(own).toContainText(/of the last 1/);
});
