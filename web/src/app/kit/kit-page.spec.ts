import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Kit, KitFile, NewSheet, Role } from '@near-spoke/contracts';
import { CONNECTOR_TYPES, type ConnectorType } from '@near-spoke/core';
import { SHIPPED_KIT, showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { KitPage } from './kit-page';

/** A server that keeps sheets as further versions, and refuses one that was opened before the last. */
class KitServer extends FakeServer {
  now: Kit = SHIPPED_KIT;

  constructor() {
    super({
      kit: () => this.now,
      kitVersions: ({ params }) => this.versionsOf(params?.['typeId'] ?? ''),
      spoilCounts: () => [
        { connectorTypeId: 'plug-closed', by: 'Tobi', good: 38, spoiled: 2 },
        { connectorTypeId: 'plug-closed', by: 'Marit', good: 10, spoiled: 5 },
        { connectorTypeId: 'coax-f', by: 'Tobi', good: 1, spoiled: 1 },
      ],
      saveSheet: ({ body }) => this.keep(body as NewSheet),
      importKit: () => ({ added: 1, changed: 2, same: 3 }),
    });
  }

  private versionsOf(id: string): object[] {
    const sheet = this.now.connectors.find((one) => one.id === id);
    const latest = this.now.versions.connector[id] ?? 1;
    return Array.from({ length: latest }, (_, i) => ({
      kind: 'connector',
      id,
      version: latest - i,
      at: '2026-11-01T08:00:00.000Z',
      by: i === latest - 1 ? null : 'Ines',
      sheet: i === 0 ? sheet : CONNECTOR_TYPES.find((one) => one.id === id),
    }));
  }

  private keep({ version, sheet }: NewSheet): object {
    const before = this.now.versions.connector[sheet.id] ?? 0;
    if (before !== version) throw refusal('Changed by Ines since you opened it.');
    const connectors = [...this.now.connectors.filter((one) => one.id !== sheet.id), sheet as ConnectorType];
    const versions = {
      ...this.now.versions,
      connector: { ...this.now.versions.connector, [sheet.id]: version + 1 },
    };
    this.now = { ...this.now, connectors, versions };
    return { kind: 'connector', id: sheet.id, version: version + 1, at: '', by: 'Me', sheet };
  }
}

async function show(
  server: FakeServer,
  inputs: Record<string, string> = { kind: 'connector', typeId: 'plug-closed' },
  role: Role = 'technician',
): Promise<Room<KitPage>> {
  TestBed.configureTestingModule({ providers: [server.provider, provideRouter([])] });
  const room = await showRoom(KitPage, { inputs, role });
  await room.settled();
  return room;
}
async function type(room: Room<KitPage>, selector: string, text: string, event = 'input'): Promise<void> {
  const field = room.page.querySelector(selector) as HTMLInputElement;
  field.value = text;
  field.dispatchEvent(new Event(event));
  await room.fixture.whenStable();
}
function button(room: Room<KitPage>, words: string): HTMLButtonElement | undefined {
  const all = [...room.page.querySelectorAll<HTMLButtonElement>('button')];
  return all.find((one) => one.textContent?.trim().startsWith(words));
}
async function click(room: Room<KitPage>, words: string): Promise<void> {
  const found = button(room, words);
  if (!found) throw new Error(`No button "${words}".`);
  found.click();
  await room.settled();
}
async function open(room: Room<KitPage>, typeId: string): Promise<void> {
  room.fixture.componentRef.setInput('typeId', typeId);
  await room.settled();
}
const STRIP = 'input[id="strip.jacketMm"]';
const strip = (room: Room<KitPage>): string => (room.page.querySelector(STRIP) as HTMLInputElement).value;
const listed = (room: Room<KitPage>): string[] =>
  [...room.page.querySelectorAll('.list li a')].map(
    (one) => one.textContent?.replace(/\s+/g, ' ').trim() ?? '',
  );

describe('the kit', () => {
  it('lists one kind, found by name, and opens the sheet that the address names', async () => {
    const room = await show(new KitServer());
    expect(listed(room).length).toBe(CONNECTOR_TYPES.length);
    expect(room.text('.edit h2')).toBe(
      CONNECTOR_TYPES.find((one) => one.id === 'plug-closed')?.name as string,
    );
    await type(room, 'input[type="search"]', 'no such thing');
    expect(room.text('.list ul')).toBe('Nothing of that name.');
    await open(room, 'not-there-at-all');
    expect(room.text('.edit')).toBe('There is no such sheet. Choose one at the left.');
  });

  it('keeps a changed figure as the next version, and says so', async () => {
    const server = new KitServer();
    const room = await show(server);
    expect(button(room, 'Keep as version')).toBeUndefined();
    await type(room, STRIP, '31');
    await click(room, 'Keep as version 2');
    const sent = server.sent('saveSheet')[0]?.body as NewSheet;
    expect([sent.version, (sent.sheet as ConnectorType).strip.jacketMm, sent.sheet.source]).toEqual([
      1,
      31,
      'sheet',
    ]);
    expect(room.text('[role="status"]')).toContain('is kept as version 2');
    expect(room.ways).toEqual(['/kit/connector/plug-closed']);
    expect(strip(room)).toBe('31');
  });

  it('has what was typed again when another sheet was looked at in between', async () => {
    const room = await show(new KitServer());
    await type(room, STRIP, '31');
    await open(room, 'coax-f');
    expect(listed(room).filter((words) => words.includes('changed, not kept')).length).toBe(1);
    await open(room, 'plug-closed');
    expect(strip(room)).toBe('31');
    await click(room, 'Undo');
    expect(strip(room)).not.toBe('31');
    expect(listed(room).some((words) => words.includes('not kept'))).toBeFalse();
  });

  it('keeps what was typed where another was quicker', async () => {
    const server = new KitServer();
    const room = await show(server);
    await type(room, STRIP, '31');
    server.now = { ...server.now, versions: { ...server.now.versions, connector: { 'plug-closed': 2 } } };
    await click(room, 'Keep as version 2');
    expect(room.text('ns-problem-note')).toContain('Changed by Ines since you opened it.');
    expect(strip(room)).toBe('31');
  });

  it('copies a sheet under a new name, which must be new', async () => {
    const server = new KitServer();
    const room = await show(server);
    await click(room, 'Copy as a new one');
    // Found or not by the search, a name that is taken is taken.
    await type(room, 'input[type="search"]', 'plug');
    await type(room, '.id input', 'coax-f');
    expect(room.text('.id .wrong')).toBe('There is a sheet of this name already.');
    expect(button(room, 'Keep the new sheet')?.disabled).toBeTrue();
    await type(room, '.id input', 'plug-ours');
    await click(room, 'Keep the new sheet');
    const sent = server.sent('saveSheet')[0]?.body as NewSheet;
    expect([sent.version, sent.sheet.id]).toEqual([0, 'plug-ours']);
    expect(room.ways).toEqual(['/kit/connector/plug-ours']);
  });

  it('keeps nothing while a figure makes no sense', async () => {
    const room = await show(new KitServer());
    await type(room, STRIP, '-3');
    expect(button(room, 'Keep as version')?.disabled).toBeTrue();
    expect(room.page.querySelector(`label[for="strip.jacketMm"].bad`)).not.toBeNull();
  });

  it('goes back to an older version by keeping it anew', async () => {
    const server = new KitServer();
    const room = await show(server);
    const shipped = strip(room);
    await type(room, STRIP, '31');
    await click(room, 'Keep as version 2');
    await click(room, 'Version 1');
    expect(strip(room)).toBe(shipped);
    await click(room, 'Keep as version 3');
    expect((server.sent('saveSheet')[1]?.body as NewSheet).version).toBe(2);
  });

  it('counts what is spoiled of this connector, by person, with how sure that is', async () => {
    const room = await show(new KitServer());
    const rows = [...room.page.querySelectorAll('aside table tbody tr')].map((row) =>
      [...row.children].map((cell) => cell.textContent?.trim()),
    );
    expect(rows.map(([by, good, spoiled]) => [by, good, spoiled])).toEqual([
      ['The crew', '48', '7'],
      ['Tobi', '38', '2'],
      ['Marit', '10', '5'],
    ]);
    for (const row of rows) expect(row[3]).toMatch(/^\d+ % \(\d+ % to \d+ %\)$/);
  });

  it('takes a file of sheets whole, or says what and where is wrong with it', async () => {
    const server = new KitServer();
    const room = await show(server);
    const give = (text: string): void => {
      const field = room.page.querySelector('.take input') as HTMLInputElement;
      const files = new DataTransfer();
      files.items.add(new File([text], 'kit.json'));
      field.files = files.files;
      field.dispatchEvent(new Event('change'));
    };
    give('{"format":');
    await room.until(() => room.text('ns-problem-note').includes('kit.json: It is not JSON'));
    give('{"format":"something else"}');
    await room.until(() => room.text('ns-problem-note').includes('kit.json: format'));
    expect(server.sent('importKit')).toEqual([]);
    const file: KitFile = {
      format: 'near-spoke/kit',
      formatVersion: 1,
      cables: [],
      connectors: [...CONNECTOR_TYPES].slice(0, 2),
      tools: [],
    } as unknown as KitFile;
    give(`\ufeff${JSON.stringify(file)}`);
    await room.until(() => room.text('[role="status"]') === 'Taken: 1 new, 2 changed, 3 already there.');
  });

  it('is read by a viewer', async () => {
    const room = await show(new KitServer(), { kind: 'connector', typeId: 'plug-closed' }, 'viewer');
    expect(button(room, 'Copy as a new one')).toBeUndefined();
    expect(room.page.querySelector('.take')).toBeNull();
    expect((room.page.querySelector('fieldset.plain') as HTMLFieldSetElement).disabled).toBeTrue();
  });
});
