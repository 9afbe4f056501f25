import * as z from 'zod';

const made = z.object({ cable: z.string(), connector: z.string() });
export type Made = z.infer<typeof made>;

const KEY = 'near-spoke-made';
const MOST = 10;

/** What was made on this device lately, the last one first. */
export function madeLately(): Made[] {
  try {
    return z.array(made).parse(JSON.parse(localStorage.getItem(KEY) ?? '[]'));
  } catch {
    return [];
  }
}

/** Puts a kind of end before the others. */
export function makeAgain(one: Made): void {
  const others = madeLately().filter(
    ({ cable, connector }) => cable !== one.cable || connector !== one.connector,
  );
  localStorage.setItem(KEY, JSON.stringify([one, ...others].slice(0, MOST)));
}
