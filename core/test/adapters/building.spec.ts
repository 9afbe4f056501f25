import fc from 'fast-check';
import {
  buildPlan,
  compareDesigns,
  heardOfMap,
  netsOf,
  nextTouch,
  placeWords,
  pointKey,
  proofList,
  ribbonConductors,
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
      'thread thread joint joint joint joint joint joint bridge keep keep keep',
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

  it('insulates what is left over, or cuts it where that was chosen', () => {
    const last = (spares: 'keep' | 'cut'): string | undefined => {
      const design = { ...serial(), spares };
      return buildPlan(design, workUp(design)).find(({ id }) => id === 'keep 1')?.words;
    };
    expect(last('keep')).toBe('Insulate conductor 1 at both ends and fold it back.');
    expect(last('cut')).toBe('Cut conductor 1 off at both ends, flush with the jacket.');
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
      const staged = worked.couplings.filter(({ parts }) =>
        parts.some((each) => each.kind === 'level stage'),
      );
      const inStages = steps.filter(({ id }) => id.startsWith('stage '));
      expect(count('part') - inStages.length)
        .withContext(what)
        .toBe(worked.couplings.length - staged.length);
      expect(inStages.length).withContext(what).toBeGreaterThanOrEqual(staged.length);
    }
  });
});

describe('building a ribbon', () => {
  const ribbon = (joined: string, change: Partial<AdapterDesign> = {}): AdapterDesign => ({
    name: 'ribbon',
    ends: [
      { ...end('A', 'board', '2x3', '1 A a,2 B a,3 C a,4 D a,5 E a,6 F a'), layout: 'header-2x3' },
      { ...end('B', 'port', '2x3', '1 A a,2 B a,3 C a,4 D a,5 E a,6 F a'), layout: 'header-2x3' },
    ],
    joins: joins(joined),
    wires: ribbonConductors(6).map(({ id }, n) => ({
      id,
      colour: id,
      areaMm2: 0.08,
      pair: null,
      edge: n === 0 || n === 5,
    })),
    lengthM: 0.3,
    ...change,
  });

  it('puts every signal on the conductor that its contact is pressed on, and on no other', () => {
    const design = ribbon('A1-B2 A2-B1 A4-B4');
    const worked = workUp(design);
    const colours = Object.fromEntries(worked.rows.map(({ net, wire }) => [net.pins[0]?.contact, wire]));
    expect(colours).toEqual({ '1': 'BN', '2': 'RD', '4': 'YE' });
    expect(worked.spares).toEqual(['OG', 'GN', 'BU']);
  });

  it('presses one connector on, lays the conductors in the other’s order, and presses that', () => {
    const design = ribbon('A1-B2 A2-B1 A3-B3 A4-B4 A5-B5 A6-B6');
    const steps = buildPlan(design, workUp(design)).map(({ words }) => words);
    expect(steps).toEqual([
      'Press the connector of board on: marked edge at contact 1, shell supported, level.',
      'Slit the webs of the ribbon back 60 mm before port, between the wires, never into one.',
      'Place 1, contact 1: lay conductor 2',
      'Place 2, contact 2: lay conductor 1',
      'Place 3, contact 3: lay conductor 3',
      'Place 4, contact 4: lay conductor 4',
      'Place 5, contact 5: lay conductor 5',
      'Place 6, contact 6: lay conductor 6',
      'Hold the wires flat in a clip, read them once more against the list, then cut them square in one stroke.',
      'Press the connector of port on: marked edge at contact 1, shell supported, level.',
      'Meter neighbours of board for shorts first, then fold the ribbon over and clip its strain relief on.',
      'Meter neighbours of port for shorts first, then fold the ribbon over and clip its strain relief on.',
    ]);
    // Wires that stay where they lie keep their webs.
    const straight = ribbon('A1-B1 A2-B2 A3-B3');
    expect(buildPlan(straight, workUp(straight)).some(({ id }) => id.startsWith('slit'))).toBeFalse();
  });

  it('says so where the ribbon is too narrow for a contact that is used', () => {
    const narrow = ribbon('A6-B6', { wires: ribbon('A1-B1').wires.slice(0, 4) });
    expect(workUp(narrow).noWires).toContain('A ribbon of 4 does not reach');
  });
});

describe('building of two moulded halves', () => {
  const moulded = (colours: Record<string, string>): AdapterDesign => ({
    name: 'tail',
    ends: (['A', 'B'] as const).map((id) => {
      const given = end(id, id, 'moulded', '1 X a,2 Y a,3 Z a');
      return {
        ...given,
        pins: given.pins.map((pin) => {
          const colour = colours[`${id}${pin.contact}`];
          return colour ? { ...pin, colour } : pin;
        }),
      };
    }),
    joins: joins('A1-B2 A2-B1'),
    wires: [],
    lengthM: 2,
  });

  it('is a splice for every net, sleeves first, with the colour of each half', () => {
    const design = moulded({ A1: 'RD', A2: 'GN', A3: 'BK', B1: 'WH', B2: 'RD', B3: 'YE' });
    const steps = buildPlan(design, workUp(design));
    expect(steps.map(({ kind, colour, farColour }) => [kind, colour, farColour])).toEqual([
      ['thread', null, null],
      ['joint', 'RD', 'RD'],
      ['joint', 'GN', 'WH'],
      ['keep', 'BK', null],
      ['keep', 'YE', null],
    ]);
    expect(steps[1]?.words).toBe('X: A 1 to B 2');
  });

  it('is joined contact by contact where a wire’s colour is not known', () => {
    const design = moulded({ A1: 'RD', A2: 'GN', B1: 'WH' });
    expect(buildPlan(design, workUp(design)).map(({ kind }) => kind)).toEqual([
      'joint',
      'joint',
      'joint',
      'joint',
    ]);
  });
});

describe('a lead with parts in its far end', () => {
  it('takes a conductor to each part, and fits it where the join goes to', () => {
    const design: AdapterDesign = {
      name: 'box',
      ends: [
        end('A', 'drive', 'plug', 'T OPEN i =cmos-5 ^,S GND g'),
        end('B', 'box', 'box', '1 KEY g,2 COMMON g'),
      ],
      joins: joins('AT-B1 AS-B2', { 'AT-B1': [{ kind: 'switch', words: '' }] }),
      wires: [
        { id: '1', colour: 'BK', areaMm2: 0.14, pair: null },
        { id: '2', colour: 'WH', areaMm2: 0.14, pair: null },
      ],
      lengthM: 1,
    };
    const worked = workUp(design);
    expect(worked.rows.map(({ net, wire }) => [net.name, wire])).toContain(['OPEN', '2']);
    const part = buildPlan(design, worked).find(({ kind }) => kind === 'part');
    expect([part?.end, part?.contact, part?.colour]).toEqual(['B', '1', 'WH']);
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

  it('names a mirrored face from a measured map, too', () => {
    const map = new Map([
      ['T', ['4']],
      ['R', ['3']],
      ['S', ['1']],
    ]);
    // Contacts 1 and 4 of the far end are not in its pinout: nothing is heard there.
    const heard = heardOfMap(worked.nets, 'A', 'B', map);
    expect(heard.filter(({ beeped }) => beeped).length).toBe(1);
    expect(suspectsOf(worked.nets, heard, design.ends)[0]?.kind).toBe('mirrored face');
    const right = new Map([
      ['T', ['2']],
      ['R', ['3']],
      ['S', ['5']],
    ]);
    expect(suspectsOf(worked.nets, heardOfMap(worked.nets, 'A', 'B', right), design.ends)).toEqual([]);
    const two = suspectsOf(
      worked.nets,
      heardOfMap(worked.nets, 'A', 'B', new Map([...right, ['T', ['3']], ['R', ['2']]])),
      design.ends,
    );
    expect(two.map(({ kind, contacts }) => [kind, contacts])).toEqual([
      ['exchanged', ['A T', 'A R']],
      ['exchanged', ['B 2', 'B 3']],
    ]);
  });

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
