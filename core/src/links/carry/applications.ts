import type { CableCategory } from '../../cabling/category.js';

/** What a data link is to carry (IEEE 802.3). */
export interface Application {
  id: string;
  name: string;
  /** Pairs that it uses. */
  pairs: 2 | 4;
  /** The category whose channel it was made for: its loss up to this frequency is the limit. */
  category: CableCategory;
  toMhz: number;
  /** How far it reaches over a lesser category, metres of channel, where that is stated at all. */
  over: Partial<Record<CableCategory, { mostM: number; source: string }>>;
}

const APPLICATION_LIST = [
  { id: '100base-tx', name: '100BASE-TX', pairs: 2, category: '5e', toMhz: 100, over: {} },
  { id: '1000base-t', name: '1000BASE-T', pairs: 4, category: '5e', toMhz: 100, over: {} },
  { id: '2.5gbase-t', name: '2.5GBASE-T', pairs: 4, category: '5e', toMhz: 100, over: {} },
  { id: '5gbase-t', name: '5GBASE-T', pairs: 4, category: '6', toMhz: 250, over: {} },
  {
    id: '10gbase-t',
    name: '10GBASE-T',
    pairs: 4,
    category: '6A',
    toMhz: 500,
    // What neighbours leak into each other decides: shorter in tight bundles.
    over: { '6': { mostM: 37, source: 'TIA TSB-155 (to 55 m where neighbours do not disturb)' } },
  },
] as const satisfies readonly Application[];

export type ApplicationId = (typeof APPLICATION_LIST)[number]['id'];
export const APPLICATIONS: readonly (Application & { id: ApplicationId })[] = APPLICATION_LIST;
export const APPLICATION_IDS: readonly ApplicationId[] = APPLICATIONS.map(({ id }) => id);

export const applicationOf = (id: ApplicationId): Application =>
  APPLICATIONS.find((one) => one.id === id) as Application;
