import { JobEvents } from '../jobs/jobs.state';
import { LinkEvents } from '../link/link.state';
import { someDetail, someJob, someLink } from '../testing/links';
import { showRoom, type Room } from '../testing/rooms';
import { likeEnds } from './round';
import { RoundPage } from './round-page';

const open = (label: string, near = false, far = false) =>
  someLink({
    id: label,
    label,
    near: { ...someLink().near, done: near },
    far: { ...someLink().far, done: far },
  });

describe('like ends', () => {
  it('are of one side, connector and cable, not done yet, the largest group first', () => {
    const coax = {
      ...open('C'),
      cableTypeId: 'rg6',
      near: { ...someLink().near, connectorId: 'coax-f', done: false },
    };
    const groups = likeEnds([open('A'), open('B', true), coax, open('D', true, true)]);
    expect(groups.map((g) => [g.side, g.connectorId, g.links.map((l) => l.label)])).toEqual([
      ['far', 'plug-closed', ['A', 'B']],
      ['far', 'plug-closed', ['C']],
      ['near', 'coax-f', ['C']],
      ['near', 'jack-punched', ['A']],
    ]);
  });
});

describe('a termination round', () => {
  async function begin(): Promise<Room<RoundPage>> {
    const room = await showRoom(RoundPage, { inputs: { jobId: 'job' } });
    room.store.dispatch(JobEvents.jobAdded({ job: someJob() }));
    room.store.dispatch(JobEvents.linksRead({ jobId: 'job', links: [open('A'), open('B'), open('C')] }));
    await room.fixture.whenStable();
    room.page.querySelector<HTMLButtonElement>('.choose button')?.click();
    await room.fixture.whenStable();
    return room;
  }
  const keep = async (room: Room<RoundPage>): Promise<void> => {
    room.store.dispatch(LinkEvents.recordKept({ detail: someDetail(), what: 'termination' }));
    await room.fixture.whenStable();
  };
  const recorded = (room: Room<RoundPage>) =>
    room.asked.filter((action) => action.type === LinkEvents.terminationDone.type) as ReturnType<
      typeof LinkEvents.terminationDone
    >[];

  it('records each end by one key, and goes on only when it is kept', async () => {
    const room = await begin();
    expect(room.text('h1')).toContain('A');
    await room.press('x');
    await room.press('PageDown');
    await room.press('PageDown');
    expect(recorded(room).length).toBe(1);
    expect(recorded(room)[0]).toEqual(
      jasmine.objectContaining({
        linkId: 'A',
        attempt: jasmine.objectContaining({
          side: 'far',
          connectorTypeId: 'plug-closed',
          connectorsSpoiled: 1,
        }),
      }),
    );
    await keep(room);
    expect(room.text('h1')).toContain('B');
    expect(room.text('[role=status]')).toBe('1 of 3 recorded');
    await room.press('PageDown');
    await keep(room);
    expect(recorded(room)[1]?.attempt.connectorsSpoiled).toBe(0);
    expect(recorded(room)[1]?.attempt.id).not.toBe(recorded(room)[0]?.attempt.id as string);
  });

  it('skips an end, looks back, and never records one twice', async () => {
    const room = await begin();
    await room.press('PageDown');
    await keep(room);
    await room.press('s');
    expect(room.text('h1')).toContain('C');
    await room.press('PageUp');
    await room.press('PageUp');
    expect(room.text('h1')).toContain('A');
    await room.press('PageDown');
    expect(recorded(room).length).toBe(1);
    expect(room.text('h1')).toContain('B');
  });

  it('comes to an end that says what stays open', async () => {
    const room = await begin();
    for (let i = 0; i < 3; i++) await room.press('s');
    expect(room.text('h1')).toBe('The round is at its end');
    expect(room.page.textContent).toContain('0 of 3 ends are recorded');
  });
});
