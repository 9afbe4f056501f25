import {
  arrives,
  back,
  isComplete,
  keyedReading,
  nowhere,
  several,
  startKeying,
  straight,
  type KeyedMap,
} from './keying';

const EIGHT = ['1', '2', '3', '4', '5', '6', '7', '8'];
const begin = (): KeyedMap => startKeying(EIGHT);

describe('keying a map in', () => {
  it('takes one key for a straight link', () => {
    const map = straight(begin());
    expect(isComplete(map)).toBeTrue();
    expect(keyedReading(map, 'coded-mapper', []).arrivals['7']).toEqual(['7']);
  });

  it('answers near contacts in order', () => {
    const map = arrives(arrives(begin(), '2'), '1');
    expect(map.arrivals).toEqual({ 1: ['2'], 2: ['1'] });
    expect(map.at).toBe(2);
  });

  it('fills only the rest straight', () => {
    const map = straight(arrives(arrives(begin(), '2'), '1'));
    expect(map.arrivals['1']).toEqual(['2']);
    expect(map.arrivals['3']).toEqual(['3']);
  });

  it('adds further places to the last contact', () => {
    const map = arrives(several(arrives(begin(), '1')), '2');
    expect(map.arrivals).toEqual({ 1: ['1', '2'] });
    expect(map.at).toBe(1);
  });

  it('has nothing to add to before the first answer or to "nowhere"', () => {
    expect(several(begin()).adding).toBeFalse();
    expect(several(nowhere(begin())).adding).toBeFalse();
  });

  it('goes back one answer at a time, and out of adding first', () => {
    const adding = several(nowhere(arrives(begin(), '4')));
    expect(back(several(arrives(begin(), '4'))).adding).toBeFalse();
    expect(back(back(adding))).toEqual(begin());
    expect(back(begin())).toEqual(begin());
  });

  it('ignores a contact the link does not have, and answers after the last', () => {
    expect(arrives(begin(), 'S')).toEqual(begin());
    const full = straight(begin());
    expect(arrives(full, '1')).toEqual(full);
    expect(nowhere(full).arrivals).toEqual(full.arrivals);
  });

  it('gives splits only for an instrument that sees them', () => {
    expect(keyedReading(straight(begin()), 'coded-mapper', ['3-6']).splits).toBeNull();
    expect(keyedReading(straight(begin()), 'coded-mapper-crosstalk', ['3-6']).splits).toEqual(['3-6']);
  });
});
