import type { Trace } from '../trace.js';
import { BadTrace } from './bad-trace.js';
import { TableReader, type ReadTraceFile, type TraceAnswers } from './read-csv.js';
import { TouchstoneReader, type SweepWindow } from './read-touchstone.js';
import { LineCutter } from './table-lines.js';

export interface TraceFileOptions extends TraceAnswers {
  window?: SweepWindow;
}

/** The largest trace in our own format, characters. */
const MOST_JSON = 64 * 1024 * 1024;

/**
 * Reads a trace from a file's text, which may come in pieces: a table of samples, a one-port
 * Touchstone sweep, or Near Spoke's own JSON. What it holds goes by what stands in it, not its name.
 *
 * @throws BadTrace (from `add` or `end`) with what is wrong and in which line
 */
export class TraceFileReader {
  private json: string[] | null = null;
  private jsonSize = 0;
  private reader: TableReader | TouchstoneReader | null = null;
  private before: { text: string; line: number }[] = [];
  private readonly cutter: LineCutter;

  constructor(private readonly options: TraceFileOptions = {}) {
    this.cutter = new LineCutter((text, line) => this.line(text, line));
  }

  add(piece: string): void {
    if (
      this.json === null &&
      this.reader === null &&
      this.before.length === 0 &&
      /^[\uFEFF\s]*\{/.test(piece)
    )
      this.json = [];
    if (this.json) {
      this.jsonSize += piece.length;
      if (this.jsonSize > MOST_JSON) throw new BadTrace('The file is over 64 MB. Export a shorter record.');
      this.json.push(piece);
      return;
    }
    this.cutter.add(piece);
  }

  private line(text: string, line: number): void {
    if (this.reader) {
      this.reader.line(text, line);
      return;
    }
    this.before.push({ text, line });
    // A sweep says so in its first line that is no comment.
    if (text.trim() === '' || text.trim().startsWith('!')) return;
    this.reader =
      text.trim().startsWith('#') && isOptionLine(text)
        ? new TouchstoneReader(this.options.window)
        : new TableReader(this.options);
    for (const waiting of this.before) this.reader.line(waiting.text, waiting.line);
    this.before = [];
  }

  end(): ReadTraceFile {
    if (this.json) return ownTrace(this.json.join(''));
    this.cutter.end();
    if (!this.reader) throw new BadTrace('The file is empty. Export the trace again.');
    return this.reader.end();
  }
}

const isOptionLine = (text: string): boolean => /\b(?:[kmg]?hz)\b|\b(?:ri|ma|db)\b/i.test(text);

/** Reads a whole text at once. */
export function readTraceText(text: string, options: TraceFileOptions = {}): ReadTraceFile {
  const reader = new TraceFileReader(options);
  reader.add(text);
  return reader.end();
}

/** Our own format: { "format": "near-spoke/trace", "formatVersion": 1, "intervalS", "startS", "volts" }. */
function ownTrace(text: string): ReadTraceFile {
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    throw new BadTrace(`The file begins like JSON and is none: ${(error as Error).message}.`);
  }
  const { format, intervalS, startS = 0, volts } = value as Record<string, unknown>;
  if (format !== 'near-spoke/trace')
    throw new BadTrace('"format" has to be "near-spoke/trace"; this is another kind of file.');
  if (typeof intervalS !== 'number' || !(intervalS > 0))
    throw new BadTrace('"intervalS" has to be the time between samples in seconds.');
  if (!Array.isArray(volts) || volts.length < 16)
    throw new BadTrace('"volts" has to be a list of at least 16 samples.');
  const bad = volts.findIndex((volt) => typeof volt !== 'number' || !Number.isFinite(volt));
  if (bad >= 0) throw new BadTrace(`"volts" number ${bad + 1} is no number.`);
  const start = typeof startS === 'number' ? startS : 0;
  const trace: Trace = { intervalS, startS: start, volts: Float64Array.from(volts as number[]) };
  return {
    trace,
    understood: {
      format: 'near-spoke',
      samples: volts.length,
      intervalS,
      startS: start,
      time: 'from the file',
      channel: 'volts',
      channels: ['volts'],
      notes: [],
    },
  };
}

/** A trace in our own format, as text. */
export const traceAsJson = ({ intervalS, startS, volts }: Trace): string =>
  `${JSON.stringify({ format: 'near-spoke/trace', formatVersion: 1, intervalS, startS, volts: Array.from(volts) })}\n`;
