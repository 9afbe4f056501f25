import { clean, enter, expect, openJob, openLink, press, row, test } from './crew';

// Nothing is recorded here, so each may run beside the others.
test.describe.configure({ mode: 'parallel' });

/** Both themes and both sizes, each theme at one size: colours do not depend on the size, nor targets on the theme. */
const VARIANTS = [
  { colorScheme: 'light', viewport: { width: 1280, height: 800 } },
  { colorScheme: 'dark', viewport: { width: 820, height: 1180 } },
] as const;

for (const { colorScheme, viewport } of VARIANTS) {
  test.describe(`no accessibility violation, ${colorScheme}, ${viewport.width}x${viewport.height}`, () => {
    test.beforeEach(async ({ page }) => {
      await page.emulateMedia({ colorScheme, reducedMotion: 'reduce' });
      await page.setViewportSize(viewport);
    });

    test('signing in, jobs, verifying', async ({ page }) => {
      await page.goto('/sign-in');
      await expect(page.getByRole('button', { name: 'Tobi Lund' })).toBeVisible();
      await clean(page, 'sign in');
      await page.route('**/api/session', (route) => route.fulfill({ json: { state: 'setup' } }));
      await page.goto('/sign-in');
      await expect(page.getByRole('heading', { name: 'Make the first lead' })).toBeVisible();
      await clean(page, 'first lead');
      await page.unroute('**/api/session');

      await enter(page, 'Ines Varga');
      await clean(page, 'jobs');
      await page.getByRole('button', { name: 'Start a job' }).click();
      await expect(page.getByRole('dialog')).toBeVisible();
      await clean(page, 'new job');
      await press(page, 'Escape');
      await openJob(page);
      await clean(page, 'job');
      await page.getByRole('button', { name: 'Add links' }).click();
      await expect(page.getByRole('dialog')).toBeVisible();
      await clean(page, 'add links');
      await press(page, 'Escape');
      await row(page, 'C-02').getByRole('link').click();
      await expect(page.locator('#verdict-title')).toBeVisible();
      await clean(page, 'verify, coax');
      await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Locate' }).click();
      await expect(page.getByRole('heading', { name: /at 26\.\d m/ })).toBeVisible();
      await clean(page, 'locate');
      await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Verify' }).click();
      // Enter is for the room again, not for the stage that was chosen last.
      await page.locator('#verdict-title').click();
      await press(page, 'k');
      await expect(
        page.getByRole('heading', { name: 'Before the first reading of this round' }),
      ).toBeVisible();
      await clean(page, 'unplug reminder');
      await press(page, 'Enter');
      await expect(page.getByRole('heading', { name: 'Key the reading in' })).toBeVisible();
      await clean(page, 'key in');
      await press(page, 'Escape');
      await page.getByRole('button', { name: 'Cable work' }).click();
      await clean(page, 'cable work');
    });

    test('terminating, planning, handing over', async ({ page }) => {
      await enter(page, 'Ines Varga');
      await openJob(page);
      await openLink(page, 'P1-07');
      await clean(page, 'hand over, link');
      await page.getByRole('link', { name: 'Terminate' }).click();
      await page.getByRole('button', { name: 'Far end', exact: true }).click();
      await clean(page, 'terminate, threading');
      await page.getByRole('button', { name: /Lay the eight in order/ }).click();
      await clean(page, 'terminate, plug face');
      await press(page, 'c');
      await expect(page.getByRole('heading', { name: 'What do you see in the far plug?' })).toBeVisible();
      await clean(page, 'terminate, read back');
      await press(page, 'Escape', 'o');
      await expect(page.getByRole('heading', { name: 'What has been done to this end?' })).toBeVisible();
      await page.getByLabel('Crimp', { exact: true }).check();
      await page.getByLabel('Thread the boot').uncheck();
      await clean(page, 'terminate, left out');
      await press(page, 'Escape');
      await page.getByRole('button', { name: 'The sheet in the bag says otherwise' }).click();
      await clean(page, 'terminate, sheet in the bag');
      await page.getByRole('button', { name: 'Leave it' }).click();
      await press(page, 'w');
      await clean(page, 'terminate, whole card');
      await press(page, 'w');
      await page.getByRole('button', { name: 'Near end', exact: true }).click();
      await page.getByRole('button', { name: /Lay each conductor/ }).click();
      await clean(page, 'terminate, slots');
      await page.getByRole('link', { name: 'Verify' }).click();
      await expect(page.locator('#verdict-title')).toContainText('Map right');
      await clean(page, 'verify');
      await page.getByRole('button', { name: 'Far colours' }).click();
      await clean(page, 'colours');
      await press(page, 'Escape');
      await page.getByRole('link', { name: 'Plan' }).click();
      await expect(page.locator('ns-finding-list summary')).toBeVisible();
      await clean(page, 'plan');
      await page.getByRole('link', { name: 'Ticket hall refit' }).click();
      await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Plan' }).click();
      await expect(page.locator('td.least').first()).not.toBeEmpty();
      await page
        .getByRole('button', { name: /roof tray/ })
        .first()
        .click();
      await page.getByRole('checkbox', { name: 'P1-19 with others' }).check();
      await clean(page, 'plan of the job');
      await page.getByRole('link', { name: /^As a table/ }).click();
      await expect(page.locator('.cell').first()).toBeVisible();
      await clean(page, 'plan as a table');
      await page.getByRole('link', { name: 'Back to will it carry' }).click();
      await expect(page.getByRole('button', { name: /^What if/ })).toBeEnabled();
      await press(page, 'w');
      await expect(page.getByRole('dialog')).toContainText('As it is planned');
      await clean(page, 'what if');
      await press(page, 'Escape');
      await expect(page.getByRole('dialog')).toBeHidden();
      await page.getByRole('link', { name: 'Materials and cutting' }).click();
      await expect(page.locator('ns-cut-strips').first()).toBeVisible();
      await page.getByRole('button', { name: 'It is in' }).first().click();
      await clean(page, 'materials, a pull');
      await page.getByRole('link', { name: 'Days and people' }).click();
      await expect(page.locator('.ends')).toBeVisible();
      await clean(page, 'days');
      await page.getByRole('button', { name: 'Somebody else' }).click();
      await expect(page.getByRole('dialog')).toContainText('What they can do');
      await clean(page, 'days, a person');
      await press(page, 'Escape');
      await page.goto('/as-built');
      await expect(page.getByRole('tree')).toBeVisible();
      await clean(page, 'as built');
      await page.getByRole('tab', { name: 'Ways' }).click();
      await clean(page, 'as built, ways');
    });

    test('testing many, observing, figures', async ({ page }) => {
      await enter(page, 'Ines Varga');
      await openJob(page, 'Visitor dome');
      await page.getByRole('link', { name: 'Figures' }).click();
      await expect(page.getByRole('heading', { name: 'The crew’s ends, all jobs' })).toBeVisible();
      await clean(page, 'figures');
      await page.goBack();
      await page.getByRole('link', { name: 'Testing round' }).click();
      const begin = page.getByRole('button', { name: /begin the round/ });
      const end = page.getByRole('button', { name: 'End the round' });
      await expect(begin.or(end)).toBeVisible();
      // The same walk in the other theme leaves its round open.
      if (await end.isVisible()) await end.click();
      await expect(begin).toBeVisible();
      await clean(page, 'testing round, before');
      await begin.click();
      await expect(page.getByLabel('Label at the outlet')).toBeVisible();
      await clean(page, 'testing round');
      await page.getByRole('button', { name: 'Bring readings in from a table' }).click();
      await page.getByLabel(/A CSV or XLSX file/).setInputFiles({
        name: 'readings.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from('label,1,2\nnowhere,1,2\n'),
      });
      await expect(page.getByRole('row', { name: /nowhere/ })).toBeVisible();
      await clean(page, 'readings from a table');
      await page.goto('/jobs');
      await openJob(page);
      await openLink(page, 'P1-18');
      await press(page, 'b', 'Enter');
      await expect(page.getByText('Sweep: nothing should beep')).toBeVisible();
      await clean(page, 'led beeper');
      await press(page, 'Escape', 'o');
      for (const kind of ['Reflectometer', 'DC volts', 'Ohmmeter']) {
        await page.getByRole('button', { name: kind }).click();
        await clean(page, `another observation, ${kind}`);
      }
      await page.getByRole('button', { name: 'Leave without saving' }).click();
      await page.goto('/bench');
      await page.getByRole('button', { name: 'Break a link for me' }).click();
      await page.getByRole('button', { name: 'Mapper', exact: true }).click();
      await expect(page.getByRole('list', { name: 'What was seen' }).getByRole('listitem')).toHaveCount(1);
      await page.getByRole('button', { name: 'That is my answer' }).click();
      await expect(page.getByText(/^(Right|Not so)\./)).toBeVisible();
      await clean(page, 'bench, practice');
    });

    test('make one and practice', async ({ page }) => {
      await enter(page, 'Ines Varga');
      await page.goto('/bench/make');
      await expect(page.getByRole('heading', { name: 'What is in your hand?' })).toBeVisible();
      await clean(page, 'make one');
      await page.keyboard.press('1');
      await page.keyboard.press('1');
      await expect(page.getByRole('heading', { name: /What goes on it/ })).toBeVisible();
      await clean(page, 'make one, what goes on it');
      await page.keyboard.press('1');
      await expect(page.getByText(/^Step 1 of \d+$/)).toBeVisible();
      await clean(page, 'make one, card');
      await press(page, 'p');
      await expect(page.getByRole('heading', { name: 'This path should beep' })).toBeVisible();
      await clean(page, 'make one, proof');
      await page.goto('/bench/practice?drill=lay-the-eight');
      await expect(page.getByRole('list', { name: 'Wires to lay' })).toBeVisible();
      await press(page, '1', '2');
      await clean(page, 'practice, laying');
      await press(page, '3', '4', '5', '6', '7', '8', 'PageDown');
      await expect(page.getByText(/^(Right|Not so)\./)).toBeVisible();
      await clean(page, 'practice, laid');
      await page.goto('/bench/cords');
      await expect(page.getByRole('heading', { name: 'Lay out' })).toBeVisible();
      await clean(page, 'cords');
      for (const drill of [
        'order-of-eight',
        'plug-turned',
        'which-face',
        'what-the-map-shows',
        'read-a-trace',
      ]) {
        await page.goto(`/bench/practice?drill=${drill}`);
        await expect(page.getByRole('group', { name: 'Answers' })).toBeVisible();
        await page.keyboard.press('1');
        await expect(page.getByText(/^(Right|Not so)\./)).toBeVisible();
        await clean(page, `practice, ${drill}`);
      }
    });

    test('adapters', async ({ page }) => {
      await enter(page);
      await page.goto('/bench/adapters');
      await expect(page.getByRole('link', { name: 'Tide-gauge logger' })).toBeVisible();
      await clean(page, 'adapters');
      await page.getByRole('link', { name: 'Tide-gauge logger' }).click();
      await expect(page.getByRole('heading', { name: 'No rule speaks against it' })).toBeVisible();
      await clean(page, 'joining');
      await page.getByRole('button', { name: /1x6 header: pinout/ }).click();
      for (const way of [
        'Table',
        'Paste',
        'As the sheet draws it',
        'Meter the colours',
        'Own connector',
        'Room and how it lies',
      ]) {
        await page.getByRole('tab', { name: way }).click();
        await clean(page, way);
      }
      for (const room of ['Cable', 'Build', 'Prove', 'Versions']) {
        await page.getByRole('link', { name: room, exact: true }).click();
        await clean(page, room);
      }
    });

    test('kit, round, coax, crew', async ({ page }) => {
      await enter(page, 'Ines Varga');
      await page.goto('/kit/connector/coax-n');
      await expect(page.getByRole('heading', { name: 'N plug, crimp, for RG-213' })).toBeVisible();
      await page.locator('[id="strip.screenMm"]').fill('99');
      await expect(page.getByText('The screen is not opened further')).toBeVisible();
      await clean(page, 'kit, connector');
      await page.goto('/bench');
      await page.getByRole('button', { name: 'Joined and proved: I am at B' }).click();
      await page.getByLabel('Groups found at B').fill('a b');
      await page.getByRole('button', { name: 'That is what I found' }).click();
      await expect(page.getByText('A join is missed or loose')).toBeVisible();
      await clean(page, 'bench');
      await page.goto('/kit/cable');
      await expect(page.getByText('Cut across, to scale')).toBeVisible();
      await clean(page, 'kit, cable');
      await page.goto('/kit/tool');
      await expect(page.getByRole('button', { name: 'Copy as a new one' })).toBeVisible();
      await clean(page, 'kit, tool');
      await page.goto('/jobs');
      await openJob(page);
      await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Terminate' }).click();
      await page.getByRole('link', { name: 'Make like ends in one round' }).click();
      await expect(page.getByRole('heading', { name: 'Which ends, one after another?' })).toBeVisible();
      await clean(page, 'round, choice');
      await page.locator('.choose button').first().click();
      await clean(page, 'round');
      await page.goto('/jobs');
      await openJob(page);
      await openLink(page, 'C-02');
      await page.getByRole('link', { name: 'Terminate' }).click();
      await page.getByRole('button', { name: /Crimp with the \.429 die/ }).click();
      await page.getByLabel(/Die in your hand/).selectOption('the right one is not here');
      await clean(page, 'terminate, coax and die');
      await page.goto('/crew');
      await expect(page.getByText('Tobi Lund', { exact: true })).toBeVisible();
      await clean(page, 'crew');
      await page.goto('/jobs');
      await openJob(page);
      await page.getByRole('link', { name: 'Hand over' }).click();
      await expect(page.getByRole('button', { name: /^Hand over \d+ links?/ })).toBeVisible();
      await page.getByRole('button', { name: 'Choose parts and order' }).click();
      await clean(page, 'hand over, job');
      await page.getByRole('tab', { name: 'Shown to' }).click();
      await expect(page.getByLabel('For whom')).toBeVisible();
      await clean(page, 'hand over, shown to');
      await page.getByRole('tab', { name: 'What happened' }).click();
      await expect(page.getByRole('list', { name: 'What happened, newest first' })).toBeVisible();
      await clean(page, 'hand over, log');
      await page.getByRole('link', { name: 'Labels', exact: true }).click();
      await expect(page.getByRole('heading', { name: 'Labels' })).toBeVisible();
      await page.getByRole('button', { name: 'A label of your own' }).click();
      await expect(page.getByLabel('Called')).toBeVisible();
      await clean(page, 'labels');
      await page.getByRole('link', { name: 'Find' }).click();
      await page.getByRole('searchbox').fill('split pairs');
      await expect(page.getByRole('list', { name: 'Links' })).toBeVisible();
      await clean(page, 'find');
    });
  });
}
