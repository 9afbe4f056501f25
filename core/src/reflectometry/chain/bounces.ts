import type { Chain } from './chain.js';

/** What comes back to the tee of a launch of one. */
export interface Bounce {
  delay: number;
  share: number;
}

/** A place where waves part: what each side sends back and lets through. */
interface Node {
  at: number;
  /** Reflection and passing of a wave from the near side, and of one from the far side. */
  near: { back: number; through: number };
  far: { back: number; through: number };
  /** Round trip through a branch that is open at its end; 0 for none. */
  branch: number;
}

/** A wave on its way to a node: `right` away from the tee. In a branch it goes to the node from there. */
interface Wave {
  node: number;
  way: 'right' | 'left' | 'branch';
  time: number;
  size: number;
}

/** A third goes back where a line parts in two alike, two thirds go each way. */
const PARTS = { back: -1 / 3, through: 2 / 3 };

/** Waves followed at most. */
const MOST_WAVES = 3000;

/**
 * The echoes that a chain sends back, without loss and into a source that matches: each wave is followed from place to
 * place (a bounce diagram) until it is smaller than `least` or later than `until`.
 */
export function bouncesOf(chain: Chain, { least, until }: { least: number; until: number }): Bounce[] {
  const nodes = nodesOf(chain);
  const out: Bounce[] = [];
  const waves: Wave[] = [{ node: 0, way: 'right', time: nodes[0] ? nodes[0].at / 2 : Infinity, size: 1 }];
  for (let n = 0; n < waves.length && n < MOST_WAVES; n++) {
    const { node, way, time, size } = waves[n] as Wave;
    const here = nodes[node];
    if (!here) continue;
    const send = (to: 'right' | 'left' | 'branch', share: number): void => {
      if (Math.abs(share) < least) return;
      if (to === 'branch') {
        if (time + here.branch < until)
          waves.push({ node, way: 'branch', time: time + here.branch, size: share });
        return;
      }
      const next = nodes[to === 'right' ? node + 1 : node - 1];
      if (to === 'left' && !next) {
        const delay = time + here.at / 2;
        if (delay < until) out.push({ delay, share });
        return;
      }
      if (!next) return;
      const then = time + Math.abs(next.at - here.at) / 2;
      if (then < until)
        waves.push({ node: to === 'right' ? node + 1 : node - 1, way: to, time: then, size: share });
    };
    if (here.branch > 0) {
      send('left', size * (way === 'right' ? PARTS.back : PARTS.through));
      send('right', size * (way === 'left' ? PARTS.back : PARTS.through));
      send('branch', size * (way === 'branch' ? PARTS.back : PARTS.through));
    } else if (way === 'right') {
      send('left', size * here.near.back);
      send('right', size * here.near.through);
    } else {
      send('right', size * here.far.back);
      send('left', size * here.far.through);
    }
  }
  return out;
}

function nodesOf({ lead, parts, end }: Chain): Node[] {
  const step = (at: number, from: number, to: number): Node => {
    const rho = (to - from) / (to + from);
    return {
      at,
      near: { back: rho, through: 1 + rho },
      far: { back: -rho, through: 1 - rho },
      branch: 0,
    };
  };
  const alike = (at: number, back: number, through: number): Node => ({
    at,
    near: { back, through },
    far: { back, through },
    branch: 0,
  });
  const nodes: Node[] = lead ? [step(lead.at, Math.exp(lead.value), 1)] : [];
  for (const part of parts) {
    if (part.kind === 'series')
      nodes.push(alike(part.at, part.value / (2 + part.value), 2 / (2 + part.value)));
    else if (part.kind === 'shunt')
      nodes.push(alike(part.at, -part.value / (2 + part.value), 2 / (2 + part.value)));
    else if (part.kind === 'section')
      nodes.push(
        step(part.at, 1, Math.exp(part.value)),
        step(part.at + part.length, Math.exp(part.value), 1),
      );
    else nodes.push({ ...alike(part.at, 0, 1), branch: part.length });
  }
  if (end.kind === 'open') nodes.push(alike(end.at, 1, 0));
  else if (end.kind === 'short') nodes.push(alike(end.at, -1, 0));
  return nodes;
}
