import { MatButtonHarness } from '@angular/material/button/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { TestBed } from '@angular/core/testing';
import type { ReelRecord } from '@near-spoke/contracts';
import { AdapterBench } from '../adapters/adapter-bench';
import { JobEvents } from '../jobs/jobs.state';
import { SHIPPED_KIT, showRoom, type Room } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { keepDraft, lastDraft } from './cord-draft';
import { CordsPage } from './cords-page';

describe('cords in a batch', () => {
  const box = (lengthM: number): ReelRecord => ({
    id: 'box',
    name: 'Box C',
    kind: 'box',
    cableTypeId: 'cord-26',
    lot: '',
    entries: [
      {
        id: 'e1',
        at: '2026-11-01T08:00:00.000Z',
        by: 'Tobi',
        what: 'labelled',
        lengthM,
        u95M: null,
        velocityFactor: null,
        linkId: null,
        linkLabel: null,
        corrects: null,
        words: '',
      },
    ],
  });
  const show = async (
    reels: ReelRecord[] = [],
    pulled: (sent: unknown) => ReelRecord[] = () => reels,
  ): Promise<Room<CordsPage>> => {
    const server = new FakeServer({
      listReels: () => reels,
      listVelocities: () => [],
      listAdapters: () => [],
      pullPieces: ({ body }) => pulled(body),
      spoilCounts: () => [{ connectorTypeId: 'plug-closed', by: 'Me', spoiled: 30, good: 60 }],
    });
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(CordsPage, { role: 'technician' });
    room.store.dispatch(JobEvents.kitRead({ kit: SHIPPED_KIT }));
    await room.settled();
    return room;
  };
  const type = async (room: Room<CordsPage>, name: string, text: string): Promise<void> => {
    const field = room.page.querySelector(
      `[formcontrolname="${name}"] input, input[formcontrolname="${name}"]`,
    ) as HTMLInputElement;
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await room.settled();
  };
  const price = async (room: Room<CordsPage>): Promise<void> => {
    for (const [name, text] of [
      ['currency', 'EUR'],
      ['cablePerM', '0,5'],
      ['nearEach', '0,4'],
      ['hour', '30'],
    ] as const)
      await type(room, name, text);
  };

  it('say what to lay out, with spares by the crew’s own record, before any price is known', async () => {
    const room = await show();
    expect(room.text('#cords-plan')).toContain('With a price for the cable');
    const rows = [...room.page.querySelectorAll('tbody tr')];
    const plugs = rows.find((row) => row.textContent?.includes('8-contact plug'));
    const [needed, bring] = [...(plugs?.querySelectorAll('td') ?? [])].map((cell) =>
      Number(cell.textContent),
    );
    expect(needed).toBe(40);
    // A third of them is spoiled.
    expect(bring).toBeGreaterThan(55);
  });

  it('say what one costs and whether to make or to buy', async () => {
    const room = await show();
    await price(room);
    expect(room.text('dl')).toMatch(/Made, each\s*\d+\.\d\d EUR/);
    await type(room, 'boughtEach', '1');
    expect(room.text('#cords-plan')).toContain('Buy them: made, each costs more than bought');
    await type(room, 'boughtEach', '90');
    expect(room.text('#cords-plan')).toBe('Make them: from 1 on making is cheaper.');
    await type(room, 'once', '100000');
    expect(room.text('#cords-plan')).toContain('Buy them: making is cheaper only from');
    await type(room, 'hour', '0');
    expect(room.text('#cords-plan')).not.toContain('Make them');
  });

  it('are made one after another from here, both sides in one go where they are alike', async () => {
    const room = await show();
    const link = (): string[] =>
      [...room.page.querySelectorAll('a.main-action')].map((one) => one.getAttribute('href') ?? '');
    expect(link()).toEqual([jasmine.stringMatching(/batch=cords&count=20&sides=AB/)]);
    const [, , far] = await room.loader.getAllHarnesses(MatSelectHarness);
    await far?.clickOptions({ text: /pass-through/ });
    expect(link().map((address) => /sides=(\w+)/.exec(address)?.[1])).toEqual(['A', 'B']);
    expect(
      await room.loader.getHarness(MatButtonHarness.with({ text: /Make the ends with .*pass-through/ })),
    ).toBeTruthy();
  });

  it('are cut from what is there, and the cutting goes into the ledgers once', async () => {
    const sent: { pieces: { reelId: string; linkId: null; lengthM: number; words: string }[] }[] = [];
    const room = await show([box(50)], (body) => {
      sent.push(body as (typeof sent)[number]);
      return [box(20)];
    });
    await room.until(() => room.text('ns-cord-cuts li') !== '');
    // 20 pieces of 1.14 m.
    expect(room.text('ns-cord-cuts li')).toMatch(/Box C: 20 pieces, 22\.8 m; 26\.\d m left/);
    (room.page.querySelector('ns-cord-cuts button') as HTMLButtonElement).click();
    await room.until(() => room.text('ns-cord-cuts [role=status]') === 'Written into the ledgers.');
    expect(sent[0]?.pieces.map(({ reelId, linkId, words }) => [reelId, linkId, words])).toEqual([
      ['box', null, '20 cords'],
    ]);
    expect(sent[0]?.pieces[0]?.lengthM).toBeCloseTo(22.8, 6);
    await type(room, 'count', '30');
    await room.until(() => room.text('ns-cord-cuts [role=status]').includes('do not come off the'));
  });

  it('are proved one by one as leads from contact to contact, by the scheme of either end', async () => {
    const room = await show();
    await (
      await room.loader.getHarness(MatSelectHarness.with({ ancestor: '.wired' }))
    ).clickOptions({
      text: /crossed/,
    });
    await (await room.loader.getHarness(MatButtonHarness.with({ text: /Prove them/ }))).click();
    await room.until(() => room.ways.some((way) => way.startsWith('/bench/adapters/')));
    const draft = TestBed.inject(AdapterBench).draft();
    expect(draft?.name).toMatch(/^cords: Cord, 8-contact plug/);
    expect(draft?.joins.map(({ from, to }) => `${from.contact}-${to.contact}`).sort().slice(0, 3)).toEqual(['1-3', '2-6', '3-1']); // prettier-ignore
  });

  it('ask for what is missing, and take no length that is none', async () => {
    const room = await show();
    await type(room, 'count', '');
    expect(room.text('#cords-plan')).toContain('Give how many there are');
    await type(room, 'count', '3');
    await type(room, 'length', '-2');
    expect(room.page.querySelector('table')).toBeNull();
  });

  it('are kept on this device as they were typed', () => {
    localStorage.clear();
    const typed = { ...lastDraft(), name: 'bridge', count: 6 };
    keepDraft(typed);
    expect(lastDraft()).toEqual(typed);
    localStorage.setItem('near-spoke-cords', '{"name":3}');
    expect(lastDraft().name).toBe('cords');
  });
});
