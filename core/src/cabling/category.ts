import type { CableType } from './cable-types.js';

/** Categories of balanced cable that limits are published for (ANSI/TIA-568.2, ISO/IEC 11801). */
export type CableCategory = '5e' | '6' | '6A';
export const CABLE_CATEGORIES: readonly CableCategory[] = ['5e', '6', '6A'];

/** Sheets that a crew wrote before the field existed name the category in their id. */
const IN_ID: readonly [RegExp, CableCategory][] = [
  [/^cat5e/, '5e'],
  [/^cat6a/, '6A'],
  [/^cat6/, '6'],
];

/** The category of a cable; null where nothing says it has one. */
export const categoryOf = (cable: Pick<CableType, 'id' | 'category'>): CableCategory | null =>
  cable.category ?? IN_ID.find(([written]) => written.test(cable.id))?.[1] ?? null;

/**
 * By how much more strands lose than solid wire: a fifth at 24 AWG, half at 26 (ANSI/TIA-568.2), nine tenths at 28
 * (typical).
 */
export function strandedLoss(awg: number): number {
  if (awg <= 24) return 1.2;
  return awg <= 26 ? 1.5 : 1.9;
}
