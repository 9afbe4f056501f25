import * as z from 'zod';
import { line, timestamp, uuid } from './text.js';

/** Letters and figures that nobody takes for another, read out over a noisy hall; no words come of them. */
export const CODE_LETTERS = 'BCDFGHJKLMNPQRSTVWXZ';
const CODE_LENGTH = 6;

const end = z.enum(['near', 'far'], { error: 'Give the end: near or far.' });
/** More touches than the longest proof of a link has. */
const touch = z.int().min(0).max(3000, { error: 'A proof has at most 3,000 touches.' });

/** Six letters, however they are written. */
export const togetherCode = z
  .string()
  .trim()
  .transform((text) => text.toUpperCase().replace(/[\s-]/g, ''))
  .refine(
    (text) => text.length === CODE_LENGTH && [...text].every((letter) => CODE_LETTERS.includes(letter)),
    {
      error: 'A code has six letters, as the other end shows it.',
    },
  );

/** What conductors are called at an end. */
const names = z.array(line(12)).max(200, { error: 'At most 200 conductors.' });

const doing = z.discriminatedUnion(
  'does',
  [
    z.strictObject({ does: z.literal('came') }),
    z.strictObject({ does: z.literal('on'), touch }),
    z.strictObject({ does: z.literal('answered'), touch, closed: z.boolean() }),
    z.strictObject({ does: z.literal('took-back'), touch }),
    z.strictObject({ does: z.literal('called') }),
    z.strictObject({
      does: z.literal('named'),
      names: names.refine((all) => new Set(all).size === all.length, {
        error: 'Give each conductor a name of its own.',
      }),
    }),
    z.strictObject({ does: z.literal('joined'), round: touch }),
    z.strictObject({ does: z.literal('found'), round: touch, names }),
  ],
  { error: 'Say what was done: came, on, answered, took-back, called, named, joined or found.' },
);

/** What somebody at an end tells; its id counts it once, however often it is sent. */
export const newToldThing = z.strictObject({ id: uuid, end, doing });
export type NewToldThing = z.input<typeof newToldThing>;

export const beginningTogether = z.strictObject({ id: uuid });

/** Unmarked conductors, of no link yet. */
export const wiresToTell = z.strictObject({
  id: uuid,
  count: z
    .int({ error: 'Give how many conductors there are.' })
    .min(2, { error: 'At least 2 conductors.' })
    .max(200, { error: 'At most 200 conductors.' }),
  hasReturn: z.boolean(),
});
export type WiresToTell = z.input<typeof wiresToTell>;

/** What closes the path between two ends: joins there, a conductor known to be good, or a tester's remote. */
const across = z.enum(['joins', 'return', 'remote']);

/** Contacts at one end, or places there, under names that both ends know. */
const place = z.strictObject({
  end,
  contacts: z.array(line(120)).min(1, { error: 'Name at least one contact.' }).max(500),
});

/** A list of touches made by two: of a lead whose ends are out of reach of each other. */
export const touchesByTwo = z.strictObject({
  id: uuid,
  /** What is proved, and what lies at each end. */
  label: line(120),
  ends: z.strictObject({ near: line(120), far: line(120) }),
  over: across,
  touches: z
    .array(
      z.strictObject({
        from: place,
        to: place,
        /** Contacts that are joined at the far end meanwhile. */
        join: z.array(line(30)).max(20).default([]),
        should: z.boolean(),
        /** The second lead goes over its contacts one after the other. */
        sweep: z.boolean().default(false),
      }),
    )
    .min(1, { error: 'There is nothing to touch.' })
    .max(3000, { error: 'A proof has at most 3,000 touches.' }),
});
export type TouchesByTwo = z.input<typeof touchesByTwo>;

/** Somebody who helps at the other end, without an account. */
export const newHelper = z.strictObject({
  code: togetherCode,
  name: line(40),
  end,
});
export type NewHelper = z.input<typeof newHelper>;

const contacts = z.object({ end, contacts: z.array(z.string()) });

/** How far two people have come with one cable, as each of their devices shows it. */
export const togetherState = z.object({
  id: uuid,
  /** The link that is proved; null where it is unmarked conductors or a list of touches. */
  linkId: uuid.nullable(),
  /** The link's label, and what lies at each end. */
  label: z.string(),
  ends: z.object({ near: z.string(), far: z.string() }),
  code: z.string(),
  startedBy: z.string(),
  at: timestamp,
  ended: z.boolean(),
  /** Things told so far: of two states the one with more is newer. */
  told: z.int(),
  answers: z.array(z.boolean()),
  on: z.object({ near: z.boolean(), far: z.boolean() }),
  people: z.object({ near: z.array(z.string()), far: z.array(z.string()) }),
  calls: end.nullable(),
  /** The touch that is next; null where the map is known. */
  next: z
    .object({
      from: contacts,
      to: contacts,
      join: z.array(z.string()),
      sweep: z.boolean(),
      should: z.boolean(),
      why: z.enum(['isolation', 'path', 'search']),
    })
    .nullable(),
  /** What closes the path between the ends, and how many touches there are, where it is a list of touches. */
  list: z.object({ over: across, touches: z.int() }).nullable(),
  /** Unmarked conductors, where it is those; A is the near end. */
  wires: z
    .object({
      count: z.int(),
      hasReturn: z.boolean(),
      names: z.array(z.string()).nullable(),
      joined: z.int(),
      found: z.array(z.array(z.string())),
      rounds: z.int(),
      /** The round that is next; null where all are read. */
      round: z.object({ join: z.array(z.int()), to: z.enum(['return', 'each-other', 'second']) }).nullable(),
      /** What serves as return at B where there is no other, once that is found. */
      serving: z.string().nullable(),
      /** Number at A and name at B, once every round is read, or why they do not come out. */
      told: z.array(z.object({ number: z.int(), name: z.string() })).nullable(),
      mistake: z.string(),
    })
    .nullable(),
  /** Who asks, where that is a helper. */
  helper: z.object({ name: z.string(), end }).nullable(),
});
export type TogetherState = z.infer<typeof togetherState>;

/** Work by two that is going on, for whoever may come to the other end of it. */
export const openByTwo = togetherState
  .pick({
    id: true,
    linkId: true,
    label: true,
    ends: true,
    code: true,
    startedBy: true,
    at: true,
    people: true,
  })
  .extend({
    /** The job of the link, where it is one. */
    jobId: uuid.nullable(),
    of: z.enum(['link', 'wires', 'touches', 'round']),
    /** Touches answered, or rounds read. */
    done: z.int(),
  });
export type OpenByTwo = z.infer<typeof openByTwo>;
