import { asEcho, echoDistanceM, EVENT_KINDS, roundTripS } from '../src/index.js';

describe('A located event as an observation', () => {
  it('is told to the centimetre, by what a pair reflectometer calls it', () => {
    expect(asEcho({ kind: 'open', distanceM: 23.0021 })).toEqual({ kind: 'open', distanceM: 23 });
    expect(asEcho({ kind: 'low-section', distanceM: 26.687 })).toEqual({ kind: 'low', distanceM: 26.69 });
    expect(asEcho({ kind: 'series-resistance', distanceM: -0.004 })).toEqual({ kind: 'high', distanceM: 0 });
  });

  it('brings its own uncertainty and the belief in its kind', () => {
    expect(asEcho({ kind: 'open', distanceM: 23, u95M: 0.196, probability: 0.9304 })).toEqual({
      kind: 'open',
      distanceM: 23,
      uM: 0.1,
      probability: 0.93,
    });
  });

  it('is none where there is no fault: a joint, a ghost, a branch, a matched end, a load', () => {
    const none = EVENT_KINDS.filter((kind) => asEcho({ kind, distanceM: 1 }) === null);
    expect(none).toEqual(['joint', 'stub', 'matched-end', 'loaded-end', 'ghost']);
  });
});

describe('Time and distance of an echo', () => {
  it('are each other’s inverse, and a metre at two thirds of light takes ten nanoseconds there and back', () => {
    expect(roundTripS(1, 0.6671) * 1e9).toBeCloseTo(10, 2);
    expect(echoDistanceM(roundTripS(37.4, 0.83), 0.83)).toBeCloseTo(37.4, 9);
  });
});
