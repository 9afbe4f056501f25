import { type HarnessLoader } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatFormFieldHarness } from '@angular/material/form-field/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { Role } from '@near-spoke/contracts';
import type { EchoReading } from '@near-spoke/core';
import { LinkEvents } from '../link/link.state';
import { someDetail } from '../testing/links';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { LocateRoom } from './locate-room';

describe('placing without a file', () => {
  let room: Room<LocateRoom>;
  let loader: HarnessLoader;

  async function show(role: Role = 'technician'): Promise<void> {
    const server = new FakeServer({
      listTraces: () => [],
      goodTraces: () => [],
      listReels: () => [],
      listVelocities: () => [],
      benchScope: () => null,
    });
    TestBed.configureTestingModule({ providers: [server.provider] });
    room = await showRoom(LocateRoom, { role, detail: someDetail() });
    await room.settled();
    loader = TestbedHarnessEnvironment.loader(room.fixture);
    await room.press('t');
  }
  const fieldOf = (label: string): Promise<MatFormFieldHarness> =>
    loader.getHarness(MatFormFieldHarness.with({ floatingLabelText: label }));
  async function write(label: string, text: string): Promise<void> {
    const input = await (await fieldOf(label)).getControl(MatInputHarness);
    await input?.setValue(text);
  }
  async function choose(label: string, option: string): Promise<void> {
    const select = await (await fieldOf(label)).getControl(MatSelectHarness);
    await select?.open();
    await select?.clickOptions({ text: option });
  }
  const way = async (text: string): Promise<void> =>
    (await loader.getHarness(MatButtonToggleHarness.with({ text }))).check();
  const title = (): string => room.text('#hand-place-title');
  async function keep(): Promise<{ reading: EchoReading; instrumentName: string; note: string }> {
    await (await loader.getHarness(MatCheckboxHarness)).check();
    await (await loader.getHarness(MatButtonHarness.with({ text: /^Keep it as a reading/ }))).click();
    const taken = room.asked.find((action) => action.type === LinkEvents.readingTaken.type) as unknown as {
      test: { reading: EchoReading; instrumentName: string; note: string };
    };
    return taken.test;
  }

  it('places an echo by two typed times, on the route, with the sum', async () => {
    await show();
    await write('Launch to echo, or both cursors', '12.0 ns to 153,8 ns');
    await write('Time per division', '20 ns');
    await write('Velocity factor', '0.694');
    expect(title()).toMatch(/^Open at 14\.[67]\d m$/);
    expect(room.text('.sum')).toContain('0.694 × 0.2998 m/ns × (141.8 −');
    expect(room.text('ns-by-hand')).toContain('In tray over hall');
    const { reading, instrumentName, note } = await keep();
    expect([reading.by, reading.from, instrumentName]).toEqual([
      'cursors',
      'near',
      'cursors, read by eye off a screen',
    ]);
    expect(reading.pairs['1-2']?.[0]?.kind).toBe('open');
    expect(note).toContain('0.694 × 0.2998 m/ns');
    expect(room.ways).toEqual(['/jobs/job/links/link/verify']);
  });

  it('counts from the end it was read at, and takes the echo’s way from its height', async () => {
    await show();
    await choose('Read from', 'far end');
    await write('Launch to echo, or both cursors', '0.1418 us');
    expect(title()).toMatch(/^Open at/);
    await write('Echo’s height, %', '−35');
    expect(title()).toMatch(/^Short at/);
    expect(room.text('ns-by-hand')).toContain('From the far end');
    const { reading } = await keep();
    expect([reading.from, reading.pairs['1-2']?.[0]?.kind]).toEqual(['far', 'short']);
  });

  it('places an open by two capacitances, and says what would narrow one', async () => {
    await show();
    await way('Capacitance');
    expect(title()).toBe('Not placed yet');
    await write('Cable length, metres', '31.4');
    await write('From the near end', '0.62 nF');
    const width = (): number => Number(/take ([\d.]+) m/.exec(room.text('ns-by-hand'))?.[1]);
    const alone = width();
    expect(room.text('ns-by-hand')).toContain('A good pair of the same cable');
    await write('Good to ± metres, 95 %', '0.2');
    await write('From the far end', '1010 pF');
    expect(title()).toBe('Open at 11.94 m');
    expect(room.text('.sum')).toBe('31.4 m × 0.620 / (0.620 + 1.010) = 11.94 m');
    expect(width()).toBeLessThan(alone / 3);
    expect((await keep()).reading.by).toBe('capacitance');
  });

  it('places a short by the ohms from both ends, and asks for the end that is missing', async () => {
    await show();
    await way('Ohms');
    await write('Cable length, metres', '31.4');
    await write('Loop, near end', '2.1');
    expect(room.text('ns-by-hand [role="alert"]')).toContain('only from both ends');
    await write('Loop, far end', '3.4 ohm');
    await write('Loop of a good pair', '5.29');
    expect(title()).toBe('Short at 11.84 m');
    expect(room.text('ns-by-hand')).toContain('The contact itself has 0.1');
    expect((await keep()).instrumentName).toBe('ohmmeter, from both ends');
  });

  it('says of each figure that cannot be what to write, and keeps nothing', async () => {
    await show();
    const wrong = (): string => room.text('ns-by-hand .wrong');
    await write('Launch to echo, or both cursors', '41.8');
    expect(wrong()).toContain('Launch to echo: write a time with its unit, such as 41.8 ns');
    await write('Launch to echo, or both cursors', '153 ns to 12 ns');
    expect(wrong()).toContain('first cursor on the launch');
    await write('Launch to echo, or both cursors', '8 ns');
    await write('Lead, metres', '1');
    expect(wrong()).toContain('before the lead of 1 m ends');
    await write('Velocity factor', '7');
    expect(wrong()).toContain('Velocity factor: write a figure from 0.3 to 1.');
    await way('Capacitance');
    await write('From the near end', '62 nF');
    expect(wrong()).toContain('something is connected to the pair');
    await write('Cable length, metres', '0');
    expect(wrong()).toContain('Cable length: write metres from 0.1');
    expect(await loader.getAllHarnesses(MatCheckboxHarness)).toHaveSize(0);
    await room.press('Escape');
    expect(room.page.querySelector('ns-by-hand')).toBeNull();
    expect(room.asked.some((action) => action.type === LinkEvents.readingTaken.type)).toBeFalse();
  });

  it('wants both ends said to be dead, and is not for a viewer', async () => {
    await show();
    await write('Launch to echo, or both cursors', '141.8 ns');
    const button = await loader.getHarness(MatButtonHarness.with({ text: /^Keep it as a reading/ }));
    expect(await button.isDisabled()).toBeTrue();
    TestBed.resetTestingModule();
    await show('viewer');
    expect(room.page.querySelector('ns-by-hand')).toBeNull();
  });
});
