import { readFileSync } from 'node:fs';
import { jobFile, worldFile } from '@near-spoke/contracts';
import { CABLE_TYPES, lineOf, readTrace, type TraceReading } from '@near-spoke/core';
import { LEAD } from '../src/bench-line.js';
import { Scope } from '../src/scope.js';

const read = (name: string): unknown =>
  JSON.parse(readFileSync(new URL(`../../demo/${name}`, import.meta.url), 'utf8'));
const world = worldFile.parse(read('world.json'));
const job = jobFile.parse(read('pellan-quay.job.json'));
const linkOf = (label: string): (typeof job.links)[number] => {
  const link = job.links.find((each) => each.label === label);
  if (!link) throw new Error(`no ${label}`);
  return link;
};
const scope = (): Scope => new Scope(() => world);

/** Takes a trace by ASCII and reads it. */
function seen(label: string, pair: string, end = 'NEAR'): TraceReading {
  const at = scope();
  const { id, cableTypeId } = linkOf(label);
  at.answer(`ROUTe:LINE "${id}",${end},"${pair}"`);
  at.answer('WAVeform:FORMat ASCii; :INITiate');
  expect(at.answer('SYST:ERR?')).toBe('0,"No error"');
  const [intervalS, startS] = String(at.answer('WAV:PRE?')).split(',').map(Number);
  const volts = Float64Array.from(String(at.answer('WAV:DATA?')).split(','), Number);
  const cable = CABLE_TYPES.find((type) => type.id === cableTypeId);
  if (!cable || intervalS === undefined || startS === undefined) throw new Error('nothing read');
  return readTrace(
    { intervalS, startS, volts },
    {
      line: lineOf(cable),
      velocityDeviation: 0,
      lossKnown: true,
      lead: { lengthM: LEAD.lengthM, velocityFactor: 0.66, deviationM: 0.005 },
      shape: 'pulse',
    },
  );
}
const mainOf = ({ events, main }: TraceReading) => (main === null ? undefined : events[main]);

describe('the stand-in oscilloscope', () => {
  it('says who it is', () => {
    expect(scope().answer('*IDN?')).toMatch(/^Near Spoke,.*,1,1$/);
  });

  it('shows the demo’s broken pair and its wet coax where they are', () => {
    expect(mainOf(seen('P1-16', '4-5'))).toEqual(jasmine.objectContaining({ kind: 'open' }));
    expect(mainOf(seen('P1-16', '4-5'))?.distanceM).toBeCloseTo(23, 0);
    const wet = mainOf(seen('C-02', ''));
    expect(wet?.kind).toMatch(/low-section|wet-or-shunt/);
    expect(wet?.distanceM).toBeCloseTo(27, 0);
  });

  it('sees the same break from the far end at what is left of the link', () => {
    const { lengthM } = linkOf('P1-16');
    expect(mainOf(seen('P1-16', '4-5', 'FAR'))?.distanceM).toBeCloseTo(lengthM - 23, 0);
  });

  it('sees the end of a sound pair', () => {
    const end = mainOf(seen('P1-01', '1-2'));
    expect(end?.kind).toBe('open');
    expect(end?.distanceM).toBeCloseTo(linkOf('P1-01').lengthM, 0);
  });

  it('gives the same samples as text and as a binary block', () => {
    const at = scope();
    at.answer(`ROUT:LINE "${linkOf('P1-01').id}",NEAR,"1-2"`);
    at.answer('ACQ:POIN 600;INT 1NS;:INIT');
    const text = String(at.answer('WAV:FORM ASC;DATA?')).split(',').map(Number);
    const block = at.answer('WAV:FORM BYTE;DATA?') as Buffer;
    const [, , perCount] = String(at.answer('WAV:PRE?')).split(',').map(Number);
    expect(block.toString('latin1', 0, 5)).toBe('#3600');
    const counts = new Int8Array(block.subarray(5));
    expect(counts.length).toBe(600);
    const off = text.map((volt, n) => Math.abs(volt - (counts[n] ?? NaN) * (perCount ?? NaN)));
    expect(Math.max(...off)).toBeLessThan(1e-8);
    expect(new Set(counts).size).toBeGreaterThan(10);
  });

  it('takes units, long and short words in any case, and answers several queries at once', () => {
    const at = scope();
    at.answer('source:pulse:width 20 ns');
    expect(Number(at.answer('SOUR:PULS:WIDT?'))).toBeCloseTo(2e-8, 15);
    at.answer('SOURce:PULSe:TRANsition 1500PS;WIDTh 1E-8');
    expect(at.answer('SOUR:PULS:TRAN?;WIDT?')).toBe('1.500000000E-9;1.000000000E-8');
    expect(at.answer('*OPC?')).toBe('1');
    at.answer('*RST');
    expect(Number(at.answer('SOUR:PULS:TRAN?'))).toBeCloseTo(2e-9, 15);
  });

  const refused: [string, string, string][] = [
    ['a word it does not know', 'SOURce:COLour BLUE', '-113,"Undefined header"'],
    ['a word that is neither long nor short', 'SOURc:FUNC PULS', '-113,"Undefined header"'],
    ['no figure', 'SOURce:VOLTage', '-109,"Missing parameter"'],
    ['a figure that is none', 'SOURce:VOLTage wide', '-104,"Data type error"'],
    ['a figure out of range', 'SOURce:VOLTage 400V', '-222,"Data out of range"'],
    ['a choice there is not', 'SOURce:FUNCtion SINE', '-224,"Illegal parameter value"'],
    ['a line not in quotes', 'ROUTe:LINE 7,NEAR', '-151,"Invalid string data"'],
    ['an acquisition with nothing clipped on', 'INITiate', '-241,"Hardware missing"'],
    ['a waveform before any was taken', 'WAVeform:DATA?', '-230,"Data corrupt or stale"'],
  ];
  for (const [what, command, error] of refused) {
    it(`refuses ${what} by its number`, () => {
      const at = scope();
      expect(at.answer(command)).toBeNull();
      expect(at.answer('SYSTem:ERRor:NEXT?')).toBe(error);
      expect(at.answer('SYST:ERR?')).toBe('0,"No error"');
    });
  }

  it('keeps errors in order, says when there are too many, and forgets them when told to', () => {
    const at = scope();
    for (let n = 0; n < 20; n++) at.answer(n === 0 ? 'INIT' : 'NOSUCH');
    expect(at.answer('SYST:ERR?')).toBe('-241,"Hardware missing"');
    const rest = Array.from({ length: 15 }, () => at.answer('SYST:ERR?'));
    expect(rest.at(-1)).toBe('-350,"Queue overflow"');
    at.answer('NOSUCH');
    at.answer('*CLS');
    expect(at.answer('SYST:ERR?')).toBe('0,"No error"');
  });

  it('knows no line that the world does not have, nor a pair that the link does not have', () => {
    const at = scope();
    for (const route of ['"nothing",NEAR,""', `"${linkOf('P1-01').id}",NEAR,"1-8"`]) {
      at.answer(`ROUT:LINE ${route}`);
      at.answer('INIT');
      expect(at.answer('SYST:ERR?')).toBe('-241,"Hardware missing"');
    }
  });
});
