import type { Chain, Part } from '../../src/reflectometry/chain/chain.js';
import { bouncesOf } from '../../src/reflectometry/chain/bounces.js';
import { proposeChains } from '../../src/reflectometry/chain/propose.js';
import type { Reflected } from '../../src/reflectometry/events.js';
import { seededRandom, type Random } from '../../src/index.js';
import { latticeTrace, type LatticeLine } from '../world/lattice-line.js';

const PIECES = 90;

/** A chain of up to two things and an end, at whole steps, and the same in the lattice's own terms. */
function drawBoth(random: Random): { chain: Chain; line: LatticeLine } {
  const impedances = new Float64Array(PIECES).fill(1);
  const line: LatticeLine = {
    impedances,
    keeps: 1,
    smears: [],
    series: new Map(),
    shunts: new Map(),
    stubs: new Map(),
    end: random() < 0.5 ? 'open' : random() < 0.5 ? 'short' : 'matched',
    source: 1,
  };
  const parts: Part[] = [];
  for (const from of [12, 50]) {
    if (random() < 0.3) continue;
    const at = from + Math.floor(10 * random());
    const value = 0.2 + 1.5 * random();
    const length = 4 + Math.floor(12 * random());
    const kind = (['series', 'shunt', 'section', 'stub'] as const)[Math.floor(4 * random())] ?? 'series';
    if (kind === 'series') {
      line.series.set(at, value);
      parts.push({ kind, at: 2 * at, value });
    } else if (kind === 'shunt') {
      line.shunts.set(at, value);
      parts.push({ kind, at: 2 * at, value });
    } else if (kind === 'section') {
      const log = (random() < 0.5 ? 1 : -1) * 0.4;
      impedances.fill(Math.exp(log), at, at + length);
      parts.push({ kind, at: 2 * at, value: log, length: 2 * length });
    } else {
      line.stubs.set(at, length);
      // The wave turns round within the branch's last step.
      parts.push({ kind, at: 2 * at, length: 2 * length - 1 });
    }
  }
  const end: Chain['end'] =
    line.end === 'open' || line.end === 'short'
      ? { kind: line.end, at: 2 * PIECES }
      : { kind: 'beyond', at: 0 };
  return { chain: { lead: null, parts, end }, line };
}

describe('The echoes of a chain, followed one by one', () => {
  it('are those of a lattice of waves that knows nothing of bounce diagrams', () => {
    const random = seededRandom(4);
    for (let n = 0; n < 120; n++) {
      const { chain, line } = drawBoth(random);
      const until = 400;
      const bounces = bouncesOf(chain, { least: 5e-4, until });
      const told = new Float64Array(until);
      for (const { delay, share } of bounces) {
        const at = Math.round(delay);
        told[at] = (told[at] ?? 0) + share;
      }
      const launch = new Float64Array(until);
      launch[0] = 2;
      const seen = latticeTrace(line, launch);
      for (let step = 1; step < 270; step++)
        expect(Math.abs((seen[step] ?? 0) - (told[step] ?? 0)))
          .withContext(`${JSON.stringify(chain)} at ${step}: ${seen[step]}, told ${told[step]}`)
          .toBeLessThan(0.02);
    }
  });
});

describe('Chains that echoes speak for', () => {
  const asEcho = ({ delay, share }: { delay: number; share: number }): Reflected =>
    ({ delay, share, delayDeviation: 0.1, shareDeviation: 0.01, lostNeper: 0 }) as Reflected;

  it('have the true one among the first, whatever lies in the way', () => {
    const random = seededRandom(11);
    let [first, all] = [0, 0];
    for (let n = 0; n < 60; n++) {
      const { chain } = drawBoth(random);
      if (chain.parts.length === 0) continue;
      const echoes = bouncesOf(chain, { least: 0.02, until: 500 })
        .sort((a, b) => a.delay - b.delay)
        .map(asEcho);
      const proposals = proposeChains(null, echoes, { near: 3, until: 500 }).slice(0, 24);
      const kinds = (one: Chain): string =>
        JSON.stringify([one.parts.map(({ kind, at }) => [kind, Math.round(at / 4)]), one.end.kind]);
      all++;
      if (proposals.some((proposal) => kinds(proposal.chain) === kinds(chain))) first++;
    }
    expect(first / all).toBeGreaterThan(0.85);
  });

  it('are none but a bare line where there is no echo', () => {
    const [only, ...more] = proposeChains(null, [], { near: 3, until: 500 });
    expect(only?.chain).toEqual({ lead: null, parts: [], end: { kind: 'beyond', at: 0 } });
    expect(more).toEqual([]);
  });
});
