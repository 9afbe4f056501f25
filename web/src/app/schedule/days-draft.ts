import { FormControl, FormGroup } from '@angular/forms';
import type { Schedule } from '@near-spoke/contracts';
import { clockWords, dayAfter, SKILLS, USUAL_WORK, weekdayOf, type Skill } from '@near-spoke/core';

export type PersonSaid = Schedule['people'][number];
export type WindowSaid = Schedule['access'][number];

export const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;
export const ALL_SKILLS = Object.keys(SKILLS) as Skill[];
const WORKING_WEEK = [1, 2, 3, 4, 5];
/** Where nobody has said: eight hours with half an hour in the middle. */
const USUAL_HOURS = { days: WORKING_WEEK, from: 480, to: 990, pause: { from: 720, minutes: 30 } };

export const somebody = (name: string): PersonSaid => ({
  name,
  ...USUAL_HOURS,
  off: [],
  skills: ALL_SKILLS,
});

/** Days of a job of which nobody has said anything: all of the crew, on working days. */
export const unsaid = (crew: readonly string[]): Schedule => ({
  begins: null,
  people: crew.map(somebody),
  access: [],
  minutes: { pull: USUAL_WORK.pullMinutes, test: USUAL_WORK.testMinutes },
});

/** The next day on which somebody works, today with it. */
export function nextDay(today: string, people: readonly PersonSaid[]): string {
  for (let ahead = 0; ahead < 14; ahead++) {
    const day = dayAfter(today, ahead);
    if (people.some(({ days, off }) => days.includes(weekdayOf(day)) && !off.includes(day))) return day;
  }
  return today;
}

/** Days of the week as `Mon to Fri` or `Tue, Thu`. */
export function weekWords(days: readonly number[]): string {
  const sorted = [...days].sort((a, b) => a - b);
  const [first = 1, last = 1] = [sorted[0], sorted.at(-1)];
  const name = (day: number): string => WEEKDAYS[day - 1] ?? '';
  if (sorted.length > 2 && last - first === sorted.length - 1) return `${name(first)} to ${name(last)}`;
  return sorted.map(name).join(', ');
}

export const hoursWords = ({
  days,
  from,
  to,
}: {
  days: readonly number[];
  from: number;
  to: number;
}): string => `${weekWords(days)}, ${clockWords(from)} to ${clockWords(to)}`;

/** A day as people say it. */
export const dayWords = (day: string): string =>
  new Date(`${day}T12:00:00`).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' });

/** A time as a field holds it, in minutes; null where it holds none. */
export function minuteOf(text: string): number | null {
  const [, hours, minutes] = /^(\d{1,2}):(\d{2})$/.exec(text) ?? [];
  return hours === undefined ? null : Number(hours) * 60 + Number(minutes);
}

interface HoursTyped {
  days: number[];
  from: string;
  to: string;
}

/** Hours of a week as fields. */
export const hoursGroup = ({ days, from, to }: { days: readonly number[]; from: number; to: number }) =>
  new FormGroup({
    days: new FormControl([...days], { nonNullable: true }),
    from: new FormControl(clockWords(from), { nonNullable: true }),
    to: new FormControl(clockWords(to), { nonNullable: true }),
  });

/** What is wrong with hours that were typed, in words; empty where nothing is. */
export function troubleOf({ days, from, to }: HoursTyped): string {
  if (days.length === 0) return 'Choose the days of the week.';
  const [begins, ends] = [minuteOf(from), minuteOf(to)];
  return begins === null || ends === null || begins >= ends ? 'It ends after it begins.' : '';
}

export const hoursIn = ({ days, from, to }: HoursTyped): { days: number[]; from: number; to: number } => ({
  days,
  from: minuteOf(from) ?? 0,
  to: minuteOf(to) ?? 0,
});
