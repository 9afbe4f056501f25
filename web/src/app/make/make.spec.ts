import { TestBed } from '@angular/core/testing';
import type { LooseEnd, NewLooseEnd } from '@near-spoke/contracts';
import { of, throwError } from 'rxjs';
import { Api } from '../api/api';
import { JobEvents } from '../jobs/jobs.state';
import { SHIPPED_KIT, showRoom } from '../testing/rooms';
import { refusal } from '../testing/server';
import { madeLately, makeAgain } from './made-lately';
import { MakePage } from './make-page';

const line = (change: Partial<LooseEnd> = {}): LooseEnd => ({
  id: 'e1',
  at: '2026-11-03T08:00:00Z',
  by: 'Me',
  name: '',
  cableTypeId: 'rg6',
  cable: 'RG-6, 75 ohm',
  connectorTypeId: 'coax-f',
  connector: 'F plug, compression, for RG-6',
  scheme: 'T568B',
  schools: { ringingWire: false, flatEnd: 'first' },
  outcome: 'good',
  connectorsSpoiled: 0,
  reason: '',
  lot: '',
  tool: '',
  stopgap: '',
  proof: null,
  functionTest: [],
  seen: null,
  notAsCard: null,
  photos: [],
  givenTo: null,
  ...change,
});

describe('making one end without a job', () => {
  const page = async (inputs: Record<string, string> = {}, book: LooseEnd[] = []) => {
    const sent: NewLooseEnd[] = [];
    const photos: { endId: string; id: string }[] = [];
    const server = { takesPhotos: true };
    const call = (
      id: string,
      { body, params }: { body?: NewLooseEnd; params?: Record<string, string> } = {},
    ) => {
      if (id === 'addLoosePhoto' && body) {
        if (!server.takesPhotos) return throwError(() => refusal('No answer', 0));
        photos.push({ endId: params?.['endId'] ?? '', id: body.id });
        return of(book);
      }
      if (id !== 'addLooseEnd' || !body) return of(book);
      sent.push(body);
      return of([line({ ...body, proof: null } as Partial<LooseEnd>), ...book]);
    };
    TestBed.overrideProvider(Api, { useValue: { call } });
    const room = await showRoom(MakePage, { inputs });
    room.store.dispatch(JobEvents.kitRead({ kit: SHIPPED_KIT }));
    await room.fixture.whenStable();
    return { ...room, sent, photos, server };
  };
  const names = (html: HTMLElement): string[] =>
    [...html.querySelectorAll('.tiles .tile')].map(
      (tile) => tile.textContent?.replace(/\s+/g, ' ').trim() ?? '',
    );

  it('asks what is in the hand, then which of these, then what goes on it', async () => {
    expect(names((await page()).page)[0]).toContain('Four twisted pairs');
    TestBed.resetTestingModule();
    const group = await page({ group: 'coax' });
    expect(group.text('h2')).toContain('Which of these?');
    TestBed.resetTestingModule();
    const cable = await page({ cable: 'rg6' });
    expect(cable.text('h2')).toContain('What goes on it?');
    expect(names(cable.page)[0]).toContain('F plug, compression');
    expect(names(cable.page).join()).not.toContain('8-contact');
  });

  it('shows the card, with a scheme to choose only where one is followed', async () => {
    const plug = await page({ cable: 'cat6-u', connector: 'plug-closed' });
    expect(plug.text('.middle')).toContain('Step 1 of');
    expect(plug.text('.steps')).toContain('T568B: take T568A');
    TestBed.resetTestingModule();
    const coax = await page({ cable: 'rg6', connector: 'coax-f' });
    expect(coax.text('.steps')).not.toContain('T568');
  });

  it('keeps a line in the book and begins the next one at its first step', async () => {
    const { press, sent, text } = await page({ cable: 'cat6-u', connector: 'jack-punched' });
    for (let n = 0; n < 30 && sent.length === 0; n++) await press('PageDown');
    expect(sent[0]).toEqual(
      jasmine.objectContaining({
        cableTypeId: 'cat6-u',
        connectorTypeId: 'jack-punched',
        outcome: 'good',
        touched: null,
      }),
    );
    expect(text('.kept')).toContain('In the book');
    expect(text('.middle')).toContain('Step 1 of');
  });

  const toTheRecord = async ({ press, text }: Awaited<ReturnType<typeof page>>): Promise<void> => {
    for (let n = 0; n < 30 && !text('.middle h2').includes('How did it go'); n++) await press('PageDown');
  };
  const button = (html: HTMLElement, words: string): HTMLButtonElement | undefined =>
    [...html.querySelectorAll('button')].find((one) => one.textContent?.trim().startsWith(words));

  it('keeps the colours that were found with the end, and says where they are not as the card', async () => {
    const room = await page({ cable: 'cat6-u', connector: 'jack-punched' });
    await toTheRecord(room);
    await room.press('c');
    for (const key of ['g', 'w', 'o', '=', 'Enter']) await room.press(key);
    expect(room.text('.attempts')).toMatch(/Colours as found:.*They go with it/);
    await room.press('PageDown');
    const { seen } = room.sent[0] ?? {};
    expect([seen?.colours['1'], seen?.colours['2']]).toEqual(['GN', 'WH-OG']);
    // The next one has not been looked at.
    await toTheRecord(room);
    expect(room.text('.attempts')).not.toContain('Colours as found');
  });

  it('has a function test written, tried and kept; the next of its kind begins with the same lines', async () => {
    const before = line({
      cableTypeId: 'cat6-u',
      connectorTypeId: 'jack-punched',
      functionTest: [{ what: 'the lamp lights', does: true }],
    });
    const room = await page({ cable: 'cat6-u', connector: 'jack-punched' }, [before]);
    await toTheRecord(room);
    button(room.page, 'As the last one: the lamp lights')?.click();
    await room.fixture.whenStable();
    const box = room.page.querySelector('ns-function-test input') as HTMLInputElement;
    box.value = ' half pressed it focuses ';
    box.dispatchEvent(new Event('input'));
    await room.fixture.whenStable();
    button(room.page, 'Add it')?.click();
    await room.fixture.whenStable();
    const rows = [...room.page.querySelectorAll('ns-function-test li')] as HTMLElement[];
    button(rows[0] as HTMLElement, 'Does')?.click();
    button(rows[1] as HTMLElement, 'Does not')?.click();
    await room.fixture.whenStable();
    await room.press('PageDown');
    expect(room.sent[0]?.functionTest).toEqual([
      { what: 'the lamp lights', does: true },
      { what: 'half pressed it focuses', does: false },
    ]);
  });

  it('sends photos once their end is in the book, and what was not answered again under the same id', async () => {
    const room = await page({ cable: 'cat6-u', connector: 'jack-punched' });
    await toTheRecord(room);
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [40, 30];
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
    const files = new DataTransfer();
    files.items.add(new File([blob ?? ''], 'end.png', { type: 'image/png' }));
    const box = room.page.querySelector('ns-end-photos input') as HTMLInputElement;
    box.files = files.files;
    box.dispatchEvent(new Event('change'));
    await room.until(() => room.page.querySelector('ns-end-photos img') !== null);
    room.server.takesPhotos = false;
    await room.press('PageDown');
    expect(room.sent.length).toBe(1);
    expect(room.text('.kept')).toContain('Its photo is not kept yet.');
    room.server.takesPhotos = true;
    button(room.page, 'Send again')?.click();
    await room.settled();
    expect(room.photos.map(({ endId }) => endId)).toEqual([room.sent[0]?.id ?? '']);
    expect(room.text('.kept')).not.toContain('not kept yet');
    expect(room.page.querySelector('ns-end-photos img')).toBeNull();
  });

  it('shows lengths in the units that this device likes', async () => {
    const room = await page({ cable: 'rg6', connector: 'coax-f' });
    expect(room.text('.steps')).toMatch(/\d mm/);
    button(room.page, 'Millimetres: take inches')?.click();
    await room.fixture.whenStable();
    expect(room.text('.steps')).not.toMatch(/\d mm/);
  });

  it('goes through the ends of a batch by their names, and knows which are in the book', async () => {
    const spoiled = line({ name: 'bridge 1 B', outcome: 'spoiled', connectorsSpoiled: 1 });
    const room = await page(
      { cable: 'cat6-u', connector: 'jack-punched', batch: 'bridge', count: '2', sides: 'AB' },
      [spoiled, line({ name: 'bridge 1 A' })],
    );
    expect(room.text('.batch')).toContain('1 of 4 ends are in the book. Next is bridge 1 B.');
    await toTheRecord(room);
    await room.press('PageDown');
    expect(room.sent[0]?.name).toBe('bridge 1 B');
    expect(room.text('.batch')).toContain('2 of 4 ends are in the book. Next is bridge 2 A.');
  });

  it('remembers the last ten kinds of ends, the last one first and each once', () => {
    localStorage.clear();
    for (let n = 0; n < 12; n++) makeAgain({ cable: 'rg6', connector: `c${n}` });
    makeAgain({ cable: 'rg6', connector: 'c5' });
    expect(madeLately().map(({ connector }) => connector)).toEqual([
      'c5',
      'c11',
      'c10',
      'c9',
      'c8',
      'c7',
      'c6',
      'c4',
      'c3',
      'c2',
    ]);
    localStorage.setItem('near-spoke-made', 'no list');
    expect(madeLately()).toEqual([]);
  });

  it('shows the book with what was metered and where it went', async () => {
    const { text } = await page({}, [
      line({ name: 'lounge tail', proof: 'proved' }),
      line({
        id: 'e2',
        givenTo: { jobId: 'j', title: 'Visitor dome', at: '2026-11-03T08:00:00Z', by: 'Me' },
      }),
    ]);
    expect(text('ns-loose-book')).toMatch(/lounge tail.*good, proved\./);
    expect(text('ns-loose-book')).toContain('Given to Visitor dome');
  });
});
