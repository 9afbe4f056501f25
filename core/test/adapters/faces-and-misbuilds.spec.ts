import {
  BadDesign,
  CONTACT_PATTERNS,
  dSubOrder,
  header,
  headerOrder,
  mate,
  mirroredReading,
  heardOfMap,
  layoutFor,
  plainPin,
  suspectsOf,
  workUp,
  type AdapterDesign,
  rowsOfFace,
  signalsFromFace,
  type ContactLayout,
} from '@near-spoke/core';

const dSub9 = CONTACT_PATTERNS.find(({ id }) => id === 'd-sub-9') as ContactLayout;
const map = (words: string): ReadonlyMap<string, string> =>
  new Map(
    words.split(' ').map((word) => {
      const [near = '', far = ''] = word.split('-');
      return [near, far] as const;
    }),
  );

describe('a pinout drawn by places', () => {
  const rows = [
    ['DCD', 'RXD', 'TXD', 'DTR', 'GND'],
    ['DSR', 'RTS', 'CTS', 'RI'],
  ];
  const on = (signal: string, face: 'mating' | 'rear', layout = dSub9): string | undefined =>
    signalsFromFace(layout, { face, latch: 'down' }, rows).find((placed) => placed.signal === signal)
      ?.contact;

  it('is put on its contacts by the face that it shows', () => {
    expect([on('DCD', 'mating'), on('GND', 'mating'), on('RI', 'mating')]).toEqual(['1', '5', '9']);
    // The same drawing of the wiring side means the mirror image.
    expect([on('DCD', 'rear'), on('GND', 'rear'), on('RI', 'rear')]).toEqual(['5', '1', '6']);
    // And the wiring side of a plug is what its socket shows in front.
    expect(on('DCD', 'rear')).toBe(on('DCD', 'mating', mate(dSub9)));
  });

  it('leaves places without a signal out, and refuses other rows than the connector has', () => {
    const some = signalsFromFace(dSub9, { face: 'mating', latch: 'down' }, [
      ['', 'RXD', '', '', 'GND'],
      ['', '', '', ''],
    ]);
    expect(some).toEqual([
      { contact: '2', signal: 'RXD' },
      { contact: '5', signal: 'GND' },
    ]);
    expect(() => signalsFromFace(dSub9, { face: 'mating', latch: 'down' }, [['A', 'B']])).toThrowError(
      BadDesign,
      /has rows of 5 and 4, the drawing rows of 2/,
    );
  });

  it('read from the other face and back is itself, for every connector there is', () => {
    for (const layout of CONTACT_PATTERNS) {
      const mirror = mirroredReading(layout);
      for (const { contact } of layout.places)
        expect(mirror.get(mirror.get(contact) ?? ''))
          .withContext(`${layout.id} ${contact}`)
          .toBe(contact);
    }
    expect(rowsOfFace(header(2, 3), { face: 'mating', latch: 'down' })).toEqual([
      ['2', '4', '6'],
      ['1', '3', '5'],
    ]);
  });
});

describe('a lead built wrongly', () => {
  /** Both ends with every contact of their connectors, joined by these words. */
  const lead = (
    words: string,
    layouts: readonly [string, string] = ['d-sub-9', 'd-sub-9'],
  ): AdapterDesign => ({
    name: 'lead',
    ends: (['A', 'B'] as const).map((id, n) => {
      const layout = layouts[n] ?? '';
      const contacts = (layoutFor(layout)?.places ?? []).map(({ contact }) => contact);
      const pins = contacts.map((contact) => plainPin(contact, `S${contact}`, 'audio'));
      return { id, name: id, connector: layout, sheetFace: 'mating', contactBearsA: 1, layout, pins };
    }),
    joins: [...map(words)].map(([from, to]) => ({
      from: { end: 'A', contact: from },
      to: { end: 'B', contact: to },
      parts: [],
    })),
    wires: [],
    lengthM: 1,
  });
  const named = (design: AdapterDesign, measured: ReadonlyMap<string, string>): string[] => {
    const { nets } = workUp(design);
    const heard = heardOfMap(nets, 'A', 'B', new Map([...measured].map(([from, to]) => [from, [to]])));
    return suspectsOf(nets, heard, design.ends).map(({ kind, words }) => `${kind}: ${words}`);
  };
  const SERIAL = '2-3 3-2 5-5 7-8 8-7';
  const kinds = (design: AdapterDesign, measured: ReadonlyMap<string, string>): string[] =>
    named(design, measured).map((words) => words.split(':')[0] ?? '');

  it('as it was meant needs no name', () => {
    expect(named(lead(SERIAL), map(SERIAL))).toEqual([]);
  });

  it('from the other face is called mirrored, at the end where it is', () => {
    // 1 2 3 4 5 taken for 5 4 3 2 1, and 6 7 8 9 for 9 8 7 6.
    expect(named(lead(SERIAL), map('4-3 3-2 1-5 8-8 7-7'))[0]).toMatch(/^mirrored face: A \(A\) is wired/);
    expect(named(lead(SERIAL), map('2-3 3-4 5-1 7-7 8-8'))[0]).toMatch(/^mirrored face: B \(B\) is wired/);
  });

  const flat = dSubOrder(9).map((contact, n) => `${n + 1}-${contact}`);
  const ribbon = lead(flat.join(' '), ['header-2x5', 'd-sub-9']);

  it('with its ribbon one conductor off is called so', () => {
    const off = new Map(
      dSubOrder(9)
        .slice(1)
        .map((contact, n) => [String(n + 1), contact] as const),
    );
    expect(kinds(ribbon, off)).toContain('ribbon one off');
  });

  it('with a connector turned over is called so; where a mirrored face gives the same map, both are named', () => {
    // Two rows turned over do not look like their mirror image ...
    const headers = lead(
      headerOrder(10)
        .map((c) => `${c}-${c}`)
        .join(' '),
      ['header-2x5', 'header-2x5'],
    );
    const over = new Map(headerOrder(10).map((contact, n) => [String(10 - n), contact] as const));
    expect(kinds(headers, over)).toEqual(['connector turned over', 'connector turned over']);
    // ... a D-sub's do.
    const turned = new Map(flat.map((_, n) => [String(n + 1), dSubOrder(9)[8 - n] ?? '']));
    expect(kinds(ribbon, turned)).toEqual(['mirrored face', 'connector turned over']);
  });

  it('with two wires exchanged names the two at either end, and not which it is', () => {
    expect(named(lead(SERIAL), map('2-2 3-3 5-5 7-8 8-7'))).toEqual([
      'exchanged: A 2 and A 3 are exchanged.',
      'exchanged: B 3 and B 2 are exchanged.',
    ]);
  });

  it('with a wire that does not get through names it, at either end', () => {
    expect(named(lead(SERIAL), map('2-3 3-2 7-8 8-7'))).toEqual([
      'open: S5 is open at A 5.',
      'open: S5 is open at B 5.',
    ]);
  });

  it('in a way that no one mistake explains is given no name', () => {
    expect(named(lead(SERIAL), map('2-5 3-8 5-2 7-3 8-7'))).toEqual([]);
  });
});
