import { inject } from '@angular/core';
import type { Kit, KitFile, KitKind, KitVersion, NewSheet, Problem, SpoilCount } from '@near-spoke/contracts';
import type { CableType, ConnectorType, ToolType } from '@near-spoke/core';
import { patchState, signalStore, withMethods, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';

/** The kind of a sheet with the sheet. */
export type KindedSheet =
  | { kind: 'cable'; sheet: CableType }
  | { kind: 'connector'; sheet: ConnectorType }
  | { kind: 'tool'; sheet: ToolType };

interface Shelf {
  busy: boolean;
  problem: Problem | null;
  /** What was kept last, in words. */
  said: string;
}

/** The crew's kit: keeps sheets, takes them from files, and lets every page hear of it. */
export const KitShelf = signalStore(
  { providedIn: 'root' },
  withState<Shelf>({ busy: false, problem: null, said: '' }),
  withMethods((shelf, api = inject(Api), store = inject(Store)) => {
    const kit = store.selectSignal(jobsFeature.selectKit);
    /** Asks for something; what was said of the last change stays until the next. */
    const ask = async <T>(work: () => Promise<T>): Promise<T | null> => {
      try {
        return await work();
      } catch (error) {
        patchState(shelf, { problem: problemOf(error) });
        return null;
      }
    };
    const attempt = async <T>(work: () => Promise<T>): Promise<T | null> => {
      patchState(shelf, { busy: true, problem: null, said: '' });
      const done = await ask(work);
      patchState(shelf, { busy: false });
      return done;
    };
    const refresh = async (): Promise<Kit> => {
      const fresh = await firstValueFrom(api.call('kit', {}));
      store.dispatch(JobEvents.kitRead({ kit: fresh }));
      return fresh;
    };
    return {
      clear: () => patchState(shelf, { problem: null, said: '' }),
      /** Keeps a sheet as the next version of the one that is shown now, or as a new type. */
      save: (given: KindedSheet, openedAt?: number) =>
        attempt(async (): Promise<KitVersion> => {
          const version = openedAt ?? kit()?.versions[given.kind][given.sheet.id] ?? 0;
          const kept = await firstValueFrom(
            api.call('saveSheet', { body: { ...given, version } as NewSheet }),
          );
          await refresh();
          patchState(shelf, { said: `${given.sheet.name} is kept as version ${kept.version}.` });
          return kept;
        }),
      versions: (kind: KitKind, typeId: string) =>
        ask(() => firstValueFrom(api.call('kitVersions', { params: { kind, typeId } }))),
      spoils: (): Promise<SpoilCount[] | null> => ask(() => firstValueFrom(api.call('spoilCounts', {}))),
      take: (file: KitFile) =>
        attempt(async () => {
          const done = await firstValueFrom(api.call('importKit', { body: file }));
          await refresh();
          patchState(shelf, {
            said: `Taken: ${done.added} new, ${done.changed} changed, ${done.same} already there.`,
          });
          return done;
        }),
      refuse: (problem: Problem) => patchState(shelf, { problem }),
    };
  }),
);
