import type { ChartOptions } from 'chart.js';
import type { AnnotationOptions } from 'chartjs-plugin-annotation';

/** A trace over distance, with what was found in it. */
export interface PlottedTrace {
  /** Metres from the near end of the link, and share of the launch. */
  points: { x: number; y: number }[];
  /** What the fit leaves over, the same way; null where it is not asked for. */
  residual: { x: number; y: number }[] | null;
  /** Difference to an earlier trace, the same way; null where none is compared. */
  difference: { x: number; y: number }[] | null;
  /** Impedance by its nominal value, less one; null where it is not asked for. */
  profile: { x: number; y: number }[] | null;
  events: { atM: number; u95M: number; label: string; main: boolean; ghost: boolean }[];
}

/** The theme's colours and fonts as a canvas takes them. */
export interface Ink {
  /** A token as the page shows it now, with an opacity. */
  colour: (token: string, opacity?: number) => string;
  font: (token: string) => string;
}

interface Line {
  data: { x: number; y: number }[];
  borderColor: string;
  borderWidth: number;
  pointRadius: 0;
  borderDash?: number[];
  order?: number;
}

/** The trace and what is asked for beside it, each in its own stroke. */
export function linesOf({ points, residual, difference, profile }: PlottedTrace, { colour }: Ink): Line[] {
  const line = (data: Line['data'], token: string, borderWidth: number): Line => ({
    data,
    borderColor: colour(token),
    borderWidth,
    pointRadius: 0,
  });
  return [
    line(points, '--ink', 1.6),
    ...(profile ? [{ ...line(profile, '--unsure', 1.4), borderDash: [5, 3] }] : []),
    // Over the trace: where nothing was before, the two are one line.
    ...(difference ? [{ ...line(difference, '--wrong', 2), order: -1 }] : []),
    ...(residual ? [line(residual, '--accent', 1.2)] : []),
  ];
}

/** Axes without any width of their own, so that the plot stands on the strip's axis. */
export function scalesOf(
  bounds: { min: number; max: number },
  { colour, font }: Ink,
): NonNullable<ChartOptions<'line'>['scales']> {
  const ticks = {
    color: colour('--ink-2'),
    font: { family: font('--figures'), size: 11 },
    includeBounds: false,
  };
  const rule = colour('--rule');
  return {
    x: {
      type: 'linear',
      ...bounds,
      afterFit: (axis) => {
        axis.paddingLeft = 0;
        axis.paddingRight = 0;
      },
      grid: { color: rule },
      border: { display: false },
      ticks: {
        ...ticks,
        callback: (value) => (Number(value) < 0 ? '' : `${value}`),
        maxRotation: 0,
      },
    },
    y: {
      min: -1,
      max: 1.25,
      grid: { color: rule, drawTicks: false },
      border: { display: false },
      // The figures stand inside, so that the axis is as wide as the strip.
      afterFit: (axis) => {
        axis.width = 0;
      },
      ticks: {
        ...ticks,
        mirror: true,
        stepSize: 0.5,
        z: 1,
        callback: (value) => (Number(value) > 0 ? `+${value}` : `${value}`),
      },
    },
  };
}

/** Events with their intervals, and the cursors. */
export function marksOf(
  { events }: PlottedTrace,
  cursors: { A: number | null; B: number | null },
  lengthM: number,
  { colour, font }: Ink,
): Record<string, AnnotationOptions> {
  const marks: Record<string, AnnotationOptions> = {};
  events.forEach(({ atM, u95M, label, main, ghost }, n) => {
    const color = colour(main ? '--wrong' : '--ink-2');
    if (main)
      marks[`band${n}`] = {
        type: 'box',
        xMin: atM - u95M,
        xMax: atM + u95M,
        backgroundColor: colour('--wrong', 0.18),
        borderWidth: 0,
      };
    marks[`line${n}`] = {
      type: 'line',
      xMin: atM,
      xMax: atM,
      borderColor: color,
      borderWidth: main ? 2 : 1,
      borderDash: ghost ? [2, 4] : main ? [] : [6, 4],
      label: {
        display: true,
        content: label,
        position: ghost ? 'start' : 'end',
        backgroundColor: 'transparent',
        color,
        font: { family: font('--words'), size: 13, weight: main ? 'bold' : 'normal' },
        // Beside its line, on the side where there is room.
        xAdjust: (atM > 0.8 * lengthM ? -1 : 1) * (8 + label.length * 3.4),
        yAdjust: n % 2 === 0 ? 0 : 16,
      },
    };
  });
  for (const name of ['A', 'B'] as const) {
    const at = cursors[name];
    if (at === null) continue;
    marks[`cursor${name}`] = {
      type: 'line',
      xMin: at,
      xMax: at,
      borderColor: colour('--accent'),
      borderWidth: name === 'A' ? 2 : 1,
      borderDash: name === 'A' ? [] : [3, 3],
    };
  }
  return marks;
}
