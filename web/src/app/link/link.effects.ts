import { inject } from '@angular/core';
import type { LinkDetail } from '@near-spoke/contracts';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import type { Action } from '@ngrx/store';
import {
  catchError,
  exhaustMap,
  filter,
  map,
  of,
  switchMap,
  tap,
  type Observable,
  type OperatorFunction,
} from 'rxjs';
import { Api, problemOf } from '../api/api';
import { JobEvents } from '../jobs/jobs.state';
import { Tones } from '../preferences/tones';
import { LinkEvents } from './link.state';

const orFailed = <T extends Action>(): OperatorFunction<T, T | Action> =>
  catchError((error: unknown): Observable<Action> =>
    of(LinkEvents.requestFailed({ problem: problemOf(error) })),
  );

const kept =
  (what: Parameters<typeof LinkEvents.recordKept>[0]['what']): OperatorFunction<LinkDetail, Action> =>
  (source) =>
    source.pipe(
      map((detail) => LinkEvents.recordKept({ detail, what })),
      orFailed(),
    );

export const readDetail = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.linkOpened),
      switchMap(({ linkId }) =>
        api.call('getLink', { params: { linkId } }).pipe(
          map((detail) => LinkEvents.detailRead({ detail })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);

export const readInstruments = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.linkOpened),
      switchMap(() =>
        api.call('listInstruments', {}).pipe(
          map((instruments) => LinkEvents.instrumentsRead({ instruments })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);

export const savePlan = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.planEdited),
      exhaustMap(({ linkId, change }) =>
        api.call('changeLink', { params: { linkId }, body: change }).pipe(
          switchMap(() => api.call('getLink', { params: { linkId } })),
          kept('plan'),
        ),
      ),
    ),
  { functional: true },
);

export const recordTermination = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.terminationDone),
      exhaustMap(({ linkId, attempt }) =>
        api.call('addTermination', { params: { linkId }, body: attempt }).pipe(kept('termination')),
      ),
    ),
  { functional: true },
);

export const recordCableWork = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.cableWorked),
      exhaustMap(({ linkId, work }) =>
        api.call('addCableWork', { params: { linkId }, body: work }).pipe(kept('cable')),
      ),
    ),
  { functional: true },
);

/** Has the instrument read and the reading kept: one key for the person, one request for us. */
export const readInstrument = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.readingAsked),
      exhaustMap(({ linkId, ask }) =>
        api.call('takeTest', { params: { linkId }, body: ask }).pipe(kept('test')),
      ),
    ),
  { functional: true },
);

export const lookAtSimulatedEnd = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.coloursAsked),
      exhaustMap(({ ask }) =>
        api.call('takeReading', { body: ask }).pipe(
          map((taken) => LinkEvents.coloursSeen({ taken })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);

export const recordReading = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.readingTaken),
      exhaustMap(({ linkId, test }) =>
        api.call('addTest', { params: { linkId }, body: test }).pipe(kept('test')),
      ),
    ),
  { functional: true },
);

export const recordHandover = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.handoverGiven),
      exhaustMap(({ linkId, id }) =>
        api.call('handOver', { params: { linkId }, body: { id } }).pipe(kept('handover')),
      ),
    ),
  { functional: true },
);

export const takeHandoverBack = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.handoverTakenBack),
      exhaustMap(({ linkId, id, reason }) =>
        api.call('reopenLink', { params: { linkId }, body: { id, reason } }).pipe(kept('reopening')),
      ),
    ),
  { functional: true },
);

export const recordNote = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(LinkEvents.noteMade),
      exhaustMap(({ linkId, note }) =>
        api.call('addNote', { params: { linkId }, body: note }).pipe(kept('note')),
      ),
    ),
  { functional: true },
);

/** The job's list hears of every change to one of its links. */
export const tellTheList = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(LinkEvents.recordKept),
      map(({ detail }) => JobEvents.linkChanged({ link: detail.link })),
    ),
  { functional: true },
);

export const soundTheVerdict = createEffect(
  (actions = inject(Actions), tones = inject(Tones)) =>
    actions.pipe(
      ofType(LinkEvents.recordKept),
      filter(({ what }) => what === 'test'),
      tap(({ detail }) => tones.verdict(detail.diagnosis?.result)),
    ),
  { functional: true, dispatch: false },
);
