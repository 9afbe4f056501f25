import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import type { Action } from '@ngrx/store';
import { Store } from '@ngrx/store';
import {
  catchError,
  concatMap,
  filter,
  map,
  of,
  switchMap,
  tap,
  withLatestFrom,
  type Observable,
  type OperatorFunction,
} from 'rxjs';
import { Api, problemOf } from '../api/api';
import { JobEvents, jobsFeature } from './jobs.state';

/** A request that failed is a fact of its own; the stream goes on. */
const orFailed = <T extends Action>(): OperatorFunction<T, T | Action> =>
  catchError((error: unknown): Observable<Action> =>
    of(JobEvents.requestFailed({ problem: problemOf(error) })),
  );

export const readJobs = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(JobEvents.jobsOpened, JobEvents.jobOpened),
      switchMap(() =>
        api.call('listJobs', {}).pipe(
          map((jobs) => JobEvents.jobsRead({ jobs })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);

export const readLinks = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(JobEvents.jobOpened),
      switchMap(({ jobId }) =>
        api.call('listLinks', { params: { jobId } }).pipe(
          map((links) => JobEvents.linksRead({ jobId, links })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);

export const readKit = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(JobEvents.kitNeeded),
      withLatestFrom(store.select(jobsFeature.selectKit)),
      filter(([, kit]) => kit === null),
      switchMap(() =>
        api.call('kit', {}).pipe(
          map((kit) => JobEvents.kitRead({ kit })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);

export const addJob = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(JobEvents.jobDrafted),
      concatMap(({ job }) =>
        api.call('addJob', { body: job }).pipe(
          map((added) => JobEvents.jobAdded({ job: added })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);

export const openAddedJob = createEffect(
  (actions = inject(Actions), router = inject(Router)) =>
    actions.pipe(
      ofType(JobEvents.jobAdded),
      tap(({ job }) => void router.navigate(['/jobs', job.id])),
    ),
  { functional: true, dispatch: false },
);

export const addLinks = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(JobEvents.linksDrafted),
      concatMap(({ jobId, links }) =>
        api.call('addLinks', { params: { jobId }, body: { links } }).pipe(
          map((added) => JobEvents.linksAdded({ jobId, links: added })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);

export const editLinks = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(JobEvents.linksEdited),
      concatMap(({ jobId, changes }) =>
        api.call('changeLinks', { params: { jobId }, body: { changes } }).pipe(
          map((links) => JobEvents.linksAdded({ jobId, links })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);

export const editJob = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(JobEvents.jobEdited),
      concatMap(({ jobId, change }) =>
        api.call('changeJob', { params: { jobId }, body: change }).pipe(
          map((job) => JobEvents.jobChanged({ job })),
          orFailed(),
        ),
      ),
    ),
  { functional: true },
);
