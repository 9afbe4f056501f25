import type { ConductorId, Conductor } from '../cabling/conductors.js';
import { SCREEN } from '../cabling/conductors.js';
import type { ContactId, SchemeId } from '../cabling/schemes.js';
import { SCHEMES, EIGHT_CONTACTS, SCREEN_CONTACT } from '../cabling/schemes.js';

export type LinkEnd = 'near' | 'far';

/**
 * What a link physically is, as opposed to what an instrument says of it (domain: section 4).
 * At each end every contact holds one conductor or nothing; each conductor is whole or broken at
 * distances from the near end; joins are unwanted contacts between conductors.
 */
export interface TrueLink {
  lengthM: number;
  conductors: readonly Conductor[];
  /** Ohms per metre of each conductor, one way; typical copper where it is not said. */
  ohmPerM?: Readonly<Record<ConductorId, number>> | undefined;
  /** Farads per metre of a pair; a typical twisted pair's where it is not said. */
  faradPerM?: number | undefined;
  near: Readonly<Record<ContactId, ConductorId | null>>;
  far: Readonly<Record<ContactId, ConductorId | null>>;
  breaks: readonly ConductorBreak[];
  /** Conductors that lie on their contact but do not touch it. */
  unseated: readonly UnseatedContact[];
  joins: readonly ConductorJoin[];
  /** Contacts bridged inside a connector. */
  bridges: readonly ContactBridge[];
  /** Lengths where the impedance is off but the metal is whole: water, a crush, untwisting. */
  disturbances: readonly Disturbance[];
  /** Joints that conduct, but badly: nicked, corroded, half seated. */
  poor: readonly PoorJoint[];
  /** Joints that open and close: what wiggling finds. */
  loose: readonly LooseJoint[];
  /** Conductors exchanged where the cable was joined; both ends look right. */
  splices: readonly ConductorJoin[];
  /** Ends still plugged into equipment, whose transformers join the two contacts of each pair. */
  equipment: readonly LinkEnd[];
  /** Whether the far end that is tested is this link's: false for another outlet, or no remote there. */
  farPresent: boolean;
}

/** A joint at a contact, or a place in a conductor. */
export type JointPlace = { end: LinkEnd; contact: ContactId } | { conductor: ConductorId; atM: number };

export interface PoorJoint {
  place: JointPlace;
  ohm: number;
}

export interface LooseJoint {
  place: JointPlace;
  /** Share of readings at rest that find it open. */
  openShare: number;
}

/** What a link has none of while every hand's work is right and the cable whole. */
export const NOTHING_WRONG = {
  breaks: [],
  unseated: [],
  joins: [],
  bridges: [],
  disturbances: [],
  poor: [],
  loose: [],
  splices: [],
  equipment: [],
  farPresent: true,
} as const satisfies Partial<TrueLink>;

export interface ConductorBreak {
  conductor: ConductorId;
  atM: number;
}

export interface UnseatedContact {
  end: LinkEnd;
  contact: ContactId;
}

export interface ConductorJoin {
  conductors: readonly [ConductorId, ConductorId];
  atM: number;
  /** Of the contact between them; next to nothing where it is not said. */
  ohm?: number | undefined;
}

export interface ContactBridge {
  end: LinkEnd;
  contacts: readonly [ContactId, ContactId];
  ohm?: number | undefined;
}

export interface Disturbance {
  atM: number;
  lengthM: number;
  impedance: 'low' | 'high';
}

/** Contact -> conductor at an end wired exactly to a scheme. */
export function endToScheme(scheme: SchemeId, screened: boolean): Record<ContactId, ConductorId | null> {
  const end: Record<ContactId, ConductorId | null> = {};
  EIGHT_CONTACTS.forEach((contact, index) => {
    end[contact] = SCHEMES[scheme].order[index] ?? null;
  });
  if (screened) end[SCREEN_CONTACT] = SCREEN;
  return end;
}

/** A coax end: centre on C, shell on S. */
export const COAX_END: Readonly<Record<ContactId, ConductorId | null>> = { C: 'CENTRE', S: 'SHELL' };

/** A two-wire telephone line on pair 1: white-blue is the a leg, blue the b leg. */
export const LINE_END: Readonly<Record<ContactId, ConductorId | null>> = { a: 'WH-BU', b: 'BU' };

/** The contacts a link can be probed at. */
export function contactsOf(link: Pick<TrueLink, 'near'>): ContactId[] {
  return Object.keys(link.near);
}
