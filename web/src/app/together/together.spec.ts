import { TestBed } from '@angular/core/testing';
import type { NewToldThing, OpenByTwo as Going, TogetherState } from '@near-spoke/contracts';
import {
  helperRoundsOf,
  namesByRounds,
  planIdentification,
  probeMap,
  twoEnds,
  wiresByTwo,
  type LinkEnd,
  type Reading,
  type Told,
} from '@near-spoke/core';
import { someExpectation } from '../testing/links';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { Probe } from '../verify/probe';
import { HelpPage } from './help-page';
import { OpenByTwo } from './open-by-two';
import { OPEN_EVENTS, type Heard } from './open-events';

const expected = someExpectation();
/** The sweeps at the near end alone, before the paths. */
const SWEPT = [0, 1, 2, 3, 4, 5, 6];

/** A cable with two ends, of which the device under test is one; the other is told for by the spec. */
class TwoEndedCable {
  readonly told: (Told & { id: string })[] = [];
  heard: Heard | null = null;
  closed = 0;
  ended = false;
  helper: TogetherState['helper'] = null;
  refuse: Error | null = null;

  private readonly take = ({ body }: { body?: unknown }): TogetherState => {
    const { id, end, doing } = body as NewToldThing;
    if (this.refuse) throw this.refuse;
    if (!this.told.some((one) => one.id === id))
      this.told.push({ id, end, who: this.helper?.name ?? 'Me', doing });
    return this.state();
  };

  readonly server = new FakeServer({
    beginTogether: () => this.state(),
    tellTogether: this.take,
    tellAsHelper: this.take,
    endTogether: () => {
      this.ended = true;
      return this.state();
    },
    joinAsHelper: ({ body }) => {
      const { code, name, end } = body as { code: string; name: string; end: LinkEnd };
      if (code !== 'KLMNPQ') throw refusal('Nobody waits under this code.', 404);
      this.helper = { name, end };
      return this.state();
    },
    readAsHelper: () => null,
  });

  readonly providers = [
    this.server.provider,
    {
      provide: OPEN_EVENTS,
      useValue: (_address: string, heard: Heard) => {
        this.heard = heard;
        return () => this.closed++;
      },
    },
  ];

  state(): TogetherState {
    const { answers, on, people, calls } = twoEnds(this.told);
    const asked = probeMap(expected, answers);
    const place = ({ end, contacts }: { end: LinkEnd; contacts: readonly string[] }) => ({
      end,
      contacts: [...contacts],
    });
    return {
      id: 'together-1',
      linkId: 'link-1',
      list: null,
      label: 'P1-05',
      ends: { near: 'P1 5', far: 'Bridge 2' },
      code: 'KLMNPQ',
      startedBy: 'Ines',
      at: '2026-11-02T09:00:00.000Z',
      ended: this.ended,
      told: this.told.length,
      answers: [...answers],
      on: { ...on },
      people: { near: [...people.near], far: [...people.far] },
      calls,
      next:
        asked.step === 'touch'
          ? {
              from: place(asked.touch.from),
              to: place(asked.touch.to),
              join: [],
              sweep: asked.touch.sweep,
              should: asked.touch.should,
              why: asked.touch.why,
            }
          : null,
      wires: this.wires(),
      helper: this.helper,
    };
  }

  /** Unmarked conductors, where it is those. */
  about: { count: number; hasReturn: boolean } | null = null;

  private wires(): TogetherState['wires'] {
    if (!this.about) return null;
    const plan = planIdentification({ ...this.about, helper: true });
    if (plan.way !== 'helper') return null;
    const { names, joined, found } = wiresByTwo(this.told);
    const rounds = helperRoundsOf(plan);
    const round = rounds[found.length];
    const known = !round && names ? namesByRounds(plan, names, found) : null;
    return {
      ...this.about,
      names: names && [...names],
      joined,
      found: found.map((one) => [...one]),
      rounds: rounds.length,
      round: round ? { join: [...round.join], to: round.to } : null,
      serving: null,
      told: known && Object.entries(known).map(([number, name]) => ({ number: Number(number), name })),
      mistake: '',
    };
  }

  /** Somebody at the other end tells something. */
  async tells<C>(room: Room<C>, end: LinkEnd, doing: Told['doing'], who = 'Marek'): Promise<void> {
    this.told.push({ id: crypto.randomUUID(), end, who, doing });
    this.heard?.state(this.state());
    await room.settled();
  }
}

async function click<C>(room: Room<C>, words: string): Promise<void> {
  const found = [...room.page.querySelectorAll<HTMLButtonElement>('button')].find((one) =>
    one.textContent?.trim().startsWith(words),
  );
  expect(found).withContext(words).toBeDefined();
  found?.click();
  await room.settled();
}

describe('the led beeper with somebody at the other end', () => {
  async function begun(): Promise<{
    cable: TwoEndedCable;
    room: Room<Probe>;
    taken: { reading: Reading; id: string }[];
  }> {
    const cable = new TwoEndedCable();
    TestBed.configureTestingModule({ providers: cable.providers });
    const room = await showRoom(Probe, { inputs: { expected, linkId: 'link-1' } });
    const taken: { reading: Reading; id: string }[] = [];
    room.fixture.componentInstance.taken.subscribe((one) => taken.push(one));
    await click(room, 'Show it at the other end too');
    return { cable, room, taken };
  }

  it('shows the code to read out, and who has come', async () => {
    const { cable, room } = await begun();
    expect(room.text('ns-code-sign')).toContain('KLM NPQ');
    expect(room.text('ns-other-end')).toContain('Nobody has come to the far end yet');
    await cable.tells(room, 'far', { does: 'came' });
    expect(room.text('ns-other-end')).toContain('Marek at the far end');
    expect(cable.told[0]?.doing).toEqual({ does: 'came' });
  });

  it('shows when the other probe is on, and goes on with an answer that is given there', async () => {
    const { cable, room } = await begun();
    await cable.tells(room, 'far', { does: 'came' });
    for (const touch of SWEPT) await cable.tells(room, 'far', { does: 'answered', touch, closed: false });
    expect(room.text('section > p')).toContain('Touch 8');
    await cable.tells(room, 'far', { does: 'on', touch: 7 });
    expect(room.text('ns-other-end')).toContain('Marek at the far end is on 1');
    await room.press('PageDown');
    await room.settled();
    expect(cable.told.at(-1)?.doing).toEqual({ does: 'answered', touch: 7, closed: true });
    expect(room.text('section > p')).toContain('Touch 9');
  });

  it('saves the touches of both ends as one reading, and loses none where that is refused', async () => {
    const { cable, room, taken } = await begun();
    for (const touch of SWEPT) await cable.tells(room, 'far', { does: 'answered', touch, closed: false });
    for (let i = 0; i < 8; i++) {
      await room.press('PageDown');
      await room.settled();
    }
    expect(room.text('h2')).toBe('The map is proved');
    await room.press('Enter');
    // Nobody kept it: it stands, and is saved again as the same.
    await room.press('Enter');
    await room.settled();
    expect(room.text('h2')).toBe('The map is proved');
    const [one, two] = taken;
    expect(one?.reading.instrument === 'beeper' && one.reading.touches.length).toBe(15);
    expect([one?.id, two?.id]).toEqual(['together-1', 'together-1']);
    expect(cable.ended).toBeFalse();
  });

  it('saves nothing once the other end has, and is not told otherwise by what was under way', async () => {
    const { cable, room, taken } = await begun();
    const before = cable.state();
    cable.ended = true;
    cable.heard?.state(cable.state());
    await room.settled();
    cable.heard?.state(before);
    await room.settled();
    expect(room.text('h2')).toBe('It was saved at the other end');
    await room.press('Enter');
    expect(taken.length).toBe(0);
  });

  it('says that the other end was first, and keeps to what counted', async () => {
    const { cable, room } = await begun();
    cable.refuse = refusal('This touch was answered at the other end meanwhile.', 409);
    await room.press('PageUp');
    await room.settled();
    expect(room.text('ns-other-end [role=alert]')).toContain('answered at the other end');
    expect(room.text('section > p')).toContain('Touch 1 ');
  });

  it('sends an answer again that no answer came to, as the same', async () => {
    const { cable, room } = await begun();
    cable.refuse = refusal('No answer', 0);
    await room.press('PageUp');
    await room.settled();
    expect(room.text('ns-other-end')).toContain('The connection is lost');
    // A second press does nothing while the first is on its way.
    await room.press('PageUp');
    cable.refuse = null;
    await room.until(() => room.text('section > p').includes('Touch 2 '));
    const answers = cable.server.sent('tellTogether').map(({ body }) => body as NewToldThing);
    const sent = answers.filter(({ doing }) => doing.does === 'answered');
    expect(sent.length).toBe(2);
    expect(new Set(sent.map(({ id }) => id)).size).toBe(1);
    expect(room.text('ns-other-end')).not.toContain('The connection is lost');
  });
});

describe('what is going on by two', () => {
  const going = (change: Partial<Going>): Going => ({
    id: 'together-1',
    linkId: 'link-1',
    jobId: 'job-1',
    of: 'link',
    label: 'P1-05',
    ends: { near: 'P1 5', far: 'Bridge 2' },
    code: 'KLMNPQ',
    startedBy: 'Ines',
    at: '2026-11-02T09:00:00.000Z',
    people: { near: ['Ines'], far: [] },
    done: 3,
    ...change,
  });
  async function shown(
    all: Going[],
    linkId: string | null,
  ): Promise<{ room: Room<OpenByTwo>; came: string[] }> {
    TestBed.configureTestingModule({ providers: [new FakeServer({ openTogether: () => all }).provider] });
    const room = await showRoom(OpenByTwo, { inputs: { linkId } });
    const came: string[] = [];
    room.fixture.componentInstance.came.subscribe((end) => came.push(end));
    await room.settled();
    return { room, came };
  }

  it('is said to whoever opens that link, who comes to the end where nobody is', async () => {
    const { room, came } = await shown([going({}), going({ id: 'other', linkId: 'link-2' })], 'link-1');
    expect(room.page.querySelectorAll('.one').length).toBe(1);
    expect(room.text('.one')).toContain('P1-05 is being proved: Ines.');
    expect(room.text('.one')).toContain('3 touches answered; nobody is at the far end.');
    await click(room, 'Come to the far end');
    expect(came).toEqual(['far']);
  });

  it('lets its own people go on where they were', async () => {
    const { room, came } = await shown([going({ people: { near: ['Ines'], far: ['Me'] } })], 'link-1');
    await click(room, 'Go on at the far end');
    expect(came).toEqual(['far']);
  });

  it('is told on the bench of all kinds, and nothing where nothing goes on', async () => {
    const wires = going({
      id: 'w',
      linkId: null,
      jobId: null,
      of: 'wires',
      label: 'Unmarked wires',
      done: 0,
    });
    const { room } = await shown([going({}), wires], null);
    const ways = [...room.page.querySelectorAll('a')].map((link) => link.getAttribute('href'));
    expect(ways).toEqual(['/jobs/job-1/links/link-1/verify', '/help/KLMNPQ']);
    expect(room.text('.one:last-child')).toContain('Unmarked wires are being told apart: Ines.');
    expect(room.text('.one:last-child')).toContain('Just begun');
    TestBed.resetTestingModule();
    expect((await shown([], null)).room.page.textContent?.trim()).toBe('');
  });

  it('is come to at its other end, with the touches that are answered', async () => {
    const cable = new TwoEndedCable();
    TestBed.configureTestingModule({ providers: cable.providers });
    for (const touch of SWEPT)
      cable.told.push({
        id: crypto.randomUUID(),
        end: 'near',
        who: 'Ines',
        doing: { does: 'answered', touch, closed: false },
      });
    const room = await showRoom(Probe, { inputs: { expected, linkId: 'link-1', comesTo: 'far' } });
    await room.settled();
    expect(room.text('section > p')).toContain('Touch 8');
    expect(cable.told.at(-1)).toEqual(jasmine.objectContaining({ end: 'far', doing: { does: 'came' } }));
  });
});

describe('helping at the other end', () => {
  async function helping(): Promise<{ cable: TwoEndedCable; room: Room<HelpPage> }> {
    const cable = new TwoEndedCable();
    TestBed.configureTestingModule({ providers: cable.providers });
    const room = await showRoom(HelpPage, { inputs: { code: 'KLMNPQ' } });
    await room.settled();
    return { cable, room };
  }
  async function name(room: Room<HelpPage>, text: string): Promise<void> {
    const field = room.page.querySelector('input[name=name]') as HTMLInputElement;
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await room.settled();
  }

  it('asks for the name, and takes the code from the symbol that was read', async () => {
    const { cable, room } = await helping();
    expect((room.page.querySelector('input[name=code]') as HTMLInputElement).value).toBe('KLMNPQ');
    await click(room, 'Come to this end');
    expect(room.text('form')).toContain('Give your name first.');
    await name(room, 'Marek');
    await click(room, 'Come to this end');
    expect(cable.server.sent('joinAsHelper')[0]?.body).toEqual({ code: 'KLMNPQ', name: 'Marek', end: 'far' });
    expect(room.text('section > p')).toContain('P1-05, far end at Bridge 2');
    expect(room.text('.caution')).toContain('nothing plugged in or live at your end');
  });

  it('keeps the lead off while the other end touches alone, and shows large what is to be touched', async () => {
    const { cable, room } = await helping();
    await name(room, 'Marek');
    await click(room, 'Come to this end');
    expect(room.text('h1')).toBe('Keep your lead off');
    expect(room.text('ns-other-end')).toContain('Nothing to touch at your end');
    for (const touch of SWEPT)
      await cable.tells(room, 'near', { does: 'answered', touch, closed: false }, 'Ines');
    expect(room.text('h1')).toBe('Put your lead on');
    expect(room.text('.touch')).toBe('1');
    await room.press('o');
    await room.settled();
    expect(cable.told.at(-1)?.doing).toEqual({ does: 'on', touch: 7 });
    expect(room.text('ns-other-end')).toContain('Your probe is on');
  });

  it('says when it is done, and of a wrong code what to do', async () => {
    const { cable, room } = await helping();
    await name(room, 'Marek');
    await click(room, 'Come to this end');
    cable.ended = true;
    cable.heard?.state(cable.state());
    await room.settled();
    expect(room.text('h1')).toBe('It is done');
    await click(room, 'Help with another');
    room.fixture.componentRef.setInput('code', 'BCDFGH');
    await room.settled();
    await click(room, 'Come to this end');
    expect(room.text('[role=alert]')).toContain('Nobody waits under this code');
  });
});

describe('unmarked wires told apart by two', () => {
  async function helpingAt(end: 'A' | 'B'): Promise<{ cable: TwoEndedCable; room: Room<HelpPage> }> {
    const cable = new TwoEndedCable();
    cable.about = { count: 4, hasReturn: true };
    TestBed.configureTestingModule({ providers: cable.providers });
    const room = await showRoom(HelpPage, { inputs: { code: 'KLMNPQ' } });
    const field = room.page.querySelector('input[name=name]') as HTMLInputElement;
    field.value = 'Marek';
    field.dispatchEvent(new Event('input'));
    if (end === 'A') await click(room, 'Near end');
    await room.settled();
    await click(room, 'Come to this end');
    return { cable, room };
  }

  it('at B: keeps what is typed and tapped whatever else is heard meanwhile', async () => {
    const { cable, room } = await helpingAt('B');
    const names = room.page.querySelector('textarea') as HTMLTextAreaElement;
    names.value = 'P Q R S';
    names.dispatchEvent(new Event('input'));
    await room.settled();
    await cable.tells(room, 'near', { does: 'came' }, 'Ines');
    await click(room, 'These are their names');
    expect(cable.told.at(-1)?.doing).toEqual({ does: 'named', names: ['P', 'Q', 'R', 'S'] });
    await cable.tells(room, 'near', { does: 'joined', round: 0 }, 'Ines');
    await click(room, 'P');
    await click(room, 'R');
    await cable.tells(room, 'near', { does: 'called' }, 'Ines');
    await click(room, '2 beep, the others do not');
    expect(cable.told.at(-1)?.doing).toEqual({ does: 'found', round: 0, names: ['P', 'R'] });
  });

  it('at B: names them, waits until they are joined, and says which beep', async () => {
    const { cable, room } = await helpingAt('B');
    expect(room.text('h3')).toBe('Give each of the 4 a name at your end');
    const names = room.page.querySelector('textarea') as HTMLTextAreaElement;
    expect(names.value).toBe('A B C D');
    names.value = 'A B C';
    names.dispatchEvent(new Event('input'));
    await click(room, 'These are their names');
    expect(room.text('[role=alert]')).toContain('There are 4 conductors, and 3 names.');
    names.value = 'A B C D';
    names.dispatchEvent(new Event('input'));
    await click(room, 'These are their names');
    expect(room.text('h3')).toBe('Wait: the other end is joining');
    for (const [round, beep] of [
      ['B', 'D'],
      ['C', 'D'],
    ].entries()) {
      await cable.tells(room, 'near', { does: 'joined', round }, 'Ines');
      expect(room.text('h3')).toBe('Which beep with the return?');
      for (const one of beep) await click(room, one);
      await click(room, '2 beep, the others do not');
    }
    expect(room.text('h3')).toBe('Every conductor is known');
    const lines = [...room.page.querySelectorAll('.names li')].map(({ textContent }) => textContent?.trim());
    expect(lines).toEqual(['1 is A', '2 is B', '3 is C', '4 is D']);
  });

  it('at A: shows large what is to be joined, and leaves it until the other end has read it', async () => {
    const { cable, room } = await helpingAt('A');
    expect(room.text('h3')).toBe('Number them 1 to 4 at your end');
    await cable.tells(room, 'far', { does: 'named', names: ['a', 'b', 'c', 'd'] }, 'Ines');
    expect(room.text('h3')).toBe('Undo all joins, then join these to the return');
    expect(room.text('.join')).toBe('2 4');
    await click(room, 'Joined and proved');
    expect(room.text('h3')).toBe('Leave them joined');
    await cable.tells(room, 'far', { does: 'found', round: 0, names: ['b', 'd'] }, 'Ines');
    expect(room.text('.join')).toBe('3 4');
    await click(room, 'Do round 1 again');
    expect(room.text('.join')).toBe('2 4');
  });
});
