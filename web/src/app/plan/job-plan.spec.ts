import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { Job, Link } from '@near-spoke/contracts';
import { JobEvents } from '../jobs/jobs.state';
import { someJob, someLink } from '../testing/links';
import { showRoom } from '../testing/rooms';
import { JobPlan } from './job-plan';

const roof = (temperatureC: number) =>
  ({ name: 'roof', temperatureC, space: 'outdoor', closed: false, ductMm: null, mainsMm: null }) as const;
const mast = (n: number, change: Partial<Link> = {}): Link =>
  someLink({
    id: `m${n}`,
    label: `M-0${n}`,
    position: n,
    version: n,
    cableTypeId: 'cat6-f-outdoor',
    lengthM: 80,
    route: [
      { name: 'shelf', lengthM: 10 },
      { name: 'roof', lengthM: 70 },
    ],
    far: { room: 'Mast', outlet: `bridge ${n}`, connectorId: 'plug-outdoor', done: false },
    ...change,
  });
const fed = { power: { type: 'passive-24', deviceW: 19 } };

async function show(links: Link[], job: Partial<Job> = {}, role: 'lead' | 'technician' | 'viewer' = 'lead') {
  const room = await showRoom(JobPlan, { inputs: { jobId: 'job' }, role });
  room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob(job)] }));
  room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links }));
  await room.until(() => room.page.querySelectorAll('td.least').length === links.length);
  await room.until(() => room.text('td.least') !== '');
  return room;
}
const cells = (page: HTMLElement): string[] =>
  [...page.querySelectorAll('td.least')].map((cell) => cell.textContent?.trim() ?? '');

describe('a job’s plan', () => {
  it('puts the link that is worst off in hand, with what would cure it', async () => {
    const room = await show([mast(1), mast(2, { carries: fed })], { stretches: [roof(45)] });
    expect(cells(room.page)[1]).toMatch(/^power: \d+\.\d W short$/);
    expect(room.text('.head [role=status]')).toBe('1 wrong, 0 close to a limit');
    expect(room.text('.side h2')).toBe('M-02: will it carry?');
    expect(room.text('.side')).toContain('What would cure it');
    expect(room.text('.side')).toContain('warmest at');
    await room.press('ArrowUp');
    expect(room.text('.side h2')).toBe('M-01: will it carry?');
  });

  it('draws the ways as a tree, and keeps what a stretch is like for all that run in it', async () => {
    const other = { ...roof(20), name: 'cellar' };
    const room = await show([mast(1), mast(2)], {
      units: 'imperial',
      stretches: [roof(45), other],
      version: 7,
    });
    const branches = [...room.page.querySelectorAll('ns-route-branches button')];
    expect(branches.map((one) => one.querySelector('span')?.textContent)).toEqual(['shelf', 'roof']);
    expect(branches[1]?.textContent).toContain('230 ft, 2 cables, 113 °F');
    (branches[1] as HTMLButtonElement).click();
    await room.fixture.whenStable();
    const warmest = await room.loader.getHarness(MatInputHarness.with({ label: 'Warmest air' }));
    expect(await warmest.getValue()).toBe('113');
    await warmest.setValue('131');
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Keep the stretch' }))).click();
    const kept = room.asked.at(-1) as ReturnType<typeof JobEvents.jobEdited>;
    expect(kept.change).toEqual({ version: 7, stretches: [other, { ...roof(45), temperatureC: 55 }] });
  });

  it('lengthens a stretch for every link that runs in it, and never uses a way up', async () => {
    const elsewhere = mast(3, { route: [{ name: 'shelf', lengthM: 80 }] });
    const room = await show([mast(1), mast(2), elsewhere]);
    const open = async (): Promise<MatInputHarness> => {
      [...room.page.querySelectorAll<HTMLButtonElement>('ns-route-branches button')].at(1)?.click();
      await room.fixture.whenStable();
      return room.loader.getHarness(MatInputHarness.with({ label: 'Longer by' }));
    };
    const keep = async (): Promise<void> =>
      (await room.loader.getHarness(MatButtonHarness.with({ text: 'Keep the stretch' }))).click();
    await (await open()).setValue('-70');
    await keep();
    expect(room.text('[role=alert]')).toBe('Nothing would be left of roof on M-01: shorten it by less.');
    await (await open()).setValue('4,5');
    await keep();
    const sent = room.asked.at(-1) as ReturnType<typeof JobEvents.linksEdited>;
    expect(sent.changes.map(({ id, lengthM, route }) => [id, lengthM, route?.at(1)?.lengthM])).toEqual([
      ['m1', 84.5, 74.5],
      ['m2', 84.5, 74.5],
    ]);
  });

  it('says for several links at once what they carry, each by the version that was seen', async () => {
    const room = await show([mast(1), mast(2), mast(3)]);
    for (const label of ['M-01', 'M-03'])
      await (
        await room.loader.getHarness(
          MatCheckboxHarness.with({ selector: `:has(input[aria-label="${label} with others"])` }),
        )
      ).check();
    const set = await room.loader.getHarness(MatButtonHarness.with({ text: 'Set it for 2 links' }));
    expect(await set.isDisabled()).toBeTrue();
    const data = await room.loader.getHarness(MatSelectHarness.with({ label: 'Data' }));
    await data.open();
    await data.clickOptions({ text: '2.5GBASE-T' });
    await set.click();
    const sent = room.asked.at(-1) as ReturnType<typeof JobEvents.linksEdited>;
    expect(sent.changes).toEqual([
      { id: 'm1', version: 1, carries: { data: '2.5gbase-t' } },
      { id: 'm3', version: 3, carries: { data: '2.5gbase-t' } },
    ]);
  });

  it('lets a viewer look and change nothing', async () => {
    const room = await show([mast(1)], {}, 'viewer');
    expect(room.page.querySelectorAll('mat-checkbox').length).toBe(0);
    expect(room.page.querySelector('.head button')).toBeNull();
    (room.page.querySelector('ns-route-branches button') as HTMLButtonElement).click();
    await room.fixture.whenStable();
    expect(room.text('.side')).toContain('A lead says what a stretch is like.');
  });
});
