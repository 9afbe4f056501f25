import type { SchemeId } from '../../cabling/schemes.js';
import type { SlipKind } from '../practice.js';
import type { EndBench } from './end.js';
import type { Way } from './way.js';

/**
 * Slips of order at one end. Everything follows from the pairs of the scheme in hand, so that T568A and
 * T568B are each other's mirror here, and names of contacts do not matter.
 */
export function orderWays(bench: EndBench): Partial<Record<SlipKind, Way[]>> {
  const { family } = bench.expected;
  if (family === 'coax') return {};
  if (family === 'line')
    return { 'reversed-pair': exchanges(bench)['reversed-pair'] ?? [], 'other-pair': otherPair(bench) };
  const n = bench.wired.length;
  if (n < 3) return exchanges(bench);
  const whole = { mirror: [mirror(bench)], shift: shifts(bench, family === 'multipair' ? 2 : 1) };
  if (family !== 'balanced') return { ...whole, ...exchanges(bench) };
  const { scheme } = bench.here;
  const [first, second] = bench.pairs;
  const twin: SchemeId = scheme === 'T568A' ? 'T568B' : 'T568A';
  const byScheme: Way[] =
    first && second
      ? [
          {
            ...bench.exchanged('mixed-scheme', [
              [first.a, second.a],
              [first.b, second.b],
            ]),
            variant: twin,
          },
        ]
      : [];
  return { 'other-scheme': byScheme, 'pair-by-pair': [pairByPair(bench)], ...whole, ...exchanges(bench) };
}

/** The pairs laid one after the other, in the order of their first contacts, the white-based wire first. */
function pairByPair(bench: EndBench): Way {
  const meant = bench.frame.intended[bench.end];
  const inPair = ({ a, b }: EndBench['pairs'][number]): number[] =>
    (meant[a] as number) < (meant[b] as number) ? [a, b] : [b, a];
  return bench.reordered('split', bench.wired, bench.pairs.flatMap(inPair));
}

const mirror = (bench: EndBench): Way => bench.reordered('mirror', bench.wired, [...bench.wired].reverse());

function shifts(bench: EndBench, step: number): Way[] {
  const { wired } = bench;
  const by = (steps: number): number[] => wired.map((_, i) => wired[i - steps] ?? -1);
  return [
    bench.reordered('shifted', wired, by(step), 'up'),
    bench.reordered('shifted', wired, by(-step), 'down'),
  ];
}

/** Two pairs, two wires of a pair, or any two wires exchanged. */
function exchanges(bench: EndBench): Partial<Record<SlipKind, Way[]>> {
  const { wired, pairs, frame, end, expected } = bench;
  const many = wired.length > 10;
  const balanced = expected.family === 'balanced';
  const transposed = pairs.flatMap((p, i) =>
    pairs.slice(i + 1, many ? i + 2 : undefined).flatMap((q, j) =>
      // Those two exchanged are the other scheme.
      balanced && i === 0 && j === 0
        ? []
        : [
            bench.exchanged('transposed', [
              [p.a, q.a],
              [p.b, q.b],
            ]),
          ],
    ),
  );
  const reversed: Way[] = [];
  const neighbours: Way[] = [];
  const distant: Way[] = [];
  wired.forEach((a, i) => {
    wired.slice(i + 1).forEach((b, j) => {
      if (bench.paired && frame.mate[end][a] === b) reversed.push(bench.exchanged('reversed', [[a, b]]));
      else if (j === 0) neighbours.push(bench.exchanged('swap', [[a, b]]));
      else if (!many || j === 1) distant.push(bench.exchanged('swap', [[a, b]]));
    });
  });
  return {
    'transposed-pairs': transposed,
    'reversed-pair': reversed,
    'neighbour-swap': neighbours,
    'distant-swap': distant,
  };
}

/** A leg, or both, taken from another pair of the cable: at both ends the line works and is split. */
function otherPair(bench: EndBench): Way[] {
  const { frame, end, wired } = bench;
  const [a, b] = wired;
  if (a === undefined || b === undefined) return [];
  const mine = frame.intended[end];
  const spare = frame.conductors.flatMap((_, w) =>
    [...mine].includes(w) || (frame.pairOf[w] as number) < 1 ? [] : [w],
  );
  const laid = (changes: readonly (readonly [number, number])[]): Way['effects'] => {
    const wiring = [...mine];
    for (const [contact, conductor] of changes) wiring[contact] = conductor;
    return [{ does: 'wire', end, wiring }];
  };
  const name = (w: number): string => frame.conductors[w] as string;
  const tips = spare.filter((_, i) => i % 2 === 0);
  return tips.flatMap((tip, i): Way[] => {
    const ring = spare[2 * i + 1];
    if (ring === undefined) return [];
    return [
      { kind: 'split', contacts: [a], variant: name(tip), effects: laid([[a, tip]]) },
      { kind: 'split', contacts: [b], variant: name(ring), effects: laid([[b, ring]]) },
      {
        kind: 'transposed',
        contacts: [a, b],
        variant: name(ring),
        effects: laid([
          [a, tip],
          [b, ring],
        ]),
      },
    ];
  });
}
