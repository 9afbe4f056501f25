import { EIGHT_CONTACTS } from '../../cabling/schemes.js';
import type { ConnectorType } from '../connector-types.js';
import { boot, connector, EIGHT_AND_SCREEN, part, span, strip, takes, tool } from './build.js';

const eight = {
  group: 'modular plug',
  kind: 'plug',
  assignment: 'scheme',
  face: 'plug-8',
  bodyMm: 11.7,
  minutes: 4,
} as const;
const six = {
  group: 'modular plug',
  kind: 'plug',
  assignment: 'modular-6',
  face: 'plug-6',
  bodyMm: 9.7,
  minutes: 3,
} as const;
const preparing = [tool('jacket stripper'), tool('side cutters')];

/** Modular plugs with 8 and 6 places, on cords and on plug-ended links. */
export const MODULAR_PLUGS: readonly ConnectorType[] = [
  connector({
    ...eight,
    id: 'plug-closed',
    name: '8-contact plug, closed end',
    recipe: 'plug-closed',
    contacts: EIGHT_CONTACTS,
    takes: takes({
      jacketMm: span(5.0, 6.3),
      conductorMm: span(0.8, 1.05),
      awg: { thickest: 23, thinnest: 26 },
      wire: 'either',
    }),
    strip: strip(30, { trimMm: 13 }),
    parts: [boot(6.5)],
    tools: [...preparing, tool('modular crimp tool', '8')],
  }),
  connector({
    ...eight,
    id: 'plug-pass-through',
    name: '8-contact plug, pass-through',
    recipe: 'plug-pass-through',
    contacts: EIGHT_CONTACTS,
    takes: takes({
      jacketMm: span(5.0, 6.5),
      conductorMm: span(0.8, 1.1),
      awg: { thickest: 23, thinnest: 26 },
      wire: 'either',
    }),
    strip: strip(40),
    parts: [boot(6.8)],
    tools: [...preparing, tool('modular crimp tool', '8, cutting')],
  }),
  connector({
    ...eight,
    id: 'plug-pass-through-knife',
    name: '8-contact plug, pass-through, cut by knife',
    recipe: 'plug-pass-through',
    contacts: EIGHT_CONTACTS,
    takes: takes({
      jacketMm: span(5.0, 6.5),
      conductorMm: span(0.8, 1.1),
      awg: { thickest: 23, thinnest: 26 },
      wire: 'either',
    }),
    strip: strip(40),
    parts: [boot(6.8)],
    tools: [...preparing, tool('modular crimp tool', '8'), tool('knife')],
    minutes: 5,
  }),
  connector({
    ...eight,
    id: 'plug-outdoor',
    name: '8-contact plug, outdoor, screened, pass-through',
    recipe: 'plug-pass-through',
    contacts: EIGHT_AND_SCREEN,
    screened: true,
    stemMm: 8.1,
    takes: takes({
      jacketMm: span(6.5, 8.2),
      conductorMm: span(0.95, 1.15),
      awg: { thickest: 22, thinnest: 24 },
      wire: 'solid',
    }),
    strip: strip(42),
    parts: [part('sleeve', 8.6, 9.6, 14, { name: 'screen sleeve' }), boot(9.8)],
    tools: [...preparing, tool('modular crimp tool', '8, cutting')],
    minutes: 6,
  }),
  connector({
    ...eight,
    id: 'plug-large-bore',
    name: '8-contact plug, large bore for outdoor cable',
    recipe: 'plug-closed',
    contacts: EIGHT_CONTACTS,
    takes: takes({
      jacketMm: span(6.3, 7.6),
      conductorMm: span(0.95, 1.15),
      awg: { thickest: 22, thinnest: 24 },
      wire: 'solid',
    }),
    strip: strip(32, { trimMm: 14 }),
    parts: [boot(8.0)],
    tools: [...preparing, tool('modular crimp tool', '8')],
    minutes: 5,
  }),
  connector({
    ...eight,
    id: 'plug-screened',
    name: '8-contact plug, closed end, screened, with drain clip',
    recipe: 'plug-closed',
    contacts: EIGHT_AND_SCREEN,
    screened: true,
    takes: takes({
      jacketMm: span(5.8, 7.6),
      conductorMm: span(0.9, 1.15),
      awg: { thickest: 22, thinnest: 26 },
      wire: 'either',
    }),
    strip: strip(32, { trimMm: 13 }),
    parts: [boot(8.2)],
    tools: [...preparing, tool('modular crimp tool', '8')],
    minutes: 6,
  }),
  ...(
    [
      ['6p2c', '2', ['3', '4']],
      ['6p4c', '4', ['2', '3', '4', '5']],
      ['6p6c', '6', ['1', '2', '3', '4', '5', '6']],
    ] as const
  ).map(([id, count, contacts]) =>
    connector({
      ...six,
      id: `plug-${id}`,
      name: `6-place plug, ${count} contacts`,
      recipe: 'plug-closed',
      contacts,
      takes: takes({
        jacketMm: span(2.2, 4.8),
        conductorMm: span(0.8, 1.0),
        awg: { thickest: 24, thinnest: 28 },
        wire: 'either',
      }),
      strip: strip(10, { trimMm: 6 }),
      tools: [...preparing, tool('modular crimp tool', '6')],
    }),
  ),
];
