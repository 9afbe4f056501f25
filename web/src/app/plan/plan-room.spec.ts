import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { LinkEvents } from '../link/link.state';
import { JobEvents } from '../jobs/jobs.state';
import { someDetail, someJob, someLink } from '../testing/links';
import { showRoom } from '../testing/rooms';
import { PlanRoom } from './plan-room';

const field = (label: string) => MatInputHarness.with({ label });

describe('the plan', () => {
  it('shows lengths in the job’s own units and saves them in metres', async () => {
    const room = await showRoom(PlanRoom, {
      detail: someDetail({ units: 'imperial', link: someLink({ lengthM: 30.48, route: [] }) }),
    });
    const length = await room.loader.getHarness(field('Length, ft'));
    expect(await length.getValue()).toBe('100');
    await length.setValue('50');
    room.page.querySelector<HTMLFormElement>('form')?.requestSubmit();
    const saved = room.asked.at(-1) as ReturnType<typeof LinkEvents.planEdited>;
    expect(saved.change.lengthM).toBeCloseTo(15.24, 6);
    expect(saved.change.version).toBe(1);
  });

  it('speaks against a plug that does not take the cable, as soon as it is chosen', async () => {
    const room = await showRoom(PlanRoom);
    expect(room.text('.side')).toContain('Route, cable and connectors agree.');
    const far = await room.loader.getHarness(MatSelectHarness.with({ label: 'Far connector' }));
    await far.open();
    await far.clickOptions({ text: 'N plug, crimp, for RG-213' });
    expect(room.text('.side')).toContain(
      'Wrong: Far end, N plug, crimp, for RG-213: It is not made for Cat 6 unscreened',
    );
  });

  it('adds and drops stretches, and says when the route does not add up', async () => {
    const room = await showRoom(PlanRoom);
    const drop = room.page.querySelector<HTMLButtonElement>('[aria-label="Drop stretch 1"]');
    drop?.click();
    await room.fixture.whenStable();
    expect(room.text('.side')).toContain('The route adds up to 30.0 m, the link says 31.4 m.');
  });

  it('sets a colleague’s change beside what is typed, and saves over it only when told to', async () => {
    const room = await showRoom(PlanRoom);
    const outlet = await room.loader.getHarness(field('Outlet'));
    await outlet.setValue('mine');
    const theirs = { ...someLink({ version: 4 }), far: { ...someLink().far, outlet: 'theirs' } };
    const problem = {
      type: '',
      title: '',
      status: 409,
      detail: '',
      current: theirs,
      changedBy: 'Ines',
      changedAt: '',
    };
    room.store.dispatch(LinkEvents.requestFailed({ problem }));
    await room.fixture.whenStable();
    expect(room.text('.conflict h2')).toBe('Changed by Ines since you opened it');
    expect(room.text('.conflict tbody')).toBe('Outletminetheirs');
    expect(await outlet.getValue()).toBe('mine');
    const keep = [...room.page.querySelectorAll<HTMLButtonElement>('.conflict button')].find((b) =>
      b.textContent?.includes('Save mine'),
    );
    keep?.click();
    const saved = room.asked.at(-1) as ReturnType<typeof LinkEvents.planEdited>;
    expect([saved.change.version, saved.change.outlet]).toEqual([4, 'mine']);
  });

  it('does not overwrite what is being typed when a newer version is read', async () => {
    const room = await showRoom(PlanRoom);
    const outlet = await room.loader.getHarness(field('Outlet'));
    await outlet.setValue('half typed');
    room.store.dispatch(
      LinkEvents.detailRead({ detail: someDetail({ link: someLink({ version: 2, standing: 'changed' }) }) }),
    );
    await room.fixture.whenStable();
    expect(await outlet.getValue()).toBe('half typed');
  });

  it('is read only for a viewer', async () => {
    const room = await showRoom(PlanRoom, { role: 'viewer' });
    expect(await (await room.loader.getHarness(field('Label'))).isDisabled()).toBeTrue();
    expect(room.page.textContent).not.toContain('Save the plan');
  });

  it('holds what a link carries against what limits it, its neighbours counted', async () => {
    const mine = someLink({ lengthM: 88, route: [{ name: 'roof', lengthM: 88 }] });
    const room = await showRoom(PlanRoom, { detail: someDetail({ link: mine }) });
    const roof = {
      name: 'roof',
      temperatureC: 50,
      space: 'outdoor',
      closed: true,
      ductMm: null,
      mainsMm: null,
    } as const;
    room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob({ stretches: [roof] })] }));
    room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links: [mine] }));
    await room.until(() => room.text('ns-finding-list').includes('not made for outdoors'));
    const power = await room.loader.getHarness(MatSelectHarness.with({ label: 'Power over it' }));
    await power.open();
    await power.clickOptions({ text: 'passive 24 V' });
    // A figure is missing: nothing can be saved yet.
    expect(room.text('.side .unsure')).toContain('A figure is missing');
    await (await room.loader.getHarness(field('Device takes'))).setValue('20');
    await room.until(() => room.text('ns-finding-list').includes('power:'));
    expect(room.text('ns-finding-list')).toMatch(/power: \d+\.\d W short/);
    room.page.querySelector<HTMLFormElement>('form')?.requestSubmit();
    const saved = room.asked.at(-1) as ReturnType<typeof LinkEvents.planEdited>;
    expect(saved.change.carries).toEqual({ power: { type: 'passive-24', deviceW: 20 } });
  });
});
