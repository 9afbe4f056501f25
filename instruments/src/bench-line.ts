import {
  brokenLine,
  CABLE_TYPES,
  frameOf,
  lineOf,
  observe,
  type LinkEnd,
  type LineFault,
  type LineFigures,
  type Network,
} from '@near-spoke/core';
import { trueLink, type World, type WorldLink } from './world.js';

/** The lead between the bench oscilloscope and whatever is clipped on. */
export const LEAD = { cable: 'rg58', lengthM: 1 } as const;
/** A pair made of wires of two pairs has about this much more impedance. */
const SPLIT = 1.35;
/** How bad the water in a wet cable of the world is. */
const WET_SEVERITY = 0.35;
/** Joints of less resistance than this share of the impedance are not seen. */
const POOR_FROM = 0.02;
const POOR = { mild: 0.15, worst: 4 };

/** What is clipped on: a line of the world as the wave meets it. */
export type Clipped = Pick<Network, 'chain' | 'load'>;

const figuresOf = (cable: string, velocityFactor?: number): LineFigures => {
  const type = CABLE_TYPES.find(({ id }) => id === cable);
  if (!type) throw new Error(`The world names a cable ${cable}, which the library does not have.`);
  return lineOf(type, velocityFactor === undefined ? {} : { velocityFactor });
};

/** A link's pair, or a reel's outer end, behind the bench lead; null where the world has no such line or pair. */
export function clippedOn(world: World, lineId: string, end: LinkEnd, pair: string): Clipped | null {
  const { cable, lengthM } = LEAD;
  const lead = { kind: 'line', lengthM, line: figuresOf(cable) } as const;
  const reel = world.reels[lineId];
  if (reel) {
    const line = figuresOf(reel.cable, reel.velocityFactor);
    return { chain: [lead, { kind: 'line', lengthM: reel.lengthM, line }], load: 'open' };
  }
  const link = world.links[lineId];
  const clipped = link ? pairOf(link, end, pair) : null;
  return clipped && { ...clipped, chain: [lead, ...clipped.chain] };
}

/** A pair of a link as its reflectometer reading tells it: the same truth, seen by another instrument. */
function pairOf(world: WorldLink, end: LinkEnd, pair: string): Clipped | null {
  const { link, intended } = trueLink(world);
  const reading = observe(link, 'pair-reflectometer', { end, frame: frameOf(intended) });
  if (reading.instrument !== 'pair-reflectometer') return null;
  const name = pair === '' ? Object.keys(reading.pairs)[0] : pair;
  const echoes = name === undefined ? undefined : reading.pairs[name];
  if (name === undefined || !echoes) return null;
  const split = echoes.some(({ kind }) => kind === 'high');
  const sound = figuresOf(world.cable);
  const line = split ? { ...sound, impedanceOhm: SPLIT * sound.impedanceOhm } : sound;
  const faults = echoes.flatMap(({ kind, distanceM }): LineFault[] => {
    if (kind === 'high') return [];
    if (kind === 'low') return [{ kind: 'wet', atM: distanceM, severity: WET_SEVERITY }];
    // An open at the far end is the end itself, not a fault.
    return kind === 'open' && distanceM >= world.lengthM - 0.05
      ? []
      : [{ kind, atM: distanceM, severity: 1 }];
  });
  const conductors = name.split('-').map((contact) => link[end][contact]);
  const poor = link.poor.flatMap(({ place, ohm }): LineFault[] => {
    const share = ohm / line.impedanceOhm;
    const ours =
      'conductor' in place
        ? conductors.includes(place.conductor)
        : conductors.includes(link[place.end][place.contact] ?? undefined);
    if (!ours || share < POOR_FROM) return [];
    const fromNear = 'conductor' in place ? place.atM : place.end === 'near' ? 0 : world.lengthM;
    const severity = Math.log(share / POOR.mild) / Math.log(POOR.worst / POOR.mild);
    return [{ kind: 'poor', atM: end === 'near' ? fromNear : world.lengthM - fromNear, severity }];
  });
  return brokenLine(line, world.lengthM, [...faults, ...poor]);
}
