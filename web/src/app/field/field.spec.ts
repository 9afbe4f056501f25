import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { CrewMember, Job, Kit, LinkDetail, SessionState, TestingRound } from '@near-spoke/contracts';
import { CABLE_TYPES, CONNECTOR_TYPES, straightReading } from '@near-spoke/core';
import { provideStore, Store } from '@ngrx/store';
import { firstValueFrom, NEVER, of, throwError, type Observable } from 'rxjs';
import { Api, ApiProblem } from '../api/api';
import { KNOCK, Reach } from '../api/reach';
import { jobsFeature } from '../jobs/jobs.state';
import { linkFeature } from '../link/link.state';
import { sessionFeature, SessionEvents } from '../session/session.state';
import { someDetail, someExpectation, someJob, someLink } from '../testing/links';
import { refusal } from '../testing/server';
import { signedInAs } from '../testing/sessions';
import { Field } from './field';
import { FIELD_STORE, FieldStore } from './field-store';
import { fold } from './fold';
import { FOLD } from './folding';
import { SEND_AGAIN_MS, Sending } from './sending';
import { unlikeFields } from './unlike-fields';

const LINK_ID = '3b1c7a52-0a8e-4f6e-9c11-4a2f6d1e0b77';
const JOB_ID = '8d2a2c1e-6a55-4a0d-8a2f-52f7be6a3a10';
const person = (name: string): CrewMember => ({
  id: name.toLowerCase(),
  name,
  role: 'technician',
  active: true,
  version: 1,
});
const inside = (name: string): SessionState => signedInAs(person(name), `of ${name}`);
const kit = {
  cables: CABLE_TYPES,
  connectors: CONNECTOR_TYPES,
  tools: [],
  versions: { cable: {}, connector: {}, tool: {} },
} as unknown as Kit;
const detail = (): LinkDetail => someDetail({ link: someLink({ id: LINK_ID, jobId: JOB_ID }) });
const noAnswer = (): Observable<never> => throwError(() => refusal('No answer', 0));

/** A server that a test has in its hand: what each sending is answered. */
class Server {
  readonly sent: { id: string; params?: Record<string, string>; body?: unknown }[] = [];
  session: SessionState = inside('Tobi');
  answer: (id: string, body: { id?: string }) => Observable<unknown> = () => of({ ...detail() });
  send(
    id: string,
    { params, body }: { params?: Record<string, string>; body?: unknown },
  ): Observable<unknown> {
    if (id === 'session') return of(this.session);
    this.sent.push({ id, ...(params ? { params } : {}), body });
    return this.answer(id, body as { id?: string });
  }
}

describe('Work without a network', () => {
  let stores: FieldStore[] = [];
  let database = '';
  let away = true;
  let server: Server;

  /** A device as it is after its page was opened: what was kept on it before is there. */
  function open(who = 'Tobi'): { field: Field; sending: Sending; reach: Reach; store: Store } {
    TestBed.resetTestingModule();
    const kept = new FieldStore(database);
    stores.push(kept);
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideStore({
          [sessionFeature.name]: sessionFeature.reducer,
          [jobsFeature.name]: jobsFeature.reducer,
          [linkFeature.name]: linkFeature.reducer,
        }),
        { provide: FIELD_STORE, useValue: kept },
        { provide: FOLD, useValue: (one: Parameters<typeof fold>[0]) => Promise.resolve(fold(one)) },
        { provide: SEND_AGAIN_MS, useValue: 5 },
        { provide: KNOCK, useValue: () => Promise.resolve(!away) },
        { provide: Api, useValue: { send: server.send.bind(server), forgeryToken: 'some' } },
      ],
    });
    const store = TestBed.inject(Store);
    store.dispatch(SessionEvents.sessionKnown({ session: inside(who) }));
    return {
      field: TestBed.inject(Field),
      sending: TestBed.inject(Sending),
      reach: TestBed.inject(Reach),
      store,
    };
  }

  /** Reads what the job needs while the server answers. */
  async function readAll(field: Field): Promise<void> {
    const read = (id: never, params: Record<string, string>, answer: unknown): Promise<unknown> =>
      firstValueFrom(field.through(id, { params }, () => of(answer) as never));
    await read('listJobs' as never, {}, [someJob({ id: JOB_ID })] satisfies Job[]);
    await read('kit' as never, {}, kit);
    await read('listLinks' as never, { jobId: JOB_ID }, [detail().link]);
    await read('getLink' as never, { linkId: LINK_ID }, detail());
  }

  const reading = (id = crypto.randomUUID()) => ({
    id,
    instrumentName: 'pocket mapper',
    reading: straightReading(someExpectation()),
    unplugged: true as const,
  });
  const record = (field: Field, body: object, ask = noAnswer): Promise<LinkDetail> =>
    firstValueFrom(field.through('addTest', { params: { linkId: LINK_ID }, body }, ask));
  const note = (field: Field, words: string): Promise<LinkDetail> =>
    firstValueFrom(
      field.through(
        'addNote',
        { params: { linkId: LINK_ID }, body: { id: crypto.randomUUID(), words } },
        noAnswer,
      ),
    );
  const until = async (holds: () => boolean): Promise<void> => {
    for (let turn = 0; turn < 400 && !holds(); turn++) await new Promise((later) => setTimeout(later, 5));
    expect(holds()).toBeTrue();
  };

  beforeEach(() => {
    database = `field-${crypto.randomUUID()}`;
    server = new Server();
    away = true;
  });
  afterEach(async () => {
    TestBed.resetTestingModule();
    for (const store of stores) await store.close();
    stores = [];
    indexedDB.deleteDatabase(database);
  });

  it('judges a reading on the device, keeps it with its time, and has it after the page was loaded again', async () => {
    const { field, reach } = open();
    await readAll(field);
    reach.lost();
    const judged = await record(field, reading());
    expect([judged.diagnosis?.result, judged.link.stage]).toEqual(['pass', 'proved']);
    expect(field.waiting().map(({ words, verdict }) => [words, verdict])).toEqual([
      ['P1-05: read with coded mapper', judged.diagnosis?.headline],
    ]);
    const again = open();
    again.reach.lost();
    const params = { linkId: LINK_ID };
    const known = await firstValueFrom(again.field.through('getLink', { params }, noAnswer));
    expect(known).toEqual(judged);
    const list = await firstValueFrom(
      again.field.through('listLinks', { params: { jobId: JOB_ID } }, noAnswer),
    );
    expect(list.map(({ stage }) => stage)).toEqual(['proved']);
    await again.field.look();
    const [waits] = again.field.waiting();
    expect((waits?.body as { deviceAt?: string }).deviceAt).toBe(judged.tests[0]?.deviceAt);
    expect(server.sent).toEqual([]);
  });

  it('keeps what waits of one crew apart from another’s, and sends nothing into one that was gone on in elsewhere', async () => {
    const harbour = { id: 'harbour', name: 'Harbour crew', role: 'technician' as const, version: 1 };
    const there = { ...signedInAs(person('Tobi'), 'of Tobi', [harbour]), inCrew: harbour.id };
    const { field, reach, sending, store } = open();
    await readAll(field);
    reach.lost();
    await record(field, reading());
    expect(field.waiting().length).toBe(1);
    // Another page of this browser went on in the other crew: the cookie is for that one by now.
    server.session = there;
    away = false;
    reach.reached();
    await sending.send();
    expect([server.sent, field.waiting().length, sending.wantsSignIn()]).toEqual([[], 1, true]);
    store.dispatch(SessionEvents.sessionKnown({ session: there }));
    await field.look();
    expect(field.waiting()).toEqual([]);
    const params = { linkId: LINK_ID };
    reach.lost();
    await expectAsync(firstValueFrom(field.through('getLink', { params }, noAnswer))).toBeRejectedWithError(
      /No answer/,
    );
    // Back in the first, it waits, and goes.
    store.dispatch(SessionEvents.sessionKnown({ session: inside('Tobi') }));
    server.session = inside('Tobi');
    reach.reached();
    await field.look();
    expect(field.waiting().length).toBe(1);
    await until(() => server.sent.length > 0);
  });

  it('forgets what it kept of a crew for reading when another is gone on in', async () => {
    const { field, reach } = open();
    await readAll(field);
    await firstValueFrom(
      field.through('workInCrew', { body: { crew: 'harbour' } }, () => of(inside('Tobi'))),
    );
    reach.lost();
    await expectAsync(
      firstValueFrom(field.through('getLink', { params: { linkId: LINK_ID } }, noAnswer)),
    ).toBeRejectedWithError(/No answer/);
  });

  it('keeps what got no answer, and asks no more while something waits: nothing overtakes it', async () => {
    const { field } = open();
    await readAll(field);
    let asked = 0;
    server.answer = noAnswer;
    const cut = (): Observable<never> => {
      asked++;
      return noAnswer();
    };
    await record(field, reading(), cut);
    expect([asked, field.waiting().length]).toEqual([1, 1]);
    await record(field, reading(), cut);
    expect([asked, field.waiting().length]).toEqual([1, 2]);
  });

  it('does not keep what the server refuses, nor what could never be, nor what it knows nothing of', async () => {
    const { field, reach } = open();
    await readAll(field);
    const refused = (): Observable<never> => throwError(() => refusal('This job is closed.', 409));
    await expectAsync(record(field, reading(), refused)).toBeRejectedWithError('This job is closed.');
    reach.lost();
    const odd = {
      ...reading(),
      reading: { instrument: 'coded-mapper', arrivals: { 11: ['1'] }, joins: [], splits: null },
    };
    await expectAsync(record(field, odd)).toBeRejectedWithError(ApiProblem);
    const other = firstValueFrom(
      field.through(
        'addNote',
        { params: { linkId: crypto.randomUUID() }, body: { id: 'x', words: 'x' } },
        noAnswer,
      ),
    );
    await expectAsync(other).toBeRejectedWithError(/not on this device/);
    expect(field.waiting()).toEqual([]);
  });

  it('keeps nothing and says so where the device has no room', async () => {
    const { field, reach } = open();
    await readAll(field);
    reach.lost();
    const full = new DOMException('full', 'QuotaExceededError');
    spyOn(TestBed.inject(FIELD_STORE), 'change').and.rejectWith(full);
    await expectAsync(record(field, reading())).toBeRejectedWithError(/no room left/);
    await field.look();
    expect(field.waiting()).toEqual([]);
  });

  it('sends in the order of the hands, once each, though answers are lost on the way', async () => {
    const { field, reach } = open();
    await readAll(field);
    reach.lost();
    for (const words of ['one', 'two', 'three']) await note(field, words);
    let lost = 2;
    server.answer = () => (lost-- > 0 ? noAnswer() : of(detail()));
    away = false;
    reach.reached();
    await until(() => field.waiting().length === 0);
    const words = server.sent.map(({ body }) => (body as { words: string }).words);
    expect(words).toEqual(['one', 'one', 'one', 'two', 'three']);
    // Each time it is the same record, to the letter.
    expect(server.sent[2]).toEqual(server.sent[0] as never);
  });

  it('holds up a link at what is refused, and no other; a person decides', async () => {
    const other = '9f0c2c1e-6a55-4a0d-8a2f-52f7be6a3a11';
    const { field, reach } = open();
    await readAll(field);
    await firstValueFrom(
      field.through('getLink', { params: { linkId: other } }, () =>
        of(someDetail({ link: someLink({ id: other, jobId: JOB_ID, label: 'P1-06' }) })),
      ),
    );
    reach.lost();
    const change = (room: string) =>
      firstValueFrom(
        field.through(
          'changeLink',
          // A form sends all that it has: what it did not change is no wish of the person.
          { params: { linkId: LINK_ID }, body: { version: 1, room, outlet: 'departures 1', lengthM: 31.4 } },
          noAnswer,
        ),
      );
    expect((await change('Loft')).far.room).toBe('Loft');
    expect(field.waiting()[0]?.body).toEqual({ version: 1, room: 'Loft' });
    await note(field, 'after it');
    await firstValueFrom(
      field.through(
        'addNote',
        { params: { linkId: other }, body: { id: crypto.randomUUID(), words: 'apart' } },
        noAnswer,
      ),
    );
    const theirs = someLink({ id: LINK_ID, version: 2, far: { ...someLink().far, room: 'Cellar' } });
    const conflict = new ApiProblem({
      type: 'about:blank',
      title: 'Changed since you opened it',
      status: 409,
      detail: 'Changed by Ines.',
      current: theirs,
      changedBy: 'Ines',
    });
    server.answer = (id) => (id === 'changeLink' ? throwError(() => conflict) : of(detail()));
    reach.reached();
    await until(() => field.refused().length === 1 && field.waiting().length === 2);
    expect(server.sent.map(({ id }) => id)).toEqual(['changeLink', 'addNote']);
    // What is shown of that link is the server's again, until it is settled.
    const read = await firstValueFrom(
      field.through('getLink', { params: { linkId: LINK_ID } }, () => of({ ...detail(), link: theirs })),
    );
    expect(read.link.far.room).toBe('Cellar');
    server.answer = (id) => of(id === 'changeLink' ? { ...theirs, version: 3 } : detail());
    const [refused] = field.refused();
    if (refused) await field.mend(refused, { version: 2, room: 'Loft' });
    await until(() => field.waiting().length === 0);
    expect(server.sent.slice(2).map(({ id, body }) => [id, (body as { version?: number }).version])).toEqual([
      ['changeLink', 2],
      ['addNote', undefined],
    ]);
  });

  it('sets beside each other all that two people said otherwise of a plan, what it carries too', () => {
    const now = someLink({ carries: {} });
    const said = { version: 1, room: 'Loft', lengthM: 31.4, carries: { application: 'x' } };
    expect(unlikeFields(said, now).map(({ name }) => name)).toEqual(['Far room', 'What it carries']);
    expect(unlikeFields({ version: 1, carries: {} }, now)).toEqual([]);
  });

  it('takes a change whose answer was lost for sent, and goes on from it', async () => {
    const { field, reach } = open();
    await readAll(field);
    reach.lost();
    const change = (body: object) =>
      firstValueFrom(field.through('changeLink', { params: { linkId: LINK_ID }, body }, noAnswer));
    await change({ version: 1, room: 'Loft' });
    await change({ version: 2, outlet: 'by the door' });
    // The first has arrived before; somebody has made a third thing of the link since.
    const plan = { ...detail().link, version: 4, far: { ...detail().link.far, room: 'Loft' } };
    server.answer = (_, body) =>
      (body as { version: number }).version === 4
        ? of({ ...plan, version: 5 })
        : throwError(() => new ApiProblem({ ...refusal('Changed.', 409).problem, current: plan }));
    reach.reached();
    await until(() => field.waiting().length === 0);
    expect(server.sent.map(({ body }) => body)).toEqual([
      { version: 1, room: 'Loft' },
      { version: 4, outlet: 'by the door' },
    ]);
  });

  it('keeps a trace that was read from a file, with its samples', async () => {
    const { field, reach } = open();
    await readAll(field);
    reach.lost();
    const params = { linkId: LINK_ID };
    const id = crypto.randomUUID();
    const volts = Array.from({ length: 16 }, (_, n) => n / 16);
    const told = {
      velocityFactor: 0.68,
      velocityU95: 0.02,
      impedanceOhm: 100,
      leadM: 1,
      leadVelocityFactor: 0.66,
      shape: null,
    };
    const body = {
      id,
      end: 'near' as const,
      pair: null,
      name: 'by hand.csv',
      trace: { intervalS: 1e-9, startS: 0, volts },
      told,
      unplugged: true as const,
    };
    const heads = await firstValueFrom(field.through('addTrace', { params, body }, noAnswer));
    expect(heads.map(({ name, by }) => [name, by])).toEqual([['by hand.csv', 'Tobi']]);
    expect(await firstValueFrom(field.through('listTraces', { params }, noAnswer))).toEqual(heads);
    const whole = await firstValueFrom(
      field.through('readTrace', { params: { ...params, traceId: id } }, noAnswer),
    );
    expect(whole.trace.volts).toEqual(volts);
    server.answer = () => of(heads);
    reach.reached();
    await until(() => field.waiting().length === 0);
    expect(server.sent.map((one) => [one.id, one.body])).toEqual([['addTrace', body]]);
  });

  it('tells where the server’s verdict is another than the device’s', async () => {
    const { field, reach } = open();
    await readAll(field);
    reach.lost();
    const judged = await record(field, reading());
    const said = { ...judged.diagnosis, headline: '1 and 2 exchanged', result: 'fail' };
    server.answer = () => of({ ...judged, diagnosis: said });
    reach.reached();
    await until(() => field.unlike().length === 1);
    const [other] = field.unlike();
    expect([other?.one.here, other?.one.server]).toEqual([judged.diagnosis?.headline, '1 and 2 exchanged']);
    await field.seen(other?.key ?? 0);
    expect(field.unlike()).toEqual([]);
  });

  it('sends for nobody but who did it, and keeps it when another is here or they leave', async () => {
    const { field, sending, reach } = open();
    await readAll(field);
    reach.lost();
    await note(field, 'mine');
    server.session = inside('Marit');
    reach.reached();
    await until(() => sending.wantsSignIn());
    expect([server.sent.length, field.waiting().length]).toEqual([0, 1]);
    await firstValueFrom(
      field.through('signOut', {}, () => of({ state: 'signed-out' as const, demoPeople: [] })),
    );
    const marit = open('Marit');
    await marit.field.look();
    expect(marit.field.waiting()).toEqual([]);
    // What was kept for reading is gone from the device, what was done is not.
    server.session = inside('Tobi');
    const tobi = open();
    tobi.reach.lost();
    await expectAsync(
      firstValueFrom(tobi.field.through('getLink', { params: { linkId: LINK_ID } }, noAnswer)),
    ).toBeRejected();
    tobi.reach.reached();
    await until(() => server.sent.length === 1);
    expect((server.sent[0]?.body as { words: string }).words).toBe('mine');
  });

  it('knows who is here where no server can be asked, and nothing of the session’s token', async () => {
    const { field } = open();
    await firstValueFrom(field.through('session', {}, () => of(inside('Tobi'))));
    const known = await firstValueFrom(open().field.through('session', {}, noAnswer));
    expect(known).toEqual({ ...inside('Tobi'), token: '' } as SessionState);
    await firstValueFrom(
      open().field.through('session', {}, () => of({ state: 'signed-out', demoPeople: [] })),
    );
    await expectAsync(firstValueFrom(open().field.through('session', {}, noAnswer))).toBeRejected();
  });

  it('goes on with a round of tests, and begins one', async () => {
    const { field, reach } = open();
    await readAll(field);
    reach.lost();
    const id = crypto.randomUUID();
    const params = { jobId: JOB_ID };
    const begun = await firstValueFrom(field.through('beginRound', { params, body: { id } }, noAnswer));
    expect([begun.id, begun.by, begun.tested.length]).toEqual([id, 'Tobi', 0]);
    await record(field, reading());
    const round = (await firstValueFrom(field.through('currentRound', { params }, noAnswer))) as TestingRound;
    expect(round.tested.map(({ linkId, result, before }) => [linkId, result, before])).toEqual([
      [LINK_ID, 'pass', null],
    ]);
    expect(field.waiting().map((one) => one.id)).toEqual(['beginRound', 'addTest']);
  });

  describe('with many links read', () => {
    const linkIds: readonly string[] = Array.from({ length: 30 }, () => crypto.randomUUID());
    const of30 = (id: string, n: number): LinkDetail =>
      someDetail({ link: someLink({ id, jobId: JOB_ID, label: `P2-${n}` }) });
    const sentOf = ({ body, params }: { body?: unknown; params?: Record<string, string> }): string[] =>
      (body as { tests?: { linkId: string }[] }).tests?.map(({ linkId }) => linkId) ?? [
        params?.['linkId'] ?? '',
      ];

    async function allRead(): Promise<{ field: Field; reach: Reach }> {
      const { field, reach } = open();
      await readAll(field);
      for (const [n, linkId] of linkIds.entries())
        await firstValueFrom(field.through('getLink', { params: { linkId } }, () => of(of30(linkId, n))));
      reach.lost();
      for (const linkId of linkIds)
        await firstValueFrom(field.through('addTest', { params: { linkId }, body: reading() }, noAnswer));
      away = false;
      return { field, reach };
    }
    const answered = (tests: readonly { linkId: string }[]): Observable<unknown> =>
      of({
        kept: tests.length,
        records: tests.map(({ linkId }) => of30(linkId, linkIds.indexOf(linkId))),
      });

    it('sends readings of several links together, and none of them twice', async () => {
      const { field, reach } = await allRead();
      let lost = 1;
      server.answer = (id, body) => {
        if (lost-- > 0) return noAnswer();
        return id === 'addTests' ? answered((body as { tests: { linkId: string }[] }).tests) : of(detail());
      };
      reach.reached();
      await until(() => field.waiting().length === 0);
      const first = server.sent[0] as (typeof server.sent)[number];
      // The one whose answer was lost went once more, to the letter; all others once.
      expect([first.id, sentOf(first).length]).toEqual(['addTests', 25]);
      const again = server.sent.filter((one) => one !== first);
      expect(again.flatMap(sentOf).sort()).toEqual(jasmine.arrayWithExactContents([...linkIds].sort()));
      expect(server.sent.length).toBeLessThan(6);
    });

    it('sends each by itself where one of a company is refused, and holds up that one alone', async () => {
      const { field, reach } = await allRead();
      const bad = linkIds[7] as string;
      server.answer = (id, body) => {
        if (id === 'addTests') {
          const { tests } = body as { tests: { linkId: string }[] };
          return tests.some(({ linkId }) => linkId === bad)
            ? throwError(() => refusal('tests[7]: This link was taken out of the job.', 409))
            : answered(tests);
        }
        const { linkId } = server.sent.at(-1)?.params ?? {};
        return linkId === bad
          ? throwError(() => refusal('This link was taken out of the job.', 409))
          : of(of30(linkId ?? '', 0));
      };
      reach.reached();
      await until(() => field.waiting().length === 1);
      expect(field.waiting().map(({ lane, refused }) => [lane, refused?.detail])).toEqual([
        [bad, 'This link was taken out of the job.'],
      ]);
    });
  });

  it('has a tester read by nobody while no server answers, and lets nothing overtake what waits', async () => {
    const { field, reach } = open();
    await readAll(field);
    reach.lost();
    const take = (ask: () => Observable<never>) =>
      firstValueFrom(field.through('takeTest', { params: { linkId: LINK_ID }, body: {} }, ask));
    await expectAsync(take(noAnswer)).toBeRejectedWithError(/Key in what its screen shows/);
    await note(field, 'waits');
    server.answer = () => NEVER;
    reach.reached();
    await expectAsync(take(noAnswer)).toBeRejectedWithError(/waits on this device/);
  });
});
