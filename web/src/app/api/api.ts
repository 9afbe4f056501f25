import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable, InjectionToken, Injector } from '@angular/core';
import type { AnswerOf, BodyOf, EndpointId, ParamsOf, Problem } from '@near-spoke/contracts';
import { ADDRESSES } from '@near-spoke/contracts/addresses';
import type { ReportPartId } from '@near-spoke/core';
import { catchError, from, mergeMap, throwError, type Observable } from 'rxjs';

/** A refusal from the server, or no answer at all. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const UNREACHED: Problem = {
  type: 'about:blank',
  title: 'No answer',
  status: 0,
  detail: 'The server does not answer. Nothing was lost: check that it runs, then try again.',
};

type Arguments<K extends EndpointId> = (ParamsOf<K> extends Record<string, never>
  ? object
  : { params: ParamsOf<K> }) &
  (BodyOf<K> extends undefined ? object : { body: BodyOf<K> });

/** What stands in while no server answers: asks it where it can, and answers by itself where it knows how. */
export interface WithoutServer {
  through<K extends EndpointId>(
    id: K,
    given: { params?: Record<string, string>; body?: unknown },
    ask: () => Observable<AnswerOf<K>>,
  ): Observable<AnswerOf<K>>;
}
/** Left out, every call goes to the server alone. */
export const WITHOUT_SERVER = new InjectionToken<WithoutServer>('without server');

/** Calls the server by the endpoint table; shapes come from contracts. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);
  private readonly injector = inject(Injector);
  /** Proves that a change was asked for by our own page; set when a session begins. */
  forgeryToken = '';

  call<K extends EndpointId>(id: K, given: Arguments<K>): Observable<AnswerOf<K>> {
    const asked = given as { params?: Record<string, string>; body?: unknown };
    const ask = (): Observable<AnswerOf<K>> => this.send(id, asked);
    return this.injector.get(WITHOUT_SERVER, null)?.through(id, asked, ask) ?? ask();
  }

  /** The same from the server alone, whatever this device knows. */
  send<K extends EndpointId>(
    id: K,
    { params, body }: { params?: Record<string, string>; body?: unknown },
  ): Observable<AnswerOf<K>> {
    const { method } = ADDRESSES[id];
    const address = addressOf(id, params);
    const headers: Record<string, string> = this.forgeryToken
      ? { 'x-near-spoke-token': this.forgeryToken }
      : {};
    return this.http
      .request<AnswerOf<K>>(method.toUpperCase(), address, { body, headers })
      .pipe(catchError((error: unknown) => throwError(() => new ApiProblem(asProblem(error)))));
  }

  /** Sends a file as it is. */
  upload<K extends 'takeArchive'>(id: K, file: Blob): Observable<AnswerOf<K>> {
    const { method, path, upload } = ADDRESSES[id];
    const headers = { 'content-type': upload, 'x-near-spoke-token': this.forgeryToken };
    return this.http
      .request<AnswerOf<K>>(method.toUpperCase(), path, { body: file, headers })
      .pipe(catchError((error: unknown) => throwError(() => new ApiProblem(asProblem(error)))));
  }

  /** A file that the server makes of what it is sent. */
  file<K extends FileEndpoint>(id: K, given: Arguments<K>): Observable<Blob> {
    const { method } = ADDRESSES[id];
    const { params, body } = given as { params?: Record<string, string>; body?: unknown };
    const headers: Record<string, string> = this.forgeryToken
      ? { 'x-near-spoke-token': this.forgeryToken }
      : {};
    return this.http
      .request(method.toUpperCase(), addressOf(id, params), { body, headers, responseType: 'blob' })
      .pipe(
        catchError((error: unknown) =>
          from(readProblem(error)).pipe(mergeMap((problem) => throwError(() => new ApiProblem(problem)))),
        ),
      );
  }
}

/** Endpoints that are sent something and answer a file. */
type FileEndpoint = 'printLabels' | 'labelTable' | 'printOffer';

/** What was refused arrives as a file too, where a file was asked for. */
async function readProblem(error: unknown): Promise<Problem> {
  if (!(error instanceof HttpErrorResponse) || !(error.error instanceof Blob)) return asProblem(error);
  try {
    return JSON.parse(await error.error.text()) as Problem;
  } catch {
    return asProblem(error);
  }
}

export function addressOf(id: EndpointId, params: Record<string, string> = {}): string {
  return ADDRESSES[id].path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name] ?? ''));
}

/** The address of a file the server makes. */
export const fileAddress = (id: 'handoverCsv' | 'handoverJson' | 'jobArchive', jobId: string): string =>
  addressOf(id, { jobId });

/** The address of a report of these parts, in their order. */
export const reportAddress = (
  id: 'reportPdf' | 'reportHtml',
  jobId: string,
  parts: readonly ReportPartId[],
): string => addressOf(id, { jobId, parts: parts.join(',') });

/** Where a report is shown to somebody without an account. */
export const sharedAddress = (origin: string, token: string): string =>
  `${origin}${addressOf('sharedReport', { token })}`;

/** The printed card of an end, as the kit has it now. */
export const cardAddress = (linkId: string, side: 'near' | 'far'): string =>
  addressOf('cardPdf', { linkId, side });

/** The card that a recorded try was made by. */
export const attemptCardAddress = (linkId: string, attemptId: string): string =>
  addressOf('attemptCardPdf', { linkId, attemptId });

/** A file of one version of an adapter. */
export const adapterFileAddress = (
  id: 'adapterSheet' | 'adapterDrawing' | 'adapterTable' | 'adapterFile',
  adapterId: string,
  version: number,
  scale = 2,
): string => addressOf(id, { adapterId, version: String(version), scale: String(scale) });

export const photoAddress = (adapterId: string, photoId: string): string =>
  addressOf('adapterPhoto', { adapterId, photoId });

export const loosePhotoAddress = (endId: string, photoId: string): string =>
  addressOf('loosePhoto', { endId, photoId });

export const notePhotoAddress = (linkId: string, noteId: string): string =>
  addressOf('notePhoto', { linkId, noteId });

/** Where the states of a proof by two are sent from, to the crew and to a helper. */
export const togetherEvents = (togetherId: string): string => addressOf('followTogether', { togetherId });
export const HELPER_EVENTS = ADDRESSES.followAsHelper.path;

export const kitFileAddress = ADDRESSES.exportKit.path;

function asProblem(error: unknown): Problem {
  if (!(error instanceof HttpErrorResponse) || error.status === 0) return UNREACHED;
  const problem = error.error as Partial<Problem> | string | null;
  if (typeof problem === 'object' && problem?.detail) return problem as Problem;
  return {
    ...UNREACHED,
    status: error.status,
    detail: 'The server answered something that makes no sense. Try again.',
  };
}

export const problemOf = (error: unknown): Problem =>
  error instanceof ApiProblem ? error.problem : UNREACHED;
