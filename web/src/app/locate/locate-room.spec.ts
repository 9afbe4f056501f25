import { TestBed } from '@angular/core/testing';
import type { GoodTrace, NewTrace, Role, TraceHead, TraceRecord } from '@near-spoke/contracts';
import type { Trace } from '@near-spoke/core';
import { LinkEvents } from '../link/link.state';
import { someDetail } from '../testing/links';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { asTable, LEAD, shippedCable, someTrace, someTraceRecord } from '../testing/traces';
import { LocateRoom } from './locate-room';
import { Locating } from './locating';

const cable = shippedCable('cat6-u');
const LENGTH_M = 31.4;
const broken = someTrace(cable, LENGTH_M, [{ kind: 'open', atM: 20, severity: 1 }]);
const sound = someTrace(cable, LENGTH_M, []);

const withoutSamples = ({ trace: _, ...head }: TraceRecord): TraceHead => head;

/** A server with these traces of the link, that keeps further ones. */
class TraceServer extends FakeServer {
  constructor(
    public traces: TraceRecord[] = [],
    good: readonly (GoodTrace & TraceRecord)[] = [],
  ) {
    super({
      listTraces: () => this.traces.map(withoutSamples),
      goodTraces: () => good.map(({ trace: _, ...head }) => head),
      readTrace: ({ params }) =>
        [...this.traces, ...good.filter(({ linkId }) => linkId === params?.['linkId'])].find(
          ({ id }) => id === params?.['traceId'],
        ),
      addTrace: ({ body }) => {
        const { id, end, pair, name, trace, told } = body as NewTrace;
        const record = { id, end, pair, name, told, trace, at: '2026-11-03T09:00:00.000Z', by: 'Me' };
        this.traces = [record as TraceRecord, ...this.traces.filter((one) => one.id !== id)];
        return this.traces.map(withoutSamples);
      },
      listReels: () => [],
      listVelocities: () => [],
      benchScope: () => null,
    });
  }
}

async function show(server: FakeServer, role: Role = 'technician'): Promise<Room<LocateRoom>> {
  TestBed.configureTestingModule({ providers: [server.provider] });
  const room = await showRoom(LocateRoom, { role, detail: someDetail() });
  await room.settled();
  return room;
}
const located = (room: Room<LocateRoom>): Promise<void> =>
  room.until(() => room.page.querySelector('mat-progress-bar') === null && room.text('tbody td') !== '');
async function choose(room: Room<LocateRoom>, text: string, name = 'scope.csv'): Promise<void> {
  const field = room.page.querySelector('input[type="file"]') as HTMLInputElement;
  const files = new DataTransfer();
  files.items.add(new File([text], name));
  field.files = files.files;
  field.dispatchEvent(new Event('change'));
  await room.fixture.whenStable();
}
function field(room: Room<LocateRoom>, label: string): HTMLInputElement {
  const found = [...room.page.querySelectorAll('label')].find((one) =>
    one.textContent?.trim().startsWith(label),
  );
  return found?.querySelector('input, select') as HTMLInputElement;
}
async function write(room: Room<LocateRoom>, label: string, text: string): Promise<void> {
  const input = field(room, label);
  input.value = text;
  input.dispatchEvent(new Event('change'));
  await room.fixture.whenStable();
}
function button(room: Room<LocateRoom>, words: string): HTMLButtonElement {
  const all = [...room.page.querySelectorAll<HTMLButtonElement>('button')];
  return all.find((one) => one.textContent?.trim().startsWith(words)) as HTMLButtonElement;
}
/** Tells what the lead is, which the file cannot say. */
async function tellLead(room: Room<LocateRoom>): Promise<void> {
  await write(room, 'Lead, metres', String(LEAD.lengthM));
  await write(room, 'Lead’s velocity factor', String(LEAD.velocityFactor));
}
const record = (trace: Trace, change: Partial<TraceRecord> = {}): TraceRecord =>
  someTraceRecord(cable, trace, change);

describe('the Locate room', () => {
  it('says where it is, in which stretch of the route, and what makes the interval', async () => {
    const room = await show(new TraceServer([record(broken)]));
    await located(room);
    const [, atM] = /^Open at ([\d.]+) m$/.exec(room.text('#located-title')) ?? [];
    expect(Number(atM)).toBeCloseTo(20, 0);
    expect(room.text('[aria-labelledby="located-title"]')).toContain('In tray over hall');
    const budget = [...room.page.querySelectorAll('.budget dd')].map((one) =>
      parseFloat(one.textContent ?? ''),
    );
    const [timing = 0, velocity = 0, lead = 0, together = 0] = budget;
    expect(together).toBeCloseTo(Math.hypot(timing, velocity, lead), 2);
    expect(room.text('tr.main td:nth-child(2)')).toBe('open');
  });

  it('asks for a trace where there is none', async () => {
    const room = await show(new TraceServer());
    expect(room.text('#located-title')).toBe('No trace yet');
    expect(room.text('.none')).toContain('Take one with the far end left open');
    expect(button(room, 'Show the “open here” sheet')).toBeUndefined();
  });

  it('shows the sheet with its cautions by P, and puts it away by Escape', async () => {
    const room = await show(new TraceServer([record(broken)]));
    await located(room);
    await room.press('p');
    expect(room.text('.open-here .where')).toContain('tray over hall');
    expect(room.text('.open-here')).toContain('asbestos');
    expect(room.text('.open-here')).toContain('from the near end');
    await room.press('Escape');
    expect(room.page.querySelector('.open-here')).toBeNull();
  });

  it('hands the place to Verify as a reading of the pair it was taken on', async () => {
    const room = await show(new TraceServer([record(broken, { pair: '3-6' })]));
    await located(room);
    await room.press('v');
    const taken = room.asked.find((action) => action.type === LinkEvents.readingTaken.type) as unknown as {
      test: { reading: { instrument: string; from: string; pairs: Record<string, { kind: string }[]> } };
    };
    expect(taken.test.reading.instrument).toBe('pair-reflectometer');
    expect(Object.keys(taken.test.reading.pairs)).toEqual(['3-6']);
    expect(taken.test.reading.pairs['3-6']?.[0]?.kind).toBe('open');
    expect(room.ways).toEqual(['/jobs/job/links/link/verify']);
  });

  it('counts from the near end on the strip what was measured from the far one', async () => {
    const room = await show(new TraceServer([record(broken, { end: 'far' })]));
    await located(room);
    await room.press('p');
    expect(room.text('.open-here')).toContain('from the far end');
    expect(room.text('.arithmetic')).toContain('= 20.');
    const slider = room.page.querySelector('[role="slider"]');
    expect(Number(slider?.getAttribute('aria-valuenow'))).toBeCloseTo(LENGTH_M - 20, 0);
  });

  it('begins the cursor at the place, and leaves it where a hand put it when the trace is read more closely', async () => {
    const kept = record(broken);
    const room = await show(new TraceServer([kept]));
    await located(room);
    const cursor = room.page.querySelector('[aria-label^="Cursor A"]') as HTMLElement;
    const at = (): number => Number(cursor.getAttribute('aria-valuenow'));
    expect(at()).toBeCloseTo(20, 0);
    cursor.dispatchEvent(new KeyboardEvent('keydown', { key: 'Home', bubbles: true }));
    await room.fixture.whenStable();
    expect(at()).toBe(0);
    TestBed.inject(Locating).readAs(withoutSamples(kept), { ...kept.told, farEnd: 'open' });
    await room.fixture.whenStable();
    await located(room);
    expect(at()).toBe(0);
  });

  it('compares with the trace of the day before, by one key, and names what is new', async () => {
    const before = record(sound, { id: 'before', at: '2026-10-01T09:00:00.000Z', name: 'handover.csv' });
    const room = await show(new TraceServer([record(broken), before]));
    await located(room);
    await room.press('c');
    await room.until(() => room.text('.compared').includes('New:'));
    expect(room.text('.compared')).toMatch(/Against the first trace, .*handover\.csv/);
    expect(room.text('.compared')).toMatch(/New: open at (19|20)\.\d m/);
    await room.press('c');
    expect(room.page.querySelector('.compared')).toBeNull();
  });
});

describe('reading a trace in', () => {
  it('compares with a good line of the same cable, whose own end is no news, and says what both have', async () => {
    const elsewhere = someTrace(cable, 44, [{ kind: 'poor', atM: 9, severity: 0.5 }]);
    const faulty = someTrace(cable, LENGTH_M, [
      { kind: 'poor', atM: 9, severity: 0.5 },
      { kind: 'open', atM: 20, severity: 1 },
    ]);
    const good = { ...record(elsewhere, { id: 'good' }), linkId: 'other', label: 'P1-03', lengthM: 44 };
    const room = await show(new TraceServer([record(faulty)], [good]));
    await located(room);
    await room.until(() => button(room, 'Compare with P1-03, pair 1-2, in order') !== undefined);
    await room.press('c');
    await room.until(() => room.text('.compared').includes('Only here'));
    expect(room.text('.compared')).toMatch(/Only here: open at (19|20)\.\d m/);
    expect(room.text('.compared')).not.toContain('Only in the good one');
    const shared = [...room.page.querySelectorAll('tbody tr')].filter((row) =>
      row.textContent?.includes('the good one has it too'),
    );
    expect(shared.length).toBe(1);
    expect(Number.parseFloat(shared[0]?.querySelector('td')?.textContent ?? '')).toBeCloseTo(9, 0);
    // Of another trace nothing is compared any more.
    await room.press('c');
    expect(room.page.querySelector('.compared')).toBeNull();
  });

  it('keeps nothing before both ends are said to be dead, then keeps it once', async () => {
    const server = new TraceServer();
    const room = await show(server);
    await room.press('i');
    await tellLead(room);
    await choose(room, asTable(broken));
    await room.until(() => room.text('.import [role="status"]').includes('Open at'));
    expect(room.text('.import [role="status"]')).toContain('1400 samples every 0.40 ns');
    expect(button(room, 'Keep this trace').disabled).toBeTrue();
    (room.page.querySelector('.import input[type="checkbox"]') as HTMLInputElement).click();
    await room.fixture.whenStable();
    const takes = server.answers.addTrace as NonNullable<typeof server.answers.addTrace>;
    server.answers.addTrace = () => {
      throw refusal('No answer', 0);
    };
    button(room, 'Keep this trace').click();
    await room.until(() => room.text('ns-problem-note').includes('No answer'));
    server.answers.addTrace = takes;
    button(room, 'Keep this trace').click();
    await room.until(() => room.page.querySelector('.import') === null);
    const [lost, kept] = server.sent('addTrace').map((one) => one.body as NewTrace);
    expect(kept?.id).toBe(lost?.id as string);
    expect([kept?.end, kept?.pair, kept?.name, kept?.told.leadM]).toEqual(['near', '1-2', 'scope.csv', 1]);
    await located(room);
    expect(room.text('#located-title')).toMatch(/^Open at (19|20)\.\d m$/);
  });

  it('reads nothing with a figure that is none, and says which field wants what', async () => {
    const room = await show(new TraceServer());
    await room.press('i');
    await tellLead(room);
    await choose(room, asTable(broken));
    await room.until(() => room.text('.import [role="status"]').includes('Open at'));
    (room.page.querySelector('.import input[type="checkbox"]') as HTMLInputElement).click();
    for (const [label, text, words] of [
      ['Lead, metres', '1,2 m', 'Lead: write metres from 0 to 1000.'],
      ['Velocity factor', '7', 'Velocity factor: write a figure from 0.3 to 1.'],
      ['Good to', '', 'How good the velocity is: write a figure from 0 to 0.3.'],
    ] as const) {
      const was = field(room, label).value;
      await write(room, label, text);
      expect(room.text('.import [role="alert"]')).withContext(label).toBe(words);
      expect(button(room, 'Keep this trace').disabled).withContext(label).toBeTrue();
      expect(room.page.querySelector('.import [role="status"]')).withContext(label).toBeNull();
      await write(room, label, was);
      expect(room.text('.import [role="alert"]')).withContext(label).toBe('');
    }
    await room.until(() => room.text('.import [role="status"]').includes('Open at'));
    expect(button(room, 'Keep this trace').disabled).toBeFalse();
  });

  it('asks one thing that the trace cannot tell, reads it again with the answer, and leaves the record as it is', async () => {
    const lossy = { ...cable, loss: [{ mhz: 100, dbPer100m: 50 }] };
    const server = new TraceServer([record(someTrace(lossy, LENGTH_M, []))]);
    const room = await show(server);
    await located(room);
    await room.until(() => room.page.querySelector('.question') !== null);
    expect(room.text('.question')).toContain('times what is typical');
    const input = room.page.querySelector('.question input') as HTMLInputElement;
    input.value = 'much';
    button(room, 'Read it with that').click();
    await room.fixture.whenStable();
    expect(room.text('.question [role=alert]')).toContain('such as 6.6 at 100');
    input.value = '50 at 100';
    button(room, 'Read it with that').click();
    await room.fixture.whenStable();
    await located(room);
    await room.until(() => room.text('#located-title').startsWith('Open at 31'));
    await room.until(() => room.page.querySelector('mat-progress-bar') === null);
    // What was answered is not asked again.
    expect(room.page.querySelector('.question')?.textContent ?? '').not.toContain('typical');
    expect(server.traces[0]?.told.loss).toBeUndefined();
  });

  it('keeps with a trace what was known of loss and of the far end when it was taken', async () => {
    const server = new TraceServer();
    const room = await show(server);
    await room.press('i');
    await tellLead(room);
    await write(room, 'Loss, dB per 100 m at MHz', '21 at 100; 66 at 1000');
    await write(room, 'At the far end', 'open');
    await choose(room, asTable(sound));
    await room.until(() => room.text('.import [role="status"]').includes('Open at'));
    (room.page.querySelector('.import input[type="checkbox"]') as HTMLInputElement).click();
    await room.fixture.whenStable();
    button(room, 'Keep this trace').click();
    await room.until(() => room.page.querySelector('.import') === null);
    expect(server.traces[0]?.told).toEqual(
      jasmine.objectContaining({
        farEnd: 'open',
        loss: [
          { mhz: 100, dbPer100m: 21 },
          { mhz: 1000, dbPer100m: 66 },
        ],
      }),
    );
  });

  it('moves the place by the lead that is told: a metre of it is a metre and a bit of cable', async () => {
    const room = await show(new TraceServer());
    await room.press('i');
    await tellLead(room);
    await choose(room, asTable(broken));
    const place = (): number =>
      Number(/at ([\d.]+) m/.exec(room.text('.import [role="status"] strong'))?.[1] ?? Number.NaN);
    await room.until(() => place() > 0);
    const [told] = [place()];
    await write(room, 'Lead, metres', '0');
    await room.until(() => place() > 0 && place() !== told);
    expect(place() - told).toBeCloseTo(cable.velocityFactor / LEAD.velocityFactor, 1);
  });

  it('asks what the file does not say, and goes on with the answer', async () => {
    const room = await show(new TraceServer());
    await room.press('i');
    await tellLead(room);
    const bare = ['volts', ...Array.from(broken.volts, (v) => v.toFixed(5))].join('\n');
    await choose(room, bare);
    await room.until(() => room.page.querySelector('.asked') !== null);
    const answer = async (text: string): Promise<void> => {
      const interval = room.page.querySelector('.asked input') as HTMLInputElement;
      interval.value = text;
      interval.dispatchEvent(new Event('change'));
      await room.fixture.whenStable();
    };
    await answer('often');
    expect(room.text('.import [role="alert"] .wrong')).toBe('Interval: write nanoseconds, over 0.');
    await answer('0,4');
    await room.until(() => room.text('.import [role="status"]').includes('Open at'));
    expect(room.page.querySelector('.asked')).toBeNull();
  });

  it('says what a file is that is none, and goes back to what was shown', async () => {
    const room = await show(new TraceServer([record(broken)]));
    await located(room);
    await room.press('i');
    await choose(room, 'dear diary,\nnothing happened today\n', 'diary.txt');
    await room.until(() => room.text('.import [role="alert"]') !== '');
    expect(button(room, 'Keep this trace').disabled).toBeTrue();
    button(room, 'Leave it').click();
    await located(room);
    expect(room.text('#located-title')).toMatch(/^Open at (19|20)\.\d m$/);
  });

  it('is not for a viewer, by button or by key', async () => {
    const room = await show(new TraceServer([record(broken)]), 'viewer');
    await located(room);
    expect(button(room, 'Read a trace in').disabled).toBeTrue();
    await room.press('i');
    expect(room.page.querySelector('.import')).toBeNull();
    await room.press('v');
    expect(room.asked.some((action) => action.type === LinkEvents.readingTaken.type)).toBeFalse();
  });
});

describe('a trace taken by the bench’s oscilloscope', () => {
  it('tells its own lead, and is read as a file would be', async () => {
    const server = new TraceServer();
    server.answers.benchScope = () => ({ name: 'Bench', connected: true, simulated: true });
    server.answers.takeTrace = () => ({
      instrumentName: 'Bench',
      simulated: true,
      trace: { ...broken, volts: Array.from(broken.volts) },
      shape: 'pulse',
      lead: LEAD,
    });
    const room = await show(server);
    await room.press('i');
    button(room, 'Take a trace now').click();
    await room.until(() => room.text('.import [role="status"]').includes('Open at'));
    expect(field(room, 'Lead, metres').value).toBe('1');
    const [asked] = server.sent('takeTrace').map((one) => one.body as Record<string, unknown>);
    expect([asked?.['lineId'], asked?.['end'], asked?.['pair']]).toEqual(['link', 'near', '1-2']);
    expect(asked?.['samples']).toBeGreaterThan(100);
  });

  it('says why there is none', async () => {
    const server = new TraceServer();
    server.answers.benchScope = () => ({ name: 'Bench', connected: true, simulated: false });
    server.answers.takeTrace = () => {
      throw refusal('The oscilloscope does not trigger: is the pulser on?', 503);
    };
    const room = await show(server);
    await room.press('i');
    button(room, 'Take a trace now').click();
    await room.until(() => room.text('.import [role="alert"]') !== '');
    expect(room.text('.import [role="alert"]')).toBe('The oscilloscope does not trigger: is the pulser on?');
  });
});
