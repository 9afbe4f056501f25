import { inject } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { Store } from '@ngrx/store';
import { catchError, filter, map, of, switchMap, take, tap } from 'rxjs';
import { Api } from '../api/api';
import { sessionFeature, SessionEvents } from './session.state';

/** Lets signed-in people through; everybody else is shown the sign-in page. */
export const signedIn: CanActivateFn = () => {
  const store = inject(Store);
  const api = inject(Api);
  const router = inject(Router);
  return store.select(sessionFeature.selectSession).pipe(
    take(1),
    switchMap((session) =>
      session
        ? of(session)
        : api.call('session', {}).pipe(
            tap((answer) => store.dispatch(SessionEvents.sessionKnown({ session: answer }))),
            catchError(() => of(null)),
          ),
    ),
    map((session) => session?.state === 'signed-in' || router.parseUrl('/sign-in')),
  );
};

/** The sign-in page asks who is there before it shows itself. */
export const sessionKnown: CanActivateFn = () => {
  const store = inject(Store);
  const api = inject(Api);
  const router = inject(Router);
  return api.call('session', {}).pipe(
    tap((session) => store.dispatch(SessionEvents.sessionKnown({ session }))),
    map((session) => session.state !== 'signed-in' || router.parseUrl('/jobs')),
    catchError(() => of(true)),
    filter((answer) => answer !== null),
  );
};
