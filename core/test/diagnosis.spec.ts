import fc from 'fast-check';
import {
  believe,
  currentEvidence,
  diagnose,
  expectedRepairMinutes,
  intendedLink,
  observe,
  pictureLink,
  placesToMend,
  faultsAlongCable,
  faultsAtEnd,
  frameOf,
  withFaults,
  type InstrumentClass,
  type LinkExpectation,
  type Reading,
  type TrueLink,
} from '../src/index.js';
import { expectation, linkWith, PAIR_BY_PAIR, screened, T568A, T568B, wired } from './links.js';

const plain = expectation();
const sound = linkWith(plain);
const far = (...order: (string | null)[]): TrueLink => linkWith(plain, { far: wired(...order) });
const judge = (link: TrueLink, instrument: InstrumentClass, expected: LinkExpectation = plain) =>
  diagnose(expected, [observe(link, instrument)]);
const kinds = (
  link: TrueLink,
  instrument: InstrumentClass = 'coded-mapper',
  expected: LinkExpectation = plain,
): string[] => judge(link, instrument, expected).findings.map((finding) => finding.kind);

describe('naming what a map shows', () => {
  const exchange = (order: string[], a: number, b: number): string[] =>
    order.map((c, i) => (i === a - 1 ? order[b - 1] : i === b - 1 ? order[a - 1] : c) as string);

  it('names a reversed pair', () => {
    const { findings, headline } = judge(far(...exchange(T568B, 3, 6)), 'coded-mapper');
    expect(findings).toEqual([{ kind: 'reversed', contacts: ['3', '6'], words: '3 and 6 exchanged' }]);
    expect(headline).toBe('3 and 6 exchanged');
  });

  it('names a single swap between pairs', () => {
    expect(judge(far(...exchange(T568B, 2, 3)), 'coded-mapper').findings).toEqual([
      { kind: 'swap', contacts: ['2', '3'], words: '2 and 3 exchanged' },
    ]);
  });

  it('names a mixed scheme rather than transposed pairs on 1-2 and 3-6', () => {
    expect(kinds(far(...T568A))).toEqual(['mixed-scheme']);
  });

  it('names transposed pairs elsewhere', () => {
    const order = ['WH-OG', 'OG', 'WH-GN', 'WH-BN', 'BN', 'GN', 'BU', 'WH-BU'];
    expect(kinds(far(...order))).toEqual(['transposed']);
  });

  it('names a mirrored plug', () => {
    expect(kinds(far(...[...T568B].reverse()))).toEqual(['mirror']);
  });

  it('names an order shifted by one, with the contact that fell off, once', () => {
    expect(kinds(far(null, ...T568B.slice(0, 7)))).toEqual(['shifted']);
    expect(kinds(far(...T568B.slice(1), null))).toEqual(['shifted']);
  });

  it('names opens, shorts and an open screen', () => {
    expect(kinds(linkWith(plain, { breaks: [{ conductor: 'BU', atM: 9 }] }))).toEqual(['open']);
    expect(kinds(linkWith(plain, { joins: [{ conductors: ['GN', 'BU'], atM: 9 }] }))).toEqual(['short']);
    const expected = screened();
    expect(
      kinds(linkWith(expected, { far: { ...linkWith(expected).far, S: null } }), 'coded-mapper', expected),
    ).toEqual(['screen-open']);
  });

  it('names a short between the screen and a conductor', () => {
    const expected = screened();
    const link = linkWith(expected, { joins: [{ conductors: ['SCREEN', 'BN'], atM: 1 }] });
    expect(judge(link, 'coded-mapper', expected).findings[0]).toEqual({
      kind: 'short',
      contacts: ['8', 'S'],
      words: '8 and screen joined',
    });
  });

  it('names a cut cable as nothing arriving, not as eight opens', () => {
    const cut = linkWith(plain, { breaks: T568B.map((conductor) => ({ conductor, atM: 5 })) });
    expect(judge(cut, 'coded-mapper').headline).toMatch(/^Nothing arrives/);
  });

  it('finds two things wrong at once', () => {
    const link = linkWith(plain, {
      far: wired(...exchange(T568B, 1, 2)),
      breaks: [{ conductor: 'BN', atM: 12 }],
    });
    expect(kinds(link).sort()).toEqual(['open', 'reversed']);
  });
});

describe('verdicts', () => {
  it('pass a sound link on a mapper, and say what it cannot see', () => {
    const verdict = judge(sound, 'coded-mapper');
    expect([verdict.result, verdict.proves]).toEqual(['pass', 'map']);
    expect(verdict.blindTo).toContain('split');
    expect(verdict.detail).toContain('Not seen: split pair');
    expect(judge(sound, 'coded-mapper-crosstalk').blindTo).not.toContain('split');
  });

  it('never call a lamp tester’s pass a map', () => {
    const end = wired(...PAIR_BY_PAIR);
    const verdict = judge(linkWith(plain, { near: end, far: end }), 'lamp-pairs');
    expect([verdict.result, verdict.proves]).toEqual(['pass', 'loops']);
    expect(verdict.headline).toBe('Every lamp lit: each pair conducts as a loop');
  });

  it('never pass a lone reading that shows a fault, however likelier a slip of the reading is', () => {
    const rare = linkWith(plain, {
      bridges: [{ end: 'near', contacts: ['3', '4'] }],
      unseated: [{ end: 'far', contact: '3' }],
    });
    const alone = diagnose(plain, [observe(rare, 'stepping-lamps')]);
    expect(alone.result).not.toBe('pass');
    expect(alone.result).toBe('fail');
  });

  it('ask for a second reading where a slip is likely and the repair is dear', () => {
    const coax = expectation({ cable: 'rg213', near: 'coax-n', far: 'coax-n', lengthM: 41 });
    const wet = linkWith(coax, { disturbances: [{ atM: 27, lengthM: 1, impedance: 'low' }] });
    const once = [observe(wet, 'coded-mapper'), observe(wet, 'pair-reflectometer')];
    expect(diagnose(coax, once).nextLook?.instrument).toBe('pair-reflectometer');
    const later = { ...observe(wet, 'pair-reflectometer'), taken: { at: '2026-03-02T09:10:00Z' } };
    const first = { ...observe(wet, 'pair-reflectometer'), taken: { at: '2026-03-02T09:00:00Z' } };
    expect(diagnose(coax, [once[0] as Reading, first, later]).repair?.places).toEqual(['cable']);
  });

  it('recognise equipment still connected, and a remote that is elsewhere', () => {
    const plugged = judge(linkWith(plain, { equipment: ['far'] }), 'coded-mapper');
    expect(plugged.repair?.places).toEqual(['unplug']);
    expect(plugged.detail).toContain('equipment still connected');
    const away = judge(linkWith(plain, { farPresent: false }), 'coded-mapper');
    expect(away.explanations[0]?.faults[0]?.kind).toBe('not-connected');
  });

  it('find a loose contact by wiggling after one odd reading, and blame no end before', () => {
    const loose = linkWith(plain, { loose: [{ place: { end: 'far', contact: '3' }, openShare: 0.3 }] });
    const open = linkWith(plain, { unseated: [{ end: 'far', contact: '3' }] });
    const odd = [observe(open, 'coded-mapper'), observe(sound, 'coded-mapper')];
    const doubt = diagnose(plain, odd);
    expect(doubt.result).toBe('cannot-tell');
    expect(doubt.explanations.slice(0, 3).some((e) => e.faults[0]?.kind === 'intermittent')).toBeTrue();
    const settled = diagnose(plain, [...odd, observe(loose, 'wiggle', { end: 'far' })]);
    expect(settled.result).toBe('fail');
    expect(settled.explanations[0]?.faults[0]).toEqual({
      id: 'loose-joint//3/far',
      kind: 'intermittent',
      end: 'far',
      contacts: ['3'],
      pairs: [3],
      distanceM: null,
    });
  });

  it('forget what lies many works back: a long history judges as its last three makes do', () => {
    const reversed = observe(
      linkWith(plain, { far: wired('OG', 'WH-OG', ...T568B.slice(2)) }),
      'coded-mapper',
    );
    const once = [reversed, { work: 'far' as const }];
    const long = Array.from({ length: 30 }, () => once).flat();
    const short = [...once, ...once, reversed];
    const shares = (evidence: Parameters<typeof diagnose>[1]) =>
      diagnose(plain, evidence).explanations.map((e) => e.probability.toFixed(6));
    expect(shares([...long, reversed])).toEqual(shares(short));
  });

  it('stay failed when a lesser instrument passes what a better one failed', () => {
    const end = wired(...PAIR_BY_PAIR);
    const link = linkWith(plain, { near: end, far: end });
    const evidence = [
      observe(link, 'coded-mapper-crosstalk'),
      observe(link, 'coded-mapper'),
      observe(link, 'lamp-pairs'),
    ];
    expect(diagnose(plain, evidence).result).toBe('fail');
  });

  it('cannot tell from colours or echoes alone', () => {
    expect(judge(sound, 'eye').result).toBe('cannot-tell');
    expect(judge(sound, 'pair-reflectometer').result).toBe('cannot-tell');
  });

  it('ask of coax only what coax can have', () => {
    const coax = expectation({ cable: 'rg6', near: 'coax-f', far: 'coax-f' });
    expect(judge(linkWith(coax), 'coded-mapper', coax).result).toBe('pass');
    expect(judge(linkWith(coax), 'coded-mapper', coax).blindTo).not.toContain('split');
    const wet = linkWith(coax, { disturbances: [{ atM: 27, lengthM: 1, impedance: 'low' }] });
    expect(judge(wet, 'pair-reflectometer', coax).headline).toBe('Low impedance at 27.0 m');
  });

  it('know a two-wire telephone line by its two legs', () => {
    const line = expectation({ cable: 'cat5e-u', far: 'phone-socket' });
    expect(Object.keys(intendedLink(line).near)).toEqual(['a', 'b']);
    expect(judge(linkWith(line), 'coded-mapper', line).result).toBe('pass');
    const reversed = linkWith(line, { far: { a: 'BU', b: 'WH-BU' } });
    expect(kinds(reversed, 'coded-mapper', line)).toEqual(['reversed']);
  });
});

describe('which end', () => {
  const exchanged = far('OG', 'WH-OG', ...T568B.slice(2));

  it('is never named from a map alone: both ends explain it', () => {
    const { explanations, repair, nextLook } = judge(exchanged, 'coded-mapper');
    expect(
      explanations
        .slice(0, 2)
        .map((e) => e.repair.places.join())
        .sort(),
    ).toEqual(['far', 'near']);
    expect((explanations[0]?.probability ?? 1) < 0.7).toBeTrue();
    expect(repair).toBeNull();
    expect(nextLook?.instrument).toBe('eye');
  });

  it('is settled by the colours at one end, whichever end it is', () => {
    const evidence = (link: TrueLink): Reading[] => [
      observe(link, 'coded-mapper'),
      observe(link, 'eye', { end: 'far' }),
    ];
    const nearWrong = linkWith(plain, { near: wired('OG', 'WH-OG', ...T568B.slice(2)) });
    expect(diagnose(plain, evidence(exchanged)).repair?.places).toEqual(['far']);
    expect(diagnose(plain, evidence(nearWrong)).repair?.places).toEqual(['near']);
  });

  it('is both when the pairs are split in the same way at each', () => {
    const end = wired(...PAIR_BY_PAIR);
    const verdict = judge(linkWith(plain, { near: end, far: end }), 'coded-mapper-crosstalk');
    expect(verdict.headline).toBe('Split pairs on 3-6 and 4-5');
    expect(verdict.repair?.places).toEqual(['near', 'far']);
    expect(verdict.explanations[0]?.words).toBe('Both ends: laid pair by pair: 1-2, 3-4, 5-6, 7-8');
  });

  it('is the cable when a distance says so, with the distance', () => {
    const link = linkWith(plain, { breaks: [{ conductor: 'BU', atM: 23 }] });
    expect(judge(link, 'coded-mapper').nextLook?.instrument).toBe('pair-reflectometer');
    const settled = diagnose(plain, [observe(link, 'coded-mapper'), observe(link, 'pair-reflectometer')]);
    expect(settled.repair?.places).toEqual(['cable']);
    expect(settled.explanations[0]?.faults[0]).toEqual({
      id: 'broken-conductor//BU/cable@23.0',
      kind: 'open',
      end: 'cable',
      contacts: ['4'],
      pairs: [1],
      distanceM: 23,
    });
  });

  it('is found by a wire not seated through its distance, though colours cannot show it', () => {
    const link = linkWith(plain, { unseated: [{ end: 'far', contact: '4' }] });
    const settled = diagnose(plain, [
      observe(link, 'coded-mapper'),
      observe(link, 'pair-reflectometer'),
      observe(link, 'eye', { end: 'far' }),
    ]);
    expect(settled.repair?.places).toEqual(['far']);
  });
});

describe('diagnosing any single fault', () => {
  /** Faults tried per kind of link, spread over the catalogue: of 25 pairs fewer, for each takes seconds. */
  const MOST = 24;
  const FEW = 8;
  const cases = [
    { expected: plain, name: 'unscreened' },
    { expected: screened(), name: 'screened' },
    { expected: expectation({ cable: 'rg213', near: 'coax-n', far: 'coax-n', lengthM: 41 }), name: 'coax' },
    { expected: expectation({ cable: 'tel-25', near: 'block-110', far: 'block-110' }), name: '25 pairs' },
    {
      expected: expectation({
        cable: 'ribbon-10',
        near: 'ribbon-socket-10',
        far: 'ribbon-socket-10',
        lengthM: 1,
      }),
      name: 'ribbon',
    },
  ];
  for (const { expected, name } of cases) {
    it(`keeps the truth among the explanations and fails it wherever an instrument sees it, ${name}`, () => {
      const intended = intendedLink(expected);
      const frame = frameOf(intended);
      const faults = [
        ...faultsAtEnd(expected, frame, 'near'),
        ...faultsAtEnd(expected, frame, 'far'),
        ...faultsAlongCable(expected, frame, [{ atM: expected.lengthM / 3, share: 1 }]),
      ];
      for (const fault of faults.filter(
        (_, i) => i % Math.ceil(faults.length / (name === '25 pairs' ? FEW : MOST)) === 0,
      )) {
        const link = withFaults(frame, intended, [fault]);
        const classes = ['coded-mapper-crosstalk', 'pair-reflectometer'] as const;
        // No reflectometer resolves a lead of a metre.
        const readings = classes
          .slice(0, expected.lengthM > 5 ? 2 : 1)
          .map((instrument) => observe(link, instrument, { frame }));
        const unlike = readings.some(
          (reading) =>
            JSON.stringify(reading) !== JSON.stringify(observe(intended, reading.instrument, { frame })),
        );
        if (!unlike) continue;
        expect(diagnose(expected, readings).result).withContext(fault.words).toBe('fail');
        const seen = JSON.stringify(readings);
        const alike = believe(expected, readings).hypotheses.find(
          (h) =>
            h.weight > 1e-4 &&
            JSON.stringify(readings.map((r) => observe(h.link, r.instrument, { frame }))) === seen &&
            (h.faults.some((f) => f.kind === fault.kind || fault.rate < 1e-5) ||
              JSON.stringify([h.link.near, h.link.far]) === JSON.stringify([link.near, link.far])),
        );
        expect(alike).withContext(fault.words).toBeDefined();
      }
    });
  }
});

describe('laws of diagnosis', () => {
  const orders = fc.shuffledSubarray(T568B, { minLength: 8 });

  it('explains every permutation at one end, the likeliest explanation giving the reading itself', () => {
    const frame = frameOf(intendedLink(plain));
    fc.assert(
      fc.property(orders, fc.constantFrom('near' as const, 'far' as const), (order, end) => {
        const link = linkWith(plain, { [end]: wired(...order) });
        const reading = observe(link, 'coded-mapper', { frame });
        const { hypotheses } = believe(plain, [reading]);
        const [best] = hypotheses;
        if (!best) return;
        expect(observe(best.link, 'coded-mapper', { frame })).toEqual(reading);
        if (order.join() !== T568B.join())
          expect(hypotheses.some((h) => h.weight > 0.01 && placesToMend(h).includes(end))).toBeTrue();
      }),
      { numRuns: 60 },
    );
  });

  it('shares belief out to no more than one, the likeliest first', () => {
    fc.assert(
      fc.property(orders, (order) => {
        const shares = judge(far(...order), 'coded-mapper').explanations.map((e) => e.probability);
        expect(shares.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(1 + 1e-9);
        expect([...shares].sort((a, b) => b - a)).toEqual(shares);
      }),
      { numRuns: 40 },
    );
  });

  it('never expects a look to cost more than it says: a look offered saves minutes', () => {
    fc.assert(
      fc.property(orders, (order) => {
        const { nextLook, otherLooks } = judge(far(...order), 'coded-mapper');
        for (const look of [...(nextLook ? [nextLook] : []), ...otherLooks])
          expect(look.savesMinutes).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 40 },
    );
  });

  it('counts both ends when both need work', () => {
    const end = wired(...PAIR_BY_PAIR);
    const { hypotheses } = believe(plain, [
      observe(linkWith(plain, { near: end, far: end }), 'coded-mapper-crosstalk'),
    ]);
    expect(expectedRepairMinutes(hypotheses, plain)).toBeGreaterThanOrEqual(
      plain.near.redoMinutes + plain.far.redoMinutes,
    );
  });
});

describe('evidence', () => {
  const map = observe(sound, 'coded-mapper');
  const nearColours = observe(sound, 'eye', { end: 'near' });
  const farColours = observe(sound, 'eye', { end: 'far' });
  const taken = (id: string, reading: Reading, corrects: string | null = null) => ({
    type: 'reading' as const,
    id,
    reading,
    corrects,
  });
  const work = (place: 'near' | 'far' | 'cable') => ({ type: 'work' as const, place });

  it('of meters ends with any work; colours hold until their own end is worked on', () => {
    const before = [taken('a', map), taken('b', nearColours), taken('c', farColours)];
    expect(currentEvidence([...before, work('far')])).toEqual([nearColours]);
    expect(currentEvidence([...before, work('near')])).toEqual([farColours]);
    expect(currentEvidence([...before, work('cable')])).toEqual([]);
  });

  it('leaves a corrected reading out and keeps its correction', () => {
    const lamps = observe(sound, 'lamp-pairs');
    expect(currentEvidence([taken('a', map), taken('b', lamps, 'a')])).toEqual([lamps]);
  });
});

describe('the picture of a link', () => {
  it('draws a crossing of unknown place at both ends with the belief in each', () => {
    const picture = pictureLink(
      plain,
      [observe(far('OG', 'WH-OG', ...T568B.slice(2)), 'coded-mapper')],
      true,
    );
    expect(picture.near.belief).toBeGreaterThan(0.3);
    expect(picture.far.belief).toBeGreaterThan(0.3);
    expect([...picture.near.doubtful]).toEqual(['1', '2']);
    expect([...picture.far.doubtful]).toEqual(['1', '2']);
  });

  it('never invents a distance for a break that was not measured', () => {
    const link = linkWith(plain, { breaks: [{ conductor: 'BU', atM: 23 }] });
    const unmeasured = pictureLink(plain, [observe(link, 'coded-mapper')], true).cable;
    expect(unmeasured.breaks).toEqual([{ conductor: 'BU', atM: null }]);
    const measured = pictureLink(
      plain,
      [observe(link, 'coded-mapper'), observe(link, 'pair-reflectometer')],
      true,
    ).cable;
    expect(measured.belief).toBeGreaterThan(0.95);
    expect(measured).toEqual({
      belief: measured.belief,
      breaks: [{ conductor: 'BU', atM: 23 }],
      joins: [],
      disturbances: [],
    });
  });

  it('leaves a sound link plain', () => {
    const picture = pictureLink(plain, [observe(sound, 'coded-mapper')], false);
    expect([picture.near.belief, picture.far.belief, picture.cable.belief]).toEqual([0, 0, 0]);
    expect(picture.rows.map((row) => row.conductor)).toEqual(T568B);
  });
});
