import {
  BadDesign,
  CONTACT_PATTERNS,
  dSubOrder,
  header,
  headerOrder,
  mate,
  mirroredReading,
  nameMisbuild,
  rowsOfFace,
  signalsFromFace,
  type ContactLayout,
  type LeadMap,
} from '@near-spoke/core';

const dSub9 = CONTACT_PATTERNS.find(({ id }) => id === 'd-sub-9') as ContactLayout;
const map = (words: string): LeadMap =>
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
  const serial = map('2-3 3-2 5-5 7-8 8-7');
  const ends = { near: { layout: dSub9 }, far: { layout: dSub9 } };
  const names = (
    measured: LeadMap,
    intended = serial,
    given: Parameters<typeof nameMisbuild>[2] = ends,
  ): string[] =>
    nameMisbuild(intended, measured, given).map(({ kind, contacts }) => `${kind}: ${contacts.join(' ')}`);

  it('as it was meant needs no name', () => {
    expect(names(serial)).toEqual([]);
  });

  it('from the other face is called mirrored, at the end where it is', () => {
    // 1 2 3 4 5 taken for 5 4 3 2 1, and 6 7 8 9 for 9 8 7 6.
    expect(names(map('4-3 3-2 1-5 8-8 7-7'))).toEqual(['mirrored face: near 2 near 3 near 5 near 7 near 8']);
    expect(names(map('2-3 3-4 5-1 7-7 8-8'))).toEqual(['mirrored face: far 3 far 2 far 5 far 8 far 7']);
  });

  const near = { layout: header(2, 5), ribbon: headerOrder(10) };
  const far = { layout: dSub9, ribbon: dSubOrder(9) };
  const flat = new Map(dSubOrder(9).map((contact, n) => [String(n + 1), contact] as const));

  it('with its ribbon one conductor off is called so', () => {
    const off = new Map(
      dSubOrder(9)
        .slice(1)
        .map((contact, n) => [String(n + 1), contact] as const),
    );
    expect(nameMisbuild(flat, off, { near, far }).map(({ kind }) => kind)).toContain('ribbon one off');
  });

  it('with a connector turned over is called so; where a mirrored face gives the same map, both are named', () => {
    // Two rows turned over do not look like their mirror image ...
    const header10 = {
      near: headerOrder(10),
      straight: new Map(headerOrder(10).map((c) => [c, c] as const)),
    };
    const over = new Map(header10.near.map((contact, n) => [String(10 - n), contact] as const));
    expect(nameMisbuild(header10.straight, over, { near, far: near }).map(({ kind }) => kind)).toEqual([
      'connector turned over',
      'connector turned over',
    ]);
    // ... a D-sub's do.
    const turned = new Map([...flat].map(([from]) => [from, dSubOrder(9)[9 - Number(from)] ?? '']));
    expect(nameMisbuild(flat, turned, { near, far }).map(({ kind }) => kind)).toEqual([
      'mirrored face',
      'connector turned over',
    ]);
  });

  it('with two wires exchanged names the two, and says nothing of the end', () => {
    expect(names(map('2-2 3-3 5-5 7-8 8-7'))).toEqual(['two exchanged: near 2 near 3']);
    expect(nameMisbuild(serial, map('2-2 3-3 5-5 7-8 8-7'), ends)[0]?.words).toContain(
      'at one end or the other',
    );
  });

  it('with a wire that does not get through names it', () => {
    expect(names(map('2-3 3-2 7-8 8-7'))).toEqual(['open: near 5']);
  });

  it('in a way that no one mistake explains is given no name', () => {
    expect(names(map('2-5 3-8 5-2 7-3 8-7'))).toEqual([]);
  });
});
