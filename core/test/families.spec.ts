import {
  assign,
  buildCard,
  CABLE_TYPES,
  checkFit,
  CONNECTOR_TYPES,
  endsALink,
  leftToRight,
  CONTACT_LAYOUTS,
  lossAt,
  lossThrough,
  ohmPerMOf,
  TOOL_TYPES,
  typicalLoss,
  waysOn,
  type CableType,
  type ConnectorType,
  type ContactLayout,
} from '../src/index.js';

const cable = (id: string): CableType => CABLE_TYPES.find((one) => one.id === id) as CableType;
const connector = (id: string): ConnectorType =>
  CONNECTOR_TYPES.find((one) => one.id === id) as ConnectorType;
const B = { scheme: 'T568B', ringingWire: false } as const;
const on = (cableId: string, connectorId: string, more: object = {}): Record<string, string> =>
  Object.fromEntries(
    assign(cable(cableId), connector(connectorId), { ...B, ...more }).map(({ contact, conductor }) => [
      contact,
      conductor,
    ]),
  );
const card = (cableId: string, connectorId: string) =>
  buildCard({ cable: cable(cableId), connector: connector(connectorId), tools: TOOL_TYPES });
const words = (cableId: string, connectorId: string): string =>
  card(cableId, connectorId)
    .steps.map((s) => [s.title, s.how, s.accept, s.reject, s.caution ?? ''].join(' '))
    .join(' ');
const misfits = (cableId: string, connectorId: string): string[] =>
  checkFit(cable(cableId), connector(connectorId))
    .filter(({ verdict }) => verdict === 'does not fit')
    .map(({ what }) => what);

describe('Families of the van', () => {
  it('each has a cable that fits it, whose card every tool of the van can make', () => {
    for (const type of CONNECTOR_TYPES) {
      const fitting = CABLE_TYPES.filter((each) =>
        checkFit(each, type).every(({ verdict }) => verdict !== 'does not fit'),
      );
      expect(fitting.length).withContext(type.id).toBeGreaterThan(0);
    }
    for (const type of CABLE_TYPES)
      expect(
        CONNECTOR_TYPES.some((each) =>
          checkFit(type, each).every(({ verdict }) => verdict !== 'does not fit'),
        ),
      )
        .withContext(type.id)
        .toBeTrue();
  });

  it('strands go into a bootlace ferrule and are never tinned, a solid wire is clamped as it is', () => {
    const [stranded, solid] = [
      card('alarm-4', 'terminals-screw-4'),
      card('thermostat-5', 'terminals-screw-5'),
    ];
    expect(stranded.steps.map(({ id }) => id)).toContain('ferrule');
    expect(stranded.parts.join()).toContain('bootlace ferrule');
    expect(words('alarm-4', 'terminals-screw-4')).toContain('do not tin');
    expect(solid.steps.map(({ id }) => id)).not.toContain('ferrule');
    expect([...solid.parts, ...solid.tools.map(({ words: tool }) => tool)].join()).not.toContain('ferrule');
    // The sleeve of 8 mm with its collar takes a strip of 10 mm.
    expect(stranded.strip.cuts.find(({ layer }) => layer === 'insulation')?.fromEndMm).toBe(10);
  });

  it('a screen under terminals is earthed at one end only, and nothing is worked while a battery feeds it', () => {
    const screened = card('access-8', 'terminals-spring-8');
    expect(words('access-8', 'terminals-spring-8')).toContain('one end only');
    expect(screened.before.join()).toContain('battery');
    expect(words('access-8', 'terminals-spring-8')).toContain('Press the release');
  });

  it('a bus is one pair on A and B, a third wire on its common, and 60 ohm across it with both ends', () => {
    expect(on('bus-2', 'terminals-bus')).toEqual({ A: 'BU', B: 'WH-BU', C: 'WH-OG' });
    expect(words('bus-2', 'terminals-bus')).toContain('60 ohm');
    expect(words('bus-2', 'terminals-bus')).toContain('makers exchange the letters');
    expect(misfits('alarm-4', 'terminals-bus')).toEqual(['count']);
  });

  it('audio: the screen on 1, plus on 2, minus on 3 (IEC 61076-2-103), 3 alone by itself', () => {
    expect(on('mic-2', 'xlr-3-plug')).toEqual({ 1: 'SCREEN', 2: 'RD', 3: 'BK' });
    const plug = CONTACT_LAYOUTS.find(({ id }) => id === 'xlr-3') as ContactLayout;
    // Looking at the pins, the latch slot up: 1 at the left, 2 at the right, 3 at the bottom.
    expect(leftToRight(plug, { face: 'mating', latch: 'up' })).toEqual(['1', '3', '2']);
    expect(misfits('multi-5', 'xlr-3-plug')).toEqual(['count']);
  });

  it('M12 X-coded carries the scheme pair by pair: 1 2 orange, 3 4 green, 5 6 brown, 7 8 blue under T568B', () => {
    expect(on('cat6a-pf', 'm12-x')).toEqual({
      1: 'WH-OG',
      2: 'OG',
      3: 'WH-GN',
      4: 'GN',
      5: 'WH-BN',
      6: 'BN',
      7: 'WH-BU',
      8: 'BU',
    });
    expect(on('cat6a-pf', 'm12-x', { scheme: 'T568A' })).toEqual(
      jasmine.objectContaining({ 1: 'WH-GN', 2: 'GN', 3: 'WH-OG', 4: 'OG' }),
    );
  });

  it('a 50-contact connector has rings on 1 to 25 and tips on 26 to 50, each pair across from itself', () => {
    const laid = on('tel-25', 'pairs-50');
    expect([laid['1'], laid['26'], laid['25'], laid['50']]).toEqual(['BU-WH', 'WH-BU', 'GY-VT', 'VT-GY']);
    expect(misfits('tel-50', 'pairs-50')).toContain('count');
  });

  it('fifty pairs are two binder groups and two blocks, and it is asked whether those are there', () => {
    const asked = checkFit(cable('tel-50'), connector('block-66')).find(({ what }) => what === 'count');
    expect([asked?.verdict, asked?.words]).toEqual(['unknown', jasmine.stringContaining('2 of these')]);
    expect(words('tel-50', 'block-66')).toContain('binder groups');
  });

  it('two lines in one six-place jack nest: the first on 3 and 4, the second on 2 and 5', () => {
    expect(on('tel-2', 'phone-jack-6-two')).toEqual({ 2: 'WH-OG', 3: 'BU', 4: 'WH-BU', 5: 'OG' });
  });

  it('the other end of a flat telephone cord is rolled', () => {
    expect(on('tel-flat-4', 'plug-6p4c', { flatEnd: 'rolled' })).toEqual({
      2: 'YE',
      3: 'GN',
      4: 'RD',
      5: 'BK',
    });
    const school = card('tel-flat-4', 'plug-6p4c').schools.find(({ id }) => id === 'flat-cord');
    expect(school?.choice?.other).toBe('rolled');
  });

  it('pairs in foils of their own keep them to the last 13 mm', () => {
    for (const body of ['plug-field', 'm12-x', 'jack-toolless-screened'])
      expect(words('cat6a-pf', body)).withContext(body).toContain('13 mm');
    expect(card('cat6a-f', 'plug-field').steps.map(({ id }) => id)).not.toContain('pair-foils');
  });

  it('a load bar is read before it goes in, and a slim cord has a plug of its own', () => {
    const ids = card('cat6-u', 'plug-load-bar').steps.map(({ id }) => id);
    expect(ids.indexOf('bar')).toBeGreaterThan(ids.indexOf('arrange'));
    expect(ids.indexOf('bar')).toBeLessThan(ids.indexOf('trim'));
    expect(misfits('cord-28', 'plug-closed')).not.toEqual([]);
    expect(misfits('cord-28', 'plug-slim')).toEqual([]);
  });

  it('50 ohm does not go on 75 ohm, and a body that is of no impedance says nothing of it', () => {
    const made = { ...cable('rg59'), impedanceOhm: 50 };
    const found = checkFit(made, connector('bnc-crimp-rg59')).find(({ what }) => what === 'impedance');
    expect([found?.verdict, found?.words]).toEqual(['does not fit', jasmine.stringContaining('75 ohm')]);
    for (const type of CONNECTOR_TYPES.filter(({ group }) => group === 'coax'))
      for (const each of CABLE_TYPES.filter(({ family }) => family === 'coax')) {
        const check = checkFit(each, type).find(({ what }) => what === 'impedance');
        if (type.impedanceOhm === undefined) expect(check).withContext(type.id).toBeUndefined();
        else
          expect(check?.verdict === 'fits')
            .withContext(`${each.id} on ${type.id}`)
            .toBe(each.impedanceOhm === type.impedanceOhm);
      }
    expect(connector('uhf-crimp-rg213').impedanceOhm).toBeUndefined();
  });

  it('a hollow tip is soldered, a heat-shrink left out after the crimp costs no connector', () => {
    for (const [cableId, id] of [
      ['rg213', 'uhf-crimp-rg213'],
      ['rg59', 'phono-crimp-rg59'],
    ] as const)
      expect(card(cableId, id).steps.map((s) => s.id))
        .withContext(id)
        .toContain('tip');
    const left = waysOn({ cable: cable('rg58'), connector: connector('tnc-crimp-rg58') }, [
      'thread-ferrule',
      'crimp',
    ]);
    expect(left.ways[0]?.connectors).toBe(0);
  });

  it('new coax ends may end a link, terminals belong to panels', () => {
    expect(endsALink(connector('sma-crimp-rg58'))).toBeTrue();
    expect(endsALink(connector('terminals-screw-4'))).toBeFalse();
  });
});

describe('Loss of coax', () => {
  /** Commonly published, dB per 100 m at 100 MHz and at 1 GHz. */
  const PUBLISHED: Readonly<Record<string, readonly [number, number]>> = {
    rg58: [16, 66],
    rg59: [8.9, 28],
    rg6: [6.6, 21.5],
    'rg6-quad': [6.6, 21.5],
    mini8: [10.8, 41],
    rg213: [6.9, 26],
    rg174: [29, 105],
    rg11: [4.3, 14.3],
    'lowloss-6': [7.8, 25],
    'lowloss-10': [3.9, 13.5],
  };

  it('is within a tenth of what is published, for each cable of the kit', () => {
    const coax = CABLE_TYPES.filter(({ family }) => family === 'coax');
    expect(coax.map(({ id }) => id).sort()).toEqual(Object.keys(PUBLISHED).sort());
    for (const type of coax)
      PUBLISHED[type.id]?.forEach((published, i) => {
        const ours = lossAt(typicalLoss(type), i === 0 ? 100 : 1000);
        expect(Math.abs(ours / published - 1))
          .withContext(`${type.id} at ${i === 0 ? 100 : 1000} MHz: ${ours.toFixed(1)} dB`)
          .toBeLessThan(0.1);
      });
  });

  it('goes through two figures of a sheet, and from one keeps the proportion of its make', () => {
    const two = lossThrough(
      [
        { mhz: 10, dbPer100m: 1.5 * Math.sqrt(10) + 0.2 },
        { mhz: 400, dbPer100m: 1.5 * 20 + 8 },
      ],
      { skinDb: 1, dielectricDb: 1 },
    );
    expect(two.skinDb).toBeCloseTo(1.5, 9);
    expect(two.dielectricDb).toBeCloseTo(0.02, 9);
    const one = lossThrough([{ mhz: 100, dbPer100m: 22 }], { skinDb: 2, dielectricDb: 0.02 });
    expect(lossAt(one, 100)).toBeCloseTo(22, 9);
    expect(one.skinDb / one.dielectricDb).toBeCloseTo(100, 9);
    // Figures that no square root and line go through are met as near as they can be, never by a loss below nought.
    const bent = lossThrough(
      [
        { mhz: 10, dbPer100m: 1 },
        { mhz: 1000, dbPer100m: 200 },
      ],
      { skinDb: 1, dielectricDb: 0.01 },
    );
    expect(bent.skinDb).toBe(0);
    expect(bent.dielectricDb).toBeGreaterThan(0);
  });

  it('a short centre of wire and a screen of its own give the loop', () => {
    const { CENTRE = 0, SHELL = 0 } = ohmPerMOf(cable('rg58'));
    expect(typicalLoss(cable('rg58')).loopOhmPerM).toBeCloseTo(CENTRE + SHELL, 9);
  });
});
