import fc from 'fast-check';
import { kindFrom, readPinout, voltsFrom, type PinKind } from '@near-spoke/core';

const words = (text: string): string[] =>
  readPinout(text).pins.map(({ contact, signal, kind }) => `${contact} ${signal} ${kind}`);

describe('a pinout pasted from a sheet', () => {
  it('is read with tabs, semicolons, bars, commas or blanks between its columns, heading passed over', () => {
    const expected = ['1 GND ground', '2 TXD output', '3 RXD input'];
    expect(words('Pin\tSignal\tType\n1\tGND\tground\n2\tTXD\tout\n3\tRXD\tin')).toEqual(expected);
    expect(words('1;GND;ground\r\n2;TXD;output\r\n3;RXD;input\r\n')).toEqual(expected);
    expect(words('| 1 | GND | gnd |\n| 2 | TXD | O |\n| 3 | RXD | I |')).toEqual(expected);
    expect(words('1,GND,G\n2,TXD,out\n3,RXD,in')).toEqual(expected);
    expect(words('1   GND   ground\n\n2   TXD   out\n3   RXD   in')).toEqual(expected);
    expect(words('1 GND\n2 TXD out\n3 RXD in')).toEqual(expected);
  });

  it('takes volts of supplies, with a comma too, and of nothing else', () => {
    const { pins } = readPinout('1\tVCC\tsupply in\t4,5 to 5,5 V\n2\tV+\tpower out\t12\n3\tTXD\tout\t5');
    expect(pins.map(({ volts }) => volts)).toEqual([[4.5, 5.5], [12, 12], null]);
  });

  it('knows ground, shield and not connected by name, and guesses nothing else', () => {
    expect(words('5 GND\n6 SHIELD\n7 NC')).toEqual(['5 GND ground', '6 SHIELD shield', '7 NC not-connected']);
    const { problems } = readPinout('2 DATA');
    expect(problems).toEqual([{ line: 1, words: jasmine.stringMatching(/^What does DATA do\?/) }]);
  });

  it('says for each wrong line what is wrong and what to write', () => {
    const { pins, problems } = readPinout(
      '1 GND\n1 TXD out\nshell\n4 CTS sideways\n5 VCC power lots\n#12345678 A in',
    );
    expect(pins.map(({ contact }) => contact)).toEqual(['1']);
    expect(problems.map(({ line }) => line)).toEqual([2, 3, 4, 5, 6]);
    expect(problems.map(({ words: said }) => said).join('\n')).toMatch(
      /stands twice[^]*no second column[^]*"sideways" is not known[^]*"lots" are no volts[^]*is no contact/,
    );
    expect(readPinout(' \n').problems.length).toBe(1);
  });

  it('comes back as it was written, whatever the signals are called', () => {
    const kinds: [string, PinKind][] = [
      ['in', 'input'],
      ['out', 'output'],
      ['both', 'both'],
      ['ground', 'ground'],
    ];
    const signal = fc.stringMatching(/^[A-Z][A-Z0-9+-]{0,8}$/);
    const table = fc.array(fc.tuple(signal, fc.constantFrom(...kinds)), { minLength: 1, maxLength: 30 });
    fc.assert(
      fc.property(table, fc.constantFrom('\t', ';', '|'), (lines, sign) => {
        const text = lines.map(([name, [said]], n) => [n + 1, name, said].join(sign)).join('\n');
        expect(readPinout(text)).toEqual({
          problems: [],
          pins: lines.map(([name, [, kind]], n) =>
            jasmine.objectContaining({ contact: String(n + 1), signal: name, kind }),
          ) as never,
        });
      }),
    );
  });

  it('reads what a contact does whole, and a range only where it rises', () => {
    expect([kindFrom('I/O'), kindFrom(' Open Drain '), kindFrom('interesting')]).toEqual([
      'both',
      'open-collector',
      null,
    ]);
    expect([voltsFrom('3.1..3.5'), voltsFrom('-5 to 5'), voltsFrom('5 to 4'), voltsFrom('')]).toEqual([
      [3.1, 3.5],
      [-5, 5],
      null,
      null,
    ]);
  });
});
