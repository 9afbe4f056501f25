import * as z from 'zod';
import { carries, stretchConditions } from './carries.js';
import { newJob, newLink, routeStretch, scheme, units } from './jobs.js';
import { contact, evidence, instrumentClass, linkEnd } from './readings.js';
import { chosen, lengthM, line, timestamp, uuid } from './text.js';

/** What a link is meant to be, as a reading file states it. */
export const plannedLink = z.strictObject({
  label: line(24).optional(),
  cable: line(40),
  scheme,
  lengthM,
  near: line(40),
  far: line(40),
});

/** A lead joined contact to contact in an order of its own: an adapter, a ribbon, a harness. */
export const plannedLead = z.strictObject({
  label: line(24).optional(),
  lengthM,
  conductors: z
    .array(z.strictObject({ id: line(12), pair: z.int().min(1).max(200).nullable().default(null) }))
    .min(2, { error: 'A lead has at least two conductors.' })
    .max(64),
  near: z.record(contact, line(12).nullable()),
  far: z.record(contact, line(12).nullable()),
});
export type PlannedLink = z.infer<typeof plannedLink>;
export type PlannedLead = z.infer<typeof plannedLead>;
const linkOrLead = chosen<PlannedLink | PlannedLead>((value) =>
  'conductors' in value ? plannedLead : plannedLink,
);

/** `near-spoke/reading`: the observations of one link, for the command line and for exchange. */
export const readingFile = z.strictObject({
  format: z.literal('near-spoke/reading', {
    error: 'The file does not begin with "format": "near-spoke/reading".',
  }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  link: linkOrLead,
  observations: z.array(evidence).min(1, { error: 'Give at least one observation.' }).max(200),
});
export type ReadingFile = z.infer<typeof readingFile>;

/** `near-spoke/job`: a job with its links, before any work. */
export const jobFile = z.strictObject({
  format: z.literal('near-spoke/job'),
  formatVersion: z.literal(1),
  job: newJob,
  links: z.array(newLink).max(1000),
});
export type JobFile = z.infer<typeof jobFile>;

/** `near-spoke/link-plan`: one planned link with its way, and how many fed cables lie with it. */
export const linkPlanFile = z.strictObject({
  format: z.literal('near-spoke/link-plan', {
    error: 'The file does not begin with "format": "near-spoke/link-plan".',
  }),
  formatVersion: z.literal(1),
  units: units.default('metric'),
  link: z.strictObject({
    label: line(24),
    cable: line(40),
    near: line(40),
    far: line(40),
    lengthM,
    route: z.array(routeStretch).max(30).default([]),
    carries,
  }),
  stretches: z
    .array(stretchConditions.extend({ fed: z.int().min(1).max(1000).default(1) }))
    .max(30)
    .default([]),
});
export type LinkPlanFile = z.infer<typeof linkPlanFile>;

/** `near-spoke/cutting`: pieces, what is there, and what can be bought. */
export const cuttingFile = z.strictObject({
  format: z.literal('near-spoke/cutting', {
    error: 'The file does not begin with "format": "near-spoke/cutting".',
  }),
  formatVersion: z.literal(1),
  units: units.default('metric'),
  pieces: z
    .array(z.strictObject({ label: line(24), lengthM, pull: line(80).optional() }))
    .min(1, { error: 'Give at least one piece.' })
    .max(2000, { error: 'At most 2000 pieces at once.' }),
  have: z
    .array(
      z.strictObject({
        name: line(40),
        leftM: lengthM,
        /** Half width of the 95 % interval of what is left; what is surely there is cut from. */
        u95M: z.number().min(0).max(1000).default(0),
      }),
    )
    .max(200)
    .default([]),
  buy: z
    .array(
      z.strictObject({
        name: line(40),
        lengthM,
        price: z.number().positive({ error: 'A price is over 0.' }).max(1e7).optional(),
      }),
    )
    .max(12)
    .default([]),
  /** Added to every piece for its ends, metres, and as a share of it. */
  endsM: z.number().min(0).max(20).default(0),
  allowance: z.number().min(0).max(1).default(0),
  /** Boxes that stand side by side at the most. */
  atOnce: z.int().min(1).max(100).default(100),
});
export type CuttingFile = z.infer<typeof cuttingFile>;

const place = z.number().positive();
/** A joint at a contact of an end, or a place in a conductor. */
const joint = {
  end: linkEnd.optional(),
  contact: contact.optional(),
  conductor: z.string().optional(),
  atM: place.optional(),
};

export const linkFault = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('wired'),
    end: linkEnd,
    order: z.array(z.string().nullable()).min(2).max(64),
  }),
  z.strictObject({ kind: z.literal('broken'), conductor: z.string(), atM: z.number().positive() }),
  z.strictObject({
    kind: z.literal('joined'),
    conductors: z.tuple([z.string(), z.string()]),
    atM: z.number().positive(),
  }),
  z.strictObject({ kind: z.literal('screen-loose'), end: linkEnd }),
  z.strictObject({ kind: z.literal('wet'), atM: z.number().positive(), lengthM: z.number().positive() }),
  z.strictObject({ kind: z.literal('unseated'), end: linkEnd, contact }),
  z.strictObject({ kind: z.literal('bridged'), end: linkEnd, contacts: z.tuple([contact, contact]) }),
  z.strictObject({ kind: z.literal('poor'), ...joint, ohm: z.number().positive().max(1e7) }),
  z.strictObject({ kind: z.literal('loose'), ...joint, openShare: z.number().min(0).max(1).default(0.3) }),
  z.strictObject({ kind: z.literal('spliced'), conductors: z.tuple([z.string(), z.string()]), atM: place }),
  z.strictObject({ kind: z.literal('plugged-in'), end: linkEnd }),
  z.strictObject({ kind: z.literal('other-outlet') }),
]);

/** `near-spoke/world`: what simulated links physically are, for the instrument stand-in. */
export const worldFile = z.strictObject({
  format: z.literal('near-spoke/world'),
  formatVersion: z.literal(1),
  links: z.record(
    uuid,
    z.strictObject({ ...plannedLink.shape, faults: z.array(linkFault), bare: z.array(linkEnd).default([]) }),
  ),
  /** Drums and boxes, with what is truly on them. */
  reels: z
    .record(
      uuid,
      z.strictObject({
        cable: line(40),
        lengthM: z.number().nonnegative(),
        velocityFactor: z.number().min(0.3).max(1),
      }),
    )
    .default({}),
});
export type WorldFile = z.infer<typeof worldFile>;
export type WorldFault = z.infer<typeof linkFault>;

/** `near-spoke/link`: one link as it physically is, for `spoke observe`. */
export const linkFile = z.strictObject({
  format: z.literal('near-spoke/link', {
    error: 'The file does not begin with "format": "near-spoke/link".',
  }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  link: linkOrLead,
  faults: z.array(linkFault).max(50).default([]),
});
export type LinkFile = z.infer<typeof linkFile>;

/** `near-spoke/history`: what a crew did on a job, in order; readings are taken from the instrument when it is loaded. */
export const historyFile = z.strictObject({
  format: z.literal('near-spoke/history'),
  formatVersion: z.literal(1),
  crewName: line(80),
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
      z.strictObject({
        what: z.literal('noted'),
        id: uuid,
        linkId: uuid,
        at: timestamp,
        by: uuid,
        end: linkEnd.nullable().default(null),
        words: z.string(),
        /** A file in the demo's photos. */
        photo: z
          .string()
          .regex(/^[\w-]+\.jpg$/)
          .optional(),
      }),
      z.strictObject({ what: z.literal('handed-over'), id: uuid, linkId: uuid, at: timestamp, by: uuid }),
    ]),
  ),
});
export type HistoryFile = z.infer<typeof historyFile>;
