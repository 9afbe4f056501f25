import { csvOf, xlsxOf } from './save-table';
import { tableCells } from './table-cells';
import { readTableFile } from './table-file';

const tableOf = (html: string): HTMLTableElement => {
  const box = document.createElement('div');
  box.innerHTML = `<table>${html}</table>`;
  return box.firstElementChild as HTMLTableElement;
};
const TABLE = `<thead><tr>
    <th><button>Link <span aria-hidden="true">▾</span></button></th><th>Length</th><th>Spoiled</th><th></th><th>Good</th>
  </tr></thead><tbody>
  <tr><th>P1-05</th><td>31.4 m</td><td>2</td><td><button>Remove</button></td><td><input type="checkbox" checked></td></tr>
  <tr><th>007</th><td></td><td>=1+1</td><td></td><td><input type="checkbox"></td></tr></tbody>`;

describe('a table that is taken along', () => {
  it('has figures as figures with their unit in the head, labels as labels, and nothing that is only pressed', () => {
    expect(tableCells(tableOf(TABLE))).toEqual({
      head: ['Link', 'Length (m)', 'Spoiled', 'Good'],
      rows: [
        ['P1-05', 31.4, 2, 'yes'],
        ['007', '', '=1+1', 'no'],
      ],
    });
  });

  it('keeps a column whose units differ as it is written', () => {
    const cells = tableCells(tableOf('<tbody><tr><td>3 m</td></tr><tr><td>4 ft</td></tr></tbody>'));
    expect(cells.rows).toEqual([['3 m'], ['4 ft']]);
  });

  it('has what was typed or chosen in its fields', () => {
    const table = tableOf(
      '<tbody><tr><td><input></td><td><select><option>a</option><option selected>b</option></select></td></tr></tbody>',
    );
    const field = table.querySelector('input');
    if (field) field.value = '12';
    expect(tableCells(table).rows).toEqual([[12, 'b']]);
  });

  it('is harmless text in a spreadsheet where it would be a formula, as CSV', async () => {
    const text = await (await csvOf(tableCells(tableOf(TABLE)))).text();
    expect(text).toContain(`"'=1+1"`.replaceAll('"', ''));
    expect(text.trimEnd().split('\r\n').length).toBe(3);
  });

  it('comes back from a workbook cell by cell, as text', async () => {
    const cells = tableCells(tableOf(TABLE));
    const file = new File([await xlsxOf(cells, 'a/b:c')], 'links.xlsx');
    const { rows, trouble } = await readTableFile(file);
    expect(trouble).toBe('');
    expect(rows).toEqual([
      ['Link', 'Length (m)', 'Spoiled', 'Good'],
      ['P1-05', '31.4', '2', 'yes'],
      ['007', '', '=1+1', 'no'],
    ]);
  });
});

describe('a file with a table', () => {
  const read = (content: BlobPart, name = 'list.csv') => readTableFile(new File([content], name));

  it('is read with any separator and without its byte order mark', async () => {
    expect((await read('\ufeffa;b\n1;2\n')).rows?.slice(0, 2)).toEqual([
      ['a', 'b'],
      ['1', '2'],
    ]);
    expect((await read('a\tb\n1\t2')).rows?.[1]).toEqual(['1', '2']);
  });

  it('is refused in words where it is damaged, no table, too large, or would unpack to too much', async () => {
    expect((await read('PK\u0003\u0004 cut', 'cut.xlsx')).trouble).toContain('cut.xlsx is no workbook');
    expect((await read(new Uint8Array([1, 0, 2]), 'a.bin')).trouble).toContain('is no table');
    expect((await read(new Uint8Array(5_000_001), 'b.csv')).trouble).toContain('larger than 5 MB');
    const bomb = new Uint8Array(64);
    bomb.set([0x50, 0x4b, 3, 4]);
    const view = new DataView(bomb.buffer);
    view.setUint32(8, 0x02014b50, true);
    view.setUint32(32, 2_000_000_000, true);
    expect((await read(bomb, 'bomb.xlsx')).trouble).toContain('unpack to more than 100 MB');
  });
});
