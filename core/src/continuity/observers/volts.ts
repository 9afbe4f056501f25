import { drawNormal } from '../../quantities/random.js';
import { INSTRUMENTS } from '../instruments.js';
import type { Frame } from '../frame.js';
import type { LinkState } from '../link-state.js';
import { Metal } from '../metal.js';
import type { VoltageReading } from '../readings.js';
import type { LinkEnd } from '../true-link.js';
import { openFrom, solved, type Likelihood, type Observer } from './observer.js';

const { errors, thresholdOhm } = INSTRUMENTS['dc-voltage'];
/** What a telephone exchange puts on an idle line, a leg against b leg (domain: section 7). */
export const LINE_VOLTS = 48;
const noiseVolts = (volts: number): number => 0.5 + 0.05 * Math.abs(volts);

/** Volts across contacts of one end while the other end is fed. A meter loads a line so little that poor joints hide. */
export const voltageObserver: Observer<VoltageReading> = {
  read(look, { end, plan }, random) {
    const { frame } = look;
    const asked = plan?.instrument === 'dc-voltage' ? plan : null;
    const at = asked?.end ?? end;
    const feed = asked?.feed ?? { contacts: firstPair(frame, other(at)), volts: LINE_VOLTS };
    const pairs = asked
      ? asked.across.map((reading) => reading.contacts)
      : frame.pairs[at].map(({ a, b }) => namesOf(frame, at, a, b));
    const metal = solved(look, thresholdOhm, random);
    const across = pairs.map((contacts) => {
      const ideal = voltsAcross(frame, metal, at, feed, contacts);
      if (!random) return { contacts, volts: ideal };
      const draw = random();
      const read = draw < errors.missed ? 0 : draw > 1 - errors.wrong ? -ideal : ideal;
      return { contacts, volts: Math.round((read + noiseVolts(read) * drawNormal(random)) * 10) / 10 };
    });
    return { instrument: 'dc-voltage', end: at, feed, across };
  },
  likelihood: (frame, reading, group) => new VoltageLikelihood(frame, reading, group),
  grouped: (frame, { end, across }) =>
    across.every(({ contacts: [x, y] }) => groupAt(frame, end, x) === groupAt(frame, end, y)),
};

const other = (end: LinkEnd): LinkEnd => (end === 'near' ? 'far' : 'near');
const groupAt = (frame: Frame, end: LinkEnd, contact: string): number =>
  frame.group[end][frame.contactIndex(end, contact)] ?? -1;
const namesOf = (frame: Frame, end: LinkEnd, a: number, b: number): readonly [string, string] => [
  frame.contacts[end][a] as string,
  frame.contacts[end][b] as string,
];
const firstPair = (frame: Frame, end: LinkEnd): readonly [string, string] =>
  namesOf(frame, end, frame.pairs[end][0]?.a ?? 0, frame.pairs[end][0]?.b ?? 1);

function voltsAcross(
  frame: Frame,
  metal: Metal,
  end: LinkEnd,
  feed: VoltageReading['feed'],
  contacts: readonly [string, string],
): number {
  const [here, there] = end === 'near' ? [metal.near, metal.far] : [metal.far, metal.near];
  const labelAt = (labels: Int16Array, side: LinkEnd, contact: string): number =>
    labels[frame.contactIndex(side, contact)] ?? -1;
  const [plus, minus] = feed.contacts.map((c) => labelAt(there, other(end), c));
  const [x, y] = contacts.map((c) => labelAt(here, end, c));
  if (plus === minus) return 0;
  return x === plus && y === minus ? feed.volts : x === minus && y === plus ? -feed.volts : 0;
}

const logNormal = (x: number, mean: number, deviation: number): number =>
  -0.5 * ((x - mean) / deviation) ** 2 - Math.log(deviation * Math.sqrt(2 * Math.PI));

class VoltageLikelihood implements Likelihood {
  readonly best: number;
  private readonly metal: Metal;
  private readonly across: VoltageReading['across'];

  constructor(
    private readonly frame: Frame,
    private readonly reading: VoltageReading,
    group?: number,
  ) {
    this.metal = new Metal(frame);
    const { across, feed, end } = reading;
    this.across = across.filter(
      ({ contacts }) => group === undefined || groupAt(frame, end, contacts[0]) === group,
    );
    this.best = this.across.reduce(
      (sum, { volts }) => sum + Math.max(...[0, feed.volts, -feed.volts].map((v) => this.logOf(volts, v))),
      0,
    );
  }

  private logOf(seen: number, ideal: number): number {
    const at = (mean: number): number => Math.exp(logNormal(seen, mean, noiseVolts(mean)));
    const right = 1 - errors.missed - errors.wrong;
    return Math.log(right * at(ideal) + errors.missed * at(0) + errors.wrong * at(-ideal) + 1e-12);
  }

  of(state: LinkState, openLoose: number): number {
    const { frame, reading } = this;
    const metal = this.metal.solve(state, openFrom(thresholdOhm), openLoose);
    return this.across.reduce(
      (sum, { contacts, volts }) =>
        sum + this.logOf(volts, voltsAcross(frame, metal, reading.end, reading.feed, contacts)),
      0,
    );
  }
}
