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
    expect((await of({ chosen: 8 })).body.detail).toContain('This drill has 4 answers.');
    expect((await of({ kind: 'tightrope' })).status).toBe(400);
  });
});
