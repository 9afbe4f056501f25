import type { TakenReading } from '@near-spoke/contracts';
import type { Reading } from '@near-spoke/core';
import { Refusal } from '../problems.js';

/** Readings that instruments gave lately: the only word on where a reading came from. */
export class TakenReadings {
  private readonly taken = new Map<string, { linkId: string; taken: TakenReading }>();

  constructor(private readonly most = 500) {}

  /** Remembers a reading; the oldest is forgotten when there are too many. */
  remember(linkId: string, taken: TakenReading): TakenReading {
    const [oldest] = this.taken.keys();
    if (this.taken.size >= this.most && oldest !== undefined) this.taken.delete(oldest);
    this.taken.set(taken.takenId, { linkId, taken });
    return taken;
  }

  /**
   * Where a reading that is to be kept came from. One that no instrument is known to have given, or that
   * differs from what it gave, is refused: it can be read again, or keyed in.
   */
  sourceOf(linkId: string, takenId: string | undefined, reading: Reading): Source {
    if (takenId === undefined) return { source: 'keyed', simulated: false };
    const known = this.taken.get(takenId);
    if (!known || known.linkId !== linkId || !sameReading(known.taken.reading, reading))
      throw new Refusal(
        409,
        'No instrument gave that reading',
        'This reading is not known to come from an instrument on this link. Read it again, or key it in.',
      );
    const { instrumentName, simulated } = known.taken;
    return { source: 'instrument', simulated, instrumentName };
  }
}

export interface Source {
  source: 'instrument' | 'keyed';
  simulated: boolean;
  instrumentName?: string;
}

const sameReading = (a: Reading, b: Reading): boolean => sorted(a) === sorted(b);

/** A text that is equal for two values whatever the order of their fields. */
const sorted = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) =>
    typeof part === 'object' && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => a.localeCompare(b)))
      : part,
  );
