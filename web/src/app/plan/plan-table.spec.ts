import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import type { Job, Link, Role } from '@near-spoke/contracts';
import { JobEvents } from '../jobs/jobs.state';
import { someJob, someLink } from '../testing/links';
import { showRoom } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { PlanTable } from './plan-table';

const some = (change: Partial<Link> = {}): Link[] =>
  [1, 2, 3].map((n) =>
    someLink({
      id: `l${n}`,
      label: `P1-0${n}`,
      position: n,
      version: n,
      near: { hub: 'CR-1', panel: 'P1', port: `0${n}`, connectorId: 'jack-punched', done: false },
      ...change,
    }),
  );

async function show(
  answers: FakeServer['answers'] = {},
  {
    job = {},
    role = 'technician' as Role,
    links = some(),
    early = '',
  }: {
    job?: Partial<Job>;
    role?: Role;
    links?: Link[];
    /** Words of rows, said before the plan is there. */ early?: string;
  } = {},
) {
  const server = new FakeServer(answers);
  TestBed.configureTestingModule({ providers: [server.provider] });
  const room = await showRoom(PlanTable, { inputs: { jobId: 'job' }, role });
  room.page.style.height = '600px';
  room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob(job)] }));
  if (early) {
    const words = await room.loader.getHarness(MatInputHarness.with({ label: 'Only rows that hold' }));
    await words.setValue(early);
  }
  room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links }));
  await room.until(() => room.page.querySelectorAll('[role=gridcell]').length > 0);
  const grid = room.page.querySelector<HTMLElement>('[role=grid]') as HTMLElement;
  const key = async (name: string, more: KeyboardEventInit = {}): Promise<void> => {
    const at = room.page.querySelector<HTMLElement>('.cell input') ?? grid;
    at.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true, ...more }));
    await room.fixture.whenStable();
  };
  const type = async (text: string): Promise<void> => {
    await key(text.charAt(0));
    const field = room.page.querySelector<HTMLInputElement>('.cell input') as HTMLInputElement;
    field.value = text;
    await key('Enter');
  };
  const cells = (row: number): string[] =>
    [
      ...(room.page.querySelectorAll('cdk-virtual-scroll-viewport .row')[row]?.querySelectorAll('.cell') ??
        []),
    ].map((cell) => cell.textContent?.trim() ?? '');
  const paste = async (text: string): Promise<void> => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', text);
    grid.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    await room.fixture.whenStable();
  };
  const press = async (text: RegExp): Promise<void> =>
    (await room.loader.getHarness(MatButtonHarness.with({ text }))).click();
  return { ...room, server, grid, key, type, cells, paste, press };
}
const right = { key: 'ArrowRight' };

describe('a plan as a table', () => {
  it('is written by keys: moved, typed, undone and done again', async () => {
    const room = await show();
    for (let n = 0; n < 3; n++) await room.key(right.key);
    await room.type('Attic');
    expect(room.cells(0)[3]).toBe('Attic');
    expect(room.text('.cell.changed')).toBe('Attic');
    await room.key('ArrowUp');
    expect(room.text('.said')).toBe('It was Hall.');
    await room.key('z', { ctrlKey: true });
    expect(room.cells(0)[3]).toBe('Hall');
    await room.key('z', { ctrlKey: true, shiftKey: true });
    expect(room.cells(0)[3]).toBe('Attic');
    // Nothing is kept by an edit that was left.
    await room.key('F2');
    (room.page.querySelector('.cell input') as HTMLInputElement).value = 'Cellar';
    await room.key('Escape');
    expect(room.cells(0)[3]).toBe('Attic');
  });

  it('shows some rows only, under their own numbers, and what is typed there goes to them alone', async () => {
    const room = await show(
      {},
      { links: some().map((link, n) => ({ ...link, label: ['A-1', 'B-2', 'B-3'][n] ?? '' })) },
    );
    await room.key('ArrowDown', { ctrlKey: true });
    const words = await room.loader.getHarness(MatInputHarness.with({ label: 'Only rows that hold' }));
    await words.setValue('b- hall');
    await room.settled();
    expect([room.cells(0)[0], room.cells(1)[0]]).toEqual(['B-2', 'B-3']);
    expect([...room.page.querySelectorAll('.row .number')].map((one) => one.textContent?.trim())).toEqual([
      '',
      '2',
      '3',
      '+',
    ]);
    expect(room.text('.count')).toBe('2 of 3');
    for (let n = 0; n < 3; n++) await room.key(right.key);
    await room.paste('Attic\nLoft\n');
    // Neither goes away for being changed.
    expect([room.cells(0)[3], room.cells(1)[3]]).toEqual(['Attic', 'Loft']);
    await words.setValue('');
    await room.settled();
    expect([0, 1, 2].map((row) => room.cells(row)[3])).toEqual(['Hall', 'Attic', 'Loft']);
    expect(room.text('.main-action')).toBe('Keep 2 links');
  });

  it('shows the wanted rows alone to who said which before the plan was read', async () => {
    const links = some().map((link, n) => ({ ...link, label: ['A-1', 'B-2', 'B-3'][n] ?? '' }));
    const room = await show({}, { links, early: 'b-3' });
    await room.settled();
    expect(room.text('.count')).toBe('1 of 3');
    expect(room.cells(0)[0]).toBe('B-3');
  });

  it('lets a cell be typed to its end while the plan is read again', async () => {
    const room = await show();
    for (let n = 0; n < 3; n++) await room.key(right.key);
    await room.key('B');
    const field = room.page.querySelector<HTMLInputElement>('.cell input') as HTMLInputElement;
    field.value = 'Bal';
    room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links: some({ lengthM: 44 }) }));
    await room.until(() => room.cells(0)[8] === '44');
    expect(room.page.querySelector('.cell input')).toBe(field);
    expect(document.activeElement).toBe(field);
    field.value = 'Balcony';
    await room.key('Enter');
    expect([0, 1].map((row) => room.cells(row)[3])).toEqual(['Balcony', 'Hall']);
  });

  it('keeps what was typed and the cell in hand when the plan is read again right after', async () => {
    const room = await show();
    for (const name of ['ArrowDown', ...Array<string>(3).fill(right.key)]) await room.key(name);
    await room.key('B');
    const field = room.page.querySelector<HTMLInputElement>('.cell input') as HTMLInputElement;
    field.value = 'Balcony';
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
    // No turn of the page in between: nothing of it is kept on the device yet.
    room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links: some({ lengthM: 44 }) }));
    await room.until(() => room.cells(0)[8] === '44');
    expect([0, 1, 2].map((row) => room.cells(row)[3])).toEqual(['Hall', 'Balcony', 'Hall']);
    await room.key('Delete');
    expect([1, 2].map((row) => room.cells(row)[3])).toEqual(['Balcony', '']);
  });

  it('keeps what is changed and what is new, once it is asked to', async () => {
    const room = await show({
      changeLinks: () => [some({ version: 9 })[0] as Link].map((link) => ({ ...link, label: 'Q-1' })),
      addLinks: () => [someLink({ id: 'l4', label: 'P1-04', position: 4 })],
    });
    await room.type('Q-1');
    for (let n = 0; n < 2; n++) await room.key('ArrowDown');
    await room.paste('P1-04\tP1\t04\tLoft\tfan\tcat6-u\tjack-punched\tjack-toolless\t12\r\n');
    expect(room.server.asked).toEqual([]);
    await room.press(/^Keep 2 links/);
    const [changed] = room.server.sent('changeLinks');
    expect(changed?.body).toEqual({ changes: [{ id: 'l1', version: 1, label: 'Q-1' }] });
    const [added] = room.server.sent('addLinks');
    const { links } = added?.body as { links: { label: string; room: string; lengthM: number }[] };
    expect(links.map(({ label, room: where, lengthM }) => [label, where, lengthM])).toEqual([
      ['P1-04', 'Loft', 12],
    ]);
    await room.until(() => room.text('.said').startsWith('Type to change'));
    expect(room.cells(0)[0]).toBe('Q-1');
    expect(room.page.querySelector('.changed')).toBeNull();
    expect(localStorage.getItem('near-spoke-plan-job')).toBeNull();
  });

  it('keeps nothing while a cell is wrong, and leads to it', async () => {
    const room = await show();
    for (let n = 0; n < 8; n++) await room.key(right.key);
    await room.type('long');
    await room.key('Home');
    expect(room.text('.said')).toContain('One cell has to be mended first.');
    const keep = await room.loader.getHarness(MatButtonHarness.with({ text: /^Keep/ }));
    expect(await keep.isDisabled()).toBeTrue();
    room.page.querySelector<HTMLButtonElement>('.to')?.click();
    await room.fixture.whenStable();
    expect(room.text('.said')).toBe('long is no length, such as 31.4 m or 103 ft.');
    expect(room.page.querySelector('.cell.at')?.getAttribute('aria-invalid')).toBe('true');
  });

  it('carries the first of what is chosen down, and empties what is chosen', async () => {
    const room = await show();
    for (let n = 0; n < 4; n++) await room.key(right.key);
    await room.type('desk 9');
    await room.key('ArrowUp');
    await room.key('ArrowDown', { shiftKey: true });
    await room.key('ArrowDown', { shiftKey: true });
    expect(room.page.querySelectorAll('[aria-selected=true]').length).toBe(3);
    await room.key('ArrowDown', { altKey: true });
    expect([0, 1, 2].map((row) => room.cells(row)[4])).toEqual(['desk 9', 'desk 10', 'desk 11']);
    await room.key('Delete');
    expect([0, 1, 2].map((row) => room.cells(row)[4])).toEqual(['', '', '']);
    expect(room.text('.said')).toContain('Nothing says its outlet.');
  });

  it('copies what is chosen as cells, and puts a single text into all of them', async () => {
    const room = await show();
    await room.key('ArrowRight', { shiftKey: true });
    await room.key('ArrowDown', { shiftKey: true });
    const clipboardData = new DataTransfer();
    room.grid.dispatchEvent(new ClipboardEvent('copy', { clipboardData, bubbles: true, cancelable: true }));
    expect(clipboardData.getData('text/plain')).toBe('P1-01\tP1\nP1-02\tP1');
    await room.key('Home');
    await room.key('ArrowRight');
    await room.key('ArrowDown', { shiftKey: true });
    await room.paste('P2');
    expect([0, 1, 2].map((row) => room.cells(row)[1])).toEqual(['P1', 'P2', 'P2']);
  });

  it('finds what was typed again after a reload, and says where the server refuses', async () => {
    const room = await show({
      changeLinks: () => {
        throw refusal('Changed by Ines since you opened it.');
      },
    });
    await room.type('Q-1');
    await room.press(/^Keep one link/);
    await room.until(() => room.text('ns-problem-note').includes('Changed by Ines'));
    // The plan is read again, with a length of somebody else's.
    room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links: some({ lengthM: 44 }) }));
    await room.until(() => room.cells(0)[8] === '44');
    expect(room.cells(0)[0]).toBe('Q-1');
    await room.press(/^Throw away/);
    expect(room.cells(0)[0]).toBe('P1-01');
    expect(localStorage.getItem('near-spoke-plan-job')).toBeNull();
  });

  it('is looked at and not changed by a viewer, nor where the job is closed', async () => {
    for (const given of [{ role: 'viewer' as const }, { job: { closedAt: '2026-11-03T08:00:00.000Z' } }]) {
      TestBed.resetTestingModule();
      const room = await show({}, given);
      await room.key('x');
      expect(room.page.querySelector('.cell input')).toBeNull();
      await room.key('Delete');
      expect(room.cells(0)[0]).toBe('P1-01');
      expect(room.page.querySelector('.actions button')).toBeNull();
    }
  });
});
