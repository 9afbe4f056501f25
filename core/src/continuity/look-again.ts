import { INSTRUMENTS, type InstrumentClass } from './instruments.js';
import type { Look } from './next-look.js';
import type { Reading } from './readings.js';
import type { LinkEnd } from './true-link.js';

/** The same again with the most able instrument that was used: a second answer tells a stray reading. */
export function ableAgain(readings: readonly Reading[]): Look | null {
  const order: readonly InstrumentClass[] = [
    'coded-mapper-crosstalk',
    'coded-mapper',
    'stepping-lamps',
    'ohmmeter',
    'beeper',
  ];
  const used: readonly InstrumentClass[] = readings
    .map(({ instrument }) => instrument)
    .filter((one) => one !== 'eye');
  const instrument = order.find((one) => used.includes(one)) ?? used.at(-1);
  if (!instrument) return null;
  const plan = readings.findLast((r) => r.instrument === instrument && 'touches' in r);
  return {
    instrument,
    end: 'near',
    words: 'Read it again',
    minutes: INSTRUMENTS[instrument].minutes,
    savesMinutes: 0,
    outcomes: [],
    ...(plan ? { plan } : {}),
  };
}

/**
 * Where nothing fits: the colours at an end that nobody has looked at, else another instrument than so far, of those
 * at hand where the crew has said which.
 */
export function lookFurther(
  readings: readonly Reading[],
  atHand: readonly InstrumentClass[] | undefined,
): Look | null {
  const seen = readings.flatMap((r) => (r.instrument === 'eye' ? [r.end] : []));
  const end = (['far', 'near'] as const).find((one) => !seen.includes(one));
  const used: readonly InstrumentClass[] = readings.map(({ instrument }) => instrument);
  const other = (['coded-mapper-crosstalk', 'pair-reflectometer', 'ohmmeter'] as const).find(
    (one) => !used.includes(one) && (atHand?.includes(one) ?? true),
  );
  if (end) return lookAt(end);
  return other ? lookWith(other, 'near', `Test with ${INSTRUMENTS[other].name}`) : ableAgain(readings);
}

/** A look with one's eyes at one end. */
export const lookAt = (end: LinkEnd): Look => lookWith('eye', end, `Look at the ${end} end`);

const lookWith = (instrument: InstrumentClass, end: LinkEnd, words: string): Look => ({
  instrument,
  end,
  words,
  minutes: INSTRUMENTS[instrument].minutes,
  savesMinutes: 0,
  outcomes: [],
});
