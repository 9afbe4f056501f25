import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { NewVelocity } from '@near-spoke/contracts';
import { echoDistanceM, LINE_FAULTS } from '@near-spoke/core';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { asTable, LEAD, shippedCable, someTrace } from '../testing/traces';
import { BreakALine } from './break-a-line';
import { LineBench } from './line-bench';
import { MeasureVelocity } from './measure-velocity';
import { PlanALaunch } from './plan-a-launch';

const rg6 = shippedCable('rg6');
const cat6 = shippedCable('cat6-u');
const cables = [rg6, cat6];
const shelf = (): FakeServer =>
  new FakeServer({
    listReels: () => [],
    listVelocities: () => [],
    benchScope: () => null,
    addVelocity: ({ body }) => [
      { ...(body as NewVelocity), lot: '', reelId: null, at: '2026-11-02T08:00:00.000Z', by: 'Me' },
    ],
  });

function field<C>(room: Room<C>, label: string): HTMLInputElement {
  const labels = [...room.page.querySelectorAll('label')];
  const found = labels.find((one) => one.textContent?.trim().startsWith(label));
  if (!found) throw new Error(`No field "${label}".`);
  return found.querySelector('input, select') as HTMLInputElement;
}
async function write<C>(room: Room<C>, label: string, text: string, event = 'change'): Promise<void> {
  const input = field(room, label);
  input.value = text;
  input.dispatchEvent(new Event(event));
  await room.fixture.whenStable();
}
function button<C>(room: Room<C>, words: string): HTMLButtonElement {
  const all = [...room.page.querySelectorAll<HTMLButtonElement>('button')];
  return all.find((one) => one.textContent?.trim().startsWith(words)) as HTMLButtonElement;
}

describe('the line bench', () => {
  it('opens the tool that the address names, and offers only cables that a wave can be sent into', async () => {
    TestBed.configureTestingModule({ providers: [shelf().provider, provideRouter([])] });
    const room = await showRoom(LineBench, { inputs: { tool: 'launch' } });
    await room.settled();
    expect(room.page.querySelector('ns-plan-a-launch')).not.toBeNull();
    const offered = [...room.page.querySelectorAll('select')][0]?.textContent ?? '';
    expect(offered).toContain(rg6.name);
    expect(offered).toContain(cat6.name);
    room.fixture.componentRef.setInput('tool', 'break');
    await room.fixture.whenStable();
    expect(room.page.querySelector('ns-break-a-line')).not.toBeNull();
    room.fixture.componentRef.setInput('tool', 'anything else');
    await room.fixture.whenStable();
    expect(room.page.querySelector('ns-measure-velocity')).not.toBeNull();
  });
});

describe('a velocity from pieces of known length', () => {
  const measure = async (server = shelf()): Promise<{ room: Room<MeasureVelocity>; server: FakeServer }> => {
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(MeasureVelocity, { inputs: { cables } });
    await write(room, 'Lead, metres', String(LEAD.lengthM));
    await write(room, 'Lead’s velocity factor', String(LEAD.velocityFactor));
    return { room, server };
  };
  const give = async (room: Room<MeasureVelocity>, n: number, lengthM: number): Promise<void> => {
    await write(room, `Piece ${n + 1}, metres`, String(lengthM), 'input');
    const input = room.page.querySelectorAll<HTMLInputElement>('input[type="file"]')[n] as HTMLInputElement;
    const files = new DataTransfer();
    files.items.add(new File([asTable(someTrace(rg6, lengthM, []))], `piece ${n + 1}.csv`));
    input.files = files.files;
    input.dispatchEvent(new Event('change'));
  };
  const result = (room: Room<MeasureVelocity>): number =>
    Number(room.text('[aria-labelledby="result-title"] strong'));

  it('comes out as the cable’s own from one piece, with the arithmetic written out', async () => {
    const { room } = await measure();
    await give(room, 0, 20);
    await room.until(() => result(room) > 0);
    expect(Math.abs(result(room) - rg6.velocityFactor)).toBeLessThan(0.006);
    const written = room.text('[aria-labelledby="result-title"] .figure.small');
    const [, length, ns, before] =
      /2 × ([\d.]+) m \/ \(0.2998 m\/ns × \(([\d.]+) − ([\d.]+)\) ns\)/.exec(written) ?? [];
    expect(Number(length)).toBe(20);
    // What is written out gives what is shown.
    const delayS = (Number(ns) - Number(before)) * 1e-9;
    expect(echoDistanceM(delayS, result(room))).toBeCloseTo(20, 1);
  });

  it('is free of the lead from two', async () => {
    const { room } = await measure();
    await write(room, 'Lead, metres', '4');
    await give(room, 0, 12);
    button(room, 'Another piece').click();
    await room.fixture.whenStable();
    await give(room, 1, 30);
    await room.until(() => room.text('[aria-labelledby="result-title"]').includes('Before the cable'));
    expect(Math.abs(result(room) - rg6.velocityFactor)).toBeLessThan(0.006);
    // The lead was told wrong: the pieces say what it takes.
    const before = Number(
      /Before the cable ([\d.]+) ns/.exec(room.text('[aria-labelledby="result-title"]'))?.[1],
    );
    expect(before).toBeCloseTo((2 * LEAD.lengthM) / (LEAD.velocityFactor * 0.2998), 0);
  });

  it('is not reckoned with a figure that is none', async () => {
    const { room } = await measure();
    await give(room, 0, 20);
    await room.until(() => result(room) > 0);
    await write(room, 'Piece 1, metres', '20 m', 'input');
    expect(room.text('[aria-labelledby="result-title"] .wrong')).toBe(
      'Piece 1: write metres from 0.1 to 10000.',
    );
    await write(room, 'Piece 1, metres', '20', 'input');
    await write(room, 'Lead, metres', 'short');
    expect(room.text('[aria-labelledby="result-title"] .wrong')).toBe('Lead: write metres from 0 to 1000.');
  });

  it('is kept once, however often the answer is lost', async () => {
    const { room, server } = await measure();
    await give(room, 0, 20);
    await room.until(() => result(room) > 0);
    const keeps = server.answers.addVelocity as NonNullable<typeof server.answers.addVelocity>;
    server.answers.addVelocity = () => {
      throw refusal('No answer', 0);
    };
    button(room, 'Keep it for').click();
    await room.settled();
    expect(room.text('ns-problem-note')).toContain('No answer');
    server.answers.addVelocity = keeps;
    button(room, 'Keep it for').click();
    await room.settled();
    const [lost, kept] = server.sent('addVelocity').map((one) => one.body as NewVelocity);
    expect(kept).toEqual(lost as NewVelocity);
    expect(kept?.pieces.map(({ lengthM }) => lengthM)).toEqual([20]);
    expect(room.text('[aria-labelledby="result-title"] [role="status"]')).toBe('Kept for this cable.');
  });
});

describe('planning a launch', () => {
  const plan = async (): Promise<Room<PlanALaunch>> => {
    TestBed.configureTestingModule({ providers: [shelf().provider] });
    return showRoom(PlanALaunch, { inputs: { cables } });
  };
  const width = (room: Room<PlanALaunch>): number => parseFloat(room.text('dd'));

  it('sends a wider pulse the further and the smaller what is looked for', async () => {
    const room = await plan();
    await write(room, 'About so long', '20', 'input');
    const near = width(room);
    await write(room, 'About so long', '600', 'input');
    const far = width(room);
    expect(far).toBeGreaterThan(near);
    await write(room, 'Looked for', 'joint');
    expect(width(room)).toBeGreaterThanOrEqual(far);
  });

  it('says when no pulse would show it', async () => {
    const room = await plan();
    await write(room, 'About so long', '15000', 'input');
    await write(room, 'Looked for', 'joint');
    expect(room.text('.unsure')).toContain('from 15000 m. Measure from both');
    expect(room.page.querySelector('ns-sight-plot')).not.toBeNull();
  });

  it('takes what is on the bench, says what limits it, and what a drawer leaves of an echo', async () => {
    const room = await plan();
    const before = room.text('dl');
    await write(room, 'Generator’s fastest edge', '30 ns', 'input');
    expect(room.text('dl')).not.toBe(before);
    expect(room.text('dl')).toContain('the generator’s edge');
    await write(room, 'Generator’s fastest edge', '30', 'input');
    expect(room.text('details [role="alert"]')).toContain('write a time with its unit');
    await write(room, 'Generator’s fastest edge', '', 'input');
    expect(room.text('dl')).toBe(before);
    await write(room, 'Resistors in the drawer', '47, 100, 220', 'input');
    expect(room.text('[aria-labelledby="match-title"]')).toContain('100 ∥ 220 Ω = 68.8 Ω');
  });

  it('plans nothing from a figure that is none', async () => {
    const room = await plan();
    for (const [label, text] of [
      ['About so long', 'long'],
      ['About so long', '0'],
      ['Noise', '0'],
      ['Noise', '200'],
    ] as const) {
      const was = field(room, label).value;
      await write(room, label, text, 'input');
      expect(room.text('[role="alert"]')).withContext(`${label} ${text}`).toContain('Give a length from 0.5');
      await write(room, label, was, 'input');
      expect(room.page.querySelector('[role="alert"]')).toBeNull();
    }
  });

  it('closes a line by the nearest of the series, the cable’s own marked', async () => {
    const room = await plan();
    const row = room.page.querySelector('tr.here');
    expect(row?.querySelector('th')?.textContent).toBe('75 Ω');
    const parts = (row?.querySelector('td')?.textContent ?? '').split('∥').map(Number);
    const ohm = 1 / parts.reduce((sum, part) => sum + 1 / part, 0);
    expect(Math.abs(ohm - 75)).toBeLessThan(1.5);
  });
});

describe('a line to break', () => {
  const broken = async (): Promise<Room<BreakALine>> => {
    const room = await showRoom(BreakALine, { inputs: { cables } });
    await room.until(() => room.text('[aria-label="Events read"]') !== '');
    return room;
  };
  const events = (room: Room<BreakALine>): string => room.text('[aria-label="Events read"]');

  it('shows what a fault does to the trace, where it was put', async () => {
    const room = await broken();
    await write(room, 'Fault', 'open');
    const atM = (): number => Number(/([\d.]+) m open/.exec(events(room))?.[1]);
    await room.until(() => Math.abs(atM() - 24) < 0.5);
    await write(room, 'Where', '0.5', 'input');
    await room.until(() => Math.abs(atM() - 30) < 0.5);
    expect(room.text('[aria-labelledby="fault-title"] .quiet')).toBe(LINE_FAULTS.open.words);
  });

  it('has nothing to show when it is closed by its own impedance and nothing is wrong', async () => {
    const room = await broken();
    await write(room, 'Fault', '');
    await write(room, 'Far end', 'matched');
    await room.until(() => events(room).includes('Nothing reflects') || events(room).includes('matched end'));
    expect(room.text('[aria-labelledby="fault-title"] .quiet')).toBe('nothing is wrong with it');
  });

  it('hides what it broke until the answer is given, and then judges place and kind', async () => {
    const room = await broken();
    button(room, 'Break it for me').click();
    await room.fixture.whenStable();
    expect(room.page.querySelector('[aria-label="Events read"]')).toBeNull();
    expect(room.text('[aria-labelledby="truth-title"]')).toContain('It is told when you have answered.');
    expect(button(room, 'That is my answer').disabled).toBeTrue();
    const answers = [...room.page.querySelectorAll<HTMLButtonElement>('.kinds button')];
    expect(answers.length).toBe(Object.keys(LINE_FAULTS).length);
    answers[0]?.click();
    await room.fixture.whenStable();
    button(room, 'That is my answer').click();
    await room.fixture.whenStable();
    const told = room.text('[aria-labelledby="truth-title"]');
    const [, offM, atM] = [
      told,
      /Your cursor was (-?[\d.]+) m off/.exec(told)?.[1],
      / at ([\d.]+) m:/.exec(told)?.[1],
    ];
    // The cursor stood in the middle of sixty metres.
    expect(30 - Number(atM)).toBeCloseTo(Number(offM), 1);
    expect(answers.every((one) => one.disabled)).toBeTrue();
    button(room, 'Back to my own').click();
    await room.fixture.whenStable();
    expect(room.page.querySelector('[aria-labelledby="fault-title"]')).not.toBeNull();
  });
});
