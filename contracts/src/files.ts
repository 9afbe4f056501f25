import * as z from 'zod';
import { newLink, scheme, units } from './jobs.js';
import { instrumentClass, linkEnd, reading } from './readings.js';
import { lengthM, line, timestamp, uuid } from './text.js';

/** What a link is meant to be, as a reading file states it. */
export const plannedLink = z.strictObject({
  label: line(24).optional(),
  cable: line(40),
  scheme,
  lengthM,
  near: line(40),
  far: line(40),
});

/** `near-spoke/reading`: the observations of one link, for the command line and for exchange. */
export const readingFile = z.strictObject({
  format: z.literal('near-spoke/reading', {
    error: 'The file does not begin with "format": "near-spoke/reading".',
  }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  link: plannedLink,
  observations: z.array(reading).min(1, { error: 'Give at least one observation.' }).max(200),
});
export type ReadingFile = z.infer<typeof readingFile>;

/** `near-spoke/job`: a job with its links, before any work. */
export const jobFile = z.strictObject({
  format: z.literal('near-spoke/job'),
  formatVersion: z.literal(1),
  job: z.strictObject({ id: uuid, site: line(120), title: line(120), hub: line(40), scheme, units }),
  links: z.array(newLink).max(1000),
});
export type JobFile = z.infer<typeof jobFile>;

const fault = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('wired'), end: linkEnd, order: z.array(z.string().nullable()).length(8) }),
  z.strictObject({ kind: z.literal('broken'), conductor: z.string(), atM: z.number().positive() }),
  z.strictObject({
    kind: z.literal('joined'),
    conductors: z.tuple([z.string(), z.string()]),
    atM: z.number().positive(),
  }),
  z.strictObject({ kind: z.literal('screen-loose'), end: linkEnd }),
  z.strictObject({ kind: z.literal('wet'), atM: z.number().positive(), lengthM: z.number().positive() }),
]);

/** `near-spoke/world`: what simulated links physically are, for the instrument stand-in. */
export const worldFile = z.strictObject({
  format: z.literal('near-spoke/world'),
  formatVersion: z.literal(1),
  links: z.record(
    uuid,
    z.strictObject({ ...plannedLink.shape, faults: z.array(fault), bare: z.array(linkEnd).default([]) }),
  ),
});
export type WorldFile = z.infer<typeof worldFile>;
export type WorldFault = z.infer<typeof fault>;

/** `near-spoke/history`: what a crew did on a job, in order; readings are taken from the instrument when it is loaded. */
export const historyFile = z.strictObject({
  format: z.literal('near-spoke/history'),
  formatVersion: z.literal(1),
  crew: z.array(
    z.strictObject({
      id: uuid,
      name: line(80),
      role: z.enum(['lead', 'technician', 'viewer']),
      passphrase: z.string(),
    }),
  ),
  events: z.array(
    z.discriminatedUnion('what', [
      z.strictObject({
        what: z.literal('terminated'),
        id: uuid,
        linkId: uuid,
        at: timestamp,
        by: uuid,
        side: linkEnd,
        spoiled: z.int().min(0).default(0),
      }),
      z.strictObject({
        what: z.literal('tested'),
        id: uuid,
        linkId: uuid,
        at: timestamp,
        by: uuid,
        instrument: instrumentClass,
        end: linkEnd.default('near'),
      }),
      z.strictObject({ what: z.literal('handed-over'), id: uuid, linkId: uuid, at: timestamp, by: uuid }),
    ]),
  ),
});
export type HistoryFile = z.infer<typeof historyFile>;
