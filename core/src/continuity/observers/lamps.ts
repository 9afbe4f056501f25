import { INSTRUMENTS } from '../instruments.js';
import type { Frame } from '../frame.js';
import type { LinkState } from '../link-state.js';
import { Metal } from '../metal.js';
import type { LampReading } from '../readings.js';
import { openFrom, overThresholds, solved, type Likelihood, type Observer } from './observer.js';

const { thresholdOhm, errors } = INSTRUMENTS['lamp-pairs'];

/**
 * A lamp per pair: lit when the loop out on one contact, through the bridge at the far end and back
 * on the other, conducts. On one return, the other may be any pair's.
 */
export const lampObserver = (instrument: LampReading['instrument']): Observer<LampReading> => ({
  read(look, _setting, random) {
    const metal = solved(look, thresholdOhm, random);
    bridgeFarEnd(metal, look.frame);
    if (instrument === 'lamps-one-return') tieReturns(metal, look.frame);
    const lamps = look.frame.pairs.near.map(({ name, a, b }) => {
      const lit = metal.near[a] === metal.near[b];
      const errs = random !== null && random() < (lit ? errors.missed : errors.ghost);
      return [name, lit !== errs] as const;
    });
    return { instrument, lamps: Object.fromEntries(lamps) };
  },
  likelihood: (frame, reading, group) => new LampLikelihood(frame, reading, group),
  grouped: (frame) => frame.paired && instrument === 'lamp-pairs',
});

/** The solid conductor's contact of each pair goes to the one return. */
function tieReturns(metal: Metal, frame: Frame): void {
  const [first, ...rest] = frame.pairs.near.map(({ a, b }) =>
    (frame.intended.near[a] as number) > (frame.intended.near[b] as number) ? a : b,
  );
  for (const other of rest) metal.clip(metal.near[first as number] as number, metal.near[other] as number);
}

function bridgeFarEnd(metal: Metal, frame: Frame): void {
  for (const { a, b } of frame.pairs.far) metal.clip(metal.far[a] as number, metal.far[b] as number);
}

class LampLikelihood implements Likelihood {
  readonly best: number;
  private readonly metal: Metal;
  private readonly openFrom = openFrom(thresholdOhm);
  private readonly seen: readonly { a: number; b: number; lit: boolean }[];

  constructor(
    private readonly frame: Frame,
    private readonly reading: LampReading,
    group?: number,
  ) {
    this.metal = new Metal(frame);
    this.seen = frame.pairs.near.flatMap(({ name, a, b }) => {
      const lit = reading.lamps[name];
      const elsewhere = group !== undefined && frame.group.near[a] !== group;
      return lit === undefined || elsewhere ? [] : [{ a, b, lit }];
    });
    this.best = this.seen.reduce(
      (sum, { lit }) => sum + Math.log(1 - (lit ? errors.missed : errors.ghost)),
      0,
    );
  }

  of(state: LinkState, openLoose: number): number {
    return overThresholds(state, this.openFrom, (from) => this.lit(state, from, openLoose));
  }

  private lit(state: LinkState, openFrom: number, openLoose: number): number {
    const metal = this.metal.solve(state, openFrom, openLoose);
    const { mate } = this.frame;
    const oneReturn = this.reading.instrument === 'lamps-one-return';
    const simple = metal.simple && !oneReturn;
    if (!simple) bridgeFarEnd(metal, this.frame);
    if (oneReturn) tieReturns(metal, this.frame);
    let sum = 0;
    for (const { a, b, lit } of this.seen) {
      const [toA, toB] = [metal.to[a] as number, metal.to[b] as number];
      const conducts = simple
        ? toA >= 0 && toB >= 0 && mate.far[toA] === toB
        : metal.near[a] === metal.near[b];
      const rate = conducts ? errors.missed : errors.ghost;
      sum += Math.log(conducts === lit ? 1 - rate : rate);
    }
    return sum;
  }
}
