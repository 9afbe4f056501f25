/** A source of numbers in [0, 1). */
export type Random = () => number;

/** The same numbers for the same seed, everywhere (mulberry32, public domain). */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** One draw from the normal distribution of mean 0 and deviation 1 (Box and Muller). */
export function drawNormal(random: Random): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

/** One of several things, each as likely as its weight. */
export function drawWeighted<T>(random: Random, things: readonly T[], weight: (thing: T) => number): T {
  const total = things.reduce((sum, thing) => sum + weight(thing), 0);
  let left = random() * total;
  for (const thing of things) {
    left -= weight(thing);
    if (left < 0) return thing;
  }
  return things[things.length - 1] as T;
}
