import fc from 'fast-check';
import {
  intendedMap,
  isTimely,
  probeMap,
  touchesOf,
  twoEnds,
  type Doing,
  type LinkEnd,
  type Told,
} from '../src/index.js';
import { expectation } from './links.js';

const plain = expectation();
const told = (end: LinkEnd, doing: Doing, who = end === 'near' ? 'Ines' : 'Marek'): Told => ({
  end,
  who,
  doing,
});
const doing: fc.Arbitrary<Doing> = fc.oneof(
  fc.constant<Doing>({ does: 'came' }),
  fc.constant<Doing>({ does: 'called' }),
  fc.record({ does: fc.constant('on' as const), touch: fc.nat(6) }),
  fc.record({ does: fc.constant('answered' as const), touch: fc.nat(6), closed: fc.boolean() }),
  fc.record({ does: fc.constant('took-back' as const), touch: fc.nat(6) }),
);
const anything = fc.array(
  fc.record({ end: fc.constantFrom<LinkEnd>('near', 'far'), who: fc.constant('x'), doing }),
  {
    maxLength: 40,
  },
);

describe('two people at the ends of one cable', () => {
  it('count an answer to a touch once, whoever gives it first', () => {
    const state = twoEnds([
      told('near', { does: 'answered', touch: 0, closed: true }),
      told('far', { does: 'answered', touch: 0, closed: false }),
      told('far', { does: 'answered', touch: 1, closed: false }),
    ]);
    expect(state.answers).toEqual([true, false]);
  });

  it('see whether the other probe is on, until the touch is answered', () => {
    const on = [told('near', { does: 'on', touch: 0 }), told('far', { does: 'on', touch: 0 })];
    expect(twoEnds(on).on).toEqual({ near: true, far: true });
    const answered = [...on, told('near', { does: 'answered', touch: 0, closed: true })];
    expect(twoEnds(answered).on).toEqual({ near: false, far: false });
    // A probe that was reported on late, for the touch before, is not on this one.
    expect(twoEnds([...answered, told('far', { does: 'on', touch: 0 })]).on.far).toBeFalse();
  });

  it('are at one end each: who goes to the other end has left the first', () => {
    const came = [
      told('near', { does: 'came' }),
      told('far', { does: 'came' }),
      told('far', { does: 'came' }, 'Ines'),
    ];
    expect(twoEnds(came).people).toEqual({ near: [], far: ['Marek', 'Ines'] });
    expect(twoEnds([...came, told('far', { does: 'came' })]).people.far.length).toBe(2);
  });

  it('call each other until the other one is on', () => {
    const called = [told('near', { does: 'called' })];
    expect(twoEnds(called).calls).toBe('near');
    expect(twoEnds([...called, told('near', { does: 'on', touch: 0 })]).calls).toBe('near');
    expect(twoEnds([...called, told('far', { does: 'on', touch: 0 })]).calls).toBeNull();
  });

  it('may tell whatever they like in whatever order: what is out of time changes nothing', () => {
    fc.assert(
      fc.property(anything, (all) => {
        const timely = all.filter(({ doing: one }, i) => isTimely(twoEnds(all.slice(0, i)), one));
        expect(twoEnds(timely)).toEqual(twoEnds(all));
        const given = timely.filter(({ doing: one }) => one.does === 'answered').length;
        const back = timely.filter(({ doing: one }) => one.does === 'took-back').length;
        expect(twoEnds(all).answers.length).toBe(given - back);
      }),
    );
  });

  it('make the touches of the reading that one person would have made', () => {
    const right: boolean[] = [];
    for (let at = probeMap(plain, right); at.step === 'touch'; at = probeMap(plain, right))
      right.push(at.touch.should);
    const { touches, surprised } = touchesOf(plain, right);
    expect(touches.length).toBe(right.length);
    expect(surprised).toBeFalse();
    const paths = touches.filter(({ from, to }) => from.end !== to.end);
    expect(Object.fromEntries(paths.map(({ from, to }) => [from.contacts[0], to.contacts[0]]))).toEqual(
      intendedMap(plain) as Record<string, string>,
    );
    expect(touchesOf(plain, [...right.slice(0, -1), false]).surprised).toBeTrue();
    expect(touchesOf(plain, [...right, true]).touches.length).toBe(right.length);
  });
});
