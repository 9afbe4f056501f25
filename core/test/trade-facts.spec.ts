import {
  assign,
  buildCard,
  CABLE_TYPES,
  checkFit,
  checkPlan,
  conductorsOf,
  CONNECTOR_TYPES,
  huntPair,
  ohmPerMOf,
  TOOL_TYPES,
  type CableType,
  type ConnectorType,
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
    const run = (id: string, lengthM: number) =>
      checkPlan({
        cable: cable(id),
        near: connector(id === 'tel-2' ? 'phone-jack-6' : 'jack-punched'),
        far: connector(id === 'tel-2' ? 'phone-jack-6' : 'jack-punched'),
        lengthM,
        route: [],
      }).map(({ words }) => words);
    expect(run('tel-2', 400).join()).not.toContain('90 m');
    expect(run('tel-2', 400).join()).not.toContain('loop');
    expect(run('tel-2', 1500).join()).toContain('loop of 255 ohm, typically');
    expect(run('cat6-u', 95).join()).toContain('over the 90 m limit');
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
    const clad = { ...cable('rg6'), centre: 'copper-clad steel' as const };
    expect(ohmPerMOf(clad)['CENTRE']).toBeCloseTo(0.1, 2);
    expect(ohmPerMOf(cable('rg6'))['CENTRE']).toBeCloseTo(0.021, 3);
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
});
