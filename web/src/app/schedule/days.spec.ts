import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatDialogHarness } from '@angular/material/dialog/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import type { JobDays, JobSchedule, Link } from '@near-spoke/contracts';
import { planDays, tasksOf, type Visit } from '@near-spoke/core';
import ICAL from 'ical.js';
import { JobEvents } from '../jobs/jobs.state';
import { someJob, someLink } from '../testing/links';
import { showRoom } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { calendarFile } from './calendar-file';
import { minuteOf, nextDay, somebody, unsaid, weekWords } from './days-draft';
import { DaysPage } from './days-page';
import { LOCAL_NOW } from './local-now';

const visit = (change: Partial<Visit> = {}): Visit => ({
  task: 'near pairs CR-1 > Hall',
  kind: 'near',
  skill: 'pairs',
  places: ['CR-1'],
  people: ['Ines Varga'],
  day: '2026-11-30',
  from: 485,
  to: 525.4,
  labels: ['P1-01', 'P1-02'],
  ...change,
});
const openLink = (n: number, change: Partial<Link> = {}): Link =>
  someLink({
    id: `id-${n}`,
    label: `P1-0${n}`,
    position: n,
    stage: 'planned',
    near: { hub: 'CR-1', panel: 'P1', port: String(n), connectorId: 'jack-punched', done: false },
    far: { room: 'Hall', outlet: `o${n}`, connectorId: 'jack-punched', done: false },
    ...change,
  });

async function show(days: Partial<JobDays> = {}, keep?: (sent: JobSchedule) => JobSchedule) {
  const server = new FakeServer({
    listReels: () => [],
    listVelocities: () => [],
    spoilCounts: () => [],
    readSchedule: () => ({
      schedule: null,
      version: 0,
      times: [],
      crew: ['Ines Varga', 'Tobi Lund'],
      walkS: 120,
      ...days,
    }),
    ...(keep ? { keepSchedule: ({ body }: { body?: unknown }) => keep(body as JobSchedule) } : {}),
  });
  TestBed.configureTestingModule({
    providers: [
      server.provider,
      { provide: LOCAL_NOW, useValue: () => ({ day: '2026-12-03', minute: 600 }) },
    ],
  });
  const room = await showRoom(DaysPage, { role: 'technician', inputs: { jobId: 'job' } });
  room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob()] }));
  room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links: [openLink(1), openLink(2)] }));
  await room.until(() => room.text('.ends, [role=alert]') !== '');
  return { ...room, server };
}

describe('days of a job', () => {
  it('lay out what is left for all of the crew where nobody has said who works on it', async () => {
    const room = await show();
    expect(room.text('[role=alert]')).toBe('');
    // At ten in the morning the day has begun: they are those after it.
    expect(room.text('.ends')).toMatch(
      /^Done Friday 4 December, 08:\d\d; nine times in ten by Friday 4 December/,
    );
    const what = [...room.page.querySelectorAll('ns-day-strips strong')].map((one) => one.textContent);
    expect(what[0]).toBe('Pull 2 cables from CR-1 to Hall');
    expect(what.slice(1).sort()).toEqual([
      'Make 2 ends in CR-1',
      'Make 2 ends in Hall',
      'Test and label 2 links between Hall and CR-1',
    ]);
    expect(room.text('.side')).toContain('Nobody has said');
  });

  it('say what stands in the way, and are kept with the version that was seen', async () => {
    const people = [{ ...somebody('Marit Osei'), skills: ['pull' as const] }];
    const schedule = { ...unsaid([]), people };
    const room = await show({ schedule, version: 4 }, (sent) => ({ ...sent, version: 5 }));
    expect(room.text('[role=alert]')).toContain('Nobody here does what P1-01 needs');
    (room.page.querySelector('[aria-label="Change Marit Osei"]') as HTMLButtonElement).click();
    await room.settled();
    const dialog = await TestbedHarnessEnvironment.documentRootLoader(room.fixture).getHarness(
      MatDialogHarness,
    );
    const name = await dialog.getHarness(MatInputHarness.with({ label: 'Name' }));
    await name.setValue('');
    expect(await dialog.getText()).toContain('Who is it?');
    await name.setValue('Ada Holm');
    const off = await dialog.getHarness(MatInputHarness.with({ label: /Days off/ }));
    await off.setValue('2026-13-01');
    expect(await dialog.getText()).toContain('2026-13-01 is no day');
    await off.setValue('2026-12-24');
    (
      [...document.querySelectorAll<HTMLButtonElement>('mat-dialog-actions button')].at(
        -1,
      ) as HTMLButtonElement
    ).click();
    await room.until(() => room.server.sent('keepSchedule').length > 0);
    expect(room.server.sent('keepSchedule')[0]?.body).toEqual({
      version: 4,
      schedule: { ...schedule, people: [{ ...people[0], name: 'Ada Holm', off: ['2026-12-24'] }] },
    });
  });

  it('take what somebody else said meanwhile instead of writing over it', async () => {
    const room = await show({ version: 1, schedule: unsaid(['Ines Varga']) }, () => {
      const theirs = { schedule: unsaid(['Tobi Lund']), version: 2 };
      const refused = refusal('Changed by somebody else.');
      Object.assign(refused.problem, { current: theirs });
      throw refused;
    });
    const pull = await room.loader.getHarness(MatInputHarness.with({ label: /pull in one cable/ }));
    await pull.setValue('20');
    await (await pull.host()).dispatchEvent('change');
    await room.until(() => room.text('.side').includes('Tobi Lund'));
    expect(room.text('.side')).not.toContain('Ines Varga');
    expect(room.text('ns-problem-note')).toContain('Changed by somebody else.');
  });
});

describe('days as a calendar', () => {
  const read = (text: string): ICAL.Event[] =>
    new ICAL.Component(ICAL.parse(text))
      .getAllSubcomponents('vevent')
      .map((component) => new ICAL.Event(component));
  const about = { jobId: 'job-1', title: 'Quay: Hall', made: new Date(Date.UTC(2026, 10, 29)) };

  it('are read by another reader as they are: local times, words, places', () => {
    const [event] = read(calendarFile([visit({ places: ['Loft; east, 2nd'] })], about));
    expect(event?.startDate.toString()).toBe('2026-11-30T08:05:00');
    expect(event?.endDate.toString()).toBe('2026-11-30T08:45:00');
    expect(event?.startDate.zone.tzid).toBe('floating');
    expect(event?.summary).toBe('Make 2 ends in Loft; east, 2nd (Ines Varga)');
    expect(event?.location).toBe('Loft; east, 2nd');
    expect(event?.description).toBe('P1-01, P1-02');
  });

  it('name the same visit the same every time, and no two alike', () => {
    const plan = planDays(
      tasksOf(
        Array.from({ length: 90 }, (_, n) => ({
          label: `L${n}`,
          hub: 'CR-1',
          room: `room ${n % 3}`,
          pulled: false,
          near: { done: false, skill: 'pairs' as const, minutes: 7 },
          far: { done: false, skill: 'pairs' as const, minutes: 7 },
          proved: false,
        })),
        { pull: 12, test: 6 },
      ),
      { begins: '2026-11-30', workers: [somebody('Ines')], access: [], walkMinutes: 2 },
      () => false,
    );
    const uids = read(calendarFile(plan.visits, about)).map(({ uid }) => uid);
    expect(uids.length).toBe(plan.visits.length);
    expect(new Set(uids).size).toBe(uids.length);
    expect(read(calendarFile(plan.visits, about)).map(({ uid }) => uid)).toEqual(uids);
  });
});

describe('what is said of days', () => {
  it('reads times and words weeks', () => {
    expect([minuteOf('08:05'), minuteOf('24:00'), minuteOf('eight')]).toEqual([485, 1440, null]);
    expect([weekWords([5, 1, 2, 3, 4]), weekWords([2, 4]), weekWords([6])]).toEqual([
      'Mon to Fri',
      'Tue, Thu',
      'Sat',
    ]);
  });

  it('begins on the next day that somebody works', () => {
    expect(nextDay('2026-12-05', [somebody('Ines')])).toBe('2026-12-07');
    expect(nextDay('2026-12-07', [{ ...somebody('Ines'), off: ['2026-12-07'] }])).toBe('2026-12-08');
  });
});
