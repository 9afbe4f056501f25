import { TestBed } from '@angular/core/testing';
import { expectTold, linkAsTold, observe, type ToldFault } from '@near-spoke/core';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { Practice } from './practice';

const plan = {
  cable: 'cat6-u',
  scheme: 'T568B' as const,
  lengthM: 32,
  near: 'jack-punched',
  far: 'plug-closed',
};

/** A server whose practice link has these faults. */
function practiceServer(faults: ToldFault[]): FakeServer {
  const link = linkAsTold(expectTold(plan), faults);
  return new FakeServer({
    beginPractice: () => ({ practiceId: 'p1' }),
    readPractice: ({ body }) => {
      const { instrument, end } = body as { instrument: Parameters<typeof observe>[1]; end: 'near' | 'far' };
      return { reading: observe(link, instrument, { end }), instrumentName: 'x' };
    },
    revealPractice: () => ({ faults }),
  });
}
async function show(server: FakeServer): Promise<Room<Practice>> {
  TestBed.configureTestingModule({ providers: [server.provider] });
  return showRoom(Practice);
}
async function click(room: Room<Practice>, words: string): Promise<void> {
  const buttons = [...room.page.querySelectorAll<HTMLButtonElement>('button')];
  const button = buttons.find((one) => one.textContent?.trim() === words);
  if (!button) throw new Error(`No button "${words}".`);
  button.click();
  await room.settled();
}
const seen = (room: Room<Practice>): string[] =>
  [...room.page.querySelectorAll('ol li')].map((one) => one.textContent?.replace(/\s+/g, ' ').trim() ?? '');

describe('practising on a broken link', () => {
  const exchanged: ToldFault = {
    kind: 'wired',
    end: 'far',
    order: ['OG', 'WH-OG', 'WH-GN', 'BU', 'WH-BU', 'GN', 'WH-BN', 'BN'],
  };

  it('shows what each look shows, counts its minutes, and takes the right answer', async () => {
    const server = practiceServer([exchanged]);
    const room = await show(server);
    await click(room, 'Break a link for me');
    expect(server.sent('beginPractice')[0]?.body).toEqual(
      jasmine.objectContaining({ count: 1, noise: false, plan: { ...plan } }),
    );
    await click(room, 'Mapper');
    expect(seen(room)[0]).toContain('1 and 2 exchanged');
    const minutes = (): number => Number(room.text('p.small .figure'));
    const one = minutes();
    await click(room, 'Far colours');
    expect(minutes()).toBeGreaterThan(one);
    expect(seen(room).length).toBe(2);
    await click(room, 'far end');
    await click(room, 'That is my answer');
    expect(room.text('[role="status"] strong')).toBe('Right.');
    expect(room.text('[role="status"] li')).toBe(
      'the far end carries, from its first contact on: OG, WH-OG, WH-GN, BU, WH-BU, GN, WH-BN, BN',
    );
  });

  it('does not let an answer be changed once the truth is told', async () => {
    const room = await show(practiceServer([exchanged]));
    await click(room, 'Break a link for me');
    await click(room, 'near end');
    await click(room, 'That is my answer');
    expect(room.text('[role="status"] strong')).toBe('Not so.');
    const places = [...room.page.querySelectorAll<HTMLButtonElement>('.places button')];
    expect(places.every((button) => button.disabled)).toBeTrue();
    await click(room, 'Break a link for me');
    expect(room.page.querySelector('[role="status"]')).toBeNull();
    expect(places.every((button) => button.disabled)).toBeFalse();
  });

  it('takes "nothing" for an answer where nothing is wrong, and everything needed where more is', async () => {
    const nothing = await show(practiceServer([]));
    await click(nothing, 'Break a link for me');
    await click(nothing, 'That is my answer');
    expect(nothing.text('[role="status"]')).toContain('Right. Nothing was wrong.');
    TestBed.resetTestingModule();
    const two = await show(practiceServer([exchanged, { kind: 'broken', conductor: 'BN', atM: 9 }]));
    await click(two, 'Break a link for me');
    await click(two, 'far end');
    await click(two, 'That is my answer');
    expect(two.text('[role="status"] strong')).toBe('Not so.');
  });

  it('hints at the next look only when it is asked to', async () => {
    const room = await show(practiceServer([exchanged]));
    await click(room, 'Break a link for me');
    await click(room, 'Mapper');
    expect(room.text('p.small')).not.toContain('would now');
    await click(room, 'What would you look at next?');
    expect(room.text('p.small')).toMatch(/Near Spoke would now: .*colours/);
  });

  it('says why there is none', async () => {
    const server = practiceServer([]);
    server.answers.beginPractice = () => {
      throw refusal('The instruments’ service does not run.', 503);
    };
    const room = await show(server);
    await click(room, 'Break a link for me');
    expect(room.text('ns-problem-note')).toContain('does not run');
    expect(room.page.querySelector('.looks')).toBeNull();
  });
});
