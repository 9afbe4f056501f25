import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { Invitation, OwnCrew, Role } from '@near-spoke/contracts';
import { LOAD_ANEW } from '../session/other-crew';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { signedInAs } from '../testing/sessions';
import { Crews } from './crews';

const HARBOUR: OwnCrew = { id: 'h', name: 'Harbour crew', role: 'technician', version: 4 };
const me = { id: 'me', name: 'Me', role: 'lead' as const, active: true, version: 1 };
const invitation = (change: Partial<Invitation> = {}): Invitation => ({
  id: 'i',
  role: 'technician',
  by: 'Me',
  at: '2026-11-02T08:00:00.000Z',
  expiresAt: '2026-11-09T08:00:00.000Z',
  usedBy: null,
  ...change,
});

describe('the crews that one works in', () => {
  async function show(
    answers: FakeServer['answers'] = {},
    role: Role = 'lead',
  ): Promise<Room<Crews> & { server: FakeServer; paths: string[]; press(text: string): Promise<void> }> {
    const server = new FakeServer({ listInvitations: () => [], ...answers });
    const paths: string[] = [];
    TestBed.configureTestingModule({
      providers: [server.provider, { provide: LOAD_ANEW, useValue: (path: string) => paths.push(path) }],
    });
    const room = await showRoom(Crews, { role, crews: [HARBOUR] });
    const press = async (text: string): Promise<void> =>
      (await room.loader.getHarness(MatButtonHarness.with({ text }))).click();
    return { ...room, server, paths, press };
  }
  const field = async (room: Room<Crews>, label: RegExp): Promise<MatInputHarness> =>
    room.loader.getHarness(MatInputHarness.with({ label }));

  it('are listed with what one is there, and gone on in with the page loaded anew', async () => {
    const room = await show({ workInCrew: () => signedInAs(me) });
    const lines = [...room.page.querySelectorAll('li')].map((one) =>
      one.textContent?.replace(/\s+/g, ' ').trim(),
    );
    expect(lines).toEqual(['Harbour crew as technician Go on in Harbour crew', 'Our crew as leadhere now']);
    await room.press('Go on in Harbour crew');
    await room.until(() => room.paths.length > 0);
    expect(room.server.sent('workInCrew').map(({ body }) => body)).toEqual([{ crew: 'h' }]);
    expect(room.paths).toEqual(['/jobs']);
  });

  it('are come into by a code; one that opens nothing says so, and stays to be mended', async () => {
    let opens = false;
    const room = await show({
      joinCrew: () => {
        if (!opens) throw refusal('This code opens no crew, or no longer.', 422);
        return signedInAs(me);
      },
    });
    const code = await field(room, /^Code of another crew/);
    await code.setValue('ABCD-EFGH-JKMN');
    await room.press('Come in by it');
    await room.until(() => room.text('ns-problem-note').includes('opens no crew'));
    expect(room.paths).toEqual([]);
    expect(await code.getValue()).toBe('ABCD-EFGH-JKMN');
    opens = true;
    await room.press('Come in by it');
    await room.until(() => room.paths.length > 0);
    expect(room.server.sent('joinCrew').map(({ body }) => body)).toEqual(
      Array.from({ length: 2 }, () => ({ code: 'ABCD-EFGH-JKMN' })),
    );
  });

  it('are invited into by a code that is told once and can be taken back', async () => {
    const made = invitation({ role: 'viewer' });
    const room = await show({
      listInvitations: () => [invitation({ id: 'u', usedBy: 'Rosa' })],
      addInvitation: () => ({ code: 'QRST-UVWX-YZ23', invitation: made }),
      endInvitation: () => [],
    });
    expect(room.text('section')).toContain('Came in by a code: Rosa.');
    const role = await room.loader.getHarness(MatSelectHarness);
    await role.clickOptions({ text: 'viewer' });
    await room.press('Make a code');
    expect((room.server.sent('addInvitation')[0]?.body as { role: Role }).role).toBe('viewer');
    expect(room.text('code')).toBe('QRST-UVWX-YZ23');
    expect(room.text('.made')).toContain('It lets one person in as viewer');
    await (await room.loader.getHarness(MatButtonHarness.with({ text: /^Take it back/ }))).click();
    expect(room.page.querySelector('code')).toBeNull();
    expect(room.page.querySelector('[aria-label="Codes that nobody has used yet"]')).toBeNull();
  });

  it('are called otherwise and founded by leads, under one id until it is there', async () => {
    let fails = true;
    const room = await show({
      renameCrew: () => ({
        ...signedInAs(me),
        crews: [{ ...signedInAs(me).crews[0], name: 'Tide crew', version: 2 }],
      }),
      foundCrew: () => {
        if (fails) throw refusal('No answer', 0);
        return signedInAs(me, 't', [HARBOUR, { id: 'n', name: 'Night crew', role: 'lead', version: 1 }]);
      },
    });
    const name = await field(room, /^What the crew is called/);
    expect(await name.getValue()).toBe('Our crew');
    await (await field(room, /^What it is called/)).setValue('Night crew');
    await room.press('Found it');
    fails = false;
    await room.press('Found it');
    const ids = room.server.sent('foundCrew').map(({ body }) => (body as { id: string }).id);
    expect(ids[0]).toBe(ids[1]);
    expect(room.text('ul')).toContain('Night crew');
    await name.setValue('Tide crew');
    await room.press('Call it so');
    expect(room.server.sent('renameCrew')[0]?.body).toEqual({ name: 'Tide crew', version: 1 });
    expect(room.text('ul')).toContain('Tide crew');
  });

  it('are no more than listed and come into by who leads none', async () => {
    const room = await show({}, 'technician');
    expect(room.server.sent('listInvitations')).toEqual([]);
    expect([...room.page.querySelectorAll('button')].map((one) => one.textContent?.trim())).toEqual([
      'Go on in Harbour crew',
      'Come in by it',
    ]);
  });
});
