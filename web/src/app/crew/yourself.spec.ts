import { TestBed } from '@angular/core/testing';
import type { OwnSession } from '@near-spoke/contracts';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { Yourself } from './yourself';

const session = (id: string, here: boolean): OwnSession => ({
  id,
  begun: '2026-03-02T08:00:00.000Z',
  until: '2026-03-16T08:00:00.000Z',
  here,
});

async function show(
  answers: FakeServer['answers'] = {},
): Promise<{ room: Room<Yourself>; server: FakeServer }> {
  let sessions = [session('aaaaaaaaaaaaaaaa', true), session('bbbbbbbbbbbbbbbb', false)];
  const server = new FakeServer({
    ownSessions: () => sessions,
    endOwnSession: ({ params }) => (sessions = sessions.filter(({ id }) => id !== params?.['sessionId'])),
    changeOwnPassphrase: () => (sessions = sessions.filter(({ here }) => here)),
    ...answers,
  });
  TestBed.configureTestingModule({ providers: [server.provider] });
  return { room: await showRoom(Yourself, { role: 'technician' }), server };
}
async function fill(room: Room<Yourself>, texts: Record<string, string>): Promise<void> {
  for (const [name, text] of Object.entries(texts)) {
    const field = room.page.querySelector(`[formcontrolname="${name}"]`) as HTMLInputElement;
    field.value = text;
    field.dispatchEvent(new Event('input'));
  }
  (room.page.querySelector('form button') as HTMLButtonElement).click();
  await room.fixture.whenStable();
}
const said = (room: Room<Yourself>): string => room.text('form > p');
const NEW = 'another four short words';

describe('one’s own passphrase', () => {
  it('is changed with the old one, which ends the other sessions', async () => {
    const { room, server } = await show();
    expect(room.page.querySelectorAll('li').length).toBe(2);
    await fill(room, { old: 'old words of mine', next: NEW, again: NEW });
    expect(server.sent('changeOwnPassphrase').map(({ body }) => body)).toEqual([
      { old: 'old words of mine', next: NEW },
    ]);
    expect(said(room)).toContain('Changed');
    expect(room.page.querySelectorAll('li').length).toBe(1);
    expect((room.page.querySelector('[formcontrolname="next"]') as HTMLInputElement).value).toBe('');
  });

  it('is asked for again where something is missing, short or not the same, in words, and nothing is sent', async () => {
    const { room, server } = await show();
    await fill(room, { old: '', next: NEW, again: NEW });
    expect(said(room)).toContain('that you have now');
    await fill(room, { old: 'old words of mine', next: 'short', again: 'short' });
    expect(said(room)).toContain('at least 12 characters');
    await fill(room, { next: NEW, again: `${NEW}!` });
    expect(said(room)).toContain('not the same');
    expect(server.sent('changeOwnPassphrase')).toEqual([]);
  });

  it('keeps what was typed where the old one is wrong', async () => {
    const { room } = await show({
      changeOwnPassphrase: () => {
        throw refusal('old: This is not the passphrase that you have now.', 422);
      },
    });
    await fill(room, { old: 'wrong words', next: NEW, again: NEW });
    expect(room.text('ns-problem-note')).toContain('not the passphrase that you have now');
    expect((room.page.querySelector('[formcontrolname="next"]') as HTMLInputElement).value).toBe(NEW);
  });

  it('lets a session elsewhere be ended, and never the one in hand', async () => {
    const { room, server } = await show();
    const buttons = room.page.querySelectorAll<HTMLButtonElement>('li button');
    expect(buttons.length).toBe(1);
    buttons[0]?.click();
    await room.fixture.whenStable();
    expect(server.sent('endOwnSession')[0]?.params).toEqual({ sessionId: 'bbbbbbbbbbbbbbbb' });
    expect(room.page.querySelectorAll('li').length).toBe(1);
    expect(room.text('li')).toContain('here');
  });
});
