import type { Action } from '@ngrx/store';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatMenuHarness } from '@angular/material/menu/testing';
import { intendedLink, type TrueLink } from '@near-spoke/core';
import { LinkEvents } from '../link/link.state';
import { someDetail, someExpectation } from '../testing/links';
import { detailWith, INSTRUMENT, showRoom } from '../testing/rooms';
import { VerifyRoom } from './verify-room';

const sound = intendedLink(someExpectation());
const exchanged: TrueLink = { ...sound, far: { ...sound.far, 1: 'OG', 2: 'WH-OG' } };
const broken: TrueLink = { ...sound, breaks: [{ conductor: 'BU', atM: 12 }] };

describe('the verify room says what is next', () => {
  it('reads the instrument when nothing was tested yet', async () => {
    const room = await showRoom(VerifyRoom);
    expect(room.text('#verdict-title')).toBe('Not tested yet');
    expect(room.text('#next-title')).toBe('Read the coded mapper with crosstalk');
  });

  it('keys in when no instrument is within reach', async () => {
    const room = await showRoom(VerifyRoom, {
      instruments: [{ ...INSTRUMENT, connected: false, classes: [] }],
    });
    expect(room.text('#next-title')).toBe('Key the reading in');
    expect(room.page.textContent).not.toContain('Test R');
  });

  it('terminates first where an end is open', async () => {
    const detail = someDetail({ terminations: someDetail().terminations.slice(0, 1) });
    const room = await showRoom(VerifyRoom, { detail });
    expect(room.text('#verdict-title')).toBe('Not terminated yet');
    await room.press('Enter');
    expect(room.ways).toEqual(['/jobs/job/links/link/terminate?end=far']);
  });

  it('looks before it cuts: the end is not known', async () => {
    const room = await showRoom(VerifyRoom, { detail: detailWith(exchanged, ['coded-mapper']) });
    await room.settled();
    expect(room.text('#verdict-title')).toContain('1 and 2 exchanged');
    expect(room.text('#next-title')).toBe("Read the far plug's colours");
    expect([...room.page.querySelectorAll('.explain li strong')].map((e) => e.textContent)).toEqual([
      'Far plug: WH-OG and OG exchanged on 1 and 2',
      'Near jack: WH-OG and OG exchanged on 1 and 2',
      'Cable: WH-OG and OG exchanged at a splice',
      'Nothing wrong: a reading astray',
    ]);
    expect(room.page.querySelectorAll('.explain ns-mini-strip').length).toBe(3);
    await room.press('Enter');
    expect(room.page.querySelector('ns-colour-check')).not.toBeNull();
  });

  it('redoes the end once it is settled', async () => {
    const room = await showRoom(VerifyRoom, { detail: detailWith(exchanged, ['coded-mapper', 'eye']) });
    expect(room.text('#next-title')).toBe('Redo the far end');
    await room.press('Enter');
    expect(room.ways).toEqual(['/jobs/job/links/link/terminate?end=far']);
  });

  it('mends the cable where the distance says so, with the place filled in', async () => {
    const room = await showRoom(VerifyRoom, {
      detail: detailWith(broken, ['coded-mapper', 'pair-reflectometer']),
    });
    expect(room.text('#next-title')).toBe('Mend the cable and record it');
    await room.press('Enter');
    await room.fixture.whenStable();
    expect(room.page.querySelector<HTMLInputElement>('input[type=number]')?.value).toBe('12');
    expect(room.page.textContent).toContain('asbestos');
  });

  it('hands over what is proved, and says what was not seen', async () => {
    const room = await showRoom(VerifyRoom, { detail: detailWith(sound, ['coded-mapper']) });
    expect(room.page.textContent).toContain('Not seen: split pair');
    expect(room.text('#next-title')).toBe('Hand it over');
    await room.press('h');
    expect(room.ways).toEqual(['/jobs/job/links/link/hand-over']);
  });

  it('does not take lit lamps for a proof', async () => {
    const room = await showRoom(VerifyRoom, { detail: detailWith(sound, ['lamp-pairs']) });
    expect(room.text('#verdict-title')).toContain('each pair conducts as a loop');
    expect(room.text('#next-title')).toBe('Read the coded mapper with crosstalk');
  });
});

describe('taking a reading', () => {
  it('reminds once per round that both ends are unplugged, then reads at once', async () => {
    const room = await showRoom(VerifyRoom);
    await room.press('r');
    expect(room.page.textContent).toContain('ringing voltage');
    expect(room.asked).toEqual([]);
    await room.press('Enter');
    const [begun, asked] = room.asked as [Action, ReturnType<typeof LinkEvents.readingAsked>];
    expect(begun).toEqual(LinkEvents.roundBegun());
    const { id, ...ask } = asked.ask;
    expect([asked.type, asked.linkId]).toEqual([LinkEvents.readingAsked.type, 'link']);
    expect(ask).toEqual({
      instrument: 'coded-mapper-crosstalk',
      end: 'near',
      corrects: null,
      misread: '',
      unplugged: true,
    });
    room.store.dispatch(
      LinkEvents.recordKept({ detail: detailWith(sound, ['coded-mapper-crosstalk']), what: 'test' }),
    );
    await room.fixture.whenStable();
    await room.press('r');
    const again = room.asked.at(-1) as ReturnType<typeof LinkEvents.readingAsked>;
    expect(again.ask.instrument).toBe('coded-mapper-crosstalk');
    expect(again.ask.id).not.toBe(id);
  });

  it('remembers the instrument chosen from the menu', async () => {
    const room = await showRoom(VerifyRoom);
    room.store.dispatch(LinkEvents.roundBegun());
    const menu = await room.loader.getHarness(MatMenuHarness);
    await menu.open();
    await menu.clickItem({ text: 'coded mapper' });
    await room.fixture.whenStable();
    expect(room.text('#next-title')).toBe('Read the coded mapper');
  });

  it('keys a straight link in with two keys, and saves it as keyed', async () => {
    const room = await showRoom(VerifyRoom);
    room.store.dispatch(LinkEvents.roundBegun());
    await room.press('=');
    await room.press('Enter');
    const taken = room.asked.at(-1) as ReturnType<typeof LinkEvents.readingTaken>;
    expect(taken.type).toBe(LinkEvents.readingTaken.type);
    expect(taken.test.takenId).toBeUndefined();
    expect((taken.test.reading as { arrivals: object }).arrivals).toEqual(
      Object.fromEntries([...'12345678'].map((c) => [c, [c]])),
    );
  });

  it('corrects the last keyed reading by a new one that names it', async () => {
    const room = await showRoom(VerifyRoom, { detail: detailWith(exchanged, ['coded-mapper']) });
    room.store.dispatch(LinkEvents.roundBegun());
    (room.page.querySelector('.history .plain') as HTMLButtonElement).click();
    await room.fixture.whenStable();
    expect(room.page.textContent).toContain('will stand as a correction');
    await room.press('=');
    await room.press('Enter');
    const taken = room.asked.at(-1) as ReturnType<typeof LinkEvents.readingTaken>;
    expect(taken.test.corrects).toBe('test-0');
  });

  it('offers a viewer nothing to record', async () => {
    const room = await showRoom(VerifyRoom, {
      role: 'viewer',
      detail: detailWith(exchanged, ['coded-mapper']),
    });
    expect((await room.loader.getAllHarnesses(MatButtonHarness)).length).toBe(0);
    await room.press('r');
    await room.press('k');
    expect(room.asked).toEqual([]);
    expect(room.text('#verdict-title')).toContain('1 and 2 exchanged');
  });
});

describe('readings that disagree', () => {
  it('ask for a reason once enough clean ones stand against the failed one, and keep it with the next', async () => {
    const first = detailWith(exchanged, ['coded-mapper']);
    const evidence = first.tests[0];
    if (!evidence) throw new Error('no reading');
    const diagnosis = {
      ...evidence.diagnosis,
      result: 'cannot-tell' as const,
      code: 'readings-disagree' as const,
      headline: 'Readings disagree: 1 and 2 exchanged',
      wantsReason: true,
      repair: null,
    };
    const room = await showRoom(VerifyRoom, { detail: { ...first, diagnosis } });
    room.store.dispatch(LinkEvents.roundBegun());
    await room.fixture.whenStable();
    expect(room.text('#verdict-title')).toContain('Readings disagree');
    const field = room.page.querySelector('.reason textarea') as HTMLTextAreaElement;
    field.value = 'the cord was on port 6';
    field.dispatchEvent(new Event('input'));
    await room.press('r');
    const asked = room.asked.at(-1) as ReturnType<typeof LinkEvents.readingAsked>;
    expect(asked.ask.misread).toBe('the cord was on port 6');
  });

  it('and what a simulated instrument said is marked', async () => {
    const proved = detailWith(sound, ['coded-mapper']);
    const tests = proved.tests.map((test) => ({ ...test, source: 'instrument' as const, simulated: true }));
    const diagnosis = proved.diagnosis && { ...proved.diagnosis, simulated: true };
    const room = await showRoom(VerifyRoom, { detail: { ...proved, tests, diagnosis } });
    expect(room.text('.simulated')).toContain('says nothing of a real link');
    expect(room.text('.history')).toContain('simulated');
  });
});
