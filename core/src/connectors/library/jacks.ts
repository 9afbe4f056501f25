import { EIGHT_CONTACTS } from '../../cabling/schemes.js';
import type { ConnectorType } from '../connector-types.js';
import { connector, EIGHT_AND_SCREEN, part, slots, span, strip, takes, tool } from './build.js';

const jack = {
  group: 'jack',
  kind: 'jack',
  assignment: 'scheme',
  face: 'slots',
  contacts: EIGHT_CONTACTS,
} as const;
const idc = takes({
  jacketMm: span(4.5, 8.5),
  conductorMm: span(0.8, 1.5),
  awg: { thickest: 22, thinnest: 26 },
  wire: 'solid',
});
const preparing = [tool('jacket stripper'), tool('side cutters')];
const punching = [...preparing, tool('insertion tool', '110')];

/** Jacks, panel rows and wall blocks with insulation-displacement slots. */
export const JACKS: readonly ConnectorType[] = [
  connector({
    ...jack,
    id: 'jack-punched',
    name: '8-contact jack, punched',
    recipe: 'jack-punched',
    bodyMm: 16.5,
    takes: idc,
    strip: strip(40),
    slots: slots('5412', '8736'),
    tools: punching,
  }),
  connector({
    ...jack,
    id: 'jack-toolless',
    name: '8-contact jack, tool-less',
    recipe: 'jack-toolless',
    bodyMm: 17,
    takes: idc,
    strip: strip(45),
    slots: slots('1245', '3678'),
    parts: [part('cap', 9, 17, 14, { name: 'wiring cap' })],
    tools: [tool('jacket stripper'), tool('flush cutters'), tool('flat-jawed pliers')],
    minutes: 4,
  }),
  connector({
    ...jack,
    id: 'jack-punched-screened',
    name: '8-contact jack, punched, screened',
    recipe: 'jack-punched',
    contacts: EIGHT_AND_SCREEN,
    screened: true,
    bodyMm: 17.5,
    takes: takes({ ...idc, jacketMm: span(5.5, 8.5), conductorMm: span(0.9, 1.6) }),
    strip: strip(40),
    slots: slots('5412', '8736'),
    parts: [part('tie', 12, 14, 4, { name: 'screen hood tie', split: true })],
    tools: punching,
    minutes: 7,
  }),
  connector({
    ...jack,
    id: 'jack-toolless-screened',
    name: '8-contact jack, tool-less, screened',
    recipe: 'jack-toolless',
    contacts: EIGHT_AND_SCREEN,
    screened: true,
    bodyMm: 19,
    takes: takes({ ...idc, jacketMm: span(5.5, 9.0), conductorMm: span(0.9, 1.6) }),
    strip: strip(50),
    slots: slots('1245', '3678'),
    parts: [part('cap', 10, 19, 18, { name: 'metal wiring cap' })],
    tools: [tool('jacket stripper'), tool('flush cutters'), tool('flat-jawed pliers')],
    minutes: 6,
  }),
  connector({
    ...jack,
    id: 'panel-row',
    name: 'Patch panel port, punched row',
    group: 'panel and block',
    recipe: 'jack-punched',
    bodyMm: 30,
    takes: idc,
    strip: strip(40),
    // Pair by pair, as they are punched: blue, orange, green, brown.
    slots: slots('5412', '3678'),
    tools: punching,
  }),
  connector({
    ...jack,
    id: 'wall-block-row',
    name: 'Wall block outlet, punched row',
    group: 'panel and block',
    recipe: 'jack-punched',
    bodyMm: 40,
    takes: idc,
    strip: strip(45),
    slots: slots('1236', '4578'),
    tools: punching,
  }),
];

const line = ['a', 'b'];

/** Telephone sockets and blocks. */
export const TELEPHONE: readonly ConnectorType[] = [
  ...(
    [
      ['phone-master', 'master (own side only)', 7],
      ['phone-secondary', 'secondary', 6],
      ['phone-socket', 'extension', 6],
    ] as const
  ).map(([id, place, minutes]) =>
    connector({
      id,
      name: `Telephone socket, British style, ${place}`,
      group: 'telephone socket',
      recipe: 'telephone-socket',
      assignment: 'british',
      face: 'phone-slots',
      contacts: line,
      bodyMm: 60,
      takes: takes({
        jacketMm: span(3, 7),
        conductorMm: span(0.7, 1.1),
        awg: { thickest: 23, thinnest: 26 },
        wire: 'solid',
      }),
      strip: strip(50),
      slots: slots('123', '654'),
      tools: [...preparing, tool('insertion tool', 'British')],
      minutes,
    }),
  ),
  connector({
    id: 'phone-jack-6',
    name: 'Modular telephone jack, 6 places, punched',
    group: 'telephone socket',
    recipe: 'telephone-socket',
    assignment: 'modular-6',
    face: 'phone-slots',
    contacts: line,
    bodyMm: 17,
    takes: takes({
      jacketMm: span(3, 7),
      conductorMm: span(0.7, 1.2),
      awg: { thickest: 22, thinnest: 26 },
      wire: 'solid',
    }),
    strip: strip(40),
    slots: slots('123', '654'),
    tools: [...preparing, tool('insertion tool', '110')],
    minutes: 5,
  }),
  connector({
    id: 'block-66',
    name: 'Punch-down block, 66 style, 25 pairs',
    group: 'panel and block',
    recipe: 'block',
    assignment: 'pair-count',
    face: 'block',
    contacts: Array.from({ length: 50 }, (_, i) => String(i + 1)),
    bodyMm: 90,
    takes: takes({
      jacketMm: span(4, 14),
      conductorMm: span(0.7, 1.5),
      awg: { thickest: 20, thinnest: 26 },
      wire: 'solid',
    }),
    strip: strip(300),
    tools: [...preparing, tool('insertion tool', '66')],
    minutes: 25,
  }),
  connector({
    id: 'block-110',
    name: 'Punch-down block, 110 style, 25 pairs',
    group: 'panel and block',
    recipe: 'block',
    assignment: 'pair-count',
    face: 'block',
    contacts: Array.from({ length: 50 }, (_, i) => String(i + 1)),
    bodyMm: 90,
    takes: takes({
      jacketMm: span(4, 14),
      conductorMm: span(0.7, 1.4),
      awg: { thickest: 22, thinnest: 26 },
      wire: 'solid',
    }),
    strip: strip(250),
    tools: [...preparing, tool('insertion tool', '110')],
    minutes: 22,
  }),
];
