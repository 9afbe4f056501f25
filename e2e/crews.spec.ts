import type { Browser, Page } from '@playwright/test';
import { enter, expect, press, send, test } from './crew';

const PASSPHRASE = 'quiet tide under bridge';

/** A person of the demo's crew, made for this story alone. */
async function person(page: Page, role: 'lead' | 'technician'): Promise<string> {
  const name = `${role === 'lead' ? 'Pia' : 'Leo'} ${crypto.randomUUID().slice(0, 6)}`;
  await send(page, '/api/crew', { id: crypto.randomUUID(), name, role, passphrase: PASSPHRASE });
  return name;
}

async function signIn(browser: Browser, baseURL: string | undefined, name: string): Promise<Page> {
  const page = await (await browser.newContext(baseURL ? { baseURL } : {})).newPage();
  await page.goto('/sign-in');
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Passphrase').fill(PASSPHRASE);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Jobs' })).toBeVisible();
  return page;
}

test('a second crew is founded, somebody comes into it by a code, and neither crew sees the other’s work', async ({
  page,
  browser,
  baseURL,
}) => {
  await enter(page, 'Ines Varga');
  const [pia, leo] = [await person(page, 'lead'), await person(page, 'technician')];
  const called = `Night crew ${crypto.randomUUID().slice(0, 4)}`;

  const lead = await signIn(browser, baseURL, pia);
  await lead.getByRole('link', { name: 'Crew', exact: true }).click();
  await expect(lead.getByRole('heading', { level: 1, name: 'Tideline Cabling' })).toBeVisible();
  await lead.getByLabel('What it is called', { exact: true }).fill(called);
  await lead.getByRole('button', { name: 'Found it' }).click();
  await lead.getByRole('button', { name: `Go on in ${called}` }).click();
  await expect(lead.getByRole('heading', { name: 'No jobs yet' })).toBeVisible();
  await expect(lead.getByRole('banner')).toContainText(called);
  await expect(lead.getByText('Ticket hall refit')).toHaveCount(0);
  await lead.getByRole('link', { name: 'Crew', exact: true }).click();
  await expect(lead.getByRole('heading', { level: 1, name: called })).toBeVisible();
  await expect(lead.getByText('Ines Varga')).toHaveCount(0);
  await lead.getByRole('button', { name: 'Make a code' }).click();
  const code = (await lead.locator('code').textContent()) ?? '';
  expect(code).toMatch(/^[A-Z2-9]{4}-[A-Z2-9]{4}-[A-Z2-9]{4}$/);
  const job = {
    id: crypto.randomUUID(),
    site: 'Boat shed',
    title: 'Night work',
    hub: 'N-1',
    scheme: 'T568B',
    units: 'metric',
  };
  await send(lead, '/api/jobs', job);

  // By the keyboard alone, in small letters and without the dashes.
  const tech = await signIn(browser, baseURL, leo);
  await expect(tech.getByText('Ticket hall refit')).toBeVisible();
  await tech.goto('/crew');
  await tech.getByLabel('Code of another crew').focus();
  await tech.keyboard.type(code.toLowerCase().replaceAll('-', ' '));
  await press(tech, 'Enter');
  await expect(tech.getByText('Night work')).toBeVisible();
  await expect(tech.getByText('Ticket hall refit')).toHaveCount(0);
  // The job of the other crew is not there, by its address either.
  const theirs = (await (await page.request.get('/api/jobs')).json()) as { id: string; title: string }[];
  const hall = theirs.find(({ title }) => title === 'Ticket hall refit')?.id ?? '';
  expect((await tech.request.get(`/api/jobs/${hall}/links`)).status()).toBe(404);
  expect(theirs.map(({ title }) => title)).not.toContain('Night work');

  await tech.getByRole('button', { name: leo }).click();
  await tech.getByRole('menuitem', { name: 'Go on in Tideline Cabling' }).click();
  await expect(tech.getByText('Ticket hall refit')).toBeVisible();
  await expect(tech.getByText('Night work')).toHaveCount(0);
  await lead.reload();
  await expect(lead.getByText(`Came in by a code: ${leo}.`)).toBeVisible();
  await tech.context().close();
  await lead.context().close();
});
