import { DOCUMENT } from '@angular/common';
import { computed, effect, inject } from '@angular/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withState } from '@ngrx/signals';

export type Theme = 'as the system' | 'light' | 'dark';

/** How a person likes things: kept in this browser only. */
interface Liking {
  theme: Theme;
  sound: boolean;
  /** How they hold a plug: latch towards or away, and which hand holds the cable. */
  latch: 'down' | 'up';
  cableFrom: 'below' | 'left' | 'right';
  /** Which side of the connector the card shows: the one being wired, or the mating face. */
  face: 'rear' | 'mating';
  wholeCard: boolean;
  /** The instrument class last used for readings. */
  instrument: string;
  /** The die, blade or adapter last seen in each kind of tool. */
  inTool: Readonly<Record<string, string>>;
}

const KEY = 'near-spoke-preferences';
const USUAL: Liking = {
  theme: 'as the system',
  sound: true,
  latch: 'down',
  cableFrom: 'below',
  face: 'rear',
  wholeCard: false,
  instrument: 'coded-mapper-crosstalk',
  inTool: {},
};

function stored(): Liking {
  try {
    return { ...USUAL, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Liking>) };
  } catch {
    return USUAL;
  }
}

const NEXT: Record<Theme, Theme> = { 'as the system': 'light', light: 'dark', dark: 'as the system' };

export const Preferences = signalStore(
  { providedIn: 'root' },
  withState<Liking>(stored),
  withComputed((store) => ({
    all: computed((): Liking => ({
      theme: store.theme(),
      sound: store.sound(),
      latch: store.latch(),
      cableFrom: store.cableFrom(),
      face: store.face(),
      wholeCard: store.wholeCard(),
      instrument: store.instrument(),
      inTool: store.inTool(),
    })),
  })),
  withMethods((store) => ({
    nextTheme: () => patchState(store, { theme: NEXT[store.theme()] }),
    toggleSound: () => patchState(store, { sound: !store.sound() }),
    turnLatch: () => patchState(store, { latch: store.latch() === 'down' ? 'up' : 'down' }),
    turnFace: () => patchState(store, { face: store.face() === 'rear' ? 'mating' : 'rear' }),
    holdCable: (cableFrom: Liking['cableFrom']) => patchState(store, { cableFrom }),
    toggleWholeCard: () => patchState(store, { wholeCard: !store.wholeCard() }),
    useInstrument: (instrument: string) => patchState(store, { instrument }),
    putInTool: (kind: string, size: string) =>
      patchState(store, { inTool: { ...store.inTool(), [kind]: size } }),
  })),
  withHooks((store, page = inject(DOCUMENT)) => ({
    onInit: () => {
      effect(() => {
        const theme = store.theme();
        if (theme === 'as the system') delete page.documentElement.dataset['theme'];
        else page.documentElement.dataset['theme'] = theme;
      });
      effect(() => {
        const liking = store.all();
        try {
          localStorage.setItem(KEY, JSON.stringify(liking));
        } catch {
          // A browser that keeps nothing still works; the choice lasts until the page is closed.
        }
      });
    },
  })),
);
