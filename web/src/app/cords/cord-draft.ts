import * as z from 'zod';

const price = z.number().nullable();
/** What was last typed of a batch, as this device keeps it. */
const draft = z.object({
  name: z.string(),
  count: z.number().nullable(),
  length: z.number().nullable(),
  cable: z.string(),
  near: z.string(),
  far: z.string(),
  /** By which scheme both ends are, or one by each. */
  wiring: z.enum(['T568B', 'T568A', 'crossed']).default('T568B'),
  currency: z.string(),
  cablePerM: price,
  nearEach: price,
  farEach: price,
  hour: price,
  once: price,
  boughtEach: price,
});
export type CordDraft = z.infer<typeof draft>;

const KEY = 'near-spoke-cords';
const BEGUN: CordDraft = {
  name: 'cords',
  count: 20,
  length: 1,
  cable: 'cord-26',
  near: 'plug-closed',
  far: 'plug-closed',
  wiring: 'T568B',
  currency: '',
  cablePerM: null,
  nearEach: null,
  farEach: null,
  hour: null,
  once: null,
  boughtEach: null,
};

export function lastDraft(): CordDraft {
  try {
    return draft.catch(BEGUN).parse(JSON.parse(localStorage.getItem(KEY) ?? 'null'));
  } catch {
    return BEGUN;
  }
}

export function keepDraft(typed: CordDraft): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(typed));
  } catch {
    // A browser that keeps nothing still works.
  }
}
