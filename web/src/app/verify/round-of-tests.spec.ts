import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type {
  LinkDetail,
  NewTest,
  NewToldThing,
  TestingRound,
  TogetherState,
  TouchesByTwo,
} from '@near-spoke/contracts';
import { intendedLink, observe, type Reading } from '@near-spoke/core';
import { JobEvents } from '../jobs/jobs.state';
import { Tones } from '../preferences/tones';
import { someDetail, someExpectation, someJob, someLink } from '../testing/links';
import { INSTRUMENT, SHIPPED_KIT, showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { OPEN_EVENTS } from '../together/open-events';
import { RoundOfTests } from './round-of-tests';

const sound = intendedLink(someExpectation());
const right = observe(sound, 'coded-mapper-crosstalk');
const nothing = observe({ ...sound, far: {} }, 'coded-mapper-crosstalk');
const links = ['P1-01', 'P1-02', 'P1-03'].map((label, i) =>
  someLink({ id: `link-${i + 1}`, label, position: i + 1 }),
);
const open = someLink({
  id: 'link-4',
  label: 'P1-04',
  position: 4,
  far: { room: 'Hall', outlet: 'desk', connectorId: 'plug-closed', done: false },
});
/** A server with a round under way, whose instrument reads what it is told to. */
class RoundServer extends FakeServer {
  reads: Reading = right;
  kept: { linkId: string; test: NewTest }[] = [];
  round: TestingRound | null = {
    id: 'round',
    jobId: 'job',
    startedAt: '2026-11-02T08:00:00.000Z',
    by: 'Ines',
    tested: [],
  };

  constructor() {
    super({
      listInstruments: () => [INSTRUMENT],
      currentRound: () => this.round,
      takeReading: () => ({
        takenId: 'taken',
        simulated: true,
        reading: this.reads,
        instrumentName: 'Test set',
      }),
      checkCord: () => ({ right: this.reads === right, headline: this.reads === right ? 'Right' : 'Open' }),
      beginRound: () => (this.round = { ...(this.round as TestingRound), by: 'Me', tested: [] }),
      closeRound: () => (this.round = null),
      addTest: ({ params, body }) => this.keep(params?.['linkId'] ?? '', body as NewTest),
    });
  }

  private keep(linkId: string, test: NewTest): LinkDetail {
    this.kept.push({ linkId, test });
    const detail = someDetail({ link: links.find((link) => link.id === linkId) ?? open });
    const passes = test.reading === right || JSON.stringify(test.reading) === JSON.stringify(right);
    const entry = {
      linkId,
      testId: test.id,
      at: '2026-11-02T09:00:00.000Z',
      headline: passes ? 'Map right' : 'Nothing arrives',
      result: passes ? ('pass' as const) : ('fail' as const),
      before: null,
    };
    const round = this.round as TestingRound;
    this.round = { ...round, tested: [...round.tested.filter((t) => t.linkId !== linkId), entry] };
    return { ...detail, diagnosis: { ...entry, explanations: [] } as unknown as LinkDetail['diagnosis'] };
  }
}

async function showRound(
  server: RoundServer,
  role: 'technician' | 'viewer' = 'technician',
): Promise<Room<RoundOfTests>> {
  TestBed.configureTestingModule({ providers: [server.provider, provideRouter([])] });
  const room = await showRoom(RoundOfTests, { role, inputs: { jobId: 'job' } });
  room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob()] }));
  room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links: [...links, open] }));
  room.store.dispatch(JobEvents.kitRead({ kit: SHIPPED_KIT }));
  await room.fixture.whenStable();
  return room;
}
async function type(room: Room<RoundOfTests>, label: string): Promise<void> {
  const field = room.page.querySelector('.label-field input') as HTMLInputElement;
  field.value = label;
  field.dispatchEvent(new Event('input'));
  await room.fixture.whenStable();
}
async function pedal(room: Room<RoundOfTests>, key: 'PageUp' | 'PageDown'): Promise<void> {
  await room.press(key);
  await room.settled();
}
async function click(room: Room<RoundOfTests>, words: string): Promise<void> {
  const buttons = [...room.page.querySelectorAll<HTMLButtonElement>('button')];
  const button = buttons.find((one) => one.textContent?.trim().startsWith(words));
  if (!button) throw new Error(`No button "${words}" among ${buttons.map((b) => b.textContent).join('|')}`);
  button.click();
  await room.settled();
}

describe('a testing round', () => {
  let server: RoundServer;
  beforeEach(() => {
    sessionStorage.clear();
    server = new RoundServer();
  });

  it('sends somebody on with the remote, outlet by outlet, as each is read', async () => {
    const sent: TouchesByTwo[] = [];
    const answers: boolean[] = [];
    let told = 0;
    const state = (): TogetherState => ({
      id: 'carried',
      linkId: null,
      label: 'Testing round',
      ends: { near: 'hub', far: 'the outlets' },
      code: 'KLMNPQ',
      startedBy: 'Me',
      at: '2026-11-02T09:00:00.000Z',
      ended: false,
      told: told++,
      answers: [...answers],
      on: { near: false, far: false },
      people: { near: ['Me'], far: ['Marek'] },
      calls: null,
      list: { over: 'remote', touches: 3 },
      next: null,
      wires: null,
      helper: null,
    });
    server.answers.beginTouches = ({ body }) => {
      sent.push(body as TouchesByTwo);
      return state();
    };
    server.answers.tellTogether = ({ body }) => {
      const { doing } = body as NewToldThing;
      if (doing.does === 'answered') answers.push(doing.closed);
      return state();
    };
    TestBed.configureTestingModule({
      providers: [{ provide: OPEN_EVENTS, useValue: () => () => undefined }],
    });
    const room = await showRound(server);
    await click(room, 'Somebody carries the remote');
    expect(sent[0]?.touches.map(({ to }) => to.contacts[0])).toEqual([
      jasmine.stringMatching(/^P1-01: /),
      jasmine.stringMatching(/^P1-02: /),
      jasmine.stringMatching(/^P1-03: /),
    ]);
    expect(room.text('.carried')).toContain('The remote goes to P1-01');
    await type(room, 'P1-01');
    await pedal(room, 'PageDown');
    expect(room.text('.carried')).toContain('The remote goes to P1-02');
    // Another one read meanwhile does not send the remote on.
    await type(room, 'P1-03');
    await pedal(room, 'PageDown');
    expect(room.text('.carried')).toContain('The remote goes to P1-02');
    expect((room.page.querySelector('.label-field input') as HTMLInputElement).value).toBe('P1-02');
    server.reads = nothing;
    await pedal(room, 'PageDown');
    await click(room, 'It is right: keep the reading');
    // It did not pass: the remote stays until it is sent on.
    expect(answers).toEqual([true]);
    await click(room, 'Send it on');
    expect(answers).toEqual([true, false]);
    // Whoever looks at a link in between goes on where they were.
    server.answers.readTogether = () => state();
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({
      providers: [{ provide: OPEN_EVENTS, useValue: () => () => undefined }],
    });
    expect((await showRound(server)).text('.carried')).toContain('The remote goes to P1-03');
    sessionStorage.clear();
  });

  it('counts the links that can be tested, and says what a label stands for', async () => {
    const room = await showRound(server);
    expect(room.text('h1')).toBe('0 of 3 tested round begun by Ines');
    expect(room.text('#label-says')).toBe('Type a label, or scan it.');
    await type(room, ' p1-02 ');
    expect(room.text('#label-says')).toBe('departures 1, Hall. Stands: to be tested.');
    await type(room, 'Q7');
    expect(room.text('#label-says')).toBe('This job has no link Q7.');
    expect((room.page.querySelector('.next-action') as HTMLButtonElement).disabled).toBeTrue();
  });

  it('reads, keeps and goes on to the next by one pedal, and sounds the verdict', async () => {
    const room = await showRound(server);
    const verdict = spyOn(TestBed.inject(Tones), 'verdict');
    await type(room, 'P1-01');
    await pedal(room, 'PageDown');
    expect(server.kept.map((one) => [one.linkId, one.test.takenId])).toEqual([['link-1', 'taken']]);
    expect(verdict).toHaveBeenCalledOnceWith('pass');
    expect(room.text('.said')).toBe('P1-01: Map right');
    expect(room.text('h1')).toContain('1 of 3 tested');
    expect((room.page.querySelector('.label-field input') as HTMLInputElement).value).toBe('P1-02');
  });

  it('asks before it keeps silence: the remote may hang elsewhere', async () => {
    const room = await showRound(server);
    server.reads = nothing;
    await type(room, 'P1-02');
    await pedal(room, 'PageDown');
    expect(server.kept).toEqual([]);
    expect(room.text('[role="alert"] p')).toBe('Nothing arrives: is the remote at P1-02?');
    await click(room, 'Drop it');
    expect(room.page.querySelector('[role="alert"]')).toBeNull();
    await pedal(room, 'PageDown');
    await click(room, 'It is right: keep the reading');
    expect(server.kept.map((one) => one.linkId)).toEqual(['link-2']);
    expect(room.page.querySelector('[role="alert"]')).toBeNull();
  });

  it('takes the last again as a correction of it', async () => {
    const room = await showRound(server);
    server.reads = nothing;
    await type(room, 'P1-01');
    await pedal(room, 'PageDown');
    await click(room, 'It is right');
    server.reads = right;
    await pedal(room, 'PageUp');
    const [first, second] = server.kept;
    expect(second?.linkId).toBe('link-1');
    expect(second?.test.corrects).toBe(first?.test.id as string);
    expect(room.text('.list tbody td')).toBe('Map right');
  });

  it('keys a straight link in without an instrument', async () => {
    server.answers.listInstruments = () => {
      throw refusal('The instruments’ service does not run.', 503);
    };
    const room = await showRound(server);
    await type(room, 'P1-03');
    await click(room, 'Key in: all straight');
    expect(server.kept[0]?.test.takenId).toBeUndefined();
    expect(server.kept[0]?.test.reading.instrument).toBe('coded-mapper');
  });

  it('says why a reading was not kept, and keeps the label for another try', async () => {
    const room = await showRound(server);
    server.answers.takeReading = () => {
      throw refusal('The tester does not answer: is it switched on?', 503);
    };
    await type(room, 'P1-01');
    await pedal(room, 'PageDown');
    expect(room.text('ns-problem-note')).toContain('The tester does not answer: is it switched on?');
    expect((room.page.querySelector('.label-field input') as HTMLInputElement).value).toBe('P1-01');
    expect(room.text('h1')).toContain('0 of 3 tested');
  });

  it('ends when a person says so, and asks for a good cord before another begins', async () => {
    const room = await showRound(server);
    await click(room, 'End the round');
    expect(room.text('h1')).toBe('Testing round');
    expect(room.text('main')).toContain('3 links have both ends done');
    server.reads = nothing;
    await click(room, 'Read the known-good cord');
    expect(room.text('[role="status"]')).toContain('Do not trust this tester.');
    server.reads = right;
    await click(room, 'Read the known-good cord');
    expect(room.text('[role="status"]')).toContain('The tester reads the good cord right.');
    expect(server.sent('checkCord').map((one) => one.body)).toEqual([
      { instrument: 'coded-mapper-crosstalk' },
      { instrument: 'coded-mapper-crosstalk' },
    ]);
  });

  it('is looked at by a viewer, not walked', async () => {
    const room = await showRound(server, 'viewer');
    expect(room.page.querySelector('.next-action')).toBeNull();
    expect(room.text('main')).not.toContain('End the round');
  });
});
