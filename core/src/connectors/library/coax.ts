import type { ConnectorType, Span, Takes } from '../connector-types.js';
import { connector, part, span, strip, takes, tool } from './build.js';

/** What the cutters of coax strippers are ground for: outside it they miss the screen, or go through it (typical, millimetres). */
export const COAX_CUTTERS: Readonly<Record<string, { jacketMm: Span; dielectricMm: Span }>> = {
  'RG-58': { jacketMm: span(4.6, 5.3), dielectricMm: span(2.7, 3.1) },
  'RG-59/6': { jacketMm: span(5.8, 7.9), dielectricMm: span(3.5, 4.8) },
  'mini-8': { jacketMm: span(5.8, 6.4), dielectricMm: span(3.7, 4.1) },
  'RG-213': { jacketMm: span(9.7, 10.7), dielectricMm: span(7.0, 7.5) },
  'RG-174': { jacketMm: span(2.4, 3.0), dielectricMm: span(1.4, 1.7) },
};

/** What each coax size asks of a connector made for it (typical, millimetres; dies in inches across flats). */
const SIZES = {
  'RG-58': {
    jacket: span(4.7, 5.2),
    dielectric: span(2.8, 3.05),
    bare: span(0.8, 1.0),
    die: '.213',
    ferruleBore: 5.6,
    stripper: 'RG-58',
  },
  'RG-59': {
    jacket: span(5.9, 6.3),
    dielectric: span(3.55, 3.8),
    bare: span(0.55, 0.85),
    die: '.255',
    ferruleBore: 6.7,
    stripper: 'RG-59/6',
  },
  'mini-8': {
    jacket: span(5.9, 6.3),
    dielectric: span(3.75, 4.05),
    bare: span(1.35, 1.55),
    die: '.255',
    ferruleBore: 6.7,
    stripper: 'mini-8',
  },
  'RG-6': {
    jacket: span(6.6, 7.1),
    dielectric: span(4.45, 4.7),
    bare: span(0.95, 1.1),
    die: '.324',
    ferruleBore: 7.9,
    stripper: 'RG-59/6',
  },
  'RG-6 quad': {
    jacket: span(7.2, 7.8),
    dielectric: span(4.45, 4.7),
    bare: span(0.95, 1.1),
    die: '.360',
    ferruleBore: 8.5,
    stripper: 'RG-59/6',
  },
  'RG-213': {
    jacket: span(9.8, 10.6),
    dielectric: span(7.05, 7.4),
    bare: span(2.1, 2.4),
    die: '.429',
    ferruleBore: 11.2,
    stripper: 'RG-213',
  },
  'RG-174': {
    jacket: span(2.5, 2.9),
    dielectric: span(1.45, 1.6),
    bare: span(0.44, 0.52),
    die: '.128',
    ferruleBore: 3.3,
    stripper: 'RG-174',
  },
  'RG-11': {
    jacket: span(9.9, 10.6),
    dielectric: span(7.0, 7.3),
    bare: span(1.55, 1.7),
    die: '.429',
    ferruleBore: 11.2,
    stripper: 'RG-213',
  },
  '10 mm low-loss': {
    jacket: span(10.0, 10.6),
    dielectric: span(7.1, 7.4),
    bare: span(2.65, 2.85),
    die: '.429',
    ferruleBore: 11.2,
    stripper: 'RG-213',
  },
} as const;
type Size = keyof typeof SIZES;
/** Sizes of 75 ohm; the others are of 50. */
const SEVENTY_FIVE: readonly Size[] = ['RG-59', 'RG-6', 'RG-6 quad', 'RG-11'];

const FAMILIES = {
  BNC: { bodyMm: 14.5, centre: 'pin', ohm: 'as the cable', jacket: 13, screen: 8, dielectric: 4 },
  F: { bodyMm: 11, centre: 'own', ohm: 75, jacket: 12.7, screen: 6.4, dielectric: 6.4 },
  N: { bodyMm: 20, centre: 'pin', ohm: 50, jacket: 22, screen: 14, dielectric: 6 },
  SMA: { bodyMm: 9, centre: 'pin', ohm: 50, jacket: 11, screen: 7, dielectric: 3 },
  TNC: { bodyMm: 14.5, centre: 'pin', ohm: 50, jacket: 13, screen: 8, dielectric: 4 },
  UHF: { bodyMm: 18, centre: 'hollow tip', ohm: null, jacket: 24, screen: 16, dielectric: 15 },
  phono: { bodyMm: 12, centre: 'hollow tip', ohm: null, jacket: 12, screen: 6.4, dielectric: 6.4 },
  aerial: { bodyMm: 12, centre: 'pin', ohm: 75, jacket: 20, screen: 12, dielectric: 9 },
} as const;
type Family = keyof typeof FAMILIES;
/** Mated by a nut. */
const NUTTED: readonly Family[] = ['F', 'N', 'SMA', 'TNC', 'UHF'];

const fits = (size: Size): Takes => {
  const { jacket, dielectric, bare } = SIZES[size];
  return takes({ jacketMm: jacket, dielectricMm: dielectric, bareMm: bare, wire: 'either' });
};
const slug = (words: string): string => words.toLowerCase().replace(/[^a-z0-9]+/g, '');

function base(family: Family, size: Size, way: string, id?: string) {
  const { bodyMm, centre, ohm, jacket, screen, dielectric } = FAMILIES[family];
  const impedanceOhm = ohm === 'as the cable' ? (SEVENTY_FIVE.includes(size) ? 75 : 50) : ohm;
  return {
    id: id ?? `${slug(family)}-${slug(way)}-${slug(size)}`,
    name: `${family} plug, ${way}, for ${size}`,
    group: 'coax',
    assignment: 'coax',
    face: 'coax',
    contacts: ['C', 'S'],
    screened: true,
    bodyMm,
    takes: fits(size),
    strip: strip(jacket, { screenMm: screen, insulationMm: dielectric }),
    centre,
    ...(NUTTED.includes(family) ? { nutted: true as const } : {}),
    ...(impedanceOhm === null ? {} : { impedanceOhm }),
  } as const;
}

/** Heat-shrink as it is sold, over its bore as supplied. */
const TUBES_MM = [4.8, 6.4, 9.5, 12.7, 19];

function crimp(family: Family, size: Size, id?: string): ConnectorType {
  const { die, ferruleBore, stripper } = SIZES[size];
  const thick = SIZES[size].die === '.429';
  const tube = TUBES_MM.find((mm) => mm > ferruleBore + 1.2) ?? 19;
  return connector({
    ...base(family, size, 'crimp', id),
    recipe: 'coax-crimp',
    stemMm: Math.round((ferruleBore - 0.3) * 10) / 10,
    parts: [
      part('ferrule', ferruleBore, Math.round((ferruleBore + 1.2) * 10) / 10, thick ? 16 : 12),
      part('heat-shrink', tube, tube + 0.8, thick ? 50 : 35, { name: 'heat-shrink', optional: true }),
    ],
    tools: [
      tool('coax stripper', stripper),
      tool('hex crimp tool', die),
      ...(FAMILIES[family].centre === 'pin' ? [tool('pin crimp tool', thick ? '.100' : '.068')] : []),
      ...(FAMILIES[family].centre === 'hollow tip' ? [tool('soldering iron')] : []),
      tool('heat gun'),
    ],
    minutes: family === 'N' ? 8 : 5,
  });
}

function compression(family: Family, size: Size, id?: string): ConnectorType {
  return connector({
    ...base(family, size, 'compression', id),
    recipe: 'coax-compression',
    tools: [tool('coax stripper', SIZES[size].stripper), tool('compression tool', family)],
    minutes: 3,
  });
}

function screwOn(family: Family, size: Size): ConnectorType {
  return connector({
    ...base(family, size, 'screw-on'),
    recipe: 'coax-screw-on',
    tools: [tool('coax stripper', SIZES[size].stripper), tool('flat-jawed pliers')],
    minutes: 3,
  });
}

/** The 9.5 mm aerial plug (IEC 61169-2): a clamp under a cap holds the cable, the pin is soldered. */
function aerial(size: Size): ConnectorType {
  return connector({
    ...base('aerial', size, '9.5 mm, clamp'),
    recipe: 'coax-clamp',
    parts: [
      part('cap', SIZES[size].jacket.max + 0.6, 14, 18, { name: 'cap' }),
      part('ferrule', SIZES[size].jacket.max + 0.3, 9.5, 6, { name: 'clamp', split: true }),
    ],
    tools: [
      tool('coax stripper', SIZES[size].stripper),
      tool('soldering iron'),
      tool('side cutters'),
      tool('flat-jawed pliers'),
    ],
    minutes: 6,
  });
}

/** Coax connectors by family, way of holding, and cable size. */
export const COAX_CONNECTORS: readonly ConnectorType[] = [
  compression('F', 'RG-6', 'coax-f'),
  crimp('N', 'RG-213', 'coax-n'),
  ...(['RG-58', 'RG-59', 'mini-8', 'RG-6'] as const).map((size) => crimp('BNC', size)),
  ...(['RG-58', 'mini-8'] as const).map((size) => crimp('N', size)),
  ...(['RG-59', 'RG-6', 'RG-6 quad'] as const).map((size) => crimp('F', size)),
  crimp('phono', 'RG-59'),
  ...(['RG-59', 'RG-6 quad'] as const).map((size) => compression('F', size)),
  ...(['RG-59', 'RG-6'] as const).map((size) => compression('BNC', size)),
  ...(['RG-59', 'RG-6'] as const).map((size) => compression('phono', size)),
  compression('N', 'RG-213'),
  ...(['RG-59', 'RG-6'] as const).map((size) => screwOn('F', size)),
  ...(['RG-58', 'RG-59'] as const).map((size) => screwOn('BNC', size)),
  screwOn('phono', 'RG-59'),
  screwOn('N', 'RG-213'),
  crimp('BNC', 'RG-174'),
  ...(['RG-174', 'RG-58', 'mini-8'] as const).map((size) => crimp('SMA', size)),
  ...(['RG-58', 'mini-8'] as const).map((size) => crimp('TNC', size)),
  ...(['RG-58', 'mini-8', 'RG-213'] as const).map((size) => crimp('UHF', size)),
  crimp('N', '10 mm low-loss'),
  compression('F', 'RG-11'),
  ...(['RG-59', 'RG-6'] as const).map(aerial),
];
