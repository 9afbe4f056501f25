import { Injectable, InjectionToken, isDevMode } from '@angular/core';
import type { PreloadingStrategy, Route } from '@angular/router';
import { EMPTY, fromEvent, filter, map, type Observable } from 'rxjs';

/** The worker of Angular's service worker package, which keeps the pages of this build; it lies beside them. */
const WORKER = '/ngsw-worker.js';

/** Browsers keep pages on safe connections and on this machine itself; on a crew's own plain network they do not. */
export const keepsNoPages = (): boolean => !('serviceWorker' in navigator);

/** Where a browser keeps no pages the rooms are fetched while there is a network, so that an open page finds them without one. */
@Injectable({ providedIn: 'root' })
export class RoomsInAdvance implements PreloadingStrategy {
  preload(_: Route, load: () => Observable<unknown>): Observable<unknown> {
    return keepsNoPages() ? load() : EMPTY;
  }
}

/**
 * Has the browser keep the pages for when there is no network, and tells when newer ones are there. Browsers do it on safe
 * connections and on this machine itself; elsewhere nothing is kept, and nothing is told.
 */
export const KEPT_PAGES = new InjectionToken<Observable<void>>('kept pages', {
  providedIn: 'root',
  factory: () => {
    if (keepsNoPages() || isDevMode()) return EMPTY;
    const { serviceWorker } = navigator;
    const telling = fromEvent<MessageEvent<{ type?: string } | null>>(serviceWorker, 'message').pipe(
      filter(({ data }) => data?.type === 'VERSION_READY'),
      map(() => undefined),
    );
    serviceWorker.register(WORKER).catch((error: unknown) => {
      console.warn('Pages are not kept on this device:', error);
    });
    serviceWorker.startMessages();
    return telling;
  },
});
