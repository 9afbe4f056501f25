import {
  askAbout,
  lossPointOf,
  plannedLength,
  type ReadTraceFile,
  type TraceEvent,
  type TraceReading,
  type TraceSetting,
} from '@near-spoke/core';
import { locateCommand } from './locate.js';
import { BadInput, type Outcome, type TraceFiles } from './outcome.js';
import { readTraceFrom, readTraceOptions, TRACE_OPTIONS_HELP } from './trace-options.js';

export const TRACE_HELP = `spoke trace FILE|FOLDER [options]

Reads a reflectometer trace: finds the launch, and what reflects it, where, and how sure that is.
FILE is a table of samples as oscilloscopes export it, a one-port Touchstone sweep (.s1p), or a
near-spoke/trace file (docs/file-formats.md); - reads standard input. A FOLDER gives one line per file.
With --echo TIME or --cursors T1,T2 in place of a file it is read off a screen by eye: see spoke locate.

${TRACE_OPTIONS_HELP}  --length METRES    how long the line should be by its plan: what lies there may be its end
  --json             one JSON object instead of a table (of a folder: one per line)
  --help             this text

Exit status: 0, or 2 for bad input (in a folder: if any file could not be read).
`;

/** `spoke trace`. */
export function traceCommand(args: readonly string[], files: TraceFiles): Outcome {
  if (args.includes('--echo') || args.includes('--cursors')) return locateCommand(args);
  const given = readTraceOptions(args, TRACE_HELP);
  const planned = given.lengthM === null ? {} : { planned: plannedLength(given.lengthM) };
  const options = { ...given, setting: { ...given.setting, ...planned, thorough: !given.quick } };
  const [path] = options.names;
  if (path === undefined || options.names.length > 1)
    throw new BadInput(`Name one file or folder.\n${TRACE_HELP}`);
  const inside = files.inFolder(path);
  if (inside) return folder(path, inside, options, files);
  const { read, reading } = readTraceFrom(path, options, files);
  const out = options.json
    ? `${JSON.stringify(asJson(reading), null, 2)}\n`
    : asTable(read, reading, options.setting);
  return { status: 0, out, err: '' };
}

function folder(
  path: string,
  inside: readonly string[],
  options: ReturnType<typeof readTraceOptions>,
  files: TraceFiles,
): Outcome {
  if (inside.length === 0) throw new BadInput(`${path}: there is no file in this folder.`);
  let failed = false;
  const lines = inside.map((file) => {
    try {
      const { reading } = readTraceFrom(file, options, files);
      return options.json ? JSON.stringify({ file, ...asJson(reading) }) : `${file}  ${inALine(reading)}`;
    } catch (error) {
      if (!(error instanceof BadInput)) throw error;
      failed = true;
      const message = error.message.replace(`${file}: `, '');
      return options.json ? JSON.stringify({ file, error: message }) : `${file}  cannot be read: ${message}`;
    }
  });
  return { status: failed ? 2 : 0, out: `${lines.join('\n')}\n`, err: '' };
}

/** A reading as the documented JSON. */
export const asJson = (reading: TraceReading): object => ({
  velocityFactor: reading.velocityFactor,
  noiseRms: reading.noiseV,
  sightM: reading.sightM,
  main: reading.main,
  unexplained: reading.unexplained,
  loss: reading.loss,
  events: reading.events.map(
    ({ distanceM, u95M, kind, probability, or, reflection, ghostOf, lengthM, budget }) => ({
      distanceM,
      u95M,
      kind,
      probability,
      or,
      reflection,
      ghostOf,
      lengthM,
      budget,
    }),
  ),
});

const inWords = (kind: string): string => kind.replaceAll('-', ' ');
const metres = (value: number): string => value.toFixed(Math.abs(value) < 10 ? 3 : 2);

function inALine(reading: TraceReading): string {
  const main = reading.main === null ? undefined : reading.events[reading.main];
  if (!main) return nothing(reading);
  const more = reading.events.length - 1;
  const beside = more > 0 ? `, ${more} more` : '';
  return `${inWords(main.kind)} at ${metres(main.distanceM)} m, give or take ${metres(main.u95M)} m${beside}`;
}

const nothing = ({ sightM }: TraceReading): string =>
  `matched end or beyond sight: an open would have been seen to ${sightM.toFixed(1)} m`;

function asTable({ understood }: ReadTraceFile, reading: TraceReading, setting: TraceSetting): string {
  const { launch, fit } = reading.explained;
  const head = [
    `Read      ${understood.samples} samples every ${(understood.intervalS * 1e9).toPrecision(4)} ns, ${understood.time}`,
    ...understood.notes.map((note) => `          ${note}`),
    `Launch    ${launch.shape} of ${fit.launch.height.toPrecision(3)} V, noise ${(reading.noiseV * 1e3).toPrecision(3)} mV`,
    `Sight     an open would be seen to ${reading.sightM.toFixed(1)} m (${reading.sightEndsBy === 'record' ? "the record's end" : 'noise'})`,
    `Blind     to ${metres(reading.deadZoneM)} m; two events come apart from ${metres(reading.resolutionM)} m on`,
    `Velocity  ${reading.velocityFactor.toFixed(4)} of light, that of an echo's front`,
    ...lossLine(reading, setting),
    ...askLines(reading, setting),
  ];
  if (reading.events.length === 0) return `${head.join('\n')}\n\nNothing found: ${nothing(reading)}.\n`;
  const rows = reading.events.map((event, n) => row(event, n, n === reading.main));
  const title =
    '   #      metres   +- 95 %   timing  velocity  lead     kind                sure  reflects  ghost of';
  if (reading.unexplained)
    head.push(
      '          No chain of things explains this trace well: the kinds below are guesses. Take it again, or',
    );
  if (reading.unexplained) head.push('          from the other end, with less in the way.');
  return `${head.join('\n')}\n\n${[title, ...rows].join('\n')}\n${reading.main === null ? `\nNo fault and no end: ${nothing(reading)}.\n` : ''}`;
}

/** What the line loses by its end's height. */
function lossLine({ loss }: TraceReading, { line }: TraceSetting): string[] {
  if (!loss) return [];
  const { mhz, dbPer100m } = lossPointOf(loss, line);
  return [
    `Loss      ${dbPer100m} dB per 100 m at about ${mhz} MHz, ${loss.share.toFixed(2)} of what was told`,
  ];
}

/** What somebody at the line could say, and with which option. */
function askLines(reading: TraceReading, setting: TraceSetting): string[] {
  const ask = askAbout(reading, setting);
  if (!ask) return [];
  return [
    ask.about === 'far end'
      ? `Asks      ${ask.words} Read it again with --far-end ${ask.answers.map(({ farEnd }) => farEnd).join(', ')}.`
      : `Asks      ${ask.words} Read it again with --loss, such as 6.6@100.`,
  ];
}

function row(event: TraceEvent, n: number, main: boolean): string {
  const { budget } = event;
  return [
    main ? '=>' : '  ',
    String(n + 1).padStart(2),
    event.distanceM.toFixed(3).padStart(11),
    event.u95M.toFixed(3).padStart(8),
    budget.timingM.toFixed(3).padStart(8),
    budget.velocityM.toFixed(3).padStart(8),
    budget.leadM.toFixed(3).padStart(7),
    `   ${inWords(event.kind)}${event.lengthM === null ? '' : ` ${event.lengthM.toFixed(2)} m long`}`.padEnd(
      25,
    ),
    `${Math.round(event.probability * 100)} %`.padStart(5),
    event.reflection.toFixed(3).padStart(8),
    event.ghostOf ? `  ${event.ghostOf.map((of) => of + 1).join(' and ')}` : '',
  ]
    .join(' ')
    .trimEnd();
}
