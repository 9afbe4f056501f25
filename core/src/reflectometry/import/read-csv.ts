import type { Trace } from '../trace.js';
import { BadTrace, TraceQuestion } from './bad-trace.js';
import { cellsOf, numberIn, writingOf, type Writing } from './table-lines.js';
import { unitIn, unitOf } from './units.js';

/** What a person answers where a file does not say. */
export interface TraceAnswers {
  intervalS?: number;
  /** Heading of the channel to read. */
  channel?: string;
  /** Factor of the time column on seconds. */
  timeUnitS?: number;
}

/** What was understood of a file, to be shown before it is used. */
export interface Understood {
  format: 'table' | 'touchstone' | 'near-spoke';
  samples: number;
  intervalS: number;
  startS: number;
  /** Where the times come from, in words. */
  time: string;
  channel: string;
  channels: string[];
  /** How it is written, and what was taken for granted. */
  notes: string[];
}

export interface ReadTraceFile {
  trace: Trace;
  understood: Understood;
}

/** Lines looked at before anything is settled. */
const LOOKED_AT = 80;
/** The most samples taken; one sample costs eight bytes per column. */
export const MOST_SAMPLES = 4_000_000;
const MOST_COLUMNS = 16;
/** A grid's times may be off by this share of an interval. */
const GRID_ALLOWS = 0.6;

/** What makes a line before the samples a comment. */
const COMMENT = /^\s*(?:#|%|\/\/)\s*/;

class Column {
  values = new Float64Array(4096);
  count = 0;
  add(value: number): void {
    if (this.count === this.values.length) {
      const grown = new Float64Array(this.values.length * 2);
      grown.set(this.values);
      this.values = grown;
    }
    this.values[this.count++] = value;
  }
  done(): Float64Array {
    return this.values.slice(0, this.count);
  }
}

/**
 * Reads a table of samples as bench oscilloscopes write it, line by line: header lines or none;
 * comma, semicolon, tab or blanks; decimal point or comma; units in the headings; a time column, or
 * the sample interval in the preamble; several channels.
 */
export class TableReader {
  private waiting: { text: string; line: number }[] = [];
  private writing: Writing | null = null;
  private places: number[] = [];
  private readonly header: string[][] = [];
  private columns: Column[] = [];
  private firstData = 0;

  constructor(private readonly answers: TraceAnswers = {}) {}

  line(text: string, line: number): void {
    if (this.writing) {
      this.row(text, line);
      return;
    }
    this.waiting.push({ text, line });
    if (this.waiting.length >= LOOKED_AT) this.settle();
  }

  private settle(): void {
    const told = writingOf(this.waiting.map(({ text }) => text));
    if (!told) {
      if (this.waiting.length < LOOKED_AT * 8) return;
      throw new BadTrace(
        'no numbers in the first lines. A trace has one sample on each line.',
        this.waiting[0]!.line,
      );
    }
    this.writing = told.writing;
    this.places = told.columns;
    if (told.columns.length > MOST_COLUMNS)
      throw new BadTrace(
        `${told.columns.length} numbers on a line; a trace has a time and up to ${MOST_COLUMNS - 1} channels. One sample belongs on each line.`,
        this.waiting[this.waiting.length - 1]!.line,
      );
    this.columns = told.columns.map(() => new Column());
    for (const { text, line } of this.waiting) this.row(text, line);
    this.waiting = [];
  }

  private row(text: string, line: number): void {
    const writing = this.writing!;
    if (text.trim() === '') return;
    const cells = cellsOf(this.firstData === 0 ? text.replace(COMMENT, '') : text, writing);
    const numbers = this.places.map((place) => numberIn(cells[place] ?? '', writing));
    const good = numbers.every(Number.isFinite);
    if (this.firstData === 0) {
      if (!good || !this.startsData(cells)) {
        this.header.push(cells);
        return;
      }
      this.firstData = line;
      // A preamble beside the first samples, in the cells before theirs.
      if (this.places[0]! > 0) this.header.push(cells.slice(0, this.places[0]));
    } else if (!good) {
      throw new BadTrace(this.wrong(cells, numbers), line);
    } else if (this.places[0]! > 0) {
      const beside = cells.slice(0, this.places[0]);
      if (beside.some((cell) => cell !== '')) this.header.push(beside);
    }
    if (this.columns[0]!.count >= MOST_SAMPLES)
      throw new BadTrace(
        `more than ${MOST_SAMPLES.toLocaleString('en')} samples. Export a shorter record, or every tenth sample.`,
        line,
      );
    numbers.forEach((value, n) => this.columns[n]!.add(value));
  }

  /** A preamble's "name, figure" is no row of a table with as many columns. */
  private startsData(cells: readonly string[]): boolean {
    const others = cells.filter((cell, place) => cell !== '' && !this.places.includes(place));
    return this.places[0]! > 0 || others.every((cell) => !/[a-z]{2}/i.test(cell));
  }

  private wrong(cells: readonly string[], numbers: readonly number[]): string {
    const bad = numbers.findIndex((value) => !Number.isFinite(value));
    const cell = cells[this.places[bad]!];
    if (cell === undefined || cell === '')
      return `${this.places.length} numbers are expected and number ${bad + 1} is missing. The file may be cut off.`;
    return `"${cell.slice(0, 30)}" is no number. Take the trace again, or take the line out.`;
  }

  /** @throws BadTrace where it is no trace, TraceQuestion where a person has to say more */
  end(): ReadTraceFile {
    if (!this.writing && this.waiting.some(({ text }) => text.trim() !== '')) this.settle();
    if (!this.writing) {
      const empty = this.waiting.every(({ text }) => text.trim() === '');
      throw new BadTrace(
        empty
          ? 'The file is empty. Export the trace again.'
          : 'no number in the whole file. A trace has one sample on each line.',
        empty ? null : 1,
      );
    }
    const samples = this.columns[0]!.count;
    if (samples < 16)
      throw new BadTrace(
        `only ${samples} sample${samples === 1 ? '' : 's'}. A trace needs the launch and what comes after it.`,
        this.firstData || 1,
      );
    const data = this.columns.map((column) => column.done());
    const headings = this.headings();
    const notes = [this.writtenAs()];
    const timeColumn = this.timeColumn(data, headings);
    const rest = data
      .map((_, n) => n)
      .filter((n) => n !== timeColumn && !this.isIndex(data[n]!, headings[n]!, n));
    if (rest.length === 0)
      throw new BadTrace('there are times and no volts. Export a channel with them.', this.firstData);
    const { intervalS, startS, time } =
      timeColumn === null ? this.fromPreamble() : this.fromColumn(data[timeColumn]!, headings[timeColumn]!);
    const names = rest.map((n) => nameOf(headings[n]!) || `channel ${rest.indexOf(n) + 1}`);
    const place = this.chosen(names);
    const heading = headings[rest[place]!]!;
    const factor =
      heading.map(unitIn).find((unit) => unit?.quantity === 'volts')?.factor ?? this.preambleVolts();
    if (factor === null) notes.push('No unit stands over the channel: taken as volts.');
    const volts = data[rest[place]!]!.map((value) => value * (factor ?? 1));
    if (clipped(volts)) notes.push('The trace runs into the edge of the screen: heights there are cut off.');
    return {
      trace: { intervalS, startS, volts },
      understood: {
        format: 'table',
        samples,
        intervalS,
        startS,
        time,
        channel: names[place]!,
        channels: names,
        notes,
      },
    };
  }

  private writtenAs(): string {
    const { separator, decimal } = this.writing!;
    const between = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', ' ': 'blanks' }[separator];
    return `${this.places.length} column${this.places.length === 1 ? '' : 's'} between ${between}, decimal ${decimal === '.' ? 'point' : 'comma'}, from line ${this.firstData} on.`;
  }

  /** What stands over each column, from the lines just before the samples. */
  private headings(): string[][] {
    const rows = this.header.filter((cells) => cells.length > this.places[this.places.length - 1]!);
    const last = rows.slice(-2);
    return this.places.map((place) => last.map((cells) => cells[place] ?? '').filter((cell) => cell !== ''));
  }

  private isIndex(values: Float64Array, heading: readonly string[], column: number): boolean {
    if (column !== 0 || this.columns.length < 2) return false;
    const named = heading.some((cell) =>
      /^(?:n|no\.?|#|index|point|points|sample|samples)$/i.test(cell.trim()),
    );
    return values.every((value, n) => value === values[0]! + n) && (named || heading.length === 0);
  }

  private timeColumn(data: readonly Float64Array[], headings: readonly string[][]): number | null {
    const named = headings.findIndex(
      (cells) =>
        cells.some((cell) => unitIn(cell)?.quantity === 'time') ||
        cells.some((cell) => /^(?:time|t|x)\b/i.test(cell)),
    );
    if (named >= 0 && data.length > 1 && !this.isIndex(data[named]!, headings[named]!, named)) return named;
    if (data.length < 2) return null;
    const first = data.findIndex((values, n) => rises(values) && !this.isIndex(values, headings[n]!, n));
    return first >= 0 ? first : null;
  }

  private fromColumn(
    times: Float64Array,
    heading: readonly string[],
  ): { intervalS: number; startS: number; time: string } {
    const written = heading.map(unitIn).find((unit) => unit?.quantity === 'time')?.factor;
    const unit = this.answers.timeUnitS ?? written ?? this.preambleTime();
    const back = times.findIndex((value, n) => n > 0 && value < times[n - 1]!);
    if (back > 0)
      throw new BadTrace(
        'the time goes back. Export one record, in the order it was taken.',
        this.lineOf(back),
      );
    const step = (times[times.length - 1]! - times[0]!) / (times.length - 1);
    if (!(step > 0))
      throw new BadTrace(
        'the time stands still. Export more digits, or the sample interval.',
        this.lineOf(1),
      );
    const off = unevenAt(times, step);
    if (off >= 0)
      throw new BadTrace(
        'the time between samples changes. Export a record with one sample interval.',
        this.lineOf(off),
      );
    if (unit === null) {
      // Seconds are what is written where nothing is; a cable's times in seconds are tiny.
      if (step > 1e-5)
        throw new TraceQuestion('time unit', 'No unit stands over the times: are they s, ms, us or ns?', [
          's',
          'ms',
          'us',
          'ns',
        ]);
    }
    const factor = unit ?? 1;
    const said =
      unit === null ? 'no unit over it, taken as seconds' : `in ${factor === 1 ? 'seconds' : `${factor} s`}`;
    return { intervalS: step * factor, startS: times[0]! * factor, time: `from the time column, ${said}` };
  }

  private lineOf(sample: number): number {
    return this.firstData + sample;
  }

  private fromPreamble(): { intervalS: number; startS: number; time: string } {
    const given = this.answers.intervalS;
    if (given !== undefined) return { intervalS: given, startS: 0, time: 'from the interval you gave' };
    for (const cells of this.header) {
      const found = intervalIn(cells, this.writing!);
      if (found)
        return { intervalS: found.intervalS, startS: 0, time: `from "${found.name}" in the preamble` };
    }
    throw new TraceQuestion(
      'interval',
      `Line ${this.firstData}: the samples carry no times and no sample interval stands before them. Give the interval.`,
    );
  }

  private preambleTime(): number | null {
    return this.inPreamble(/(?:horizontal|time|x)[\s_]*units?/i, 'time');
  }

  private preambleVolts(): number | null {
    return this.inPreamble(/(?:vertical|volt|y)[\s_]*units?/i, 'volts');
  }

  private inPreamble(name: RegExp, quantity: 'time' | 'volts'): number | null {
    for (const cells of this.header) {
      const [first = '', second = ''] = pairOf(cells);
      const unit = name.test(first) ? unitOf(second) : null;
      if (unit?.quantity === quantity) return unit.factor;
    }
    return null;
  }

  private chosen(names: readonly string[]): number {
    const { channel } = this.answers;
    if (channel !== undefined) {
      const at = names.findIndex((name) => name.toLowerCase() === channel.toLowerCase());
      if (at >= 0) return at;
      throw new BadTrace(`There is no channel ${channel}; there are ${names.join(', ')}.`);
    }
    if (names.length > 1)
      throw new TraceQuestion(
        'channel',
        `There are ${names.length} channels (${names.join(', ')}). Say which one is on the cable.`,
        names,
      );
    return 0;
  }
}

/** The first sample off an even grid; -1 where all are on it. */
function unevenAt(times: Float64Array, step: number): number {
  const away = times.findIndex(
    (value, n) => Math.abs(value - times[0]! - n * step) > GRID_ALLOWS * step + 1e-6 * Math.abs(value),
  );
  if (away < 0) return -1;
  // Somewhere the grid breaks: where the times leave that of the first samples.
  const own = times[1]! - times[0]!;
  const broken = times.findIndex(
    (value, n) => n > 0 && Math.abs(value - times[n - 1]! - own) > GRID_ALLOWS * own,
  );
  return broken > 0 ? broken : away;
}

/** A heading without its unit. */
function nameOf(heading: readonly string[]): string {
  const named = heading.find((cell) => unitOf(cell) === null && cell !== '') ?? '';
  return named.replace(/\s*[([{].*$/, '').trim();
}

const rises = (values: Float64Array): boolean =>
  values.every((value, n) => n === 0 || value >= values[n - 1]!) && values[values.length - 1]! > values[0]!;

const pairOf = (cells: readonly string[], decimal: Writing['decimal'] = '.'): string[] =>
  cells
    .flatMap((cell) => cell.split(decimal === '.' ? /[:=;,\t]/ : /[:=;\t]/))
    .map((cell) => cell.trim())
    .filter(Boolean);

/** A sample interval, or a rate, named in a preamble's line. */
function intervalIn(cells: readonly string[], writing: Writing): { intervalS: number; name: string } | null {
  const [name = '', value = '', unit = ''] = pairOf(cells, writing.decimal);
  const isInterval =
    /(?:sampl\w*|x|time)?[\s_]*(?:interval|incr\w*|period|increment)|^dt\b|xincr|time per sample/i.test(name);
  const isRate = /(?:sampl\w*)[\s_]*(?:rate|frequency)/i.test(name);
  if (!isInterval && !isRate) return null;
  const split = /^([+-]?[\d.,]+(?:e[+-]?\d+)?)\s*(.*)$/i.exec(value);
  if (!split) return null;
  const number = numberIn(split[1]!, writing);
  const wanted = isRate ? 'frequency' : 'time';
  const written = [split[2]!, unit, name]
    .map((text) => unitOf(text) ?? unitIn(text))
    .find((found) => found?.quantity === wanted);
  const figure = number * (written?.factor ?? 1);
  if (!(figure > 0)) return null;
  return { intervalS: isRate ? 1 / figure : figure, name };
}

/** Whether many samples in a row stand at the trace's own top or bottom while it has few levels. */
function clipped(volts: Float64Array): boolean {
  let top = -Infinity;
  let bottom = Infinity;
  for (const volt of volts) {
    top = Math.max(top, volt);
    bottom = Math.min(bottom, volt);
  }
  const levels = new Set(volts.subarray(0, 20_000)).size;
  if (levels < 200) return false;
  let run = 0;
  for (const volt of volts) {
    run = volt === top || volt === bottom ? run + 1 : 0;
    if (run > 8) return true;
  }
  return false;
}
