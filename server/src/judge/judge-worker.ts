import { faultsFound, verdictOf } from '@near-spoke/core';
import type { Judged, Task } from './judge.js';

/** Judges one record; runs in a worker thread, one record at a time. */
export default function judgeRecord({ expected, record, practice, wantsFound, began }: Task): Judged {
  Atomics.store(began, 0, BigInt(Date.now()));
  const diagnosis = verdictOf(expected, record, practice);
  const proved = diagnosis?.result === 'pass' && diagnosis.proves === 'map';
  return { diagnosis, found: wantsFound && proved ? faultsFound(expected, record, practice) : [] };
}
