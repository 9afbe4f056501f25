import { TestBed } from '@angular/core/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import type { Job, Link, ReelRecord } from '@near-spoke/contracts';
import { Api } from '../api/api';
import { JobEvents } from '../jobs/jobs.state';
import { someJob, someLink } from '../testing/links';
import { showRoom } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { MaterialsPage } from './materials-page';
import { shoppingCsv } from './shopping-csv';

const entry = (change: Partial<ReelRecord['entries'][number]>): ReelRecord['entries'][number] => ({
  id: crypto.randomUUID(),
  at: '2026-11-01T08:00:00.000Z',
  by: 'Tobi',
  what: 'labelled',
  lengthM: 100,
  u95M: null,
  velocityFactor: null,
  linkId: null,
  linkLabel: null,
  corrects: null,
  words: '',
  ...change,
});
const box = (lengthM: number): ReelRecord => ({
  id: 'box',
  name: 'Box A',
  kind: 'box',
  cableTypeId: 'cat6-u',
  lot: '',
  entries: [entry({ lengthM })],
});
const planned = (n: number, lengthM: number, change: Partial<Link> = {}): Link =>
  someLink({
    id: `id-${n}`,
    label: `P1-0${n}`,
    position: n,
    lengthM,
    stage: 'planned',
    near: { hub: 'CR-1', panel: 'P1', port: String(n), connectorId: 'jack-punched', done: false },
    far: { room: n % 2 ? 'Hall' : 'Lobby', outlet: `o${n}`, connectorId: 'jack-punched', done: false },
    ...change,
  });

async function show(links: Link[], reels: ReelRecord[], job: Partial<Job> = {}) {
  const server = new FakeServer({
    listReels: () => reels,
    listVelocities: () => [],
    spoilCounts: () => [],
  });
  TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: server.provider.useValue }] });
  const room = await showRoom(MaterialsPage, { inputs: { jobId: 'job' } });
  room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob(job)] }));
  room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links }));
  return room;
}

describe('materials of a job', () => {
  it('cuts what is there first, spreads a pull over boxes, and lists what to buy with spares', async () => {
    const room = await show([planned(1, 60), planned(2, 40), planned(3, 60), planned(4, 20)], [box(70)]);
    await room.until(() => room.text('.buy').includes('box of 305.0 m'));
    const strips = [...room.page.querySelectorAll('ns-cut-strips > ul > li')].map(
      (strip) => strip.textContent?.replace(/\s+/g, ' ').trim() ?? '',
    );
    expect(strips.length).toBe(2);
    // 69.3 m are surely in a box of 70; 43.1 and 22.3 fill it best.
    expect(strips.find((strip) => strip.startsWith('Box A'))).toMatch(/69\.3 m surely left.*P1-02.*P1-04/);
    expect(room.text('.pulls li')).toContain('Hall');
    expect(room.text('.buy')).toMatch(/8-contact jack, punched\s*8 \+ \d/);
    expect(room.text('article [role=status]')).toContain('no plan buys less');
  });

  it('leaves out what is pulled, and says when nothing is left to cut', async () => {
    const room = await show([planned(1, 60, { stage: 'one-end' })], []);
    await room.until(() => room.text('.cut').includes('nothing is left to cut'));
  });

  it('names the piece that no box holds, and cuts it from a longer one', async () => {
    const room = await show([planned(1, 300)], []);
    await room.until(() => room.text('[role=alert]') !== '');
    expect(room.text('[role=alert]')).toContain('P1-01 is 313.5 m, longer than anything');
    const length = await room.loader.getHarness(MatInputHarness.with({ label: /A new box holds/ }));
    await length.setValue('500');
    await room.until(() => room.text('.buy').includes('box of 500.0 m'));
    expect(room.page.querySelector('[role=alert]')).toBeNull();
  });
});

describe('the shopping list as a file', () => {
  it('counts needed and spare, and hands no formula to a spreadsheet', () => {
    expect(shoppingCsv([{ name: '=jack, punched', count: 8, spare: 2 }])).toBe(
      'What,Needed,Spare,Bring\r\n"\'=jack, punched",8,2,10\r\n',
    );
  });
});
