import { inject, Injectable } from '@angular/core';
import type {
  AnswerOf,
  EndpointId,
  Link,
  LinkDetail,
  SessionState,
  TraceRecord,
} from '@near-spoke/contracts';
import { firstValueFrom, timeout, type Observable } from 'rxjs';
import { addressOf, ApiProblem } from '../api/api';
import { Reach } from '../api/reach';
import { FIELD_STORE, type Change, type FieldStore } from './field-store';
import { isUnreached, notHere } from './unreached';

/** What is read again from this device while no server answers. */
export const KEPT_READS: ReadonlySet<EndpointId> = new Set<EndpointId>([
  'listJobs',
  'listLinks',
  'kit',
  'getLink',
  'listInstruments',
  'currentRound',
  'listTraces',
  'listVelocities',
  'listReels',
  'spoilCounts',
  'readAtHand',
  'readHands',
  'jobPatterns',
  'readSchedule',
  'listLinksOut',
]);
/** It is looked for as long before this device's own copy is shown. */
const READ_MS = 12_000;
/** What belongs to the device, whoever is at it. */
const NOBODY = '';
const SESSION = addressOf('session');

type Params = Record<string, string> | undefined;
/** Links and rounds of which this device knows something that the server does not. */
type Ahead = () => ReadonlySet<string>;

/** What the server answered, as it is known on this device, with what was recorded here since. */
@Injectable({ providedIn: 'root' })
export class KeptAnswers {
  private readonly kept = inject(FIELD_STORE);
  private readonly reach = inject(Reach);

  async session(ask: () => Observable<SessionState>): Promise<SessionState> {
    try {
      const answer = await firstValueFrom(ask().pipe(timeout(READ_MS)));
      await this.keepSession(answer);
      return answer;
    } catch (error) {
      if (!isUnreached(error)) throw error;
      const known = (await this.kept.read(NOBODY, SESSION))?.answer as SessionState | null | undefined;
      if (!known) throw error;
      return known;
    }
  }

  /** Who is here, for when no server can be asked. The token of a session is asked for again before anything is sent. */
  async keepSession(session: SessionState): Promise<void> {
    const answer = session.state === 'signed-in' ? { ...session, token: '' } : null;
    await this.kept.change(NOBODY, { keep: [{ address: SESSION, answer }] }).catch(() => undefined);
  }

  /** Somebody leaves: what was kept for reading goes, what is still to be sent stays until they sign in here again. */
  async forget(person: string | undefined): Promise<void> {
    await this.keepSession({ state: 'signed-out', demoPeople: [] });
    if (person !== undefined) await this.kept.forget(person).catch(() => undefined);
  }

  /** Asks the server where it answers and knows as much; else what is known here. */
  async read<K extends EndpointId>(
    person: string,
    id: K,
    params: Params,
    ahead: Ahead,
    ask: () => Observable<AnswerOf<K>>,
  ): Promise<AnswerOf<K>> {
    const address = addressOf(id, params);
    const known =
      this.reach.awaySince() !== null || isAhead(id, params, ahead())
        ? await this.own(person, address)
        : undefined;
    if (known) return known.answer as AnswerOf<K>;
    try {
      const answer = await firstValueFrom(ask().pipe(timeout(READ_MS)));
      // Something may have been recorded here since it was asked.
      const since = isAhead(id, params, ahead()) ? await this.own(person, address) : undefined;
      if (since) return since.answer as AnswerOf<K>;
      const whole =
        id === 'listLinks'
          ? ((await this.withOwn(person, answer as Link[], ahead())) as AnswerOf<K>)
          : answer;
      await this.kept.change(person, { keep: [{ address, answer: whole }] }).catch(() => undefined);
      return whole;
    } catch (error) {
      if (!isUnreached(error)) throw error;
      const mine = await this.own(person, address);
      if (!mine) throw error instanceof ApiProblem ? error : notHere();
      return mine.answer as AnswerOf<K>;
    }
  }

  own(person: string, address: string): ReturnType<FieldStore['read']> {
    return this.kept.read(person, address).catch(() => undefined);
  }

  /** Links as the server lists them, those that something waits of as this device knows them. */
  private async withOwn(person: string, links: Link[], ahead: ReadonlySet<string>): Promise<Link[]> {
    if (!links.some(({ id }) => ahead.has(id))) return links;
    return Promise.all(
      links.map(async (link) => {
        const detail = ahead.has(link.id) ? await this.detailOf(person, link.id) : undefined;
        return detail?.link ?? link;
      }),
    );
  }

  async detailOf(person: string, linkId: string): Promise<LinkDetail | undefined> {
    return (await this.own(person, addressOf('getLink', { linkId })))?.answer as LinkDetail | undefined;
  }

  /** A link's record, and its place in the list of its job. */
  withDetail(detail: LinkDetail): Required<Pick<Change, 'keep' | 'revise'>> {
    const { link } = detail;
    return {
      keep: [{ address: addressOf('getLink', { linkId: link.id }), answer: detail }],
      revise: [
        {
          address: addressOf('listLinks', { jobId: link.jobId }),
          by: (list) => (list as Link[]).map((one) => (one.id === link.id ? link : one)),
        },
      ],
    };
  }

  /** Keeps what the server answered of a link, unless more of it waits. */
  async keepDetail(person: string, detail: LinkDetail, ahead: ReadonlySet<string>): Promise<void> {
    if (ahead.has(detail.link.id)) return;
    await this.kept.change(person, this.withDetail(detail));
  }

  /** The samples of a trace that is on this device alone are here; of others they are asked for. */
  async readTrace(person: string, params: Params, ask: () => Observable<TraceRecord>): Promise<TraceRecord> {
    const own = await this.own(person, addressOf('readTrace', params));
    return own ? (own.answer as TraceRecord) : firstValueFrom(ask());
  }
}

/** Whether this device knows more of it than the server. */
function isAhead(id: EndpointId, params: Params, ahead: ReadonlySet<string>): boolean {
  if (id === 'getLink' || id === 'listTraces') return ahead.has(params?.['linkId'] ?? '');
  return id === 'currentRound' && ahead.size > 0;
}
