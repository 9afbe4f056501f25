import {
  believe,
  placesToMend,
  repairClasses,
  type Belief,
  type MapReading,
  type TouchReading,
} from '../src/index.js';
import { expectation } from './links.js';

const CONTACTS = ['1', '2', '3', '4', '5', '6', '7', '8'];
const plugged = expectation({ near: 'jack-punched', far: 'plug-closed' });
const jacks = expectation({ near: 'jack-punched', far: 'jack-toolless' });
const placeShare = (belief: Belief, place: 'near' | 'far'): number =>
  belief.hypotheses.reduce((sum, h) => sum + (placesToMend(h).includes(place) ? h.weight : 0), 0);

/** A beeper put to each contact and its own at the far end, and to what else is asked; silent where named. */
const touched = (
  silent: readonly string[],
  across: readonly [string, string, boolean][] = [],
): TouchReading => ({
  instrument: 'beeper',
  touches: [...CONTACTS.map((c) => [c, c, !silent.includes(c)] as const), ...across].map(
    ([near, far, closed]) => ({
      from: { end: 'near', contacts: [near] },
      to: { end: 'far', contacts: [far] },
      closed,
    }),
  ),
});

describe('a touch', () => {
  it('that is silent where it should sound was tried again: an open it is, and hardly the tip', () => {
    const belief = believe(plugged, [touched(['3'])]);
    expect(belief.sound).toBeLessThan(0.15);
    expect(repairClasses(belief.hypotheses)[0]?.places).not.toEqual([]);
  });

  it('that sounds where it should not was tried again too', () => {
    const all = touched([], [['1', '2', true]]);
    expect(believe(plugged, [all]).sound).toBeLessThan(0.1);
  });
});

describe('an order of all wires', () => {
  const mirrored: MapReading = {
    instrument: 'coded-mapper',
    arrivals: Object.fromEntries(CONTACTS.map((c) => [c, [String(9 - Number(c))]])),
    joins: [],
    splits: null,
  };

  it('that is turned round lies at the plug, not at the jack, whose slots say by colour what goes where', () => {
    const belief = believe(plugged, [mirrored]);
    expect(placeShare(belief, 'far')).toBeGreaterThan(0.8);
    const turned = believe(expectation({ near: 'plug-closed', far: 'jack-punched' }), [mirrored]);
    expect(placeShare(turned, 'near')).toBeGreaterThan(0.8);
  });

  it('is as likely at either of two jacks', () => {
    const belief = believe(jacks, [mirrored]);
    expect(placeShare(belief, 'near')).toBeCloseTo(placeShare(belief, 'far'), 1);
  });
});

describe('nothing that arrives', () => {
  it('is first of all a remote that is not there, whatever it was asked with', () => {
    const dark: MapReading = {
      instrument: 'coded-mapper',
      arrivals: Object.fromEntries(CONTACTS.map((c) => [c, []])),
      joins: [],
      splits: null,
    };
    for (const reading of [dark, touched(CONTACTS)]) {
      const [first] = believe(jacks, [reading]).hypotheses;
      expect(first?.faults.map(({ kind }) => kind)).toEqual(['not-connected']);
    }
  });
});
