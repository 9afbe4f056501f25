import type { AnnotationOptions } from 'chartjs-plugin-annotation';
import { linesOf, marksOf, scalesOf, type Ink, type PlottedTrace } from './trace-chart';

const ink: Ink = {
  colour: (token, opacity = 1) => (opacity === 1 ? token : `${token}/${opacity}`),
  font: (token) => token,
};
const points = [{ x: 0, y: 1 }];
const plain: PlottedTrace = { points, residual: null, difference: null, profile: null, events: [] };
const event = (
  atM: number,
  change: Partial<PlottedTrace['events'][number]> = {},
): PlottedTrace['events'][number] => ({
  atM,
  u95M: 0.5,
  label: `open, ${atM} m`,
  main: false,
  ghost: false,
  ...change,
});
const none = { A: null, B: null };
const line = (marks: Record<string, AnnotationOptions>, name: string) =>
  marks[name] as {
    xMin: number;
    xMax: number;
    borderColor: string;
    borderDash: number[];
    label: { content: string; xAdjust: number; yAdjust: number };
  };

describe('what is drawn of a trace', () => {
  it('is the trace alone, and beside it what is asked for, each in a stroke of its own', () => {
    expect(linesOf(plain, ink).map(({ borderColor }) => borderColor)).toEqual(['--ink']);
    const all = linesOf({ ...plain, residual: points, difference: points, profile: points }, ink);
    expect(new Set(all.map(({ borderColor }) => borderColor)).size).toBe(4);
    expect(all.find(({ borderColor }) => borderColor === '--wrong')?.order).toBe(-1);
  });

  it('has the interval of the main event as wide as it is, and no other', () => {
    const marks = marksOf(
      { ...plain, events: [event(10), event(20, { main: true, u95M: 0.7 })] },
      none,
      40,
      ink,
    );
    expect(Object.keys(marks).sort()).toEqual(['band1', 'line0', 'line1']);
    expect(line(marks, 'band1').xMin).toBeCloseTo(19.3, 9);
    expect(line(marks, 'band1').xMax).toBeCloseTo(20.7, 9);
    expect([line(marks, 'line0').borderColor, line(marks, 'line1').borderColor]).toEqual([
      '--ink-2',
      '--wrong',
    ]);
  });

  it('writes beside each event on the side where there is room, neighbours on two rows', () => {
    const marks = marksOf({ ...plain, events: [event(10), event(12), event(39)] }, none, 40, ink);
    const [first, second, last] = ['line0', 'line1', 'line2'].map((name) => line(marks, name).label);
    expect(first?.content).toBe('open, 10 m');
    expect(Math.sign(first?.xAdjust ?? 0)).toBe(1);
    expect(Math.sign(last?.xAdjust ?? 0)).toBe(-1);
    expect(first?.yAdjust).not.toBe(second?.yAdjust as number);
  });

  it('tells a ghost and a place beside the main one by their dashes, not by colour alone', () => {
    const events = [event(10), event(20, { main: true }), event(30, { ghost: true })];
    const marks = marksOf({ ...plain, events }, none, 40, ink);
    const dashes = ['line0', 'line1', 'line2'].map((name) => line(marks, name).borderDash.join());
    expect(new Set(dashes).size).toBe(3);
  });

  it('has each cursor that is set, and they differ', () => {
    expect(Object.keys(marksOf(plain, { A: 5, B: null }, 40, ink))).toEqual(['cursorA']);
    const marks = marksOf(plain, { A: 5, B: 0 }, 40, ink);
    expect([line(marks, 'cursorA').xMin, line(marks, 'cursorB').xMin]).toEqual([5, 0]);
    expect(line(marks, 'cursorA').borderDash).not.toEqual(line(marks, 'cursorB').borderDash);
  });

  it('counts metres from the near end, and shows none before it', () => {
    const { x, y } = scalesOf({ min: -8, max: 48 }, ink) as Record<
      'x' | 'y',
      { min: number; max: number; ticks: { callback: (value: number) => string } }
    >;
    expect([x.min, x.max]).toEqual([-8, 48]);
    expect([-5, 0, 10].map((value) => x.ticks.callback(value))).toEqual(['', '0', '10']);
    expect([-0.5, 0, 0.5].map((value) => y.ticks.callback(value))).toEqual(['-0.5', '0', '+0.5']);
  });
});
