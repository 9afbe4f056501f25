import { showRoom, type Room } from '../testing/rooms';
import { SupervisedLoopBench } from './supervised-loop';

describe('a supervised loop on the bench', () => {
  const type = async (room: Room<SupervisedLoopBench>, label: string, text: string): Promise<void> => {
    const field = [...room.page.querySelectorAll('label')].find((each) => each.textContent?.includes(label));
    const input = field?.querySelector('input') as HTMLInputElement;
    input.value = text;
    input.dispatchEvent(new Event('input'));
    await room.fixture.whenStable();
  };
  const choose = async (room: Room<SupervisedLoopBench>, label: string, words: string): Promise<void> => {
    const field = [...room.page.querySelectorAll('label')].find((each) => each.textContent?.includes(label));
    const select = field?.querySelector('select') as HTMLSelectElement;
    select.selectedIndex = [...select.options].findIndex(({ text }) => text.includes(words));
    select.dispatchEvent(new Event('change'));
    await room.fixture.whenStable();
  };

  it('shows what each state reads, and marks the one that the meter shows', async () => {
    const room = await showRoom(SupervisedLoopBench);
    expect(room.text('table')).toContain('4.42 kΩ to 4.99 kΩ');
    await type(room, 'The meter reads', '9.4 kohm');
    expect(room.text('[role=status]')).toContain('It is alarm.');
    expect(room.text('tr.now')).toContain('alarm');
    await type(room, 'The meter reads', 'open');
    expect(room.text('[role=status]')).toContain('It is tamper or cut.');
    await type(room, 'The meter reads', '1.2 kohm');
    expect(room.text('[role=status]')).toContain('It is nothing this loop can be');
  });

  it('asks for the resistors that the layout has, and warns of one that watches nothing', async () => {
    const room = await showRoom(SupervisedLoopBench);
    await choose(room, 'Built as', 'one resistor');
    expect(room.page.textContent).not.toContain('Across the alarm contact');
    await choose(room, 'The end’s resistor lies', 'in the panel');
    expect(room.text('[role=status]')).toContain('belongs behind the last detector');
  });

  it('names the field that is no figure, and keeps the rest', async () => {
    const room = await showRoom(SupervisedLoopBench);
    await type(room, 'Cable, panel to detector', 'long');
    expect(room.text('[role=alert]')).toContain('Cable, panel to detector');
    expect(room.page.querySelector('table')).toBeNull();
    await type(room, 'Cable, panel to detector', '100 ft');
    expect(room.page.querySelector('[role=alert]')).toBeNull();
  });
});
