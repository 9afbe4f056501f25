import { DOCUMENT } from '@angular/common';
import { computed, effect, inject } from '@angular/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withState } from '@ngrx/signals';
import * as z from 'zod';

/** How a person likes things: kept in this browser only. What is kept there and makes no sense counts as usual. */
const liking = z.object({
  theme: z.enum(['as the system', 'light', 'dark']).catch('as the system'),
  sound: z.boolean().catch(true),
  /** How they hold a plug: latch towards or away, and which hand holds the cable. */
  latch: z.enum(['down', 'up']).catch('down'),
  cableFrom: z.enum(['below', 'left', 'right']).catch('below'),
  /** Which side of the connector the card shows: the one being wired, or the mating face. */
  face: z.enum(['rear', 'mating']).catch('rear'),
  wholeCard: z.boolean().catch(false),
  /** Lengths where no job says how. */
  units: z.enum(['metric', 'imperial']).catch('metric'),
  /** The instrument class last used for readings. */
  instrument: z.string().catch('coded-mapper-crosstalk'),
  /** Keys of a pedal, presenter or pad that were taught, and the key that each stands for. */
  ownKeys: z.record(z.string(), z.string()).catch({}),
  /** Touches are read aloud. */
  readAloud: z.boolean().catch(false),
  /** How quickly, as a multiple of a voice's own pace, and by which of the browser's voices; empty for its own choice. */
  speechRate: z.number().min(0.5).max(2).catch(1.1),
  voice: z.string().catch(''),
  /** How a lead's contacts are touched: two probes, clips that gang several, or with somebody at ends out of reach. */
  proofWay: z.enum(['probes', 'gangs', 'apart']).catch('probes'),
  /** The die, blade or adapter last seen in each kind of tool. */
  inTool: z.record(z.string(), z.string()).catch({}),
});
type Liking = z.infer<typeof liking>;
export type Theme = Liking['theme'];

const KEY = 'near-spoke-preferences';

function stored(): Liking {
  const usual = liking.parse({});
  try {
    return liking.catch(usual).parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    return usual;
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
      units: store.units(),
      instrument: store.instrument(),
      ownKeys: store.ownKeys(),
      readAloud: store.readAloud(),
      speechRate: store.speechRate(),
      voice: store.voice(),
      proofWay: store.proofWay(),
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
    turnUnits: () => patchState(store, { units: store.units() === 'metric' ? 'imperial' : 'metric' }),
    useInstrument: (instrument: string) => patchState(store, { instrument }),
    teachKey: (pressed: string, meant: string) =>
      patchState(store, { ownKeys: { ...store.ownKeys(), [pressed]: meant } }),
    forgetKeys: () => patchState(store, { ownKeys: {} }),
    toggleReadAloud: () => patchState(store, { readAloud: !store.readAloud() }),
    speakAt: (speechRate: number) => patchState(store, { speechRate }),
    speakBy: (voice: string) => patchState(store, { voice }),
    proveWith: (proofWay: Liking['proofWay']) => patchState(store, { proofWay }),
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
