import type { Skill } from './tasks.js';

/** From and to, minutes of the day. */
export type TimeSpan = readonly [from: number, to: number];

/** Days of the week, Monday 1 to Sunday 7, and from when to when, minutes of the day. */
export interface WeekHours {
  days: readonly number[];
  from: number;
  to: number;
}

/** Somebody who works on a job. */
export interface PersonAtWork extends WeekHours {
  name: string;
  /** Once a day, minutes; null for none. */
  pause: { from: number; minutes: number } | null;
  /** Days off, as 2026-11-30. */
  off: readonly string[];
  skills: readonly Skill[];
}

/** When a place is open; one that nothing is said of always is, one with several windows in each of them. */
export interface PlaceHours extends WeekHours {
  place: string;
  /** First and last day, as 2026-11-30; null where there is none. */
  notBefore: string | null;
  notAfter: string | null;
}

export const DAY_MINUTES = 1440;
const MS_A_DAY = 86_400_000;

/** Day so many days after another. */
export const dayAfter = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * MS_A_DAY).toISOString().slice(0, 10);

/** Monday 1 to Sunday 7 (ISO 8601). */
export const weekdayOf = (day: string): number => new Date(`${day}T00:00:00Z`).getUTCDay() || 7;

/** When somebody is at work on a day. */
export function atWork({ days, from, to, pause, off }: PersonAtWork, day: string): TimeSpan[] {
  if (!days.includes(weekdayOf(day)) || off.includes(day)) return [];
  if (!pause || pause.minutes <= 0 || pause.from <= from || pause.from >= to)
    return from < to ? [[from, to]] : [];
  const after = pause.from + pause.minutes;
  return after < to ? [[from, pause.from], [after, to]] : [[from, pause.from]]; // prettier-ignore
}

/** When a place is open on a day. */
export function openAt(place: string, access: readonly PlaceHours[], day: string): TimeSpan[] {
  const said = access.filter((one) => one.place === place);
  if (said.length === 0) return [[0, DAY_MINUTES]];
  const spans = said
    .filter(
      ({ days, from, to, notBefore, notAfter }) =>
        from < to &&
        days.includes(weekdayOf(day)) &&
        (notBefore === null || day >= notBefore) &&
        (notAfter === null || day <= notAfter),
    )
    .map(({ from, to }): TimeSpan => [from, to])
    .sort((a, b) => a[0] - b[0]);
  const joined: [number, number][] = [];
  for (const [from, to] of spans) {
    const last = joined.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else joined.push([from, to]);
  }
  return joined;
}

/** What lies in both. */
export function bothOf(a: readonly TimeSpan[], b: readonly TimeSpan[]): TimeSpan[] {
  return a.flatMap(([from, to]) =>
    b.flatMap(([other, until]): TimeSpan[] => {
      const span: TimeSpan = [Math.max(from, other), Math.min(to, until)];
      return span[0] < span[1] ? [span] : [];
    }),
  );
}
