/** What a meter showed across a candidate pair; plus lead on the first wire. */
export interface PairVolts {
  pair: string;
  volts: number;
}

export type PairState = 'idle-line' | 'in-use' | 'reversed' | 'ringing' | 'foreign' | 'dead';

/** One candidate, judged. */
export interface PairVerdict extends PairVolts {
  state: PairState;
  words: string;
}

export interface PairHunt {
  verdicts: readonly PairVerdict[];
  /** The pair that carries the line, when exactly one does. */
  answer: string | null;
  words: string;
  caution: string;
}

/**
 * Finds the pair that carries a telephone line by the DC across each candidate (domain: section 7):
 * about 48 V idle from an exchange and 20 to 35 V from a private exchange or a gateway, 3 to 15 V while somebody talks,
 * near nothing on a dead pair. All of them typical.
 * @throws RangeError for a pair named twice or a reading that is no voltage
 */
export function huntPair(readings: readonly PairVolts[]): PairHunt {
  const seen = new Set<string>();
  for (const { pair, volts } of readings) {
    if (seen.has(pair)) throw new RangeError(`Pair ${pair} is given twice.`);
    if (!Number.isFinite(volts)) throw new RangeError(`Pair ${pair}: ${volts} is no voltage.`);
    seen.add(pair);
  }
  const verdicts = readings.map(judge);
  const lines = verdicts.filter(({ state }) => state === 'idle-line' || state === 'reversed');
  const busy = verdicts.filter(({ state }) => state === 'in-use');
  const alarming = verdicts.find(({ state }) => state === 'foreign' || state === 'ringing');
  const [line] = lines;
  const answer = lines.length === 1 && busy.length === 0 && line ? line.pair : null;
  return {
    verdicts,
    answer,
    words: answerWords(lines, busy, answer),
    caution: alarming
      ? `${alarming.pair}: ${alarming.words} Hands off until it is known where that comes from.`
      : 'A line rings with about 90 V without warning: do not hold both wires.',
  };
}

function answerWords(
  lines: readonly PairVerdict[],
  busy: readonly PairVerdict[],
  answer: string | null,
): string {
  if (answer !== null) {
    const reversed = lines[0]?.state === 'reversed';
    return `The line is on ${answer}${reversed ? ', with its legs exchanged' : ''}.`;
  }
  if (lines.length > 1)
    return `More than one line: ${lines.map((l) => l.pair).join(', ')}. Put a tone on the one you look for, at the demarcation point, and listen.`;
  if (busy.length > 0)
    return `${busy.map((b) => b.pair).join(', ')} may be in use: do not touch it. Wait until it is idle, or ask its user.`;
  return 'No candidate carries a line. Try the other pairs, or look for an open nearer the demarcation point.';
}

function judge(reading: PairVolts): PairVerdict {
  const size = Math.abs(reading.volts);
  if (size > 75)
    return { ...reading, state: 'foreign', words: 'More than a line has: foreign voltage, or ringing.' };
  if (size >= 36)
    return reading.volts > 0
      ? { ...reading, state: 'idle-line', words: 'Typical of an idle line, first wire the a leg.' }
      : { ...reading, state: 'reversed', words: 'Typical of an idle line, its legs exchanged.' };
  // Private exchanges and gateway ports idle lower than an exchange does.
  if (size >= 20)
    return reading.volts > 0
      ? {
          ...reading,
          state: 'idle-line',
          words: 'Typical of an idle extension of a private exchange or gateway, first wire the a leg.',
        }
      : {
          ...reading,
          state: 'reversed',
          words: 'Typical of an idle extension of a private exchange or gateway, its legs exchanged.',
        };
  if (size >= 3)
    return { ...reading, state: 'in-use', words: 'Typical of a line in use, or of a loaded one.' };
  return { ...reading, state: 'dead', words: 'Dead.' };
}
