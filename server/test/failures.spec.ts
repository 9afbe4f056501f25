import { Failures } from '../src/access/failures.js';
import { openDatabase } from '../src/db/open.js';
import { Slowing } from '../src/access/slowing.js';
import { Refusal } from '../src/problems.js';
import { MIGRATIONS, startApp, type TestApp } from './harness.js';

describe('tries that fail, counted for all processes of one database', () => {
  let it1: TestApp;
  let second: Awaited<ReturnType<typeof openDatabase>>;
  beforeAll(async () => {
    it1 = await startApp();
    second = await openDatabase(it1.url, MIGRATIONS);
  });
  afterAll(async () => {
    await second.close();
    await it1.close();
  });

  it('make the next one wait in whichever process it comes', async () => {
    const slept: number[] = [];
    const [here, there] = [it1.database, second].map(
      ({ quick }) =>
        new Slowing({
          name: 'sign-in',
          failures: Failures.shared(quick.$client),
          free: 3,
          sleep: (ms) => {
            slept.push(ms);
            return Promise.resolve();
          },
        }),
    ) as [Slowing, Slowing];
    const wrong = (): Promise<never> => Promise.reject(new Refusal(401, 'No', 'no'));
    for (let n = 0; n < 5; n++)
      await (n % 2 === 0 ? here : there).try('Ada', '10.0.0.1', wrong).catch(() => undefined);
    expect(slept).toEqual([250, 500]);
    expect(await there.waitMs('ADA', '10.9.9.9')).toBe(1000);
    expect(await there.try('ada', '10.9.9.9', () => Promise.resolve('in'))).toBe('in');
    expect(await here.waitMs('Ada', '10.9.9.9')).toBe(0);
    // Of one address many names were tried: that is not forgotten with the one that was right.
    expect(await here.waitMs('Ben', '10.0.0.1')).toBeGreaterThan(0);
  });

  it('are kept as digests alone: what was typed in the wrong field is nowhere', async () => {
    const door = new Slowing({
      name: 'sign-in',
      failures: Failures.shared(it1.database.quick.$client),
      free: 3,
    });
    await door
      .try('my secret phrase', '10.7.7.7', () => Promise.reject(new Refusal(401, 'No', 'no')))
      .catch(() => undefined);
    const { rows } = await it1.query('SELECT key FROM failed_try');
    expect(rows.length).toBeGreaterThan(0);
    for (const { key } of rows as { key: string }[]) expect(key).toMatch(/^[0-9a-f]{64}$/);
  });
});
