import * as z from 'zod';
import { line } from './text.js';

const command = z.string().min(1).max(400);
const query = command.refine((text) => text.trim().split(' ')[0]?.endsWith('?'), {
  error: 'A query ends in a question mark.',
});

/** What a command may name in braces, and the application fills in. */
export const SCOPE_PLACEHOLDERS = [
  'widthS',
  'riseS',
  'intervalS',
  'samples',
  'launchS',
  'line',
  'end',
  'pair',
] as const;
export type ScopePlaceholder = (typeof SCOPE_PLACEHOLDERS)[number];

const filled = command.refine(
  (text) =>
    [...text.matchAll(/\{(\w*)\}/g)].every(([, name]) => SCOPE_PLACEHOLDERS.some((known) => known === name)),
  { error: `In braces stand only ${SCOPE_PLACEHOLDERS.join(', ')}.` },
);

/** A figure of the preamble; "-" is passed by. */
export const preambleField = z.enum(['intervalS', 'startS', 'voltsPerCount', 'offsetV', 'points', '-']);

/**
 * `near-spoke/scope-adapter`: how a pulser and oscilloscope on the network are spoken to, so that
 * one can be put in the stand-in's place without a line of code.
 */
export const scopeAdapter = z.strictObject({
  format: z.literal('near-spoke/scope-adapter', {
    error: 'The file does not begin with "format": "near-spoke/scope-adapter".',
  }),
  formatVersion: z.literal(1, { error: 'Only version 1 of this format is known.' }),
  name: line(80),
  address: z.strictObject({ host: z.string().min(1), port: z.int().min(1).max(65_535) }),
  simulated: z.boolean().default(false),
  /** No answer for this long ends the exchange. */
  silenceMs: z.int().min(200).max(60_000).default(4000),
  identify: query,
  /** Sent in order before each acquisition. */
  setUp: z.array(filled).max(40),
  /** Tells a simulated bench, or a switch, which line is meant. */
  route: filled.optional(),
  /** Answers to queries among these are awaited, and what they say is passed by. */
  acquire: z.array(filled).min(1).max(10),
  /** Asked after set-up and after the acquisition; anything but an answer beginning with 0 is refused. */
  error: query.optional(),
  preamble: z
    .strictObject({ query, fields: z.array(preambleField).min(2).max(40) })
    .refine(({ fields }) => fields.includes('intervalS') && fields.includes('startS'), {
      error: 'The preamble has to hold intervalS and startS.',
    }),
  waveform: z.discriminatedUnion('form', [
    z.strictObject({ form: z.literal('ascii'), query }),
    z.strictObject({
      form: z.literal('block'),
      query,
      sample: z.enum(['int8', 'uint8', 'int16be', 'int16le', 'float32be', 'float32le']),
    }),
  ]),
  /** What the launch goes through before the cable, and what it is. */
  lead: z.strictObject({ lengthM: z.number().min(0).max(1000), velocityFactor: z.number().min(0.3).max(1) }),
  shape: z.enum(['pulse', 'step']),
});
export type ScopeAdapter = z.infer<typeof scopeAdapter>;
