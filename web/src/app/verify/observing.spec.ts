import { MatButtonToggleGroupHarness, MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { TestBed } from '@angular/core/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import type { Link, LinkDetail } from '@near-spoke/contracts';
import { believe, intendedLink, observe, pictureExplanation, type Reading } from '@near-spoke/core';
import { LampTesterDesigner } from '../bench/lamp-tester';
import { PairHuntBench } from '../bench/pair-hunt';
import { MiniStrip } from '../drawing/mini-strip';
import { someExpectation } from '../testing/links';
import { detailWith, showRoom, type Room } from '../testing/rooms';
import { judgeMany, type Judged } from './diagnosing';
import { labelOfCode } from './label-scan';
import { OtherReading } from './other-reading';
import { Probe } from './probe';
import { SupplyNote } from './supply-note';
import { VerifyRoom } from './verify-room';

const expected = someExpectation();
const sound = intendedLink(expected);
const exchanged = { ...sound, far: { ...sound.far, 1: 'OG', 2: 'WH-OG' } };

async function type<C>(room: Room<C>, selector: string, text: string): Promise<void> {
  const field = room.page.querySelector(selector) as HTMLInputElement;
  field.value = text;
  field.dispatchEvent(new Event('input'));
  await room.fixture.whenStable();
}
async function click<C>(room: Room<C>, words: string): Promise<void> {
  const buttons = [...room.page.querySelectorAll<HTMLButtonElement>('button')];
  buttons.find((b) => b.textContent?.trim().startsWith(words))?.click();
  await room.fixture.whenStable();
}

describe('the led beeper', () => {
  async function probing(): Promise<{ room: Room<Probe>; taken: Reading[] }> {
    const room = await showRoom(Probe, { inputs: { expected } });
    const taken: Reading[] = [];
    room.fixture.componentInstance.taken.subscribe(({ reading }) => taken.push(reading));
    return { room, taken };
  }

  const prove = async (room: Room<Probe>, silent: number): Promise<void> => {
    expect(room.text('h2')).toContain('nothing should beep');
    for (let i = 0; i < silent; i++) await room.press('PageUp');
    expect(room.text('h2')).toBe('This path should beep');
    for (let i = 0; i < 8; i++) await room.press('PageDown');
    expect(room.text('h2')).toBe('The map is proved');
    await room.press('Enter');
  };

  it('holds each contact while those after it are swept, then asks eight paths, and saves what was answered', async () => {
    const { room, taken } = await probing();
    expect(room.text('.leads')).toContain('the other over these, one by one, near end');
    expect(room.text('.leads div:last-child strong')).toBe('2 3 4 5 6 7 8');
    await prove(room, 7);
    expect(taken[0]?.instrument).toBe('beeper');
    expect(taken[0]?.instrument === 'beeper' && taken[0].touches.length).toBe(15);
  });

  it('gangs contacts where there are clips, and says what either way costs', async () => {
    const { room, taken } = await probing();
    const ways = await room.loader.getAllHarnesses(MatButtonToggleHarness);
    const words = await Promise.all(ways.map((way) => way.getText()));
    expect(words[0]).toMatch(/^Two probes, 15 touches, about \d+ (s|min)$/);
    expect(words[1]).toMatch(/^Clips, 11 touches, about \d+ (s|min)$/);
    await ways[1]?.check();
    expect(room.text('h2')).toContain('Gang these contacts');
    await prove(room, 3);
    expect(taken[0]?.instrument === 'beeper' && taken[0].touches.length).toBe(11);
  });

  it('follows an answer up, and takes the last one back', async () => {
    const { room } = await probing();
    for (let i = 0; i < 7; i++) await room.press('PageUp');
    await room.press('PageUp');
    expect(room.text('section > p')).toContain('Touch 9');
    await room.press('Backspace');
    expect(room.text('section > p')).toContain('Touch 8');
    expect(room.text('h2')).toBe('This path should beep');
  });
});

describe('another observation', () => {
  async function observing(): Promise<{ room: Room<OtherReading>; taken: Reading[] }> {
    const room = await showRoom(OtherReading, { inputs: { expected } });
    const taken: Reading[] = [];
    room.fixture.componentInstance.taken.subscribe((reading) => taken.push(reading));
    return { room, taken };
  }

  it('of wiggling is what was marked', async () => {
    const { room, taken } = await observing();
    await click(room, '3');
    await click(room, 'Save');
    expect(taken).toEqual([{ instrument: 'wiggle', end: 'far', flickers: ['3'] }]);
  });

  it('of a supply is what the tester shows of both sets of pairs, and no more than that', async () => {
    const { room, taken } = await observing();
    await click(room, 'Power');
    expect(room.text('ns-fed-reading .unsure')).toContain('Unplug it again before any other reading');
    const group = async (name: string): Promise<MatButtonToggleHarness[]> =>
      (
        await room.loader.getHarness(MatButtonToggleGroupHarness.with({ ancestor: `.set:has(#fed-${name})` }))
      ).getToggles();
    await (await group('a'))[2]?.check();
    expect(room.text('[role="status"]')).toBe('Say of both sets of pairs what the tester shows.');
    await (await group('b'))[0]?.check();
    await (await room.loader.getHarness(MatInputHarness.with({ label: /^Volts/ }))).setValue('53,5');
    const offers = await room.loader.getHarness(MatSelectHarness.with({ label: 'It offers' }));
    await offers.clickOptions({ text: 'type 2' });
    await click(room, 'Save');
    expect(taken).toEqual([
      {
        instrument: 'power-tester',
        end: 'far',
        feeds: null,
        sets: { a: 'minus', b: 'none' },
        volts: 53.5,
        offers: 'type-2',
      },
    ]);
  });

  it('of capacitances is each pair’s figure with its unit, the leads taken off', async () => {
    const { room, taken } = await observing();
    await click(room, 'Capacitance');
    expect(room.text('ns-farads-reading .unsure')).toContain('unplugged and dead');
    const field = async (label: string): Promise<MatInputHarness> =>
      room.loader.getHarness(MatInputHarness.with({ label }));
    await (await field('1-2')).setValue('2,31');
    expect(room.text('[role="status"]')).toContain('a capacitance with its unit');
    await (await field('1-2')).setValue('2,31 nF');
    await (await field('3-6')).setValue('840 pF');
    await (await field('4-5')).setValue('OL');
    await (await field('The leads alone')).setValue('10 pF');
    await click(room, 'Save');
    expect(taken).toEqual([
      { instrument: 'capacitance-meter', end: 'far', nF: { '1-2': 2.3, '3-6': 0.83, '4-5': null } },
    ]);
    await (await field('The leads alone')).setValue('1 nF');
    expect(room.text('[role="status"]')).toContain('3-6 is less than the leads alone give');
  });

  it('of an ohmmeter is refused with words until it makes sense', async () => {
    const { room, taken } = await observing();
    await click(room, 'Ohmmeter');
    expect(room.text('[role="status"]')).toContain('at least one path');
    await type(room, '.grid input', 'much');
    expect(room.text('[role="status"]')).toContain('1: write ohms');
    await type(room, '.grid input', '87,5');
    await click(room, 'Save');
    expect(taken[0]).toEqual({
      instrument: 'ohmmeter',
      touches: [
        {
          from: { end: 'near', contacts: ['1'] },
          to: { end: 'far', contacts: ['1'] },
          closed: true,
          ohm: 87.5,
        },
      ],
    });
  });
});

describe('explanations in the verify room', () => {
  it('are small strips side by side with the words, and say what each reading ruled out', async () => {
    const room = await showRoom(VerifyRoom, { detail: detailWith(exchanged, ['coded-mapper', 'eye']) });
    await room.settled();
    expect(room.page.querySelectorAll('ns-mini-strip').length).toBeGreaterThan(0);
    const details = room.page.querySelector('details') as HTMLDetailsElement;
    details.open = true;
    details.dispatchEvent(new Event('toggle'));
    await room.settled();
    const story = [...room.page.querySelectorAll('.story li')].map((li) => li.textContent);
    expect(story.length).toBe(2);
    expect(story[1]).toContain('near end:');
  });
});

describe('a link under one explanation', () => {
  it('is drawn with its crossing at the end the explanation names, and nowhere else', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const [first] = believe(expected, [
      observe(exchanged, 'coded-mapper'),
      observe(exchanged, 'eye', { end: 'far' }),
    ]).hypotheses;
    const fixture = TestBed.createComponent(MiniStrip);
    fixture.componentRef.setInput(
      'picture',
      pictureExplanation(expected, first as NonNullable<typeof first>),
    );
    fixture.componentRef.setInput('lengthM', 40);
    await fixture.whenStable();
    const paths = [...(fixture.nativeElement as HTMLElement).querySelectorAll('g path:first-child')].map(
      (p) => p.getAttribute('d') ?? '',
    );
    expect(paths.length).toBe(8);
    const far = (d: string) => d.slice(d.lastIndexOf('M'));
    const straight = (d: string) =>
      new Set([...d.matchAll(/[ C](\d+(?:\.\d+)?)(?= |$)/g)].map((m) => m[1])).size;
    expect(straight(far(paths[0] as string))).toBeGreaterThan(straight(far(paths[3] as string)));
  });
});

describe('many links', () => {
  it('are judged in a worker, each told as it is ready', async () => {
    const judged: Judged[] = [];
    await new Promise<void>((done) => {
      judgeMany(
        [
          { expected, evidence: [observe(sound, 'coded-mapper')] },
          { expected, evidence: [observe(exchanged, 'coded-mapper')] },
        ],
        (index, one) => (judged[index] = one),
        done,
      );
    });
    expect(judged.map((one) => one.result)).toEqual(['pass', 'fail']);
  });

  it('may be cancelled: nothing more is told', async () => {
    let told = 0;
    const evidence = [observe(exchanged, 'coded-mapper')];
    const many = Array.from({ length: 500 }, () => ({ expected, evidence }));
    const batch = judgeMany(
      many,
      () => told++,
      () => undefined,
    );
    batch.cancel();
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(told).toBeLessThan(500);
  });

  it('are known by their label, alone or at the end of an address', () => {
    expect(labelOfCode('P1-05')).toBe('P1-05');
    expect(labelOfCode('https://near.example/l/P1-05 ')).toBe('P1-05');
  });
});

describe('the bench', () => {
  it('finds the telephone pair from volts', async () => {
    const room = await showRoom(PairHuntBench);
    await type(room, 'label:nth-of-type(2) input', '-48');
    expect(room.text('[role="status"]')).toContain('The line is on orange, with its legs exchanged');
  });

  it('does not take what is no voltage for one that was not measured', async () => {
    const room = await showRoom(PairHuntBench);
    await type(room, 'label:nth-of-type(2) input', '48 V');
    expect(room.text('label:nth-of-type(2) .wrong')).toContain('write volts as a figure');
    expect(room.text('[role="status"]')).toBe('');
    await type(room, 'label:nth-of-type(2) input', '48,5');
    expect(room.text('label:nth-of-type(2) .wrong')).toBe('');
    expect(room.text('[role="status"]')).toContain('The line is on orange');
  });

  it('works a lamp tester out, and says why it cannot', async () => {
    const room = await showRoom(LampTesterDesigner);
    expect(room.text('dd')).toContain('820 ohm');
    const [wayBack, resistor] = [...room.page.querySelectorAll('select')];
    const choose = async (select: HTMLSelectElement | undefined, value: string): Promise<void> => {
      if (!select) throw new Error('no such choice');
      select.value = value;
      select.dispatchEvent(new Event('change'));
      await room.fixture.whenStable();
    };
    const blindBefore = room.text('.unsure');
    await choose(wayBack, 'one for all');
    expect(room.text('[role="status"]')).toContain('The solid wires of all pairs joined');
    expect(room.text('.unsure').length).toBeGreaterThan(blindBefore.length);
    expect(room.text('[role="status"]')).toMatch(/exchanged at its far plug.*stay dark/s);
    await choose(resistor, 'one in the supply');
    expect(room.text('[role="status"]')).toContain('2.1 mA: dimmer than alone');
    await type(room, 'input', '1');
    expect(room.text('[role="status"]')).toContain('does not light');
  });
});

describe('what feeds a link', () => {
  const supplied = (power: Link['carries']['power'], ...readings: Reading[]): LinkDetail => {
    const detail = detailWith(sound, ['coded-mapper', ...readings.map(() => 'coded-mapper' as const)]);
    const tests = detail.tests.map((test, n) => ({ ...test, reading: readings[n - 1] ?? test.reading }));
    return { ...detail, tests, link: { ...detail.link, carries: power ? { power } : {} } };
  };
  const shows = (offers: string): Reading => ({
    instrument: 'power-tester',
    end: 'far',
    feeds: null,
    sets: { a: 'plus', b: 'none' },
    offers,
  });

  it('is held against the device planned, by the newest reading of it', async () => {
    const device = { type: 'type-2', deviceW: 25 };
    const room = await showRoom(SupplyNote, {
      inputs: { detail: supplied(device, shows('type-2'), shows('type-1')) },
    });
    expect(room.text('.unsure')).toContain('offers type 1, 12.95 W at the device, and 25 W are planned');
    room.fixture.componentRef.setInput('detail', supplied(device, shows('type-1'), shows('type-2')));
    await room.fixture.whenStable();
    expect(room.page.textContent?.trim()).toBe('');
    room.fixture.componentRef.setInput('detail', supplied(undefined, shows('type-1')));
    await room.fixture.whenStable();
    expect(room.page.textContent?.trim()).toBe('');
  });
});
