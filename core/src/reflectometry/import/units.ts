const PREFIXES: Readonly<Record<string, number>> = {
  '': 1,
  f: 1e-15,
  p: 1e-12,
  n: 1e-9,
  u: 1e-6,
  µ: 1e-6,
  μ: 1e-6,
  m: 1e-3,
  k: 1e3,
  K: 1e3,
  M: 1e6,
  G: 1e9,
};

/** Words for the units themselves. */
const SECONDS = /^(?:s|sec|secs|second|seconds)$/i;
const VOLTS = /^(?:v|volt|volts)$/i;
const HERTZ = /^(?:hz|hertz|sa\/s|s\/s)$/i;

export type Quantity = 'time' | 'volts' | 'frequency';

/** A unit as a factor on seconds, volts or hertz; null where it is none of these. */
export function unitOf(text: string): { quantity: Quantity; factor: number } | null {
  const unit = text.trim();
  for (const length of [0, 1]) {
    const factor = PREFIXES[unit.slice(0, length)];
    const rest = unit.slice(length);
    if (factor === undefined || rest === '') continue;
    if (SECONDS.test(rest)) return { quantity: 'time', factor };
    if (VOLTS.test(rest)) return { quantity: 'volts', factor };
    if (HERTZ.test(rest)) return { quantity: 'frequency', factor };
  }
  return null;
}

/** The unit named somewhere in a heading: "Time (ns)", "CH1 [mV]", "in s", "V". */
export function unitIn(heading: string): { quantity: Quantity; factor: number } | null {
  const bracketed = /[([{]\s*([^)\]}]+?)\s*[)\]}]/.exec(heading);
  if (bracketed) return unitOf(bracketed[1]!);
  const words = heading
    .trim()
    .split(/[\s_:,/]+/)
    .filter(Boolean);
  const last = words[words.length - 1];
  return last === undefined ? null : unitOf(last);
}
