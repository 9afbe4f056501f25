import { TestBed } from '@angular/core/testing';
import type { Link } from '@near-spoke/contracts';
import { someExpectation, someLink } from '../testing/links';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { ImportReadings } from './import-readings';

const links: Link[] = ['P1-01', 'P1-02', 'P1-03'].map((label, i) => someLink({ id: `link-${i + 1}`, label }));
const TABLE = `\uFEFFLabel;1;2;3;4;5;6;7;8
P1-01;1;2;3;4;5;6;7;8
P1-02;2;1;3;4;5;6;7;8
p1-01;1;2;3;4;5;6;7;8
P9-99;1;2;3;4;5;6;7;8
P1-03;1;2;3;4;5;6;7;nine
`;

async function importing(server: FakeServer): Promise<{ room: Room<ImportReadings>; kept: number[] }> {
  TestBed.configureTestingModule({ providers: [server.provider] });
  const room = await showRoom(ImportReadings, {
    inputs: {
      jobId: 'job',
      links,
      expectationOf: (label: string) =>
        links.some((link) => link.label.toLowerCase() === label.toLowerCase()) ? someExpectation() : null,
    },
  });
  const kept: number[] = [];
  room.fixture.componentInstance.kept.subscribe((count) => kept.push(count));
  return { room, kept };
}
async function choose(room: Room<ImportReadings>, name: string, text: string): Promise<void> {
  const field = room.page.querySelector('input[type="file"]') as HTMLInputElement;
  const files = new DataTransfer();
  files.items.add(new File([text], name, { type: 'text/csv' }));
  field.files = files.files;
  field.dispatchEvent(new Event('change'));
  await room.until(
    () => room.page.querySelector('table') !== null || room.text('[role="alert"]').includes(name),
  );
}
const rows = (room: Room<ImportReadings>): string[] =>
  [...room.page.querySelectorAll('tbody tr')].map((row) =>
    [...row.children].map((cell) => cell.textContent?.trim()).join(' | '),
  );
const save = (room: Room<ImportReadings>): HTMLButtonElement =>
  room.page.querySelector('.row button') as HTMLButtonElement;

describe('readings from a table', () => {
  beforeEach(() => localStorage.clear());

  it('are read from one column under a title, and what was chosen holds for the next file of that kind', async () => {
    const server = new FakeServer({ addTests: () => ({ kept: 1 }) });
    const { room, kept } = await importing(server);
    const table = (map: string): string =>
      `Report of tests\nSet 7\n\nCable,Date,Steps,Length\nP1-02,2026-11-02 09:31,${map},31.2\n`;
    await choose(room, 'set7.csv', table('1-2 2-1 3-3 4-4 5-5 6-6 7-7 8-8'));
    // Nothing says that this column is the map: a person does, once.
    const pick = [...room.page.querySelectorAll('.mapping label')]
      .find((one) => one.textContent?.includes('Whole wire map'))
      ?.querySelector('select') as HTMLSelectElement;
    pick.value = '2';
    pick.dispatchEvent(new Event('change'));
    await room.until(() => rows(room)[0]?.includes('exchanged') ?? false);
    save(room).click();
    await room.until(() => kept.length === 1);
    const sent = server.sent('addTests')[0]?.body as { tests: { test: { note: string } }[] };
    expect(sent.tests[0]?.test.note).toBe('from set7.csv, measured 2026-11-02 09:31');
    await choose(room, 'set8.csv', table('12345678'));
    await room.until(() => rows(room)[0]?.includes('Map right') ?? false);
    expect(rows(room)[0]).toContain('5 | P1-02 | Map right');
  });

  it('are shown row by row before any is kept, with what is wrong with the others', async () => {
    const { room } = await importing(new FakeServer({}));
    await choose(room, 'round.csv', TABLE);
    await room.until(() => !room.text('[role="status"]').includes('Judging'));
    const shown = rows(room);
    expect(shown[0]).toContain('2 | P1-01 | Map right');
    expect(shown[1]).toContain('3 | P1-02 | 1 and 2 exchanged');
    expect(shown[2]).toBe('4 | p1-01 | p1-01 is already in row 2: keep one of them.');
    expect(shown[3]).toBe('5 | P9-99 | This job has no link P9-99.');
    expect(shown[4]).toMatch(/^6 \| P1-03 \| .*nine/);
    expect(save(room).textContent?.trim()).toBe('Keep the 2 good rows only');
  });

  it('are sent once: a retry after a lost answer sends the same records', async () => {
    let lost = true;
    const server = new FakeServer({
      addTests: ({ body }) => {
        if (lost) throw refusal('No answer', 0);
        return { kept: (body as { tests: unknown[] }).tests.length };
      },
    });
    const { room, kept } = await importing(server);
    await choose(room, 'round.csv', TABLE);
    save(room).click();
    await room.until(() => room.text('ns-problem-note') !== '');
    expect(kept).toEqual([]);
    lost = false;
    save(room).click();
    await room.until(() => kept.length === 1);
    expect(kept).toEqual([2]);
    const [first, second] = server
      .sent('addTests')
      .map(({ body }) => (body as { tests: { linkId: string; test: { id: string; note: string } }[] }).tests);
    expect(first?.map((one) => one.linkId)).toEqual(['link-1', 'link-2']);
    expect(first?.[0]?.test.note).toBe('from round.csv');
    expect(second?.map((one) => one.test.id)).toEqual(first?.map((one) => one.test.id) as string[]);
  });

  it('wait for their columns to be chosen where the header does not tell', async () => {
    const { room } = await importing(new FakeServer({}));
    await choose(room, 'odd.csv', 'what,near one\nP1-01,1\n');
    expect(rows(room)).toEqual([]);
    expect(save(room).disabled).toBeTrue();
    const [label] = room.page.querySelectorAll<HTMLSelectElement>('.mapping select');
    (label as HTMLSelectElement).value = '0';
    label?.dispatchEvent(new Event('change'));
    await room.fixture.whenStable();
    expect(rows(room)).toEqual(['2 | P1-01 | No column is chosen for contact 1.']);
  });

  it('of lamps ask for pairs instead of contacts', async () => {
    const { room } = await importing(new FakeServer({}));
    await choose(room, 'lamps.csv', 'link,1-2,3-6,4-5,7-8\nP1-01,1,1,0,maybe\n');
    const asked = [...room.page.querySelectorAll('.mapping .figure')].map((one) => one.textContent);
    expect(asked).toEqual(['1-2', '3-6', '4-5', '7-8']);
    expect(rows(room)).toEqual(['2 | P1-01 | 7-8: "maybe" is neither lit nor dark. Write 1 or 0.']);
  });

  it('are refused in words where there is nothing to read', async () => {
    const { room } = await importing(new FakeServer({}));
    await choose(room, 'empty.csv', 'Label;1;2\n');
    expect(room.text('[role="alert"]')).toContain('empty.csv has no rows under its header');
    await choose(room, 'large.csv', 'x'.repeat(5_000_001));
    expect(room.text('[role="alert"]')).toBe('large.csv is larger than 5 MB: split it.');
    expect(room.page.querySelector('table')).toBeNull();
  });
});
