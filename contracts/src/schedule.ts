import { isDay, SKILLS, type Skill } from '@near-spoke/core';
import * as z from 'zod';
import { line } from './text.js';

const day = z.string().refine(isDay, { error: 'Give a day, as 2026-11-30.' });
const minute = z
  .int({ error: 'Give a time of the day.' })
  .min(0, { error: 'No time is before midnight.' })
  .max(1440, { error: 'No time is after midnight.' });
const weekdays = z
  .array(z.int().min(1).max(7), { error: 'Give days of the week.' })
  .min(1, { error: 'Choose at least one day of the week.' })
  .max(7);
const hours = { days: weekdays, from: minute, to: minute };
const inOrder = ({ from, to }: { from: number; to: number }): boolean => from < to;
const BEFORE = { error: 'It ends before it begins.', path: ['to'] };
const minutes = z
  .number({ error: 'Give minutes as a number.' })
  .positive({ error: 'Work takes longer than no time.' })
  .max(10_000, { error: 'At most 10,000 minutes.' });

const skill = z.enum(Object.keys(SKILLS) as [Skill, ...Skill[]], { error: 'There is no such skill.' });

const worker = z
  .strictObject({
    name: line(80),
    ...hours,
    pause: z
      .strictObject({ from: minute, minutes: z.int().min(0).max(480, { error: 'At most eight hours.' }) })
      .nullable(),
    off: z.array(day).max(400, { error: 'At most 400 days off.' }),
    skills: z.array(skill).max(10),
  })
  .refine(inOrder, BEFORE);

const access = z
  .strictObject({ place: line(80), ...hours, notBefore: day.nullable(), notAfter: day.nullable() })
  .refine(inOrder, BEFORE);

/** Who works on a job and when, when its places are open, and what its work takes where no record says so. */
const schedule = z.strictObject({
  begins: day.nullable(),
  people: z
    .array(worker)
    .max(50, { error: 'At most 50 people.' })
    .refine((all) => new Set(all.map(({ name }) => name)).size === all.length, {
      error: 'Name everybody once.',
    }),
  access: z.array(access).max(200, { error: 'At most 200 windows.' }),
  minutes: z.strictObject({ pull: minutes, test: minutes }),
});
export type Schedule = z.infer<typeof schedule>;

/** What was said of a job's days. */
export const jobSchedule = z.object({
  /** Null while nobody has said. */
  schedule: schedule.nullable(),
  version: z.int().min(0),
});
export type JobSchedule = z.infer<typeof jobSchedule>;
export const newJobSchedule = z.strictObject({ schedule: schedule.nullable(), version: z.int().min(0) });

/** The same with what the record says of the crew's pace, by connector and for nobody by name, and who there is. */
export const jobDays = jobSchedule.extend({
  times: z.array(
    z.object({
      connector: z.string(),
      plannedMinutes: z.number(),
      median: z.number(),
      known: z.int().positive(),
    }),
  ),
  crew: z.array(z.string()),
  /** From one place to another, seconds. */
  walkS: z.number(),
});
export type JobDays = z.infer<typeof jobDays>;
