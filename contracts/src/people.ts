import { TO_OWN, USUAL_HANDS, type Hands, type InstrumentClass } from '@near-spoke/core';
import * as z from 'zod';
import { line, uuid, version } from './text.js';

export const roles = ['lead', 'technician', 'viewer'] as const;
export const role = z.enum(roles, { error: `A role is one of ${roles.join(', ')}.` });
export type Role = z.infer<typeof role>;

const ownedInstrument = z.enum(TO_OWN as [InstrumentClass, ...InstrumentClass[]], {
  error: `An instrument is one of ${TO_OWN.join(', ')}.`,
});

export const passphrase = z
  .string({ error: 'Give a passphrase.' })
  .min(12, { error: 'Use at least 12 characters: four short words are easy to remember.' })
  .max(200, { error: 'At most 200 characters.' });

export const crewMember = z.object({
  id: uuid,
  name: z.string(),
  role,
  active: z.boolean(),
  version,
});
export type CrewMember = z.infer<typeof crewMember>;

export const newCrewMember = z.strictObject({ id: uuid, name: line(80), role, passphrase });
export const crewChange = z.strictObject({
  version,
  role: role.optional(),
  active: z.boolean().optional(),
  passphrase: passphrase.optional(),
});

export const setup = z.strictObject({
  id: uuid,
  name: line(80),
  passphrase,
  /** What the crew is called; it can be said later. */
  crewName: line(80).optional(),
});
export const signIn = z.strictObject({
  name: line(80),
  passphrase: z.string().min(1, { error: 'Give the passphrase.' }).max(200),
});
/** A person's own: the old one shows that it is that person who asks. */
export const passphraseChange = z.strictObject({
  old: z.string().min(1, { error: 'Give the passphrase that you have.' }).max(200),
  next: passphrase,
});

/** A session of the person who asks; its id opens nothing. */
export const ownSession = z.object({
  id: z.string(),
  begun: z.string(),
  until: z.string(),
  /** The one that asks. */
  here: z.boolean(),
});
export type OwnSession = z.infer<typeof ownSession>;

/** Which instruments a crew has at hand, so that no look is asked for that it cannot take. */
export const instrumentsAtHand = z.object({
  /** Null while nobody has said: then any may be asked for. */
  owned: z.array(ownedInstrument).nullable(),
  version: z.int().min(0),
});
export type InstrumentsAtHand = z.infer<typeof instrumentsAtHand>;

export const newInstrumentsAtHand = z.strictObject({
  owned: z
    .array(ownedInstrument)
    .max(TO_OWN.length)
    .refine((all) => new Set(all).size === all.length, { error: 'Name each instrument once.' })
    .nullable(),
  version: z.int().min(0),
});

/** What one thing costs a pair of hands, in seconds. */
const seconds = z
  .number({ error: 'Give seconds as a number.' })
  .min(0.1, { error: 'At least a tenth of a second.' })
  .max(120, { error: 'At most 120 seconds.' });
const handsAtWork = z.strictObject({
  bothS: seconds,
  oneS: seconds,
  besideS: seconds,
  turnS: seconds,
  answerS: seconds,
  clipS: seconds,
  // What was said before walks were asked for holds the usual one.
  walkS: z
    .number({ error: 'Give seconds as a number.' })
    .min(1, { error: 'At least a second.' })
    .max(3600, { error: 'At most an hour.' })
    .default(USUAL_HANDS.walkS),
} satisfies Record<keyof Hands, unknown>);

/** What touching costs the hands of a crew, by which proofs are put into order. */
export const crewHands = z.object({
  /** Null while nobody has said: then the usual figures hold. */
  hands: handsAtWork.nullable(),
  version: z.int().min(0),
});
export type CrewHands = z.infer<typeof crewHands>;
export const newCrewHands = z.strictObject({ hands: handsAtWork.nullable(), version: z.int().min(0) });

/** A crew that the person who asks works in. */
export const ownCrew = z.object({ id: uuid, name: z.string(), role, version });
export type OwnCrew = z.infer<typeof ownCrew>;

export const newCrew = z.strictObject({ id: uuid, name: line(80) });
export const crewToWorkIn = z.strictObject({ crew: uuid });
export const crewRename = z.strictObject({ name: line(80), version });

/** Letters of codes that are told by voice or typed in gloves: none that is taken for another. */
export const INVITATION_LETTERS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
export const INVITATION_LENGTH = 12;
/** A code as people type it: in any case, with dashes or blanks. */
export const invitationCode = z
  .string({ error: 'Give the code.' })
  .max(60, { error: 'A code has twelve letters and digits.' })
  .transform((text) => text.toUpperCase().replace(/[^A-Z0-9]/g, ''))
  .refine((text) => text.length === INVITATION_LENGTH, { error: 'A code has twelve letters and digits.' });
export const newInvitation = z.strictObject({ id: uuid, role });
export const joining = z.strictObject({ code: invitationCode });

/** A code by which somebody who has a name here comes into the crew, once; the code itself is told once. */
export const invitation = z.object({
  id: uuid,
  role,
  by: z.string(),
  at: z.string(),
  expiresAt: z.string(),
  /** Who came by it; null while nobody has. */
  usedBy: z.string().nullable(),
});
export type Invitation = z.infer<typeof invitation>;

export const demoSignIn = z.strictObject({ crewId: uuid });

/** Who is signed in, or what is needed before anyone can be. */
export const sessionState = z.discriminatedUnion('state', [
  z.object({ state: z.literal('setup') }),
  z.object({
    state: z.literal('signed-out'),
    /** People who may be entered by one click: the demo on loopback only. */
    demoPeople: z.array(crewMember),
  }),
  z.object({
    state: z.literal('signed-in'),
    crew: crewMember,
    token: z.string(),
    /** The crew that is worked in, and all that may be, that one among them. */
    inCrew: uuid,
    crews: z.array(ownCrew),
  }),
]);
export type SessionState = z.infer<typeof sessionState>;
