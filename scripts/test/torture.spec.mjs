import { torture } from '../lib/torture.mjs';

/** Everything wanted was done to it, and it came through. A writer whom the server does not know any more fails with what it was told. */
function expectUnharmed({ done, acknowledged, lost, twice, half, errors, away }) {
  expect(Object.values(done).every((times) => times > 0))
    .withContext(JSON.stringify(done))
    .toBeTrue();
  expect(acknowledged).toBeGreaterThan(50);
  expect({ lost, twice, half, errors }).toEqual({ lost: 0, twice: 0, half: 0, errors: [] });
  expect(away.every(({ ms }) => Number.isFinite(ms))).toBeTrue();
}

describe('an application that is hurt while people record work', () => {
  it('keeps all that it acknowledged, once and whole, and comes back by itself', async () => {
    expectUnharmed(
      await torture({
        minutes: 0.5,
        leastAcknowledged: 51,
        harms: [
          'connection killed',
          'connection ended',
          'database stopped',
          'database frozen',
          'server killed',
        ],
      }),
    );
  });

  it('goes on by its other process when one dies: nothing is lost, and nobody signs in again', async () => {
    expectUnharmed(
      await torture({
        minutes: 0.3,
        processes: 2,
        leastAcknowledged: 51,
        harms: ['server killed', 'balancer killed'],
      }),
    );
  });
});
