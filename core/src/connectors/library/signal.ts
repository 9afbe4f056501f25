import type { ConnectorType } from '../connector-types.js';
import { connector, part, span, strip, takes, tool } from './build.js';

const numbers = (count: number): string[] => Array.from({ length: count }, (_, i) => String(i + 1));
const pressed = takes({
  jacketMm: span(0.7, 1.1),
  conductorMm: span(0.8, 1.0),
  awg: { thickest: 28, thinnest: 28 },
  wire: 'either',
});
const cup = takes({
  jacketMm: span(3, 8.5),
  conductorMm: span(0.7, 1.7),
  bareMm: span(0.3, 1.1),
  awg: { thickest: 20, thinnest: 28 },
  wire: 'either',
});
const soldering = [
  tool('jacket stripper'),
  tool('wire stripper'),
  tool('soldering iron'),
  tool('heat gun'),
  tool('screwdriver'),
];
const cupSleeve = part('heat-shrink', 2.4, 3.0, 12, { name: 'heat-shrink on each conductor', over: 'core' });

const cups = (
  id: string,
  name: string,
  count: number,
  face: ConnectorType['face'],
  bodyMm: number,
  minutes: number,
): ConnectorType =>
  connector({
    id,
    name,
    group: 'solder cup',
    recipe: 'solder-cup',
    assignment: 'one-to-one',
    face,
    contacts: numbers(count),
    screened: true,
    bodyMm,
    takes: cup,
    strip: strip(20, { insulationMm: 4 }),
    parts: [
      cupSleeve,
      part(
        'hood',
        9,
        bodyMm + 4,
        40,
        face.startsWith('d-sub') ? { name: 'hood', split: true } : { name: 'shell' },
      ),
    ],
    tools: soldering,
    minutes,
  });

const splice = (
  id: string,
  name: string,
  recipe: ConnectorType['recipe'],
  given: Pick<ConnectorType, 'parts' | 'tools' | 'takes' | 'strip' | 'minutes'>,
): ConnectorType =>
  connector({
    id,
    name,
    group: 'splice',
    recipe,
    assignment: 'same-colour',
    face: 'joint',
    contacts: ['a', 'b'],
    bodyMm: 1000,
    ...given,
  });

/** Ribbon sockets, solder-cup connectors and in-line splices. */
export const SIGNAL_CONNECTORS: readonly ConnectorType[] = [
  connector({
    id: 'ribbon-socket-10',
    name: 'Ribbon socket, 2x5',
    group: 'ribbon',
    recipe: 'ribbon-press',
    assignment: 'ribbon',
    face: 'ribbon-10',
    contacts: numbers(10),
    bodyMm: 17,
    takes: pressed,
    strip: strip(0),
    parts: [part('strain-relief', 14, 17, 5, { name: 'strain relief bar', split: true, optional: true })],
    tools: [tool('flush cutters'), tool('ribbon press')],
    minutes: 4,
  }),
  connector({
    id: 'ribbon-dsub-9',
    name: 'D-sub plug on ribbon, 9 contacts',
    group: 'ribbon',
    recipe: 'ribbon-press',
    assignment: 'ribbon',
    face: 'd-sub-9-plug',
    contacts: numbers(9),
    bodyMm: 31,
    takes: pressed,
    strip: strip(0),
    parts: [part('strain-relief', 14, 31, 5, { name: 'strain relief bar', split: true, optional: true })],
    tools: [tool('flush cutters'), tool('ribbon press')],
    minutes: 4,
  }),
  connector({
    id: 'ribbon-dsub-25',
    name: 'D-sub plug on ribbon, 25 contacts',
    group: 'ribbon',
    recipe: 'ribbon-press',
    assignment: 'ribbon',
    face: 'd-sub-25-plug',
    contacts: numbers(25),
    bodyMm: 53,
    takes: pressed,
    strip: strip(0),
    parts: [part('strain-relief', 34, 53, 5, { name: 'strain relief bar', split: true, optional: true })],
    tools: [tool('flush cutters'), tool('ribbon press')],
    minutes: 5,
  }),
  cups('dsub-9-plug', 'D-sub plug, 9 solder cups', 9, 'd-sub-9-plug', 31, 25),
  cups('dsub-9-socket', 'D-sub socket, 9 solder cups', 9, 'd-sub-9-socket', 31, 25),
  cups('dsub-15-plug', 'D-sub plug, 15 solder cups', 15, 'd-sub-15-plug', 39, 38),
  cups('dsub-25-plug', 'D-sub plug, 25 solder cups', 25, 'd-sub-25-plug', 53, 60),
  cups('din-5-plug', 'DIN plug, 5 contacts, solder', 5, 'din-5-plug', 15, 18),
  ...(['plug', 'socket'] as const).map((kind) => ({
    ...cups(`xlr-3-${kind}`, `XLR ${kind}, 3 contacts, solder`, 3, `xlr-3-${kind}`, 15, 12),
    assignment: 'screen-first' as const,
  })),
  {
    ...cups('dc-barrel-plug', 'DC barrel plug, 5.5 by 2.5 mm, solder', 2, 'terminals', 9, 8),
    contacts: ['C', 'S'],
    screened: false,
  },
  cups('mini-din-8-plug', 'Mini-DIN plug, 8 contacts, solder', 8, 'mini-din-8-plug', 12, 28),
  splice('splice-solder-sleeve', 'In-line splice, solder sleeve', 'splice-solder-sleeve', {
    takes: takes({
      conductorMm: span(1.0, 2.4),
      bareMm: span(0.5, 1.2),
      awg: { thickest: 18, thinnest: 24 },
      wire: 'either',
    }),
    strip: strip(60, { insulationMm: 8 }),
    parts: [part('solder-sleeve', 2.7, 3.6, 26, { name: 'solder sleeve', over: 'core' })],
    tools: [tool('wire stripper'), tool('heat gun')],
    minutes: 4,
  }),
  splice('splice-solder', 'In-line splice, solder and heat-shrink', 'splice-solder', {
    takes: takes({
      conductorMm: span(0.8, 2.9),
      bareMm: span(0.3, 1.6),
      awg: { thickest: 16, thinnest: 28 },
      wire: 'either',
    }),
    strip: strip(60, { insulationMm: 15 }),
    parts: [part('heat-shrink', 3.2, 3.9, 40, { name: 'heat-shrink', over: 'core' })],
    tools: [tool('wire stripper'), tool('soldering iron'), tool('heat gun')],
    minutes: 7,
  }),
  splice('splice-crimp', 'In-line splice, crimp joint', 'splice-crimp', {
    takes: takes({
      conductorMm: span(1.2, 2.9),
      bareMm: span(0.7, 1.5),
      awg: { thickest: 16, thinnest: 22 },
      wire: 'stranded',
    }),
    strip: strip(60, { insulationMm: 7 }),
    parts: [
      part('heat-shrink', 5.2, 6.0, 35, { name: 'heat-shrink over the joint', over: 'core', optional: true }),
    ],
    tools: [tool('wire stripper'), tool('splice crimp tool', '16-22 AWG'), tool('heat gun')],
    minutes: 3,
  }),
  splice('splice-gel', 'In-line splice, gel connector', 'splice-gel', {
    takes: takes({
      conductorMm: span(0.8, 2.1),
      bareMm: span(0.38, 0.95),
      awg: { thickest: 19, thinnest: 26 },
      wire: 'solid',
    }),
    strip: strip(60),
    parts: [],
    tools: [tool('side cutters'), tool('flat-jawed pliers')],
    minutes: 2,
  }),
];
