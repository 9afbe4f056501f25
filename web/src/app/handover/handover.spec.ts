import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatChipOptionHarness } from '@angular/material/chips/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatTabGroupHarness } from '@angular/material/tabs/testing';
import type { LinkDetail, Role } from '@near-spoke/contracts';
import { intendedLink } from '@near-spoke/core';
import { Header } from '../header';
import { JobEvents } from '../jobs/jobs.state';
import { LinkEvents } from '../link/link.state';
import { someDetail, someExpectation, someJob, someLink } from '../testing/links';
import { detailWith, showRoom } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
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

  it('is taken back with a reason, and not without', async () => {
    const room = await show(at('handed-over'));
    const back = await room.loader.getHarness(MatButtonHarness.with({ text: 'Take it back' }));
    expect(await back.isDisabled()).toBeTrue();
    const why = await room.loader.getHarness(MatInputHarness);
    await why.setValue('label on the wrong outlet');
    await back.click();
    const taken = room.asked.find((action) => action.type === LinkEvents.handoverTakenBack.type);
    expect((taken as { reason?: string }).reason).toBe('label on the wrong outlet');
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
  const links = [
    someLink({ id: 'a', jobId: 'job/1', label: 'P1-01', position: 1, stage: 'proved' }),
    someLink({ id: 'b', jobId: 'job/1', label: 'P1-02', position: 2, stage: 'failed', standing: '1 open' }),
    someLink({ id: 'c', jobId: 'job/1', label: 'P1-03', position: 3, stage: 'proved' }),
    someLink({ id: 'd', jobId: 'job/1', label: 'P1-04', position: 4, stage: 'handed-over' }),
  ];
  const signed = {
    id: 's',
    at: '2026-11-05T10:00:00.000Z',
    by: 'Ines',
    name: 'R. Thorne',
    role: 'owner',
    note: '',
    digest: 'ab'.repeat(32),
    links: 1,
  };
  async function show(answers: ConstructorParameters<typeof FakeServer>[0] = {}, role: Role = 'technician') {
    const server = new FakeServer({
      listForms: () => [],
      listSignOffs: () => [],
      listShareLinks: () => [],
      ...answers,
    });
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(JobHandover, { inputs: { jobId: 'job/1' }, role });
    room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob({ id: 'job/1' })] }));
    room.store.dispatch(JobEvents.linksRead({ jobId: 'job/1', links }));
    await room.settled();
    const tab = async (label: string): Promise<void> => {
      const group = await room.loader.getHarness(MatTabGroupHarness);
      await group.selectTab({ label });
      await room.until(() => room.page.querySelector('.mat-mdc-tab-body-active ns-acceptance') === null);
      await room.until(() => room.page.querySelector('.mat-mdc-tab-body-active')?.textContent?.trim() !== '');
      await room.settled();
    };
    return { room, server, tab };
  }
  const giving = (asked: { body?: unknown }) =>
    (asked.body as { handovers: { id: string; linkId: string }[] }).handovers;

  it('says what is not ready and why, and leads to where it is worked on', async () => {
    const { room } = await show();
    expect(room.text('.waiting li')).toContain('P1-021 open');
    expect(room.page.querySelector('.waiting a')?.getAttribute('href')).toBe('/jobs/job%2F1/links/b/verify');
    expect(room.page.querySelector('.given a')?.getAttribute('href')).toBe('/jobs/job%2F1/links/d/hand-over');
    expect(
      TestBed.inject(Header)
        .stations()
        .find((stop) => stop.here)?.name,
    ).toBe('Hand over');
  });

  it('hands over by one key all that are proved, less those taken out, and says why one was refused', async () => {
    const { room, server } = await show({
      handOverMany: (asked) => ({
        given: giving(asked)
          .map(({ linkId }) => linkId)
          .filter((id) => id === 'a'),
        refused: [{ linkId: 'c', label: 'P1-03', why: 'P1-03 cannot be handed over: 2 open.' }],
        links: [{ ...links[0], stage: 'handed-over' }],
      }),
    });
    expect(room.text('.next-action')).toBe('Hand over 2 links Enter');
    await room.press('Enter');
    await room.settled();
    expect(giving(server.sent('handOverMany')[0] ?? {}).map(({ linkId }) => linkId)).toEqual(['a', 'c']);
    expect(room.text('.result')).toContain('1 link is handed over.');
    expect(room.text('.result')).toContain('P1-03 cannot be handed over: 2 open.');
    expect(room.text('.next-action')).toBe('Hand over P1-03 Enter');
    const [option] = await room.loader.getAllHarnesses(MatChipOptionHarness);
    await option?.toggle();
    expect(room.text('.next-action')).toBe('Choose at least one link');
    await room.press('Enter');
    expect(server.sent('handOverMany').length).toBe(1);
  });

  it('sends the same records again where the answer was lost', async () => {
    const { room, server } = await show();
    await room.press('Enter');
    await room.settled();
    await room.press('Enter');
    await room.settled();
    const [first, second] = server.sent('handOverMany');
    expect(giving(first ?? {})).toEqual(giving(second ?? {}));
    expect(room.text('[role=alert]')).toContain('Nobody answers handOverMany.');
  });

  it('shows only proved links that have what is looked for', async () => {
    const { room } = await show();
    const filter = await room.loader.getHarness(MatInputHarness.with({ ancestor: 'ns-ready-links' }));
    await filter.setValue('p1-03');
    expect(room.text('.next-action')).toBe('Hand over P1-03 Enter');
    expect(room.text('ns-ready-links')).toContain('1 proved link is not shown.');
  });

  it('offers a viewer the report and no handing over', async () => {
    const { room, server } = await show({}, 'viewer');
    await room.press('Enter');
    expect(room.page.querySelector('.next-action')).toBeNull();
    expect(server.sent('handOverMany')).toEqual([]);
    expect(room.page.textContent).not.toContain('Shown to');
  });

  it('makes a report of the parts that are chosen, in their order, and keeps the choice', async () => {
    const kept: { name: string; body: unknown }[] = [];
    const { room } = await show({
      keepForm: ({ body }) => {
        kept.push(body as (typeof kept)[0]);
        return body;
      },
      listForms: () => kept,
    });
    const hrefs = (): string[] =>
      [...room.page.querySelectorAll('.files a.main-action')].map((one) => one.getAttribute('href') ?? '');
    expect(hrefs()[0]).toMatch(/^\/api\/jobs\/job%2F1\/report\/summary%2Cpanels.*%2Cseal\/report\.pdf$/);
    const press = async (name: string | RegExp): Promise<void> => {
      const button = await room.loader.getHarness(MatButtonHarness.with({ text: name }));
      await button.click();
      await room.settled();
    };
    await press('Choose parts and order');
    for (const box of (await room.loader.getAllHarnesses(MatCheckboxHarness)).slice(2)) await box.uncheck();
    (room.page.querySelector('[aria-label="Panels earlier"]') as HTMLButtonElement).click();
    await room.settled();
    expect(hrefs()[1]).toBe('/api/jobs/job%2F1/report/panels%2Csummary/report.html');
    const name = await room.loader.getHarness(
      MatInputHarness.with({ ancestor: 'ns-report-choice', selector: '[maxlength]' }),
    );
    await name.setValue('For the owner');
    await press('Keep it');
    expect(kept.map((form) => [form.name, form.body])).toEqual([
      ['For the owner', { parts: ['panels', 'summary'] }],
    ]);
  });

  it('takes down who accepts, once for a lost answer, and tells what changed since', async () => {
    const sealed = {
      job: { id: 'j', site: 's', title: 't', hub: 'h', scheme: 'T568B' },
      links: [],
      digest: '',
    };
    let refuses = true;
    const { room, server } = await show({
      listSignOffs: () => [signed],
      addSignOff: () => {
        if (refuses) throw refusal('Try again.');
        return signed;
      },
      signOffSeal: () => sealed,
      jobSeal: () => ({ ...sealed, job: { ...sealed.job, hub: 'h2' } }),
    });
    const [name, role] = await room.loader.getAllHarnesses(
      MatInputHarness.with({ ancestor: 'ns-acceptance' }),
    );
    await name?.setValue('R. Thorne');
    await role?.setValue('owner');
    const accept = await room.loader.getHarness(MatButtonHarness.with({ text: 'Accept 1 link' }));
    await accept.click();
    await room.settled();
    expect(room.text('ns-acceptance [role=alert]')).toContain('Try again.');
    refuses = false;
    await accept.click();
    await room.settled();
    const [first, second] = server.sent('addSignOff').map(({ body }) => (body as { id: string }).id);
    expect(first).toBe(second as string);
    const what = await room.loader.getHarness(MatButtonHarness.with({ text: 'What changed since?' }));
    await what.click();
    await room.settled();
    expect(room.text('ns-acceptance [role=status]')).toContain('The job’s hub was h and is h2.');
  });

  it('shows an address once, and takes it back', async () => {
    const link = {
      id: 'x',
      at: '2026-11-05T10:00:00.000Z',
      by: 'Ines',
      forWhom: 'the harbour office',
      expiresAt: '2096-11-05T10:00:00.000Z',
      revokedAt: null as string | null,
      opened: 2,
      openedAt: null,
    };
    const { room, server, tab } = await show({
      listShareLinks: () => [link],
      addShareLink: () => ({ link, token: 'T'.repeat(43) }),
      revokeShareLink: () => {
        link.revokedAt = '2026-11-06T10:00:00.000Z';
        return [link];
      },
    });
    await tab('Shown to');
    const [whom] = await room.loader.getAllHarnesses(MatInputHarness.with({ ancestor: 'ns-shared-with' }));
    await whom?.setValue('the harbour office');
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Make an address' }))).click();
    await room.settled();
    expect(room.text('.address')).toContain(`/api/shared/${'T'.repeat(43)}`);
    expect(server.sent('addShareLink')[0]?.body).toEqual(
      jasmine.objectContaining({ forWhom: 'the harbour office', days: 30 }),
    );
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Take it back' }))).click();
    await room.settled();
    expect(room.text('ns-shared-with > ul')).toContain('taken back 6 Nov 2026');
  });

  it('names the leads that go with it, how many of them are proved, and takes one out again', async () => {
    const lead = { adapterId: 'a1', name: 'Gangway tail', version: 2, built: 3, proved: 2 };
    const all = [
      { id: 'a1', name: 'Gangway tail' },
      { id: 'a2', name: 'Logger lead' },
    ];
    let going = [lead];
    const { room, server, tab } = await show({
      listAdapters: () => all,
      listJobLeads: () => going,
      addJobLead: () => (going = [...going, { ...lead, adapterId: 'a2', name: 'Logger lead', built: 0 }]),
      removeJobLead: ({ params }) =>
        (going = going.filter(({ adapterId }) => adapterId !== params?.['adapterId'])),
    });
    await tab('Adapters');
    expect(room.text('ns-job-leads > ul')).toContain('Gangway tail version 2, 2 of 3 proved');
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'It goes with the job' }))).click();
    await room.settled();
    expect(server.sent('addJobLead')[0]?.body).toEqual({ adapterId: 'a2' });
    expect(room.text('ns-job-leads > ul')).toContain('Logger lead version 2, none built yet');
    expect(room.page.querySelector('ns-job-leads .add')).toBeNull();
    const [out] = await room.loader.getAllHarnesses(MatButtonHarness.with({ text: 'Leave it here' }));
    await out?.click();
    await room.settled();
    expect(server.sent('removeJobLead')[0]?.params).toEqual(jasmine.objectContaining({ adapterId: 'a1' }));
    expect(room.text('ns-job-leads > ul')).not.toContain('Gangway tail');
  });

  it('names the loose work that was given to it, and nobody else’s', async () => {
    const end = (id: string, name: string, jobId: string | null) => ({
      id,
      name,
      connector: 'F plug',
      cable: 'RG-6',
      by: 'Marek',
      proof: null,
      givenTo: jobId && { jobId, title: '', at: '', by: '' },
    });
    const { room, tab } = await show({
      listLooseEnds: () => [
        end('e1', 'bar tail', 'job/1'),
        end('e2', 'elsewhere', 'other'),
        end('e3', 'free', null),
      ],
    });
    await tab('Loose work');
    const lines = [...room.page.querySelectorAll('ns-job-loose-work li')].map((one) => one.textContent ?? '');
    expect(lines.length).toBe(1);
    expect(lines[0]).toMatch(/bar tail.*F plug on RG-6, Marek, not metered/s);
  });

  it('checks a report: what is no report, of another job, or changed is said', async () => {
    const { room, tab } = await show({ jobSeal: () => ({ job: {}, links: [], digest: '' }) });
    await tab('Check a report');
    const give = async (name: string, content: string, said: string): Promise<void> => {
      const drop = room.page.querySelector('ns-file-drop label') as HTMLElement;
      const transfer = new DataTransfer();
      transfer.items.add(new File([content], name));
      drop.dispatchEvent(new DragEvent('drop', { dataTransfer: transfer }));
      await room.until(
        () => room.page.querySelector('ns-report-check .wrong')?.textContent?.includes(said) ?? false,
      );
    };
    await give('a.html', '<html></html>', 'This is no report');
    await give('a.pdf', '%PDF-1.7 nothing', 'no data attached');
  });

  it('tells what happened, and asks again where that could not be read', async () => {
    const { room, server, tab } = await show();
    await tab('What happened');
    expect(room.text('ns-job-log .wrong')).toContain('The log could not be read.');
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
    (room.page.querySelector('ns-job-log .wrong button') as HTMLButtonElement).click();
    await room.settled();
    expect(room.page.querySelector('ns-job-log .wrong')).toBeNull();
    expect(room.text('ns-job-log ol li')).toContain('P1-01 proved the link Tobi');
  });
});
