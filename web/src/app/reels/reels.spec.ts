import type { NewReelEntry, ReelRecord, VelocityRecord } from '@near-spoke/contracts';
import { TestBed } from '@angular/core/testing';
import { of, throwError } from 'rxjs';
import { Api, ApiProblem } from '../api/api';
import { showRoom } from '../testing/rooms';
import { ReelsPage } from './reels-page';
import { ReelsStore, standingOf, velocityWords } from './reels-store';

const entry = (change: Partial<ReelRecord['entries'][number]>): ReelRecord['entries'][number] => ({
  id: crypto.randomUUID(),
  at: '2026-11-01T08:00:00.000Z',
  by: 'Tobi',
  what: 'drawn',
  lengthM: 10,
  u95M: null,
  velocityFactor: null,
  linkId: null,
  linkLabel: null,
  corrects: null,
  words: '',
  ...change,
});
const reel = (change: Partial<ReelRecord> = {}): ReelRecord => ({
  id: 'r1',
  name: 'Drum one',
  kind: 'drum',
  cableTypeId: 'rg6',
  lot: 'L7',
  entries: [
    entry({ what: 'labelled', lengthM: 100 }),
    entry({ lengthM: 30, linkId: 'link-9', linkLabel: 'C-09' }),
  ],
  ...change,
});
const velocity: VelocityRecord = {
  id: 'v1',
  at: '2026-11-02T08:00:00.000Z',
  by: 'Ines',
  cableTypeId: 'rg6',
  lot: 'L7',
  reelId: 'r1',
  velocityFactor: 0.831,
  u95: 0.003,
  pieces: [{ name: 'a.csv', lengthM: 12, delayNs: 106 }],
  loss: null,
};
const RG6 = { id: 'rg6', velocityFactor: 0.82 };

interface Call {
  id: string;
  body?: unknown;
}

/** A server that keeps what it is given, in memory. */
function server(
  reels: ReelRecord[],
  velocities: VelocityRecord[] = [velocity],
): { calls: Call[]; api: object } {
  const calls: Call[] = [];
  const api = {
    call: (id: string, given: { body?: unknown; params?: { reelId?: string } }) => {
      calls.push({ id, ...(given.body ? { body: given.body } : {}) });
      if (id === 'listReels') return of(reels);
      if (id === 'listVelocities') return of(velocities);
      if (id === 'listJobs') return of([]);
      if (id === 'benchScope') return of(null);
      if (id === 'addReelEntry') {
        const body = given.body as NewReelEntry;
        const kept = entry({ ...(body as object), u95M: null });
        return of(
          reels.map((each) =>
            each.id === given.params?.reelId ? { ...each, entries: [...each.entries, kept] } : each,
          ),
        );
      }
      return throwError(
        () => new ApiProblem({ type: 'about:blank', title: 'No', status: 409, detail: `Not ${id}.` }),
      );
    },
  };
  return { calls, api };
}

describe('the reels of a crew', () => {
  const storeWith = async (reels: ReelRecord[]): Promise<InstanceType<typeof ReelsStore>> => {
    TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: server(reels).api }] });
    const store = TestBed.inject(ReelsStore);
    await store.load();
    return store;
  };

  it('stand at the label less the draws that hold', () => {
    const wrong = entry({ lengthM: 50 });
    const right = entry({ lengthM: 5, corrects: wrong.id });
    const { entries } = reel();
    expect(standingOf(reel({ entries: [...entries, wrong, right] })).leftM).toBeCloseTo(65, 9);
  });

  it('are known by the links that were drawn from them, and lend those their velocity', async () => {
    const store = await storeWith([reel()]);
    expect(store.reelOf('link-9')?.id).toBe('r1');
    expect(store.reelOf('another')).toBeNull();
    const onReel = store.velocityOf(RG6, store.reelOf('link-9'));
    expect([onReel.velocityFactor, onReel.from]).toEqual([0.831, 'reel']);
    expect(velocityWords(onReel)).toBe('measured on this reel, Ines, 2026-11-02; good to 0.003');
    expect(velocityWords(store.velocityOf(RG6, null))).toMatch(/^measured on another lot/);
    expect(velocityWords(store.velocityOf({ id: 'rg213', velocityFactor: 0.66 }, null))).toBe(
      'typical of this cable, not measured; good to 0.024',
    );
  });

  it('keep the reason when the server refuses', async () => {
    const store = await storeWith([reel()]);
    expect(
      await store.add({ id: 'x', name: 'n', kind: 'box', cableTypeId: 'rg6', labelledM: null }),
    ).toBeFalse();
    expect(store.problem()?.detail).toBe('Not addReel.');
    expect(store.busy()).toBeFalse();
  });
});

describe('the reels page', () => {
  const page = async (reels: ReelRecord[], role: 'technician' | 'viewer' = 'technician') => {
    const { calls, api } = server(reels);
    TestBed.overrideProvider(Api, { useValue: api });
    const room = await showRoom(ReelsPage, { role });
    await room.fixture.whenStable();
    return { ...room, calls };
  };

  it('says what is left, from what, and how sure that is', async () => {
    const { text } = await page([reel()]);
    expect(text('.left')).toMatch(/70\.0 m\s+left, give or take\s+1\.\d m/);
    expect(text('.middle table')).toContain('drawn for C-09');
  });

  it('warns where ledger and measurement disagree, and says which way', async () => {
    const { entries } = reel();
    const measured = entry({ what: 'measured', lengthM: 60, u95M: 0.3, velocityFactor: 0.831 });
    const { text } = await page([reel({ entries: [...entries, measured] })]);
    expect(text('.warning')).toContain('10.0 m are missing');
  });

  it('takes a draw with a comma, warns of one that is too long, and enters it once', async () => {
    const { press, page: html, fixture, calls, text } = await page([reel()]);
    await press('d');
    const input = html.querySelector<HTMLInputElement>('aside input');
    const type = async (value: string): Promise<void> => {
      if (!input) throw new Error('no field');
      input.value = value;
      input.dispatchEvent(new Event('input'));
      await fixture.whenStable();
    };
    await type('90');
    expect(text('aside [role=status]')).toContain('There is not so much left.');
    await type('12,5');
    expect(text('aside [role=status]')).toBe('');
    html.querySelector<HTMLElement>('aside .main-action')?.click();
    await fixture.whenStable();
    expect(calls.filter(({ id }) => id === 'addReelEntry').map(({ body }) => body)).toEqual([
      jasmine.objectContaining({ what: 'drawn', lengthM: 12.5, corrects: null, linkId: null }),
    ]);
    expect(text('.left')).toMatch(/57\.5 m/);
  });

  it('offers a viewer nothing to enter', async () => {
    const { page: html } = await page([reel()], 'viewer');
    expect(html.querySelectorAll('aside button, .list > button, td button').length).toBe(0);
  });

  it('asks for the first reel where there is none', async () => {
    const { text } = await page([]);
    expect(text('.list ul')).toContain('Enter the first with its label.');
  });
});
