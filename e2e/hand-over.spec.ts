import type { Page } from '@playwright/test';
import { readFileSync, writeFileSync } from 'node:fs';
import { enter, expect, makeBothEnds, ownJob, press, send, test } from './crew';

const CONTACTS = [...'12345678'];
const straight = Object.fromEntries(CONTACTS.map((contact) => [contact, [contact]]));

/** A job of its own with three links, two of them proved, recorded as a crew would; answers its address. */
async function provedJob(page: Page): Promise<string> {
  const planned = ['S-01', 'S-02', 'S-03'].map((label, at) => ({
    label,
    cable: 'cat6-u',
    near: 'jack-punched',
    room: 'Office',
    lengthM: 24 + at,
    route: [{ name: 'tray', lengthM: 20 }],
  }));
  const job = { site: 'Salt store', title: 'Office floor', hub: 'SS-2' };
  const { jobId, links } = await ownJob(page, job, planned);
  for (const [label, id] of Object.entries(links)) {
    await makeBothEnds(page, id, 'jack-punched');
    if (label === 'S-03') continue;
    await send(page, `/api/links/${id}/tests`, {
      id: crypto.randomUUID(),
      instrumentName: 'pocket mapper',
      reading: { instrument: 'coded-mapper', arrivals: straight, joins: [], splits: null },
      unplugged: true,
    });
  }
  return jobId;
}

const download = async (
  page: Page,
  name: string | RegExp,
  role: 'link' | 'button' | 'menuitem' = 'link',
): Promise<string> => {
  const waiting = page.waitForEvent('download');
  await page.getByRole(role, { name }).click();
  return (await waiting).path();
};

test('what is proved goes by one key, is accepted, reported, checked, and found out when it is changed', async ({
  page,
}, info) => {
  await enter(page, 'Ines Varga');
  const jobId = await provedJob(page);
  await page.goto(`/jobs/${jobId}/hand-over`);
  await expect(page.getByRole('button', { name: 'Hand over 2 links' })).toBeEnabled();
  await expect(page.getByText('to be tested')).toBeVisible();
  await press(page, 'Enter');
  await expect(page.getByText('2 links are handed over.')).toBeVisible();

  await page.getByLabel('Name').fill('R. Thorne');
  await page.getByLabel('Signs as').fill('owner of the salt store');
  await page.getByRole('button', { name: 'Accept 2 links' }).click();
  await page.getByRole('button', { name: 'What changed since?' }).click();
  await expect(page.getByText('Nothing has changed since.')).toBeVisible();

  const html = readFileSync(await download(page, 'Report, one page'), 'utf8');
  const pdf = await download(page, 'Report, PDF');
  await page.getByRole('tab', { name: 'Check a report' }).click();
  const drop = page.getByLabel('A report, PDF or page');
  const fine = page.getByText('nothing changed since.');
  await drop.setInputFiles(pdf);
  await expect(page.getByText('The report is as it was made.')).toBeVisible();
  await expect(fine).toBeVisible();
  const forged = info.outputPath('forged.html');
  writeFileSync(forged, html.replace('R. Thorne', 'R. Thornton'));
  await drop.setInputFiles(forged);
  await expect(page.getByText('What the page shows is not what follows from its records')).toBeVisible();

  // Taken back, and the report says so.
  await page.getByRole('link', { name: 'S-01', exact: true }).click();
  await page.getByLabel('To take it back, say why').fill('wrong desk');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('button', { name: /Hand it over/ })).toBeVisible();
  await page.goto(`/jobs/${jobId}/hand-over`);
  await page.getByRole('tab', { name: 'Check a report' }).click();
  await page.getByLabel('A report, PDF or page').setInputFiles(pdf);
  await expect(page.getByText('S-01: a reopening was added by Ines Varga')).toBeVisible();
});

test('a report is shown to somebody without an account until it is taken back', async ({ page, browser }) => {
  await enter(page, 'Ines Varga');
  const jobId = await provedJob(page);
  await page.goto(`/jobs/${jobId}/hand-over`);
  await page.getByRole('tab', { name: 'Shown to' }).click();
  await page.getByLabel('For whom').fill('the harbour office');
  await page.getByRole('button', { name: 'Make an address' }).click();
  const address = (await page.locator('.address .figure').textContent()) ?? '';
  const other = await browser.newContext();
  const theirs = await other.newPage();
  await theirs.goto(address.trim());
  await expect(theirs.getByRole('heading', { name: 'Salt store: Office floor' })).toBeVisible();
  await expect(theirs.getByText('for the harbour office')).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('taken back')).toBeVisible();
  const after = await theirs.reload();
  expect(after?.status()).toBe(404);
  await other.close();
});

test('labels are printed as they are shown, and a label that is read opens its link anywhere', async ({
  page,
}) => {
  await enter(page, 'Ines Varga');
  const jobId = await provedJob(page);
  await page.goto(`/jobs/${jobId}/labels`);
  await page.getByRole('combobox', { name: 'Printed on' }).click();
  await page.getByRole('option', { name: 'A4 sheet, flat 48.5 x 25.4 mm' }).click();
  await page.getByLabel('With a code to the link').check();
  await expect(page.getByRole('region', { name: 'Labels at true size' })).toContainText('S-02');
  const pdf = await download(page, '6 labels, PDF', 'button');
  expect(readFileSync(pdf, 'latin1').startsWith('%PDF-')).toBe(true);
  const csv = readFileSync(await download(page, 'Table for a label printer, CSV', 'button'), 'utf8');
  const read =
    /"(http[^"]+\/l\/[\w-]{22})"/.exec(csv.split('\n').find((line) => line.includes('S-02')) ?? '')?.[1] ??
    '';
  expect(read).not.toBe('');
  await page.goto('/kit');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  // A reader types what it sees, quicker than any hand, and ends with Enter.
  await page.evaluate((text) => {
    for (const key of [...text, 'Enter'])
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  }, read);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('S-02');

  await page.goto(`/jobs/${jobId}/labels`);
  await page.getByRole('button', { name: 'A label of your own' }).click();
  await page.getByLabel('Called').fill('Our flags');
  await page.getByRole('combobox', { name: 'Put on' }).click();
  await page.getByRole('option', { name: 'as a flag' }).click();
  await page.getByRole('combobox', { name: 'Comes on' }).click();
  await page.getByRole('option', { name: 'a roll' }).click();
  await page.getByLabel('Label, wide').fill('60');
  await page.getByLabel('Label, high').fill('12');
  await expect(page.getByText('Give the part that is written on, or goes round the cable.')).toBeVisible();
  await page.getByLabel('Middle round the cable').fill('22');
  await page.getByRole('button', { name: 'Keep this label' }).click();
  await expect(page.getByRole('combobox', { name: 'Printed on' })).toContainText('Our flags');
  await expect(page.getByText('for cables up to 7 mm')).toBeVisible();
});

test('a whole job leaves as an archive, and an archive that is here or damaged is refused in words', async ({
  page,
}, info) => {
  await enter(page, 'Ines Varga');
  const jobId = await provedJob(page);
  await page.goto(`/jobs/${jobId}/hand-over`);
  const archive = await download(page, 'Whole job, archive');
  await page.goto('/jobs');
  const drop = page.getByLabel('Bring a job in from its archive');
  await drop.setInputFiles({ name: 'job.zip', mimeType: 'application/zip', buffer: readFileSync(archive) });
  await expect(page.getByText('This job is here already, as Office floor.')).toBeVisible();
  const damaged = info.outputPath('damaged.zip');
  writeFileSync(damaged, readFileSync(archive).subarray(0, 900));
  await drop.setInputFiles(damaged);
  await expect(page.getByText('It is no zip archive, or a part of it is missing')).toBeVisible();
});

test('what the next person has to know is written down with a photo, found, reported, and shown for the whole building', async ({
  page,
}) => {
  await enter(page, 'Ines Varga');
  const jobId = await provedJob(page);
  await page.goto(`/jobs/${jobId}/hand-over`);
  await page.getByRole('link', { name: 'S-03', exact: true }).click();
  const stages = page.getByRole('navigation', { name: 'Stages' });
  // A link has one stage more than its job: by then the stages are the link's.
  await expect(stages.getByRole('link', { name: 'Locate' })).toBeVisible();
  await stages.getByRole('link', { name: 'Hand over' }).click();
  await page.getByLabel('What to know about it').fill('Behind the copper sink');
  await page.getByLabel('Photo').setInputFiles('demo/photos/loop-above-shelf.jpg');
  await expect(page.getByAltText('The photo, not kept yet')).toBeVisible();
  await page.getByRole('button', { name: 'Keep it' }).click();
  const photo = page.getByRole('img', { name: 'Behind the copper sink' });
  await expect(photo).toBeVisible();
  expect(
    await photo.evaluate((image: HTMLImageElement) => image.decode().then(() => image.naturalWidth)),
  ).toBe(800);

  await press(page, '/');
  await page.getByRole('searchbox').fill('copper sink');
  await expect(page.getByRole('list', { name: 'Links' })).toContainText('S-03');

  await page.goto(`/jobs/${jobId}/hand-over`);
  await page.getByRole('tab', { name: 'Adapters' }).click();
  await page.getByRole('button', { name: 'It goes with the job' }).click();
  await expect(page.locator('ns-job-leads a')).toBeVisible();
  const report = readFileSync(await download(page, 'Report, one page'), 'utf8');
  expect(report).toContain('Behind the copper sink. Ines Varga');
  expect(report).toContain('src="data:image/jpeg;base64,');
  expect(report).toContain('<h2>Adapters</h2>');
  const workbook = readFileSync(await download(page, 'Table, XLSX', 'button'));
  expect(workbook.subarray(0, 2).toString()).toBe('PK');

  await page.goto('/as-built/Salt%20store');
  await page.getByRole('treeitem', { name: /Office/ }).click();
  await expect(page.getByRole('heading', { name: 'Office' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Links' })).toContainText('1 note');
  await page.getByRole('button', { name: 'Take along: Office' }).click();
  const csv = readFileSync(await download(page, 'Office, CSV', 'menuitem'), 'utf8');
  expect(csv).toContain('Length (m)');
  await page.getByRole('tab', { name: 'What changed' }).click();
  await expect(page.getByRole('list', { name: /What happened here/ })).toContainText(
    'Behind the copper sink',
  );
});
