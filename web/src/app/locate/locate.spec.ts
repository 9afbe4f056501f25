import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { impedanceProfile, readTrace, type LineFault, traceSettingOf } from '@near-spoke/core';
import { DelayPlot } from '../drawing/delay-plot';
import { ReelPicture } from '../drawing/reel-picture';
import { SightPlot } from '../drawing/sight-plot';
import { TracePlot, type SnapAsked } from '../drawing/trace-plot';
import { shippedCable, someTold, someTrace } from '../testing/traces';
import { answered } from './answered';
import { axisOf, metres, plotTrace } from './plotted';
import type { TraceAnswer } from './tracing';

const cable = shippedCable('rg6');
const LENGTH_M = 40;
const told = someTold(cable);

/** What the worker would answer for a line with these faults behind a lead of a metre. */
function answerTo(faults: readonly LineFault[]): TraceAnswer {
  const trace = someTrace(cable, LENGTH_M, faults);
  const setting = traceSettingOf(cable, told);
  const { explained, ...reading } = readTrace(trace, setting);
  const { trace: seen, fit, launch, modelV } = explained;
  return {
    reading,
    seen,
    modelV,
    profile: impedanceProfile(explained, 75, 0),
    nominalOhm: 75,
    launchAtS: seen.startS + fit.launch.at * seen.intervalS,
    launchV: fit.launch.height,
    levelV: launch.baselineV + fit.level,
  };
}
const near = { lengthM: LENGTH_M, fromFar: false };

describe('a trace as it is drawn', () => {
  const answer = answerTo([{ kind: 'poor', atM: 15, severity: 0.6 }]);

  it('has the launch before the cable and each echo where its thing is', () => {
    const { points, events } = plotTrace(answer, told, near);
    const highest = points.reduce((best, point) => (point.y > best.y ? point : best));
    // The launch is as high as one, and lies before the cable by the lead.
    expect(highest.y).toBeCloseTo(1, 1);
    expect(highest.x).toBeLessThan(0.5);
    expect(events.map(({ atM }) => Math.round(atM))).toEqual(jasmine.arrayContaining([15, 40]));
    expect(events.filter(({ main }) => main).map(({ label }) => label)).toEqual([
      jasmine.stringMatching(/^resistance in the way, 15\.\d m$/),
    ]);
    const after = points.filter(({ x }) => x > 38 && x < 44);
    expect(Math.max(...after.map(({ y }) => y))).toBeGreaterThan(0.3);
  });

  it('turns round when it was taken from the far end, and still reads from near to far', () => {
    const { points, events } = plotTrace(answer, told, { lengthM: LENGTH_M, fromFar: true });
    expect(points.every(({ x }, n) => n === 0 || x >= (points[n - 1]?.x ?? 0))).toBeTrue();
    expect(events.find(({ main }) => main)?.atM).toBeCloseTo(25, 0);
  });

  it('shows residual, profile, difference and events only where they are asked for', () => {
    const plain = plotTrace(answer, told, near, { events: false });
    expect([plain.residual, plain.profile, plain.difference, plain.events]).toEqual([null, null, null, []]);
    const difference = new Float64Array(answer.seen.volts.length).fill(0.25);
    const full = plotTrace(answer, told, near, { residual: true, profile: true, difference });
    // The fit leaves noise alone.
    expect(Math.max(...(full.residual ?? []).map(({ y }) => Math.abs(y)))).toBeLessThan(0.06);
    expect(full.difference?.every(({ y }) => y === 0.25)).toBeTrue();
    const middle = (full.profile ?? []).filter(({ x }) => x > 3 && x < 12).map(({ y }) => Math.abs(y));
    expect(middle.length).toBeGreaterThan(10);
    expect(Math.max(...middle)).toBeLessThan(0.15);
  });

  it('has one axis for places and times, there and back', () => {
    for (const fromFar of [false, true]) {
      const { placeOf, timeOf } = axisOf(answer, told, { lengthM: LENGTH_M, fromFar });
      for (const place of [0, 12.3, 40]) expect(placeOf(timeOf(place))).toBeCloseTo(place, 9);
    }
    expect(metres(-0.001)).toBe('0.0');
  });

  it('is read with the cable’s loss where it is known, and with a wide guess where it is not', () => {
    expect(traceSettingOf(cable, told).lossKnown).toBeTrue();
    expect(traceSettingOf(cable, told).velocityDeviation).toBeCloseTo(0.004 / 1.96, 9);
    expect(traceSettingOf(null, told).lossKnown).toBeFalse();
    expect('shape' in traceSettingOf(null, { ...told, shape: null })).toBeFalse();
  });
});

async function shown<C>(component: Type<C>, inputs: Record<string, unknown>): Promise<ComponentFixture<C>> {
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  (fixture.nativeElement as HTMLElement).style.width = '1000px';
  document.body.append(fixture.nativeElement as HTMLElement);
  await fixture.whenStable();
  return fixture;
}

describe('the cursors of a trace', () => {
  const plotted = plotTrace(answerTo([]), told, near);
  const press = async (fixture: ComponentFixture<TracePlot>, name: string, key: string, shiftKey = false) => {
    const handle = (fixture.nativeElement as HTMLElement).querySelector(`[aria-label^="Cursor ${name}"]`);
    handle?.dispatchEvent(new KeyboardEvent('keydown', { key, shiftKey, bubbles: true, cancelable: true }));
    await fixture.whenStable();
  };
  const at = (fixture: ComponentFixture<TracePlot>, name: string): number =>
    Number(
      (fixture.nativeElement as HTMLElement)
        .querySelector(`[aria-label^="Cursor ${name}"]`)
        ?.getAttribute('aria-valuenow'),
    );

  it('are two sliders that arrow keys move, with Shift further, and that go to either end', async () => {
    const fixture = await shown(TracePlot, { plotted, lengthM: LENGTH_M });
    expect(at(fixture, 'A')).toBe(20);
    expect(at(fixture, 'B')).toBe(0);
    await press(fixture, 'A', 'ArrowRight');
    const step = at(fixture, 'A') - 20;
    expect(step).toBeGreaterThan(0);
    await press(fixture, 'A', 'ArrowLeft', true);
    expect(at(fixture, 'A')).toBeCloseTo(20 - 9 * step, 9);
    await press(fixture, 'B', 'End');
    expect(at(fixture, 'B')).toBe(LENGTH_M);
    await press(fixture, 'B', 'Home');
    await press(fixture, 'B', 'ArrowLeft');
    expect(at(fixture, 'B')).toBe(0);
  });

  it('stand where the axis is, however often the trace is drawn anew', async () => {
    const fixture = await shown(TracePlot, { plotted, lengthM: LENGTH_M });
    const page = fixture.nativeElement as HTMLElement;
    const places = (): number[] =>
      [...page.querySelectorAll<HTMLElement>('.handle')].map(({ style }) => parseFloat(style.left));
    // What the chart does with its size it does a moment later.
    const settled = async (): Promise<void> => {
      await new Promise((soon) => setTimeout(soon, 150));
      await fixture.whenStable();
    };
    await settled();
    const before = places();
    expect(before[0]).toBeGreaterThan(before[1] ?? Infinity);
    for (const label of ['again', 'and again']) {
      fixture.componentRef.setInput('plotted', { ...plotted, events: [...plotted.events] });
      await settled();
      expect(places()).withContext(label).toEqual(before);
    }
  });

  it('ask to be put on an edge or a peak', async () => {
    const fixture = await shown(TracePlot, { plotted, lengthM: LENGTH_M });
    const asked: SnapAsked[] = [];
    fixture.componentInstance.snap.subscribe((snap) => asked.push(snap));
    await press(fixture, 'A', 'e');
    await press(fixture, 'B', 'K');
    expect(asked).toEqual([
      { cursor: 'A', to: 'edge' },
      { cursor: 'B', to: 'peak' },
    ]);
  });

  it('stay on their places while the line is zoomed and shown whole again', async () => {
    const fixture = await shown(TracePlot, { plotted, lengthM: LENGTH_M });
    const page = fixture.nativeElement as HTMLElement;
    const x = (): number => parseFloat(page.querySelector<HTMLElement>('.handle')?.style.left ?? '');
    await press(fixture, 'A', 'ArrowRight');
    const before = x();
    await press(fixture, 'A', 'Home');
    await press(fixture, 'A', 'ArrowRight', true);
    await press(fixture, 'A', '+');
    expect(page.querySelector('.whole')).not.toBeNull();
    page.querySelector<HTMLElement>('.whole')?.click();
    await fixture.whenStable();
    expect(page.querySelector('.whole')).toBeNull();
    expect(Number.isFinite(before)).toBeTrue();
    expect(x()).toBeLessThan(before);
  });

  it('are looked at as closely while the same line is drawn anew or the window changes, not for another line', async () => {
    const fixture = await shown(TracePlot, { plotted, lengthM: LENGTH_M });
    const page = fixture.nativeElement as HTMLElement;
    const x = (): number => parseFloat(page.querySelector<HTMLElement>('.handle')?.style.left ?? '');
    await press(fixture, 'A', 'Home');
    await press(fixture, 'A', 'ArrowRight', true);
    for (let n = 0; n < 3; n++) await press(fixture, 'A', '+');
    await press(fixture, 'A', 'ArrowRight', true);
    const before = x();
    fixture.componentRef.setInput('plotted', { ...plotted });
    await fixture.whenStable();
    expect(page.querySelector('.whole')).not.toBeNull();
    expect(x()).toBeCloseTo(before, 3);
    const left = x() / page.clientWidth;
    page.style.width = `${page.clientWidth * 0.8}px`;
    await new Promise((soon) => setTimeout(soon, 100));
    await fixture.whenStable();
    expect(page.querySelector('.whole')).not.toBeNull();
    expect(x() / page.clientWidth).toBeCloseTo(left, 1);
    fixture.componentRef.setInput('lengthM', 2 * LENGTH_M);
    await fixture.whenStable();
    expect(page.querySelector('.whole')).toBeNull();
  });
});

describe('drawings beside a reflectometer', () => {
  const radius = (fixture: ComponentFixture<ReelPicture>): number =>
    Number((fixture.nativeElement as HTMLElement).querySelector('.wound')?.getAttribute('r'));

  it('wind a reel as thick as its cable makes it: half the cable, half the area', async () => {
    const full = radius(await shown(ReelPicture, { kind: 'drum', share: 1 }));
    TestBed.resetTestingModule();
    const half = await shown(ReelPicture, { kind: 'drum', share: 0.5 });
    TestBed.resetTestingModule();
    const empty = radius(await shown(ReelPicture, { kind: 'box', share: 0 }));
    const middle = Math.sqrt((full ** 2 + empty ** 2) / 2);
    expect(radius(half)).toBeCloseTo(middle, 6);
    expect((half.nativeElement as HTMLElement).querySelector('svg')?.getAttribute('aria-label')).toBe(
      'A drum, 50 % left',
    );
  });

  it('say that nobody knows how full a reel is', async () => {
    const fixture = await shown(ReelPicture, { kind: 'box', share: null });
    expect((fixture.nativeElement as HTMLElement).querySelector('svg')?.getAttribute('aria-label')).toBe(
      'A box, nobody knows how full',
    );
  });

  it('put each piece on the line that its velocity makes', async () => {
    const points = [12, 30].map((lengthM) => ({
      lengthM,
      delayNs: 10 + (2e9 * lengthM) / (0.83 * 299_792_458),
    }));
    const fixture = await shown(DelayPlot, { points, offsetNs: 10, velocityFactor: 0.83 });
    const page = fixture.nativeElement as HTMLElement;
    const line = page.querySelector('.fit');
    const of = (name: string): number => Number(line?.getAttribute(name));
    for (const dot of page.querySelectorAll('.dot')) {
      const [x, y] = [Number(dot.getAttribute('cx')), Number(dot.getAttribute('cy'))];
      const on = of('y1') + ((of('y2') - of('y1')) * (x - of('x1'))) / (of('x2') - of('x1'));
      expect(y).toBeCloseTo(on, 6);
    }
    expect(page.querySelectorAll('.dot').length).toBe(2);
  });

  it('show the least that is seen higher up the further it is, beside what is wanted', async () => {
    const points = [10, 50, 100].map((distanceM) => ({ distanceM, reflection: distanceM / 1000 }));
    const fixture = await shown(SightPlot, { points, wanted: 0.1 });
    const page = fixture.nativeElement as HTMLElement;
    const ys = (page.querySelector('.least')?.getAttribute('d') ?? '')
      .slice(1)
      .split('L')
      .map((corner) => Number(corner.split(' ')[1]));
    expect(ys.length).toBe(4);
    expect(ys.every((y, n) => n === 0 || y <= (ys[n - 1] ?? 0))).toBeTrue();
    // At the far end the least that is seen is just what is wanted.
    expect(Number(page.querySelector('.wanted')?.getAttribute('y1'))).toBeCloseTo(ys.at(-1) ?? 0, 0);
  });
});

describe('a question about a trace file', () => {
  it('adds what is answered to what is known', () => {
    const known = { channel: 'CH1' };
    expect(answered(known, 'interval', '0,5')).toEqual({ channel: 'CH1', intervalS: 0.5e-9 });
    expect(answered({}, 'channel', 'CH2')).toEqual({ channel: 'CH2' });
    expect(answered({}, 'time unit', 'us')).toEqual({ timeUnitS: 1e-6 });
  });

  it('is still open after an answer that is none', () => {
    for (const text of ['', 'soon', '0', '-1'])
      expect(answered({}, 'interval', text))
        .withContext(text)
        .toBeNull();
    expect(answered({}, undefined, 'CH1')).toBeNull();
  });
});
