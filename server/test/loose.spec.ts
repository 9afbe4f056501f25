import { randomUUID } from 'node:crypto';
import { probesPlan, workUp, endAsLead } from '@near-spoke/core';
import type { LooseEnd } from '@near-spoke/contracts';
import { enter, newJob, startApp, type Caller, type TestApp } from './harness.js';
import { asTaken } from './pictures.js';

describe('The loose-work book', () => {
  let app: TestApp;
  let lead: Caller;
  let technician: Caller;
  let viewer: Caller;
  beforeAll(async () => {
    app = await startApp();
    [lead, technician, viewer] = [
      await enter(app, 'lead'),
      await enter(app, 'technician'),
      await enter(app, 'viewer'),
    ];
  });
  afterAll(() => app.close());

  const made = (change: object = {}) => ({
    id: randomUUID(),
    name: 'cord for the pay desk',
    cableTypeId: 'cat6-u',
    connectorTypeId: 'plug-closed',
    scheme: 'T568B',
    outcome: 'good',
    ...change,
  });
  const keep = async (change: object = {}): Promise<LooseEnd> => {
    const body = made(change);
    const { body: book } = await technician.post('/api/loose-ends', body).expect(200);
    return (book as LooseEnd[]).find(({ id }) => id === body.id) as LooseEnd;
  };

  it('keeps an end with who made it of what, newest first, for everybody to read', async () => {
    await keep({ name: 'first' });
    const second = await keep({ name: '', lot: 'L9', tool: 'crimper 2' });
    expect([second.cable, second.connector, second.proof, second.givenTo]).toEqual([
      'Cat 6 unscreened',
      '8-contact plug, closed end',
      null,
      null,
    ]);
    const { body } = await viewer.get('/api/loose-ends').expect(200);
    expect((body as LooseEnd[]).slice(0, 2).map(({ name, lot, tool }) => [name, lot, tool])).toEqual([
      ['', 'L9', 'crimper 2'],
      ['first', '', ''],
    ]);
    expect((await viewer.post('/api/loose-ends', made())).status).toBe(403);
  });

  it('judges what was metered itself', async () => {
    const { body: kit } = await technician.get('/api/kit').expect(200);
    const cable = kit.cables.find(({ id }: { id: string }) => id === 'cat6-u');
    const connector = kit.connectors.find(({ id }: { id: string }) => id === 'plug-closed');
    const design = endAsLead(cable, connector, { scheme: 'T568B' });
    if (!design) throw new Error('no lead');
    const touched = probesPlan(workUp(design).nets).touches.map(({ one, other, should }) => ({
      one,
      other,
      beeped: should === 'beep',
    }));
    expect((await keep({ touched })).proof).toBe('proved');
    expect((await keep({ touched: touched.slice(2) })).proof).toBe('unfinished');
    expect((await keep({ touched, scheme: 'T568A' })).proof).toBe('failed');
    const stray = [
      { one: [{ end: 'P', contact: '9' }], other: [{ end: 'W', contact: 'BU' }], beeped: false },
    ];
    const { status, body } = await technician.post('/api/loose-ends', made({ touched: stray }));
    expect([status, body.detail]).toEqual([422, jasmine.stringContaining('no contact 9 at P')]);
  });

  const T568B = ['WH-OG', 'OG', 'WH-GN', 'BU', 'WH-BU', 'GN', 'WH-BN', 'BN'];
  const colours = (order: readonly (string | null)[]) =>
    Object.fromEntries(order.map((conductor, n) => [String(n + 1), conductor]));

  it('holds the colours that were found against the card of that scheme itself', async () => {
    const asMeant = { colours: colours(T568B) };
    expect((await keep({ seen: asMeant })).notAsCard).toEqual([]);
    expect((await keep({ seen: asMeant, scheme: 'T568A' })).notAsCard).toEqual(['1', '2', '3', '6']);
    // What could not be read is no difference; an empty contact is one.
    const [unread, empty] = [colours(['WH-OG', null, ...T568B.slice(2)]), ['2']];
    expect((await keep({ seen: { colours: unread } })).notAsCard).toEqual([]);
    expect((await keep({ seen: { colours: unread, empty } })).notAsCard).toEqual(['2']);
    expect((await keep()).notAsCard).toBeNull();
    const { status, body } = await technician.post(
      '/api/loose-ends',
      made({ seen: { colours: { 9: 'OG' } } }),
    );
    expect([status, body.detail]).toEqual([422, jasmine.stringContaining('no contact 9')]);
  });

  it('keeps what has to happen once it is connected, and whether it does', async () => {
    const functionTest = [
      { what: 'the shutter fires', does: true },
      { what: 'half pressed it focuses', does: false },
      { what: 'the lamp goes out', does: null },
    ];
    expect((await keep({ functionTest })).functionTest).toEqual(functionTest);
    const { status } = await technician.post(
      '/api/loose-ends',
      made({ functionTest: [{ what: ' ', does: true }] }),
    );
    expect(status).toBe(400);
  });

  it('keeps photos of an end without what a camera wrote into them, for everybody to see', async () => {
    const { id } = await keep();
    const photo = { id: randomUUID(), jpeg: asTaken().toString('base64') };
    const path = `/api/loose-ends/${id}/photos`;
    const { body: book } = await technician.post(path, photo).expect(200);
    expect((book as LooseEnd[]).find((end) => end.id === id)?.photos).toEqual([photo.id]);
    const { body: jpeg, headers } = await viewer.get(`${path}/${photo.id}`).expect(200);
    expect(headers['content-type']).toContain('image/jpeg');
    expect(jpeg.includes('attic')).toBeFalse();
    expect((await viewer.post(path, { ...photo, id: randomUUID() })).status).toBe(403);
    await technician.post(path, { id: randomUUID(), jpeg: '/9j/abcd' }).expect(400);
    await technician
      .post(`/api/loose-ends/${randomUUID()}/photos`, { ...photo, id: randomUUID() })
      .expect(404);
    await viewer.get(`/api/loose-ends/${randomUUID()}/photos/${photo.id}`).expect(404);
  });

  it('refuses what the kit does not have, and a spoiled end that cost nothing', async () => {
    for (const [change, field] of [
      [{ cableTypeId: 'cat9' }, 'cableTypeId'],
      [{ connectorTypeId: 'plug-of-gold' }, 'connectorTypeId'],
      [{ outcome: 'spoiled' }, 'connectorsSpoiled'],
    ] as const) {
      const { status, body } = await technician.post('/api/loose-ends', made(change));
      expect([status >= 400 && status < 500, body.errors?.[0]?.path])
        .withContext(field)
        .toEqual([true, field]);
    }
  });

  it('gives ends to a job once, all or none, and says so in the job’s log', async () => {
    const [job, other] = [newJob({ title: 'Pay desk' }), newJob({ title: 'Elsewhere' })];
    await lead.post('/api/jobs', job).expect(200);
    await lead.post('/api/jobs', other).expect(200);
    const [one, two] = [await keep({ name: 'one' }), await keep({ name: 'two' })];
    const give = (jobId: string, ...ends: string[]) =>
      technician.post('/api/loose-ends/given', { jobId, ends });
    const { body } = await give(job.id, one.id).expect(200);
    expect((body as LooseEnd[]).find(({ id }) => id === one.id)?.givenTo?.title).toBe('Pay desk');
    // Sent again it stays so; to another job it is refused, and nothing of the sending is kept.
    await give(job.id, one.id).expect(200);
    await give(other.id, two.id, one.id).expect(409);
    const { body: after } = await viewer.get('/api/loose-ends').expect(200);
    expect((after as LooseEnd[]).find(({ id }) => id === two.id)?.givenTo).toBeNull();
    await give(randomUUID(), two.id).expect(404);
    await give(job.id, randomUUID()).expect(404);
    const { body: log } = await lead.get(`/api/jobs/${job.id}/activity`).expect(200);
    const words = (log as { what: string }[]).map(({ what }) => what);
    expect(words.filter((what) => what.includes('loose work'))).toEqual(['gave loose work to the job: one']);
  });
});
