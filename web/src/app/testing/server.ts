import type { EndpointId, Problem } from '@near-spoke/contracts';
import { type Observable, of, throwError } from 'rxjs';
import { Api, ApiProblem } from '../api/api';

/** What was asked of the server, in order. */
export interface Asked {
  id: EndpointId;
  params?: Record<string, string>;
  body?: unknown;
}
type Answer = (asked: Asked) => unknown;

/** The refusal of a request, as the server words it. */
export const refusal = (detail: string, status = 409): ApiProblem =>
  new ApiProblem({ type: 'about:blank', title: 'Refused', status, detail } satisfies Problem);

/**
 * A server that answers each endpoint by a function, refuses where that throws, and gives no answer
 * where nobody said what it would be.
 */
export class FakeServer {
  readonly asked: Asked[] = [];
  readonly provider = {
    provide: Api,
    useValue: {
      call: this.call.bind(this),
      file: this.call.bind(this),
      upload: (id: EndpointId, body: Blob) => this.call(id, { body: { size: body.size } }),
      forgeryToken: '',
    },
  };

  constructor(readonly answers: Partial<Record<EndpointId, Answer>>) {}

  /** What was sent to one endpoint. */
  sent(id: EndpointId): Asked[] {
    return this.asked.filter((one) => one.id === id);
  }

  private call(id: EndpointId, given: Omit<Asked, 'id'>): Observable<unknown> {
    // The page goes on to hold what it sent: what is remembered is what it was.
    const asked = { id, ...structuredClone(given) };
    this.asked.push(asked);
    const answer = this.answers[id];
    if (!answer) return throwError(() => refusal(`Nobody answers ${id}.`, 0));
    try {
      return of(answer(asked));
    } catch (error) {
      return throwError(() => error);
    }
  }
}
