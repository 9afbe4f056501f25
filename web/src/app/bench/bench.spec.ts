import { planIdentification } from '@near-spoke/core';
import { showRoom, type Room } from '../testing/rooms';
import { HeatShrink } from './heat-shrink';
import { readGroups, UnmarkedWires } from './unmarked-wires';

async function type<C>(room: Room<C>, selector: string, text: string): Promise<void> {
  const field = room.page.querySelector(selector) as HTMLInputElement;
  field.value = text;
  field.dispatchEvent(new Event('input'));
  await room.fixture.whenStable();
}
async function press<C>(room: Room<C>, words: string): Promise<void> {
  [...room.page.querySelectorAll('button')].find((b) => b.textContent?.includes(words))?.click();
  await room.fixture.whenStable();
}

/** A cable of six: number n at A is the letter at this place at B. */
const LETTERS = ['c', 'a', 'f', 'b', 'e', 'd'];
const letter = (n: number): string => LETTERS[n - 1] as string;
const number = (name: string): number => LETTERS.indexOf(name) + 1;

describe('unmarked wires on the bench', () => {
  const plan = planIdentification({ count: 6, hasReturn: false });
  if (plan.way !== 'walk') throw new Error(plan.way);
  const atB = plan.groupsAtA.map((g) => g.map(letter).join(' ')).join('\n');

  it('are led through there and back until each is known', async () => {
    const room = await showRoom(UnmarkedWires);
    expect(room.page.textContent).toContain('2 walks');
    await press(room, 'I am at B');
    await type(room, 'textarea', atB);
    await press(room, 'That is what I found');
    expect(room.text('h3')).toBe('Still at B: join these, prove them, and walk back');
    const joined = [...room.page.querySelectorAll('.groups li')].map((li) =>
      (li.textContent ?? '').trim().split(' – '),
    );
    const alone = LETTERS.filter((name) => !joined.flat().includes(name)).map((name) => [name]);
    const back = [...joined, ...alone].map((g) => g.map(number).join(', ')).join('\n');
    await type(room, 'textarea', back);
    await press(room, 'That is what I found');
    const lines = [...room.page.querySelectorAll('.names li')].map((li) =>
      li.textContent?.replace(/\s+/g, ' ').trim(),
    );
    expect(lines).toEqual(LETTERS.map((name, i) => `${i + 1} is ${name}`));
  });

  it('stop at a join that was missed, and at a name written twice', async () => {
    const room = await showRoom(UnmarkedWires);
    await press(room, 'I am at B');
    await type(room, 'textarea', 'a\nb\nc\nd\ne\nf');
    await press(room, 'That is what I found');
    expect(room.text('[role=alert]')).toContain('found here are 1, 1, 1, 1, 1, 1');
    await type(room, 'textarea', 'a b\nb c\nd e f');
    await press(room, 'That is what I found');
    expect(room.text('[role=alert]')).toContain('b is written in two places');
    expect(room.text('h3')).toBe('At B: which beep together?');
  });

  it('say honestly what cannot be done, and what is no count', async () => {
    const room = await showRoom(UnmarkedWires);
    await type(room, '.means input', '2');
    expect(room.text('[role=status]')).toContain('Find a return');
    await type(room, '.means input', '900');
    expect(room.text('[role=status]')).toContain('from 2 to 200');
    await type(room, '.means input', '5');
    expect(room.page.textContent).toContain('3 walks');
  });

  it('are read as people write them', () => {
    expect(readGroups('a, b  c\n\n d;e f')).toEqual([['a', 'b', 'c'], ['d'], ['e', 'f']]);
  });
});

describe('the heat-shrink chooser', () => {
  it('answers while it is typed, with a comma or a point, and says what makes no sense', async () => {
    const room = await showRoom(HeatShrink);
    expect(room.text('tbody tr')).toContain('4.8 mm, 2:1');
    await type(room, 'input', '5,0');
    expect(room.text('tbody tr')).toContain('3:1');
    await type(room, 'input', '1');
    expect(room.text('[role=status]')).toContain('exchange the two');
    await type(room, 'input', 'wide');
    expect(room.text('[role=status]')).toContain('lengths over 0 mm');
  });
});
