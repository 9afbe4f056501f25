import { computed, inject } from '@angular/core';
import {
  adapterFile,
  designOf,
  fieldErrors,
  fileOf,
  type AdapterBuild,
  type AdapterRecord,
  type AdapterSummary,
  type AdapterVersion,
  type NewAdapterPhoto,
  type NewBuild,
  type Problem,
} from '@near-spoke/contracts';
import {
  BadDesign,
  BadPattern,
  openSuggestions,
  workUp,
  type AdapterDesign,
  type OwnLayout,
  type SuggestedJoin,
  type WorkedUpAdapter,
} from '@near-spoke/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import { firstValueFrom } from 'rxjs';
import { Api, problemOf } from '../api/api';

interface Bench {
  list: readonly AdapterSummary[];
  listed: boolean;
  /** What is open: kept, or new with version 0. */
  id: string | null;
  record: AdapterRecord | null;
  draft: AdapterDesign | null;
  /** Designs before each change, oldest first. */
  past: readonly AdapterDesign[];
  /** The draft was found again from an earlier visit. */
  recovered: boolean;
  busy: boolean;
  problem: Problem | null;
}

const EMPTY: Bench = {
  list: [],
  listed: false,
  id: null,
  record: null,
  draft: null,
  past: [],
  recovered: false,
  busy: false,
  problem: null,
};
const MOST_PAST = 100;
const PLACE = 'near-spoke.adapter.';

/** A design that is being worked on, kept in this browser until the server has it. */
interface Sketch {
  version: number;
  file: unknown;
}

function readSketch(id: string): { version: number; design: AdapterDesign } | null {
  try {
    const { version, file } = JSON.parse(localStorage.getItem(PLACE + id) ?? 'null') as Sketch;
    return { version, design: designOf(adapterFile.parse(file)) };
  } catch {
    // Nothing there, or from a version that wrote otherwise.
    return null;
  }
}

const alike = (one: AdapterDesign, other: AdapterDesign): boolean =>
  JSON.stringify(fileOf(one)) === JSON.stringify(fileOf(other));

/** Where in a design an error is, in its own words: "wind logger (A), contact 3: ". */
function placeOf(path: string, { ends }: AdapterDesign): string {
  const [, end, pin] = /^ends\[(\d+)\](?:\.pins\[(\d+)\])?/.exec(path) ?? [];
  const found = end === undefined ? undefined : ends[Number(end)];
  if (!found) return `${path}: `;
  const contact = pin === undefined ? undefined : found.pins[Number(pin)]?.contact;
  return `${found.name} (${found.id})${contact === undefined ? '' : `, contact ${contact}`}: `;
}

/** What keeps a design from being kept or worked up; null where nothing does. */
function troubleOf(design: AdapterDesign): Problem | null {
  const parsed = adapterFile.safeParse(fileOf(design));
  if (parsed.success) return null;
  const errors = fieldErrors(parsed.error);
  return {
    type: 'about:blank',
    title: 'Not complete yet',
    status: 0,
    detail: errors[0] ? `${placeOf(errors[0].path, design)}${errors[0].message}` : '',
    errors,
  };
}

/** The adapter on the bench: its draft, worked up at every change, and what the server keeps. */
export const AdapterBench = signalStore(
  { providedIn: 'root' },
  withState<Bench>(EMPTY),
  withComputed(({ draft, record, list }) => ({
    worked: computed((): WorkedUpAdapter | null => {
      const design = draft();
      if (!design) return null;
      try {
        return workUp(design);
      } catch (error) {
        if (error instanceof BadDesign || error instanceof BadPattern) return null;
        throw error;
      }
    }),
    /** Connectors that anyone described, each name once. */
    ownLayouts: computed((): OwnLayout[] => [
      ...new Map(list().flatMap(({ own }) => own.map((each) => [each.name, each] as const))).values(),
    ]),
    trouble: computed((): Problem | null => {
      const design = draft();
      return design ? troubleOf(design) : null;
    }),
    changed: computed((): boolean => {
      const [design, kept] = [draft(), record()];
      return design !== null && (kept === null || !alike(design, kept.design));
    }),
    /** Joins that the signals speak for and that are not there, where neither contact is joined yet. */
    suggested: computed((): SuggestedJoin[] => {
      const design = draft();
      return design ? openSuggestions(design) : [];
    }),
  })),
  withMethods((store, api = inject(Api)) => {
    const attempt = async (work: () => Promise<void>): Promise<boolean> => {
      patchState(store, { busy: true, problem: null });
      try {
        await work();
        return true;
      } catch (error) {
        patchState(store, { problem: problemOf(error) });
        return false;
      } finally {
        patchState(store, { busy: false });
      }
    };
    const sketch = (design: AdapterDesign): void => {
      const id = store.id();
      if (id === null) return;
      const note: Sketch = { version: store.record()?.version ?? 0, file: fileOf(design) };
      try {
        localStorage.setItem(PLACE + id, JSON.stringify(note));
      } catch {
        // Full or forbidden: the draft lives in this page alone.
      }
    };
    const taken = (record: AdapterRecord): void => patchState(store, { record });
    return {
      clear: () => patchState(store, { problem: null }),
      load: () =>
        attempt(async () => {
          patchState(store, { list: await firstValueFrom(api.call('listAdapters', {})), listed: true });
        }),
      /** Opens a kept adapter, with what was changed on it here and not kept. */
      open: (id: string) =>
        attempt(async () => {
          if (store.id() === id && store.draft() !== null && store.changed()) return;
          patchState(store, { id, record: null, draft: null, past: [], recovered: false });
          const left = readSketch(id);
          if (left?.version === 0) {
            patchState(store, { draft: left.design, recovered: true });
            return;
          }
          const record = await firstValueFrom(api.call('readAdapter', { params: { adapterId: id } }));
          const recovered =
            left !== null && left.version === record.version && !alike(left.design, record.design);
          patchState(store, { record, draft: recovered ? left.design : record.design, recovered });
        }),
      /** Puts a new design on the bench. */
      begin: (design: AdapterDesign): string => {
        const id = crypto.randomUUID() as string;
        patchState(store, {
          id,
          record: null,
          draft: design,
          past: [],
          recovered: false,
          problem: null,
        });
        sketch(design);
        return id;
      },
      change: (next: AdapterDesign): void => {
        const draft = store.draft();
        if (!draft || draft === next) return;
        patchState(store, { draft: next, past: [...store.past(), draft].slice(-MOST_PAST), problem: null });
        sketch(next);
      },
      undo: (): void => {
        const before = store.past().at(-1);
        if (!before) return;
        patchState(store, { draft: before, past: store.past().slice(0, -1) });
        sketch(before);
      },
      /** After another kept a version meanwhile: the draft stays, and the next version follows theirs. */
      catchUp: () =>
        attempt(async () => {
          const [id, draft] = [store.id(), store.draft()];
          if (!id || !draft) return;
          taken(await firstValueFrom(api.call('readAdapter', { params: { adapterId: id } })));
          sketch(draft);
        }),
      /** Back to what the server keeps. */
      discard: (): void => {
        const [id, record] = [store.id(), store.record()];
        if (id) localStorage.removeItem(PLACE + id);
        if (record) patchState(store, { draft: record.design, past: [], recovered: false });
      },
      keep: (note: string) =>
        attempt(async () => {
          const [id, draft] = [store.id(), store.draft()];
          if (!id || !draft) return;
          const version = store.record()?.version ?? 0;
          const body = { id, version, note, file: fileOf(draft) };
          const record = await firstValueFrom(api.call('keepAdapter', { body }));
          localStorage.removeItem(PLACE + id);
          patchState(store, { record, draft: record.design, past: [], recovered: false });
        }),
      build: (build: NewBuild) =>
        attempt(async () => {
          const adapterId = store.id();
          if (adapterId)
            taken(await firstValueFrom(api.call('addBuild', { params: { adapterId }, body: build })));
        }),
      photo: (photo: NewAdapterPhoto) =>
        attempt(async () => {
          const adapterId = store.id();
          if (adapterId)
            taken(await firstValueFrom(api.call('addAdapterPhoto', { params: { adapterId }, body: photo })));
        }),
      version: async (version: number): Promise<AdapterVersion | null> => {
        const adapterId = store.id();
        let found: AdapterVersion | null = null;
        if (adapterId)
          await attempt(async () => {
            const params = { adapterId, version: String(version) };
            found = await firstValueFrom(api.call('readAdapterVersion', { params }));
          });
        return found;
      },
    };
  }),
);

/** "built 3, all proved": what was built of an adapter, in words. */
export function builtWords(builds: readonly Pick<AdapterBuild, 'verdict'>[]): string {
  if (builds.length === 0) return 'none built';
  const proved = builds.filter(({ verdict }) => verdict === 'proved').length;
  const rest = proved === builds.length ? (proved === 1 ? 'proved' : 'all proved') : `${proved} proved`;
  return `built ${builds.length}, ${rest}`;
}
