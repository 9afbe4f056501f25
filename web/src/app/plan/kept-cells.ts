import * as z from 'zod';
import type { KeptCells } from './plan-draft';

const kept = z.array(
  z.object({ id: z.string(), isNew: z.boolean(), cells: z.record(z.string(), z.string()) }),
);
const keyOf = (jobId: string): string => `near-spoke-plan-${jobId}`;

/** What was typed into a job's plan on this device and not kept yet. */
export function readKeptCells(jobId: string): KeptCells {
  try {
    return kept.parse(JSON.parse(localStorage.getItem(keyOf(jobId)) ?? '[]'));
  } catch {
    return [];
  }
}

export function keepCells(jobId: string, cells: KeptCells): void {
  if (cells.length === 0) localStorage.removeItem(keyOf(jobId));
  else localStorage.setItem(keyOf(jobId), JSON.stringify(cells));
}
