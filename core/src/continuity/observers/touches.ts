import { drawNormal } from '../../quantities/random.js';
import { INSTRUMENTS } from '../instruments.js';
import type { Frame } from '../frame.js';
import { FINE, LOOSE, OPEN, POOR, POOR_GRADES, type LinkState } from '../link-state.js';
import { Metal } from '../metal.js';
import type { ContactGroup, Touch, TouchReading } from '../readings.js';
import type { TrueLink } from '../true-link.js';
import { drawLoose, openFrom, type Likelihood, type Look, type Observer } from './observer.js';

/** A thin four-pair conductor, both ways of a loop counted once; typical, good enough to tell a joint from a wire. */
const OHM_PER_M = 0.09;
const meterNoiseOhm = (ohm: number): number => 0.3 + 0.03 * ohm;

/** A beeper or an ohmmeter: one path at a time. */
export const touchObserver = (instrument: TouchReading['instrument']): Observer<TouchReading> => ({
  read(look, { plan }, random) {
    const asked = plan?.instrument === instrument ? plan.touches : proofOfMap(look);
    const { errors, thresholdOhm } = INSTRUMENTS[instrument];
    const touches = asked.map((touch): Touch => {
      const metal = new Metal(look.frame).solve(
        look.state,
        openFrom(thresholdOhm),
        drawLoose(look.state, random),
      );
      const closed = touchCloses(look.frame, metal, touch);
      const errs = random !== null && random() < (closed ? errors.missed : errors.ghost);
      const { from, to, joined } = touch;
      const answer = { from, to, ...(joined ? { joined } : {}), closed: closed !== errs };
      if (instrument === 'beeper') return answer;
      if (!answer.closed) return { ...answer, ohm: null };
      const ohm = pathOhm(look.link, touch);
      const shown = random ? Math.max(0, ohm + meterNoiseOhm(ohm) * drawNormal(random)) : ohm;
      return { ...answer, ohm: Math.round(shown * 10) / 10 };
    });
    return { instrument, touches };
  },
  likelihood: (frame, reading, group) => new TouchLikelihood(frame, reading, group),
  // A touch between two contacts changes only by what touches both, if they are not of one pair.
  grouped: (_frame, { touches }) => touches.every(isPlain),
});

/** One contact at each lead, and no clips. */
const isPlain = ({ from, to, joined }: Touch): boolean =>
  from.contacts.length === 1 && to.contacts.length === 1 && !joined?.length;

/** A reading in parts that are judged apart: its plain touches together, each ganged touch by itself. */
export function partTouches(reading: TouchReading): TouchReading[] {
  const plain = reading.touches.filter(isPlain);
  const parts = [plain, ...reading.touches.filter((touch) => !isPlain(touch)).map((touch) => [touch])];
  return parts.filter((touches) => touches.length > 0).map((touches) => ({ ...reading, touches }));
}

/** Every contact against its own place at the far end: what a person without a plan does. */
function proofOfMap({ frame }: Look): Touch[] {
  const { near, far } = frame.contacts;
  return near
    .filter((contact) => far.includes(contact))
    .map((contact) => ({
      from: { end: 'near', contacts: [contact] },
      to: { end: 'far', contacts: [contact] },
      closed: false,
    }));
}

/** Whether a touch closes on the metal as solved; the solution's labels are used up. */
export function touchCloses(frame: Frame, metal: Metal, touch: Omit<Touch, 'closed'>): boolean {
  const labels = ({ end, contacts }: ContactGroup): number[] =>
    contacts.map((contact) => metal[end][frame.contactIndex(end, contact)] ?? -1);
  for (const group of [...(touch.joined ?? []), touch.from, touch.to]) {
    // Labels change as clips go on, so each is read just before its own.
    for (let i = 1; i < group.contacts.length; i++) {
      const [first, next] = [labels(group)[0] as number, labels(group)[i] as number];
      metal.clip(first, next);
    }
  }
  return labels(touch.from)[0] === labels(touch.to)[0];
}

/** Ohms of a single path: its wire, and the poor joints on it. */
function pathOhm(link: TrueLink, touch: Touch): number {
  const wires = new Set(
    [touch.from, touch.to].flatMap(({ end, contacts }) => contacts.map((contact) => link[end][contact])),
  );
  const poor = link.poor.filter(({ place }) =>
    'end' in place
      ? [touch.from, touch.to].some((g) => g.end === place.end && g.contacts.includes(place.contact))
      : wires.has(place.conductor),
  );
  return link.lengthM * OHM_PER_M + poor.reduce((sum, { ohm }) => sum + ohm, 0);
}

/** A loop closed by something that is not known has any resistance, each decade alike. */
const logAnyOhm = (ohm: number): number => -Math.log(Math.max(1, ohm) * Math.log(1e4));

class TouchLikelihood implements Likelihood {
  readonly best = 0;
  private readonly metal: Metal;
  private readonly touches: readonly Touch[];

  constructor(
    private readonly frame: Frame,
    private readonly reading: TouchReading,
    group?: number,
  ) {
    this.metal = new Metal(frame);
    this.touches = reading.touches.filter(
      ({ from }) =>
        group === undefined ||
        frame.group[from.end][frame.contactIndex(from.end, from.contacts[0] as string)] === group,
    );
  }

  of(state: LinkState, openLoose: number): number {
    const { errors, thresholdOhm } = INSTRUMENTS[this.reading.instrument];
    let sum = 0;
    let solved = false;
    for (const touch of this.touches) {
      // A plain touch leaves the solution as it is.
      if (!solved) this.metal.solve(state, openFrom(thresholdOhm), openLoose);
      solved = isPlain(touch);
      const closes = touchCloses(this.frame, this.metal, touch);
      const rate = closes ? errors.missed : errors.ghost;
      sum += Math.log(touch.closed === closes ? 1 - rate : rate);
      if (touch.closed && touch.ohm != null)
        sum += closes ? this.logOhm(state, touch, touch.ohm) : logAnyOhm(touch.ohm);
    }
    return sum;
  }

  /** How likely a resistance is on a path whose worst joint has a grade; within the grade each decade share alike. */
  private logOhm(state: LinkState, touch: Touch, ohm: number): number {
    const wireOhm = this.frame.lengthM * OHM_PER_M;
    const worst = this.worstOnPath(state, touch);
    const extra = Math.max(0.1, ohm - wireOhm);
    if (worst === FINE) {
      const deviation = meterNoiseOhm(wireOhm) + 0.15 * wireOhm;
      return -0.5 * ((ohm - wireOhm) / deviation) ** 2 - Math.log(deviation * Math.sqrt(2 * Math.PI));
    }
    const { fromOhm, toOhm } = POOR_GRADES[worst - POOR[0]] as (typeof POOR_GRADES)[number];
    const inside = extra >= fromOhm * 0.8 && extra <= toOhm * 1.25;
    return -Math.log(extra * Math.log(toOhm / fromOhm)) + (inside ? 0 : Math.log(1e-4));
  }

  private worstOnPath(state: LinkState, touch: Touch): number {
    const { cells, frame } = state;
    const { at } = frame;
    let worst: number = FINE;
    const grade = (cell: number): void => {
      const condition = cells[cell] as number;
      if (condition !== OPEN && condition !== LOOSE) worst = Math.max(worst, condition);
    };
    for (const { end, contacts } of [touch.from, touch.to]) {
      for (const contact of contacts) {
        const i = frame.contactIndex(end, contact);
        grade((end === 'near' ? at.nearSeat : at.farSeat) + i);
        const conductor = cells[at[end] + i] as number;
        if (conductor >= 0) grade(at.core + conductor);
      }
    }
    return worst;
  }
}
