import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatDialogHarness } from '@angular/material/dialog/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { provideRouter } from '@angular/router';
import type { Job, Link, NewLink, Role } from '@near-spoke/contracts';
import type { Pattern } from '@near-spoke/core';
import { Header } from '../header';
import { someJob, someLink } from '../testing/links';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { JobPage } from './job-page';
import { JobEvents, type JobDraft } from './jobs.state';
import { JobsPage } from './jobs-page';

const NONE = someJob().stages;
const job = (change: Partial<Job> = {}): Job =>
  someJob({ title: 'Ticket hall', stages: { ...NONE, failed: 1, proved: 2 }, ...change });
const links = (...stages: Link['stage'][]): Link[] =>
  stages.map((stage, i) =>
    someLink({
      id: `id-${i}`,
      label: `P1-0${i + 1}`,
      position: i + 1,
      stage,
      standing: stage,
      nextStep: 'Look',
    }),
  );
const NO_ANSWER = { type: '', title: 'No answer', status: 0, detail: 'The server does not answer.' };

async function dialogOf<C>(room: Room<C>): Promise<MatDialogHarness> {
  return TestbedHarnessEnvironment.documentRootLoader(room.fixture).getHarness(MatDialogHarness);
}
/** Waits until the dialog has faded. */
const closed = <C>(room: Room<C>): Promise<void> =>
  room.until(() => document.querySelector('mat-dialog-container') === null);
async function fill(dialog: MatDialogHarness, label: RegExp | string, text: string): Promise<void> {
  const all = await dialog.getAllHarnesses(MatInputHarness);
  for (const input of all) {
    const host = await input.host();
    const id = await host.getAttribute('id');
    const name = document.querySelector(`label[for="${id}"]`)?.textContent?.trim() ?? '';
    if (typeof label === 'string' ? name === label : label.test(name)) return input.setValue(text);
  }
  throw new Error(`No field ${label}.`);
}
const press = async (dialog: MatDialogHarness, text: string): Promise<void> =>
  (await dialog.getHarness(MatButtonHarness.with({ text }))).click();
const dispatched = <T>(room: Room<unknown>, type: string): T[] =>
  room.asked.filter((action) => action.type === type) as unknown as T[];

describe('the jobs page', () => {
  const show = async (jobs: Job[], role: Role = 'lead'): Promise<Room<JobsPage>> => {
    TestBed.configureTestingModule({ providers: [provideRouter([])] });
    const room = await showRoom(JobsPage, { role });
    room.store.dispatch(JobEvents.jobsRead({ jobs }));
    await room.fixture.whenStable();
    return room;
  };

  it('says of each job how far it has come', async () => {
    const room = await show([job(), job({ id: 'new', title: 'Attic', stages: NONE })]);
    const [hall, attic] = [...room.page.querySelectorAll('li')].map(
      (one) => one.querySelector('.counts')?.textContent?.replace(/\s+/g, ' ').trim() ?? '',
    );
    expect(hall).toMatch(/^2 proved 1 wrong$|^1 wrong 2 proved$/);
    expect(attic).toBe('no links yet');
    const shares = [...room.page.querySelectorAll<HTMLElement>('li:first-child .bar span')].map(
      (one) => one.style.flexGrow,
    );
    expect(shares.sort()).toEqual(['1', '2']);
  });

  it('folds the jobs that are closed away', async () => {
    const room = await show([
      job({ id: 'a', title: 'Attic' }),
      job({ id: 'b', title: 'Barn', closedAt: '2026-11-03T08:00:00.000Z' }),
    ]);
    const titles = (where: string): (string | null)[] =>
      [...room.page.querySelectorAll(`${where} strong`)].map((one) => one.textContent);
    expect([titles('main > ul'), titles('details')]).toEqual([['Attic'], ['Barn']]);
    expect(room.page.querySelector('details')?.open).toBeFalse();
  });

  it('has the lead start the first, and nobody else', async () => {
    expect((await show([])).text('.empty')).toContain('Start the first');
    TestBed.resetTestingModule();
    const room = await show([], 'technician');
    expect(room.text('.empty')).toContain('The lead starts them.');
    expect(room.page.querySelector('button')).toBeNull();
  });

  it('starts a job by one form, which closes when the job is there and not before', async () => {
    const room = await show([]);
    (await room.loader.getHarness(MatButtonHarness.with({ text: 'Start a job' }))).click();
    const dialog = await dialogOf(room);
    const start = await dialog.getHarness(MatButtonHarness.with({ text: 'Start the job' }));
    expect(await start.isDisabled()).toBeTrue();
    await fill(dialog, 'Site', 'Lock house');
    await fill(dialog, 'What is done there', 'Attic');
    await fill(dialog, 'Hub, as its door says', 'LK-1');
    await start.click();
    room.store.dispatch(JobEvents.requestFailed({ problem: NO_ANSWER }));
    expect(await dialog.getText()).toContain('The server does not answer.');
    await start.click();
    const [lost, again] = dispatched<{ job: JobDraft }>(room, JobEvents.jobDrafted.type).map(
      (one) => one.job,
    );
    expect(again).toEqual(lost as JobDraft);
    expect([lost?.site, lost?.title, lost?.hub, lost?.scheme, lost?.units]).toEqual([
      'Lock house',
      'Attic',
      'LK-1',
      'T568B',
      'metric',
    ]);
    room.store.dispatch(JobEvents.jobAdded({ job: job() }));
    await room.settled();
    await closed(room);
  });
});

describe('a job’s page', () => {
  const pattern: Pattern = {
    words: 'Three ends of P1 are wired as T568A',
    action: 'Redo them in one round',
  } as unknown as Pattern;
  const show = async (
    list: Link[],
    options: {
      role?: Role;
      patterns?: Pattern[];
      units?: Job['units'];
      at?: string;
      closedAt?: string;
      answers?: FakeServer['answers'];
    } = {},
  ): Promise<Room<JobPage> & { server: FakeServer }> => {
    const server = new FakeServer({
      ...(options.patterns ? { jobPatterns: () => options.patterns } : {}),
      ...options.answers,
    });
    TestBed.configureTestingModule({ providers: [server.provider, provideRouter([])] });
    const inputs = { jobId: 'job', ...(options.at ? { at: options.at } : {}) };
    const room = await showRoom(JobPage, { role: options.role ?? 'technician', inputs });
    const closing = options.closedAt ? { closedAt: options.closedAt } : {};
    room.store.dispatch(
      JobEvents.jobsRead({ jobs: [job({ units: options.units ?? 'metric', ...closing })] }),
    );
    room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links: list }));
    await room.settled();
    return { ...room, server };
  };
  const labels = (room: Room<JobPage>): (string | null)[] =>
    [...room.page.querySelectorAll('ns-link-table tbody a')].map((one) => one.textContent);

  it('draws one hub at a time where there are several, links between them at either', async () => {
    const at = (label: string, near: object, far: object = {}): Link => {
      const [one] = links('planned');
      const link = one as Link;
      return { ...link, id: label, label, near: { ...link.near, ...near }, far: { ...link.far, ...far } };
    };
    const room = await show([
      at('A-01', { hub: 'CR-1' }),
      at('B-01', { hub: 'CR-2', otherHub: true }),
      at('T-01', { hub: 'CR-1' }, { room: 'CR-2', outlet: 'P1/24' }),
    ]);
    const drawn = (): string[] =>
      [...room.page.querySelectorAll('ns-spoke-map .spoke title')].map(
        (title) => title.textContent?.split(',')[0] ?? '',
      );
    expect(room.text('#hub-title')).toBe('CR-1');
    expect(drawn()).toEqual(['A-01', 'T-01']);
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'CR-2' }))).click();
    expect(room.text('#hub-title')).toBe('CR-2');
    expect(drawn()).toEqual(['B-01', 'T-01']);
  });

  it('leads to what is wrong first, by one key', async () => {
    const room = await show(links('planned', 'both-ends', 'failed', 'proved'));
    expect(room.text('.next h2')).toBe('P1-03: Look');
    await room.press('Enter');
    expect(room.ways).toEqual(['/jobs/job/links/id-2/verify']);
  });

  it('is asked for once, whatever changes on it meanwhile', async () => {
    const room = await show(links('failed'));
    room.store.dispatch(JobEvents.linksAdded({ jobId: 'job', links: links('failed', 'planned') }));
    room.store.dispatch(JobEvents.kitNeeded());
    await room.settled();
    expect(dispatched(room, JobEvents.jobOpened.type)).toEqual([jasmine.objectContaining({ jobId: 'job' })]);
  });

  it('says when everything is handed over', async () => {
    const room = await show(links('handed-over', 'handed-over'));
    expect(room.text('.next h2')).toBe('All 2 links are handed over');
    expect(room.page.querySelector('.next a')?.getAttribute('href')).toBe('/jobs/job/hand-over');
  });

  it('finds links by label, place or fault, and shows those of one stop', async () => {
    const room = await show(links('planned', 'both-ends', 'failed'), { at: 'verify' });
    expect(labels(room)).toEqual(['P1-03', 'P1-02']);
    expect(room.text('.filter')).toContain('2 of 3 links wait at Verify.');
    const find = room.page.querySelector('#find-link') as HTMLInputElement;
    find.value = '  FAILED ';
    find.dispatchEvent(new Event('input'));
    await room.fixture.whenStable();
    expect(labels(room)).toEqual(['P1-03']);
  });

  it('names what several links have in common, and stands where that cannot be asked', async () => {
    const room = await show(links('failed', 'failed'), { patterns: [pattern] });
    expect(room.text('.pattern')).toContain('Three ends of P1 are wired as T568A');
    TestBed.resetTestingModule();
    const silent = await show(links('failed', 'failed'));
    expect(silent.page.querySelector('.pattern')).toBeNull();
    expect(labels(silent).length).toBe(2);
  });

  it('does not call a job empty before its links are read', async () => {
    const server = new FakeServer({});
    TestBed.configureTestingModule({ providers: [server.provider, provideRouter([])] });
    const room = await showRoom(JobPage, { inputs: { jobId: 'job' } });
    room.store.dispatch(JobEvents.jobsRead({ jobs: [job()] }));
    await room.settled();
    expect(room.text('main')).not.toContain('No links yet');
    room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links: [] }));
    await room.settled();
    expect(room.text('.empty h2')).toBe('No links yet');
  });

  it('says that there is no such job', async () => {
    const room = await show([]);
    room.fixture.componentRef.setInput('jobId', 'another');
    await room.settled();
    room.store.dispatch(JobEvents.jobsRead({ jobs: [job()] }));
    await room.settled();
    expect(room.text('main')).toContain('There is no such job.');
  });

  it('tells the header how far the job has come', async () => {
    await show(links('one-end', 'handed-over'));
    const stations = TestBed.inject(Header).stations();
    expect(stations.map(({ name, reached }) => [name, reached])).toEqual([
      ['Plan', true],
      ['Terminate', true],
      ['Verify', true],
      ['Hand over', true],
    ]);
  });

  it('plans a row of links in the job’s own units, and sends a retry as the same links', async () => {
    const room = await show([], { units: 'imperial' });
    (await room.loader.getHarness(MatButtonHarness.with({ text: 'Add links', ancestor: '.empty' }))).click();
    const dialog = await dialogOf(room);
    await fill(dialog, 'First label', 'A-09');
    await fill(dialog, 'How many', '3');
    await fill(dialog, 'First port', '9');
    await fill(dialog, 'Far room', 'attic');
    await fill(dialog, 'First outlet', 'desk 1');
    await fill(dialog, /^Length, ft/, '100');
    expect(await dialog.getText()).toContain('Adds A-09 to A-11.');
    await press(dialog, 'Add');
    room.store.dispatch(JobEvents.requestFailed({ problem: NO_ANSWER }));
    await press(dialog, 'Add');
    const [lost, again] = dispatched<{ links: NewLink[] }>(room, JobEvents.linksDrafted.type).map(
      (one) => one.links,
    );
    expect(again).toEqual(lost as NewLink[]);
    expect(lost?.map(({ label, port, outlet }) => [label, port, outlet])).toEqual([
      ['A-09', '9', 'desk 1'],
      ['A-10', '10', 'desk 2'],
      ['A-11', '11', 'desk 3'],
    ]);
    expect(lost?.[0]?.lengthM).toBeCloseTo(30.48, 6);
    expect(new Set(lost?.map(({ id }) => id)).size).toBe(3);
    room.store.dispatch(JobEvents.linksAdded({ jobId: 'job', links: links('planned') }));
    await room.settled();
    await closed(room);
  });

  const change = async (room: Room<JobPage>): Promise<MatDialogHarness> => {
    (await room.loader.getHarness(MatButtonHarness.with({ text: /the job$/ }))).click();
    return dialogOf(room);
  };

  it('is changed by a lead: its units, and by what it is called', async () => {
    const room = await show(links('planned'), {
      role: 'lead',
      answers: { changeJob: () => job({ title: 'Ticket hall, north', units: 'imperial', version: 2 }) },
    });
    const dialog = await change(room);
    await fill(dialog, 'What is done there', 'Ticket hall, north');
    const units = await dialog.getHarness(MatSelectHarness.with({ label: 'Units' }));
    await units.clickOptions({ text: 'feet' });
    await press(dialog, 'Keep');
    await closed(room);
    expect(room.server.sent('changeJob')[0]?.body).toEqual({
      version: 1,
      site: 'Pier',
      title: 'Ticket hall, north',
      hub: 'CR-1',
      units: 'imperial',
      scheme: 'T568B',
    });
    expect(room.text('td.length')).toBe('103 ft');
  });

  it('warns before another scheme is every end’s, and says why it was not kept', async () => {
    const room = await show(links('planned'), { role: 'lead' });
    const dialog = await change(room);
    const scheme = await dialog.getHarness(MatSelectHarness.with({ label: 'Scheme, at every end' }));
    await scheme.clickOptions({ text: 'T568A' });
    expect(await dialog.getText()).toContain('Every end that was made to T568B is another scheme’s then');
    await press(dialog, 'Keep');
    expect(await dialog.getText()).toContain('Nobody answers changeJob.');
  });

  it('is closed and reopened, and offers nothing to do in between', async () => {
    const closedAt = '2026-11-03T08:00:00.000Z';
    const room = await show(links('planned'), {
      role: 'lead',
      answers: { changeJob: (asked) => job((asked.body as { closed: boolean }).closed ? { closedAt } : {}) },
    });
    await press(await change(room), 'Close the job');
    await closed(room);
    expect(room.text('.next h2')).toBe('Nothing is done here any more');
    expect(room.page.querySelector('.find button')).toBeNull();
    const dialog = await change(room);
    expect(await dialog.getAllHarnesses(MatInputHarness)).toEqual([]);
    await press(dialog, 'Reopen the job');
    await closed(room);
    expect(room.text('.next h2')).toBe('P1-01: Look');
  });

  it('lends its plan to another job, a retry as the same one', async () => {
    let answers = 0;
    const room = await show(links('proved'), {
      role: 'lead',
      closedAt: '2026-11-03T08:00:00.000Z',
      answers: {
        copyJob: () => {
          if (answers++ === 0) throw refusal('The server does not answer.', 0);
          return job({ id: 'again' });
        },
      },
    });
    const dialog = await change(room);
    await press(dialog, 'Use its plan again');
    await fill(dialog, 'Hub, as its door says', 'CR-12');
    await press(dialog, 'Start the job');
    expect(await dialog.getText()).toContain('The server does not answer.');
    await press(dialog, 'Start the job');
    await closed(room);
    const [lost, kept] = room.server.sent('copyJob');
    expect(kept).toEqual(lost as typeof kept & object);
    const { title, hub } = kept?.body as { title: string; hub: string };
    expect([title, hub]).toEqual(['Ticket hall, again', 'CR-12']);
  });

  it('offers a viewer nothing to add', async () => {
    const room = await show([], { role: 'viewer' });
    expect(room.text('.empty')).toContain('No links yet');
    expect(room.page.querySelector('.empty button')).toBeNull();
    expect(room.text('.find')).toBe('');
  });
});
