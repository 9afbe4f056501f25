import fc from 'fast-check';
import {
  believe,
  blindTo,
  diagnose,
  expectLead,
  expectTold,
  FAULT_KINDS,
  faultsAlongCable,
  faultsAtEnd,
  findIn,
  frameOf,
  intendedLink,
  observe,
  pictureOf,
  placesToMend,
  rankLooks,
  repairFor,
  straightReading,
  withFaults,
  type ColourReading,
  type Diagnosis,
  type EchoReading,
  type Evidence,
  type FaultKind,
  type InstrumentClass,
  type LinkExpectation,
  type MapReading,
  type Reading,
  type TrueLink,
} from '../src/index.js';
import { expectation, linkWith, PAIR_BY_PAIR, screened, T568B, wired } from './links.js';

const plain = expectation({ lengthM: 31.4 });
const labelled: LinkExpectation = { ...plain, label: 'P1-05' };
const sound = linkWith(plain);
const at = (minute: number): { taken: { at: string; by: string } } => ({
  taken: { at: `2026-03-02T09:${String(minute).padStart(2, '0')}:00Z`, by: 'Tobi' },
});
const exchange = (order: readonly string[], a: number, b: number): string[] => {
  const next = [...order];
  [next[a - 1], next[b - 1]] = [next[b - 1] as string, next[a - 1] as string];
  return next;
};
const swapped = linkWith(plain, { far: wired(...exchange(T568B, 1, 2)) });
const map = (link: TrueLink, instrument: MapReading['instrument'] = 'coded-mapper', expected = plain) =>
  observe(link, instrument, { frame: frameOf(intendedLink(expected)) }) as MapReading;
const echoes = (pairs: EchoReading['pairs'], from: 'near' | 'far' = 'near'): EchoReading => ({
  instrument: 'pair-reflectometer',
  from,
  pairs,
});
const slips = (diagnosis: Diagnosis): string[] =>
  (diagnosis.explanations[0]?.faults ?? []).map(({ id }) => id.split('/')[0] as string);

describe('readings that disagree', () => {
  it('prove nothing: a straight map does not outvote an exchange, whichever came first', () => {
    for (const readings of [
      [map(swapped), map(sound)],
      [map(sound), map(swapped)],
    ]) {
      const verdict = diagnose(plain, readings);
      expect([verdict.result, verdict.code, verdict.proves]).toEqual([
        'cannot-tell',
        'readings-disagree',
        'nothing',
      ]);
      expect(verdict.detail).toContain('check port, remote and label');
      expect(verdict.nextLook).not.toBeNull();
    }
  });

  it('nor does a right twist outvote a split pair', () => {
    const end = wired(...PAIR_BY_PAIR);
    const split = map(linkWith(plain, { near: end, far: end }), 'coded-mapper-crosstalk');
    const verdict = diagnose(plain, [split, map(sound, 'coded-mapper-crosstalk')]);
    expect(verdict.code).toBe('readings-disagree');
  });

  it('pass only by exception: two more clean readings than failed ones, as able, and a reason', () => {
    const clean = [10, 20, 30].map((minute) => ({ ...map(sound), ...at(minute) }));
    const evidence: Evidence[] = [{ ...map(swapped), ...at(0) }, ...clean];
    const before = diagnose(plain, evidence);
    expect([before.result, before.wantsReason]).toEqual(['cannot-tell', true]);
    const after = diagnose(plain, [...evidence, { misread: 'the cord was on port 6' }]);
    expect([after.result, after.proves]).toEqual(['pass', 'map']);
    expect(after.headline).toBe('Map right, by exception');
    expect(after.exception).toEqual({
      reason: 'the cord was on port 6',
      shown: '1 and 2 exchanged',
      cleanReadings: 3,
    });
    expect(after.detail).toContain('the cord was on port 6');
    // Fewer clean ones, copies of one, or lesser instruments earn none, whatever is said.
    const reason = { misread: 'I think so' };
    for (const some of [
      [evidence[0], clean[0], clean[1], reason],
      [evidence[0], clean[0], clean[0], clean[0], reason],
      [evidence[0], ...[10, 20, 30].map((m) => ({ ...observe(sound, 'lamp-pairs'), ...at(m) })), reason],
    ])
      expect(diagnose(plain, some as Evidence[]).result).not.toBe('pass');
  });

  it('are settled by work: what was read before it does not contradict what is read after', () => {
    expect(diagnose(plain, [map(swapped), { work: 'far' }, map(sound)]).code).toBe('map-right');
  });

  it('count a reading kept twice once', () => {
    const dark = {
      ...observe(sound, 'lamp-pairs'),
      lamps: { '1-2': true, '3-6': false, '4-5': true, '7-8': true },
    } as Reading;
    const once = diagnose(plain, [dark]);
    const twice = diagnose(plain, [dark, dark]);
    const soon = diagnose(plain, [
      { ...dark, ...at(1) },
      { ...dark, taken: { at: '2026-03-02T09:01:08Z', by: 'Tobi' } },
    ]);
    for (const verdict of [twice, soon]) {
      expect(verdict.result).toBe(once.result);
      expect(verdict.explanations.map((e) => e.probability)).toEqual(
        once.explanations.map((e) => e.probability),
      );
    }
    const later = believe(plain, [
      { ...dark, ...at(1) },
      { ...dark, ...at(9) },
    ]);
    expect(later.sound).toBeLessThan(believe(plain, [dark]).sound);
  });
});

describe('a remote that hangs elsewhere', () => {
  it('passes nothing, and is named', () => {
    const verdict = diagnose(labelled, [{ ...map(sound), remote: 'P1-07' }]);
    expect([verdict.result, verdict.code]).toEqual(['cannot-tell', 'remote-elsewhere']);
    expect(verdict.headline).toBe('The remote hangs at P1-07');
    expect(verdict.repair?.places).toEqual(['outlet']);
    expect(diagnose(labelled, [{ ...map(sound), remote: 'P1-05' }]).result).toBe('pass');
  });
});

describe('the catalogue is complete', () => {
  const joined = (contacts: readonly string[]): MapReading => ({
    ...straightReading(plain),
    arrivals: Object.fromEntries([...'12345678'].map((c) => [c, contacts.includes(c) ? [...contacts] : [c]])),
    joins: [[...contacts]],
  });

  it('so that contacts joined in any number are a short, and never a slip of the reading', () => {
    for (const contacts of [['1', '2', '3', '6'], [...'12345678'], ['2', '5', '8']]) {
      for (const readings of [[joined(contacts)], [0, 10].map((m) => ({ ...joined(contacts), ...at(m) }))]) {
        const verdict = diagnose(plain, readings);
        expect(verdict.result).withContext(contacts.join()).toBe('fail');
        expect(verdict.findings[0]?.kind).toBe('short');
        expect(believe(plain, readings).sound).toBeLessThan(0.02);
      }
    }
  });

  it('so that lamps that say the same three times are no misreading', () => {
    const lamps: MapReading = {
      ...straightReading(plain),
      instrument: 'stepping-lamps',
      arrivals: { ...straightReading(plain).arrivals, 5: ['6'], 6: ['6'] },
    };
    for (const readings of [[lamps], [0, 10, 20].map((m) => ({ ...lamps, ...at(m) }))]) {
      const verdict = diagnose(plain, readings);
      expect(verdict.result).toBe('fail');
      expect(verdict.findings[0]?.words).toBe('5 and 6 joined');
    }
  });

  it('so that hands touch drain and contact 3, or 2 and 7, together', () => {
    const expected = screened();
    const bare = straightReading(expected);
    const drain: MapReading = {
      ...bare,
      arrivals: { ...bare.arrivals, 3: ['3', 'S'], S: ['3', 'S'] },
      joins: [['3', 'S']],
    };
    for (const [link, reading] of [
      [expected, drain],
      [plain, joined(['2', '7'])],
    ] as const) {
      const places = new Map<string, number>();
      for (const h of believe(link, [reading]).hypotheses)
        for (const place of placesToMend(h)) places.set(place, (places.get(place) ?? 0) + h.weight);
      expect((places.get('near') ?? 0) + (places.get('far') ?? 0)).toBeGreaterThan(0.5);
    }
  });

  it('and knows one cause for what happens together: crushed at 12 m', () => {
    const end = [{ kind: 'open' as const, distanceM: 31.4 }];
    const short = [{ kind: 'short' as const, distanceM: 12 }];
    const verdict = diagnose(plain, [
      joined(['1', '2', '3', '6']),
      echoes({ '1-2': short, '3-6': short, '4-5': end, '7-8': end }),
    ]);
    expect(slips(verdict)).toEqual(['crushed']);
    expect(verdict.explanations[0]?.words).toBe(
      'Cable: crushed or stapled, WH-OG, OG, WH-GN and GN pressed together 12.0 m from the near end',
    );
    expect(verdict.explanations[0]?.repair.places).toEqual(['cable']);
    const all = diagnose(plain, [
      echoes({ '1-2': short, '3-6': short, '4-5': short, '7-8': short }),
      joined([...'12345678']),
    ]);
    expect(all.explanations[0]?.repair.places).toEqual(['cable']);
  });

  it('and says when nothing of ours fits, without naming work', () => {
    const odd = {
      ...straightReading(plain),
      arrivals: {
        ...straightReading(plain).arrivals,
        1: ['2', '5'],
        2: ['5', '7'],
        3: ['7', '1'],
        4: ['3'],
        6: ['3'],
        8: [],
      },
    };
    const verdict = diagnose(plain, [odd]);
    expect(verdict.result).toBe('fail');
    if (verdict.code === 'unexplained') expect(verdict.repair).toBeNull();
    expect(believe(plain, [odd]).sound).toBeLessThan(0.05);
    const eyes = (['near', 'far'] as const).map((end) =>
      observe(sound, 'eye', { end, frame: frameOf(intendedLink(plain)) }),
    );
    const further = (owned?: readonly InstrumentClass[]): unknown =>
      diagnose(plain, [odd, ...eyes], undefined, owned).nextLook?.instrument;
    expect(further()).toBe('coded-mapper-crosstalk');
    // What the crew does not have is not asked for.
    expect(further(['coded-mapper', 'ohmmeter'])).toBe('ohmmeter');
    expect(further(['coded-mapper'])).toBe('coded-mapper');
  });
});

describe('the resistance of a path', () => {
  const touch = (from: string, to: string, ohm: number, end: 'near' | 'far' = 'near'): Reading => ({
    instrument: 'ohmmeter',
    touches: [{ from: { end: 'near', contacts: [from] }, to: { end, contacts: [to] }, closed: true, ohm }],
  });
  const share = (expected: LinkExpectation, readings: Reading[], place: 'near' | 'far'): number =>
    believe(expected, readings).hypotheses.reduce(
      (sum, h) => sum + (placesToMend(h).includes(place) ? h.weight : 0),
      0,
    );

  it('says where a coax is shorted: next to nothing at this end, the whole loop at the other', () => {
    const coax = expectation({ cable: 'rg6', near: 'coax-f', far: 'coax-f', lengthM: 71.8 });
    // Copper-clad steel, about 0.1 ohm/m, and its braid.
    const loop = 71.8 * (0.1 + 0.01);
    expect(share(coax, [touch('C', 'S', 0.1)], 'near')).toBeGreaterThan(0.9);
    expect(share(coax, [touch('C', 'S', loop)], 'far')).toBeGreaterThan(0.6);
    expect(diagnose(coax, [touch('C', 'S', 0.1)]).result).toBe('fail');
  });

  it('says at which end two joined wires touch', () => {
    const link = linkWith(plain, { bridges: [{ end: 'near', contacts: ['3', '4'] }] });
    const readings = [map(link), touch('3', '4', 0.1)];
    expect(share(plain, readings, 'near')).toBeGreaterThan(0.9);
    expect(share(plain, [map(link), touch('3', '4', 2 * 31.4 * 0.0668)], 'far')).toBeGreaterThan(0.7);
  });

  it('is asked for where two ends are as likely, and settles it', () => {
    const link = linkWith(plain, { bridges: [{ end: 'far', contacts: ['3', '4'] }] });
    const before = diagnose(plain, [map(link)]);
    expect(before.repair).toBeNull();
    const looks = [before.nextLook, ...before.otherLooks];
    const ohms = looks.find((look) => look?.instrument === 'ohmmeter');
    expect(ohms?.plan).toBeDefined();
    const taken = observe(link, 'ohmmeter', {
      frame: frameOf(intendedLink(plain)),
      ...(ohms?.plan ? { plan: ohms.plan } : {}),
    });
    expect(diagnose(plain, [map(link), taken]).explanations[0]?.repair.places).toEqual(['far']);
  });
});

describe('one decision', () => {
  const orders = fc.shuffledSubarray(T568B, { minLength: 8 });

  it('never says both to cut nothing yet and what to do now', () => {
    fc.assert(
      fc.property(orders, orders, (near, far) => {
        const verdict = diagnose(plain, [map(linkWith(plain, { near: wired(...near), far: wired(...far) }))]);
        expect(verdict.repair === null || verdict.nextLook === null).toBeTrue();
        expect(verdict.repair !== null && verdict.detail.includes('do not cut')).toBeFalse();
      }),
      { numRuns: 40 },
    );
  });

  it('proposes work at two places only where both are sure', () => {
    for (const change of [
      { far: wired(...exchange(T568B, 1, 2)) },
      { near: wired(...exchange(T568B, 1, 2)), far: wired(...exchange(T568B, 4, 6)) },
      { near: wired(...PAIR_BY_PAIR), far: wired(...PAIR_BY_PAIR) },
    ]) {
      const link = linkWith(plain, change);
      const readings = [map(link, 'coded-mapper-crosstalk'), observe(link, 'eye', { end: 'far' })];
      const { repair } = diagnose(plain, readings);
      if (!repair || repair.places.length < 2) continue;
      const { hypotheses, sound: none } = believe(plain, readings);
      for (const place of repair.places) {
        const belief = hypotheses.reduce(
          (s, h) => s + (placesToMend(h).includes(place as never) ? h.weight : 0),
          0,
        );
        expect(belief / (1 - none)).toBeGreaterThan(0.9);
      }
    }
  });

  it('asks for no look that the reading just taken already gave', () => {
    const lamps = observe(linkWith(plain, { breaks: [{ conductor: 'BU', atM: 9 }] }), 'lamp-pairs');
    expect(diagnose(plain, [lamps]).nextLook?.instrument).not.toBe('lamp-pairs');
  });

  it('offers only instruments that the crew has', () => {
    const link = linkWith(plain, { breaks: [{ conductor: 'BU', atM: 23 }] });
    const belief = believe(plain, [map(link)]);
    expect(rankLooks(belief, plain).map((l) => l.instrument)).toContain('pair-reflectometer');
    const owned: InstrumentClass[] = ['coded-mapper', 'eye'];
    for (const look of rankLooks(belief, plain, owned)) expect(owned).toContain(look.instrument);
  });

  it('punches wires again at a jack rather than making it anew', () => {
    const jacks = expectation({ near: 'jack-punched', far: 'jack-punched' });
    const faults = faultsAtEnd(jacks, frameOf(intendedLink(jacks)), 'near').filter(
      (f) => f.slip === 'reversed-pair',
    );
    const repair = repairFor(['near'], jacks, faults.slice(0, 1));
    expect(repair.words).toBe('punch 1 and 2 again at the near jack');
    expect([repair.connectors, repair.minutes < repairFor(['near'], jacks).minutes]).toEqual([0, true]);
  });

  it('says what the right map leaves open: a far eye that read nothing is no fault', () => {
    const blank = {
      instrument: 'eye' as const,
      end: 'far' as const,
      colours: Object.fromEntries([...'12345678'].map((c) => [c, null])),
    };
    const verdict = diagnose(plain, [map(sound), blank]);
    expect([verdict.result, verdict.findings.length]).toEqual(['pass', 0]);
  });
});

describe('a drain that lies under no clip', () => {
  const meant = screened();
  const bare = linkWith(meant, { far: { ...linkWith(meant).far, S: null } });
  const lit = observe(bare, 'lamp-pairs');
  const look = observe(bare, 'eye', { end: 'far' }) as ColourReading;
  const unread: ColourReading = { instrument: 'eye', end: 'far', colours: look.colours };

  it('is seen by an eye where every lamp lights, and is the far end’s work', () => {
    expect(look.empty).toEqual(['S']);
    const verdict = diagnose(meant, [look, lit]);
    expect([verdict.result, verdict.headline]).toEqual(['fail', 'Far end has nothing on screen']);
    expect(verdict.repair?.places).toEqual(['far']);
  });

  it('is no fault where that contact could only not be read, but no pass of the lamps either', () => {
    const verdict = diagnose(meant, [unread, lit]);
    expect([verdict.result, verdict.headline]).toEqual(['cannot-tell', 'Far end not read on screen']);
    expect([verdict.nextLook?.instrument, verdict.nextLook?.end]).toEqual(['eye', 'far']);
    expect(verdict.findings).toEqual([]);
    // A mapper says what the eye could not, and a second look what the first could not.
    expect(diagnose(meant, [unread, map(linkWith(meant), 'coded-mapper', meant)]).result).toBe('pass');
    const again = observe(linkWith(meant), 'eye', { end: 'far' });
    expect(diagnose(meant, [unread, again, lit]).result).toBe('pass');
  });

  it('passes on lamps where nobody looked, or nothing could be read at all', () => {
    const blank = Object.fromEntries(Object.keys(look.colours).map((c) => [c, null]));
    expect(diagnose(meant, [lit]).code).toBe('loops-only');
    expect(diagnose(meant, [{ ...unread, colours: blank }, lit]).code).toBe('loops-only');
  });

  it('is drawn as seen where it was, and as meant where it was not', () => {
    expect(pictureOf(meant, [look], []).far.seen).toEqual(look.colours);
    expect(Object.keys(pictureOf(meant, [unread], []).far.seen ?? {})).not.toContain('S');
  });
});

describe('a contact that could not be read', () => {
  const nought = { ...sound.far, 4: null };
  const look = (empty: string[]): Evidence => ({
    instrument: 'eye',
    end: 'far',
    colours: nought,
    ...(empty.length > 0 ? { empty } : {}),
  });
  const open = map(linkWith(plain, { far: nought }));
  const shareAtFar = (evidence: Evidence[]): number =>
    believe(plain, evidence).hypotheses.reduce(
      (sum, h) => sum + (placesToMend(h).join() === 'far' ? h.weight : 0),
      0,
    );

  it('says less of where a wire is lost than one that was seen to be empty', () => {
    expect(shareAtFar([open, look(['4'])])).toBeGreaterThan(0.98);
    expect(shareAtFar([open, look([])])).toBeLessThan(shareAtFar([open, look(['4'])]));
    // The wire is seen there: one that misses its contact at this end is a little less likely than before.
    expect(shareAtFar([open, observe(sound, 'eye', { end: 'far' })])).toBeLessThan(shareAtFar([open]));
  });
});

describe('another length than planned', () => {
  const ends = (distanceM: number): EchoReading =>
    echoes(Object.fromEntries(['1-2', '3-6', '4-5', '7-8'].map((p) => [p, [{ kind: 'open', distanceM }]])));

  it('is the plan’s fault where the map is right and every pair ends alike', () => {
    const verdict = diagnose(plain, [map(sound), ends(40)]);
    expect(verdict.result).toBe('pass');
    expect(verdict.findings.map((f) => f.kind)).toEqual(['length']);
    expect(verdict.detail).toContain(
      'every pair ends at 40.0 m where the plan has 31.4 m'.replace('every', 'Every'),
    );
    expect(verdict.repair).toBeNull();
  });

  it('is not believed of an echo at nine times the length', () => {
    const short = expectation({ cable: 'rg6', near: 'coax-f', far: 'coax-f', lengthM: 25 });
    const reading = echoes({ 'C-S': [{ kind: 'open', distanceM: 217 }] });
    const { hypotheses } = believe(short, [map(linkWith(short), 'coded-mapper', short), reading]);
    const share = hypotheses.reduce(
      (s, h) => s + (h.faults.some((f) => f.kind === 'length') ? h.weight : 0),
      0,
    );
    expect(share).toBeLessThan(0.5);
  });
});

describe('words by the family of the link', () => {
  it('name schemes only of four pairs on eight contacts', () => {
    const wire = (id: string) => ({ id, pair: null, leg: null });
    const ids = [...'ABCDEFGHI'];
    const end = Object.fromEntries(ids.map((id, i) => [String(i + 1), id]));
    const lead = expectLead({ lengthM: 2, conductors: ids.map(wire), near: end, far: end });
    const arrive = (to: number[]): MapReading => ({
      instrument: 'coded-mapper',
      arrivals: Object.fromEntries(to.map((f, i) => [String(i + 1), [String(f)]])),
      joins: [],
      splits: null,
    });
    const crossed = findIn(lead, arrive([3, 6, 1, 4, 5, 2, 7, 8, 9]));
    expect(crossed.map((f) => f.words)).toEqual(['1 and 3 exchanged', '2 and 6 exchanged']);
    const mirrored = findIn(lead, arrive([9, 8, 7, 6, 5, 4, 3, 2, 1]));
    expect(mirrored.map((f) => f.kind)).toEqual(['mirror']);
  });

  it('ask coax for no crosstalk and tell it of no split pairs', () => {
    const coax = expectation({ cable: 'rg6', near: 'coax-f', far: 'coax-f' });
    const open = linkWith(coax, { unseated: [{ end: 'far', contact: 'C' }] });
    const verdict = diagnose(coax, [map(open, 'coded-mapper', coax)]);
    const said = JSON.stringify([
      verdict.detail,
      verdict.nextLook?.words,
      verdict.otherLooks.map((l) => l.words),
    ]);
    expect(said).not.toMatch(/crosstalk|split/i);
    expect(diagnose(coax, [map(linkWith(coax), 'coded-mapper-crosstalk', coax)]).headline).toBe('Map right');
    expect(blindTo(coax, [{ instrument: 'coded-mapper' }])).not.toContain('split');
  });
});

describe('explanations', () => {
  it('carry the key of the hypothesis they tell, so that each has its own picture', () => {
    const readings = [observe(sound, 'lamp-pairs'), map(swapped)];
    const { explanations } = diagnose(plain, readings);
    const { hypotheses } = believe(plain, readings);
    for (const { key, probability, faults } of explanations) {
      const told = hypotheses.find((h) => h.key === key);
      expect(told?.weight).toBeCloseTo(probability, 9);
      expect(told?.faults.map((f) => f.id)).toEqual(faults.map((f) => f.id));
    }
  });

  it('and trace and map agree: a low impedance half way is no equipment at the end', () => {
    const end = [{ kind: 'open' as const, distanceM: 41 }];
    const verdict = diagnose(expectation({ lengthM: 41 }), [
      echoes({ '1-2': [{ kind: 'low', distanceM: 27.5 }, ...end], '3-6': end, '4-5': end, '7-8': end }),
    ]);
    expect(JSON.stringify(verdict.explanations)).not.toContain('equipment');
  });
});

describe('laws of judgement', () => {
  const twinOf = (order: readonly string[]): string[] => order.map((w) => SWAP[w] ?? w);
  const SWAP: Record<string, string> = { OG: 'GN', GN: 'OG', 'WH-OG': 'WH-GN', 'WH-GN': 'WH-OG' };
  const asA = expectation({ lengthM: 31.4, scheme: 'T568A' });
  const orders = fc.shuffledSubarray(T568B, { minLength: 8 });
  const summary = (d: Diagnosis, told: (probability: number) => unknown = (p) => p): unknown => [
    d.result,
    d.code,
    d.repair?.places ?? null,
    d.nextLook?.instrument ?? null,
    d.nextLook?.end ?? null,
    // The same terms are added in another order.
    d.explanations.slice(0, 3).map((e) => [told(e.probability), e.repair.places.join()]),
  ];
  const nearly = (probability: number): jasmine.AsymmetricMatcher<number> => ({
    asymmetricMatch: (other) => Math.abs(Number(other) - probability) < 1e-6,
    jasmineToString: () => probability.toFixed(7),
  });

  it('a link to T568A and its twin to T568B are judged alike', () => {
    fc.assert(
      fc.property(orders, orders, fc.boolean(), (near, far, both) => {
        const b = linkWith(plain, { far: wired(...far), ...(both ? { near: wired(...near) } : {}) });
        const a = linkWith(asA, {
          far: wired(...twinOf(far)),
          ...(both ? { near: wired(...twinOf(near)) } : {}),
        });
        const readings = (link: TrueLink, expected: LinkExpectation): Reading[] => [
          map(link, 'coded-mapper-crosstalk', expected),
          observe(link, 'eye', { end: 'far' }),
        ];
        expect(summary(diagnose(asA, readings(a, asA)))).toEqual(
          summary(diagnose(plain, readings(b, plain)), nearly),
        );
      }),
      { numRuns: 25 },
    );
  });

  it('near and far exchanged, the verdict is mirrored', () => {
    const even = expectation({ near: 'jack-punched', far: 'jack-punched', lengthM: 31.4 });
    const faults = faultsAtEnd(even, frameOf(intendedLink(even)), 'far');
    const places = (link: TrueLink, mirrored: boolean): Map<string, number> => {
      const end = mirrored ? 'near' : 'far';
      const readings = [map(link, 'coded-mapper', even), observe(link, 'eye', { end })];
      const belief = new Map<string, number>();
      for (const h of believe(even, readings).hypotheses)
        for (const place of placesToMend(h)) {
          const name = place === 'cable' ? place : (place === 'near') === mirrored ? 'there' : 'here';
          belief.set(name, (belief.get(name) ?? 0) + h.weight);
        }
      return belief;
    };
    // What swaps contacts alike at either end reads the same from both; shifts and the like do not.
    for (const fault of faults
      .filter(({ slip }) =>
        [
          'reversed-pair',
          'neighbour-swap',
          'mirror',
          'missed-slot',
          'touching-neighbours',
          'transposed-pairs',
        ].includes(slip),
      )
      .filter((_, i) => i % 4 === 0)) {
      const far = withFaults(frameOf(intendedLink(even)), intendedLink(even), [fault]);
      const near: TrueLink = {
        ...far,
        near: far.far,
        far: far.near,
        unseated: far.unseated.map((u) => ({ ...u, end: 'near' as const })),
        bridges: far.bridges.map((u) => ({ ...u, end: 'near' as const })),
      };
      const [one, other] = [places(near, true), places(far, false)];
      for (const name of ['here', 'there', 'cable'])
        expect(Math.abs((one.get(name) ?? 0) - (other.get(name) ?? 0)))
          .withContext(`${fault.id} ${name}`)
          .toBeLessThan(0.005);
    }
  });

  it('the names of contacts do not matter', () => {
    const wire = (id: string, pair: number) => ({ id, pair, leg: null });
    const conductors = [wire('RD', 1), wire('BK', 1), wire('YE', 2), wire('BU', 2)];
    const lead = (names: readonly string[]): LinkExpectation => {
      const end = Object.fromEntries(names.map((name, i) => [name, conductors[i]?.id ?? null]));
      return expectLead({ lengthM: 8, conductors, near: end, far: end });
    };
    const judged = (
      names: readonly string[],
      to: readonly number[],
      told?: (probability: number) => unknown,
    ): unknown => {
      const arrivals = Object.fromEntries(
        names.map((n, i) => [n, to[i] === undefined || to[i] < 0 ? [] : [names[to[i]] as string]]),
      );
      return summary(
        diagnose(lead(names), [{ instrument: 'coded-mapper', arrivals, joins: [], splits: null }]),
        told,
      );
    };
    for (const to of [
      [1, 0, 2, 3],
      [2, 1, 0, 3],
      [3, 2, 1, 0],
      [0, -1, 2, 3],
      [1, 2, 3, -1],
    ])
      expect(judged(['P', 'Q', 'R', 'T'], to)).toEqual(judged(['1', '2', '3', '4'], to, nearly));
  });
});

describe('blindness is computed', () => {
  const links: Record<string, LinkExpectation> = {
    'four pairs': plain,
    screened: screened(),
    coax: expectation({ cable: 'rg213', near: 'coax-n', far: 'coax-n', lengthM: 41 }),
    telephone: expectation({ cable: 'cat5e-u', near: 'phone-socket', far: 'phone-socket', lengthM: 30 }),
  };
  const classes: InstrumentClass[] = [
    'lamp-pairs',
    'lamps-one-return',
    'stepping-lamps',
    'coded-mapper',
    'coded-mapper-crosstalk',
    'beeper',
    'ohmmeter',
    'pair-reflectometer',
    'wiggle',
    'eye',
  ];

  for (const [name, expected] of Object.entries(links)) {
    it(`as the enumeration of every fault says, ${name}`, () => {
      const intended = intendedLink(expected);
      const frame = frameOf(intended);
      const near = faultsAtEnd(expected, frame, 'near');
      const far = faultsAtEnd(expected, frame, 'far');
      const along = faultsAlongCable(expected, frame, [{ atM: 0.43 * expected.lengthM, share: 1 }]);
      const both = near.flatMap((n) => {
        const f = far.find((one) => one.twin === n.twin && n.kind === 'split');
        return f ? [[n, f]] : [];
      });
      for (const instrument of classes) {
        const end = instrument === 'eye' || instrument === 'wiggle' ? 'far' : 'near';
        const unseen = new Set<FaultKind>();
        for (const faults of [...[...near, ...far, ...along].map((f) => [f]), ...both]) {
          const link = withFaults(frame, intended, faults);
          if (findIn(expected, observe(link, instrument, { frame, end })).length === 0)
            unseen.add(faults[0]?.kind as FaultKind);
        }
        expect(blindTo(expected, [{ instrument, end }]).map(String).sort())
          .withContext(instrument)
          .toEqual([...unseen].sort());
      }
    });
  }

  it('of lamps in loops: not of an exchange that darkens two, but of what keeps each loop', () => {
    const blind = blindTo(plain, [{ instrument: 'lamp-pairs' }]);
    expect(blind).toContain('reversed');
    expect(blind).toContain('split');
    expect(blind).not.toContain('swap');
    expect(blindTo(plain, [{ instrument: 'lamps-one-return' }])).toContain('swap');
  });

  it('of a telephone line: lamps do not see a splice, a map does not see a split, a beeper no high resistance', () => {
    const line = links['telephone'] as LinkExpectation;
    expect(blindTo(line, [{ instrument: 'lamp-pairs' }])).toContain('splice');
    expect(blindTo(line, [{ instrument: 'coded-mapper' }])).toContain('split');
    expect(blindTo(line, [{ instrument: 'beeper' }])).toContain('high-resistance');
  });

  it('together less than alone: what one instrument misses another may show', () => {
    const one = blindTo(plain, [{ instrument: 'coded-mapper' }]);
    const two = blindTo(plain, [{ instrument: 'coded-mapper' }, { instrument: 'pair-reflectometer' }]);
    expect(two.length).toBeLessThan(one.length);
    expect(Object.keys(FAULT_KINDS)).toEqual(jasmine.arrayContaining(two.map(String)));
  });
});

describe('the marks of a simulated reading', () => {
  it('stand on the verdict', () => {
    const reading = { ...map(sound), taken: { at: '2026-03-02T09:00:00Z', by: 'Tobi', simulated: true } };
    expect(diagnose(plain, [reading]).simulated).toBeTrue();
    expect(diagnose(plain, [map(sound)]).simulated).toBeFalse();
  });
});

describe('a told label', () => {
  it('reaches the judgement', () => {
    const told = expectTold({
      label: 'P1-05',
      cable: 'cat6-u',
      scheme: 'T568B',
      lengthM: 20,
      near: 'jack-punched',
      far: 'plug-closed',
    });
    expect(told.label).toBe('P1-05');
  });
});

describe('what was seen before the last work', () => {
  const expected = expectation({ lengthM: 51.8, scheme: 'T568A' });
  const map = (arrivals: Record<string, string[]>): MapReading => ({
    instrument: 'coded-mapper-crosstalk',
    arrivals: { ...Object.fromEntries([...'12345678'].map((c) => [c, [c]])), ...arrivals },
    joins: [],
    splits: [],
  });
  const echoes: Reading = {
    instrument: 'pair-reflectometer',
    from: 'far',
    pairs: {
      '1-2': [{ kind: 'open', distanceM: 54.3 }],
      '3-6': [{ kind: 'open', distanceM: 53.5 }],
      '4-5': [{ kind: 'open', distanceM: 54.1 }],
      '7-8': [{ kind: 'short', distanceM: 37.1 }],
    },
  };
  const before: Evidence[] = [map({ 2: [], 7: ['7', '8'], 8: [] }), echoes, { work: 'near' }];
  const lit: Reading = {
    instrument: 'lamp-pairs',
    lamps: { '1-2': true, '3-6': true, '4-5': true, '7-8': true },
  };

  it('is not passed by what cannot see it: lamps light though a pair is shorted on the way', () => {
    const { result, headline, explanations, repair, nextLook } = diagnose(expected, [...before, lit]);
    expect(result).toBe('cannot-tell');
    expect(headline).toContain('Seen before the last work: Cable: WH-BN and BN');
    expect(explanations[0]?.faults[0]?.end).toBe('cable');
    expect(repair ?? nextLook).not.toBeNull();
  });

  it('is passed once it is mended', () => {
    expect(diagnose(expected, [...before, { work: 'cable' }, lit]).result).toBe('pass');
  });

  it('gives way to enough readings that would show it and do not, not to one', () => {
    // Two readings showed a short where nobody worked: a clean one may be of another link.
    const through: Reading = {
      ...echoes,
      pairs: { ...echoes.pairs, '7-8': [{ kind: 'open', distanceM: 53.9 }] },
    };
    const clean: Reading[] = [
      map({}),
      through,
      { ...map({}), instrument: 'coded-mapper', splits: null },
      { ...map({}), instrument: 'stepping-lamps', splits: null },
    ];
    const after = (n: number): Diagnosis => diagnose(expected, [...before, ...clean.slice(0, n)]);
    expect(after(1).result).toBe('cannot-tell');
    expect([after(4).result, after(4).code]).toEqual(['pass', 'map-right']);
  });

  it('is nothing of a link that was in order before', () => {
    expect(diagnose(expected, [map({}), { work: 'near' }, lit]).result).toBe('pass');
  });
});
