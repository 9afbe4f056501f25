import { readFileSync } from 'node:fs';
import { highsSolver, type LoadedHighs } from '@near-spoke/core';
import loadHighs from 'highs';
import { NO_TRACE_FILES } from '../src/outcome.js';
import { spoke } from '../src/spoke.js';

const solve = highsSolver((await loadHighs()) as LoadedHighs);
const FILE = readFileSync(
  new URL('../../docs/examples/plans/ticket-hall.cutting.json', import.meta.url),
  'utf8',
);
const cut = (text: string, ...args: string[]) =>
  spoke(['cut', '-', ...args], () => text, NO_TRACE_FILES, solve);
interface File {
  pieces: { label: string; lengthM: number }[];
  have: { name: string; leftM: number; u95M?: number }[];
  buy: { name: string; lengthM: number; price?: number }[];
}
const changed = (change: (file: File) => void): string => {
  const file = JSON.parse(FILE) as File;
  change(file);
  return JSON.stringify(file);
};

describe('spoke cut', () => {
  it('prints each box with its pieces, the pulls, and what to buy', () => {
    const { status, out } = cut(FILE);
    expect(status).toBe(0);
    // 140.9 m are surely on Box A.
    expect(out).toContain('Box A: 140.9 m');
    expect(out).toContain('BUY   2 × box of 305 m, 284.00 in all');
    expect(out).toContain('No plan buys less.');
    expect(out).toMatch(/ 1 {2}Waiting lounge: P1-18 from .*, P1-17 from .*; longest 75\.4 m/);
  });

  it('as JSON conserves every length, ends and allowance included', () => {
    const told = JSON.parse(cut(FILE, '--json').out) as {
      sources: { lengthM: number; leftM: number; pieces: { label: string; lengthM: number }[] }[];
      pulls: { pieces: { label: string }[] }[];
    };
    for (const { lengthM, leftM, pieces } of told.sources)
      expect(lengthM - pieces.reduce((sum, piece) => sum + piece.lengthM, 0)).toBeCloseTo(leftM, 3);
    expect(told.pulls.flatMap(({ pieces }) => pieces).length).toBe(11);
    // 71 m, 4 % and 1.5 m for its ends, cut to the decimetre above.
    const first = told.sources.flatMap(({ pieces }) => pieces).find(({ label }) => label === 'P1-18');
    expect(first?.lengthM).toBe(75.4);
  });

  it('says what cannot be cut, and why', () => {
    const wrong: [string, string][] = [
      [changed((file) => file.pieces.push({ label: 'P1-18', lengthM: 3 })), 'P1-18 stands in the list twice'],
      [
        changed((file) => file.pieces.push({ label: 'X', lengthM: 400 })),
        'X is 417.5 m, longer than anything',
      ],
      [changed((file) => (file.buy = [])), 'no size to buy is named'],
      [
        changed((file) => (file.buy[0] = { name: 'free', lengthM: 305, price: 0 })),
        'buy[0].price: A price is over 0',
      ],
      [changed((file) => (file.pieces = [])), 'pieces: Give at least one piece'],
      [changed((file) => (file.have[0] = { name: 'A', leftM: -4 })), 'have[0].leftM'],
    ];
    for (const [text, words] of wrong) {
      const { status, err } = cut(text);
      expect(status).toBe(2);
      expect(err).toContain(words);
    }
  });
});
