import { typedNumber, unitOf, type TraceFileOptions } from '@near-spoke/core';
import type { TraceReply } from './tracing';

type Asked = Extract<TraceReply, { say: 'asks' }>['asks'];

/** What is said where the answer to a question about the interval is none. */
export const NO_INTERVAL = 'Interval: write nanoseconds, over 0.';

/** What is known of a trace file once a question about it is answered; null for no answer. */
export function answered(
  known: TraceFileOptions,
  asks: Asked | undefined,
  text: string,
): TraceFileOptions | null {
  if (asks === undefined || text.trim() === '') return null;
  if (asks === 'channel') return { ...known, channel: text };
  if (asks === 'time unit') return { ...known, timeUnitS: unitOf(text)?.factor ?? 1 };
  const intervalS = typedNumber(text) * 1e-9;
  return intervalS > 0 ? { ...known, intervalS } : null;
}
