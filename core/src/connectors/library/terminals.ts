import type { ConnectorType } from '../connector-types.js';
import { connector, part, span, strip, takes, tool } from './build.js';

const upTo = (count: number): string[] => Array.from({ length: count }, (_, i) => String(i + 1));
const clamp = takes({
  jacketMm: span(1, 25),
  conductorMm: span(0.7, 3.2),
  bareMm: span(0.35, 1.8),
  awg: { thickest: 14, thinnest: 26 },
  wire: 'either',
});
/** Pushed over the bared strands: its collar keeps them together, its sleeve is crimped on them. */
const bootlace = part('ferrule', 3.4, 4.2, 14, { name: 'bootlace ferrule for each wire', over: 'end' });
const preparing = [tool('jacket stripper'), tool('wire stripper'), tool('ferrule crimp tool')];

const terminals = (
  hold: 'screw' | 'spring',
  count: number,
  given: Partial<ConnectorType> = {},
): ConnectorType =>
  connector({
    id: `terminals-${hold}-${count}`,
    name: `${hold === 'screw' ? 'Screw' : 'Spring'} terminals, ${count}`,
    group: 'terminal',
    recipe: 'terminal',
    hold,
    assignment: 'one-to-one',
    face: 'terminals',
    contacts: upTo(count),
    bodyMm: 40,
    takes: clamp,
    // The ferrule's sleeve of 8 mm and its collar.
    strip: strip(60, { insulationMm: 10 }),
    parts: [bootlace],
    tools: [...preparing, tool('screwdriver')],
    minutes: 2 + count,
    ...given,
  });

const inShell = (
  id: string,
  name: string,
  contacts: readonly string[],
  given: Pick<ConnectorType, 'assignment' | 'bodyMm' | 'takes' | 'minutes'> & Partial<ConnectorType>,
): ConnectorType =>
  connector({
    id,
    name,
    group: 'terminal',
    recipe: 'terminal',
    hold: 'screw',
    face: 'terminals',
    contacts,
    strip: strip(20, { insulationMm: 6, toleranceMm: 0.5 }),
    parts: [bootlace, part('hood', given.bodyMm - 2, given.bodyMm + 2, 35, { name: 'shell' })],
    tools: [...preparing, tool('screwdriver')],
    sheetDecides: true,
    ...given,
  });

/** Terminals of panels, controllers and buses, and plugs that hold their wires by screws. */
export const TERMINALS: readonly ConnectorType[] = [
  ...[2, 4, 5, 6, 8].map((count) => terminals('screw', count)),
  ...[2, 4, 6, 8].map((count) => terminals('spring', count)),
  terminals('screw', 3, {
    id: 'terminals-bus',
    name: 'Bus terminals A, B and common',
    assignment: 'bus',
    contacts: ['A', 'B', 'C'],
  }),
  inShell('dc-barrel-screw', 'DC barrel plug, 5.5 by 2.1 mm, screw terminals', ['C', 'S'], {
    assignment: 'one-to-one',
    bodyMm: 12,
    takes: takes({ ...clamp, jacketMm: span(2.5, 9.5) }),
    minutes: 5,
  }),
  inShell('speaker-4', 'Speaker plug, 4 poles, twist lock', ['1P', '1N', '2P', '2N'], {
    assignment: 'one-to-one',
    bodyMm: 24,
    takes: takes({ ...clamp, jacketMm: span(5, 15), awg: { thickest: 11, thinnest: 20 } }),
    minutes: 8,
  }),
];
