import fc from 'fast-check';
import {
  diagnose,
  guessMapping,
  headerRow,
  readingsFromTable,
  readWireMapCell,
  type ColumnMapping,
  type TableRow,
} from '../src/index.js';
import { expectation, screened } from './links.js';

const plain = expectation();
const contacts = [...'12345678'];

/** Reads a table as a person would who touches nothing: its header found, its columns guessed. */
function readTable(text: string, separator: string, link = plain): TableRow[] {
  const cells = text
    .trim()
    .split('\n')
    .map((line) => line.split(separator).map((cell) => cell.trim()));
  const at = headerRow(cells);
  const guess = guessMapping(cells[at] ?? []);
  const mapping: ColumnMapping = { label: 0, instrument: 'coded-mapper', splits: null, ...guess };
  return readingsFromTable(
    cells.slice(at + 1),
    mapping,
    (label) => (/^[A-Z]/.test(label) ? link : null),
    at + 2,
  );
}

describe('tables as several kinds of instruments write them', () => {
  const crossed = { ...Object.fromEntries(contacts.map((c) => [c, [c]])), 1: ['2'], 2: ['1'] };
  const arrivals = (rows: TableRow[]): unknown[] =>
    rows.map((row) => (row.reading && 'arrivals' in row.reading ? row.reading.arrivals : row.problem));

  for (const [what, text, separator] of [
    [
      'a column per contact',
      'Link,Pin 1,Pin 2,Pin 3,Pin 4,Pin 5,Pin 6,Pin 7,Pin 8\nA-1,2,1,3,4,5,6,7,8',
      ',',
    ],
    [
      'one column with steps',
      'Cable ID;Date;Wire Map;Length\nA-1;2026-11-02;1-2 2-1 3-3 4-4 5-5 6-6 7-7 8-8;31.2',
      ';',
    ],
    [
      'one column with arrows, under a title',
      'Report of tests,,\nSet 7,,\nLabel,Map,Result\nA-1,1>2;2>1;3>3;4>4;5>5;6>6;7>7;8>8,FAIL',
      ',',
    ],
    ['far contacts alone', 'Name\tWiremap\tTested by\nA-1\t21345678\tTobi', '\t'],
    [
      'far contacts alone under lines of a report',
      'Report of tests|\nOperator|R. Pell\nLimits|none\nPort|Pin map|Date\nA-1|21345678|x',
      '|',
    ],
    ['far contacts alone, spaced', 'ID|Wiring\nA-1|2 1 3 4 5 6 7 8', '|'],
  ] as const)
    it(`are read without touching the mapping: ${what}`, () => {
      expect(arrivals(readTable(text, separator))).toEqual([crossed]);
    });

  it('keep in the note when and by whom it was measured, as it stands there', () => {
    const [row] = readTable('Link,Wire map,Date,Operator\nA-1,12345678,02/11/2026 09:31,R. Pell', ',');
    expect(row?.problem === null && row.note).toBe('measured 02/11/2026 09:31 by R. Pell');
  });

  it('say of each row that cannot be read what is wrong, and keep none of the others back', () => {
    const rows = readTable(
      'Link,Wire map\nA-1,1234567\nA-2,1-1 1-2\nA-3,1-1 9-9\nA-4,\na-5,12345678\nA-6,12345678\nA-6,12345678',
      ',',
    );
    expect(rows.map(({ problem }) => problem)).toEqual([
      'The wire map has 7 contacts, this link 8: 1234567.',
      'Contact 1 stands twice in the wire map.',
      '“9-9” in the wire map names no contact of this link.',
      'The wire map is empty.',
      'This job has no link a-5.',
      null,
      'A-6 is already in row 7: keep one of them.',
    ]);
  });
});

describe('a wire map in one cell', () => {
  it('comes back as it was written, in every way of writing it', () => {
    const map = fc.array(fc.constantFrom('', ...contacts), { minLength: 8, maxLength: 8 });
    fc.assert(
      fc.property(
        map,
        fc.constantFrom('-', '>', ':', '=', '->', '→'),
        fc.constantFrom(' ', ', ', ';'),
        (far, sign, between) => {
          const meant = Object.fromEntries(contacts.map((near, at) => [near, far[at] ? [far[at]] : []]));
          const steps = contacts.map((near, at) => `${near}${sign}${far[at] ?? ''}`).join(between);
          expect(readWireMapCell(steps, contacts)).withContext(steps).toEqual(meant);
          const letters = far.map((each) => each || '-').join('');
          expect(readWireMapCell(letters, contacts)).withContext(letters).toEqual(meant);
        },
      ),
    );
  });

  it('knows the screen by its names, joined contacts, and opens', () => {
    const link = screened();
    const all = Object.keys(link.near.wiring);
    expect(readWireMapCell('1-1+2 2-1+2 3-3 4-x 5-0 6-open 7-7 8-8 SH-SH', all)).toEqual({
      1: ['1', '2'],
      2: ['1', '2'],
      3: ['3'],
      4: [],
      5: [],
      6: [],
      7: ['7'],
      8: ['8'],
      S: ['S'],
    });
    expect(readWireMapCell('12345678S', all)).toEqual(jasmine.objectContaining({ S: ['S'] }));
    expect(readWireMapCell('12345678', all)).toEqual(jasmine.objectContaining({ S: [] }));
  });
});

describe('what stands beside a map in a table', () => {
  const HEAD =
    'Link,Wire map,Length 1-2 (m),Length 3-6 (m),Len 4-5,Length 7/8,Loop 1-2 ohm,Result,Test limit';
  const right = '1-1 2-2 3-3 4-4 5-5 6-6 7-7 8-8';
  const one = (row: string, head = HEAD): Extract<TableRow, { problem: null }> => {
    const [read] = readTable(`${head}\n${row}`, ',');
    if (read?.problem !== null) throw new Error(read?.problem ?? 'no row');
    return read;
  };

  it('has lengths of sound pairs in its note, and loops with the far end joined as readings; a sound link passes by them', () => {
    const { reading, more, note } = one(`A-1,${right},31.2,31.4,30.9,31.6,5.2,PASS,Channel 100`);
    expect(more).toEqual([
      {
        instrument: 'ohmmeter',
        touches: [
          {
            from: { end: 'near', contacts: ['1'] },
            to: { end: 'near', contacts: ['2'] },
            joined: [{ end: 'far', contacts: ['1', '2'] }],
            closed: true,
            ohm: 5.2,
          },
        ],
      },
    ]);
    expect(note).toBe(
      'lengths 1-2 31.2 m, 3-6 31.4 m, 4-5 30.9 m, 7-8 31.6 m, marked PASS by the limit Channel 100',
    );
    expect(diagnose(plain, [reading, ...more]).result).toBe('pass');
  });

  it('places an open where its pair is shorter than the others', () => {
    const opened = right.replace('4-4', '4-');
    const { reading, more } = one(`A-1,${opened},31.2,31.4,12.1,31.6,,FAIL,`);
    const believed = diagnose(plain, [reading, ...more]).explanations[0];
    expect(believed?.words).toMatch(/12\.\d m/);
    expect(diagnose(plain, [reading]).explanations[0]?.words).not.toMatch(/12\.\d m/);
  });

  it('keeps no row that the file marks failed and whose map is right: no pass comes of it', () => {
    const [marked] = readTable(`${HEAD}\nA-1,${right},31.2,31.4,30.9,31.6,5.2,Fail,`, ',');
    expect(marked?.reading).toBeNull();
    expect(marked?.problem).toContain('marks it FAIL and its map is right');
  });

  it('is in feet where the head or the cell says so, and refused where it is none', () => {
    const head = 'Link,Wire map,Length 1-2 (ft),Loop 1-2 ohm';
    const opened = right.replace('2-2', '2-');
    const lengthsOf = (row: string): unknown =>
      one(row, head).more.map((each) => ('pairs' in each ? each.pairs : null));
    expect(lengthsOf(`A-1,${opened},100,`)).toEqual([
      { '1-2': [{ kind: 'open', distanceM: 30.48, uM: 1.41 }] },
    ]);
    expect(lengthsOf(`A-1,${opened},30 m,`)).toEqual([{ '1-2': [{ kind: 'open', distanceM: 30, uM: 1.4 }] }]);
    expect(readTable(`${head}\nA-1,${right},long,`, ',')[0]?.problem).toBe(
      'Length of 1-2: "long" is no length.',
    );
    expect(readTable(`${head}\nA-1,${right},,low`, ',')[0]?.problem).toBe(
      'Resistance of 1-2: "low" is no resistance.',
    );
  });
});
