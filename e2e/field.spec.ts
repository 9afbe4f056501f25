import { chromium, type Browser, type BrowserContext, type Page } from '@playwright/test';
import { between, type Between } from './between';
import { clean, enter, expect, makeBothEnds, openLink, ownJob, press, row, send, test } from './crew';

test.use({ serviceWorkers: 'allow' });

const END = 'jack-punched';
const linksOf = (prefix: string, count: number) =>
  Array.from({ length: count }, (_, n) => ({
    label: `${prefix}-${String(n + 1).padStart(3, '0')}`,
    cable: 'cat6-u',
    near: END,
  }));

/** Somebody's device, that reaches the application over a network of the story's own. */
async function device(browser: Browser, network: Between): Promise<BrowserContext> {
  return browser.newContext({
    baseURL: network.url,
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'allow',
  });
}

/** The job is whole on the device, and so are the pages. */
async function keepJob(page: Page, jobId: string): Promise<void> {
  await page.goto(`/jobs/${jobId}`);
  await page.getByRole('button', { name: 'Keep this job on this device' }).click();
  await expect(page.getByText(/On this device since/)).toBeVisible();
  await page.waitForFunction(async () => {
    const state = await (await fetch('/ngsw/state')).text().catch(() => '');
    return state.includes('NORMAL') && /Clients: \w/.test(state);
  });
}

interface Detail {
  link: { stage: string; far: { room: string } };
  terminations: { id: string; side: string; by: string; at: string; deviceAt?: string }[];
  tests: { id: string; deviceAt?: string; diagnosis: { result: string } }[];
}
const detailOf = async (page: Page, linkId: string): Promise<Detail> =>
  (await page.request.get(`/api/links/${linkId}`)).json() as Promise<Detail>;

const allSent = (page: Page): Promise<void> =>
  expect(page.getByText('All that waited here is sent.')).toBeVisible();

/** Walks a round of like ends: one key for each. */
async function round(
  page: Page,
  jobId: string,
  side: 'near' | 'far',
  labels: readonly string[],
): Promise<void> {
  await page.goto(`/jobs/${jobId}/round`);
  await page
    .getByRole('button', { name: new RegExp(`${side === 'near' ? 'Near' : 'Far'} end`, 'i') })
    .first()
    .click();
  for (const label of labels) {
    await expect(page.getByRole('heading', { level: 1 })).toContainText(label);
    await press(page, 'PageDown');
  }
}

test('a day without a network: a hundred links are read in a round, judged on the device, and sent once', async ({
  page,
  browser,
  baseURL,
}) => {
  const network = await between(baseURL ?? '');
  await enter(page, 'Ines Varga');
  const { jobId, links } = await ownJob(
    page,
    { site: 'Cable cellar', title: 'A day below', hub: 'C-1' },
    linksOf('C', 100),
  );
  for (const id of Object.values(links)) await makeBothEnds(page, id, END);
  const tablet = await device(browser, network);
  const down = await tablet.newPage();
  await enter(down, 'Tobi Lund');
  await keepJob(down, jobId);

  network.away = true;
  await down.goto(`/jobs/${jobId}/tests`);
  await expect(down.getByText(/No answer from the server since \d\d:\d\d/)).toBeVisible();
  await down.getByRole('button', { name: /begin the round/i }).click();
  for (const label of Object.keys(links)) {
    await expect(down.getByLabel('Label at the outlet')).toHaveValue(label);
    await down.getByRole('button', { name: 'Key in: all straight' }).click();
    await expect(down.getByRole('status').filter({ hasText: `${label}: Map right` })).toBeVisible();
  }
  await expect(down.getByText('101 records wait on this device')).toBeVisible();
  await down.getByRole('link', { name: 'What waits' }).click();
  await expect(down.getByText('C-100: read with')).toBeVisible();

  network.away = false;
  await allSent(down);
  await expect(down.getByRole('heading', { name: 'Nothing waits' })).toBeVisible();
  for (const id of Object.values(links)) {
    const { link, tests } = await detailOf(page, id);
    expect([link.stage, tests.length, tests[0]?.diagnosis.result]).toEqual(['proved', 1, 'pass']);
    expect(tests[0]?.deviceAt).toBeDefined();
  }
  await down.goto(`/jobs/${jobId}/tests`);
  await expect(down.getByRole('row', { name: /C-100/ })).toContainText('Map right');
  await tablet.close();
  await network.close();
});

test('two devices without a network: one is reloaded, one killed, one gets a newer version; each record is there once, and one conflict is settled by a person', async ({
  page,
  browser,
  baseURL,
}) => {
  const network = await between(baseURL ?? '');
  await enter(page, 'Ines Varga');
  const { jobId, links } = await ownJob(
    page,
    { site: 'Tide mill', title: 'Two lofts', hub: 'L-1' },
    linksOf('L', 25),
  );
  const labels = Object.keys(links);
  const id = (label: string): string => links[label] as string;
  const [one, two] = [await device(browser, network), await device(browser, network)];
  const tobi = await one.newPage();
  let marit = await two.newPage();
  await enter(tobi, 'Tobi Lund');
  await enter(marit, 'Marit Osei');
  await keepJob(tobi, jobId);
  await keepJob(marit, jobId);

  network.away = true;
  await round(tobi, jobId, 'near', labels.slice(0, 10));
  await round(marit, jobId, 'far', labels.slice(0, 12));
  // One is loaded again, the other killed in the middle, and opened anew.
  await tobi.reload();
  await expect(tobi.getByText('10 records wait on this device')).toBeVisible();
  const killed = marit.waitForEvent('crash');
  await marit.goto('chrome://crash').catch(() => undefined);
  await killed;
  marit = await two.newPage();
  await marit.goto(`/jobs/${jobId}`);
  await expect(marit.getByText('12 records wait on this device')).toBeVisible();
  await expect(row(marit, 'L-012')).toContainText('near end waits');
  // A newer version of the pages comes while her records wait, and takes them over.
  network.newerPages();
  network.away = 'requests';
  await marit.reload();
  await marit.getByRole('button', { name: 'Load it' }).click();
  await expect(marit.getByText('12 records wait on this device')).toBeVisible();
  network.away = true;
  await round(tobi, jobId, 'near', labels.slice(10));
  await round(marit, jobId, 'far', labels.slice(12));
  await expect(tobi.getByText('25 records wait on this device')).toBeVisible();

  // Tobi changes a plan meanwhile, and so does Ines, who has a network.
  await tobi.goto(`/jobs/${jobId}`);
  await openLink(tobi, 'L-003');
  await tobi.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Plan' }).click();
  await tobi.getByLabel('Far room').fill('Grain floor');
  await tobi.getByRole('button', { name: /^Save/ }).click();
  await expect(tobi.getByText('26 records wait on this device')).toBeVisible();
  await page.goto(`/jobs/${jobId}/links/${id('L-003')}/plan`);
  await page.getByLabel('Far room').fill('Wheel pit');
  await page.getByRole('button', { name: /^Save/ }).click();
  await expect.poll(async () => (await detailOf(page, id('L-003'))).link.far.room).toBe('Wheel pit');

  // The network is back, and some of its answers are lost on the way.
  network.answersToLose = 3;
  network.away = false;
  await expect(tobi.getByText('The server did not take one record.')).toBeVisible();
  await allSent(marit);

  await tobi.getByRole('link', { name: 'Look at it' }).click();
  const both = tobi.getByRole('region', { name: 'L-003: its plan changed' });
  await expect(both.getByRole('row', { name: 'Far room' })).toContainText('Grain floor');
  await expect(both.getByRole('row', { name: 'Far room' })).toContainText('Wheel pit');
  expect((await detailOf(page, id('L-003'))).link.far.room).toBe('Wheel pit');
  await clean(tobi, 'what waits');
  await both.getByRole('button', { name: 'Send mine over it' }).click();
  await expect(tobi.getByRole('heading', { name: 'Nothing waits' })).toBeVisible();
  expect((await detailOf(page, id('L-003'))).link.far.room).toBe('Grain floor');

  for (const label of labels) {
    const { terminations } = await detailOf(page, id(label));
    expect(terminations.map(({ side, by }) => `${side} ${by}`).sort()).toEqual([
      'far Marit Osei',
      'near Tobi Lund',
    ]);
    expect(terminations.every(({ at, deviceAt }) => deviceAt !== undefined && deviceAt < at)).toBe(true);
  }
  await one.close();
  await two.close();
  await network.close();
});

test('who signs out is told what is not sent, and it is sent when the same person comes back', async ({
  page,
  browser,
  baseURL,
}) => {
  const network = await between(baseURL ?? '');
  await enter(page, 'Ines Varga');
  const { jobId, links } = await ownJob(
    page,
    { site: 'Signal box', title: 'One wall', hub: 'S-1' },
    linksOf('S', 2),
  );
  const tablet = await device(browser, network);
  const down = await tablet.newPage();
  await enter(down, 'Tobi Lund');
  await keepJob(down, jobId);
  network.away = true;
  await round(down, jobId, 'near', ['S-001']);
  await expect(down.getByText('One record waits on this device')).toBeVisible();
  await down.getByRole('button', { name: 'Tobi Lund' }).click();
  await down.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(down.getByRole('heading', { name: 'One record is not sent yet' })).toBeVisible();
  await down.getByRole('button', { name: 'Stay' }).click();
  // His session ends elsewhere: nothing is sent for anybody else.
  await tablet.clearCookies();
  network.away = false;
  await expect(down.getByText('One record waits to be sent.')).toBeVisible();
  await enter(down, 'Marit Osei');
  await expect(down.getByText(/waits/)).toHaveCount(0);
  expect((await detailOf(page, links['S-001'] as string)).terminations).toEqual([]);
  await down.getByRole('button', { name: 'Marit Osei' }).click();
  await down.getByRole('menuitem', { name: 'Sign out' }).click();
  await down.getByRole('button', { name: 'Tobi Lund' }).click();
  await expect
    .poll(async () => (await detailOf(page, links['S-001'] as string)).terminations.map(({ by }) => by))
    .toEqual(['Tobi Lund']);
  await tablet.close();
  await network.close();
});

test('a tablet on the crew’s own network, without a safe connection, goes on in the page that is open', async ({
  page,
  baseURL,
}, { project }) => {
  const network = await between(baseURL ?? '');
  await enter(page, 'Ines Varga');
  const { jobId, links } = await ownJob(
    page,
    { site: 'Ice house', title: 'Plain network', hub: 'I-1' },
    linksOf('I', 2),
  );
  const { executablePath, args } = project.use.launchOptions ?? {};
  const browser = await chromium.launch({
    ...(executablePath ? { executablePath } : {}),
    args: [...(args ?? []), '--host-resolver-rules=MAP tablet.test 127.0.0.1'],
  });
  const tablet = await browser.newPage({ baseURL: network.url.replace('127.0.0.1', 'tablet.test') });
  // The demo's people are let in by one click on the machine itself alone.
  const [name, passphrase] = [`Una Falk ${crypto.randomUUID().slice(0, 4)}`, 'quiet tide under bridge'];
  await send(page, '/api/crew', { id: crypto.randomUUID(), name, role: 'technician', passphrase });
  await tablet.goto('/sign-in');
  await tablet.getByLabel('Name').fill(name);
  await tablet.getByLabel('Passphrase').fill(passphrase);
  await tablet.getByRole('button', { name: 'Sign in' }).click();
  await expect(tablet.getByRole('heading', { name: 'Jobs' })).toBeVisible();
  expect(await tablet.evaluate(() => isSecureContext)).toBe(false);
  await tablet.goto(`/jobs/${jobId}`);
  await tablet.getByRole('button', { name: 'Keep this job on this device' }).click();
  await expect(tablet.getByText(/On this device since/)).toBeVisible();
  await round(tablet, jobId, 'near', ['I-001']);
  await expect.poll(async () => (await detailOf(page, links['I-001'] as string)).terminations.length).toBe(1);
  // The server has it before the tablet knows; until then the next end is not in hand.
  await expect(tablet.getByRole('heading', { level: 1 })).toContainText('I-002');
  network.away = true;
  await press(tablet, 'PageDown');
  await expect(tablet.getByText('One record waits on this device')).toBeVisible();
  network.away = false;
  await allSent(tablet);
  expect((await detailOf(page, links['I-002'] as string)).terminations.length).toBe(1);
  await browser.close();
  await network.close();
});
