import fc from 'fast-check';
import {
  buildCard,
  CABLE_TYPES,
  checkFit,
  checkTools,
  chooseShrink,
  CONNECTOR_TYPES,
  judgeSize,
  isThreaded,
  layOut,
  orderWork,
  PROOF_MM,
  readBack,
  SCHEMES,
  solveOrder,
  spoilRate,
  stripPlan,
  TOOL_TYPES,
  trueScaleGauge,
  waysOn,
  type CableType,
  type ConnectorType,
  type SchemeId,
  type WorkCard,
} from '../src/index.js';
import { betaCdf } from '../src/termination/spoil-rate.js';

const cable = (id: string): CableType => CABLE_TYPES.find((c) => c.id === id) as CableType;
const connector = (id: string): ConnectorType => CONNECTOR_TYPES.find((c) => c.id === id) as ConnectorType;
const card = (connectorId: string, cableId = 'cat6-u', scheme: SchemeId = 'T568B'): WorkCard =>
  buildCard({ cable: cable(cableId), connector: connector(connectorId), scheme, tools: TOOL_TYPES });
const ids = (made: WorkCard): string[] => made.steps.map((step) => step.id);
const fitting = CONNECTOR_TYPES.flatMap((c) => {
  const found = CABLE_TYPES.find((k) => checkFit(k, c).every((f) => f.verdict !== 'does not fit'));
  return found ? [{ connector: c, cable: found }] : [];
});

describe('the work card', () => {
  it('of a closed plug threads the boot before it strips, and reads the colours before it crimps', () => {
    expect(ids(card('plug-closed'))).toEqual([
      'thread',
      'strip',
      'core',
      'arrange',
      'trim',
      'insert',
      'crimp',
      'finish',
    ]);
  });

  it('of a pass-through plug has no trimming before the crimp, which cuts; a plain tool needs the knife after', () => {
    expect(ids(card('plug-pass-through'))).toEqual([
      'thread',
      'strip',
      'core',
      'arrange',
      'slide',
      'crimp',
      'finish',
    ]);
    expect(ids(card('plug-pass-through-knife'))).toEqual([
      'thread',
      'strip',
      'core',
      'arrange',
      'slide',
      'crimp',
      'flush',
      'finish',
    ]);
    expect(card('plug-pass-through').strip.trimMm).toBeNull();
  });

  it('of a screened outdoor plug threads boot, then sleeve, keeps the drain and clips it before the crimp', () => {
    const made = card('plug-outdoor', 'cat6-f-outdoor');
    expect(ids(made)).toEqual([
      'thread',
      'strip',
      'screen',
      'core',
      'arrange',
      'slide',
      'bond',
      'crimp',
      'finish',
    ]);
    expect(made.steps[0]?.title).toBe('Thread the boot and screen sleeve');
  });

  it('of a tool-less jack threads the wiring cap, lays, trims and closes', () => {
    expect(ids(card('jack-toolless'))).toEqual(['thread', 'strip', 'core', 'lay', 'trim', 'close', 'finish']);
  });

  it('of a crimp N plug threads the ferrule first and brings it up after the body is on', () => {
    expect(ids(card('coax-n', 'rg213'))).toEqual([
      'thread',
      'strip',
      'clear',
      'pin',
      'body',
      'ferrule',
      'crimp',
      'shrink',
      'prove',
      'seal',
    ]);
  });

  it('of a DIN plug threads the shell first, and a sleeve on each conductor once they are parted', () => {
    expect(ids(card('din-5-plug', 'multi-5'))).toEqual([
      'thread',
      'strip',
      'screen',
      'part',
      'thread-heat-shrink',
      'bare',
      'tin',
      'solder',
      'meter',
      'shrink',
      'finish',
    ]);
  });

  it('of a splice proves the cable dead before anything is threaded', () => {
    for (const id of ['splice-crimp', 'splice-solder', 'splice-solder-sleeve', 'splice-gel']) {
      expect(ids(card(id, 'wire-22'))[0])
        .withContext(id)
        .toBe('dead');
    }
  });

  it('threads every closed ring that comes with a fitting connector, and none is impossible', () => {
    for (const each of fitting) {
      const made = buildCard(each);
      const threaded = made.steps.flatMap((s) => s.operations).filter((id) => id.startsWith('thread-'));
      expect(threaded.length).withContext(each.connector.id).toBe(layOut(each).rings.length);
      expect(threaded.length)
        .withContext(each.connector.id)
        .toBeGreaterThanOrEqual(each.connector.parts.filter(isThreaded).length);
      expect(made.threaded.some((v) => v.when === 'never'))
        .withContext(each.connector.id)
        .toBeFalse();
    }
    expect(fitting.length).toBe(CONNECTOR_TYPES.length);
  });

  it('lays the conductors in the scheme’s order, contact 1 first', () => {
    expect(card('plug-closed', 'cat6-u', 'T568A').order.map((l) => l.conductor)).toEqual([
      ...SCHEMES.T568A.order,
    ]);
  });

  it('gives each slot of a jack the conductor of the contact it feeds', () => {
    const made = card('jack-punched');
    const byContact = new Map(made.order.map((l) => [l.contact, l.conductor]));
    const slots = [...(made.slots?.left ?? []), ...(made.slots?.right ?? [])];
    expect(slots.length).toBe(8);
    for (const slot of slots) expect(slot.conductor).toBe(byContact.get(slot.contact) ?? '');
  });

  it('lays a telephone line on 2 and 5 of a British socket, and a ringing wire on 3 only where asked', () => {
    const plain = card('phone-socket', 'tel-2');
    expect(plain.order).toEqual([
      { contact: '2', conductor: 'BU' },
      { contact: '5', conductor: 'WH-BU' },
    ]);
    const ringing = buildCard({
      cable: cable('tel-2'),
      connector: connector('phone-socket'),
      choices: { ringingWire: true },
    });
    expect(ringing.order.map((l) => l.contact)).toEqual(['2', '3', '5']);
  });

  it('nests the lines of a six-place plug around its middle', () => {
    const on = new Map(card('plug-6p4c', 'tel-2').order.map((l) => [l.contact, l.conductor]));
    expect([on.get('2'), on.get('3'), on.get('4'), on.get('5')]).toEqual(['WH-OG', 'BU', 'WH-BU', 'OG']);
  });

  it('presses a ribbon into a D-sub in zigzag: 1, 6, 2, 7 and on', () => {
    expect(card('ribbon-dsub-9', 'ribbon-9').order.map((l) => l.contact)).toEqual([
      '1',
      '6',
      '2',
      '7',
      '3',
      '8',
      '4',
      '9',
      '5',
    ]);
  });

  it('counts 25 pairs tip before ring, slate at every fifth', () => {
    const order = card('block-110', 'tel-25').order.map((l) => l.conductor);
    expect(order.slice(0, 2)).toEqual(['WH-BU', 'BU-WH']);
    expect(order.slice(8, 12)).toEqual(['WH-GY', 'GY-WH', 'RD-BU', 'BU-RD']);
    expect(order.slice(-2)).toEqual(['VT-GY', 'GY-VT']);
  });

  it('reads the order back before the point of no return wherever an order is laid and pierced', () => {
    for (const each of fitting.filter((f) =>
      ['scheme', 'modular-6', 'british', 'ribbon', 'pair-count'].includes(f.connector.assignment),
    )) {
      const { steps } = buildCard(each);
      const point = steps.findIndex((step) => step.noWayBack || step.verb === 'punch');
      const back = steps.findLastIndex((step) => step.readBack);
      expect(point).withContext(each.connector.id).toBeGreaterThan(0);
      expect(back).withContext(each.connector.id).toBeGreaterThanOrEqual(0);
      expect(back).withContext(each.connector.id).toBeLessThan(point);
    }
  });

  it('gives a reason, what is good and what a bad look means with every step', () => {
    for (const each of fitting) {
      for (const step of buildCard(each).steps) {
        for (const words of [step.title, step.how, step.reason, step.accept, step.reject]) {
          expect(words).withContext(`${each.connector.id} ${step.id}`).toMatch(/\w/);
        }
      }
    }
  });

  it('writes lengths in the person’s own system', () => {
    const made = buildCard({
      cable: cable('cat6-u'),
      connector: connector('jack-punched'),
      units: 'imperial',
    });
    expect(made.steps[0]?.title).toBe('Strip 1 9/16 ± 1/8 in of jacket');
  });

  it('asks for an iron instead of the pin die when the pin is soldered', () => {
    const made = buildCard({
      cable: cable('rg213'),
      connector: connector('coax-n'),
      choices: { centrePin: 'soldered' },
    });
    expect(made.tools.map((t) => t.need.kind)).toContain('soldering iron');
    expect(made.steps.find((s) => s.id === 'pin')?.verb).toBe('solder');
  });
});

describe('derived orders for random figures', () => {
  const sized = fc.record({
    pick: fc.nat({ max: fitting.length - 1 }),
    jacket: fc.double({ min: 0.5, max: 2, noNaN: true }),
    bore: fc.double({ min: 0.4, max: 2.5, noNaN: true }),
    body: fc.double({ min: 0.4, max: 2, noNaN: true }),
  });

  it('thread a part exactly when its bore passes everything before its place', () => {
    let never = 0;
    fc.assert(
      fc.property(sized, ({ pick, jacket, bore, body }) => {
        const base = fitting[pick] as (typeof fitting)[number];
        const termination = layOut({
          cable: { ...base.cable, jacketMm: base.cable.jacketMm * jacket },
          connector: {
            ...base.connector,
            bodyMm: base.connector.bodyMm * body,
            parts: base.connector.parts.map((p) => ({
              ...p,
              boreMm: p.boreMm * bore,
              outsideMm: p.boreMm * bore + 1,
            })),
          },
        });
        const { order, impossible, verdicts } = orderWork(termination);
        const solvable = solveOrder(termination.assembly).found;
        expect(impossible.length === 0).toBe(solvable);
        for (const { operationId, part } of termination.rings) {
          const out = impossible.some((r) => r.operationId === operationId);
          expect(order.includes(operationId)).toBe(!out);
          if (part.over === 'jacket' && !out)
            expect(part.boreMm).toBeGreaterThan(termination.assembly.cableMm);
        }
        never += verdicts.filter((v) => v.when === 'never').length;
      }),
      { numRuns: 300 },
    );
    expect(never).toBeGreaterThan(10);
  });
});

describe('fit', () => {
  it('states the margin of each figure, and by how much it fails', () => {
    const checks = checkFit(cable('cat6-f-outdoor'), connector('plug-closed'));
    expect(checks.find((c) => c.what === 'jacket')).toEqual(
      jasmine.objectContaining({
        verdict: 'does not fit',
        words: 'Jacket 7.6 mm is too thick by 1.3 mm: it takes 5 to 6.3 mm',
      }),
    );
    expect(
      checkFit(cable('cat6-u'), connector('plug-closed')).find((c) => c.what === 'jacket')?.margin,
    ).toBeCloseTo(0.3, 6);
  });

  it('never takes a missing figure for a yes', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...fitting),
        fc.subarray(['conductorMm', 'dielectricMm', 'bareMm', 'stranded'] as const),
        fc.subarray(['jacketMm', 'conductorMm', 'dielectricMm', 'bareMm', 'awg', 'wire'] as const),
        (pair, unknownOfCable, unknownOfConnector) => {
          const vague = Object.fromEntries(unknownOfCable.map((key) => [key, null]));
          const silent = Object.fromEntries(unknownOfConnector.map((key) => [key, null]));
          const checks = checkFit(
            { ...pair.cable, ...vague },
            { ...pair.connector, takes: { ...pair.connector.takes, ...silent } },
          );
          const figures: Record<string, boolean> = {
            jacket: 'jacketMm' in silent,
            conductor: 'conductorMm' in silent || 'conductorMm' in vague,
            dielectric: 'dielectricMm' in silent || 'dielectricMm' in vague,
            gauge: 'awg' in silent,
          };
          for (const check of checks) {
            if (figures[check.what]) expect(check.verdict).toBe('unknown');
            if (check.verdict === 'unknown') expect(check.words).toContain('look at');
          }
        },
      ),
    );
  });

  it('refuses coax in a plug for pairs, and a stranded cord in a contact for solid wire', () => {
    expect(checkFit(cable('rg6'), connector('plug-closed'))[0]?.verdict).toBe('does not fit');
    expect(
      checkFit(cable('cord-26'), connector('jack-punched')).find((c) => c.what === 'wire')?.verdict,
    ).toBe('does not fit');
  });

  it('finds a missing die, offers a stopgap where there is one, and says what ruins the part', () => {
    const fewDies = TOOL_TYPES.map((t) => (t.kind === 'hex crimp tool' ? { ...t, sizes: ['.213'] } : t));
    const [, die] = checkTools(connector('coax-n').tools, fewDies);
    expect([die?.verdict, die?.stopgap.words]).toEqual(['wrong size', null]);
    const [stripper] = checkTools(connector('plug-closed').tools, []);
    expect([stripper?.verdict, stripper?.stopgap.words === null]).toEqual(['missing', false]);
  });

  it('says how far a die is off and what it would do', () => {
    const need = { kind: 'hex crimp tool' as const, size: '.429' };
    const wrong = judgeSize(need, '.360');
    expect([wrong.right, wrong.marginMm?.toFixed(2)]).toEqual([false, '-1.75']);
    expect(wrong.words).toContain('splits the ferrule');
    expect(judgeSize(need, '.429').right).toBeTrue();
    expect(judgeSize({ ...need, size: '.360' }, '.429').words).toContain('loose');
    expect(judgeSize({ kind: 'compression tool', size: 'F' }, 'BNC').words).toContain('needs F, not BNC');
  });
});

describe('a strip plan', () => {
  it('gives lengths from the end and what each cut bares, jacket first and innermost last', () => {
    expect(stripPlan(cable('rg213'), connector('coax-n')).cuts).toEqual([
      { layer: 'jacket', fromEndMm: 22, baresMm: 8 },
      { layer: 'screen', fromEndMm: 14, baresMm: 8 },
      { layer: 'dielectric', fromEndMm: 6, baresMm: 6 },
    ]);
  });

  it('bares as much in all as it opens', () => {
    for (const each of fitting) {
      const plan = stripPlan(each.cable, each.connector);
      expect(plan.cuts.reduce((sum, c) => sum + c.baresMm, 0)).toBeCloseTo(plan.jacketMm, 6);
    }
  });

  it('is drawn at true scale, with a bar of 50 mm to check the printer', () => {
    const gauge = trueScaleGauge(stripPlan(cable('rg213'), connector('coax-n')), (mm) => `${mm} mm`);
    const lengths = gauge.lines.filter((l) => l.fromMm[1] === l.toMm[1]).map((l) => l.toMm[0] - l.fromMm[0]);
    expect(lengths).toContain(PROOF_MM);
    expect(lengths).toContain(22);
    expect(gauge.lines.filter((l) => l.fromMm[0] === 14 && l.toMm[0] === 14).length).toBeGreaterThan(0);
  });
});

describe('a half-done end', () => {
  const plug = { cable: cable('cat6-u'), connector: connector('plug-closed') };

  it('goes on where nothing is lost', () => {
    const answer = waysOn(plug, ['thread-boot', 'trim']);
    expect(answer.goesOn).toBeTrue();
    expect(answer.ways[0]?.order).toEqual(['insert', 'crimp', 'finish']);
  });

  it('with the boot forgotten before the crimp goes back one step and loses nothing', () => {
    const answer = waysOn(plug, ['insert']);
    expect(answer.missing).toEqual(['boot']);
    expect(answer.ways[0]?.kind).toBe('undo');
    const undo = answer.ways.find((w) => w.kind === 'undo');
    expect([undo?.connectors, undo?.order[0]]).toEqual([0, 'thread-boot']);
  });

  it('with the boot forgotten after the crimp offers a split boot, a new plug, or none, and their costs', () => {
    const answer = waysOn(plug, ['crimp']);
    expect(answer.why).toContain('cannot pass the connector (11.7 mm)');
    expect(answer.ways.map((w) => [w.kind, w.connectors])).toEqual([
      ['split part', 0],
      ['start again', 1],
      ['leave out', 0],
    ]);
    expect(answer.ways[1]?.cableMm).toBe(40);
  });

  it('with the ferrule forgotten after the crimp has only the new start, and keeps nothing it cannot', () => {
    const answer = waysOn({ cable: cable('rg213'), connector: connector('coax-n') }, [
      'thread-heat-shrink',
      'crimp',
    ]);
    expect(answer.ways.map((w) => w.kind)).toEqual(['start again']);
    expect(answer.ways[0]?.order[0]).toBe('thread-ferrule');
  });

  it('with a sleeve forgotten at a solder cup goes back over the joint, since solder can be undone', () => {
    const answer = waysOn({ cable: cable('multi-9'), connector: connector('dsub-9-plug') }, ['solder']);
    expect(answer.ways.some((w) => w.kind === 'undo' && w.order[0] === 'thread-heat-shrink')).toBeTrue();
  });

  it('keeps on the cable what was threaded when it starts again', () => {
    const outdoor = { cable: cable('cat6-f-outdoor'), connector: connector('plug-outdoor') };
    const again = waysOn(outdoor, ['thread-boot', 'crimp']).ways.find((w) => w.kind === 'start again');
    expect(again?.order).not.toContain('thread-boot');
    expect(again?.order).toContain('thread-sleeve');
  });

  it('names the steps there are when asked about one there is not', () => {
    expect(() => waysOn(plug, ['weld'])).toThrowError(RangeError, /no step "weld".*crimp/);
  });

  it('always offers a way on, whatever was done', () => {
    fc.assert(
      fc.property(fc.constantFrom(...fitting), fc.array(fc.nat(20), { maxLength: 6 }), (each, picks) => {
        const operations = layOut(each).assembly.operations.map((o) => o.id);
        const done = picks.flatMap((i) => operations[i % operations.length] ?? []);
        const answer = waysOn(each, done);
        expect(answer.ways.length).toBeGreaterThan(0);
        for (const way of answer.ways)
          expect(way.order.some((id) => way.kind === 'continue' && done.includes(id))).toBeFalse();
      }),
      { numRuns: 200 },
    );
  });
});

describe('reading the colours back', () => {
  const { order } = card('plug-closed');
  const meant = Object.fromEntries(order.map((l) => [l.contact, l.conductor]));

  it('accepts the card’s order', () => {
    expect(readBack(order, { colours: meant })).toEqual({
      right: true,
      slipped: [],
      words: 'As the card.',
      advice: '',
    });
  });

  it('says which two slipped', () => {
    const answer = readBack(order, {
      colours: { ...meant, 3: meant['6'] as string, 6: meant['3'] as string },
    });
    expect(answer.slipped).toEqual(['3', '6']);
    expect(answer.words).toContain('3 and 6 have slipped: GN on 3 and WH-GN on 6');
  });

  it('knows a plug held the wrong way up, and the other scheme', () => {
    const mirrored = Object.fromEntries(order.map((l, i) => [l.contact, order[7 - i]?.conductor ?? null]));
    expect(readBack(order, { colours: mirrored }).words).toContain('mirrored');
    const other = Object.fromEntries(SCHEMES.T568A.order.map((wire, i) => [String(i + 1), wire]));
    expect(readBack(order, { colours: other }).words).toContain('other scheme');
  });

  it('does not believe one conductor on two contacts', () => {
    expect(readBack(order, { colours: { ...meant, 4: 'OG' } }).words).toContain(
      'OG cannot lie on two contacts',
    );
  });

  it('tells a contact that could not be read from one where nothing lies', () => {
    const colours = { ...meant, 4: null };
    const empty = readBack(order, { colours, empty: ['4'] });
    expect(empty.slipped).toEqual(['4']);
    expect(empty.words).toBe('Nothing of the card’s is on 4.');
    const unread = readBack(order, { colours });
    expect(unread.right).toBeFalse();
    expect(unread.slipped).toEqual([]);
    expect(unread.words).toBe('The rest is as the card; 4 could not be read.');
    const both = readBack(order, {
      colours: { ...colours, 3: meant['6'] as string, 6: meant['3'] as string },
    });
    expect(both.slipped).toEqual(['3', '6']);
    expect(both.words).toBe('3 and 6 have slipped: GN on 3 and WH-GN on 6. 4 could not be read.');
  });

  it('names exactly the contacts that differ, for any order at all', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([...order], { minLength: 8 }), (shuffled) => {
        const seen = Object.fromEntries(order.map((l, i) => [l.contact, shuffled[i]?.conductor ?? null]));
        const answer = readBack(order, { colours: seen });
        expect(answer.slipped).toEqual(
          order.filter((l) => seen[l.contact] !== l.conductor).map((l) => l.contact),
        );
        expect(answer.right).toBe(answer.slipped.length === 0);
        if (!answer.right) expect(answer.words).not.toBe('');
      }),
    );
  });
});

describe('heat-shrink', () => {
  it('passes over the biggest, grips the smallest, and is cut longer than it covers', () => {
    const [best] = chooseShrink({ passOverMm: 4, gripMm: 2.9, coverMm: 30 });
    expect([best?.tube.suppliedMm, best?.tube.ratio, best?.cutMm]).toEqual([4.8, '2:1', 34]);
  });

  it('takes 3:1 where 2:1 cannot do both, and nothing where no tube does', () => {
    expect(chooseShrink({ passOverMm: 8.5, gripMm: 3.4, coverMm: 30 }).map((c) => c.tube.ratio)).toEqual([
      '3:1',
    ]);
    expect(chooseShrink({ passOverMm: 20, gripMm: 2, coverMm: 30 })).toEqual([]);
  });

  it('never offers a tube that will not pass or will not grip', () => {
    const size = fc.double({ min: 0.2, max: 45, noNaN: true });
    fc.assert(
      fc.property(size, size, (a, b) => {
        const [gripMm, passOverMm] = a < b ? [a, b] : [b, a];
        for (const { tube } of chooseShrink({ passOverMm, gripMm, coverMm: 10 })) {
          expect(tube.suppliedMm).toBeGreaterThan(passOverMm);
          expect(tube.recoveredMm).toBeLessThan(0.92 * gripMm);
        }
      }),
    );
  });

  it('refuses figures that are no lengths, or stand the wrong way round', () => {
    expect(() => chooseShrink({ passOverMm: Number.NaN, gripMm: 1, coverMm: 1 })).toThrowError(
      RangeError,
      /passOverMm/,
    );
    expect(() => chooseShrink({ passOverMm: 2, gripMm: 3, coverMm: 1 })).toThrowError(
      RangeError,
      /exchange the two/,
    );
  });
});

describe('the spoil rate', () => {
  it('is the prior where nothing is recorded, and the record where there is much', () => {
    expect(spoilRate({ spoiled: 0, good: 0 }).mean).toBeCloseTo(1 / 12, 6);
    expect(spoilRate({ spoiled: 200, good: 800 }).mean).toBeCloseTo(0.2, 2);
  });

  it('narrows with the record', () => {
    const width = (n: number): number => {
      const rate = spoilRate({ spoiled: n, good: 11 * n });
      return rate.high - rate.low;
    };
    expect(width(10)).toBeLessThan(width(1));
    expect(width(100)).toBeLessThan(width(10));
  });

  it('agrees with the Beta distribution where that is known in closed form', () => {
    // Beta(1, n): 1 - (1 - x)^n; Beta(2, 2): 3x² - 2x³.
    expect(betaCdf(0.3, 1, 5)).toBeCloseTo(1 - 0.7 ** 5, 10);
    expect(betaCdf(0.4, 2, 2)).toBeCloseTo(3 * 0.16 - 2 * 0.064, 10);
  });

  it('refuses what is no count', () => {
    expect(() => spoilRate({ spoiled: -1, good: 2 })).toThrowError(RangeError);
    expect(() => spoilRate({ spoiled: 0.5, good: 2 })).toThrowError(RangeError);
  });
});
