import { Failures } from '../src/access/failures.js';
import { Slowing } from '../src/access/slowing.js';
import { Refusal } from '../src/problems.js';

describe('slowing down of guesses', () => {
  const refuse = (): Promise<never> => Promise.reject(new Refusal(401, 'No', 'no'));
  let slept: number[] = [];
  let logged: object[] = [];
  const slowing = (): Slowing =>
    new Slowing({
      name: 'sign-in',
      failures: Failures.own(),
      free: 3,
      log: { warn: (what: object) => void logged.push(what) },
      sleep: (ms) => {
        slept.push(ms);
        return Promise.resolve();
      },
    });
  beforeEach(() => {
    slept = [];
    logged = [];
  });
  afterEach(() => jasmine.clock().uninstall());

  it('begins after a few failures, grows, ends at a longest wait, and is forgotten after a while', async () => {
    jasmine.clock().install().mockDate();
    const door = slowing();
    for (let n = 0; n < 12; n++) await door.try('Ada', '10.0.0.1', refuse).catch(() => undefined);
    expect(slept).toEqual([250, 500, 1000, 2000, 4000, 5000, 5000, 5000, 5000]);
    jasmine.clock().tick(6 * 60_000);
    expect(await door.waitMs('Ada', '10.0.0.1')).toBe(0);
  });

  it('counts person and address apart: one name from many addresses, many names from one', async () => {
    const door = slowing();
    for (let n = 0; n < 4; n++) await door.try('Ada', `10.0.0.${n}`, refuse).catch(() => undefined);
    expect(await door.waitMs('ada', '10.9.9.9')).toBeGreaterThan(0);
    expect(await door.waitMs('Ben', '10.9.9.9')).toBe(0);
    for (let n = 0; n < 4; n++) await door.try(`N${n}`, '10.1.1.1', refuse).catch(() => undefined);
    expect(await door.waitMs('Ben', '10.1.1.1')).toBeGreaterThan(0);
  });

  it('lets a right passphrase through, and then forgets what was tried in that name', async () => {
    const door = slowing();
    for (let n = 0; n < 8; n++) await door.try('Ada', `10.0.1.${n}`, refuse).catch(() => undefined);
    expect(await door.try('Ada', '10.2.2.2', () => Promise.resolve('in'))).toBe('in');
    expect(await door.waitMs('Ada', '10.2.2.2')).toBe(0);
  });

  it('takes tries of one person from one address one after another', async () => {
    const door = slowing();
    let [now, most] = [0, 0];
    const check = async (): Promise<void> => {
      most = Math.max(most, ++now);
      await new Promise((later) => setTimeout(later, 2));
      now--;
    };
    await Promise.all([1, 2, 3, 4].map(() => door.try('Ada', '10.0.0.1', check)));
    expect(most).toBe(1);
  });

  it('has every refused try in the log, with where it came from and without the name', async () => {
    const door = slowing();
    for (let n = 0; n < 2; n++) await door.try('Ada', '10.0.0.1', refuse).catch(() => undefined);
    await door.try('Ada', '10.0.0.1', () => Promise.resolve('in'));
    expect(logged).toEqual([1, 2].map(() => ({ door: 'sign-in', address: '10.0.0.1' })));
  });

  it('does not count what is no refusal: a database that is away is nobody’s guess', async () => {
    const door = slowing();
    for (let n = 0; n < 6; n++)
      await door.try('Ada', '10.0.0.1', () => Promise.reject(new Error('away'))).catch(() => undefined);
    expect(await door.waitMs('Ada', '10.0.0.1')).toBe(0);
  });
});
