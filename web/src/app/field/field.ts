import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import type {
  AnswerOf,
  EndpointId,
  Job,
  Kit,
  Link,
  LinkDetail,
  Problem,
  SessionState,
  NewTrace,
  TestingRound,
  TraceHead,
  TraceRecord,
} from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { defer, firstValueFrom, tap, throwError, timeout, type Observable } from 'rxjs';
import { addressOf, ApiProblem, type WithoutServer } from '../api/api';
import { Reach } from '../api/reach';
import { sessionFeature } from '../session/session.state';
import { FIELD_STORE, type Change, type TakenJob, type Unlike, type Waiting } from './field-store';
import type { RecordId } from './fold';
import { FOLD } from './folding';
import { KEPT_READS, KeptAnswers } from './kept-answers';
import { deviceProblem, isUnreached, notHere } from './unreached';
import { onlyChanged } from './unlike-fields';

/** What begins a session. */
const BEGINS: ReadonlySet<EndpointId> = new Set<EndpointId>(['signIn', 'demoSignIn', 'setup']);
/** What is added to a link's record, and waits on this device while no server answers. */
const RECORDS: ReadonlySet<EndpointId> = new Set<EndpointId>([
  'addTermination',
  'addCableWork',
  'addTest',
  'addNote',
  'changeLink',
]);
/** Instruments are read by the server. */
const BY_INSTRUMENT: ReadonlySet<EndpointId> = new Set<EndpointId>(['takeTest', 'takeReading', 'checkCord']);
/** What has to come after what waits of the same link, or of all of them. */
const AFTER_WHAT_WAITS: ReadonlySet<EndpointId> = new Set<EndpointId>([
  'takeTest',
  'handOver',
  'reopenLink',
  'addTests',
  'closeRound',
  'handOverMany',
]);
/** After so long without an answer it is taken that there will be none: it is sent again later, which is harmless. */
const NO_ANSWER_MS = 25_000;

interface Given {
  params?: Record<string, string>;
  body?: unknown;
}

/**
 * Work where there is no network. What the server answers is kept on the device as it is read; while it does not answer, that is
 * shown again, and what is recorded is judged here, kept, and waits to be sent in the order in which it was done.
 */
@Injectable({ providedIn: 'root' })
export class Field implements WithoutServer {
  private readonly kept = inject(FIELD_STORE);
  private readonly answers = inject(KeptAnswers);
  private readonly fold = inject(FOLD);
  private readonly reach = inject(Reach);
  private readonly crew = inject(Store).selectSignal(sessionFeature.selectCrew);
  private readonly keeper = inject(Store).selectSignal(sessionFeature.selectKeeper);
  private readonly all = signal<readonly Waiting[]>([]);
  /** What is still to be sent by the person who is here, in the order in which it was done. */
  readonly waiting = computed(() => this.all().filter(({ person }) => person === this.keeper()));
  /** What the server did not take: a person decides. */
  readonly refused = computed(() => this.waiting().filter(({ refused }) => refused !== undefined));
  /** Links and rounds of which this device knows something that the server does not. */
  readonly ahead = computed((): ReadonlySet<string> => {
    const held = new Set(this.refused().map(({ lane }) => lane));
    return new Set(this.waiting().flatMap(({ lane }) => (held.has(lane) ? [] : [lane])));
  });
  private readonly taken = signal<readonly TakenJob[]>([]);
  /** Jobs that are kept on this device, whole. */
  readonly jobs = this.taken.asReadonly();
  private readonly others = signal<readonly { key: number; one: Unlike }[]>([]);
  /** Verdicts of this device that the server did not share. */
  readonly unlike = this.others.asReadonly();
  private before: Promise<unknown> = Promise.resolve();
  private readonly told = new BroadcastChannel('near-spoke-field');
  private loaded: Promise<void> | null = null;

  constructor() {
    // Another page of this device has added or sent something.
    this.told.onmessage = () => void this.look();
    inject(DestroyRef).onDestroy(() => this.told.close());
  }

  through<K extends EndpointId>(
    id: K,
    given: Given,
    ask: () => Observable<AnswerOf<K>>,
  ): Observable<AnswerOf<K>> {
    if (id === 'session') return defer(() => this.answers.session(ask as never)) as never;
    if (BEGINS.has(id))
      return ask().pipe(tap((answer) => void this.answers.keepSession(answer as SessionState)));
    if (id === 'signOut') return defer(() => this.goAway(ask)) as never;
    if (id === 'workInCrew' || id === 'joinCrew') return defer(() => this.goOn(ask as never)) as never;
    const person = this.keeper();
    if (person === undefined) return ask();
    if (KEPT_READS.has(id)) return defer(() => this.read(person, id, given, ask));
    if (RECORDS.has(id))
      return defer(() => this.record(person, id as RecordId, given, ask as never)) as never;
    if (id === 'readTrace')
      return defer(() => this.answers.readTrace(person, given.params, ask as never)) as never;
    if (id === 'addTrace') return defer(() => this.addTrace(person, given, ask as never)) as never;
    if (id === 'beginRound') return defer(() => this.beginRound(person, given, ask as never)) as never;
    if (BY_INSTRUMENT.has(id) && this.reach.awaySince() !== null) return throwError(KEY_IT_IN);
    if (AFTER_WHAT_WAITS.has(id) && this.waitsBefore(given)) return throwError(SENT_FIRST);
    return ask();
  }

  private waitsBefore({ params }: Given): boolean {
    const linkId = params?.['linkId'];
    return linkId === undefined ? this.waiting().length > 0 : this.holds(linkId);
  }

  /** What waits, read from the device again. */
  async look(): Promise<void> {
    const person = this.keeper();
    if (person === undefined) return;
    // A browser that keeps nothing has nothing that waits.
    const known = await Promise.all([
      this.kept.waiting(person),
      this.kept.jobs(person),
      this.kept.unlike(person),
    ]).catch(() => null);
    if (!known) return;
    const [waiting, jobs, unlike] = known;
    this.all.set(waiting);
    this.taken.set(jobs);
    this.others.set(unlike);
  }

  /** What waits, once it was read from the device. */
  ready(): Promise<void> {
    return (this.loaded ??= this.look());
  }

  /** Changes what is kept here, one after the other; whoever shows it hears of it. */
  private async change(person: string, change: Change): Promise<void> {
    try {
      const added = await this.kept.change(person, change);
      this.all.update((all) => [
        ...all.filter(({ sequence }) => sequence !== change.done),
        ...(added ? [added] : []),
      ]);
    } catch (error) {
      if ((error as Error).name === 'QuotaExceededError')
        throw deviceProblem(
          'No room on this device',
          'This device has no room left, and nothing answers: nothing was kept. Free some space on it, and record it again.',
          507,
        );
      throw error;
    }
    if (change.unlike) await this.look();
    this.told.postMessage('changed');
  }

  /** Goes on in another crew: what was kept of the one before to be read goes, what is to be sent there stays. */
  private async goOn(ask: () => Observable<SessionState>): Promise<SessionState> {
    const answer = await this.goAway(ask);
    await this.answers.keepSession(answer);
    return answer;
  }

  private async goAway<T>(ask: () => Observable<T>): Promise<T> {
    const person = this.keeper();
    const answer = await firstValueFrom(ask());
    await this.answers.forget(person);
    this.loaded = null;
    return answer;
  }

  private async read<K extends EndpointId>(
    person: string,
    id: K,
    { params }: Given,
    ask: () => Observable<AnswerOf<K>>,
  ): Promise<AnswerOf<K>> {
    await this.ready();
    return this.answers.read(person, id, params, this.ahead, ask);
  }

  private record<K extends RecordId>(
    person: string,
    id: K,
    given: Given,
    ask: () => Observable<LinkDetail | Link>,
  ): Promise<LinkDetail | Link> {
    const linkId = given.params?.['linkId'] ?? '';
    return this.orLater(
      linkId,
      ask,
      async (answer) => {
        if ('link' in answer) await this.answers.keepDetail(person, answer, this.ahead());
      },
      async () => {
        const detail = await this.recordHere(person, id, linkId, given);
        return id === 'changeLink' ? detail.link : detail;
      },
    );
  }

  /** Asks, unless something that was done before still waits; what gets no answer is done here, and sent later. */
  private async orLater<T>(
    lane: string,
    ask: () => Observable<T>,
    answered: (answer: T) => Promise<unknown>,
    here: () => Promise<T>,
  ): Promise<T> {
    await this.ready();
    if (this.reach.awaySince() === null && this.ahead().size === 0 && !this.holds(lane)) {
      try {
        const answer = await firstValueFrom(ask().pipe(timeout(NO_ANSWER_MS)));
        await answered(answer).catch(() => undefined);
        return answer;
      } catch (error) {
        if (!isUnreached(error)) throw error;
      }
    }
    // One after the other: each is added to what the one before left.
    const after = this.before.then(here, here);
    this.before = after.catch(() => undefined);
    return after;
  }

  private holds(lane: string): boolean {
    return this.waiting().some((one) => one.lane === lane);
  }

  private async recordHere(person: string, id: RecordId, linkId: string, given: Given): Promise<LinkDetail> {
    const [detail, kit, jobs] = await Promise.all([
      this.answers.detailOf(person, linkId),
      this.answers.own(person, addressOf('kit')),
      this.answers.own(person, addressOf('listJobs')),
    ]);
    if (!detail || !kit) throw notHere();
    const at = new Date().toISOString();
    const sent = given.body as { id?: string };
    // Sent twice by a hand it is one record here as well.
    if (sent.id !== undefined && recordIdsOf(detail).has(sent.id)) return detail;
    const hub =
      (jobs?.answer as Job[] | undefined)?.find((job) => job.id === detail.link.jobId)?.hub ??
      detail.link.near.hub;
    const by = this.crew()?.name ?? '';
    const folded = await this.fold({ id, body: sent, detail, kit: kit.answer as Kit, hub, by, at }).catch(
      (error: unknown) => {
        throw deviceProblem(
          'Not recorded',
          `It could not be judged on this device. ${(error as Error).message} Nothing was kept.`,
        );
      },
    );
    if ('refused' in folded) throw new ApiProblem(folded.refused);
    const next = folded.detail;
    const { keep, revise } = this.answers.withDetail(next);
    await this.change(person, {
      keep: [...keep, ...(await this.inRound(person, next, id))],
      revise,
      wait: {
        id,
        params: { linkId },
        body: id === 'changeLink' ? onlyChanged({ ...sent }, detail.link) : { ...sent, deviceAt: at },
        lane: linkId,
        jobId: detail.link.jobId,
        words: `${next.link.label}: ${folded.words}`,
        at,
        ...(folded.judged && next.diagnosis ? { verdict: next.diagnosis.headline } : {}),
      },
    });
    return next;
  }

  /** The open round of the link's job, with a reading that was just taken. */
  private async inRound(
    person: string,
    { link, tests }: LinkDetail,
    id: RecordId,
  ): Promise<{ address: string; answer: unknown }[]> {
    const address = addressOf('currentRound', { jobId: link.jobId });
    const round = (await this.answers.own(person, address))?.answer as TestingRound | null | undefined;
    const last = tests.at(-1);
    if (id !== 'addTest' || !round || !last) return [];
    const before = round.tested.find(({ linkId }) => linkId === link.id);
    const tested = {
      linkId: link.id,
      testId: last.id,
      at: last.at,
      headline: last.diagnosis.headline,
      result: last.diagnosis.result,
      before: before ? before.before : (tests.at(-2)?.diagnosis.headline ?? null),
    };
    const others = round.tested.filter(({ linkId }) => linkId !== link.id);
    return [{ address, answer: { ...round, tested: [...others, tested] } }];
  }

  /** A trace from a file is read by the same core here; what is kept of it waits. */
  private addTrace(
    person: string,
    { params, body }: Given,
    ask: () => Observable<TraceHead[]>,
  ): Promise<TraceHead[]> {
    const linkId = params?.['linkId'] ?? '';
    const address = addressOf('listTraces', { linkId });
    return this.orLater(
      linkId,
      ask,
      (answer) => this.kept.change(person, { keep: [{ address, answer }] }),
      async () => {
        const [detail, list] = await Promise.all([
          this.answers.detailOf(person, linkId),
          this.answers.own(person, address),
        ]);
        if (!detail) throw notHere();
        const at = new Date().toISOString();
        const { unplugged: _, ...record } = body as NewTrace;
        const whole = { ...record, at, by: this.crew()?.name ?? '' } as TraceRecord;
        const { trace: __, ...head } = whole;
        const others = ((list?.answer ?? []) as TraceHead[]).filter(({ id }) => id !== head.id);
        const heads = [head, ...others];
        await this.change(person, {
          keep: [
            { address, answer: heads },
            { address: addressOf('readTrace', { linkId, traceId: head.id }), answer: whole },
          ],
          wait: {
            id: 'addTrace',
            params: { linkId },
            body,
            lane: linkId,
            words: `${detail.link.label}: a trace, ${head.name}`,
            at,
          },
        });
        return heads;
      },
    );
  }

  private beginRound(
    person: string,
    { params, body }: Given,
    ask: () => Observable<TestingRound>,
  ): Promise<TestingRound> {
    const jobId = params?.['jobId'] ?? '';
    const address = addressOf('currentRound', { jobId });
    return this.orLater(
      `round ${jobId}`,
      ask,
      (answer) => this.kept.change(person, { keep: [{ address, answer }] }),
      async () => {
        const at = new Date().toISOString();
        const { id } = body as { id: string };
        const round: TestingRound = { id, jobId, startedAt: at, by: this.crew()?.name ?? '', tested: [] };
        await this.change(person, {
          keep: [{ address, answer: round }],
          wait: {
            id: 'beginRound',
            params: { jobId },
            body,
            lane: `round ${jobId}`,
            words: 'a testing round begun',
            at,
          },
        });
        return round;
      },
    );
  }

  /** The server has it. What it answered takes the place of what was known here, once nothing more of it waits. */
  async sent(one: Waiting, answer: unknown): Promise<void> {
    if (one.id === 'changeLink') await this.builtOn(one, answer as Link);
    const more = this.waiting().some(({ lane, sequence }) => lane === one.lane && sequence !== one.sequence);
    const detail = RECORDS.has(one.id) && one.id !== 'changeLink' ? (answer as LinkDetail) : null;
    const said = detail?.diagnosis?.headline;
    await this.change(one.person, {
      done: one.sequence,
      ...(detail && !more ? this.answers.withDetail(detail) : {}),
      ...(one.verdict !== undefined && said !== undefined && said !== one.verdict
        ? { unlike: { words: one.words, here: one.verdict, server: said, lane: one.lane } }
        : {}),
    });
  }

  /** A later change of the same plan began from what this one made of it. */
  private async builtOn({ lane, sequence }: Waiting, { version }: Link): Promise<void> {
    const later = this.waiting().find(
      (one) => one.lane === lane && one.id === 'changeLink' && one.sequence > sequence,
    );
    if (later && !later.refused) await this.mend(later, { ...(later.body as object), version });
  }

  /** The server does not take it, and a person has to decide; or is to be asked again. */
  async refuse(one: Waiting, refused: Problem | undefined): Promise<void> {
    await this.kept.refuse(one, refused);
    await this.look();
    this.told.postMessage('changed');
  }

  /** Sends something else in the place of what was refused. */
  async mend(one: Waiting, body: unknown): Promise<void> {
    await this.kept.mend(one, body);
    await this.look();
    this.told.postMessage('changed');
  }

  async throwAway(one: Waiting): Promise<void> {
    await this.change(one.person, { done: one.sequence });
  }

  async seen(key: number): Promise<void> {
    await this.kept.unlikeRead(key);
    await this.look();
  }

  /** A job is whole on this device. */
  async took(jobId: string, links: number): Promise<void> {
    const person = this.keeper();
    if (person === undefined) return;
    await this.kept.takeJob({ person, jobId, at: new Date().toISOString(), links });
    await this.look();
  }

  /** Forgets a job here. What waits of it is still sent. */
  async leave(jobId: string): Promise<void> {
    const person = this.keeper();
    if (person === undefined) return;
    const list = (await this.answers.own(person, addressOf('listLinks', { jobId })))?.answer as
      Link[] | undefined;
    const ahead = this.ahead();
    const gone = (list ?? []).filter(({ id }) => !ahead.has(id));
    await this.kept.leaveJob(
      person,
      jobId,
      gone.flatMap(({ id: linkId }) => [
        addressOf('getLink', { linkId }),
        addressOf('listTraces', { linkId }),
      ]),
    );
    await this.look();
  }
}

const KEY_IT_IN = (): ApiProblem =>
  deviceProblem(
    'The tester is read by the server',
    'The server does not answer, and a tester is read through it. Key in what its screen shows: that is judged here, and waits to be sent.',
  );

const SENT_FIRST = (): ApiProblem =>
  deviceProblem(
    'First what waits',
    'Something that was done before still waits on this device. It is sent as soon as the server answers: look at what waits, then do this again.',
    409,
  );

const recordIdsOf = ({ terminations, cableWork, tests, notes }: LinkDetail): Set<string> =>
  new Set([...terminations, ...cableWork, ...tests, ...notes].map(({ id }) => id));
