import fc from 'fast-check';
import {
  buildPlan,
  compareDesigns,
  netsOf,
  nextTouch,
  placeWords,
  pointKey,
  proofList,
  soundLead,
  suspectsOf,
  workUp,
  wouldBeep,
  type AdapterDesign,
  type Net,
  type RealJoins,
  type Suspect,
} from '@near-spoke/core';
import { end, joins, KNOWN_ADAPTERS } from './known-adapters.js';

const serial = (): AdapterDesign => ({
  name: 'null modem',
  ends: [
    { ...end('A', 'logger', 'phone', 'T TXD o,R RXD i !,S GND g', 'cmos-5'), layout: 'phone-3' },
    {
      ...end('B', 'terminal', 'DE-9', '2 RXD i !,3 TXD o,5 GND g,7 RTS o,8 CTS i', 'cmos-5'),
      layout: 'd-sub-9',
    },
  ],
  joins: joins('AT-B2 AR-B3 AS-B5 B7-B8'),
  wires: [
    { id: '1', colour: 'RD', areaMm2: 0.14, pair: null },
    { id: '2', colour: 'BK', areaMm2: 0.14, pair: null, halves: { B: 'BN' } },
    { id: '3', colour: 'WH', areaMm2: 0.14, pair: null },
    { id: '4', colour: 'GN', areaMm2: 0.14, pair: null },
  ],
  lengthM: 1,
});

describe('building an adapter', () => {
  it('threads every closed ring first, then joins connector by connector as the wiring side is read', () => {
    const design = serial();
    const steps = buildPlan(design, workUp(design));
    expect(steps.map(({ kind }) => kind).join(' ')).toBe(
      'thread thread joint joint joint joint joint joint bridge keep',
    );
    const joints = steps.filter(({ kind }) => kind === 'joint');
    // The wiring side of a plug shows 5 4 3 2 1, that of a phone plug the sleeve first.
    expect(joints.map(({ end: at, contact }) => `${at} ${contact}`)).toEqual([
      'A S',
      'A R',
      'A T',
      'B 5',
      'B 3',
      'B 2',
    ]);
    expect(new Set(steps.map(({ id }) => id)).size).toBe(steps.length);
  });

  it('names at each end the colour that its own half has', () => {
    const design = serial();
    const ground = buildPlan(design, workUp(design)).filter(
      ({ wire, kind }) => kind === 'joint' && wire === '2',
    );
    expect(ground.map(({ end: at, colour, farColour }) => [at, colour, farColour])).toEqual([
      ['A', 'BK', 'BN'],
      ['B', 'BN', 'BK'],
    ]);
  });

  it('has a joint for every end of every crossing net, a bridge for the rest, and a part for every coupling', () => {
    for (const { what, design } of KNOWN_ADAPTERS) {
      const worked = workUp(design);
      const steps = buildPlan(design, worked);
      const count = (kind: string): number => steps.filter((step) => step.kind === kind).length;
      const pins = worked.rows.reduce((sum, { net }) => sum + net.pins.length, 0);
      const alone = worked.rows.filter(
        ({ net }) => new Set(net.pins.map((pin) => pin.end)).size === 1,
      ).length;
      expect(count('joint') + count('bridge') + alone)
        .withContext(what)
        .toBe(pins);
      expect(count('part')).withContext(what).toBe(worked.couplings.length);
    }
  });
});

describe('joining then reversing', () => {
  it('leaves every net, rule and touch as it was, whichever end is called the first', () => {
    const partition = (design: AdapterDesign): string =>
      netsOf(design)
        .nets.map(({ pins }) => pins.map(placeWords).sort().join('='))
        .sort()
        .join(' ');
    const told = (design: AdapterDesign): string[] =>
      workUp(design)
        .findings.map(({ rule, severity, contacts }) => `${severity} ${rule} ${[...contacts].sort().join()}`)
        .sort();
    for (const { what, design } of KNOWN_ADAPTERS) {
      const reversed: AdapterDesign = {
        ...design,
        ends: design.ends.toReversed(),
        joins: design.joins.toReversed().map(({ from, to, parts }) => ({
          from: to,
          to: from,
          parts: parts.toReversed(),
        })),
      };
      expect(partition(reversed)).withContext(what).toBe(partition(design));
      expect(told(reversed)).withContext(what).toEqual(told(design));
      expect(workUp(reversed).proof.length).withContext(what).toBe(workUp(design).proof.length);
    }
  });
});

describe('what a proof’s answers say', () => {
  const design = serial();
  const worked = workUp(design);
  const heardOn = (nets: readonly Net[], real: RealJoins) =>
    proofList(nets).map((touch) => ({ touch, beeped: wouldBeep(touch, real) }));

  it('is nothing where all is as it should be', () => {
    expect(suspectsOf(worked.nets, heardOn(worked.nets, soundLead(worked.nets)), design.ends)).toEqual([]);
  });

  it('names a mirrored face before anything else', () => {
    const named = suspectsOf(worked.nets, heardOn(worked.nets, mirroredAt('B')), design.ends);
    expect(named[0]?.kind).toBe('mirrored face');
    expect(named[0]?.words).toContain('terminal (B)');
  });

  /** The lead with what was meant for 5 4 3 2 1 on 1 2 3 4 5, and 9 8 7 6 on 6 7 8 9. */
  function mirroredAt(at: string): RealJoins {
    const mirror: Record<string, string> = { '2': '4', '3': '3', '5': '1', '7': '8', '8': '7' };
    const sound = soundLead(worked.nets);
    const real = new Map(sound);
    const pins = design.ends.find(({ id }) => id === at)?.pins ?? [];
    pins.forEach(({ contact }, n) => real.set(`${at} ${contact}`, -1 - n));
    for (const { contact } of pins) {
      const place = `${at} ${mirror[contact]}`;
      if (real.has(place)) real.set(place, sound.get(`${at} ${contact}`) ?? -99);
    }
    return real;
  }

  const nets = fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 2, maxLength: 6 }).map((sizes): Net[] =>
    sizes.map((size, n) => ({
      name: `N${n}`,
      points: Array.from({ length: size }, (_, k) => ({
        end: k % 2 === 0 ? 'A' : 'B',
        contact: `${n}.${k}`,
      })),
    })),
  );

  it('always holds the one fault that the lead has, and further touches leave only what acts alike', () => {
    fc.assert(
      fc.property(nets, fc.nat(), (some, seed) => {
        // Every single fault by asking for what explains one wrong answer, then taking one of them as true.
        const broken = candidates(some);
        const truth = broken[seed % broken.length];
        if (!truth) return;
        const heard = heardOn(some, truth.real);
        let left = suspectsOf(some, heard);
        expect(left.some((each) => alike(each.real, truth.real))).toBeTrue();
        for (let made = 0; made < 40; made++) {
          const touch = nextTouch(left, some);
          if (!touch) break;
          heard.push({ touch, beeped: wouldBeep(touch, truth.real) });
          left = suspectsOf(some, heard);
        }
        expect(nextTouch(left, some)).toBeNull();
        for (const each of left) expect(alike(each.real, truth.real)).withContext(each.words).toBeTrue();
      }),
    );
  });

  /** Opens, shorts and exchanges of these nets. */
  function candidates(some: readonly Net[]): { real: RealJoins }[] {
    const sound = soundLead(some);
    const keys = some.flatMap(({ points }, n) =>
      points.map((point) => ({ key: pointKey(point), n, end: point.end })),
    );
    const opens = keys
      .filter(({ n }) => (some[n]?.points.length ?? 0) > 1)
      .map(({ key }) => ({ real: new Map(sound).set(key, -1) }));
    const shorts = some.flatMap((_one, n) =>
      some.slice(n + 1).map((_other, m) => ({
        real: new Map([...sound].map(([key, lump]) => [key, lump === n + 1 + m ? n : lump])),
      })),
    );
    const exchanges = keys.flatMap((one, i) =>
      keys
        .slice(i + 1)
        .filter((other) => other.n !== one.n && other.end === one.end)
        .map((other) => ({ real: new Map(sound).set(one.key, other.n).set(other.key, one.n) })),
    );
    // Exchanging two contacts that stand alone changes nothing.
    return [...opens, ...shorts, ...exchanges].filter(({ real }) => !alike(real, sound));
  }

  function alike(one: RealJoins, other: RealJoins): boolean {
    const keys = [...one.keys()];
    return keys.every((a, i) =>
      keys.slice(i + 1).every((b) => (one.get(a) === one.get(b)) === (other.get(a) === other.get(b))),
    );
  }

  it('asks for the touch that parts the suspects most evenly', () => {
    const some: Net[] = ['X', 'Y', 'Z', 'W'].map((name) => ({
      name,
      points: [
        { end: 'A', contact: name },
        { end: 'B', contact: name },
      ],
    }));
    const shorted: RealJoins = new Map(
      [...soundLead(some)].map(([key, lump]) => [key, lump === 3 ? 0 : lump]),
    );
    const suspects: Suspect[] = suspectsOf(some, heardOn(some, shorted));
    expect(suspects.length).toBeGreaterThan(1);
    const touch = nextTouch(suspects, some);
    expect([touch?.one.length, touch?.other.length]).toEqual([1, 1]);
    const beeps = suspects.filter(({ real }) => touch && wouldBeep(touch, real)).length;
    expect(beeps).toBeGreaterThan(0);
    expect(beeps).toBeLessThan(suspects.length);
  });
});

describe('two versions of a design', () => {
  it('are the same where nothing was changed', () => {
    for (const { design } of KNOWN_ADAPTERS)
      expect(compareDesigns(design, structuredClone(design))).toEqual([]);
  });

  it('differ by place, with what was and what is', () => {
    const before = serial();
    const [a, b] = before.ends;
    if (!a || !b) throw new Error('ends');
    const after: AdapterDesign = {
      ...before,
      lengthM: 2,
      ends: [
        a,
        { ...b, pins: b.pins.map((pin) => (pin.contact === '2' ? { ...pin, sheetSaid: 'TXD' } : pin)) },
      ],
      joins: [
        ...before.joins.slice(1, 3),
        {
          from: { end: 'B', contact: '2' },
          to: { end: 'A', contact: 'T' },
          parts: [{ kind: 'resistor', words: '', ohm: 330 }],
        },
      ],
    };
    expect(
      compareDesigns(before, after).map(({ what, where, before: was, after: is }) => [what, where, was, is]),
    ).toEqual([
      ['lead', 'length', '1 m', '2 m'],
      [
        'contact',
        'B 2',
        'RXD, input, cmos-5, needed, sheet',
        'RXD, input, cmos-5, needed, sheet, sheet said TXD',
      ],
      ['join', 'A T to B 2', 'straight', 'resistor 330 ohm'],
      ['join', 'B 7 to B 8', 'straight', null],
    ]);
  });
});
