import { TestBed } from '@angular/core/testing';
import type { KitVersion, NewSheet } from '@near-spoke/contracts';
import { CONNECTOR_TYPES, type ConnectorType } from '@near-spoke/core';
import { SHIPPED_KIT, showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { BagFigures } from './bag-figures';

const connector = CONNECTOR_TYPES.find(
  ({ parts, strip }) => parts.length > 0 && strip.jacketMm > 0,
) as ConnectorType;

async function show(
  server: FakeServer,
  units: 'metric' | 'imperial' = 'metric',
): Promise<{ room: Room<BagFigures>; left: () => number }> {
  TestBed.configureTestingModule({ providers: [server.provider] });
  const room = await showRoom(BagFigures, { inputs: { connector, units } });
  let count = 0;
  room.fixture.componentInstance.left.subscribe(() => (count += 1));
  return { room, left: () => count };
}
async function write(room: Room<BagFigures>, label: string, text: string): Promise<void> {
  const all = [...room.page.querySelectorAll('label')];
  const field = all.find((one) => one.textContent?.trim().startsWith(label))?.querySelector('input');
  (field as HTMLInputElement).value = text;
  field?.dispatchEvent(new Event('input'));
  await room.fixture.whenStable();
}
async function keep(room: Room<BagFigures>): Promise<void> {
  room.page.querySelector('form')?.dispatchEvent(new Event('submit'));
  await room.settled();
}
const saver = (): FakeServer =>
  new FakeServer({
    saveSheet: ({ body }) => ({ ...(body as NewSheet), version: 2 }) as unknown as KitVersion,
    kit: () => SHIPPED_KIT,
  });
const sent = (server: FakeServer): ConnectorType =>
  (server.sent('saveSheet')[0]?.body as NewSheet).sheet as ConnectorType;

describe('the figures of the sheet in the bag', () => {
  it('become the next version of the connector, marked as from a sheet', async () => {
    const server = saver();
    const { room, left } = await show(server);
    await write(room, 'Jacket off', '21.5');
    await keep(room);
    expect(sent(server).strip).toEqual({ ...connector.strip, jacketMm: 21.5 });
    expect(sent(server).source).toBe('sheet');
    expect((server.sent('saveSheet')[0]?.body as NewSheet).version).toBe(1);
    expect(left()).toBe(1);
  });

  it('may be in inches, and are kept in millimetres', async () => {
    const server = saver();
    const { room } = await show(server, 'imperial');
    expect(room.text('p')).toContain('In inches.');
    await write(room, 'Jacket off', '0.75');
    await keep(room);
    expect(sent(server).strip.jacketMm).toBeCloseTo(19.05, 6);
    // What was not touched is not rounded on its way through inches.
    expect(sent(server).parts).toEqual(connector.parts);
  });

  it('widen a part with its bore: the wall stays as thick', async () => {
    const server = saver();
    const { room } = await show(server);
    const [part] = connector.parts;
    await write(room, `Bore of the ${part?.name}`, String((part?.boreMm ?? 0) + 1));
    await keep(room);
    const kept = sent(server).parts[0];
    expect((kept?.outsideMm ?? 0) - (kept?.boreMm ?? 0)).toBeCloseTo(
      (part?.outsideMm ?? 0) - (part?.boreMm ?? 0),
      9,
    );
    expect(kept?.boreMm).toBe((part?.boreMm ?? 0) + 1);
  });

  it('are not kept while one of them is none', async () => {
    const { room } = await show(saver());
    const button = room.page.querySelector('form button') as HTMLButtonElement;
    for (const odd of ['', '0', '-2']) {
      await write(room, 'Jacket off', odd);
      expect(button.disabled).withContext(odd).toBeTrue();
    }
    await write(room, 'Jacket off', '20');
    expect(button.disabled).toBeFalse();
  });

  it('stay typed where they could not be kept', async () => {
    const server = new FakeServer({
      saveSheet: () => {
        throw refusal('Changed by Ines since you opened it.');
      },
    });
    const { room, left } = await show(server);
    await write(room, 'Jacket off', '21.5');
    await keep(room);
    expect(room.text('ns-problem-note')).toContain('Changed by Ines');
    expect(left()).toBe(0);
    expect((room.page.querySelector('input') as HTMLInputElement).value).toBe('21.5');
  });
});
