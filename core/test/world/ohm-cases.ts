import {
  frameOf,
  intendedLink,
  observe,
  seededRandom,
  type LinkExpectation,
  type Touch,
  type TouchReading,
} from '../../src/index.js';
import { drawWorld } from './draw-world.js';
import { asTrueLink } from './told-to-core.js';
import { netlistOf, type Netlist, type WorldLink } from './world-link.js';

/** One touch on one random link: what core's observer shows, and the netlist another solver can be given. */
export interface OhmCase {
  seed: number;
  link: WorldLink;
  expected: LinkExpectation;
  touch: Omit<Touch, 'closed'>;
  ohm: number;
  net: Netlist;
  from: string;
  to: string;
}

/** Touches that close on links with joints, joins and bridges of every kind, loose ones left out. */
export function ohmCases(count: number): OhmCase[] {
  const cases: OhmCase[] = [];
  for (let seed = 90_000; cases.length < count; seed++) {
    const { link, expected, kind } = drawWorld(seed, 1);
    if (kind.name === 'telephone') continue;
    link.joints = link.joints.filter((j) => j.openShare === undefined);
    link.breaks = link.breaks.filter((b) => b.openShare === undefined);
    // A splice lies half way in core's telling, wherever it is: its place is of no weight between like wires.
    const chance = seededRandom(seed);
    const contact = (): string => link.contacts[Math.floor(chance() * link.contacts.length)] as string;
    const end = (): 'near' | 'far' => (chance() < 0.5 ? 'near' : 'far');
    const touch = { from: { end: end(), contacts: [contact()] }, to: { end: end(), contacts: [contact()] } };
    if (touch.from.end === touch.to.end && touch.from.contacts[0] === touch.to.contacts[0]) continue;
    const frame = frameOf({ ...intendedLink(expected), ohmPerM: link.ohmPerM, lengthM: link.lengthM });
    const plan: TouchReading = { instrument: 'ohmmeter', touches: [{ ...touch, closed: false }] };
    const reading = observe(asTrueLink(link, expected), 'ohmmeter', { frame, plan }) as TouchReading;
    const ohm = reading.touches[0]?.ohm;
    if (ohm == null || ohm > 1e5) continue;
    const name = ({ end: e, contacts }: Touch['from']): string => `${e}:${contacts[0]}`;
    const net = netlistOf(link, () => false);
    cases.push({ seed, link, expected, touch, ohm, net, from: name(touch.from), to: name(touch.to) });
  }
  return cases;
}
