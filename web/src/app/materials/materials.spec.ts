import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { By } from '@angular/platform-browser';
import type { CrewPrices, Job, Link, ReelRecord, Role } from '@near-spoke/contracts';
import { offerOf, readPriceList } from '@near-spoke/core';
import { parse } from 'papaparse';
import { Api } from '../api/api';
import { JobEvents } from '../jobs/jobs.state';
import { someJob, someLink } from '../testing/links';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { FileDrop } from '../ui/file-drop';
import { MaterialsPage } from './materials-page';
import { OfferForm } from './offer-form';
import { priceTable } from './price-table';
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

async function show(
  links: Link[],
  reels: ReelRecord[],
  { job = {}, pulled }: { job?: Partial<Job>; pulled?: (sent: unknown) => ReelRecord[] } = {},
) {
  const server = new FakeServer({
    listReels: () => reels,
    ...(pulled ? { pullPieces: ({ body }: { body?: unknown }) => pulled(body) } : {}),
    listVelocities: () => [],
    spoilCounts: () => [],
    readPrices: () => ({ list: null, version: 0 }),
  });
  TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: server.provider.useValue }] });
  const room = await showRoom(MaterialsPage, { role: 'technician', inputs: { jobId: 'job' } });
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

describe('a pull that is in', () => {
  it('goes into the ledgers of what it came off, a new box with what its label holds, and is not pulled again', async () => {
    const own = box(70);
    const sent: {
      reels: { id: string; name: string; labelledM: number }[];
      pieces: { linkId: string; lengthM: number; words: string }[];
    }[] = [];
    const room = await show([planned(1, 60), planned(3, 60)], [own], {
      pulled: (body) => {
        sent.push(body as (typeof sent)[number]);
        return [{ ...own, entries: [...own.entries, entry({ what: 'drawn', lengthM: 64, linkId: 'id-1' })] }];
      },
    });
    await room.until(() => room.text('.pulls').includes('It is in'));
    (room.page.querySelector('.pulls button') as HTMLButtonElement).click();
    await room.settled();
    const name = await room.loader.getHarness(MatInputHarness.with({ label: /is called/ }));
    await name.setValue('Box from the van');
    const cut = await room.loader.getHarness(MatInputHarness.with({ label: /P1-01, cut off/ }));
    expect(await cut.getValue()).toBe('63.9');
    // Read off the jacket, over the end of its counter.
    await (
      await room.loader.getAllHarnesses(MatButtonHarness.with({ text: 'By the marks on its jacket' }))
    )[0]?.click();
    await (await room.loader.getHarness(MatInputHarness.with({ label: 'Mark at one end' }))).setValue('9970');
    const other = await room.loader.getHarness(MatInputHarness.with({ label: 'Mark at the other' }));
    await other.setValue('9970');
    expect(room.text('ns-jacket-marks .wrong')).toContain('Both marks are the same');
    await other.setValue('0035');
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Take this length' }))).click();
    expect(await cut.getValue()).toBe('65');
    (room.page.querySelector('ns-pull-in button[type=submit]') as HTMLButtonElement).click();
    await room.until(() => !room.page.querySelector('ns-pull-in'));
    expect(sent[0]?.reels).toEqual([
      jasmine.objectContaining({ name: 'Box from the van', kind: 'box', labelledM: 305 }),
    ]);
    expect(sent[0]?.pieces.map(({ linkId }) => linkId).sort()).toEqual(['id-1', 'id-3']);
    expect(sent[0]?.pieces.find(({ linkId }) => linkId === 'id-1')).toEqual(
      jasmine.objectContaining({ lengthM: 65, words: 'marks 9970 to 0035 m' }),
    );
    await room.until(() => !room.text('.pulls').includes('P1-01'));
  });
});

describe('the offer of a job', () => {
  const brought = [
    { item: 'Cat 6 unscreened, box of 305 m', count: 2 },
    { item: '=odd name', count: 3 },
  ];
  const work = {
    ends: [{ connectorId: 'jack-punched', name: 'jack', count: 4, minutes: 5 }],
    pulls: 2,
    links: 2,
  };
  const spoilt = (): { spoiled: number; good: number } => ({ spoiled: 0, good: 0 });
  async function offering(
    list: CrewPrices['list'],
    role: Role = 'lead',
  ): Promise<{ room: Room<OfferForm>; server: FakeServer }> {
    const server = new FakeServer({
      readPrices: () => ({ list, version: 3 }),
      keepPrices: ({ body }) => ({ ...(body as CrewPrices), version: 4 }),
      printOffer: () => new Blob(['%PDF-']),
    });
    TestBed.configureTestingModule({ providers: [server.provider] });
    const inputs = { jobId: 'job', title: 'Hall', brought, work, spoilt };
    const room = await showRoom(OfferForm, { role, inputs });
    await room.settled();
    return { room, server };
  }
  const list: CrewPrices['list'] = {
    currency: 'CHF',
    dated: '2026-11-02',
    prices: [
      { item: 'cat 6 unscreened, box of 305 m', price: 100 },
      { item: '=odd name', price: 2 },
      { item: 'of another job', price: 7 },
    ],
  };
  const figure = async (room: Room<OfferForm>, label: RegExp, text: string): Promise<void> =>
    (await room.loader.getHarness(MatInputHarness.with({ label }))).setValue(text);
  const print = (room: Room<OfferForm>): HTMLButtonElement =>
    room.page.querySelector('form button[type=submit]') as HTMLButtonElement;

  it('says what has no price yet, comes to a total once all has, and is printed as it stands', async () => {
    const { room, server } = await offering(list);
    expect(room.text('.sum')).toContain('No price yet of an hour of work.');
    expect(print(room).disabled).toBeTrue();
    await figure(room, /^An hour/, '60');
    await figure(room, /On material/, '10');
    const terms = { currency: 'CHF', hour: 60, pullMinutes: 12, testMinutes: 6, markup: 10, tax: 0 };
    const offer = offerOf(brought, work, { prices: list?.prices ?? [] }, terms, spoilt);
    expect(offer.material.map(({ sum }) => sum)).toEqual([220, 6.6]);
    expect(room.text('.sum')).toContain(`${offer.total?.toFixed(2)} CHF`);
    print(room).click();
    await room.settled();
    expect(server.sent('printOffer')[0]?.body).toEqual(
      jasmine.objectContaining({ material: brought, work, terms }),
    );
  });

  it('takes a price list from a file, or says row by row what is wrong and keeps the one before', async () => {
    const { room, server } = await offering(list);
    const drop = room.fixture.debugElement.query(By.directive(FileDrop)).componentInstance as FileDrop;
    drop.dropped.emit(new File(['What,Price\r\nplug,0\r\n'], 'prices.csv'));
    await room.until(() => room.text('ul[role=alert]') !== '');
    expect(room.text('ul[role=alert]')).toContain('Row 2: a price of 0 says nothing.');
    expect(server.sent('keepPrices').length).toBe(0);
    drop.dropped.emit(new File(['What,Price,Currency,Date\r\nplug,"0,80",EUR,2026-10-01\r\n'], 'prices.csv'));
    await room.until(() => room.text('p[role=status]').includes('2026-10-01'));
    expect(server.sent('keepPrices')[0]?.body).toEqual({
      list: { currency: 'EUR', dated: '2026-10-01', prices: [{ item: 'plug', price: 0.8 }] },
      version: 3,
    });
    expect(room.page.querySelector('ul[role=alert]')).toBeNull();
  });

  it('leaves the list to a lead', async () => {
    const { room } = await offering(null, 'technician');
    expect(room.page.querySelector('ns-file-drop')).toBeNull();
    expect(room.text('p[role=status]')).toContain('No price list yet.');
  });

  it('is filled in by a table that is read back as it was', () => {
    const items = brought.map(({ item }) => item);
    const table = priceTable(items, list, { currency: 'CHF', dated: '2026-11-02' });
    const back = readPriceList(parse<string[]>(table.trim()).data, { currency: '', dated: '' });
    expect([back.currency, back.dated]).toEqual(['CHF', '2026-11-02']);
    expect(back.prices.map(({ item, price }) => [item, price])).toEqual([
      ['Cat 6 unscreened, box of 305 m', 100],
      ['=odd name', 2],
      ['of another job', 7],
    ]);
  });
});

describe('the shopping list as a file', () => {
  it('counts needed and spare, and hands no formula to a spreadsheet', () => {
    expect(shoppingCsv([{ name: '=jack, punched', count: 8, spare: 2 }])).toBe(
      'What,Needed,Spare,Bring\r\n"\'=jack, punched",8,2,10\r\n',
    );
  });
});
