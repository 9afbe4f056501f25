import { showRoom, type Room } from '../testing/rooms';
import { MeasureLine, type LineMeasured } from './measure-line';

/** A signal line that sends: 5 V logic at a bit of 104 µs, sampled every 2 µs. */
const SAMPLES = Array.from({ length: 2000 }, (_, n) => {
  const bit = Math.floor(n / 52);
  const high = [1, 0, 1, 1, 0, 0, 1, 0][bit % 8] === 1;
  return (high ? 4.8 : 0.3) + 0.02 * Math.sin(n * 1.7);
});
const asTable = (withTimes: boolean): string =>
  [
    withTimes ? 'time (s),CH1 (V)' : 'volts',
    ...SAMPLES.map((volts, n) =>
      withTimes ? `${(n * 2e-6).toFixed(7)},${volts.toFixed(4)}` : volts.toFixed(4),
    ),
  ].join('\n');

async function show(): Promise<{ room: Room<MeasureLine>; taken: LineMeasured[] }> {
  const room = await showRoom(MeasureLine, { inputs: { name: 'TXD' } });
  const taken: LineMeasured[] = [];
  room.fixture.componentInstance.taken.subscribe((one) => taken.push(one));
  return { room, taken };
}
function choose(room: Room<MeasureLine>, text: string): void {
  const field = room.page.querySelector('input[type="file"]') as HTMLInputElement;
  const files = new DataTransfer();
  files.items.add(new File([text], 'line.csv'));
  field.files = files.files;
  field.dispatchEvent(new Event('change'));
}

describe('the levels of a line that sends', () => {
  it('come from its samples, which are shown between them', async () => {
    const { room, taken } = await show();
    expect(room.text('label')).toContain('Samples of TXD while it sends');
    choose(room, asTable(true));
    await room.until(() => room.text('dl') !== '');
    expect(room.text('dl')).toMatch(/Low, high ?0\.\d+ V, 4\.\d+ V/);
    expect(room.text('dl')).toContain('9,6');
    expect(room.page.querySelector('.samples')?.getAttribute('d')?.length).toBeGreaterThan(500);
    (room.page.querySelector('button') as HTMLButtonElement).click();
    expect(taken[0]?.levels.lowV).toBeCloseTo(0.3, 1);
    expect(taken[0]?.levels.highV).toBeCloseTo(4.8, 1);
    expect(taken[0]?.levels.shortestBitS).toBeCloseTo(104e-6, 5);
  });

  it('ask how far apart the samples are where the file does not say, until the answer is one', async () => {
    const { room } = await show();
    choose(room, asTable(false));
    await room.until(() => room.page.querySelector('.row input') !== null);
    const answer = async (text: string): Promise<void> => {
      const field = room.page.querySelector('.row input') as HTMLInputElement;
      field.value = text;
      field.dispatchEvent(new Event('change'));
      await room.fixture.whenStable();
    };
    await answer('2 us');
    expect(room.text('.wrong')).toBe('Interval: write nanoseconds, over 0.');
    await answer('2000');
    await room.until(() => room.text('dl') !== '');
    expect(room.text('.wrong')).toBe('');
  });

  it('are not told of a line that stands still', async () => {
    const { room, taken } = await show();
    choose(room, ['time (s),CH1 (V)', ...SAMPLES.map((_, n) => `${(n * 2e-6).toFixed(7)},3.3`)].join('\n'));
    await room.until(() => room.text('.wrong') !== '');
    expect(room.page.querySelector('dl')).toBeNull();
    expect(room.page.querySelector('button')).toBeNull();
    expect(taken).toEqual([]);
  });
});
