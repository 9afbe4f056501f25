import {
  BadPattern,
  COLOURS,
  INLINE_KINDS,
  insulation,
  PIN_KINDS,
  layoutFor,
  LEVEL_FAMILIES,
  type AdapterDesign,
  type AdapterEnd,
  type InlinePart,
  type OwnLayout,
  type Pin,
  type PinPlace,
} from '@near-spoke/core';
import * as z from 'zod';
import { jpegPicture } from './photos.js';
import { line, note, timestamp, uuid } from './text.js';

const endId = z.string().regex(/^[A-Z][A-Z0-9]{0,7}$/, {
  error: 'An end has a short name in capitals, such as A.',
});
const contactId = z.string().regex(/^[A-Za-z0-9+-]{1,6}$/, {
  error: 'A contact has a number or a short name, such as 3 or S.',
});
/** A contact as "A 3". */
const place = z
  .string()
  .regex(/^[A-Z][A-Z0-9]{0,7} [A-Za-z0-9+-]{1,6}$/, {
    error: 'Write a contact as "A 3": end, blank, contact.',
  })
  .transform((text): PinPlace => {
    const [end = '', contact = ''] = text.split(' ');
    return { end, contact };
  });
const levels = z
  .string()
  .refine((id) => LEVEL_FAMILIES.some((family) => family.id === id), {
    error: `Levels are ${LEVEL_FAMILIES.map(({ id }) => id).join(', ')}, or null.`,
  })
  .nullable()
  .default(null);
const volts = z
  .tuple([z.number(), z.number()])
  .refine(([from, to]) => from <= to, { error: 'Give the lower voltage first.' })
  .nullable()
  .default(null);
const volt = z.number().min(-100).max(100);
const bears = z.number().positive().max(1000);

const BARE = ['SCREEN', 'CENTRE', 'SHELL'];
const isInsulation = (code: string): boolean => {
  try {
    return insulation(code).base !== undefined;
  } catch (error) {
    if (error instanceof RangeError) return false;
    throw error;
  }
};
/** Insulation by its letter code, banded too, or bare metal by its name. */
const colour = line(12).refine((code) => BARE.includes(code) || isInsulation(code), {
  error: `A colour is one of ${Object.keys(COLOURS).join(', ')}, two of them as WH-BU, or ${BARE.join(', ')}.`,
});
const pin = z.strictObject({
  contact: contactId,
  signal: line(40),
  kind: z.enum(PIN_KINDS),
  levels,
  volts,
  currentA: z.number().min(0).max(1000).nullable().default(null),
  needed: z.boolean().default(false),
  pullUp: z.boolean().default(false),
  together: line(40).nullable().default(null),
  source: z.enum(['sheet', 'metered', 'typical']).default('sheet'),
  sheetSaid: line(80).optional(),
  /** Wire of a moulded lead on this contact, as metered. */
  colour: colour.optional(),
  /** Levels and thresholds of its own sheet, volts. */
  figures: z
    .strictObject({
      supplyV: z.number().min(0).max(100),
      outLowV: volt,
      outHighV: volt,
      inLowV: volt,
      inHighV: volt,
      leastV: volt,
      mostV: volt,
      inverted: z.boolean(),
    })
    .refine(({ outLowV, outHighV }) => outLowV < outHighV, {
      path: ['outHighV'],
      error: 'An output’s high is over its low.',
    })
    .refine(({ inLowV, inHighV }) => inLowV < inHighV, {
      path: ['inHighV'],
      error: 'An input’s high threshold is over its low one.',
    })
    .refine(({ leastV, mostV }) => leastV < mostV, {
      path: ['mostV'],
      error: 'What it bears at most is over what it bears at least.',
    })
    .optional(),
  /** Levels from an oscilloscope's samples. */
  measured: z
    .strictObject({
      lowV: z.number(),
      highV: z.number(),
      swingV: z.number().positive(),
      edgeS: z.number().positive().nullable(),
      shortestBitS: z.number().positive().nullable(),
      edges: z.int().min(0),
      noiseV: z.number().min(0),
    })
    .optional(),
});

const pitch = z.number().positive({ error: 'A pitch is more than 0 mm.' }).max(100);
const gridPattern = z.strictObject({
  shape: z.literal('grid'),
  rows: z.int().min(1).max(20),
  columns: z.int().min(1).max(100),
  pitchMm: pitch,
  rowPitchMm: pitch,
  count: z.enum(['row by row', 'across', 'to and fro']),
  begins: z.enum(['left', 'right']),
  lengths: z.array(z.int().min(1).max(100)).max(20).optional(),
});
const ringPattern = z.strictObject({
  shape: z.literal('ring'),
  contacts: z.array(contactId).min(1).max(60),
  radiusMm: pitch,
  fromDeg: z.number().min(-360).max(360),
  turns: z.enum(['clockwise', 'counter-clockwise']),
  overDeg: z.number().positive().max(360).optional(),
  middle: contactId.optional(),
});
const ownLayout = z.strictObject({
  name: line(80),
  gender: z.enum(['plug', 'socket']),
  pattern: z.discriminatedUnion('shape', [gridPattern, ringPattern], {
    error: 'Contacts lie in a grid or a ring.',
  }),
  keyed: z.boolean().default(false),
  cue: z.string().trim().max(80).default(''),
});

/** A connector by its id in the library, described, or none. */
const layout = z
  .union([line(40), ownLayout])
  .nullable()
  .superRefine((choice, context) => {
    try {
      layoutFor(choice as Parameters<typeof layoutFor>[0]);
    } catch (error) {
      if (!(error instanceof BadPattern)) throw error;
      context.addIssue({ code: 'custom', message: error.message });
    }
  });

const space = z.number().positive().max(1000);
const room = z.strictObject({ widthMm: space, heightMm: space, lengthMm: space });

const end = z
  .strictObject({
    id: endId,
    name: line(80),
    connector: line(80),
    sheetFace: z.enum(['mating', 'rear']).nullable().default(null),
    contactBearsA: bears.default(1),
    layout: layout.default(null),
    body: room.optional(),
    room: room.optional(),
    note: note.default(''),
    pins: z
      .array(pin)
      .min(1, { error: 'An end has at least one contact.' })
      .max(120, { error: 'An end has at most 120 contacts.' }),
  })
  .refine(({ pins }) => new Set(pins.map(({ contact }) => contact)).size === pins.length, {
    error: 'A contact stands twice.',
    path: ['pins'],
  });

const part = z.strictObject({
  kind: z.enum(INLINE_KINDS),
  words: z.string().trim().max(120).default(''),
  ohm: z.number().positive().optional(),
  cells: z
    .strictObject({
      count: z.int().min(1).max(40),
      freshV: z.number().positive().max(50),
      endV: z.number().positive().max(50),
    })
    .refine(({ freshV, endV }) => endV <= freshV, {
      error: 'A cell at the end of its life gives no more than a new one.',
      path: ['endV'],
    })
    .optional(),
});

const wire = z.strictObject({
  id: line(12),
  colour,
  areaMm2: z.number().positive().max(100),
  pair: z.int().positive().nullable().default(null),
  edge: z.boolean().default(false),
  bearsA: z.number().positive().max(1000).optional(),
  bearsV: z.number().positive().max(100_000).optional(),
  /** Colour in the half that goes to an end, where halves differ. */
  halves: z.record(endId, colour).optional(),
});

/** `near-spoke/adapter`: a lead between devices that were never meant to meet. */
export const adapterFile = z.strictObject({
  format: z.literal('near-spoke/adapter', {
    error: 'The file does not begin with "format": "near-spoke/adapter".',
  }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  name: line(80),
  ends: z
    .array(end)
    .min(2, { error: 'An adapter has at least two ends.' })
    .max(8)
    .refine((ends) => new Set(ends.map(({ id }) => id)).size === ends.length, {
      error: 'Two ends have the same name.',
    }),
  joins: z
    .array(z.strictObject({ from: place, to: place, parts: z.array(part).max(6).default([]) }))
    .max(400),
  wires: z.array(wire).max(120).default([]),
  lengthM: z.number().positive().max(1000).default(1),
  spares: z.enum(['keep', 'cut']).default('keep'),
  functionTest: z.array(line(120)).max(40).default([]),
});
export type AdapterFile = z.infer<typeof adapterFile>;
export type AdapterFileInput = z.input<typeof adapterFile>;

type Without<T> = { [K in keyof T]: Exclude<T[K], undefined> };
/** Leaves out what is undefined: a field that is not there and one that is undefined are not the same. */
const given = <T extends object>(value: T): Without<T> =>
  Object.fromEntries(Object.entries(value).filter(([, each]) => each !== undefined)) as Without<T>;

/** A file's design as core works with it. */
export function designOf({
  name,
  ends,
  joins,
  wires,
  lengthM,
  spares,
  functionTest,
}: AdapterFile): AdapterDesign {
  return {
    name,
    ends: ends.map(
      (each) => given({ ...each, pins: each.pins.map((one) => given(one) as Pin) }) as AdapterEnd,
    ),
    joins: joins.map(({ from, to, parts }) => ({
      from,
      to,
      parts: parts.map((each) => given(each) as InlinePart),
    })),
    wires: wires.map((each) => given(each) as AdapterDesign['wires'][number]),
    lengthM,
    spares,
    functionTest,
  };
}

/** A design as a file: read back, it is the same design. */
export function fileOf(design: AdapterDesign): AdapterFileInput {
  const words = ({ end: at, contact }: PinPlace): string => `${at} ${contact}`;
  return {
    format: 'near-spoke/adapter',
    formatVersion: 1,
    ...design,
    joins: design.joins.map(({ from, to, parts }) => ({ from: words(from), to: words(to), parts })),
  } as AdapterFileInput;
}

/** An adapter to be kept: new (version 0), or the next version of one that was opened at `version`. */
export const newAdapterVersion = z.strictObject({
  id: uuid,
  version: z.int().min(0),
  /** What was changed, and why. */
  note: z.string().trim().max(200, { error: 'At most 200 characters.' }).default(''),
  file: adapterFile,
});
export type NewAdapterVersion = z.input<typeof newAdapterVersion>;

const design = z.custom<AdapterDesign>((value) => typeof value === 'object' && value !== null);
const versionHead = {
  version: z.int().positive(),
  at: timestamp,
  by: z.string(),
  note: z.string(),
};
export const adapterVersion = z.object({ ...versionHead, design });
export type AdapterVersion = z.infer<typeof adapterVersion>;

const heard = z.boolean().nullable();
const touchedContact = z.strictObject({ end: endId, contact: z.string().min(1).max(20) });
const touchedContacts = z.array(touchedContact).min(1).max(500);
/** A touch as it was made: the contacts of either lead, and whether it beeped. */
export const madeTouch = z.strictObject({
  one: touchedContacts,
  other: touchedContacts,
  /** Contacts that were joined at the other end meanwhile. */
  joined: touchedContacts.optional(),
  beeped: z.boolean(),
});
const most = { error: 'An adapter has at most 500 of these.' };
/** One lead as it was built and proved: an answer for each touch, part and function; null where it was not done. */
export const newBuild = z.strictObject({
  id: uuid,
  version: z.int().positive(),
  name: line(40),
  /** Whether it beeped, touch by touch of the proof of that version. */
  beeped: z.array(heard).max(500, most).default([]),
  /** Instead of that: the touches as they were made, by whichever list. */
  touched: z.array(madeTouch).max(3000, { error: 'A proof has at most 3,000 touches.' }).optional(),
  /** Whether what couples through a part metered right. */
  parts: z.array(heard).max(500, most).default([]),
  /** Whether polarity and voltage were right before the device was connected; null where no supply is in it. */
  supplies: z.array(heard).max(500, most).default([]),
  /** Whether the device did what it has to, function by function. */
  functions: z.array(heard).max(500, most).default([]),
  note: note.default(''),
});
export type NewBuild = z.input<typeof newBuild>;

export const adapterBuild = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  version: z.int(),
  name: z.string(),
  beeped: z.array(heard),
  touched: z.array(madeTouch).optional(),
  parts: z.array(heard),
  supplies: z.array(heard),
  functions: z.array(heard),
  verdict: z.enum(['proved', 'failed', 'unfinished']),
  note: z.string(),
});
export type AdapterBuild = z.infer<typeof adapterBuild>;

/** A photo of how a connector lies. */
export const newAdapterPhoto = z.strictObject({
  id: uuid,
  end: endId.nullable().default(null),
  words: line(120),
  jpeg: jpegPicture,
});
export type NewAdapterPhoto = z.input<typeof newAdapterPhoto>;
export const adapterPhoto = z.object({
  id: uuid,
  at: timestamp,
  by: z.string(),
  end: z.string().nullable(),
  words: z.string(),
});
export type AdapterPhoto = z.infer<typeof adapterPhoto>;

/** An adapter as it is now, with what was before and what was built of it. */
export const adapterRecord = z.object({
  id: uuid,
  ...versionHead,
  design,
  /** Newest first. */
  versions: z.array(z.object(versionHead)),
  builds: z.array(adapterBuild),
  photos: z.array(adapterPhoto),
});
export type AdapterRecord = z.infer<typeof adapterRecord>;

/** A line of the list of adapters. */
export const adapterSummary = z.object({
  id: uuid,
  ...versionHead,
  name: z.string(),
  ends: z.array(z.string()),
  wrong: z.int(),
  unsure: z.int(),
  /** Connectors that were described in it, for others to use. */
  own: z.array(z.custom<OwnLayout>((value) => typeof value === 'object' && value !== null)),
  built: z.int(),
  proved: z.int(),
});
export type AdapterSummary = z.infer<typeof adapterSummary>;
