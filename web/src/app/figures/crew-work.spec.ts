import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import type { CrewWorkmanship } from '@near-spoke/contracts';
import { workmanship, type MadeEnd } from '@near-spoke/core/workmanship';
import { showRoom } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { CrewWork } from './crew-work';
import { RepeatsTold } from './repeats-told';

const ends: MadeEnd[] = Array.from({ length: 60 }, (_, n) => ({
  linkId: String(n),
  at: new Date(Date.UTC(2026, 10, 2, 8) + n * 6 * 60_000).toISOString(),
  by: n < 20 ? 'Tobi' : 'Marit',
  connector: 'plug',
  lot: n < 20 ? 'b7' : '',
  tool: '',
  spoiled: n === 0 ? 2 : 0,
  tested: true,
  wrong: n < 7 ? 'mirror' : null,
}));
const made = workmanship(ends, () => 4);
const all: CrewWorkmanship = { ...made, told: made.repeats.map(({ key }) => key) };

async function show<C>(component: new () => C, server: FakeServer) {
  TestBed.configureTestingModule({ providers: [server.provider] });
  const room = await showRoom(component, { role: 'lead' });
  await room.settled();
  return room;
}

describe('what repeats', () => {
  it('is told with what it rests on and what helps, and is gone once a lead sees to it', async () => {
    const server = new FakeServer({ workmanship: () => all, tellRepeat: () => ({ ...all, told: [] }) });
    const room = await show(RepeatsTold, server);
    expect(room.text('h2')).toContain('Ends laid mirrored, 7 times in');
    expect(room.text('section')).toContain('7 of 20 that were tested; elsewhere 0 of 40.');
    await (await room.loader.getHarness(MatButtonHarness)).click();
    await room.settled();
    expect(server.sent('tellRepeat')[0]?.body).toEqual({ key: made.repeats[0]?.key, count: 7 });
    expect(room.page.querySelector('section')).toBeNull();
  });

  it('stays where it could not be taken down that it was told', async () => {
    const server = new FakeServer({
      workmanship: () => all,
      tellRepeat: () => {
        throw refusal('Try again.');
      },
    });
    const room = await show(RepeatsTold, server);
    await (await room.loader.getHarness(MatButtonHarness)).click();
    await room.settled();
    expect(room.text('[role=alert]')).toContain('Try again.');
    expect(room.page.querySelector('section')).not.toBeNull();
  });
});

describe('the crew’s ends', () => {
  it('are told by name in the order of the alphabet, with rates, their span and what they cost', async () => {
    const room = await show(CrewWork, new FakeServer({ workmanship: () => all }));
    const rows = [...room.page.querySelectorAll('tbody tr')].map((row) =>
      [...row.querySelectorAll('th, td')].map((cell) => cell.textContent?.trim()),
    );
    expect(rows.map(([name]) => name)).toEqual(['Marit', 'Tobi']);
    expect(rows[1]?.slice(1, 4)).toEqual(['20', '20', '65 %']);
    expect(rows[1]?.[4]).toMatch(/^\d+ to \d+ %$/);
    expect(rows[1]?.slice(5)).toEqual(['2', '36', 'ends laid mirrored (7)']);
  });
});
