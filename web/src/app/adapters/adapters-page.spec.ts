import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { AdapterRecord, AdapterSummary, NewAdapterPhoto, Role } from '@near-spoke/contracts';
import { fileOf } from '@near-spoke/contracts';
import { plainPin, type AdapterDesign, type AdapterEnd } from '@near-spoke/core';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { AdapterBench } from './adapter-bench';
import { AdaptersPage } from './adapters-page';
import { EndRoom, type RoomTold } from './end-room';

const end = (id: string): AdapterEnd => ({
  id,
  name: `device ${id}`,
  connector: 'D-sub',
  sheetFace: 'mating',
  contactBearsA: 1,
  layout: 'd-sub-9',
  pins: [plainPin('5', 'GND', 'ground')],
});
const design: AdapterDesign = {
  name: 'Ground lead',
  ends: [end('A'), end('B')],
  joins: [{ from: { end: 'A', contact: '5' }, to: { end: 'B', contact: '5' }, parts: [] }],
  wires: [{ id: '1', colour: 'BK', areaMm2: 0.14, pair: null }],
  lengthM: 1,
  functionTest: [],
};
const summary = (change: Partial<AdapterSummary>): AdapterSummary => ({
  id: 'a1',
  version: 3,
  at: '2026-11-02T08:00:00.000Z',
  by: 'Marit',
  note: '',
  name: 'Ground lead',
  ends: ['device A', 'device B'],
  wrong: 0,
  unsure: 0,
  own: [],
  built: 0,
  proved: 0,
  ...change,
});
function choose(page: HTMLElement, selector: string, file: File): void {
  const field = page.querySelector(selector) as HTMLInputElement;
  const files = new DataTransfer();
  files.items.add(file);
  field.files = files.files;
  field.dispatchEvent(new Event('change'));
}

describe('the list of adapters', () => {
  const show = async (
    list: AdapterSummary[] | null,
    role: Role = 'technician',
  ): Promise<Room<AdaptersPage>> => {
    const server = new FakeServer(list ? { listAdapters: () => list } : {});
    TestBed.configureTestingModule({ providers: [server.provider, provideRouter([])] });
    const room = await showRoom(AdaptersPage, { role });
    await room.settled();
    return room;
  };
  const rows = (room: Room<AdaptersPage>): string[] =>
    [...room.page.querySelectorAll('tbody tr')].map((row) =>
      [...row.children].map((cell) => cell.textContent?.replace(/\s+/g, ' ').trim()).join(' | '),
    );
  const fill = async (room: Room<AdaptersPage>, ...texts: string[]): Promise<void> => {
    const fields = [...room.page.querySelectorAll<HTMLInputElement>('form input')];
    texts.forEach((text, i) => {
      const field = fields[i] as HTMLInputElement;
      field.value = text;
      field.dispatchEvent(new Event('input'));
    });
    await room.fixture.whenStable();
  };

  it('says of each what speaks against it and what was built', async () => {
    const room = await show([
      summary({ built: 3, proved: 3 }),
      summary({ id: 'a2', name: 'Intercom tail', unsure: 2, built: 2, proved: 1 }),
      summary({ id: 'a3', name: 'Hand box', wrong: 1, unsure: 4 }),
    ]);
    expect(rows(room).map((row) => row.split(' | ').slice(0, 4).join(' | '))).toEqual([
      'Ground lead | device A · device B | nothing against it | 3, all proved',
      'Intercom tail | device A · device B | ◐ 2 unsure | 2, 1 proved',
      'Hand box | device A · device B | ▲ 1 wrong | none yet',
    ]);
    expect(room.page.querySelector('tbody a')?.getAttribute('href')).toBe('/bench/adapters/a1');
  });

  it('asks for the first, and says so when it cannot be read', async () => {
    expect((await show([])).text('.none')).toContain('No adapter yet.');
    TestBed.resetTestingModule();
    const silent = await show(null);
    expect(silent.text('ns-problem-note')).toContain('Nobody answers listAdapters.');
    expect(silent.page.querySelector('.none')).toBeNull();
  });

  it('puts a new one on the bench once both devices have names', async () => {
    const room = await show([]);
    const go = (): HTMLButtonElement => room.page.querySelector('form button') as HTMLButtonElement;
    await fill(room, 'Lead', 'logger', '  ');
    expect(go().disabled).toBeTrue();
    await fill(room, 'Lead', 'logger', 'modem');
    go().click();
    const bench = TestBed.inject(AdapterBench);
    expect(bench.draft()?.ends.map(({ id, name }) => `${id} ${name}`)).toEqual(['A logger', 'B modem']);
    expect(room.ways).toEqual([`/bench/adapters/${bench.id()}`]);
  });

  it('reads a file that was given out, and refuses any other in words', async () => {
    const room = await show([]);
    const read = async (file: File): Promise<string> => {
      choose(room.page, '.file input', file);
      await room.fixture.whenStable();
      await room.until(
        () => room.text('[role="alert"]') !== '' || TestBed.inject(AdapterBench).draft() !== null,
      );
      return room.text('[role="alert"]');
    };
    expect(await read(new File(['lead'], 'lead.txt'))).toContain('lead.txt is not JSON.');
    expect(await read(new File(['{"format":"near-spoke/kit"}'], 'kit.json'))).toMatch(/^kit\.json: format: /);
    expect(await read(new File(['x'.repeat(1_100_000)], 'big.json'))).toBe(
      'big.json is over 1 MB: that is no adapter.',
    );
    expect(room.ways).toEqual([]);
    expect(await read(new File([JSON.stringify(fileOf(design))], 'lead.json'))).toBe('');
    const taken = TestBed.inject(AdapterBench).draft();
    expect([taken?.name, taken?.joins, taken?.ends.map(({ pins }) => pins)]).toEqual([
      design.name,
      [...design.joins],
      design.ends.map(({ pins }) => pins),
    ]);
    expect(room.ways.length).toBe(1);
  });

  it('is looked at by a viewer', async () => {
    const room = await show([summary({})], 'viewer');
    expect(rows(room).length).toBe(1);
    expect(room.page.querySelector('aside')).toBeNull();
  });
});

describe('how a connector lies', () => {
  const record: AdapterRecord = {
    id: 'a1',
    version: 1,
    at: '2026-11-02T08:00:00.000Z',
    by: 'Marit',
    note: '',
    design,
    versions: [],
    builds: [],
    photos: [
      { id: 'p1', end: 'A', words: 'red edge outward', at: '2026-11-02T08:00:00.000Z', by: 'Marit' },
      { id: 'p2', end: 'B', words: 'screws up', at: '2026-11-02T08:00:00.000Z', by: 'Marit' },
    ] as AdapterRecord['photos'],
  };
  const show = async (server = new FakeServer({})): Promise<{ room: Room<EndRoom>; taken: RoomTold[] }> => {
    server.answers.readAdapter = () => record;
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(EndRoom, { inputs: { end: end('A') } });
    await TestBed.inject(AdapterBench).open('a1');
    await room.settled();
    const taken: RoomTold[] = [];
    room.fixture.componentInstance.taken.subscribe((told) => taken.push(told));
    return { room, taken };
  };
  const sizes = async (room: Room<EndRoom>, which: number, ...texts: string[]): Promise<void> => {
    const fields = [...(room.page.querySelectorAll('fieldset')[which]?.querySelectorAll('input') ?? [])];
    texts.forEach((text, i) => {
      (fields[i] as HTMLInputElement).value = text;
      fields[i]?.dispatchEvent(new Event('input'));
    });
    await room.fixture.whenStable();
  };
  const take = (room: Room<EndRoom>): HTMLButtonElement =>
    room.page.querySelector('.main-action') as HTMLButtonElement;

  it('has sizes in threes, with a comma or a point, or none at all', async () => {
    const { room, taken } = await show();
    take(room).click();
    expect(taken).toEqual([{ note: '' }]);
    await sizes(room, 0, '31', '12,5');
    expect(room.text('.wrong')).toBe('Give all three sizes over 0 mm, or none.');
    expect(take(room).disabled).toBeTrue();
    await sizes(room, 0, '31', '12,5', '40');
    await sizes(room, 1, '35', '14', '0');
    expect(take(room).disabled).toBeTrue();
    await sizes(room, 1, '35', '14', '60');
    take(room).click();
    expect(taken[1]).toEqual({
      note: '',
      body: { widthMm: 31, heightMm: 12.5, lengthMm: 40 },
      room: { widthMm: 35, heightMm: 14, lengthMm: 60 },
    });
  });

  it('shows the photos of this end alone', async () => {
    const { room } = await show();
    expect([...room.page.querySelectorAll('img')].map((photo) => photo.alt)).toEqual(['red edge outward']);
  });

  it('takes a photo made smaller, once it is said what it shows', async () => {
    const server = new FakeServer({ addAdapterPhoto: () => record });
    const { room } = await show(server);
    const file = (): HTMLInputElement => room.page.querySelector('.file input') as HTMLInputElement;
    expect(file().disabled).toBeTrue();
    const words = room.page.querySelector('.new label input') as HTMLInputElement;
    words.value = ' keyway down ';
    words.dispatchEvent(new Event('input'));
    await room.fixture.whenStable();
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [2600, 1300];
    const png = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
    choose(room.page, '.file input', new File([png as Blob], 'plug.png'));
    await room.until(() => server.sent('addAdapterPhoto').length > 0);
    const sent = server.sent('addAdapterPhoto')[0]?.body as NewAdapterPhoto;
    expect([sent.end, sent.words]).toEqual(['A', 'keyway down']);
    const kept = await createImageBitmap(await (await fetch(`data:image/jpeg;base64,${sent.jpeg}`)).blob());
    expect([kept.width, kept.height]).toEqual([1280, 640]);
    await room.settled();
    expect(words.value).toBe('');
  });

  it('says why a photo was not taken, and keeps what was written of it', async () => {
    const server = new FakeServer({
      addAdapterPhoto: () => {
        throw refusal('An adapter has at most 40 photos.', 422);
      },
    });
    const { room } = await show(server);
    const words = room.page.querySelector('.new label input') as HTMLInputElement;
    words.value = 'keyway down';
    words.dispatchEvent(new Event('input'));
    await room.fixture.whenStable();
    choose(room.page, '.file input', new File(['no picture'], 'plug.txt'));
    await room.until(() => room.text('.new .wrong') !== '');
    expect(room.text('.new .wrong')).toBe(
      'plug.txt is no picture that can be read here: take a JPEG or PNG.',
    );
    const canvas = document.createElement('canvas');
    const png = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
    choose(room.page, '.file input', new File([png as Blob], 'plug.png'));
    await room.until(() => room.text('.new .wrong').includes('40'));
    expect(room.text('.new .wrong')).toBe('An adapter has at most 40 photos.');
    expect(words.value).toBe('keyway down');
  });
});
