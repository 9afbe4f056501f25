import {
  COLOURS,
  LEVEL_FAMILIES,
  type AdapterDesign,
  type ColourCode,
  type PinPlace,
} from '@near-spoke/core';
import * as z from 'zod';
import { line } from './text.js';

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
const bears = z.number().positive().max(1000);

const pin = z.strictObject({
  contact: contactId,
  signal: line(40),
  kind: z.enum([
    'supply-out',
    'supply-in',
    'ground',
    'input',
    'output',
    'both',
    'open-collector',
    'video',
    'audio',
    'shield',
    'not-connected',
    'reserved',
  ]),
  levels,
  volts,
  currentA: z.number().min(0).max(1000).default(0),
  needed: z.boolean().default(false),
  pullUp: z.boolean().default(false),
  together: line(40).nullable().default(null),
  source: z.enum(['sheet', 'metered', 'typical']).default('sheet'),
});

const end = z
  .strictObject({
    id: endId,
    name: line(80),
    connector: line(80),
    sheetFace: z.enum(['mating', 'rear']).nullable().default(null),
    contactBearsA: bears.default(1),
    pins: z.array(pin).min(1).max(120),
  })
  .refine(({ pins }) => new Set(pins.map(({ contact }) => contact)).size === pins.length, {
    error: 'A contact stands twice.',
    path: ['pins'],
  });

const part = z.strictObject({
  kind: z.enum(['resistor', 'diode', 'LED', 'switch', 'capacitor', 'battery', 'level stage']),
  words: z.string().trim().max(120).default(''),
  ohm: z.number().positive().optional(),
});

const wire = z.strictObject({
  id: line(12),
  colour: z.custom<ColourCode>((code) => typeof code === 'string' && code in COLOURS, {
    error: `A colour is one of ${Object.keys(COLOURS).join(', ')}.`,
  }),
  areaMm2: z.number().positive().max(100),
  pair: z.int().positive().nullable().default(null),
  edge: z.boolean().default(false),
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
});
export type AdapterFile = z.infer<typeof adapterFile>;

/** A file's design as core works with it. */
export function designOf({ name, ends, joins, wires, lengthM }: AdapterFile): AdapterDesign {
  return {
    name,
    ends,
    joins: joins.map(({ from, to, parts }) => ({
      from,
      to,
      parts: parts.map(({ kind, words, ohm }) => ({ kind, words, ...(ohm === undefined ? {} : { ohm }) })),
    })),
    wires,
    lengthM,
  };
}
