import {
  BadTrace,
  CABLE_TYPES,
  FAR_ENDS,
  lineOf,
  lossThrough,
  NoLaunch,
  readTrace,
  SWEEP_WINDOWS,
  TraceFileReader,
  TraceQuestion,
  typedLoss,
  UNKNOWN_LOSS,
  unitOf,
  type FarEnd,
  type LossPoint,
  type ReadTraceFile,
  type SweepWindow,
  type TraceFileOptions,
  type TraceReading,
  type TraceSetting,
  NORMAL_95,
} from '@near-spoke/core';
import { BadInput, type TraceFiles } from './outcome.js';

/** What a person tells of a trace beside its file. */
export interface TraceOptions {
  setting: TraceSetting;
  file: TraceFileOptions;
  json: boolean;
  /** Echo by echo, not explained as a whole. */
  quick: boolean;
  /** What is neither option nor value. */
  names: string[];
  lengthM: number | null;
}

export const TRACE_OPTIONS_HELP = `  --cable ID         cable of the library: its impedance, velocity and typical loss
  --vf NUMBER        velocity factor, taken as exact unless --vf-u is given
  --vf-u NUMBER      half width of its 95 % interval
  --impedance OHM    impedance of the cable, where it is not the library's
  --lead METRES      lead between instrument and cable; distances count from its far end
  --lead-vf NUMBER   its velocity factor (the cable's, where not given)
  --lead-u METRES    half width of the 95 % interval of its length
  --launch SHAPE     pulse or step; told from the trace where not given
  --scope-pf NUMBER  the oscilloscope's input capacitance, which delays every echo
  --channel NAME     which channel, where the file has several
  --interval TIME    time between samples (0.5ns), where the file has no times
  --time-unit UNIT   unit of the times, where the file names none
  --loss DB@MHZ      loss of the cable, dB per 100 m at a frequency (6.6@100); several by semicolons
  --far-end HOW      open, joined or connected, where somebody looked
  --quick            name echo by echo: a tenth of the time, and kinds told less well
  --window NAME      for a frequency sweep: ${SWEEP_WINDOWS.join(', ')}
`;

/** A cable's catalogue velocity is good to about this, as a deviation. */
const TYPICAL_VELOCITY_DEVIATION = 0.012;
/** A lead whose velocity is not known: deviation as a share of its length. */
export const LEAD_UNKNOWN = 0.01;

const VALUED = [
  '--cable',
  '--vf',
  '--vf-u',
  '--impedance',
  '--lead',
  '--lead-vf',
  '--lead-u',
  '--launch',
  '--scope-pf',
  '--loss',
  '--far-end',
  '--channel',
  '--interval',
  '--time-unit',
  '--window',
  '--length',
] as const;

/** Reads the options that trace and velocity share. */
export function readTraceOptions(args: readonly string[], help: string): TraceOptions {
  const given = new Map<string, string>();
  const names: string[] = [];
  let json = false;
  let quick = false;
  for (let i = 0; i < args.length; i++) {
    const arg = args[i] as string;
    if (arg === '--json') json = true;
    else if (arg === '--quick') quick = true;
    else if (!arg.startsWith('--')) names.push(arg);
    else if (!(VALUED as readonly string[]).includes(arg))
      throw new BadInput(`There is no option ${arg}.\n${help}`);
    else {
      const value = args[++i];
      if (value === undefined) throw new BadInput(`${arg} wants a value.`);
      given.set(arg, value);
    }
  }
  const number = (option: string, least: number, most: number): number | null => {
    const text = given.get(option);
    if (text === undefined) return null;
    const value = text.trim() === '' ? NaN : Number(text);
    if (!(value >= least && value <= most))
      throw new BadInput(`${option} ${text}: a number from ${least} to ${most} is wanted.`);
    return value;
  };
  const shape = given.get('--launch');
  if (shape !== undefined && shape !== 'pulse' && shape !== 'step')
    throw new BadInput(`--launch ${shape}: a launch is a pulse or a step.`);
  const vf = number('--vf', 0.3, 1);
  const loss = lossAsked(given.get('--loss'));
  const farEnd = given.get('--far-end') as FarEnd | undefined;
  if (farEnd !== undefined && !FAR_ENDS.includes(farEnd))
    throw new BadInput(`--far-end ${farEnd}: one of ${FAR_ENDS.join(', ')} is wanted.`);
  const line = lineAsked(given.get('--cable'), vf, number('--impedance', 1, 2000), loss);
  const vfU = number('--vf-u', 0, 0.5);
  const velocityDeviation = vfU === null ? (vf === null ? TYPICAL_VELOCITY_DEVIATION : 0) : vfU / NORMAL_95;
  const leadM = number('--lead', 0, 1000) ?? 0;
  const leadVf = number('--lead-vf', 0.3, 1);
  const leadU = number('--lead-u', 0, 100);
  const farads = number('--scope-pf', 0, 1e6);
  return {
    setting: {
      line,
      velocityDeviation,
      lossKnown: loss ? 'measured' : given.has('--cable'),
      farEnd,
      lead: {
        lengthM: leadM,
        velocityFactor: leadVf ?? line.velocityFactor,
        deviationM: leadU === null ? (leadVf === null ? leadM * LEAD_UNKNOWN : 0) : leadU / NORMAL_95,
      },
      ...(shape ? { shape } : {}),
      ...(farads === null ? {} : { scopeF: farads * 1e-12 }),
    },
    file: fileOptions(given),
    json,
    quick,
    names,
    lengthM: number('--length', 0.01, 100_000),
  };
}

function lossAsked(text: string | undefined): LossPoint[] | null {
  const { loss, trouble } = typedLoss(text ?? '');
  if (trouble !== '') throw new BadInput(`--loss ${text}: ${trouble}`);
  return loss ?? null;
}

function lineAsked(
  cableId: string | undefined,
  vf: number | null,
  ohm: number | null,
  loss: readonly LossPoint[] | null,
): TraceSetting['line'] {
  const cable = CABLE_TYPES.find(({ id }) => id === cableId);
  if (cableId !== undefined && !cable)
    throw new BadInput(
      `--cable ${cableId}: there is no such cable. Cables: ${CABLE_TYPES.map(({ id }) => id).join(', ')}.`,
    );
  if (!cable) {
    if (vf === null)
      throw new BadInput('Say which cable (--cable ID) or which velocity factor (--vf NUMBER).');
    const bare = { impedanceOhm: ohm ?? 75, velocityFactor: vf, ...UNKNOWN_LOSS };
    return loss ? { ...bare, ...lossThrough(loss, bare) } : bare;
  }
  return lineOf(cable, {
    ...(vf === null ? {} : { velocityFactor: vf }),
    ...(ohm === null ? {} : { impedanceOhm: ohm }),
    loss,
  });
}

function fileOptions(given: ReadonlyMap<string, string>): TraceFileOptions {
  const options: TraceFileOptions = {};
  const channel = given.get('--channel');
  if (channel !== undefined) options.channel = channel;
  const interval = given.get('--interval');
  if (interval !== undefined) {
    const [, figure = '', name = ''] = /^([\d.]+(?:e[+-]?\d+)?)\s*(.+)$/i.exec(interval) ?? [];
    const unit = unitOf(name);
    if (unit?.quantity !== 'time' || !(Number(figure) > 0))
      throw new BadInput(`--interval ${interval}: a time with its unit is wanted, such as 0.5ns.`);
    options.intervalS = Number(figure) * unit.factor;
  }
  const timeUnit = given.get('--time-unit');
  if (timeUnit !== undefined) {
    const unit = unitOf(timeUnit);
    if (unit?.quantity !== 'time')
      throw new BadInput(`--time-unit ${timeUnit}: s, ms, us, ns or ps is wanted.`);
    options.timeUnitS = unit.factor;
  }
  const window = given.get('--window');
  if (window !== undefined) {
    if (!(SWEEP_WINDOWS as readonly string[]).includes(window))
      throw new BadInput(`--window ${window}: windows are ${SWEEP_WINDOWS.join(', ')}.`);
    options.window = window as SweepWindow;
  }
  return options;
}

const OPTION_FOR = { interval: '--interval', channel: '--channel', 'time unit': '--time-unit' } as const;

/** Reads a trace file and what it holds; what is wrong with it comes as bad input. */
export function readTraceFrom(
  path: string,
  { setting, file }: Pick<TraceOptions, 'setting' | 'file'>,
  files: TraceFiles,
): { read: ReadTraceFile; reading: TraceReading } {
  try {
    const reader = new TraceFileReader(file);
    for (const piece of files.pieces(path)) reader.add(piece);
    const read = reader.end();
    return { read, reading: readTrace(read.trace, setting) };
  } catch (error) {
    if (error instanceof TraceQuestion)
      throw new BadInput(`${path}: ${error.message} (${OPTION_FOR[error.asks]})`);
    if (error instanceof BadTrace || error instanceof NoLaunch)
      throw new BadInput(`${path}: ${error.message}`);
    if (error instanceof BadInput) throw new BadInput(`${path}: ${error.message}`);
    throw error;
  }
}
