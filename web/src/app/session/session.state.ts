import { inject } from '@angular/core';
import { Router } from '@angular/router';
import type { CrewMember, OwnCrew, Problem, SessionState } from '@near-spoke/contracts';
import { FIRST_CREW } from '@near-spoke/contracts/first-crew';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  emptyProps,
  on,
  props,
} from '@ngrx/store';
import { catchError, exhaustMap, map, of, tap } from 'rxjs';
import { Api, problemOf } from '../api/api';

export const SessionEvents = createActionGroup({
  source: 'Session',
  events: {
    'Sign In Asked': props<{ name: string; passphrase: string }>(),
    'Demo Person Chosen': props<{ crewId: string }>(),
    'First Lead Given': props<{ id: string; name: string; passphrase: string; crewName?: string }>(),
    'Sign Out Asked': emptyProps(),
    'Session Known': props<{ session: SessionState }>(),
    'Session Begun': props<{ session: SessionState }>(),
    'Session Ended': props<{ session: SessionState }>(),
    'Session Refused': props<{ problem: Problem }>(),
  },
});

interface State {
  session: SessionState | null;
  busy: boolean;
  problem: Problem | null;
}

const known = (_: State, { session }: { session: SessionState }): State => ({
  session,
  busy: false,
  problem: null,
});
const asked = (state: State): State => ({ ...state, busy: true, problem: null });

export const sessionFeature = createFeature({
  name: 'session',
  reducer: createReducer<State>(
    { session: null, busy: false, problem: null },
    on(SessionEvents.signInAsked, SessionEvents.demoPersonChosen, SessionEvents.firstLeadGiven, asked),
    on(SessionEvents.sessionKnown, SessionEvents.sessionBegun, SessionEvents.sessionEnded, known),
    on(SessionEvents.sessionRefused, (state, { problem }) => ({ ...state, busy: false, problem })),
  ),
  extraSelectors: ({ selectSession }) => {
    const selectCrew = createSelector(selectSession, (session): CrewMember | null =>
      session?.state === 'signed-in' ? session.crew : null,
    );
    const selectInCrew = createSelector(selectSession, (session): string | null =>
      session?.state === 'signed-in' ? session.inCrew : null,
    );
    return {
      selectCrew,
      selectInCrew,
      /** The crews that this person works in; an answer that was kept on the device long ago tells of none. */
      selectCrews: createSelector(selectSession, (session): readonly OwnCrew[] =>
        session?.state === 'signed-in' ? (session.crews ?? []) : [],
      ),
      /** Whose what is kept on this device is: a person's, in one crew. In the first it goes by the person alone. */
      selectKeeper: createSelector(selectCrew, selectInCrew, (crew, inCrew): string | undefined =>
        crew === null ? undefined : !inCrew || inCrew === FIRST_CREW ? crew.id : `${crew.id} in ${inCrew}`,
      ),
      selectMayWork: createSelector(selectCrew, (crew) => crew !== null && crew.role !== 'viewer'),
      selectIsLead: createSelector(selectCrew, (crew) => crew?.role === 'lead'),
    };
  },
});

/** Without a name of the crew where none was given: it can be said later. */
const setupOf = ({ id, name, passphrase, crewName }: ReturnType<typeof SessionEvents.firstLeadGiven>) => ({
  id,
  name,
  passphrase,
  ...(crewName ? { crewName } : {}),
});

const { signInAsked, demoPersonChosen, firstLeadGiven, signOutAsked } = SessionEvents;

export const beginSession = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(signInAsked, demoPersonChosen, firstLeadGiven),
      exhaustMap((event) => {
        const answer =
          event.type === demoPersonChosen.type
            ? api.call('demoSignIn', { body: { crewId: event.crewId } })
            : event.type === signInAsked.type
              ? api.call('signIn', { body: { name: event.name, passphrase: event.passphrase } })
              : api.call('setup', { body: setupOf(event) });
        return answer.pipe(
          map((session) => SessionEvents.sessionBegun({ session })),
          catchError((error: unknown) => of(SessionEvents.sessionRefused({ problem: problemOf(error) }))),
        );
      }),
    ),
  { functional: true },
);

export const endSession = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(signOutAsked),
      exhaustMap(() =>
        api.call('signOut', {}).pipe(
          map((session) => SessionEvents.sessionEnded({ session })),
          catchError((error: unknown) => of(SessionEvents.sessionRefused({ problem: problemOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

export const keepToken = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(SessionEvents.sessionKnown, SessionEvents.sessionBegun, SessionEvents.sessionEnded),
      tap(({ session }) => (api.forgeryToken = session.state === 'signed-in' ? session.token : '')),
    ),
  { functional: true, dispatch: false },
);

export const moveOn = createEffect(
  (actions = inject(Actions), router = inject(Router)) =>
    actions.pipe(
      ofType(SessionEvents.sessionBegun, SessionEvents.sessionEnded),
      tap(({ session }) => void router.navigateByUrl(session.state === 'signed-in' ? '/jobs' : '/sign-in')),
    ),
  { functional: true, dispatch: false },
);
