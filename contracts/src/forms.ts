import { reportParts } from '@near-spoke/core';
import * as z from 'zod';
import { labelLines, labelStock } from './labels.js';
import { line, timestamp, uuid } from './text.js';

/** What a crew keeps as its own: which parts a report has, a label's measures, how labels are written. */
const forms = {
  report: z.strictObject({
    parts: z.array(z.string()).refine((ids) => reportParts(ids) !== null, {
      error: 'Name parts of a report, each once.',
    }),
  }),
  'label-stock': labelStock,
  'label-lines': labelLines,
  /** What is looked for again and again. */
  search: z.strictObject({ text: line(200) }),
} as const;

const head = { name: line(80) };
const ofKind = <K extends keyof typeof forms>(kind: K) => z.literal(kind);

export const newForm = z.discriminatedUnion('kind', [
  z.strictObject({ id: uuid, kind: ofKind('report'), ...head, body: forms.report }),
  z.strictObject({ id: uuid, kind: ofKind('label-stock'), ...head, body: forms['label-stock'] }),
  z.strictObject({ id: uuid, kind: ofKind('label-lines'), ...head, body: forms['label-lines'] }),
  z.strictObject({ id: uuid, kind: ofKind('search'), ...head, body: forms.search }),
]);
export type NewForm = z.input<typeof newForm>;
export type FormKind = NewForm['kind'];

const kept = { updatedAt: timestamp, updatedBy: z.string() };
export const crewForm = z.discriminatedUnion('kind', [
  z.object({ id: uuid, kind: ofKind('report'), ...head, body: forms.report, ...kept }),
  z.object({ id: uuid, kind: ofKind('label-stock'), ...head, body: forms['label-stock'], ...kept }),
  z.object({ id: uuid, kind: ofKind('label-lines'), ...head, body: forms['label-lines'], ...kept }),
  z.object({ id: uuid, kind: ofKind('search'), ...head, body: forms.search, ...kept }),
]);
export type CrewForm = z.infer<typeof crewForm>;
