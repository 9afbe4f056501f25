import { intendedLink, type LinkExpectation, type TrueLink } from '../../src/index.js';
import type { WorldLink } from './world-link.js';

/** A link of the world as core's own words tell it; for comparing what both make of its resistances. */
export function asTrueLink(link: WorldLink, expected: LinkExpectation): TrueLink {
  const couples = <T>(list: readonly T[]): (readonly [T, T])[] =>
    list.slice(1).map((b, i) => [list[i] as T, b] as const);
  return {
    ...intendedLink(expected),
    lengthM: link.lengthM,
    ohmPerM: link.ohmPerM,
    near: { ...link.laid.near },
    far: { ...link.laid.far },
    unseated: link.joints.filter((j) => j.ohm === Infinity).map(({ end, contact }) => ({ end, contact })),
    poor: [
      ...link.joints
        .filter((j) => j.ohm !== Infinity)
        .map(({ end, contact, ohm }) => ({ place: { end, contact }, ohm })),
      ...link.breaks
        .filter((b) => b.ohm !== Infinity)
        .flatMap(({ wires, atM, ohm }) => wires.map((conductor) => ({ place: { conductor, atM }, ohm }))),
    ],
    breaks: link.breaks
      .filter((b) => b.ohm === Infinity)
      .flatMap(({ wires, atM }) => wires.map((conductor) => ({ conductor, atM }))),
    bridges: link.bridges.flatMap(({ end, contacts, ohm }) =>
      couples(contacts).map((two) => ({ end, contacts: two, ohm })),
    ),
    joins: link.touching.flatMap(({ wires, atM, ohm }) =>
      couples(wires).map((two) => ({ conductors: two, atM, ohm })),
    ),
    splices: link.splices.map(({ wires, atM }) => ({ conductors: wires, atM })),
    equipment: link.equipment,
    farPresent: !link.elsewhere,
  };
}
