import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { provideZonelessChangeDetection, type ApplicationConfig } from '@angular/core';
import { MAT_FORM_FIELD_DEFAULT_OPTIONS } from '@angular/material/form-field';
import {
  provideRouter,
  withComponentInputBinding,
  withInMemoryScrolling,
  withPreloading,
} from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore } from '@ngrx/store';
import { WITHOUT_SERVER } from './api/api';
import { tellReach } from './api/reach';
import { routes } from './app.routes';
import { Field } from './field/field';
import { RoomsInAdvance } from './field/kept-pages';
import * as jobEffects from './jobs/jobs.effects';
import { jobsFeature } from './jobs/jobs.state';
import * as linkEffects from './link/link.effects';
import { linkFeature } from './link/link.state';
import { beginSession, endSession, keepToken, moveOn, sessionFeature } from './session/session.state';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideRouter(
      routes,
      withComponentInputBinding(),
      withInMemoryScrolling({ scrollPositionRestoration: 'top' }),
      withPreloading(RoomsInAdvance),
    ),
    provideHttpClient(withFetch(), withInterceptors([tellReach])),
    { provide: WITHOUT_SERVER, useExisting: Field },
    provideStore(),
    provideState(sessionFeature),
    provideState(jobsFeature),
    provideState(linkFeature),
    provideEffects({ beginSession, endSession, keepToken, moveOn }, jobEffects, linkEffects),
    {
      provide: MAT_FORM_FIELD_DEFAULT_OPTIONS,
      useValue: { appearance: 'outline', subscriptSizing: 'dynamic' },
    },
  ],
};
