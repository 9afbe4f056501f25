import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import type { Role, SharedSheet } from '@near-spoke/contracts';
import { CONNECTOR_TYPES, type ConnectorType } from '@near-spoke/core';
import { SHIPPED_KIT, showRoom, type Room } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { SharedSheets } from './shared-sheets';

const plug = CONNECTOR_TYPES.find(({ id }) => id === 'plug-closed') as ConnectorType;
const shared = (change: Partial<SharedSheet> = {}): SharedSheet => ({
  kind: 'connector',
  id: plug.id,
  version: 3,
  crew: 'Harbour crew',
  own: false,
  at: '2026-11-02T08:00:00.000Z',
  sheet: plug,
  ...change,
});

describe('sheets that crews show each other', () => {
  async function show(
    all: SharedSheet[],
    role: Role = 'lead',
  ): Promise<Room<SharedSheets> & { server: FakeServer }> {
    const server = new FakeServer({
      listSharedSheets: () => all,
      shareSheet: () => [...all, shared({ own: true, version: 1, crew: 'Our crew' })],
      unshareSheet: () => all,
      saveSheet: () => ({ version: 2 }),
      kit: () => SHIPPED_KIT,
    });
    TestBed.configureTestingModule({ providers: [server.provider] });
    const inputs = { open: { kind: 'connector', sheet: plug }, version: 1 };
    return { ...(await showRoom(SharedSheets, { role, inputs })), server };
  }
  const press = async (room: Room<SharedSheets>, text: RegExp): Promise<void> =>
    (await room.loader.getHarness(MatButtonHarness.with({ text }))).click();

  it('are shown by a lead’s choice, and no longer by another', async () => {
    const room = await show([]);
    await press(room, /^Let them see this sheet/);
    expect(room.server.sent('shareSheet')[0]?.body).toEqual({ kind: 'connector', id: 'plug-closed' });
    expect(room.text('section')).toContain('They see version 1 of this sheet.');
    await press(room, /^Show it no longer/);
    expect(room.server.sent('unshareSheet')[0]?.params).toEqual({ kind: 'connector', typeId: 'plug-closed' });
    expect(room.text('section')).toContain('Let them see this sheet');
  });

  it('are taken over as a new one, or after the version that one has', async () => {
    const theirs = { ...plug, id: 'plug-of-theirs', name: 'Plug of theirs' };
    const room = await show(
      [shared(), shared({ id: theirs.id, sheet: theirs, version: 1 }), shared({ kind: 'cable', id: 'rg6' })],
      'technician',
    );
    expect(room.page.querySelectorAll('li').length).toBe(2);
    await press(room, /^Take over, as our version 2/);
    await press(room, /^Take over: Plug of theirs/);
    expect(room.server.sent('saveSheet').map(({ body }) => body)).toEqual([
      { kind: 'connector', version: 1, sheet: plug },
      { kind: 'connector', version: 0, sheet: theirs },
    ]);
  });

  it('are no matter to who leads none and is shown none', async () => {
    expect((await show([], 'viewer')).page.querySelector('section')).toBeNull();
  });
});
