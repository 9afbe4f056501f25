import { MatButtonHarness } from '@angular/material/button/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { LinkNote, NewLinkNote, Role } from '@near-spoke/contracts';
import { someDetail } from '../testing/links';
import { showRoom } from '../testing/rooms';
import { LinkNotes } from './link-notes';
import { LinkEvents } from './link.state';

const note = (change: Partial<LinkNote> = {}): LinkNote => ({
  id: 'n1',
  turn: 3,
  at: '2026-11-03T09:10:00.000Z',
  by: 'Marit',
  end: null,
  words: 'behind the shelf',
  photo: null,
  ...change,
});
const photo = { sha256: 'a'.repeat(64), widthPx: 640, heightPx: 480, bytes: 41_500 };

/** A picture as a camera gives it. */
async function pictureFile(width: number, height: number): Promise<File> {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
  return new File([blob ?? ''], 'end.png', { type: 'image/png' });
}

describe('notes of a link', () => {
  const show = (notes: LinkNote[], role: Role = 'technician') =>
    showRoom(LinkNotes, { detail: someDetail({ notes }), role });
  type Room = Awaited<ReturnType<typeof show>>;
  const made = ({ asked }: Room): NewLinkNote[] =>
    asked.flatMap((action) =>
      action.type === LinkEvents.noteMade.type ? [(action as unknown as { note: NewLinkNote }).note] : [],
    );
  async function drop(room: Room, file: File): Promise<void> {
    const files = new DataTransfer();
    files.items.add(file);
    const box = room.page.querySelector<HTMLInputElement>('input[type=file]');
    if (!box) throw new Error('no place for a photo');
    box.files = files.files;
    box.dispatchEvent(new Event('change'));
    for (let n = 0; n < 100 && !room.page.querySelector('.taken, .wrong'); n++) {
      await new Promise((later) => setTimeout(later, 20));
      await room.fixture.whenStable();
    }
  }

  it('stand newest first with who made them; photos are counted and sized', async () => {
    const room = await show([note(), note({ id: 'n2', end: 'far', words: 'loop', photo })]);
    const lines = [...room.page.querySelectorAll('.kept li')].map((one) => one.textContent);
    expect(lines[0]).toContain('loop');
    expect(lines[0]).toContain('far end, Marit');
    expect(lines[1]).toContain('behind the shelf');
    expect(room.text('.kept > p')).toBe('1 photo, 42 kB');
    expect(room.page.querySelector('li img')?.getAttribute('src')).toMatch(/\/notes\/n2\/photo\.jpg$/);
  });

  it('are not kept empty: it is said what is missing', async () => {
    const room = await show([]);
    const keep = await room.loader.getHarness(MatButtonHarness.with({ text: 'Keep it' }));
    expect(await keep.isDisabled()).toBeTrue();
    expect(room.text('.keep')).toContain('Write something, or take a photo.');
  });

  it('are kept with the end they are about, and by the same record if the answer was lost', async () => {
    const room = await show([]);
    await (await room.loader.getHarness(MatInputHarness)).setValue(' behind the boiler ');
    const about = await room.loader.getHarness(MatSelectHarness);
    expect(await about.getValueText()).toBe('all of it');
    await about.clickOptions({ text: 'the far end' });
    const keep = await room.loader.getHarness(MatButtonHarness.with({ text: 'Keep it' }));
    await keep.click();
    room.store.dispatch(
      LinkEvents.requestFailed({ problem: { type: '', title: 'No answer', status: 0, detail: 'x' } }),
    );
    await room.fixture.whenStable();
    await keep.click();
    const [first, second] = made(room);
    expect(first).toEqual({ id: first?.id ?? '', end: 'far', words: 'behind the boiler', jpeg: null });
    expect(second).toEqual(first as NewLinkNote);
  });

  it('take a photo that is made no larger than is needed, and can be left out again', async () => {
    const room = await show([]);
    await drop(room, await pictureFile(2560, 1920));
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Keep it' }))).click();
    const [sent] = made(room);
    const kept = await createImageBitmap(await (await fetch(`data:image/jpeg;base64,${sent?.jpeg}`)).blob());
    expect([kept.width, kept.height]).toEqual([1280, 960]);
    room.store.dispatch(LinkEvents.recordKept({ detail: someDetail(), what: 'plan' }));
    await room.fixture.whenStable();
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Leave it out' }))).click();
    expect(room.page.querySelector('.taken')).toBeNull();
  });

  it('say that a file is no picture', async () => {
    const room = await show([]);
    await drop(room, new File(['words'], 'list.txt'));
    expect(room.text('[role=alert]')).toContain('list.txt is no picture');
  });

  it('are only read by a viewer', async () => {
    const room = await show([note()], 'viewer');
    expect(room.page.querySelector('form')).toBeNull();
    expect(room.text('.kept')).toContain('behind the shelf');
  });
});
