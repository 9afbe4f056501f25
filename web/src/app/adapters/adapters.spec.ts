import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import type {
  AdapterRecord,
  NewBuild,
  NewToldThing,
  TogetherState,
  TouchesByTwo,
} from '@near-spoke/contracts';
import {
  apartPlan,
  checkAdapter,
  gangsPlan,
  gangWords,
  inOrderSeconds,
  plainPin,
  probesPlan,
  USUAL_HANDS,
  soundLead,
  workUp,
  wouldBeep,
  type AdapterDesign,
  type AdapterEnd,
  type LevelFigures,
  type Pin,
} from '@near-spoke/core';
import { of, throwError } from 'rxjs';
import { Api, ApiProblem } from '../api/api';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { OPEN_EVENTS } from '../together/open-events';
import { AdapterBench, builtWords } from './adapter-bench';
import { AdapterPage } from './adapter-page';
import { BuildRoom } from './build-room';
import { CableRoom } from './cable-room';
import { JoinParts } from './join-parts';
import { MeasuredMap } from './measured-map';
import { MeterColours, type MeteredWire } from './meter-colours';
import { OwnConnector } from './own-connector';
import { OwnLevels } from './own-levels';
import { PinoutEditor } from './pinout-editor';
import { ProveRoom } from './prove-room';
import { PLAN_TOUCHES, type TouchPlans, type TouchQuestion } from './touch-plans';
import { RibbonLay } from './ribbon-lay';
import { RuleList } from './rule-list';
import { SplicePlanView } from './splice-plan';

const pin = (contact: string, signal: string, kind: Pin['kind'], change: Partial<Pin> = {}): Pin => ({
  ...plainPin(contact, signal, kind),
  ...change,
});
const cmos = { levels: 'cmos-5' };
const serialEnd = (id: string, layout: string | null): AdapterEnd => ({
  id,
  name: `device ${id}`,
  connector: 'D-sub',
  sheetFace: 'mating',
  contactBearsA: 1,
  layout,
  pins: [
    pin('2', 'RXD', 'input', { ...cmos, needed: true }),
    pin('3', 'TXD', 'output', cmos),
    pin('5', 'GND', 'ground'),
  ],
});
const place = (words: string): { end: string; contact: string } => {
  const [end = '', contact = ''] = words.split(' ');
  return { end, contact };
};
const join = (from: string, to: string): AdapterDesign['joins'][number] => ({
  from: place(from),
  to: place(to),
  parts: [],
});
const crossed: AdapterDesign = {
  name: 'Serial lead',
  ends: [serialEnd('A', 'd-sub-9'), serialEnd('B', 'd-sub-9')],
  joins: [join('A 2', 'B 3'), join('A 3', 'B 2'), join('A 5', 'B 5')],
  wires: [
    { id: '1', colour: 'BK', areaMm2: 0.14, pair: null },
    { id: '2', colour: 'WH', areaMm2: 0.14, pair: null },
    { id: '3', colour: 'GN', areaMm2: 0.14, pair: null },
  ],
  lengthM: 1,
  functionTest: [],
};
const record = (change: Partial<AdapterRecord> = {}): AdapterRecord => ({
  id: 'a1',
  version: 2,
  at: '2026-11-01T08:00:00.000Z',
  by: 'Marit',
  note: '',
  design: crossed,
  versions: [
    { version: 2, at: '2026-11-01T08:00:00.000Z', by: 'Marit', note: 'crossed' },
    { version: 1, at: '2026-10-30T08:00:00.000Z', by: 'Tobi', note: '' },
  ],
  builds: [],
  photos: [],
  ...change,
});

interface Call {
  id: string;
  body: unknown;
}
const refusal = (detail: string): ApiProblem =>
  new ApiProblem({ type: 'about:blank', title: 'Changed since you opened it', status: 409, detail });

/** A server with one adapter, that keeps what it is given or refuses it. */
function server(kept: AdapterRecord, refuses = false): { calls: Call[]; api: object } {
  const calls: Call[] = [];
  let now = kept;
  const api = {
    call: (id: string, { body }: { body?: unknown }) => {
      calls.push({ id, body });
      if (id === 'readAdapter') return of(now);
      if (id === 'listAdapters') return of([]);
      if (id === 'readAdapterVersion')
        return of({ ...now.versions[1], design: { ...crossed, joins: [], lengthM: 7 } });
      if (refuses) return throwError(() => refusal('Changed by Ines since you opened it.'));
      if (id === 'addBuild') {
        const build = { ...(body as NewBuild), at: now.at, by: 'Me', verdict: 'proved' as const, note: '' };
        now = { ...now, builds: [build as AdapterRecord['builds'][number], ...now.builds] };
      }
      if (id === 'keepAdapter') now = { ...now, version: now.version + 1 };
      return of(now);
    },
  };
  return { calls, api };
}

describe('the adapter on the bench', () => {
  const bench = async (
    refuses = false,
  ): Promise<{ store: InstanceType<typeof AdapterBench>; calls: Call[] }> => {
    localStorage.clear();
    const { calls, api } = server(record(), refuses);
    TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: api }] });
    const store = TestBed.inject(AdapterBench);
    await store.open('a1');
    return { store, calls };
  };
  const longer = { ...crossed, lengthM: 3 };

  it('is worked up at every change, and taken back step by step', async () => {
    const { store } = await bench();
    expect(store.worked()?.findings.filter(({ severity }) => severity === 'wrong')).toEqual([]);
    store.change({ ...crossed, joins: [join('A 3', 'B 3')] });
    expect(store.worked()?.findings.map(({ rule }) => rule)).toContain('outputs-fight');
    store.change(longer);
    expect(store.changed()).toBeTrue();
    store.undo();
    expect(store.draft()?.joins.length).toBe(1);
    store.undo();
    expect(store.changed()).toBeFalse();
    store.undo();
    expect(store.draft()).toEqual(crossed);
  });

  it('is found again where the page was left, until it is kept', async () => {
    const { store } = await bench();
    store.change(longer);
    store.begin({ ...crossed, name: 'another' });
    await store.open('a1');
    expect([store.draft()?.lengthM, store.recovered()]).toEqual([3, true]);
    store.discard();
    expect([store.draft()?.lengthM, store.recovered(), store.changed()]).toEqual([1, false, false]);
  });

  it('stays as it was typed where the server refuses it', async () => {
    const { store } = await bench(true);
    store.change(longer);
    expect(await store.keep('longer')).toBeFalse();
    expect(store.problem()?.detail).toContain('Changed by Ines');
    expect(store.draft()?.lengthM).toBe(3);
    expect(store.busy()).toBeFalse();
  });

  it('is not to be kept while an end has no contact', async () => {
    const { store } = await bench();
    const [a, b] = crossed.ends;
    if (!a || !b) throw new Error('ends');
    store.change({ ...crossed, joins: [], ends: [a, { ...b, pins: [] }] });
    expect(store.trouble()?.detail).toBe('device B (B): An end has at least one contact.');
  });

  it('tells how many were built in words', () => {
    const verdicts = (...some: ('proved' | 'failed')[]) => builtWords(some.map((verdict) => ({ verdict })));
    expect([
      verdicts(),
      verdicts('proved'),
      verdicts('proved', 'proved'),
      verdicts('proved', 'failed'),
    ]).toEqual(['none built', 'built 1, proved', 'built 2, all proved', 'built 2, 1 proved']);
  });
});

describe('an adapter’s page', () => {
  const page = async (
    change: Partial<AdapterRecord> = {},
    room = 'join',
    role: 'technician' | 'viewer' = 'technician',
  ) => {
    localStorage.clear();
    const { calls, api } = server(record(change));
    TestBed.overrideProvider(Api, { useValue: api });
    const shown = await showRoom(AdapterPage, { role, inputs: { adapterId: 'a1', room } });
    await shown.fixture.whenStable();
    return { ...shown, calls };
  };
  const uncrossed: AdapterDesign = {
    ...crossed,
    joins: [join('A 2', 'B 2'), join('A 3', 'B 3'), join('A 5', 'B 5')],
  };
  const rowOf = (html: HTMLElement, words: string): HTMLButtonElement => {
    const row = html.querySelector<HTMLButtonElement>(`[data-place="${words}"]`);
    if (!row) throw new Error(words);
    return row;
  };

  it('has the fight of two outputs mended by one button, and crosses them', async () => {
    const { page: html, loader, text, fixture } = await page({ design: uncrossed });
    expect(text('ns-rule-list h2')).toMatch(/wrong/);
    const [mendIt] = await loader.getAllHarnesses(MatButtonHarness.with({ text: 'Do that' }));
    await mendIt?.click();
    await fixture.whenStable();
    expect(text('ns-rule-list h2')).toBe('No rule speaks against it');
    expect(rowOf(html, 'A 3').getAttribute('aria-label')).toContain('joined to B 2');
  });

  it('joins two contacts picked one after the other, and parts them the same way', async () => {
    const { page: html, fixture } = await page({ design: { ...crossed, joins: [] } });
    const pick = async (...words: string[]): Promise<void> => {
      for (const each of words) {
        rowOf(html, each).click();
        await fixture.whenStable();
      }
    };
    await pick('A 5', 'B 5');
    expect(rowOf(html, 'B 5').getAttribute('aria-label')).toContain('joined to A 5');
    await pick('B 5', 'A 5');
    expect(rowOf(html, 'B 5').getAttribute('aria-label')).toContain('joined to nothing');
    await pick('A 5', 'A 5');
    expect(rowOf(html, 'A 5').getAttribute('aria-pressed')).toBe('false');
  });

  it('goes from row to row by the arrow keys, and over to the other end', async () => {
    const { page: html, fixture } = await page();
    document.body.append(html);
    const arrow = async (key: string): Promise<string | undefined> => {
      document.activeElement?.dispatchEvent(
        new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
      );
      await fixture.whenStable();
      return (document.activeElement as HTMLElement | null)?.dataset['place'];
    };
    rowOf(html, 'A 2').focus();
    expect([
      await arrow('ArrowDown'),
      await arrow('ArrowRight'),
      await arrow('ArrowUp'),
      await arrow('ArrowLeft'),
    ]).toEqual(['A 3', 'B 3', 'B 2', 'A 2']);
  });

  it('joins by the signals with S, takes that back with U, and turns the faces with F', async () => {
    const { press, text, page: html } = await page({ design: { ...crossed, joins: [] } });
    expect(text('ns-rule-list')).toContain('Join all 3');
    await press('s');
    expect(rowOf(html, 'A 3').getAttribute('aria-label')).toContain('joined to B 2');
    await press('u');
    expect(rowOf(html, 'A 3').getAttribute('aria-label')).toContain('joined to nothing');
    const face = (): string => html.querySelector('ns-connector-face svg')?.getAttribute('aria-label') ?? '';
    expect(face()).toContain('wiring side, from the top left: 5 4 3 2 1');
    await press('f');
    expect(face()).toContain('mating face, from the top left: 1 2 3 4 5');
  });

  it('keeps the next version with what was changed', async () => {
    const { press, page: html, fixture, calls, loader } = await page({ design: { ...crossed, joins: [] } });
    await press('s');
    await press('k');
    const note = html.querySelector<HTMLInputElement>('.keeping input');
    if (!note) throw new Error('no field');
    note.value = 'joined';
    note.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Keep version 3' }))).click();
    await fixture.whenStable();
    const [kept] = calls.filter(({ id }) => id === 'keepAdapter');
    expect(kept?.body).toEqual(jasmine.objectContaining({ id: 'a1', version: 2, note: 'joined' }));
  });

  it('lets a viewer look and turn, and change nothing', async () => {
    const { page: html, press } = await page({ design: uncrossed }, 'join', 'viewer');
    await press('x');
    rowOf(html, 'A 2').click();
    expect(rowOf(html, 'A 2').getAttribute('aria-pressed')).toBe('false');
    expect([...html.querySelectorAll('button')].map((each) => each.textContent?.trim())).not.toContain(
      'Do that',
    );
  });

  it('compares a version with the bench, place by place', async () => {
    const { page: html, fixture, text } = await page({}, 'versions');
    html.querySelectorAll<HTMLElement>('ns-versions-room .line')[1]?.click();
    await fixture.whenStable();
    await fixture.whenStable();
    expect(text('ns-versions-room table')).toContain('lead length 7 m1 m');
    expect(text('ns-versions-room table')).toContain('join A 2 to B 3 not therestraight');
  });

  it('does not prove what is not kept', async () => {
    const { text, press } = await page({ design: { ...crossed, joins: [] } }, 'prove');
    expect(text('ns-prove-room h2')).not.toBe('');
    TestBed.inject(AdapterBench).change({ ...crossed, lengthM: 9 });
    await press('Shift');
    expect(text('main')).toContain('A build belongs to a version: keep them first.');
  });
});

describe('a pinout being entered', () => {
  const editor = async (end: AdapterEnd): Promise<Room<PinoutEditor> & { taken: AdapterEnd[] }> => {
    TestBed.overrideProvider(Api, { useValue: server(record()).api });
    const room = await showRoom(PinoutEditor, { inputs: { end } });
    const taken: AdapterEnd[] = [];
    room.fixture.componentInstance.taken.subscribe((each) => taken.push(each));
    return { ...room, taken };
  };
  const bare: AdapterEnd = { ...serialEnd('B', 'd-sub-9'), sheetFace: null, pins: [] };
  const tab = async ({ page, fixture }: Room<PinoutEditor>, name: string): Promise<void> => {
    [...page.querySelectorAll<HTMLElement>('[role=tab]')]
      .find((each) => each.textContent?.includes(name))
      ?.click();
    await fixture.whenStable();
  };
  const type = async (
    { fixture }: Room<PinoutEditor>,
    input: Element | null | undefined,
    value: string,
    event = 'input',
  ): Promise<void> => {
    if (!(
      input instanceof HTMLInputElement ||
      input instanceof HTMLTextAreaElement ||
      input instanceof HTMLSelectElement
    ))
      throw new Error('no field');
    input.value = value;
    input.dispatchEvent(new Event(event));
    await fixture.whenStable();
  };
  const click = async ({ page, fixture }: Room<PinoutEditor>, words: RegExp): Promise<void> => {
    [...page.querySelectorAll<HTMLElement>('button')]
      .find((each) => words.test(each.textContent?.trim() ?? ''))
      ?.click();
    await fixture.whenStable();
  };

  it('from a drawing of the wiring side lands mirrored on its contacts', async () => {
    const room = await editor(bare);
    await tab(room, 'As the sheet draws it');
    expect(room.text('ns-pinout-as-drawn')).toContain('it is never guessed');
    await type(room, room.page.querySelector('.numbers input'), '5 4 3 2 1 / 9 8 7 6');
    await click(room, /^Take that/);
    await type(room, room.page.querySelectorAll('.grid input')[0], 'gnd');
    await type(room, room.page.querySelectorAll('.grid input')[4], 'DCD');
    await click(room, /^Take 2 signals/);
    expect(
      [...room.page.querySelectorAll('tbody td:first-child')].map((cell) => cell.textContent?.trim()),
    ).toEqual(['1', '5']);
    expect(room.text('.foot [role=status]')).toBe('Say what contact 1 does.');
    await type(room, room.page.querySelector('[aria-label="What 1 does"]'), 'input', 'change');
    await click(room, /^Take this pinout/);
    expect(
      room.taken.map(({ sheetFace, pins }) => [
        sheetFace,
        pins.map((each) => `${each.contact} ${each.signal} ${each.kind}`),
      ]),
    ).toEqual([['rear', ['1 DCD input', '5 gnd ground']]]);
  });

  it('pasted is taken whole, or not at all', async () => {
    const room = await editor(bare);
    await tab(room, 'Paste');
    await type(room, room.page.querySelector('textarea'), '1 GND\n2 DATA');
    expect(room.text('ns-paste-pinout ul')).toContain('Line 2: What does DATA do?');
    const take = [...room.page.querySelectorAll<HTMLButtonElement>('ns-paste-pinout button')][0];
    expect(take?.disabled).toBeTrue();
    await type(room, room.page.querySelector('textarea'), '1 GND\n2 DATA both');
    await click(room, /^Take 2 contacts/);
    await click(room, /^Take this pinout/);
    expect(room.taken[0]?.pins.map(({ kind }) => kind)).toEqual(['ground', 'both']);
  });

  it('refuses volts and amperes that are none, and says of which contact', async () => {
    const supply = { ...bare, pins: [pin('1', 'VCC', 'supply-in', { volts: [4.5, 5.5] })] };
    const room = await editor(supply);
    await type(room, room.page.querySelector('[aria-label="Volts of 1"]'), 'plenty');
    expect(room.text('.foot [role=status]')).toContain('The volts of contact 1 are none');
    await type(room, room.page.querySelector('[aria-label="Volts of 1"]'), '4,8 to 5,2');
    await type(room, room.page.querySelector('[aria-label="Amperes of 1"]'), 'x');
    expect(room.text('.foot [role=status]')).toContain('The current of contact 1');
    await type(room, room.page.querySelector('[aria-label="Amperes of 1"]'), '0,25');
    await click(room, /^Take this pinout/);
    expect(room.taken[0]?.pins[0]).toEqual(jasmine.objectContaining({ volts: [4.8, 5.2], currentA: 0.25 }));
  });

  it('is not lost by one press of Escape', async () => {
    const room = await editor(serialEnd('B', 'd-sub-9'));
    let left = 0;
    room.fixture.componentInstance.left.subscribe(() => left++);
    await type(room, room.page.querySelector('[aria-label="Signal on 2"]'), 'DATA');
    await room.press('Escape');
    expect([left, room.text('.foot [role=status]')]).toEqual([
      0,
      'What was typed here is not taken yet, and would be lost.',
    ]);
    await room.press('Escape');
    expect(left).toBe(1);
  });

  it('keeps what the sheet said where the device was found otherwise', async () => {
    const room = await editor(serialEnd('B', 'd-sub-9'));
    await click(room, /^more/);
    const field = [...room.page.querySelectorAll('label')].find((label) =>
      label.textContent?.includes('The sheet said otherwise'),
    );
    await type(room, field?.querySelector('input'), 'TXD');
    await click(room, /^Take this pinout/);
    expect(room.taken[0]?.pins[0]?.sheetSaid).toBe('TXD');
  });
});

describe('metering a moulded half', () => {
  it('asks contact by contact, keeps a colour that comes twice, and takes an answer back', async () => {
    const room = await showRoom(MeterColours, { inputs: { contacts: ['1', '2', '3'] } });
    const taken: (readonly MeteredWire[])[] = [];
    room.fixture.componentInstance.taken.subscribe((each) => taken.push(each));
    const answer = async (name: string): Promise<void> => {
      [...room.page.querySelectorAll<HTMLElement>('.colours button')]
        .find((each) => each.textContent?.trim().startsWith(name))
        ?.click();
      await room.fixture.whenStable();
    };
    expect(room.text('h3')).toContain('contact 1');
    await answer('red');
    await answer('blue');
    await room.press('Backspace');
    expect(room.text('h3')).toContain('contact 2');
    await answer('red');
    await room.press('PageUp');
    expect(room.text('[role=status]')).toContain('red occur twice');
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Take the colours' }))).click();
    expect(taken).toEqual([
      [
        { contact: '1', colour: 'RD' },
        { contact: '2', colour: 'RD' },
        { contact: '3', colour: null },
      ],
    ]);
  });
});

describe('a connector described on the screen', () => {
  it('is drawn as it is typed, and says what cannot be laid out', async () => {
    const room = await showRoom(OwnConnector, {});
    const field = (words: string): HTMLInputElement => {
      const label = [...room.page.querySelectorAll('label')].find((each) =>
        each.textContent?.includes(words),
      );
      const input = label?.querySelector('input');
      if (!input) throw new Error(words);
      return input;
    };
    const type = async (words: string, value: string): Promise<void> => {
      const input = field(words);
      input.value = value;
      input.dispatchEvent(new Event('input'));
      await room.fixture.whenStable();
    };
    await type('Its name', 'Deck box');
    await type('Rows', '3');
    await type('In each row', '4');
    expect(room.page.querySelectorAll('ns-connector-face circle.contact').length).toBe(12);
    await type('In each row', '0');
    expect(room.text('[role=alert]')).toContain('at least one row');
  });
});

describe('building on the screen', () => {
  const inputs = { design: crossed, worked: workUp(crossed), key: 'a1.2' };

  it('is ticked with the pedal, step by step, and the ticks are there again', async () => {
    const room = await showRoom(BuildRoom, { inputs });
    expect(room.text('.hand h2')).toBe('Contact 5, GND');
    expect(room.text('.hand .big')).toContain('black');
    await room.press('PageDown');
    expect(room.text('.hand h2')).toBe('Contact 3, TXD');
    await room.press('PageUp');
    expect(room.text('.hand h2')).toBe('Contact 5, GND');
    await room.press('PageDown');
    const kept: unknown = JSON.parse(localStorage.getItem('near-spoke.build.a1.2') ?? '[]');
    expect(kept).toEqual(['joint A 5']);
    for (let n = 0; n < 9; n++) await room.press('PageDown');
    expect(room.text('.hand h2')).toBe('Built');
  });
});

/** A list of touches that somebody at the other end is shown. */
const SHOWN: Omit<TogetherState, 'next' | 'answers' | 'told'> = {
  id: 'shown-1',
  linkId: null,
  label: 'Serial lead',
  ends: { near: 'device A', far: 'device B' },
  code: 'KLMNPQ',
  startedBy: 'Ines',
  at: '2026-11-02T09:00:00.000Z',
  ended: false,
  on: { near: false, far: false },
  people: { near: [], far: ['Marek'] },
  calls: null,
  list: null,
  wires: null,
  helper: null,
};

describe('proving on the screen', () => {
  const worked = workUp(crossed);
  const plans = ({ nets, ends, hands, meterAt }: TouchQuestion): TouchPlans => ({
    apart: apartPlan(nets, ends, [meterAt], { hands }),
    probes: probesPlan(nets, ends, hands),
    gangs: gangsPlan(nets, ends, hands),
    inOrderS: inOrderSeconds(nets, ends, hands),
  });
  const list = plans({ nets: worked.nets, ends: crossed.ends, hands: USUAL_HANDS, meterAt: 'A' }).probes
    .touches;
  const planned: TouchQuestion[] = [];
  const prove = async (
    takes: () => boolean = () => true,
    server?: FakeServer,
  ): Promise<Room<ProveRoom> & { kept: NewBuild[] }> => {
    const kept: NewBuild[] = [];
    const keeps = (build: NewBuild): Promise<boolean> => {
      kept.push(build);
      return Promise.resolve(takes());
    };
    planned.length = 0;
    TestBed.overrideProvider(PLAN_TOUCHES, {
      useValue: (question: TouchQuestion) => {
        planned.push(question);
        return Promise.resolve(plans(question));
      },
    });
    const quiet = { provide: OPEN_EVENTS, useValue: () => () => undefined };
    if (server) TestBed.configureTestingModule({ providers: [server.provider, quiet] });
    const room = await showRoom(ProveRoom, {
      inputs: { design: crossed, worked, version: 2, builds: [], keeps },
    });
    await room.fixture.whenStable();
    return { ...room, kept };
  };
  const sound = soundLead(worked.nets);

  it('is put into order once, by what touching costs the hands of this crew', async () => {
    const hands = { ...USUAL_HANDS, besideS: 1.7 };
    await prove(undefined, new FakeServer({ readHands: () => ({ hands, version: 4 }) }));
    expect(planned.map((question) => question.hands)).toEqual([hands]);
    TestBed.resetTestingModule();
    // Where nobody can be asked, the usual figures serve.
    await prove();
    expect(planned.map((question) => question.hands)).toEqual([USUAL_HANDS]);
  });

  it('of a lead with its ends out of reach joins two there for every beep here, and keeps what was joined', async () => {
    const { press, text, page, kept, loader, fixture } = await prove();
    const ways = [...page.querySelectorAll<HTMLButtonElement>('.ways button')];
    ways.find((one) => one.textContent?.includes('Ends out of reach'))?.click();
    await fixture.whenStable();
    const plan = apartPlan(worked.nets, crossed.ends, ['A']);
    expect(plan.by).toBe('joins');
    for (const touch of plan.touches) {
      expect(text('.there')).toContain(touch.joined ? 'joined at the other end' : 'nothing joined');
      if (touch.joined) expect(text('.there strong')).toBe(gangWords(touch.joined).join(' '));
      await press(wouldBeep(touch, sound) ? 'PageDown' : 'PageUp');
    }
    expect(text('#prove-title')).toBe('Proved');
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Keep this build' }))).click();
    expect(kept[0]?.touched?.map(({ joined }) => joined ?? null)).toEqual(
      plan.touches.map(({ joined }) => joined ?? null),
    );
  });

  it('is shown at the other end, whose answers are this one’s too', async () => {
    const plan = apartPlan(worked.nets, crossed.ends, ['A']);
    const begun: TouchesByTwo[] = [];
    const answers: boolean[] = [];
    let told = 0;
    const state = (): TogetherState => {
      const next = begun[0]?.touches[answers.length];
      return {
        ...SHOWN,
        told: told++,
        answers: [...answers],
        list: { over: plan.by, touches: plan.touches.length },
        next: next
          ? { from: next.from, to: next.to, join: [], sweep: false, should: next.should, why: 'path' }
          : null,
      };
    };
    const server = new FakeServer({
      readHands: () => ({ hands: null, version: 0 }),
      beginTouches: ({ body }) => {
        begun.push(body as TouchesByTwo);
        return state();
      },
      tellTogether: ({ body }) => {
        const { doing } = body as NewToldThing;
        if (doing.does === 'answered') answers.push(doing.closed);
        if (doing.does === 'took-back') answers.pop();
        return state();
      },
      endTogether: () => ({ ...state(), ended: true }),
    });
    const { press, text, page, kept, loader, fixture } = await prove(undefined, server);
    const button = (words: string): HTMLButtonElement | undefined =>
      [...page.querySelectorAll('button')].find((one) => one.textContent?.includes(words));
    button('Ends out of reach')?.click();
    await fixture.whenStable();
    button('Show it at the other end too')?.click();
    await fixture.whenStable();
    expect(begun[0]?.touches.map(({ join }) => join?.length ?? 0)).toEqual(
      plan.touches.map(({ joined }) => joined?.length ?? 0),
    );
    expect(begun[0]?.touches.every(({ from, to }) => from.end === 'near' && to.end === 'near')).toBeTrue();
    // No other list meanwhile, and no touch is passed over unseen.
    expect(button('Two probes')?.disabled).toBeTrue();
    expect(button('Pass this one over')).toBeUndefined();
    for (const [n, touch] of plan.touches.entries()) {
      const right = wouldBeep(touch, sound);
      if (n === 1) {
        // A slip of the thumb is taken back for both.
        await press(right ? 'PageUp' : 'PageDown');
        await press('Backspace');
      }
      await press(right ? 'PageDown' : 'PageUp');
    }
    expect(answers).toEqual(plan.touches.map((touch) => wouldBeep(touch, sound)));
    expect(text('#prove-title')).toBe('Proved');
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Keep this build' }))).click();
    expect(kept[0]?.touched?.length).toBe(plan.touches.length);
    expect(server.sent('endTogether').length).toBe(1);
  });

  it('of a sound lead ends in a build that is kept with every answer', async () => {
    const { press, text, kept, loader } = await prove();
    for (const touch of list) await press(wouldBeep(touch, sound) ? 'PageDown' : 'PageUp');
    expect(text('#prove-title')).toBe('Proved');
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Keep this build' }))).click();
    expect(kept.map(({ name, version, beeped, touched }) => [name, version, beeped, touched])).toEqual([
      [
        'No. 1',
        2,
        [],
        list.map((touch) => ({ one: touch.one, other: touch.other, beeped: wouldBeep(touch, sound) })),
      ],
    ]);
  });

  it('loses no answer where the build could not be kept, and is sent again as the same build', async () => {
    let takes = false;
    const { press, text, kept, loader } = await prove(() => takes);
    for (const touch of list) await press(wouldBeep(touch, sound) ? 'PageDown' : 'PageUp');
    const keep = (): Promise<MatButtonHarness> =>
      loader.getHarness(MatButtonHarness.with({ text: 'Keep this build' }));
    await (await keep()).click();
    expect(text('#prove-title')).toBe('Proved');
    takes = true;
    await (await keep()).click();
    expect(text('#prove-title')).not.toBe('Proved');
    expect(kept[1]).toEqual(kept[0] as NewBuild);
    // The next one built is another.
    for (const touch of list) await press(wouldBeep(touch, sound) ? 'PageDown' : 'PageUp');
    await (await keep()).click();
    expect(kept[2]?.id).not.toBe(kept[0]?.id as string);
  });

  it('names a face that was mirrored from what was heard', async () => {
    const { press, text } = await prove();
    // 5 4 3 2 1 for 1 2 3 4 5 at B: what was meant for 2 lies on 4, 3 stays, ground lies on 1.
    const mirrored = new Map(sound).set('B 2', -1).set('B 5', -2);
    for (const touch of list) await press(wouldBeep(touch, mirrored) ? 'PageDown' : 'PageUp');
    expect(text('#prove-title')).toBe('Not right');
    expect(text('.found')).toContain('device B (B) is wired as its mirror image');
  });

  it('finds out by more touches which of several mistakes it is', async () => {
    const { press, text, loader } = await prove();
    // The first path beeps, and so does the sweep behind it: one of the others touches it.
    await press('PageDown');
    await press('PageDown');
    expect(text('.found h3')).toMatch(/^It is one of \d+$/);
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Find out which' }))).click();
    expect(text('#prove-title')).toBe('This tells them apart');
    for (let n = 0; n < 9 && text('#prove-title') === 'This tells them apart'; n++) await press('PageUp');
    expect(text('#prove-title')).not.toBe('This tells them apart');
    expect(text('.found')).not.toContain('Find out which');
  });

  it('is asked for by sweeps of two probes, or by clips where somebody has them', async () => {
    const { text, loader, page, fixture } = await prove();
    const place = (): string => text('.ask p');
    expect(place()).toContain(`1 of ${list.length}`);
    expect(text('.ways')).toContain(`${list.length} touches, about`);
    const clips = [...page.querySelectorAll<HTMLElement>('.ways button')].find((each) =>
      each.textContent?.includes('Clips'),
    );
    clips?.click();
    await fixture.whenStable();
    expect(place()).toContain(`1 of ${worked.proof.length}`);
    expect(text('#prove-title')).toContain('Gang these contacts');
    expect(await loader.getAllHarnesses(MatButtonHarness.with({ text: /It beeps/ }))).toHaveSize(1);
  });

  it('leaves open what was passed over', async () => {
    const { press, text, page, fixture } = await prove();
    const [first, ...others] = list;
    expect(first).toBeDefined();
    [...page.querySelectorAll<HTMLElement>('button')]
      .find((each) => each.textContent?.includes('Pass this one over'))
      ?.click();
    await fixture.whenStable();
    for (const touch of others) await press(wouldBeep(touch, sound) ? 'PageDown' : 'PageUp');
    expect(text('#prove-title')).toBe('Not all of it was done');
  });
});

describe('what the rules say', () => {
  it('shows its contacts when it is asked', async () => {
    const design: AdapterDesign = { ...crossed, joins: [join('A 3', 'B 3')] };
    const room = await showRoom(RuleList, { inputs: { design, worked: workUp(design) } });
    const shown: (readonly string[])[] = [];
    room.fixture.componentInstance.shown.subscribe((each) => shown.push(each));
    room.page.querySelector<HTMLElement>('.finding .line')?.click();
    expect(shown).toEqual([checkAdapter(design)[0]?.contacts ?? []]);
  });
});

describe('the cable of a lead', () => {
  it('comes from the kit, says what each conductor carries, and has a colour for each half', async () => {
    const room = await showRoom(CableRoom, { inputs: { design: crossed, worked: workUp(crossed) } });
    const changed: AdapterDesign[] = [];
    room.fixture.componentInstance.changed.subscribe((each) => changed.push(each));
    expect(room.text('tbody tr')).toContain('GNDA 5 = B 5');
    const set = async (label: string, value: string): Promise<void> => {
      const select = room.page.querySelector<HTMLSelectElement>(`[aria-label="${label}"]`);
      if (!select) throw new Error(label);
      select.value = value;
      select.dispatchEvent(new Event('change'));
      await room.fixture.whenStable();
    };
    await set('Colour of 1 at B', 'VT');
    expect(changed.at(-1)?.wires[0]).toEqual(jasmine.objectContaining({ colour: 'BK', halves: { B: 'VT' } }));
  });

  it('that is a ribbon shows how it is laid', async () => {
    const ribbon: AdapterDesign = {
      ...crossed,
      ends: crossed.ends.map((end) => ({ ...end, layout: 'd-sub-9' })),
      wires: crossed.wires.map((wire, n) => ({ ...wire, edge: n === 0 })),
    };
    const room = await showRoom(CableRoom, { inputs: { design: ribbon, worked: workUp(ribbon) } });
    expect(room.text('ns-ribbon-lay h3')).toMatch(/^Lay the ribbon: \d+ crossing/);
    expect(room.text('.left [role=status]')).toContain('A ribbon of 3 does not reach');
  });
});

describe('a ribbon as it is laid', () => {
  const words = async (far: string[], joins: [string, string][]): Promise<string> => {
    const job = { near: ['1', '2', '3', '4'], far, joins };
    const room = await showRoom(RibbonLay, { inputs: { job } });
    return room.page.textContent?.replace(/\s+/g, ' ') ?? '';
  };

  it('leaves in what has a place, peels off what has none, and says either of each only once', async () => {
    const roomy = await words(
      ['1', '2', '3', '4'],
      [
        ['1', '1'],
        ['4', '4'],
      ],
    );
    expect(roomy).toContain('left in for strength: 2, 3.');
    expect(roomy).not.toContain('peeled off');
    TestBed.resetTestingModule();
    const tight = await words(
      ['1', '2', '3'],
      [
        ['1', '1'],
        ['4', '3'],
      ],
    );
    const [, stays = ''] = /left in for strength: ([\d, ]+)\./.exec(tight) ?? [];
    const [, goes = ''] = /peeled off before the far connector: ([\d, ]+)\./.exec(tight) ?? [];
    expect([stays, goes].sort()).toEqual(['2', '3']);
  });
});

describe('a join in hand', () => {
  const parts = async (design: AdapterDesign) => {
    const room = await showRoom(JoinParts, { inputs: { design, place: place('A 3') } });
    const changed: AdapterDesign[] = [];
    room.fixture.componentInstance.changed.subscribe((each) => changed.push(each));
    const set = async (words: string, value: string): Promise<void> => {
      const label = [...room.page.querySelectorAll('label')].find((each) =>
        each.textContent?.trim().startsWith(words),
      );
      const field = label?.querySelector<HTMLInputElement | HTMLSelectElement>('input, select');
      if (!field) throw new Error(words);
      field.value = value;
      field.dispatchEvent(new Event(field.tagName === 'SELECT' ? 'change' : 'input'));
      await room.fixture.whenStable();
    };
    const pressButton = async (text: string | RegExp): Promise<void> =>
      (await room.loader.getHarness(MatButtonHarness.with({ text }))).click();
    return { ...room, changed, set, pressButton };
  };

  it('takes a resistor with its ohm into its way, and says when that is none', async () => {
    const { changed, set, pressButton, text } = await parts(crossed);
    await pressButton('Put a part in');
    expect(text('[role=alert]')).toBe('Give its ohm, over 0.');
    await set('Ohm', '470');
    await pressButton(/^Put it in/);
    expect(changed.at(-1)?.joins[1]?.parts).toEqual([{ kind: 'resistor', words: '', ohm: 470 }]);
  });

  it('takes a battery pack with its end of life', async () => {
    const { changed, set, pressButton, text } = await parts(crossed);
    await pressButton('Put a part in');
    await set('Part', 'battery');
    await set('Volts at its end', '1,9');
    expect(text('[role=alert]')).toBe('A cell at its end gives no more than a new one.');
    await set('Volts at its end', '0,8');
    await pressButton(/^Put it in/);
    expect(changed.at(-1)?.joins[1]?.parts[0]?.cells).toEqual({ count: 2, freshV: 1.6, endV: 0.8 });
  });

  it('lets a part go, and the join itself', async () => {
    const wired = crossed.joins.map((each, n) =>
      n === 1 ? { ...each, parts: [{ kind: 'diode' as const, words: '' }] } : each,
    );
    const { changed, pressButton } = await parts({ ...crossed, joins: wired });
    await pressButton('Take it out');
    expect(changed.at(-1)?.joins[1]?.parts).toEqual([]);
    await pressButton('Part them');
    expect(changed.at(-1)?.joins.length).toBe(2);
  });
});

describe('levels of its own', () => {
  it('are taken with a comma, and not where high is under low', async () => {
    const room = await showRoom(OwnLevels, {});
    const taken: LevelFigures[] = [];
    room.fixture.componentInstance.taken.subscribe((each) => taken.push(each));
    const type = async (n: number, value: string): Promise<void> => {
      const field = room.page.querySelectorAll<HTMLInputElement>('input[inputmode]')[n];
      if (!field) throw new Error(String(n));
      field.value = value;
      field.dispatchEvent(new Event('input'));
      await room.fixture.whenStable();
    };
    await type(1, '0,2');
    expect(room.text('[role=alert]')).toBe('An output’s high is over its low.');
    await type(1, '2,2');
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Take these figures' }))).click();
    expect(taken[0]?.outHighV).toBe(2.2);
  });
});

describe('a measured map', () => {
  it('is told to be right, exchanged, or of another connector', async () => {
    const room = await showRoom(MeasuredMap, { inputs: { design: crossed, worked: workUp(crossed) } });
    const type = async (contact: string, value: string): Promise<void> => {
      const field = room.page.querySelector<HTMLInputElement>(`[aria-label="A ${contact} reaches"]`);
      if (!field) throw new Error(contact);
      field.value = value;
      field.dispatchEvent(new Event('input'));
      await room.fixture.whenStable();
    };
    await type('2', '3');
    await type('3', '2');
    await type('5', '5');
    expect(room.text('[role=status]')).toBe('It is the map that was meant.');
    await type('2', '2');
    await type('3', '3');
    expect(room.text('[role=status]')).toContain('A 2 and A 3 are exchanged.');
    await type('3', '11');
    expect(room.text('[role=status]')).toBe('B has no contact 11.');
  });
});

describe('two halves to be spliced', () => {
  it('are staggered, sleeved and cautioned, and refuse thinner copper', async () => {
    const moulded: AdapterDesign = {
      ...crossed,
      ends: crossed.ends.map((end) => ({
        ...end,
        pins: end.pins.map((each, n) => ({ ...each, colour: ['RD', 'GN', 'BK'][n] ?? 'WH' })),
      })),
    };
    const room = await showRoom(SplicePlanView, { inputs: { design: moulded, worked: workUp(moulded) } });
    expect(room.page.querySelectorAll('.sleeve').length).toBe(3);
    expect(room.text('ol')).toContain('Make dead, and prove it dead.');
    const input = [...room.page.querySelectorAll('input')].at(-1);
    if (!input) throw new Error('no field');
    input.value = '0,05';
    input.dispatchEvent(new Event('input'));
    await room.fixture.whenStable();
    expect(room.text('.wrong')).toContain('Thinner than the old');
  });
});
