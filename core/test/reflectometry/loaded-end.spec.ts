import fc from 'fast-check';
import {
  askAbout,
  CABLE_TYPES,
  EVENT_KINDS,
  furtherLook,
  lineOf,
  NO_SCOPE,
  simulate,
  traceSettingOf,
  withLoadedEnd,
  type CableType,
  type EventKind,
  type FarEnd,
  type KindShare,
  type Load,
} from '@near-spoke/core';
import { drawStranger, tellStranger } from '../world/lattice-trial.js';

interface Seen {
  kind: EventKind;
  probability: number;
  or: KindShare[];
  distanceM: number;
  u95M: number;
}
const seen = (kind: EventKind, distanceM: number, change: Partial<Seen> = {}): Seen => ({
  kind,
  probability: 0.96,
  or: [],
  distanceM,
  u95M: 0.2,
  ...change,
});
const rg6 = CABLE_TYPES.find(({ id }) => id === 'rg6') as CableType;
const beliefIn = (kind: EventKind, { kind: told, probability, or }: Seen): number =>
  [{ kind: told, probability }, ...or].find((each) => each.kind === kind)?.probability ?? 0;

describe('An end with something on it', () => {
  it('draws the very trace of a resistance in the way before a matched rest: nothing but a look tells them apart', () => {
    const line = lineOf(rg6);
    const lossless = { ...line, skinDb: 0, dielectricDb: 0, loopOhmPerM: 0 };
    const source = {
      shape: 'pulse',
      volts: 2,
      widthS: 8e-9,
      riseS: 2e-9,
      edge: 'smooth',
      impedanceOhm: 75,
    } as const;
    const shows = (chain: Parameters<typeof simulate>[0]['chain'], load: Load): Float64Array =>
      simulate({ source, scope: NO_SCOPE, chain, load }, { intervalS: 5e-10, samples: 1200, launchS: 4e-8 })
        .volts;
    const way = { kind: 'line', lengthM: 20, line: lossless } as const;
    const inTheWay = shows([way, { kind: 'series', ohm: 50 }, way], { ohm: 75 });
    const atTheEnd = shows([way], { ohm: 125 });
    expect(Math.max(...atTheEnd.map((volt, n) => Math.abs(volt - (inTheWay[n] ?? 0))))).toBeLessThan(1e-3);
    expect(Math.max(...atTheEnd.slice(300, 700).map(Math.abs))).toBeGreaterThan(0.2);
  });

  it('stands beside what may be in the way where nobody looked, and asks for a look', () => {
    const [event] = withLoadedEnd([seen('series-resistance', 20)], {});
    expect(event?.kind).toBe('series-resistance');
    expect(event && beliefIn('loaded-end', event)).toBeGreaterThan(0.2);
    expect(furtherLook(event as Seen)?.words).toContain('Take off whatever is at the far end');
    expect(
      askAbout(
        { events: [{ ...(event as Seen), reflection: 0.3 } as never], loss: null, source: 1 },
        { lossKnown: true },
      )?.about,
    ).toBe('far end');
  });

  it('is believed by what was seen there, and by where the end should be', () => {
    const events = [seen('joint', 8), seen('wet-or-shunt', 30)];
    const last = (farEnd: FarEnd | undefined, lengthM?: number): Seen =>
      withLoadedEnd(events, {
        farEnd,
        planned: lengthM === undefined ? undefined : { lengthM, deviationM: 1 },
      })[1] as Seen;
    expect(last('connected').kind).toBe('loaded-end');
    for (const free of ['open', 'joined'] as const) expect(last(free)).toEqual(events[1] as Seen);
    expect(last(undefined, 30.4).kind).toBe('loaded-end');
    expect(last(undefined, 45).kind).toBe('wet-or-shunt');
    expect(beliefIn('loaded-end', last('connected', 45))).toBeLessThan(
      beliefIn('loaded-end', last('connected')),
    );
    // What lies before it stays what it was.
    expect(withLoadedEnd(events, { farEnd: 'connected' })[0]).toEqual(events[0] as Seen);
  });

  it('is no joint of the lead, and no thing that has an end behind it', () => {
    const joint = [seen('joint', 0.05)];
    expect(withLoadedEnd(joint, { farEnd: 'connected' })).toEqual(joint);
    const before = [seen('series-resistance', 12), seen('open', 30), seen('ghost', 42)];
    expect(withLoadedEnd(before, { farEnd: 'connected' })).toEqual(before);
    // A ghost is nothing that lies behind.
    expect(withLoadedEnd([seen('joint', 12), seen('ghost', 24)], { farEnd: 'connected' })[0]?.kind).toBe(
      'loaded-end',
    );
  });

  it('takes its belief from what it may be instead, and adds none', () => {
    const kind = fc.constantFrom(...EVENT_KINDS);
    expect(() =>
      fc.assert(
        fc.property(
          fc.array(fc.tuple(kind, fc.double({ min: 0.1, max: 90, noNaN: true })), {
            minLength: 1,
            maxLength: 4,
          }),
          fc.constantFrom<FarEnd | undefined>(undefined, 'open', 'joined', 'connected'),
          fc.option(fc.double({ min: 1, max: 90, noNaN: true }), { nil: undefined }),
          (things, farEnd, plannedM) => {
            const events = things
              .map(([each, at]) =>
                seen(each, at, { probability: 0.7, or: [{ kind: 'open', probability: 0.25 }] }),
              )
              .sort((a, b) => a.distanceM - b.distanceM);
            const sum = ({ probability, or }: Seen): number =>
              or.reduce((all, other) => all + other.probability, probability);
            const planned = plannedM === undefined ? undefined : { lengthM: plannedM, deviationM: 1 };
            return withLoadedEnd(events, { farEnd, planned }).every(
              (event, n) =>
                sum(event) < sum(events[n] as Seen) + 1e-9 &&
                sum(event) > sum(events[n] as Seen) - 0.05 &&
                event.or.every(({ probability }) => probability <= event.probability),
            );
          },
        ),
      ),
    ).not.toThrow();
  });

  it('is expected where a link’s plan has its end, give or take', () => {
    const told = {
      velocityFactor: 0.82,
      velocityU95: 0.01,
      impedanceOhm: 75,
      leadM: 0,
      leadVelocityFactor: 0.66,
      shape: null,
    };
    expect(traceSettingOf(rg6, told, 40).planned).toEqual({ lengthM: 40, deviationM: 1.2 });
    expect(traceSettingOf(rg6, told, 4).planned?.deviationM).toBe(0.5);
    expect(traceSettingOf(rg6, told).planned).toBeUndefined();
  });

  it('is told on lines of another world, once somebody says that something is there', () => {
    let [ends, right] = [0, 0];
    const sure = [];
    for (let seed = 200; ends < 12; seed++) {
      const stranger = drawStranger(seed, { loads: true });
      if (stranger.things.at(-1)?.kind !== 'loaded-end') continue;
      ends++;
      const { told } = tellStranger(stranger, { farEnd: stranger.farEnd });
      if (told.some((event) => event.kind === 'loaded-end' && event.right)) right++;
      sure.push(...told.filter(({ probability }) => probability > 0.95));
    }
    expect(right).toBeGreaterThan(7);
    expect(sure.filter((event) => event.right).length).toBeGreaterThan(0.8 * sure.length);
  });
});
