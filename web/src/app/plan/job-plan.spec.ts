import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatDialogHarness } from '@angular/material/dialog/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { Job, Link } from '@near-spoke/contracts';
import { JobEvents } from '../jobs/jobs.state';
import { someJob, someLink } from '../testing/links';
import { showRoom } from '../testing/rooms';
import { FakeServer } from '../testing/server';
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

async function show(
  links: Link[],
  job: Partial<Job> = {},
  role: 'lead' | 'technician' | 'viewer' = 'lead',
  answers: FakeServer['answers'] = {},
) {
  const server = new FakeServer({ listLinksOut: () => [], ...answers });
  TestBed.configureTestingModule({ providers: [server.provider] });
  const room = await showRoom(JobPlan, { inputs: { jobId: 'job' }, role });
  room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob(job)] }));
  room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links }));
  await room.until(() => room.page.querySelectorAll('td.least').length === links.length);
  await room.until(() => room.text('td.least') !== '');
  return { ...room, server };
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

  it('takes links out of the job with the reason, and brings them back from where they are listed', async () => {
    const out: Link[] = [];
    const room = await show([mast(1), mast(2)], {}, 'lead', {
      listLinksOut: () => out,
      takeLinksOut: () => {
        out.push(mast(2, { out: { at: '2026-11-03T08:00:00.000Z', by: 'Ines', reason: 'no bridge there' } }));
        return out;
      },
      bringLinksBack: () => [mast(2, { version: 4 })],
    });
    expect(room.page.querySelector('ns-links-out details')).toBeNull();
    const box = MatCheckboxHarness.with({ selector: ':has(input[aria-label="M-02 with others"])' });
    await (await room.loader.getHarness(box)).check();
    const why = await room.loader.getHarness(MatInputHarness.with({ label: 'Why it is not wanted' }));
    await why.setValue(' no bridge there ');
    const button = MatButtonHarness.with({ text: 'Take it out of the job' });
    await (await room.loader.getHarness(button)).click();
    expect(room.server.sent('takeLinksOut')[0]?.body).toEqual({
      links: [{ id: 'm2', version: 2 }],
      reason: 'no bridge there',
    });
    await room.until(() => room.page.querySelector('ns-links-out details') !== null);
    expect(room.text('h1')).toBe('1 links');
    expect(room.text('ns-links-out li')).toContain('M-02');
    expect(room.text('ns-links-out li')).toContain('Ines, 3 Nov 2026: no bridge there');
    out.pop();
    room.page.querySelector<HTMLButtonElement>('ns-links-out button')?.click();
    await room.until(() => room.text('h1') === '2 links');
    expect(room.server.sent('bringLinksBack')[0]?.body).toEqual({ links: [{ id: 'm2', version: 2 }] });
    expect(room.page.querySelector('ns-links-out details')).toBeNull();
  });

  it('changes nothing of a job that is closed', async () => {
    const room = await show([mast(1)], { closedAt: '2026-11-03T08:00:00.000Z' });
    expect(room.page.querySelectorAll('mat-checkbox').length).toBe(0);
    expect(room.text('.head')).not.toMatch(/Add links|As a table|From a spreadsheet/);
  });

  it('lets a viewer look and change nothing', async () => {
    const room = await show([mast(1)], {}, 'viewer');
    expect(room.page.querySelectorAll('mat-checkbox').length).toBe(0);
    expect(room.text('.head')).not.toMatch(/Add links|As a table|From a spreadsheet/);
    (room.page.querySelector('ns-route-branches button') as HTMLButtonElement).click();
    await room.fixture.whenStable();
    expect(room.text('.side')).toContain('A lead says what a stretch is like.');
  });

  it('is laid beside itself thought otherwise, and becomes so only where that is asked for', async () => {
    const room = await show([mast(1), mast(2, { carries: fed, version: 5 })], { stretches: [roof(45)] });
    await room.press('w');
    const dialog = await TestbedHarnessEnvironment.documentRootLoader(room.fixture).getHarness(
      MatDialogHarness,
    );
    const says = async (words: string): Promise<void> => {
      for (let n = 0; n < 100 && !(await dialog.getText()).includes(words); n++)
        await new Promise((resolve) => setTimeout(resolve, 20));
      expect(await dialog.getText()).toContain(words);
    };
    await says('Say what would be otherwise.');
    const power = await dialog.getHarness(MatSelectHarness.with({ ancestor: 'mat-form-field:last-of-type' }));
    await power.open();
    await power.clickOptions({ text: /48 V/ });
    await says('0 wrong');
    expect(await dialog.getText()).toContain('1 wrong');
    expect(room.asked.filter(({ type }) => type === JobEvents.linksEdited.type)).toEqual([]);
    await (await dialog.getHarness(MatButtonHarness.with({ text: 'Make it the plan of one link' }))).click();
    await room.until(() => room.asked.at(-1)?.type === JobEvents.linksEdited.type);
    const kept = room.asked.at(-1) as ReturnType<typeof JobEvents.linksEdited>;
    expect(kept.changes).toEqual([
      { id: 'm2', version: 5, carries: { power: { type: 'passive-48', deviceW: 19 } } },
    ]);
  });
});
