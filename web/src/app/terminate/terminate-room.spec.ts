import type { LinkDetail, Termination } from '@near-spoke/contracts';
import { LinkEvents } from '../link/link.state';
import { someDetail, someLink } from '../testing/links';
import { JobEvents } from '../jobs/jobs.state';
import { SHIPPED_KIT, showRoom, type Room } from '../testing/rooms';
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
    expect(room.text('.middle h2')).toBe('Strip 40 ± 3 mm of jacket');
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
    expect(room.text('.middle h2')).toBe('Trim the separator and pull cord');
    expect(room.text('.middle')).toContain('Care: Clipped ends fly');
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
    expect(room.text('.middle h2')).toBe('Strip 40 ± 3 mm of jacket');
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

  it('walks the ends of coax and of telephone lines as well', async () => {
    const coax = someLink({
      cableTypeId: 'rg213',
      near: { ...someLink().near, connectorId: 'coax-n' },
      far: { ...someLink().far, connectorId: 'coax-n' },
    });
    const room = await showRoom(TerminateRoom, { detail: someDetail({ link: coax, terminations: [] }) });
    expect(room.text('.middle h2')).toBe('Thread the heat-shrink and ferrule');
    const titles = [...room.page.querySelectorAll('.steps li')].map((li) => li.textContent?.trim());
    expect(titles.some((t) => t?.includes('Crimp with the .429 die'))).toBeTrue();
  });

  it('stops at a wrong die, and remembers the right one', async () => {
    const coax = someLink({
      cableTypeId: 'rg213',
      near: { ...someLink().near, connectorId: 'coax-n' },
      far: { ...someLink().far, connectorId: 'coax-n' },
    });
    const room = await showRoom(TerminateRoom, { detail: someDetail({ link: coax, terminations: [] }) });
    const stepButton = (words: string) =>
      [...room.page.querySelectorAll<HTMLButtonElement>('.steps li button')].find((b) =>
        b.textContent?.includes(words),
      );
    stepButton('Crimp with')?.click();
    await room.fixture.whenStable();
    const choose = async (size: string) => {
      const select = room.page.querySelector('ns-tool-in-hand select') as HTMLSelectElement;
      select.value = size;
      select.dispatchEvent(new Event('change'));
      await room.fixture.whenStable();
    };
    await room.press('PageDown');
    expect(room.text('.middle h2')).toContain('Crimp with the .429 die');
    await choose('.360');
    expect(room.text('ns-tool-in-hand [role=status]')).toContain('Wrong die: .360 is 1.8 mm too narrow');
    await room.press('PageDown');
    expect(room.text('.middle h2')).toContain('Crimp with the .429 die');
    await choose('.429');
    await room.press('PageDown');
    expect(room.text('.middle h2')).toBe('Heat-shrink over the ferrule');
    // Looked at once: neither on the way back nor at the first step is it asked for again.
    await room.press('PageUp');
    expect(room.page.querySelector('ns-tool-in-hand')).toBeNull();
    stepButton('Thread')?.click();
    await room.fixture.whenStable();
    const held = [...room.page.querySelectorAll<HTMLSelectElement>('ns-tool-in-hand select')];
    expect(held.map(({ value }) => value)).toContain('.429');
  });

  it('catches a slipped pair before the crimp, and goes on when it is laid again', async () => {
    const room = await showRoom(TerminateRoom, { inputs: { end: 'far' } });
    for (let i = 0; i < 5; i++) await room.press('PageDown');
    expect(room.text('.middle h2')).toBe('Push home, read the colours through the front');
    const read = async (keys: string) => {
      await room.press('c');
      for (const key of keys) await room.press(key);
      await room.press('Enter');
    };
    await read('wooWgUWUgWNN'.toLowerCase().replace('wg', 'g').replace('ug', 'uwg'));
    expect(room.text('.middle')).toContain('3 and 6 have slipped');
    await room.press('PageDown');
    expect(room.text('.middle h2')).toBe('Push home, read the colours through the front');
    await read('woowguwugwnn');
    expect(room.text('.middle')).toContain('Read back: as the card.');
    await room.press('PageDown');
    expect(room.text('.middle h2')).toBe('Crimp');
  });

  it('says what can still be done when the boot was forgotten, and notes the way that is chosen', async () => {
    const room = await showRoom(TerminateRoom, { inputs: { end: 'far' } });
    for (let i = 0; i < 7; i++) await room.press('PageDown');
    await room.press('o');
    const boot = [...room.page.querySelectorAll('.told label')].find((l) =>
      l.textContent?.includes('Thread the boot'),
    );
    (boot?.querySelector('input') as HTMLInputElement).click();
    await room.fixture.whenStable();
    expect(room.text('.answer')).toContain('boot cannot go on any more');
    const ways = [...room.page.querySelectorAll('.answer li strong')].map((e) => e.textContent);
    expect(ways[0]).toContain('a split boot');
    expect(ways[1]).toContain('Cut off and start again with a new connector');
    room.page.querySelector<HTMLButtonElement>('.answer li button')?.click();
    await room.fixture.whenStable();
    expect(room.text('.middle h2')).toBe('Look, tug, close up');
    await room.press('PageDown');
    expect(room.text('.middle')).toContain(
      'Stopgap, stays on the record until redone: Go on, and use a split boot',
    );
    await room.press('PageDown');
    const done = room.asked.at(-1) as ReturnType<typeof LinkEvents.terminationDone>;
    expect(done.attempt.stopgap).toContain('split boot');
    expect([done.attempt.connectorVersion, done.attempt.cableVersion]).toEqual([1, 1]);
  });

  it('asks for a tool that the kit lacks: a stopgap goes on the record, and why one was spoiled', async () => {
    const room = await showRoom(TerminateRoom, { detail: nothingDone });
    const tools = SHIPPED_KIT.tools.filter((tool) => tool.kind !== 'insertion tool');
    room.store.dispatch(JobEvents.kitRead({ kit: { ...SHIPPED_KIT, tools } }));
    await room.fixture.whenStable();
    // Before the first step, not in the middle of the card.
    await room.press('PageDown');
    expect(room.text('.middle .quiet')).toContain('Step 1 of');
    const select = room.page.querySelector('ns-tool-in-hand select') as HTMLSelectElement;
    select.value = 'not here';
    select.dispatchEvent(new Event('change'));
    await room.fixture.whenStable();
    expect(room.text('ns-tool-in-hand')).toContain('What ruins it: A screwdriver');
    room.page.querySelector<HTMLInputElement>('ns-tool-in-hand input')?.click();
    await room.fixture.whenStable();
    for (let i = 0; i < 20 && room.text('.middle h2') !== 'How did it go?'; i++) await room.press('PageDown');
    await room.press('x');
    const why = room.page.querySelector('.lot input') as HTMLInputElement;
    why.value = 'order slipped';
    why.dispatchEvent(new Event('input'));
    await room.press('PageDown');
    const done = room.asked.at(-1) as ReturnType<typeof LinkEvents.terminationDone>;
    expect(done.attempt).toEqual(
      jasmine.objectContaining({ reason: 'order slipped', connectorsSpoiled: 1, outcome: 'good' }),
    );
    expect(done.attempt.stopgap).toContain('plastic insertion tool');
  });

  it('shows the whole card, with the parts to lay out and every caution', async () => {
    const room = await showRoom(TerminateRoom, { inputs: { end: 'far' } });
    await room.press('w');
    expect(room.page.querySelectorAll('.middle article').length).toBe(8);
    expect(room.text('.middle')).toContain('8-contact plug, closed end, boot.');
    expect(room.text('.middle')).toContain('modular crimp tool, 8: modular crimp tool');
  });

  it('lets a viewer read the card and record nothing', async () => {
    const room = await showRoom(TerminateRoom, { role: 'viewer', detail: nothingDone });
    for (let i = 0; i < 8; i++) await room.press('PageDown');
    expect(room.asked).toEqual([]);
    expect(room.text('.middle h2')).toBe('Strip 40 ± 3 mm of jacket');
  });
});
