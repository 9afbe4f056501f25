import { intendedLink, type Reading } from '@near-spoke/core';
import { someExpectation } from '../testing/links';
import { showRoom } from '../testing/rooms';
import { ColourCheck, type Sight } from '../colours/colour-check';
import { KeyIn } from './key-in';

const expected = someExpectation();
const sound = intendedLink(expected);

async function keyIn() {
  const room = await showRoom(KeyIn, { inputs: { expected } });
  const taken: Reading[] = [];
  room.fixture.componentInstance.taken.subscribe((reading) => taken.push(reading));
  return { ...room, taken };
}

async function colours(inputs: Record<string, unknown> = {}) {
  const card = Object.entries(sound.far).map(([contact, conductor]) => ({ contact, conductor }));
  const room = await showRoom(ColourCheck, { inputs: { card, where: 'far plug', plug: true, ...inputs } });
  const taken: Sight[] = [];
  room.fixture.componentInstance.taken.subscribe((seen) => taken.push(seen));
  return { ...room, taken };
}

describe('the keypad', () => {
  it('asks for one contact after the other and will not save before all are answered', async () => {
    const { page, press, taken, text } = await keyIn();
    expect(text('[role=status]')).toBe('Where does near contact 1 arrive?');
    await press('1');
    expect(text('[role=status]')).toBe('Where does near contact 2 arrive?');
    expect(page.querySelector<HTMLButtonElement>('.save')?.disabled).toBeTrue();
    await press('Enter');
    expect(taken).toEqual([]);
  });

  it('takes opens, shorts and corrections by key, as a mapper would have told them', async () => {
    const { press, taken } = await keyIn();
    for (const key of ['2', '1', '0', 'Backspace', '3', '+', '4', '=', 'Enter']) await press(key);
    expect(taken.length).toBe(1);
    const { arrivals } = taken[0] as Extract<Reading, { joins: unknown }>;
    expect(arrivals['1']).toEqual(['2']);
    expect(arrivals['3']).toEqual(['3', '4']);
    expect(arrivals['8']).toEqual(['8']);
  });

  it('asks for lamps where the instrument has lamps', async () => {
    const { fixture, page, taken, press } = await keyIn();
    const select = page.querySelector('select') as HTMLSelectElement;
    select.value = 'lamp-pairs';
    select.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    const dark = [...page.querySelectorAll<HTMLButtonElement>('.answer button')].find((b) =>
      b.textContent?.includes('4-5'),
    );
    dark?.click();
    await fixture.whenStable();
    await press('Enter');
    expect(taken).toEqual([
      { instrument: 'lamp-pairs', lamps: { '1-2': true, '3-6': true, '4-5': false, '7-8': true } },
    ]);
  });

  it('records the split pairs a crosstalk mapper shows', async () => {
    const { fixture, page, press, taken } = await keyIn();
    const split = [...page.querySelectorAll<HTMLButtonElement>('.finish button')].find((b) =>
      b.textContent?.includes('3-6'),
    );
    split?.click();
    await fixture.whenStable();
    await press('=');
    await press('Enter');
    expect((taken[0] as Extract<Reading, { joins: unknown }>).splits).toEqual(['3-6']);
  });
});

describe('reading colours', () => {
  it('takes letters, W first for the white mate, and says where it differs from the card', async () => {
    const { press, taken, text } = await colours();
    for (const key of ['o', 'w', 'o', 'w', 'g', 'u', 'w', 'u', 'g', 'w', 'n', 'n']) await press(key);
    expect(text('[role=status]')).toContain('Not as the card on 1, 2. 1 and 2 have slipped');
    await press('Enter');
    expect(taken).toEqual([
      { colours: { 1: 'OG', 2: 'WH-OG', 3: 'WH-GN', 4: 'BU', 5: 'WH-BU', 6: 'GN', 7: 'WH-BN', 8: 'BN' } },
    ]);
  });

  it('goes back, and leaves an empty contact empty', async () => {
    const { press, taken } = await colours();
    for (const key of ['n', 'Backspace', '0', '=', 'Enter']) await press(key);
    expect(taken[0]?.colours['1']).toBeNull();
    expect(taken[0]?.empty).toEqual(['1']);
    expect(taken[0]?.colours['8']).toBe('BN');
  });

  it('tells a contact that cannot be read from an empty one, and takes either back', async () => {
    const { press, taken, text } = await colours();
    for (const key of ['0', 'Backspace', '-', '=']) await press(key);
    expect(text('ol li strong')).toBe('unread');
    expect(text('ns-plug-face .code')).toBe('?');
    expect(text('[role=status]')).toBe('The rest is as the card; 1 could not be read.');
    await press('Enter');
    expect(taken).toEqual([{ colours: { ...sound.far, 1: null } }]);
  });

  it('does not show the intended order beforehand, so that a person reads and does not repeat', async () => {
    const { page } = await colours();
    const shown = [...page.querySelectorAll('ol li strong')].map((e) => e.textContent?.trim());
    expect(shown).toEqual(['?', '·', '·', '·', '·', '·', '·', '·']);
    expect([...page.querySelectorAll('ns-plug-face .code')].map((e) => e.textContent)).toEqual(
      Array(8).fill('?'),
    );
  });

  it('fills in what the stand-in shows of a simulated end', async () => {
    const there = await colours({
      seen: { colours: { ...sound.far, 7: 'BN', 8: 'WH-BN' } },
      simulated: true,
    });
    expect(there.text('[role=status]')).toContain('Not as the card on 7, 8.');
    expect(there.page.textContent).toContain('Look at the simulated end');
  });

  it('offers the colours in an order that gives nothing away', async () => {
    const { page } = await colours();
    const offered = [...page.querySelectorAll('.palette .figure')].map((e) => e.textContent);
    expect(offered).toEqual([...offered].sort());
  });
});
