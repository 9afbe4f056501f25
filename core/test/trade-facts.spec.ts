import { end, joins } from './adapters/known-adapters.js';
import {
  assign,
  buildCard,
  CABLE_TYPES,
  checkAdapter,
  checkFit,
  chooseDivider,
  conductorsOf,
  CONNECTOR_TYPES,
  CONTACT_LAYOUTS,
  formatStripLength,
  huntPair,
  LEVEL_FAMILIES,
  ohmPerMOf,
  planJob,
  planSplice,
  proposeLevelChange,
  TOOL_TYPES,
  waysOn,
  type CableType,
  type ConnectorType,
  type LevelFamily,
} from '../src/index.js';

const cable = (id: string): CableType => CABLE_TYPES.find((one) => one.id === id) as CableType;
const connector = (id: string): ConnectorType =>
  CONNECTOR_TYPES.find((one) => one.id === id) as ConnectorType;
const SCHEME = { scheme: 'T568B', ringingWire: false } as const;

describe('Facts of the trade', () => {
  it('flat four-wire telephone cord is black, red, green, yellow, on contacts 2 to 5', () => {
    const cord = cable('tel-flat-4');
    expect(conductorsOf(cord).map(({ id }) => id)).toEqual(['BK', 'RD', 'GN', 'YE']);
    for (const plug of ['plug-6p4c', 'plug-6p6c'])
      expect(assign(cord, connector(plug), SCHEME).map(({ contact, conductor }) => [contact, conductor]))
        .withContext(plug)
        .toEqual([
          ['2', 'BK'],
          ['3', 'RD'],
          ['4', 'GN'],
          ['5', 'YE'],
        ]);
    expect(assign(cord, connector('plug-6p2c'), SCHEME).map(({ conductor }) => conductor)).toEqual([
      'RD',
      'GN',
    ]);
  });

  it('a telephone run is not judged by the data link’s 90 m, but by its loop', () => {
    const run = (id: string, lengthM: number) => {
      const end = connector(id === 'tel-2' ? 'phone-jack-6' : 'jack-punched');
      const link = { label: 'T', cable: cable(id), near: end, far: end, lengthM, route: [], carries: {} };
      const [of] = planJob([link], { conditions: [], cables: CABLE_TYPES }).links;
      return (of?.findings ?? []).filter(({ verdict }) => verdict === 'fails').map(({ check }) => check);
    };
    expect(run('tel-2', 400)).toEqual([]);
    expect(run('tel-2', 1500)).toEqual(['telephone-loop']);
    expect(run('cat6-u', 95)).toContain('permanent-link');
  });

  it('private exchanges and gateways idle at 24 to 30 V, and every threshold is called typical', () => {
    const said = (volts: number) => huntPair([{ pair: 'blue', volts }]).verdicts[0];
    expect([said(24)?.state, said(-30)?.state, said(48)?.state, said(8)?.state, said(0.2)?.state]).toEqual([
      'idle-line',
      'reversed',
      'idle-line',
      'in-use',
      'dead',
    ]);
    for (const volts of [24, -30, 48, -48, 8]) expect(said(volts)?.words).toContain('Typical');
    expect(huntPair([{ pair: 'blue', volts: 24 }]).answer).toBe('blue');
    expect(said(90)?.state).toBe('foreign');
  });

  it('as many wires as contacts, or it is asked whether that is meant', () => {
    const count = (c: CableType, to: string) =>
      checkFit(c, connector(to)).find(({ what }) => what === 'count');
    const nine = { ...cable('tel-flat-4'), conductors: 9 };
    expect(count(nine, 'dsub-9-plug')?.verdict).toBe('fits');
    expect(count(nine, 'mini-din-8-plug')?.verdict).toBe('unknown');
    expect(count(nine, 'mini-din-8-plug')?.words).toContain('1 wire stays over');
    expect(count({ ...nine, conductors: 2 }, 'din-5-plug')?.words).toContain('3 contacts stay free');
  });

  it('copper-clad steel has several times copper’s ohms, strands a few per cent more than solid, and each screen its own', () => {
    // 18 AWG copper is 0.021 ohm/m; clad steel of RG-6 is sold with about 0.1.
    for (const id of ['rg6', 'rg6-quad'])
      expect(ohmPerMOf(cable(id))['CENTRE'])
        .withContext(id)
        .toBeCloseTo(0.1, 2);
    expect(ohmPerMOf({ ...cable('rg6'), centre: undefined })['CENTRE']).toBeCloseTo(0.021, 3);
    // 20 AWG strands of RG-58, 0.9 mm over all: 0.033 to 0.039 ohm/m is usual.
    expect(ohmPerMOf(cable('rg58'))['CENTRE']).toBeGreaterThan(0.033);
    expect(ohmPerMOf(cable('rg58'))['CENTRE']).toBeLessThan(0.039);
    const [solid, stranded] = [false, true].map(
      (is) => Object.values(ohmPerMOf({ ...cable('cat6-u'), stranded: is }))[0] ?? 0,
    );
    expect((stranded ?? 0) / (solid ?? 1)).toBeCloseTo(1.03, 2);
    const screens = [cable('rg58'), cable('rg6'), cable('rg6-quad')].map(
      (one) => ohmPerMOf(one)['SHELL'] ?? 0,
    );
    expect(screens[0]).toBeGreaterThan(screens[1] ?? 0);
    expect(screens[1]).toBeGreaterThan(screens[2] ?? 0);
  });

  it('a phono plug’s tip is soldered, and every coax end is proved open and closed', () => {
    const steps = (c: string, to: string) =>
      buildCard({ cable: cable(c), connector: connector(to), tools: TOOL_TYPES }).steps;
    for (const id of ['phono-crimp-rg59', 'phono-compression-rg59', 'phono-screwon-rg59']) {
      const titles = steps('rg59', id).map(({ title }) => title);
      expect(titles).withContext(id).toContain('Solder the centre into the tip');
      expect(titles.indexOf('Solder the centre into the tip')).toBeLessThan(
        titles.findIndex((title) => title.startsWith('Prove')),
      );
    }
    expect(steps('rg6', 'coax-f').map(({ title }) => title)).not.toContain('Solder the centre into the tip');
    const prove = steps('rg213', 'coax-n').find(({ title }) => title.startsWith('Prove'));
    expect(prove?.how).toContain('Far end joined, centre to shell: closed');
  });

  it('no step speaks of a foil on a cable that has none', () => {
    for (const { id, screens } of CABLE_TYPES.filter(
      ({ family, screens: s }) => family === 'coax' && !s.includes('foil'),
    ))
      for (const to of CONNECTOR_TYPES.filter(({ group }) => group === 'coax'))
        for (const { how } of buildCard({ cable: cable(id), connector: to, tools: TOOL_TYPES }).steps)
          expect(/foil bonded/.test(how))
            .withContext(`${id} ${screens.join()} ${to.id}`)
            .toBeFalse();
  });

  it('a panel row is punched pair by pair, and its slots say so', () => {
    const { slots } = buildCard({ cable: cable('cat6-u'), connector: connector('panel-row') });
    const row = [...(slots?.left ?? []), ...(slots?.right ?? [])].map(({ conductor }) => conductor ?? '');
    const pairOf = (code: string): string => code.replace('WH', '').replaceAll('-', '');
    for (let n = 0; n < row.length; n += 2)
      expect(pairOf(row[n] ?? ''))
        .withContext(row.join())
        .toBe(pairOf(row[n + 1] ?? '?'));
  });

  it('a 110-style block lays tip beside ring, has no bridging clips, and connects only once its blocks are seated', () => {
    const steps = (id: string) =>
      buildCard({ cable: cable('tel-25'), connector: connector(id), tools: TOOL_TYPES }).steps;
    const seat = steps('block-110').findIndex(({ id }) => id === 'seat');
    expect(seat).toBeGreaterThan(steps('block-110').findIndex(({ verb }) => verb === 'punch'));
    expect(steps('block-110')[seat]?.reason).toContain('nothing connects');
    expect(steps('block-110').find(({ id }) => id === 'fan')?.how).toContain('tip left and ring right');
    expect(steps('block-66').find(({ id }) => id === 'seat')).toBeUndefined();
    expect(steps('block-66').find(({ verb }) => verb === 'punch')?.how).toContain('Tip above ring');
    // Twenty-five pairs are one binder group.
    for (const id of ['block-66', 'block-110'])
      for (const { how, wrongTurns } of steps(id)) expect(how + wrongTurns.join()).not.toContain('binder');
  });

  it('a sleeve slides over the joint, not only over the insulation, and a plan without one says so at each step', () => {
    const joint = (name: string, areaMm2: number, overMm: number) => ({
      name,
      oldAreaMm2: areaMm2,
      newAreaMm2: areaMm2,
      oldOverMm: overMm,
      newOverMm: overMm,
      volts: 5,
    });
    // Thin-walled: 0.98 mm2 is 1.12 mm bare, its joint 2.6 mm; the insulation only 1.5 mm.
    const thin = planSplice([joint('red', 0.98, 1.5)], { oldMm: 5, newMm: 5 });
    expect(thin.joints[0]?.sleeve?.tube.suppliedMm ?? 0).toBeGreaterThanOrEqual(2.57 + 0.3);
    // Thick against thin: nothing passes and grips, and no step vanishes.
    const none = planSplice([{ ...joint('blue', 2.5, 3.6), newOverMm: 0.9, newAreaMm2: 2.5 }], {
      oldMm: 5,
      newMm: 5,
    });
    expect(none.joints[0]?.sleeve).toBeNull();
    expect(none.wrong.join()).toContain('no sleeve passes its joint');
    expect(none.steps.filter((step) => step.includes('blue')).length).toBe(
      thin.steps.filter((step) => step.includes('red')).length,
    );
    // The outer one goes over the bundle and its joints, which are thicker than a jacket that was thin.
    const many = planSplice(
      Array.from({ length: 8 }, (_, n) => joint(`w${n}`, 0.5, 2)),
      { oldMm: 6, newMm: 6 },
    );
    expect(many.outer?.tube.suppliedMm ?? 0).toBeGreaterThan(6.8);
    for (const id of ['wire-22', 'wire-18', 'multi-5']) {
      const { parts } = buildCard({ cable: cable(id), connector: connector('splice-solder') });
      expect(parts.join())
        .withContext(id)
        .toMatch(/heat-shrink, [\d.]+ mm tube [23]:1/);
    }
  });

  it('strip lengths carry a tolerance, and inches are as fine as it asks', () => {
    const card = (id: string, to: string) =>
      buildCard({ cable: cable(id), connector: connector(to), units: 'imperial' });
    expect(card('rg6', 'coax-f').steps.find(({ id }) => id === 'strip')?.title).toBe(
      'Strip: jacket 0.50 ± 0.02 in, screen 0.25 ± 0.02 in, dielectric 0.25 ± 0.02 in',
    );
    for (const mm of [3, 4.2, 6.4, 8, 12.7, 13, 22.3])
      for (const tolerance of [0.5, 1, 2, 3]) {
        const [figure] = formatStripLength(mm, 'imperial', tolerance).split(' in');
        const inches = (figure ?? '')
          .split(' ')
          .reduce(
            (sum, part) =>
              sum +
              (part.includes('/') ? Number(part.split('/')[0]) / Number(part.split('/')[1]) : Number(part)),
            0,
          );
        expect(Math.abs(inches * 25.4 - mm))
          .withContext(`${mm} mm within ${tolerance}: ${figure}`)
          .toBeLessThanOrEqual(tolerance / 2);
      }
  });

  it('a modular telephone jack belongs to a world with a demarcation box, a British socket to one with a master', () => {
    const words = (to: string) =>
      buildCard({ cable: cable('tel-2'), connector: connector(to) })
        .steps.map(({ how }) => how)
        .join(' ');
    expect(words('phone-jack-6')).toContain('demarcation box');
    expect(words('phone-jack-6')).not.toContain('master');
    expect(words('phone-secondary')).toContain('master socket');
  });

  it('half-done ends: a cap belongs on before its wires, a tie can always be added, cups are unsoldered one at a time', () => {
    const ways = (c: string, to: string, done: string[]) =>
      waysOn({ cable: cable(c), connector: connector(to) }, done);
    const trimmed = ways('cat6-u', 'jack-toolless', ['strip', 'core', 'lay', 'trim']);
    expect(trimmed.goesOn).toBeFalse();
    expect(trimmed.ways[0]?.kind).toBe('start again');
    const laid = ways('cat6-u', 'jack-toolless', ['strip', 'core', 'lay']);
    expect(laid.ways[0]?.kind).toBe('undo');
    expect(
      ways('cat6a-f', 'jack-punched-screened', ['strip', 'screen', 'core', 'lay', 'punch']).goesOn,
    ).toBeTrue();
    const cups = ways('multi-9', 'dsub-9-plug', [...['strip', 'screen', 'part', 'bare', 'tin', 'solder']]);
    expect(cups.ways[0]?.kind).toBe('undo');
    expect(cups.ways[0]?.words).toContain('one conductor at a time');
    // What is left out takes the step with it that works it and nothing else.
    const without = ways('wire-18', 'splice-crimp', ['dead', 'match', 'bare', 'join']);
    const leftOut = without.ways.find(({ kind }) => kind === 'leave out');
    expect(leftOut).toBeDefined();
    expect(leftOut?.order).not.toContain('shrink');
  });

  it('drain is joined to drain and the screen lies over the joints, apart from the pair', () => {
    for (const to of ['splice-solder', 'splice-crimp']) {
      const { steps } = buildCard({ cable: cable('multi-5'), connector: connector(to) });
      const screen = steps.find(({ id }) => id === 'screen-join');
      expect(screen?.title).withContext(to).toBe('Join drain to drain, screen over screen');
      expect(screen?.accept).withContext(to).toContain('open from screen to every wire');
      expect(buildCard({ cable: cable('wire-22'), connector: connector(to) }).steps.map(({ id }) => id))
        .withContext(to)
        .not.toContain('screen-join');
    }
  });

  it('the cabling standards permit no splice in horizontal data cable', () => {
    for (const to of ['splice-solder', 'splice-gel', 'splice-crimp', 'splice-solder-sleeve'])
      expect(
        checkFit(cable('cat6-u'), connector(to))
          .map(({ words }) => words)
          .join(),
      )
        .withContext(to)
        .toContain('permit no splice');
    expect(
      checkFit(cable('tel-2'), connector('splice-gel')).every(({ verdict }) => verdict === 'fits'),
    ).toBeTrue();
  });

  it('a cue that says which contacts lie lowest, highest or about the key is true of the drawing', () => {
    let checked = 0;
    for (const { id, cue = '', places } of CONTACT_LAYOUTS) {
      const at = (name: string) => places.find(({ contact }) => contact === name);
      const least = Math.min(...places.map(({ yMm }) => yMm));
      const most = Math.max(...places.map(({ yMm }) => yMm));
      const near = (a: number, b: number): boolean => Math.abs(a - b) < 0.2;
      for (const [, one, other] of cue.matchAll(/(\w+) and (\w+) lowest/g)) {
        expect(near(at(one ?? '')?.yMm ?? 0, least) && near(at(other ?? '')?.yMm ?? 0, least))
          .withContext(`${id}: ${cue}`)
          .toBeTrue();
        checked++;
      }
      for (const [, one, other] of cue.matchAll(/key down, between (\w+) and (\w+)/g)) {
        const [a, b] = [at(one ?? ''), at(other ?? '')];
        expect(near(a?.yMm ?? 0, least) && near(b?.yMm ?? 0, least) && near((a?.xMm ?? 0) + (b?.xMm ?? 0), 0))
          .withContext(`${id}: ${cue}`)
          .toBeTrue();
        checked++;
      }
      for (const [, one] of cue.matchAll(/(\w+) stands alone at the top/g)) {
        expect(places.filter(({ yMm }) => near(yMm, most)).map(({ contact }) => contact))
          .withContext(id)
          .toEqual([one ?? '']);
        checked++;
      }
      for (const [, one, other] of cue.matchAll(/(\w+) above (\w+)/g)) {
        const [a, b] = [at(one ?? ''), at(other ?? '')];
        expect((a?.yMm ?? 0) > (b?.yMm ?? 0) && near(a?.xMm ?? 0, b?.xMm ?? 1))
          .withContext(id)
          .toBeTrue();
        checked++;
      }
    }
    expect(checked).toBeGreaterThan(8);
  });

  it('a switch or a resistor in a supply does not switch the voltage rule off', () => {
    const fed = (kind: 'switch' | 'resistor' | 'diode', gives: string, takes: string) =>
      checkAdapter({
        name: 'fed',
        ends: [
          end('A', 'supply', 'box', `1 V+ so @${gives},2 GND g`),
          end('B', 'device', 'box', `1 VCC si @${takes},2 GND g`),
        ],
        joins: joins('A1-B1 A2-B2', {
          'A1-B1': [{ kind, words: '', ...(kind === 'resistor' ? { ohm: 100 } : {}) }],
        }),
        wires: [],
        lengthM: 1,
      }).filter(({ rule }) => rule === 'supply-out-of-range');
    expect(fed('switch', '24..24', '4.75..5.25').map(({ severity }) => severity)).toEqual(['wrong']);
    expect(fed('resistor', '24..24', '4.75..5.25')[0]?.words).toContain('only as long as current flows');
    expect(fed('switch', '5..5', '4.75..5.25')).toEqual([]);
    // A diode takes its part: five volts less 0.3 is too little for what wants 4.75.
    expect(fed('diode', '5..5', '4.75..5.25').map(({ severity }) => severity)).toEqual(['unsure']);
    expect(fed('diode', '5.5..5.5', '4.75..5.25')).toEqual([]);
  });

  it('level stages come with their figures: a FET’s threshold under the low supply, base resistors, dividers over a tolerance', () => {
    const family = (id: string): LevelFamily => LEVEL_FAMILIES.find((one) => one.id === id) as LevelFamily;
    const words = (from: string, to: string, bothWays = false) =>
      proposeLevelChange(family(from), family(to), { bothWays }).words;
    const threshold = Number(/at most ([\d.]+) V/.exec(words('cmos-1v5', 'cmos-5', true))?.[1]);
    expect(threshold).toBeLessThan(0.7 * (1.5 - family('cmos-1v5').outLowV));
    expect(words('cmos-3v3', 'cmos-5')).toMatch(/kilohm from the output to the first base/);
    for (const to of ['cmos-3v3', 'cmos-1v8']) {
      const [output, input] = [family('cmos-5'), family(to)];
      const divider = chooseDivider(output, input);
      expect(divider).withContext(to).not.toBeNull();
      const { seriesOhm = 0, groundOhm = 1 } = divider ?? {};
      const ratio = groundOhm / (seriesOhm + groundOhm);
      expect(1.05 * 5 * ratio)
        .withContext(to)
        .toBeLessThan(input.mostV);
      expect(0.9 * output.outHighV * ratio)
        .withContext(to)
        .toBeGreaterThan(input.inHighV);
    }
  });
});
