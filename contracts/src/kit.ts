import { isColour, type CableType, type ConnectorType, type ToolType } from '@near-spoke/core';
import * as z from 'zod';
import { line, timestamp, uuid } from './text.js';

/** An identifier of a type: small letters, figures and dashes, so that it can stand in an address. */
export const typeId = z.string().regex(/^[a-z0-9][a-z0-9-]{1,39}$/, {
  error: 'Use 2 to 40 small letters, figures and dashes, beginning with a letter or figure.',
});

const mm = (max: number) =>
  z
    .number({ error: 'Give a length in millimetres.' })
    .positive({ error: 'A length is more than 0 mm.' })
    .max(max, { error: `At most ${max} mm: is the unit right?` });
const upToMm = (max: number) =>
  z
    .number({ error: 'Give a length in millimetres.' })
    .min(0, { error: 'A length is not negative.' })
    .max(max, { error: `At most ${max} mm: is the unit right?` });
const gauge = z
  .int({ error: 'A gauge is a whole AWG number.' })
  .min(0, { error: 'From 0 AWG.' })
  .max(40, { error: 'To 40 AWG.' });
const source = z.enum(['typical', 'sheet'], { error: 'A figure is typical or from a sheet.' });

/** Loss as a sheet or a measurement gives it. */
export const lossPoints = z
  .array(
    z.strictObject({
      mhz: z.number().positive({ error: 'A loss is given at a frequency over 0 MHz.' }).max(100_000),
      dbPer100m: z.number().positive({ error: 'A loss is over 0 dB.' }).max(10_000),
    }),
  )
  .min(1)
  .max(8);

const cableFields = z.strictObject({
  id: typeId,
  name: line(80),
  family: z.enum(['balanced', 'coax', 'ribbon', 'multicore'], {
    error: 'A cable is balanced, coax, ribbon or multicore.',
  }),
  pairs: z.int().min(0).max(200, { error: 'At most 200 pairs.' }),
  conductors: z.int().min(1, { error: 'At least one conductor.' }).max(400),
  screened: z.boolean(),
  screens: z.array(z.enum(['foil', 'braid'])).max(6),
  drain: z.boolean(),
  fillers: z.array(z.enum(['separator', 'pull cord', 'tape', 'gel', 'strength yarn', 'pair foil'])).max(6),
  outdoor: z.boolean(),
  jacketMm: mm(80),
  conductorMm: mm(20).nullable(),
  dielectricMm: mm(60).nullable(),
  bareMm: mm(20).nullable(),
  stranded: z.boolean().nullable(),
  awg: gauge,
  velocityFactor: z
    .number()
    .min(0.3, { error: 'A velocity factor lies between 0.3 and 1.' })
    .max(1, { error: 'A velocity factor lies between 0.3 and 1.' }),
  impedanceOhm: z.number().positive().max(1000),
  source,
  category: z.enum(['5e', '6', '6A']).optional(),
  use: z.enum(['telephone', 'control', 'bus', 'audio']).optional(),
  centre: z.literal('copper-clad steel').optional(),
  loss: lossPoints.optional(),
  colours: z
    .array(
      z.string().regex(/^[A-Z]{2}(?:-[A-Z]{2})?$/, { error: 'Write a colour by its letters: BU, or WH-BU.' }),
    )
    .min(1)
    .max(40)
    .optional(),
});

/** A cable type, with what must hold between its figures. */
export const cableType = cableFields.superRefine((cable, context) => {
  const complain = (path: string, message: string): void => {
    context.addIssue({ code: 'custom', path: [path], message });
  };
  if (cable.family === 'balanced' && cable.pairs === 0)
    complain('pairs', 'A balanced cable has pairs: how many?');
  if (cable.family === 'balanced' && cable.conductors !== cable.pairs * 2)
    complain('conductors', `${cable.pairs} pairs are ${cable.pairs * 2} conductors.`);
  if (cable.family !== 'balanced' && cable.pairs > 0)
    complain('pairs', 'Only a balanced cable is counted in pairs: give 0.');
  if (cable.colours && cable.family !== 'multicore')
    complain(
      'colours',
      'Pairs, coax and ribbon have the orders of their codes: only other cables have one of their own.',
    );
  for (const code of cable.colours ?? [])
    if (!isColour(code))
      complain('colours', `${code} is no colour: write BU for blue, WH-BU for white with a blue band.`);
  if (cable.screened !== cable.screens.length > 0)
    complain('screens', cable.screened ? 'Say which screens it has.' : 'Without a screen the list is empty.');
  const outer: [string, number | null][] = [
    ['dielectricMm', cable.dielectricMm],
    ['conductorMm', cable.conductorMm],
  ];
  for (const [path, inside] of outer) {
    if (inside !== null && inside > cable.jacketMm)
      complain(path, `It cannot be thicker than the jacket (${cable.jacketMm} mm).`);
  }
  const over = cable.dielectricMm ?? cable.conductorMm;
  if (cable.bareMm !== null && over !== null && cable.bareMm >= over)
    complain('bareMm', `The bare metal is thinner than what covers it (${over} mm).`);
});

const span = z
  .strictObject({ min: upToMm(80), max: mm(80) })
  .refine(({ min, max }) => min <= max, { path: ['max'], error: 'The largest is not below the smallest.' });

const part = z.strictObject({
  name: line(60),
  kind: z.enum([
    'boot',
    'ferrule',
    'cap',
    'hood',
    'tie',
    'sleeve',
    'nut',
    'heat-shrink',
    'solder-sleeve',
    'strain-relief',
    'load-bar',
  ]),
  boreMm: mm(100),
  outsideMm: mm(120),
  lengthMm: mm(300),
  over: z.enum(['jacket', 'core', 'end']),
  split: z.boolean(),
  optional: z.boolean(),
});

const toolKind = z.enum([
  'jacket stripper',
  'coax stripper',
  'wire stripper',
  'side cutters',
  'flush cutters',
  'modular crimp tool',
  'insertion tool',
  'flat-jawed pliers',
  'hex crimp tool',
  'pin crimp tool',
  'compression tool',
  'splice crimp tool',
  'ribbon press',
  'soldering iron',
  'heat gun',
  'knife',
  'screwdriver',
  'spanner',
  'ferrule crimp tool',
  'two-row press',
]);

const contact = z.string().regex(/^[A-Za-z0-9]{1,4}$/, { error: 'A contact is 1 to 4 letters or figures.' });

const connectorFields = z.strictObject({
  id: typeId,
  name: line(80),
  group: z.enum([
    'modular plug',
    'jack',
    'panel and block',
    'telephone socket',
    'coax',
    'ribbon',
    'solder cup',
    'terminal',
    'splice',
  ]),
  kind: z.enum(['plug', 'jack', 'other']),
  recipe: z.enum([
    'plug-closed',
    'plug-pass-through',
    'jack-punched',
    'jack-toolless',
    'telephone-socket',
    'block',
    'coax-crimp',
    'coax-compression',
    'coax-screw-on',
    'coax-clamp',
    'terminal',
    'pairs-pressed',
    'ribbon-press',
    'solder-cup',
    'splice-solder-sleeve',
    'splice-solder',
    'splice-crimp',
    'splice-gel',
  ]),
  assignment: z.enum([
    'scheme',
    'scheme-m12',
    'modular-6',
    'british',
    'pair-count',
    'pair-rows',
    'ribbon',
    'one-to-one',
    'screen-first',
    'bus',
    'coax',
    'same-colour',
  ]),
  face: z.enum([
    'plug-8',
    'slots',
    'plug-6',
    'phone-slots',
    'block',
    'coax',
    'ribbon-10',
    'd-sub-9-plug',
    'd-sub-9-socket',
    'd-sub-15-plug',
    'd-sub-25-plug',
    'din-5-plug',
    'mini-din-8-plug',
    'xlr-3-plug',
    'xlr-3-socket',
    'two-rows-50',
    'terminals',
    'joint',
  ]),
  contacts: z.array(contact).min(1).max(200),
  screened: z.boolean(),
  bodyMm: mm(2000),
  stemMm: mm(100).nullable(),
  takes: z.strictObject({
    jacketMm: span.nullable(),
    conductorMm: span.nullable(),
    dielectricMm: span.nullable(),
    bareMm: span.nullable(),
    awg: z
      .strictObject({ thickest: gauge, thinnest: gauge })
      .refine(({ thickest, thinnest }) => thickest <= thinnest, {
        path: ['thinnest'],
        error: 'The thinner the wire, the higher its number: exchange the two.',
      })
      .nullable(),
    wire: z.enum(['solid', 'stranded', 'either']).nullable(),
  }),
  strip: z.strictObject({
    jacketMm: upToMm(600),
    screenMm: upToMm(600).nullable(),
    insulationMm: upToMm(600).nullable(),
    trimMm: upToMm(200).nullable(),
    toleranceMm: upToMm(20).optional(),
  }),
  slots: z
    .array(z.strictObject({ row: z.enum(['left', 'right']), place: z.int().min(0).max(50), contact }))
    .max(60),
  parts: z.array(part).max(8, { error: 'At most 8 parts.' }),
  tools: z.array(z.strictObject({ kind: toolKind, size: line(40).nullable() })).max(12),
  impedanceOhm: z.number().positive().max(1000).optional(),
  centre: z.enum(['pin', 'own', 'hollow tip']).optional(),
  hold: z.enum(['screw', 'spring']).optional(),
  nutted: z.literal(true).optional(),
  sheetDecides: z.literal(true).optional(),
  minutes: z.number().positive().max(600),
  source,
});

/** A connector type, with what must hold between its figures. */
export const connectorType = connectorFields.superRefine((connector, context) => {
  const complain = (path: (string | number)[], message: string): void => {
    context.addIssue({ code: 'custom', path, message });
  };
  connector.parts.forEach((p, i) => {
    if (p.outsideMm <= p.boreMm)
      complain(['parts', i, 'outsideMm'], `The outside is wider than the bore (${p.boreMm} mm).`);
  });
  const { jacketMm, screenMm, insulationMm, trimMm } = connector.strip;
  if (screenMm !== null && screenMm > jacketMm)
    complain(['strip', 'screenMm'], `The screen is not opened further than the jacket (${jacketMm} mm).`);
  const outer = screenMm ?? jacketMm;
  if (insulationMm !== null && outer > 0 && insulationMm > outer)
    complain(
      ['strip', 'insulationMm'],
      `The insulation is not opened further than what covers it (${outer} mm).`,
    );
  if (trimMm !== null && trimMm > jacketMm)
    complain(['strip', 'trimMm'], `No more can be left than the jacket was opened (${jacketMm} mm).`);
  const fed = connector.slots.map((slot) => slot.contact);
  const twice = fed.find((c, i) => fed.indexOf(c) !== i);
  if (twice !== undefined) complain(['slots'], `Contact ${twice} has two slots.`);
});

export const toolType = z.strictObject({
  id: typeId,
  name: line(80),
  kind: toolKind,
  sizes: z.array(line(40)).max(40),
  source,
});

/** What stands in the kit of one kind. */
export const kitKind = z.enum(['cable', 'connector', 'tool'], {
  error: 'A kit holds cables, connectors and tools.',
});
export type KitKind = z.infer<typeof kitKind>;

const asCables = z.array(cableType as z.ZodType<CableType>);
const asConnectors = z.array(connectorType as z.ZodType<ConnectorType>);
const asTools = z.array(toolType as z.ZodType<ToolType>);
const versionsOf = z.record(z.string(), z.int().positive());

/** Everything in the kit as it is now, and the version of each sheet. */
export const kit = z.object({
  cables: asCables,
  connectors: asConnectors,
  tools: asTools,
  versions: z.object({ cable: versionsOf, connector: versionsOf, tool: versionsOf }),
});
export type Kit = z.infer<typeof kit>;

/** One version of one sheet: who wrote it and when. A sheet that ships with the application names nobody. */
export const kitVersion = z.object({
  kind: kitKind,
  id: typeId,
  version: z.int().positive(),
  at: timestamp,
  by: z.string().nullable(),
  sheet: z.custom<CableType | ConnectorType | ToolType>((v) => typeof v === 'object' && v !== null),
});
export type KitVersion = z.infer<typeof kitVersion>;

/** A sheet to be kept: new, or the next version of one that was opened at `version`. */
export const newSheet = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('cable'), version: z.int().min(0), sheet: cableType }),
  z.strictObject({ kind: z.literal('connector'), version: z.int().min(0), sheet: connectorType }),
  z.strictObject({ kind: z.literal('tool'), version: z.int().min(0), sheet: toolType }),
]);
export type NewSheet = z.infer<typeof newSheet>;

/** Which sheet the other crews of the installation are to see. */
export const sheetToShare = z.strictObject({ kind: kitKind, id: typeId });
/** A sheet that a crew lets the others see, as it was when it said so. */
export const sharedSheet = z.object({
  kind: kitKind,
  id: typeId,
  version: z.int().positive(),
  /** What the crew is called. */
  crew: z.string(),
  /** Whether it is the crew's that asks. */
  own: z.boolean(),
  at: timestamp,
  sheet: z.custom<CableType | ConnectorType | ToolType>((v) => typeof v === 'object' && v !== null),
});
export type SharedSheet = z.infer<typeof sharedSheet>;

const TOO_MANY = { error: 'At most 500.' };

/** `near-spoke/kit`: sheets for exchange between crews. */
export const kitFile = z.strictObject({
  format: z.literal('near-spoke/kit', { error: 'The file does not begin with "format": "near-spoke/kit".' }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  cables: asCables.max(500, TOO_MANY).default([]),
  connectors: asConnectors.max(500, TOO_MANY).default([]),
  tools: asTools.max(500, TOO_MANY).default([]),
});
export type KitFile = z.infer<typeof kitFile>;
/** What an import did. */
export const kitImported = z.object({ added: z.int(), changed: z.int(), same: z.int() });

/** `near-spoke/half-done`: an end as it is, for the question what can still be done. */
export const halfDoneFile = z.strictObject({
  format: z.literal('near-spoke/half-done', {
    error: 'The file does not begin with "format": "near-spoke/half-done".',
  }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  cable: z.string(),
  connector: z.string(),
  scheme: z.enum(['T568A', 'T568B']).default('T568B'),
  done: z.array(z.string().max(60)).max(60),
});

/** How often connectors of a type are spoiled, by person and in all. */
export const spoilCount = z.object({
  crewId: uuid,
  by: z.string(),
  connectorTypeId: z.string(),
  good: z.int(),
  spoiled: z.int(),
});
export type SpoilCount = z.infer<typeof spoilCount>;
