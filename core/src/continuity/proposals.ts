import type { ContactId } from '../cabling/schemes.js';
import type { CablePlace } from './catalogue.js';
import type { PhysicalFault } from './faults.js';
import type { Frame } from './frame.js';
import type { LinkState } from './link-state.js';
import { distanceDeviationM } from './observers/echoes.js';
import { closeMap, isMapReading, type Reading } from './readings.js';
import type { LinkEnd } from './true-link.js';

/** Places along the cable that a reflectometer showed, each with the share an unknown place gives it. */
export function placesToTry(frame: Frame, readings: readonly Reading[]): CablePlace[] {
  const { lengthM } = frame;
  const seen: number[] = [];
  for (const reading of readings) {
    if (reading.instrument !== 'pair-reflectometer') continue;
    for (const { kind, distanceM } of Object.values(reading.pairs).flat()) {
      const ownEnd = kind === 'open' && Math.abs(distanceM - lengthM) < 0.5 + 0.07 * lengthM;
      const here = distanceM < 2 * distanceDeviationM(0);
      const alikes = Object.values(reading.pairs)
        .flat()
        .filter((e) => e.kind === 'open' && Math.abs(e.distanceM - distanceM) < 1).length;
      if (here || (ownEnd && alikes > Object.keys(reading.pairs).length / 2)) continue;
      seen.push(reading.from === 'near' ? distanceM : lengthM - distanceM);
    }
  }
  const clusters: number[][] = [];
  for (const atM of seen.sort((a, b) => a - b)) {
    const last = clusters[clusters.length - 1];
    if (last && atM - (last[last.length - 1] as number) < 2 * distanceDeviationM(atM)) last.push(atM);
    else clusters.push([atM]);
  }
  const places = clusters.map((cluster): CablePlace => {
    const atM = cluster.reduce((a, b) => a + b, 0) / cluster.length;
    return { atM, share: Math.min(1, (2.5 * distanceDeviationM(atM)) / Math.max(1, lengthM)) };
  });
  const known = places.reduce((sum, { share }) => sum + share, 0);
  return [...places, { atM: null, share: Math.max(0.05, 1 - known) }];
}

/** The wirings of one end that would give a reading while the other end is as intended. */
export function wiringsThatGive(frame: Frame, base: LinkState, reading: Reading, end: LinkEnd): number[][] {
  const { at } = frame;
  const intendedAt = (side: LinkEnd, contact: number): number => base.cells[at[side] + contact] as number;
  if (reading.instrument === 'eye') {
    if (reading.end !== end) return [];
    return [
      frame.contacts[end].map((contact, c) => {
        const colour = reading.colours[contact];
        return colour === undefined
          ? intendedAt(end, c)
          : colour === null
            ? -1
            : frame.conductorIndex(colour);
      }),
    ];
  }
  if (!isMapReading(reading)) return [];
  const wiring = frame.contacts[end].map(() => -1);
  for (const [near, reached] of Object.entries(closeMap(reading).arrivals) as [
    ContactId,
    readonly ContactId[],
  ][]) {
    const far = reached[0];
    if (reached.length !== 1 || far === undefined) continue;
    const [n, f] = [frame.contactIndex('near', near), frame.contactIndex('far', far)];
    if (end === 'far') wiring[f] = intendedAt('near', n);
    else wiring[n] = intendedAt('far', f);
  }
  // What arrives nowhere still lies somewhere: the conductors left over on the contacts left over.
  const left = frame.contacts[end]
    .map((_, c) => intendedAt(end, c))
    .filter((w) => w >= 0 && !wiring.includes(w));
  const completed = wiring.map((w, c) => (w < 0 && intendedAt(end, c) >= 0 ? (left.shift() ?? -1) : w));
  return [completed];
}

/** Several wires out of place at one end, in an order no simple slip makes. */
export function wildOrder(
  frame: Frame,
  base: LinkState,
  end: LinkEnd,
  wiring: readonly number[],
  rate: number,
): PhysicalFault {
  const wrong = wiring.flatMap((w, c) => (w === base.cells[frame.at[end] + c] ? [] : [c]));
  const name = (w: number): string => frame.conductors[w] ?? 'nothing';
  return {
    kind: 'scrambled',
    slip: 'wild-order',
    end,
    contacts: wrong.map((c) => frame.contacts[end][c] as string),
    pairs: [],
    distanceM: null,
    rate,
    words: `${end === 'near' ? 'Near' : 'Far'} end: ${wrong
      .map((c) => `${name(wiring[c] as number)} on ${frame.contacts[end][c]}`)
      .join(', ')}`,
    effects: [{ does: 'wire', end, wiring }],
  };
}
