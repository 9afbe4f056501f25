import { INSTRUMENTS } from '../instruments.js';
import type { Frame } from '../frame.js';
import type { LinkState } from '../link-state.js';
import { Metal } from '../metal.js';
import type { ToneReading } from '../readings.js';
import type { LinkEnd } from '../true-link.js';
import { openFrom, solved, type Likelihood, type Observer } from './observer.js';

const { errors, thresholdOhm } = INSTRUMENTS['tone-probe'];
/** The mate of a toned wire carries some of the tone over. */
const MATE_HEARD = 0.1;

/** Tone put on contacts of one end, heard with a probe at the other. */
export const toneObserver: Observer<ToneReading> = {
  read(look, { end, plan }, random) {
    const { frame } = look;
    const from = plan?.instrument === 'tone-probe' ? plan.end : end;
    const asked =
      plan?.instrument === 'tone-probe'
        ? plan.tones.map((tone) => tone.on)
        : frame.pairs[from].map(({ a, b }) => [a, b].map((c) => frame.contacts[from][c] as string));
    const metal = solved(look, thresholdOhm, random);
    const tones = asked.map((on) => {
      const heard = frame.contacts[other(from)].filter((_, c) => {
        const chance = heardChance(frame, metal, from, contactsIn(frame, from, on), c);
        return random ? random() < chance : chance > 0.5;
      });
      return { on, heard };
    });
    return { instrument: 'tone-probe', end: from, tones };
  },
  likelihood: (frame, reading, group) => new ToneLikelihood(frame, reading, group),
  // What a contact hears changes only by what touches that contact's own pair.
  grouped: (frame) => frame.paired,
};

const other = (end: LinkEnd): LinkEnd => (end === 'near' ? 'far' : 'near');
const contactsIn = (frame: Frame, end: LinkEnd, contacts: readonly string[]): number[] =>
  contacts.map((contact) => frame.contactIndex(end, contact));

function heardChance(
  frame: Frame,
  metal: Metal,
  from: LinkEnd,
  on: readonly number[],
  contact: number,
): number {
  const [here, there] = from === 'near' ? [metal.near, metal.far] : [metal.far, metal.near];
  const carries = (c: number): boolean => c >= 0 && on.some((toned) => here[toned] === there[c]);
  if (carries(contact)) return 1 - errors.missed;
  return carries(frame.mate[other(from)][contact] as number) ? MATE_HEARD : errors.ghost;
}

class ToneLikelihood implements Likelihood {
  readonly best: number;
  private readonly metal: Metal;
  private readonly asked: readonly { on: readonly number[]; heard: readonly boolean[] }[];
  private readonly contacts: readonly number[];
  private readonly mate: Int16Array;
  /** Contacts that carry the tone just now. */
  private readonly carrying: Uint8Array;

  constructor(
    frame: Frame,
    private readonly reading: ToneReading,
    group?: number,
  ) {
    this.metal = new Metal(frame);
    const there = other(reading.end);
    const far = frame.contacts[there];
    this.mate = frame.mate[there];
    this.carrying = new Uint8Array(far.length);
    this.contacts = far.flatMap((_, c) =>
      group === undefined || frame.group[there][c] === group ? [c] : [],
    );
    this.asked = reading.tones.map(({ on, heard }) => ({
      on: contactsIn(frame, reading.end, on),
      heard: far.map((contact) => heard.includes(contact)),
    }));
    this.best = this.asked.reduce(
      (sum, { heard }) =>
        sum + this.contacts.reduce((row, c) => row + (heard[c] ? LOG.carries[0] : LOG.silent[1]), 0),
      0,
    );
  }

  of(state: LinkState, openLoose: number): number {
    const metal = this.metal.solve(state, openFrom(thresholdOhm), openLoose);
    const [here, there] = this.reading.end === 'near' ? [metal.near, metal.far] : [metal.far, metal.near];
    const { carrying, mate, contacts } = this;
    let sum = 0;
    for (const { on, heard } of this.asked) {
      for (let c = 0; c < carrying.length; c++) {
        carrying[c] = 0;
        for (const toned of on) if (there[c] === here[toned]) carrying[c] = 1;
      }
      for (const c of contacts) {
        const m = mate[c] as number;
        const row = carrying[c] ? LOG.carries : m >= 0 && carrying[m] ? LOG.beside : LOG.silent;
        sum += row[heard[c] ? 0 : 1];
      }
    }
    return sum;
  }
}

const logs = (chance: number): readonly [number, number] => [Math.log(chance), Math.log(1 - chance)];
/** Logarithms of the chance that a contact is heard, and that it is not. */
const LOG = { carries: logs(1 - errors.missed), beside: logs(MATE_HEARD), silent: logs(errors.ghost) };
