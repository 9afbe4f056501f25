import type { ConnectorType, Span, Takes } from '../connector-types.js';
import { connector, part, span, strip, takes, tool } from './build.js';

/** What the cutters of coax strippers are ground for: outside it they miss the screen, or go through it (typical, millimetres). */
export const COAX_CUTTERS: Readonly<Record<string, { jacketMm: Span; dielectricMm: Span }>> = {
  'RG-58': { jacketMm: span(4.6, 5.3), dielectricMm: span(2.7, 3.1) },
  'RG-59/6': { jacketMm: span(5.8, 7.9), dielectricMm: span(3.5, 4.8) },
  'mini-8': { jacketMm: span(5.8, 6.4), dielectricMm: span(3.7, 4.1) },
  'RG-213': { jacketMm: span(9.7, 10.7), dielectricMm: span(7.0, 7.5) },
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
} as const;
type Size = keyof typeof SIZES;

const FAMILIES = {
  BNC: { bodyMm: 14.5, pin: true, jacket: 13, screen: 8, dielectric: 4 },
  F: { bodyMm: 11, pin: false, jacket: 12.7, screen: 6.4, dielectric: 6.4 },
  N: { bodyMm: 20, pin: true, jacket: 22, screen: 14, dielectric: 6 },
  phono: { bodyMm: 12, pin: false, jacket: 12, screen: 6.4, dielectric: 6.4 },
} as const;
type Family = keyof typeof FAMILIES;

const fits = (size: Size): Takes => {
  const { jacket, dielectric, bare } = SIZES[size];
  return takes({ jacketMm: jacket, dielectricMm: dielectric, bareMm: bare, wire: 'either' });
};
const slug = (words: string): string => words.toLowerCase().replace(/[^a-z0-9]+/g, '');

function base(family: Family, size: Size, way: string, id?: string) {
  const { bodyMm, jacket, screen, dielectric } = FAMILIES[family];
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
  } as const;
}

function crimp(family: Family, size: Size, id?: string): ConnectorType {
  const { die, ferruleBore, stripper } = SIZES[size];
  const thick = size === 'RG-213';
  return connector({
    ...base(family, size, 'crimp', id),
    recipe: 'coax-crimp',
    stemMm: Math.round((ferruleBore - 0.3) * 10) / 10,
    parts: [part('ferrule', ferruleBore, Math.round((ferruleBore + 1.2) * 10) / 10, thick ? 16 : 12)],
    tools: [
      tool('coax stripper', stripper),
      tool('hex crimp tool', die),
      ...(FAMILIES[family].pin ? [tool('pin crimp tool', thick ? '.100' : '.068')] : []),
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
];
