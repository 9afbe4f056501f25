import { INSTRUMENTS } from '../instruments.js';
import type { Frame } from '../frame.js';
import { LOOSE, type LinkState } from '../link-state.js';
import type { WiggleReading } from '../readings.js';
import type { Likelihood, Observer } from './observer.js';

const { errors } = INSTRUMENTS.wiggle;
/** A loose joint elsewhere moves a little too. */
const ELSEWHERE = 0.02;

/** Which contacts flicker while a place is wiggled. */
export const wiggleObserver: Observer<WiggleReading> = {
  read({ frame, state }, { end, plan }, random) {
    const at = plan?.instrument === 'wiggle' ? plan.end : end;
    const contacts = frame.contacts[at === 'far' ? 'far' : 'near'];
    const flickers = contacts.filter((_, c) => {
      const chance = flickerChance(state, at, c);
      return random ? random() < chance : chance > 0.5;
    });
    return { instrument: 'wiggle', end: at, flickers };
  },
  likelihood: (frame, reading, group) => new WiggleLikelihood(frame, reading, group),
  grouped: () => true,
};

function flickerChance(state: LinkState, end: WiggleReading['end'], contact: number): number {
  const { frame, cells } = state;
  const { at } = frame;
  const side = end === 'far' ? 'far' : 'near';
  const conductor = cells[at[side] + contact] as number;
  const seat = cells[(side === 'near' ? at.nearSeat : at.farSeat) + contact] === LOOSE;
  const core = conductor >= 0 && cells[at.core + conductor] === LOOSE;
  if (end === 'cable' ? core : seat) return 1 - errors.missed;
  return core || seat ? ELSEWHERE : errors.ghost;
}

class WiggleLikelihood implements Likelihood {
  readonly best: number;
  private readonly rows: readonly { contact: number; flickers: boolean }[];

  constructor(
    frame: Frame,
    private readonly reading: WiggleReading,
    group?: number,
  ) {
    const side = reading.end === 'far' ? 'far' : 'near';
    this.rows = frame.contacts[side].flatMap((name, contact) =>
      group !== undefined && frame.group[side][contact] !== group
        ? []
        : [{ contact, flickers: reading.flickers.includes(name) }],
    );
    this.best = this.rows.reduce(
      (sum, { flickers }) => sum + Math.log(flickers ? 1 - errors.missed : 1 - errors.ghost),
      0,
    );
  }

  of(state: LinkState): number {
    let sum = 0;
    for (const { contact, flickers } of this.rows) {
      const chance = flickerChance(state, this.reading.end, contact);
      sum += Math.log(flickers ? chance : 1 - chance);
    }
    return sum;
  }
}
