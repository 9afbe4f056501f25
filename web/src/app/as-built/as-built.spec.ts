import { TestBed } from '@angular/core/testing';
import { MatTabGroupHarness } from '@angular/material/tabs/testing';
import { MatTreeHarness } from '@angular/material/tree/testing';
import type { BuiltLink, SiteAsBuilt } from '@near-spoke/contracts';
import { someLink } from '../testing/links';
import { showRoom } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { AsBuiltPage } from './as-built-page';

const built = (id: string, room: string, change: Partial<BuiltLink> = {}): BuiltLink => {
  const { jobId, near, cableTypeId, lengthM, stage, standing } = someLink();
  const route = [{ name: 'tray', lengthM: 10 }];
  const far = { room, outlet: 'desk 1', connectorId: 'jack-toolless', done: false };
  return {
    id,
    label: id,
    jobId,
    near,
    far,
    cableTypeId,
    lengthM,
    route,
    stage,
    standing,
    notes: 0,
    handedOverAt: null,
    ...change,
  };
};
const site: SiteAsBuilt = {
  site: 'Salt store',
  jobs: [{ id: 'job', title: 'Offices', hub: 'CR-1', scheme: 'T568B', units: 'metric' }],
  links: [
    built('S-01', 'Annex / Ground'),
    built('S-02', 'Annex / 2nd', { notes: 2 }),
    built('S-03', 'Hall', { route: [] }),
  ],
};
const line = (id: number, linkId: string | null, what: string) => ({
  id,
  at: '2026-11-03T09:00:00.000Z',
  by: 'Ines',
  linkId,
  label: linkId,
  what,
  jobId: 'job',
  job: 'Offices',
});

describe('a building as built', () => {
  const show = async () => {
    const server = new FakeServer({
      listSites: () => [
        { site: 'Boat house', jobs: 1, links: 0, handedOver: 0, at: null },
        { site: 'Salt store', jobs: 1, links: 3, handedOver: 0, at: '2026-11-03T09:00:00.000Z' },
      ],
      siteAsBuilt: () => site,
      siteActivity: () => [line(2, 'S-02', 'made a note'), line(1, null, 'started the job')],
    });
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(AsBuiltPage);
    await room.settled();
    return { room, server };
  };
  const labels = (page: HTMLElement): string[] =>
    [...page.querySelectorAll('tbody th')].map((cell) => cell.textContent.trim());

  it('opens where something was done last, with all that is there', async () => {
    const { room, server } = await show();
    expect(server.sent('siteAsBuilt')[0]?.params).toEqual({ site: 'Salt store' });
    expect(labels(room.page)).toEqual(['S-01', 'S-02', 'S-03']);
    expect(room.text('tbody')).toContain('2 notes');
  });

  it('tells of a place what ends in it or below, and what changed there', async () => {
    const { room } = await show();
    const tree = await room.loader.getHarness(MatTreeHarness);
    const annex = (await tree.getNodes({ text: /Annex/ }))[0];
    await (await annex?.host())?.click();
    await room.settled();
    expect(room.text('h2')).toBe('Annex');
    expect(labels(room.page)).toEqual(['S-01', 'S-02']);
    const tabs = await room.loader.getHarness(MatTabGroupHarness);
    await tabs.selectTab({ label: 'What changed' });
    await room.until(() => room.page.querySelector('ol li') !== null);
    expect(room.text('ol')).toContain('made a note');
    expect(room.text('ol')).not.toContain('started the job');
  });

  it('names the links of a stretch, with their ways', async () => {
    const { room } = await show();
    const tabs = await room.loader.getHarness(MatTabGroupHarness);
    await tabs.selectTab({ label: 'Ways' });
    await room.until(() => room.page.querySelector('ns-route-branches button') !== null);
    room.page.querySelector<HTMLButtonElement>('ns-route-branches button')?.click();
    await room.settled();
    expect(room.text('[role=status]')).toContain('Through tray: S-01 S-02');
  });
});
