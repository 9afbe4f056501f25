import { TestBed } from '@angular/core/testing';
import type { LinkDetail, Role } from '@near-spoke/contracts';
import { intendedLink } from '@near-spoke/core';
import { Header } from '../header';
import { JobEvents } from '../jobs/jobs.state';
import { LinkEvents } from '../link/link.state';
import { someDetail, someExpectation, someJob, someLink } from '../testing/links';
import { detailWith, showRoom } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { JobHandover } from './job-handover';
import { LinkHandover } from './link-handover';

const sound = intendedLink(someExpectation());
const proved = detailWith(sound, ['coded-mapper-crosstalk', 'eye']);
const at = (stage: LinkDetail['link']['stage'], detail = proved): LinkDetail => ({
  ...detail,
  link: { ...detail.link, stage },
});
const clean = (text: string | null | undefined): string => text?.replace(/\s+/g, ' ').trim() ?? '';

describe('a link’s handover', () => {
  const show = (detail: LinkDetail, role: Role = 'technician') => showRoom(LinkHandover, { detail, role });

  it('names everything the proof rests on, and who keyed it in, not the last look alone', async () => {
    const room = await show(proved);
    expect(room.text('#state-title')).toContain('P1-05 is proved');
    const [proof, by] = [...room.page.querySelectorAll('dd')].map((one) => clean(one.textContent));
    expect(proof).toBe('coded mapper with crosstalk, keyed in; colours read by eye, keyed in');
    expect(by).toContain('Tobi');
  });

  it('is given once: by one key, and by the same record if the answer was lost', async () => {
    const room = await show(proved);
    await room.press('Enter');
    room.store.dispatch(
      LinkEvents.requestFailed({ problem: { type: '', title: 'No answer', status: 0, detail: 'x' } }),
    );
    await room.press('Enter');
    const given = room.asked.filter((action) => action.type === LinkEvents.handoverGiven.type);
    expect(given.length).toBe(2);
    expect((given[0] as { id?: string }).id).toBe((given[1] as { id?: string }).id as string);
  });

  it('leads on to what is wrong, once it is given', async () => {
    const given = {
      ...at('handed-over'),
      handovers: [{ id: 'h', at: '2026-11-02T10:00:00.000Z', by: 'Tobi' }],
    };
    const room = await show(given as LinkDetail);
    room.store.dispatch(
      JobEvents.linksRead({
        jobId: 'job',
        links: [
          someLink({ id: 'link', stage: 'handed-over' }),
          someLink({ id: 'ready', label: 'P1-06', stage: 'both-ends', position: 6 }),
          someLink({ id: 'wrong', label: 'P1-09', stage: 'failed', position: 9 }),
        ],
      }),
    );
    await room.fixture.whenStable();
    expect(room.text('.next-action')).toBe('Go on to P1-09 Enter');
    await room.press('Enter');
    expect(room.ways).toEqual(['/jobs/job/links/wrong/verify']);
  });

  it('cannot be given before the link is proved: it says what comes first', async () => {
    const room = await show(someDetail());
    expect(room.text('#state-title')).toContain('P1-05 is not proved');
    expect(room.text('section')).toContain('It cannot be handed over yet: to be tested.');
    await room.press('Enter');
    expect(room.asked).toEqual([]);
  });

  it('is not offered to a viewer, by mouse or by key', async () => {
    const room = await show(proved, 'viewer');
    expect(room.page.querySelector('.next-action')).toBeNull();
    await room.press('Enter');
    expect(room.asked).toEqual([]);
  });

  it('tells the link’s story newest first, work on the cable in plain words', async () => {
    const work = (kind: LinkDetail['cableWork'][number]['kind'], hour: number, note = '') => ({
      id: kind,
      turn: 10 + hour,
      kind,
      atM: null,
      note,
      by: 'Marit',
      at: `2026-11-02T1${hour}:00:00.000Z`,
    });
    const room = await show({
      ...proved,
      cableWork: [work('replaced', 0, 'wall bay 4'), work('outlet', 1), work('unplug', 2)],
    });
    const story = [...room.page.querySelectorAll('ol li span:last-of-type')].map((one) =>
      clean(one.parentElement?.textContent),
    );
    expect(story[0]).toContain('both ends unplugged Marit');
    expect(room.text('ol')).toContain('cable replaced: wall bay 4');
    expect(room.text('ol')).toContain('outlet made sure of');
    expect(room.text('ol li:last-child')).toContain('end terminated');
  });
});

describe('a job’s handover', () => {
  async function show() {
    const server = new FakeServer({});
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(JobHandover, { inputs: { jobId: 'job/1' } });
    room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob({ id: 'job/1' })] }));
    room.store.dispatch(
      JobEvents.linksRead({
        jobId: 'job/1',
        links: [
          someLink({ id: 'a', jobId: 'job/1', label: 'P1-01', position: 1, stage: 'proved' }),
          someLink({ id: 'b', jobId: 'job/1', label: 'P1-02', position: 2, stage: 'failed' }),
          someLink({ id: 'c', jobId: 'job/1', label: 'P1-03', position: 3, stage: 'proved' }),
        ],
      }),
    );
    await room.fixture.whenStable();
    return { room, server };
  }

  it('groups the links by how far they came, and leads to where each is worked on', async () => {
    const { room } = await show();
    const groups = [...room.page.querySelectorAll('h3')].map((one) => clean(one.textContent));
    expect(groups.some((words) => words.startsWith('2 '))).toBeTrue();
    expect(groups.some((words) => words.startsWith('1 '))).toBeTrue();
    const ways = Object.fromEntries(
      [...room.page.querySelectorAll('ul a')].map((one) => [
        one.textContent?.trim(),
        one.getAttribute('href')?.split('/').at(-1),
      ]),
    );
    expect(ways).toEqual({ 'P1-01': 'hand-over', 'P1-02': 'verify', 'P1-03': 'hand-over' });
    expect(
      TestBed.inject(Header)
        .stations()
        .find((stop) => stop.here)?.name,
    ).toBe('Hand over');
  });

  it('gives the sheet, the table and the record as files of this job', async () => {
    const { room } = await show();
    const files = [...room.page.querySelectorAll('.files a')].map((one) => one.getAttribute('href'));
    expect(files.length).toBe(3);
    for (const file of files) expect(file).toContain('/jobs/job%2F1/');
  });

  it('tells what happened, and asks again where that could not be read', async () => {
    const { room, server } = await show();
    expect(room.text('.wrong')).toContain('The log could not be read.');
    server.answers.jobActivity = () => [
      {
        id: 1,
        at: '2026-11-02T08:00:00.000Z',
        by: 'Tobi',
        linkId: 'a',
        label: 'P1-01',
        what: 'proved the link',
      },
    ];
    (room.page.querySelector('.wrong button') as HTMLButtonElement).click();
    await room.settled();
    expect(room.page.querySelector('.wrong')).toBeNull();
    expect(room.text('ol li')).toContain('P1-01 proved the link Tobi');
  });
});
