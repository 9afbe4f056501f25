import { drawNormal } from '../../quantities/random.js';
import { INSTRUMENTS } from '../instruments.js';
import type { Frame } from '../frame.js';
import { FINE, POOR, soundState, type LinkState } from '../link-state.js';
import { Metal } from '../metal.js';
import { ohmsOfTouch, ohmsOfTouches, touchedPart, type TouchedPart, type Unknowns } from '../path-ohms.js';
import type { ContactGroup, Touch, TouchReading } from '../readings.js';
import {
  copperOf,
  density,
  isPlain,
  isStraight,
  logSharpest,
  meterNoiseOhm,
  SOUND_JOINTS_OHM,
  type Copper,
} from './copper.js';
import {
  drawLoose,
  openFrom,
  overThresholds,
  type Likelihood,
  type Look,
  type Observer,
} from './observer.js';

/** A figure read off or noted wrong: then any figure. */
const MISNOTED = 0.002;
/**
 * Nobody believes an answer that is not as meant: the tip is pressed anew and asked again. So often a wrong one outlasts
 * that, for what was under the tip is under it still. A wrong answer that is as meant is asked once.
 */
const STILL_WRONG = 0.1;

/** How often a touch is answered wrong. */
const errorOf = (instrument: TouchReading['instrument'], closes: boolean, meant: boolean): number => {
  const { missed, ghost } = INSTRUMENTS[instrument].errors;
  return (closes ? missed : ghost) * (closes === meant ? STILL_WRONG : 1);
};

/** A beeper or an ohmmeter: one path at a time. */
export const touchObserver = (instrument: TouchReading['instrument']): Observer<TouchReading> => ({
  read(look, { plan }, random) {
    const asked = plan?.instrument === instrument ? plan.touches : proofOfMap(look);
    const { thresholdOhm } = INSTRUMENTS[instrument];
    const metal = new Metal(look.frame);
    const meant = random ? answersMeant(look.frame, asked) : [];
    let solved = false;
    const touches = asked.map((touch, i): Touch => {
      // Without chance the link rests as it is until clips change it.
      if (!solved || random) metal.solve(look.state, openFrom(thresholdOhm), drawLoose(look.state, random));
      solved = !touch.joined?.length;
      const closed = touchCloses(look.frame, metal, touch);
      const errs = random !== null && random() < errorOf(instrument, closed, meant[i] === true);
      const { from, to, joined } = touch;
      const answer = { from, to, ...(joined ? { joined } : {}), closed: closed !== errs };
      if (instrument === 'beeper') return answer;
      if (!answer.closed) return { ...answer, ohm: null };
      const ohm = Math.min(1e6, ohmsOfTouch(look.state, touch, 0));
      const shown = random ? Math.max(0, ohm + meterNoiseOhm(ohm) * drawNormal(random)) : ohm;
      return { ...answer, ohm: Math.round(shown * 100) / 100 };
    });
    return { instrument, touches };
  },
  likelihood: (frame, reading, group) => new TouchLikelihood(frame, reading, group),
  grouped: (frame, { touches }) =>
    touches.every((touch) => isPlain(touch) && groupOf(frame, touch.from) === groupOf(frame, touch.to)),
});

const groupOf = (frame: Frame, { end, contacts }: ContactGroup): number | undefined =>
  frame.group[end][frame.contactIndex(end, contacts[0] as string)];

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

/** Whether each touch would close on the link as it is meant to be. */
function answersMeant(frame: Frame, touches: readonly Touch[]): boolean[] {
  const [metal, sound] = [new Metal(frame), soundState(frame)];
  return touches.map((touch) => touchCloses(frame, metal.solve(sound, Infinity, 0), touch));
}

/** Whether a touch closes on the metal as solved; clips use the solution's labels up. */
export function touchCloses(frame: Frame, metal: Metal, touch: Omit<Touch, 'closed'>): boolean {
  const labels = ({ end, contacts }: ContactGroup): number[] =>
    contacts.map((contact) => metal[end][frame.contactIndex(end, contact)] ?? -1);
  for (const group of touch.joined ?? []) {
    // Labels change as clips go on, so each is read just before its own.
    for (let i = 1; i < group.contacts.length; i++) {
      const [first, next] = [labels(group)[0] as number, labels(group)[i] as number];
      metal.clip(first, next);
    }
  }
  const to = labels(touch.to);
  return labels(touch.from).some((label) => to.includes(label));
}

/** A loop closed by something that is not known has any resistance, each decade alike. */
const logAnyOhm = (ohm: number): number => -Math.log(Math.max(0.3, ohm) * Math.log(1e5));

/** Logarithm of the likelihood of open and closed below which a link is none that anybody would measure. */
const RULED_OUT = -16;

/** What is not known, as a few cases with their weights. */
const CASES: readonly { unknowns: Unknowns; weight: number }[] = [
  { placeShare: 0.5, shortOhm: 0.05, poorShare: 0.5, weight: 3 },
  { placeShare: 0.17, shortOhm: 0.12, poorShare: 0.15, weight: 2 },
  { placeShare: 0.83, shortOhm: 0.28, poorShare: 0.85, weight: 2 },
  { placeShare: 0.33, shortOhm: 0.6, poorShare: 0.32, weight: 1 },
  { placeShare: 0.67, shortOhm: 1.8, poorShare: 0.68, weight: 1 },
].map(({ weight, ...unknowns }) => ({ unknowns, weight: weight / 9 }));

/** A figure that was read where the link closes. */
interface Figure {
  touch: Touch;
  ohm: number;
  /** The touch's two contacts hang together with no other. */
  alone: boolean;
  /** Logarithm of its likelihood, where it was worked out with another's; NaN where not. */
  log: number;
}

class TouchLikelihood implements Likelihood {
  readonly best: number;
  readonly figures: number;
  private readonly metal: Metal;
  private readonly touches: readonly Touch[];
  private readonly openFrom: number;
  /** Whether each touch goes from one contact straight to one of the other end. */
  private readonly straight: readonly boolean[];
  /** Where the tips of each touch rest, one on a contact and nothing clipped on; null for others. */
  private readonly tips: readonly ({ from: number; to: number } | null)[];
  /** Logarithms of how likely each touch is answered as it was, open and closed. */
  private readonly answers: readonly { open: number; closed: number }[];
  /** How many times the sheet's ohms this cable has, and how surely. */
  private readonly copper: Copper;

  constructor(
    private readonly frame: Frame,
    reading: TouchReading,
    group?: number,
  ) {
    this.metal = new Metal(frame);
    const { thresholdOhm } = INSTRUMENTS[reading.instrument];
    this.openFrom = openFrom(thresholdOhm);
    this.touches = reading.touches.filter(
      ({ from }) =>
        group === undefined ||
        frame.group[from.end][frame.contactIndex(from.end, from.contacts[0] as string)] === group,
    );
    this.straight = this.touches.map(isStraight);
    const at = ({ end, contacts: [contact = ''] }: ContactGroup): number => frame.contactIndex(end, contact);
    this.tips = this.touches.map((touch) =>
      isPlain(touch) ? { from: at(touch.from), to: at(touch.to) } : null,
    );
    const meant = answersMeant(frame, this.touches);
    this.answers = this.touches.map(({ closed }, i) => {
      const error = (closes: boolean): number => errorOf(reading.instrument, closes, meant[i] === true);
      const log = (closes: boolean): number =>
        Math.log(closes === closed ? 1 - error(closes) : error(closes));
      return { open: log(false), closed: log(true) };
    });
    this.figures = this.touches.filter(({ ohm }) => ohm != null).length;
    // Whichever rows are looked at, what the whole reading says of the copper holds.
    this.copper = copperOf(frame, reading.touches.filter(isStraight));
    // The sharpest a figure can be explained: a sound path of that resistance.
    this.best = this.touches.reduce(
      (sum, { closed, ohm }, i) =>
        sum +
        (this.answers[i]?.[closed ? 'closed' : 'open'] ?? 0) +
        (closed && ohm != null ? logSharpest(ohm, this.copper) : 0),
      0,
    );
  }

  of(state: LinkState, openLoose: number): number {
    return overThresholds(state, this.openFrom, (from) =>
      this.over(state, from, openLoose, (figure, all) => this.logOhm(state, figure, openLoose, all)),
    );
  }

  most(state: LinkState, openLoose: number): number {
    return overThresholds(state, this.openFrom, (from) =>
      this.over(state, from, openLoose, ({ ohm }) => logSharpest(ohm, this.copper)),
    );
  }

  private over(
    state: LinkState,
    openFrom: number,
    openLoose: number,
    logOhm: (figure: Figure, all: readonly Figure[]) => number,
  ): number {
    const { frame, metal, touches, answers } = this;
    let sum = 0;
    let solved = false;
    const figures: Figure[] = [];
    for (let i = 0; i < touches.length; i++) {
      const touch = touches[i] as Touch;
      if (!solved) metal.solve(state, openFrom, openLoose);
      const tips = this.tips[i];
      const closes = tips
        ? metal[touch.from.end][tips.from] === metal[touch.to.end][tips.to]
        : touchCloses(frame, metal, touch);
      const alone = closes && this.straight[i] === true && this.isAlone(touch);
      solved = !touch.joined?.length;
      sum += answers[i]?.[closes ? 'closed' : 'open'] ?? 0;
      if (!touch.closed || touch.ohm == null) continue;
      if (closes) figures.push({ touch, ohm: touch.ohm, alone, log: NaN });
      else sum += logAnyOhm(touch.ohm);
    }
    // Where open and closed alone rule a link out, its ohms are not worked out.
    const out = sum < RULED_OUT;
    for (const figure of figures) sum += out ? logAnyOhm(figure.ohm) : logOhm(figure, figures);
    return sum;
  }

  /** Whether the two contacts of a touch that closes hang together with no other. */
  private isAlone({ from }: Touch): boolean {
    const { metal, frame } = this;
    if (metal.simple) return true;
    const label = metal[from.end][frame.contactIndex(from.end, from.contacts[0] as string)];
    let count = 0;
    for (const other of metal.near) if (other === label) count++;
    for (const other of metal.far) if (other === label) count++;
    return count === 2;
  }

  /** Part of a link -> logarithms worked out before: the same few parts come up for thousands of links. */
  private readonly known = new Map<string, Map<Touch, number>>();

  /** How likely a resistance is on a link, over what is not known of it. */
  private logOhm(state: LinkState, figure: Figure, openLoose: number, all: readonly Figure[]): number {
    const { touch, ohm: shown, alone } = figure;
    const plain = alone ? this.soundPath(state, touch) : -1;
    if (plain >= 0)
      return Math.log((1 - MISNOTED) * density(shown, plain, this.copper) + MISNOTED * anyOhm(shown));
    if (!Number.isNaN(figure.log)) return figure.log;
    const part = touchedPart(state, touch);
    // Whatever reaches the same part is solved with it.
    const together = isPlain(touch) ? [figure, ...this.reaching(part, state, all, figure)] : [figure];
    const key = `${openLoose}/${part.signature}`;
    const before = this.known.get(key);
    const logs = before ?? new Map<Touch, number>();
    if (!before) this.known.set(key, logs);
    if (!logs.has(touch)) this.solve(state, together, openLoose, part, logs);
    for (const one of together) one.log = logs.get(one.touch) ?? NaN;
    return figure.log;
  }

  /** Works out the logarithms of figures that reach one part of a link. */
  private solve(
    state: LinkState,
    together: readonly Figure[],
    openLoose: number,
    part: TouchedPart,
    logs: Map<Touch, number>,
  ): void {
    const touches = together.map(({ touch }) => touch);
    const [only] = touches as [Touch];
    // Where nothing is unknown one case is enough.
    const known = state.shorts.length === 0 && !this.isPoor(state);
    const cases = known ? CASES.slice(0, 1) : CASES;
    const ohms = cases.map(({ unknowns }) =>
      isPlain(only)
        ? ohmsOfTouches(state, touches, openLoose, unknowns, part)
        : [ohmsOfTouch(state, only, openLoose, unknowns, part)],
    );
    together.forEach(({ touch, ohm }, i) =>
      logs.set(
        touch,
        this.logOver(
          ohm,
          ohms.map((ofCase) => ofCase[i] as number),
          cases,
        ),
      ),
    );
  }

  private logOver(shown: number, ohms: readonly number[], cases: readonly { weight: number }[]): number {
    // What is unknown elsewhere on the link leaves this path as it is; where it matters little the cases lie close.
    const apart = Math.max(...ohms) / Math.min(...ohms) - 1;
    const spread = apart < SAME_OHM ? 0 : Math.min(SPREAD, apart * BETWEEN_CASES);
    let mean = 0;
    let weights = 0;
    cases.forEach(({ weight }, i) => {
      mean += weight * density(shown, ohms[i] as number, this.copper, spread);
      weights += weight;
    });
    return Math.log((1 - MISNOTED) * (mean / weights) + MISNOTED * anyOhm(shown));
  }

  /** Other plain touches that begin on a conductor of a part: closed, they hang together with all of it. */
  private reaching(
    { conductors }: TouchedPart,
    { frame, cells }: LinkState,
    all: readonly Figure[],
    beside: Figure,
  ): Figure[] {
    return all.filter((one) => {
      const { touch } = one;
      if (one === beside || !isPlain(touch)) return false;
      const { end, contacts } = touch.from;
      const v = cells[frame.at[end] + frame.contactIndex(end, contacts[0] as string)] as number;
      const w = end === 'near' || v < 0 ? v : cells.indexOf(v, frame.at.splice) - frame.at.splice;
      return conductors[w] === true;
    });
  }

  /** Ohms of one conductor from end to end with sound joints; -1 where that is not all. */
  private soundPath(state: LinkState, { from, to }: Touch): number {
    const { cells, frame, lengthM } = state;
    const { at } = frame;
    const [n, f] = from.end === 'near' ? [from, to] : [to, from];
    const [c, d] = [
      frame.contactIndex('near', n.contacts[0] as string),
      frame.contactIndex('far', f.contacts[0] as string),
    ];
    const w = cells[at.near + c] as number;
    const fine =
      cells[at.nearSeat + c] === FINE && cells[at.farSeat + d] === FINE && cells[at.core + w] === FINE;
    return fine && w >= 0 ? lengthM * (frame.ohmPerM[w] as number) + SOUND_JOINTS_OHM : -1;
  }

  private isPoor(state: LinkState): boolean {
    const { nearSeat, splice } = state.frame.at;
    for (let cell = nearSeat; cell < splice; cell++)
      if ((state.cells[cell] as number) >= POOR[0]) return true;
    return false;
  }
}

/** What the few cases leave between them: at most, as a share of a figure, and as a share of what they are apart. */
const SPREAD = 0.3;
const BETWEEN_CASES = 0.3;
/** Cases that differ by no more than this share are one. */
const SAME_OHM = 0.01;
const anyOhm = (ohm: number): number => Math.exp(logAnyOhm(ohm));
