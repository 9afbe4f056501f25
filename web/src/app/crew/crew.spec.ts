import { TestBed } from '@angular/core/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { CrewHands, CrewMember, InstrumentsAtHand, Role } from '@near-spoke/contracts';
import { USUAL_HANDS } from '@near-spoke/core';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { CrewPage } from './crew-page';

const person = (name: string, role: Role, active = true): CrewMember => ({
  id: name.toLowerCase(),
  name,
  role,
  active,
  version: 3,
});

/** A server with a crew of two, that changes what it is told to. */
function crewServer(): FakeServer {
  let people = [person('Ines', 'lead'), person('Tobi', 'technician')];
  let atHand: InstrumentsAtHand = { owned: null, version: 0 };
  let hands: CrewHands = { hands: null, version: 0 };
  return new FakeServer({
    listCrew: () => people,
    changeCrew: ({ params, body }) =>
      (people = people.map((one) =>
        one.id === params?.['crewId'] ? { ...one, ...(body as Partial<CrewMember>) } : one,
      )),
    ownSessions: () => [],
    readAtHand: () => atHand,
    keepAtHand: ({ body }) =>
      (atHand = { owned: (body as InstrumentsAtHand).owned, version: atHand.version + 1 }),
    readHands: () => hands,
    keepHands: ({ body }) => (hands = { hands: (body as CrewHands).hands, version: hands.version + 1 }),
    addCrew: ({ body }) => (people = [...people, { ...(body as CrewMember), active: true, version: 1 }]),
  });
}
async function show(server: FakeServer, role: Role = 'lead'): Promise<Room<CrewPage>> {
  TestBed.configureTestingModule({ providers: [server.provider] });
  return showRoom(CrewPage, { role });
}
async function fill(room: Room<CrewPage>, name: string, text: string): Promise<void> {
  const field = room.page.querySelector(`[formcontrolname="${name}"]`) as HTMLInputElement;
  field.value = text;
  field.dispatchEvent(new Event('input'));
  await room.fixture.whenStable();
}
const add = (room: Room<CrewPage>): HTMLButtonElement =>
  room.page.querySelector('form button') as HTMLButtonElement;
const names = (room: Room<CrewPage>): string[] =>
  [...room.page.querySelectorAll('li.sheet strong')].map((one) => one.textContent ?? '');

describe('the crew', () => {
  it('has its roles changed by the lead, each by its own version', async () => {
    const server = crewServer();
    const room = await show(server);
    const [, tobi] = await room.loader.getAllHarnesses(MatSelectHarness);
    await tobi?.clickOptions({ text: 'viewer' });
    expect(server.sent('changeCrew')[0]).toEqual({
      id: 'changeCrew',
      params: { crewId: 'tobi' },
      body: { version: 3, role: 'viewer' },
    });
    expect(await tobi?.getValueText()).toBe('viewer');
  });

  it('has an account closed and opened again, and loses nobody', async () => {
    const server = crewServer();
    const room = await show(server);
    const button = (): HTMLButtonElement =>
      room.page.querySelectorAll('li')[1]?.querySelector('button') as HTMLButtonElement;
    button().click();
    await room.fixture.whenStable();
    expect(button().textContent?.trim()).toBe('Open it again');
    button().click();
    await room.fixture.whenStable();
    expect(server.sent('changeCrew').map((one) => (one.body as CrewMember).active)).toEqual([false, true]);
    expect(names(room)).toEqual(['Ines', 'Tobi']);
  });

  it('shows why it keeps its lead, and the crew as it is', async () => {
    const server = crewServer();
    server.answers.changeCrew = () => {
      throw refusal('The last lead cannot be closed: make somebody else lead first.', 422);
    };
    const room = await show(server);
    (room.page.querySelector('li button') as HTMLButtonElement).click();
    await room.fixture.whenStable();
    expect(room.text('ns-problem-note')).toContain('make somebody else lead first');
    expect(room.text('li button')).toBe('Close the account');
  });

  it('takes a new person once, however often the answer is lost', async () => {
    const server = crewServer();
    const keep = server.answers.addCrew;
    server.answers.addCrew = () => {
      throw refusal('No answer', 0);
    };
    const room = await show(server);
    await fill(room, 'name', 'Marit');
    await fill(room, 'passphrase', 'short');
    expect(add(room).disabled).toBeTrue();
    await fill(room, 'passphrase', 'a tide that waits');
    add(room).click();
    await room.fixture.whenStable();
    expect(room.text('ns-problem-note')).toContain('No answer');
    server.answers.addCrew = keep as NonNullable<typeof keep>;
    add(room).click();
    await room.fixture.whenStable();
    const [lost, kept] = server.sent('addCrew').map((one) => (one.body as { id: string }).id);
    expect(kept).toBe(lost as string);
    expect(names(room)).toEqual(['Ines', 'Tobi', 'Marit']);
    expect((room.page.querySelector('[formcontrolname="name"]') as HTMLInputElement).value).toBe('');
  });

  it('is read by a technician', async () => {
    const room = await show(crewServer(), 'technician');
    expect(names(room)).toEqual(['Ines', 'Tobi']);
    expect(room.page.querySelector('form.sheet')).toBeNull();
    expect(room.page.querySelector('li.sheet button')).toBeNull();
  });

  it('says so when it cannot be read', async () => {
    const room = await show(new FakeServer({}));
    expect(room.text('ns-problem-note')).toContain('Nobody answers listCrew.');
  });
});

describe('the instruments that a crew has', () => {
  const keep = (room: Room<CrewPage>): HTMLButtonElement =>
    [...room.page.querySelectorAll('ns-at-hand button')].find((one) =>
      one.textContent?.includes('Keep it'),
    ) as HTMLButtonElement;

  it('are all ticked until somebody says otherwise, and kept when they are changed', async () => {
    const server = crewServer();
    const room = await show(server);
    await room.settled();
    const boxes = await room.loader.getAllHarnesses(MatCheckboxHarness);
    expect(await Promise.all(boxes.map((box) => box.isChecked()))).toEqual(boxes.map(() => true));
    for (const box of boxes) if (/reflectometer/.test((await box.getLabelText()) ?? '')) await box.uncheck();
    expect(keep(room).disabled).toBeFalse();
    keep(room).click();
    await room.settled();
    const [sent] = server.sent('keepAtHand');
    const { owned, version } = sent?.body as InstrumentsAtHand;
    expect(version).toBe(0);
    expect(owned).toContain('coded-mapper');
    expect(owned).not.toContain('pair-reflectometer');
    expect(room.text('ns-at-hand')).toContain('Kept.');
    expect(keep(room).disabled).toBeTrue();
  });

  it('are read by a technician, who changes nothing', async () => {
    const server = crewServer();
    server.answers.readAtHand = () => ({ owned: ['beeper'], version: 2 });
    const room = await show(server, 'technician');
    await room.settled();
    expect(room.text('ns-at-hand')).toContain('continuity beeper');
    expect((await room.loader.getAllHarnesses(MatCheckboxHarness)).length).toBe(0);
  });
});

describe('the hands of a crew', () => {
  const fields = (room: Room<CrewPage>): HTMLInputElement[] => [
    ...room.page.querySelectorAll<HTMLInputElement>('ns-hands-at-work input'),
  ];
  const button = (room: Room<CrewPage>, words: string): HTMLButtonElement | undefined =>
    [...room.page.querySelectorAll<HTMLButtonElement>('ns-hands-at-work button')].find((one) =>
      one.textContent?.includes(words),
    );
  const type = async (room: Room<CrewPage>, n: number, text: string): Promise<void> => {
    const field = fields(room)[n] as HTMLInputElement;
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await room.settled();
  };

  it('cost the usual seconds until a lead says otherwise, and those again when they like', async () => {
    const server = crewServer();
    const room = await show(server);
    await room.settled();
    expect(fields(room).map(({ value }) => Number(value))).toEqual(Object.values(USUAL_HANDS));
    expect(button(room, 'Keep them')?.disabled).toBeTrue();
    await type(room, 1, '2,5');
    button(room, 'Keep them')?.click();
    await room.settled();
    expect(server.sent('keepHands')[0]?.body).toEqual({ hands: { ...USUAL_HANDS, oneS: 2.5 }, version: 0 });
    expect(room.text('ns-hands-at-work')).toContain('Kept.');
    button(room, 'The usual figures again')?.click();
    await room.settled();
    expect(server.sent('keepHands')[1]?.body).toEqual({ hands: null, version: 1 });
    expect(Number(fields(room)[1]?.value)).toBe(USUAL_HANDS.oneS);
  });

  it('are never free, nor slower than anybody is', async () => {
    const room = await show(crewServer());
    await room.settled();
    for (const text of ['0', '1000', '-3', 'quick']) {
      await type(room, 0, text);
      expect(button(room, 'Keep them')?.disabled).withContext(text).toBeTrue();
    }
  });

  it('are read by a technician', async () => {
    const room = await show(crewServer(), 'technician');
    await room.settled();
    expect(fields(room).length).toBe(0);
    expect(room.text('ns-hands-at-work')).toContain('One probe to another contact: 1.8 s');
  });
});
