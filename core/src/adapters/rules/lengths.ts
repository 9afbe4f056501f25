import { familyOf, type AdapterDesign, type AdapterNet, type PlacedPin } from '../design.js';
import { listens, named, canDrive, places, type RuleFinding } from './finding.js';

/** How far a signal of a kind goes by wire at its usual speed, metres (typical). */
const REACHES: readonly {
  name: string;
  metres: number;
  why: string;
  is: (net: AdapterNet, design: Pick<AdapterDesign, 'ends'>) => boolean;
}[] = [
  {
    name: 'USB',
    metres: 5,
    why: 'its answers have to be back within a bit’s time',
    is: ({ pins }, { ends }) =>
      pins.some((placed) => {
        const layout = ends.find(({ id }) => id === placed.end)?.layout;
        return typeof layout === 'string' && layout.includes('usb-') && (canDrive(placed) || listens(placed));
      }),
  },
  {
    name: 'RS-232',
    metres: 15,
    why: 'its drivers lift about 2500 pF: slower speeds go further',
    is: ({ pins }) => pins.some(({ pin }) => familyOf(pin)?.inverted === true),
  },
  {
    name: 'a bus with pull-ups',
    metres: 1,
    why: 'they are weak: capacitance rounds its edges off',
    is: ({ pins }) => pins.some((placed) => carriesData(placed, /^(SDA|SCL)/i)),
  },
  {
    name: 'a signal of logic levels',
    metres: 3,
    why: 'edges ring on a line without ends, and grounds differ',
    is: ({ pins }) =>
      pins.some((placed) => carriesData(placed, /^(U?(TX|RX)D?\d?|SC?L?K|CLK|MISO|MOSI|DATA)\b/i)),
  },
];
/** What a signal is called tells whether it carries bits or is held for seconds: a lamp or a key goes any length. */
const carriesData = (placed: PlacedPin, called: RegExp): boolean =>
  canDrive(placed) && called.test(placed.pin.signal) && familyOf(placed.pin) !== null;

/** Signals that the lead is too long for. */
export function lengthRules(nets: readonly AdapterNet[], design: AdapterDesign): RuleFinding[] {
  return REACHES.flatMap(({ name, metres, why, is }, i) => {
    const far = nets.filter(
      (net) =>
        net.pins.length > 1 &&
        new Set(net.pins.map(({ end }) => end)).size > 1 &&
        is(net, design) &&
        !REACHES.slice(0, i).some((earlier) => earlier.is(net, design)),
    );
    if (far.length === 0 || design.lengthM <= metres) return [];
    const pins = far.flatMap((net) => net.pins).filter((placed) => canDrive(placed) || listens(placed));
    return [
      {
        rule: 'too-long' as const,
        severity: 'unsure' as const,
        contacts: places(pins),
        words: `${named(pins)}: ${name} goes about ${metres} m by wire at its usual speed, this lead is ${design.lengthM} m: ${why}.`,
        remedy: 'Make it shorter, go slower, or take a line driver at both ends.',
      },
    ];
  });
}
