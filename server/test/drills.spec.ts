import { randomUUID } from 'node:crypto';
import type { CrewPractice, OwnPractice } from '@near-spoke/contracts';
import { makeDrill } from '@near-spoke/core/drills';
import { enter, startApp, type Caller, type TestApp } from './harness.js';

describe('The practice room', () => {
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
    await answer(technician, 3, true).expect(200);
    await answer(technician, 4, false).expect(200);
    await answer(viewer, 5, true).expect(200);
  });
  afterAll(() => app.close());

  const answer = (who: Caller, seed: number, right: boolean, kind = 'how-far' as const) => {
    const drill = makeDrill(kind, seed);
    if (drill.by !== 'choice') throw new Error('nothing to choose');
    const chosen = right ? drill.right : (drill.right + 1) % drill.options.length;
    return who.post('/api/practice-room/answers', { id: randomUUID(), kind, seed, chosen });
  };

  it('works out itself whether an answer is right, and shows everybody their own alone', async () => {
    const { body } = await technician.get('/api/practice-room').expect(200);
    expect((body as OwnPractice).answers.map(({ kind, right }) => `${kind} ${right}`)).toEqual([
      'how-far true',
      'how-far false',
    ]);
  });

  it('shows a lead what the crew needs, of all together; nobody else', async () => {
    const { body } = await lead.get('/api/practice-room/crew').expect(200);
    const [farOff] = (body as CrewPractice).kinds.filter(({ kind }) => kind === 'how-far');
    expect(farOff).toEqual({ kind: 'how-far', asked: 3, right: 2 });
    expect(JSON.stringify(body)).not.toContain('by');
    expect((await technician.get('/api/practice-room/crew')).status).toBe(403);
  });

  it('refuses an answer that the drill does not have, and a drill that there is not', async () => {
    const of = (change: object) =>
      technician.post('/api/practice-room/answers', {
        id: randomUUID(),
        kind: 'how-far',
        seed: 3,
        chosen: 0,
        ...change,
      });
    expect((await of({ chosen: 8 })).body.detail).toContain('This drill has 4 answers: choose one.');
    expect((await of({ kind: 'tightrope' })).status).toBe(400);
    expect((await of({ chosen: null })).status).toBe(400);
    expect((await of({ laid: [0] })).status).toBe(400);
    const laying = { kind: 'lay-the-eight', chosen: null, laid: [0, 1, 2] };
    expect((await of(laying)).body.detail).toContain('lay one piece into each');
  });

  it('takes what was laid, place by place', async () => {
    const drill = makeDrill('lay-the-eight', 6);
    if (drill.by !== 'laying') throw new Error('nothing to lay');
    const [first = 0, second = 0, ...rest] = drill.right;
    const sent = { kind: 'lay-the-eight', seed: 6 };
    for (const laid of [drill.right, [second, first, ...rest]])
      await viewer.post('/api/practice-room/answers', { id: randomUUID(), ...sent, laid }).expect(200);
    const { body } = await viewer.get('/api/practice-room').expect(200);
    const laid = (body as OwnPractice).answers.filter(({ kind }) => kind === 'lay-the-eight');
    expect(laid.map(({ right }) => right)).toEqual([true, false]);
  });
});
