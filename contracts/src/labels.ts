import { stockProblems, unknownFields, type LabelStock } from '@near-spoke/core';
import * as z from 'zod';
import { line, uuid } from './text.js';

const mm = (most: number): z.ZodNumber =>
  z
    .number({ error: 'Give millimetres.' })
    .min(0, { error: 'No measure is below 0 mm.' })
    .max(most, { error: `At most ${most} mm.` });
/** Less than this nothing is printed on. */
const size = (most: number): z.ZodNumber => mm(most).min(1, { error: 'A measure is at least 1 mm.' });

const sheet = z.strictObject({
  paperWidthMm: size(1200),
  paperHeightMm: size(1200),
  columns: z.int().min(1).max(100),
  rows: z.int().min(1).max(200),
  leftMm: mm(500),
  topMm: mm(500),
  pitchXMm: mm(500),
  pitchYMm: mm(500),
});

/** What labels are printed on, by its measures. */
export const labelStock = z
  .strictObject({
    id: line(60),
    name: line(80),
    kind: z.enum(['flat', 'wrap', 'flag', 'strip'], {
      error: 'A label is flat, a wrap-around, a flag or a strip.',
    }),
    widthMm: size(500),
    heightMm: size(500),
    partMm: mm(500),
    sheet: sheet.nullable(),
  })
  .superRefine((stock: LabelStock, context) => {
    for (const { field, message } of stockProblems(stock))
      context.addIssue({
        code: 'custom',
        path: stock.sheet && field in stock.sheet ? ['sheet', field] : [field],
        message,
      });
  });

const labelLine = z
  .string()
  .trim()
  .max(120, { error: 'At most 120 characters.' })
  .superRefine((text, context) => {
    for (const { field } of unknownFields([text]))
      context.addIssue({ code: 'custom', message: `There is no field {${field}}.` });
  });
export const labelLines = z.strictObject({
  near: z.array(labelLine).max(6, { error: 'At most 6 lines.' }),
  far: z.array(labelLine).max(6, { error: 'At most 6 lines.' }),
});

export const printerFit = z.strictObject({
  offsetXMm: z.number().min(-50).max(50),
  offsetYMm: z.number().min(-50).max(50),
  scaleX: z.number().min(0.8, { error: 'A printer is off by a fifth at most.' }).max(1.25),
  scaleY: z.number().min(0.8, { error: 'A printer is off by a fifth at most.' }).max(1.25),
});

/** Labels to be printed of a job. */
export const labelOrder = z.strictObject({
  linkIds: z
    .array(uuid)
    .min(1, { error: 'Choose at least one link.' })
    .max(2000, { error: 'At most 2000 links at once.' }),
  ends: z
    .array(z.enum(['near', 'far']))
    .min(1, { error: 'Choose an end.' })
    .max(2),
  stock: labelStock,
  lines: labelLines,
  qr: z.boolean().default(false),
  skip: z.int().min(0).max(20_000).default(0),
  fit: printerFit.default({ offsetXMm: 0, offsetYMm: 0, scaleX: 1, scaleY: 1 }),
  /** Draws the edges of the labels too. */
  edges: z.boolean().default(false),
  /** A page to measure the printer by, instead of labels. */
  testPage: z.boolean().default(false),
});
export type LabelOrder = z.input<typeof labelOrder>;
