import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  columnsNamed,
  headRow,
  ListReader,
  listLengthM,
  readLinkList,
  routeTree,
  stretchMoved,
  branchLines,
  unitInHead,
  type ListReading,
} from '../src/index.js';

const reading = (change: Partial<ListReading> = {}): ListReading => ({
  columns: { label: 0, port: 1, outlet: 2, length: 3, cable: 4 },
  skip: 1,
  units: 'metric',
  defaults: { panel: 'P1', room: 'Hall', near: 'jack-punched', far: 'jack-toolless', cable: 'cat6-u' },
  cables: CABLE_TYPES,
  connectors: CONNECTOR_TYPES,
  hub: 'CR-1',
  taken: [],
  ...change,
});
const HEAD = ['Link', 'Port', 'Outlet', 'Length (m)', 'Cable type'];

describe('a list of links', () => {
  it('names its columns in the words that people use, below titles and merged cells', () => {
    const rows = [
      ['Harbour office', '', ''],
      ['', '', ''],
      ['Cable No.', 'Patch panel', 'Port', 'Room', 'Device', 'Est. length (ft)'],
    ];
    expect(headRow(rows)).toBe(2);
    expect(columnsNamed(rows[2] ?? [])).toEqual({
      label: 0,
      panel: 1,
      port: 2,
      room: 3,
      outlet: 4,
      length: 5,
    });
    expect(unitInHead('Est. length (ft)')).toBe('ft');
    expect(unitInHead('Length, metres')).toBe('m');
    expect(unitInHead('Length')).toBeNull();
    expect(headRow([['P1-01', '3', 'desk']])).toBeNull();
  });

  it('reads a list that is being typed as it reads it anew, after every change', () => {
    const reader = new ListReader(reading());
    const rows = Array.from({ length: 6 }, (_, n) => [`A-${n}`, `${n}`, 'desk', '12', 'cat6-u']);
    const changes: [number, number, string][] = [
      [2, 0, 'A-1'],
      [1, 0, 'A-9'],
      [4, 3, 'long'],
      [4, 3, '14'],
      [5, 4, 'Cat'],
      [0, 1, '5'],
    ];
    const list: string[][] = [HEAD, ...rows];
    for (const [row, column, text] of changes) {
      list[row + 1] = (list[row + 1] as string[]).map((cell, at) => (at === column ? text : cell));
      expect(reader.read(list)).toEqual(readLinkList(list, reading()));
    }
    expect(reader.read(list).problems.length).toBeGreaterThan(0);
  });

  it('reads lengths with and without units, feet and inches, comma or point', () => {
    for (const [text, metres] of [
      ['31.4', 31.4],
      ['31,4 m', 31.4],
      ['103 ft', 31.3944],
      ['92\' 6"', 28.194],
      ['92 ft 6 in', 28.194],
      ['92′6″', 28.194],
    ] as const)
      expect(listLengthM(text, 'metric')).withContext(text).toBeCloseTo(metres, 6);
    expect(listLengthM('100', 'imperial')).toBeCloseTo(30.48, 9);
    for (const text of ['', 'long', '-4', '12 kg', '3..4']) {
      const read = listLengthM(text, 'metric');
      expect(read === null || read < 0)
        .withContext(text)
        .toBeTrue();
    }
  });

  it('takes what no column says from what was told for all, and cells before that', () => {
    const { links, problems } = readLinkList(
      [
        HEAD,
        ['A-01', '1', 'desk 1', '20', ''],
        ['', '', '', '', ''],
        ['A-02', '2', 'mast', '100 ft', 'Cat 6 foil, outdoor'],
      ],
      reading(),
    );
    expect(problems).toEqual([]);
    expect(
      links.map(({ row, label, cableTypeId, panel, lengthM }) => [row, label, cableTypeId, panel, lengthM]),
    ).toEqual([
      [2, 'A-01', 'cat6-u', 'P1', 20],
      [4, 'A-02', 'cat6-f-outdoor', 'P1', 30.48],
    ]);
  });

  it('reads links that begin in another hub or go from hub to hub, each with the ports that it takes', () => {
    const columns = { label: 0, port: 1, outlet: 2, length: 3, cable: 4, hub: 5, room: 6 };
    const heads = ['Link', 'Port', 'Outlet', 'Length', 'Cable', 'Hub', 'Room'];
    expect(columnsNamed(['Closet']).hub).toBe(0);
    const { links, problems } = readLinkList(
      [
        heads,
        ['A-01', '1', 'desk 1', '20', 'cat6-u', '', 'Hall'],
        // Another panel P1, in another hub.
        ['B-01', '1', 'desk 2', '20', 'cat6-u', 'CR-2', 'Hall'],
        // From hub to hub: it takes a port at either end.
        ['T-01', '2', 'P1/1', '20', 'cat6-u', 'CR-1', 'CR-2'],
        ['T-02', '3', 'P1 port 7', '20', 'cat6-u', '', 'CR-2'],
        ['B-07', '7', 'desk 7', '20', 'cat6-u', 'CR-2', 'Loft'],
        ['C-01', '8', 'desk 8', '20', 'cat6-u', 'x'.repeat(41), 'Loft'],
      ],
      reading({ columns }),
    );
    expect(links.map(({ label, hub }) => [label, hub])).toEqual([['A-01', ''], ['B-01', 'CR-2'], ['T-02', '']]); // prettier-ignore
    expect(problems.map(({ row, field, message }) => `${row} ${field}: ${message}`)).toEqual([
      '4 outlet: Port 1 of P1 is that of row 3.',
      '6 port: Port 7 of P1 is that of row 5.',
      '7 hub: At most 40 characters.',
    ]);
  });

  it('names every cell that cannot be read, with the place of the first where something comes twice', () => {
    const { links, problems } = readLinkList(
      [
        HEAD,
        ['A-01', '1', 'desk 1', '20', 'Cat 6'],
        ['A-02', '2', 'desk 2', '-4', 'cat6-u'],
        ['A-02', '2', 'desk 3', '12', 'string'],
        ['=B7', '4', '', '12', 'cat6-u'],
        ['B-01', '9', 'desk', '12', 'cat6-u'],
      ],
      reading({
        taken: [
          {
            label: 'X-01',
            near: { hub: 'CR-1', panel: 'P1', port: '9' },
            far: { room: 'Hall', outlet: 'x' },
          },
        ],
      }),
    );
    expect(links).toEqual([]);
    const told = problems.map(({ row, field, message }) => `${row} ${field}: ${message}`);
    expect(told[0]).toMatch(/^2 cable: Cat 6 could be Cat 6 unscreened or Cat 6 foil, outdoor/);
    expect(told).toContain('3 length: -4 is no length, such as 31.4 m or 103 ft.');
    expect(told).toContain('4 label: A-02 stands in row 3 already.');
    expect(told).toContain('4 port: Port 2 of P1 is that of row 3.');
    expect(told).toContain('4 cable: string: the kit has nothing of that name.');
    expect(told).toContain('5 label: A formula: save its value, not the formula.');
    expect(told).toContain('5 outlet: Nothing says its outlet.');
    expect(told).toContain('6 port: Port 9 of P1 is that of X-01 in this job.');
  });

  it('reads a way as its stretches', () => {
    const columns = { label: 0, port: 1, outlet: 2, length: 3, route: 4 };
    const route = (text: string) =>
      readLinkList([HEAD, ['A-01', '1', 'desk', '21', text]], reading({ columns }));
    expect(route('tray over hall 12 m; wall bay 3 9').links[0]?.route).toEqual([
      { name: 'tray over hall', lengthM: 12 },
      { name: 'wall bay 3', lengthM: 9 },
    ]);
    expect(route('tray 92\' 6"').links[0]?.route[0]?.lengthM).toBeCloseTo(28.194, 6);
    expect(route('tray').problems[0]?.message).toContain('tray is no stretch');
  });
});

describe('the ways of a job', () => {
  it('share a branch as long as their stretches agree', () => {
    const link = (label: string, ...names: string[]) => ({
      label,
      route: names.map((name) => ({ name, lengthM: label.length })),
    });
    const tree = routeTree([
      link('a', 'shelf', 'riser'),
      link('bb', 'shelf', 'tray'),
      link('c', 'shelf', 'riser', 'roof'),
    ]);
    expect(
      branchLines(tree).map(({ depth, name, links, end, lengthM }) => [
        depth,
        name,
        links.join(),
        end.join(),
        lengthM,
      ]),
    ).toEqual([
      [0, 'shelf', 'a,bb,c', '', 2],
      [1, 'riser', 'a,c', 'a', 1],
      [2, 'roof', 'c', 'c', 1],
      [1, 'tray', 'bb', 'bb', 2],
    ]);
  });

  it('a stretch that turns out longer moves every link in it, and no other; a way is never used up', () => {
    const link = {
      lengthM: 31.4,
      route: [
        { name: 'shelf', lengthM: 1.4 },
        { name: 'tray', lengthM: 30 },
      ],
    };
    expect(stretchMoved(link, 'tray', 2.5)).toEqual({
      lengthM: 33.9,
      route: [
        { name: 'shelf', lengthM: 1.4 },
        { name: 'tray', lengthM: 32.5 },
      ],
    });
    expect(stretchMoved(link, 'riser', 2)).toBeNull();
    expect(stretchMoved(link, 'shelf', -1.4)).toBeNull();
    const back = stretchMoved(stretchMoved(link, 'tray', 7.123) ?? link, 'tray', -7.123);
    expect(back).toEqual(link);
  });
});
