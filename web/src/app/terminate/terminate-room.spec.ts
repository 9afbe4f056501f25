import type { LinkDetail, Termination } from '@near-spoke/contracts';
import { LinkEvents } from '../link/link.state';
import { someDetail, someLink } from '../testing/links';
import { showRoom, type Room } from '../testing/rooms';
import { TerminateRoom } from './terminate-room';

const nothingDone = someDetail({ terminations: [] });
const [nearDone, farDone] = someDetail().terminations as [Termination, Termination];

/** The server answers that the attempt is kept. */
async function keep(room: Room<TerminateRoom>, terminations: LinkDetail['terminations']): Promise<void> {
  room.store.dispatch(LinkEvents.recordKept({ detail: someDetail({ terminations }), what: 'termination' }));
  await room.fixture.whenStable();
}

describe('the work card on screen', () => {
  it('begins at the open end, near first', async () => {
    const room = await showRoom(TerminateRoom, { detail: nothingDone });
    expect(room.text('.ends [aria-pressed=true]')).toBe('Near end');
    expect(room.text('.middle h2')).toBe('Strip 40 mm of jacket');
  });

  it('takes the end the address names, done before or not', async () => {
    const room = await showRoom(TerminateRoom, { inputs: { end: 'far' } });
    expect(room.text('.steps h2')).toBe('8-contact plug, closed end');
    expect(room.text('.steps p')).toContain('Done before: this is a new one.');
  });

  it('marks the step after which there is no way back', async () => {
    const room = await showRoom(TerminateRoom, { inputs: { end: 'far' } });
    const marked = [...room.page.querySelectorAll('.steps li')].filter((li) =>
      li.textContent?.includes('no way back'),
    );
    expect(marked.map((li) => li.textContent?.replace(/\s+/g, ' ').trim())).toEqual([
      '7 Crimp no way back after this',
    ]);
  });

  it('walks by foot switch, there and back, and shows why and what may go wrong at each step', async () => {
    const room = await showRoom(TerminateRoom, { inputs: { end: 'far' } });
    for (let i = 0; i < 3; i++) await room.press('PageDown');
    expect(room.text('.middle h2')).toBe('Lay the eight in order, read them back');
    expect(room.text('.right')).toContain('Two have changed places');
    await room.press('PageUp');
    expect(room.text('.middle h2')).toBe('Trim tape, cord and filler');
    expect(room.text('.right')).toContain('Clipped ends fly');
  });

  it('records who spoils what: the count goes with the good end', async () => {
    const room = await showRoom(TerminateRoom, { detail: nothingDone });
    await room.press('x');
    await room.press('x');
    for (let i = 0; i < 6; i++) await room.press('PageDown');
    const done = room.asked.at(-1) as ReturnType<typeof LinkEvents.terminationDone>;
    expect(done.attempt).toEqual(
      jasmine.objectContaining({
        side: 'near',
        connectorTypeId: 'jack-punched',
        outcome: 'good',
        connectorsSpoiled: 2,
      }),
    );
    await keep(room, [nearDone]);
    expect(room.text('.ends [aria-pressed=true]')).toBe('Far end');
    expect(room.ways).toEqual([]);
  });

  it('goes on only when the record is kept: presses in between record nothing, a failure is retried as the same record', async () => {
    const room = await showRoom(TerminateRoom, { detail: nothingDone });
    for (let i = 0; i < 7; i++) await room.press('PageDown');
    const done = room.asked as ReturnType<typeof LinkEvents.terminationDone>[];
    expect(done.length).toBe(1);
    expect(room.text('.middle h2')).toBe('How did it go?');
    room.store.dispatch(
      LinkEvents.requestFailed({ problem: { type: 'about:blank', title: 'Away', status: 503, detail: '' } }),
    );
    await room.fixture.whenStable();
    expect(room.text('.ends [aria-pressed=true]')).toBe('Near end');
    await room.press('PageDown');
    expect(done.at(-1)?.attempt.id).toBe(done[0]?.attempt.id as string);
    await keep(room, [nearDone]);
    expect(room.text('.ends [aria-pressed=true]')).toBe('Far end');
    expect(room.ways).toEqual([]);
  });

  it('leads on to the reading when the other end is done', async () => {
    const room = await showRoom(TerminateRoom, {
      detail: someDetail({ terminations: someDetail().terminations.slice(0, 1) }),
    });
    for (let i = 0; i < 9; i++) await room.press('PageDown');
    expect(room.ways).toEqual([]);
    await keep(room, [nearDone, farDone]);
    expect(room.ways).toEqual(['/jobs/job/links/link/verify']);
  });

  it('counts a spoiled end as one connector at least, and starts the card again', async () => {
    const room = await showRoom(TerminateRoom, { detail: nothingDone });
    for (let i = 0; i < 5; i++) await room.press('PageDown');
    const spoiled = [...room.page.querySelectorAll<HTMLButtonElement>('.go button')].find((b) =>
      b.textContent?.includes('Spoiled'),
    );
    spoiled?.click();
    await room.fixture.whenStable();
    const done = room.asked.at(-1) as ReturnType<typeof LinkEvents.terminationDone>;
    expect([done.attempt.outcome, done.attempt.connectorsSpoiled]).toEqual(['spoiled', 1]);
    await keep(room, []);
    expect(room.text('.middle h2')).toBe('Strip 40 mm of jacket');
  });

  it('stays at the end a person chose when a spoiled try is recorded there', async () => {
    const room = await showRoom(TerminateRoom, { detail: nothingDone });
    [...room.page.querySelectorAll<HTMLButtonElement>('.ends button')].at(-1)?.click();
    await room.fixture.whenStable();
    for (let i = 0; i < 8; i++) await room.press('PageDown');
    [...room.page.querySelectorAll<HTMLButtonElement>('.go button')].at(-1)?.click();
    await room.fixture.whenStable();
    await keep(room, [{ ...farDone, outcome: 'spoiled', connectorsSpoiled: 1 }]);
    expect(room.text('.ends [aria-pressed=true]')).toBe('Far end');
    expect(room.text('.middle .quiet')).toBe('Step 1 of 8');
  });

  it('says plainly where there is no card yet, and still records the end', async () => {
    const coax = someLink({
      cableTypeId: 'rg213',
      near: { ...someLink().near, connectorId: 'coax-n' },
      far: { ...someLink().far, connectorId: 'coax-n' },
    });
    const room = await showRoom(TerminateRoom, { detail: someDetail({ link: coax, terminations: [] }) });
    expect(room.text('.middle')).toContain('There is no work card for N plug, crimp');
    await room.press('PageDown');
    expect(room.asked.at(-1)?.type).toBe(LinkEvents.terminationDone.type);
  });

  it('shows the whole card, with the parts to lay out and every caution', async () => {
    const room = await showRoom(TerminateRoom, { inputs: { end: 'far' } });
    await room.press('w');
    expect(room.page.querySelectorAll('.middle article').length).toBe(8);
    expect(room.text('.middle')).toContain('8-contact plug, closed end, boot; jacket stripper');
  });

  it('lets a viewer read the card and record nothing', async () => {
    const room = await showRoom(TerminateRoom, { role: 'viewer', detail: nothingDone });
    for (let i = 0; i < 8; i++) await room.press('PageDown');
    expect(room.asked).toEqual([]);
    expect(room.text('.middle h2')).toBe('Strip 40 mm of jacket');
  });
});
