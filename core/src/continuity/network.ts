/** A node's neighbours, and the conductance to each. */
interface Star {
  to: number[];
  siemens: number[];
}

interface Potential {
  island: number;
  at: number;
  perAmpere: (at: number) => number;
}

/**
 * A network of resistors, solved for what a meter shows between two of its nodes: every other node is
 * taken out in turn, its star of conductances becoming the mesh that is equal to it (Rosen 1924). Those with
 * the fewest neighbours go first: a dead end and a node in a row cost next to nothing, and are most of a link.
 */
export class ResistorNetwork {
  private readonly stars: Star[] = [];

  /** A new node; its number. */
  node(): number {
    return this.stars.push({ to: [], siemens: [] }) - 1;
  }

  /** A resistor between two nodes; of next to nothing counts as a tenth of a milliohm. */
  join(a: number, b: number, ohm: number): void {
    if (a === b || ohm === Infinity) return;
    const siemens = 1 / Math.max(ohm, 1e-4);
    this.add(a, b, siemens);
    this.add(b, a, siemens);
  }

  /** Ohms between two nodes, Infinity where nothing leads across. Uses the network up. */
  between(from: number, to: number): number {
    if (from === to) return 0;
    this.keepOnly([from, to]);
    const star = this.stars[from] as Star;
    const direct = star.to.indexOf(to);
    return direct < 0 ? Infinity : 1 / (star.siemens[direct] as number);
  }

  /**
   * Ohms between the two nodes of each couple, as `between` has them one by one: what is left of the network when
   * all other nodes are taken out is solved once. Uses the network up.
   */
  betweenEach(couples: readonly (readonly [number, number])[]): number[] {
    const ends = [...new Set(couples.flat())];
    this.keepOnly(ends);
    const potentials = this.potentials(ends);
    return couples.map(([from, to]) => {
      if (from === to) return 0;
      const [a, b] = [potentials.get(from), potentials.get(to)];
      if (!a || !b || a.island !== b.island) return Infinity;
      return a.perAmpere(a.at) + b.perAmpere(b.at) - a.perAmpere(b.at) - b.perAmpere(a.at);
    });
  }

  /** Node by node, island by island: volts at each node for an ampere put in there and taken out at the island's first. */
  private potentials(nodes: readonly number[]): Map<number, Potential> {
    const found = new Map<number, Potential>();
    for (const first of nodes) {
      if (found.has(first)) continue;
      const island = [first];
      const at = new Map([[first, 0]]);
      for (const node of island)
        for (const next of (this.stars[node] as Star).to)
          if (!at.has(next)) at.set(next, island.push(next) - 1);
      const inverse = this.inverted(island, at);
      const size = island.length - 1;
      island.forEach((node, i) =>
        found.set(node, {
          island: first,
          at: i,
          perAmpere: (j) => (i === 0 || j === 0 ? 0 : (inverse[(i - 1) * size + j - 1] as number)),
        }),
      );
    }
    return found;
  }

  /** The conductance matrix of an island without its first node, inverted (Gauss and Jordan, in place; symmetric, positive). */
  private inverted(island: readonly number[], at: ReadonlyMap<number, number>): Float64Array {
    const size = island.length - 1;
    const m = new Float64Array(size * size);
    island.forEach((node, i) => {
      if (i === 0) return;
      const { to, siemens } = this.stars[node] as Star;
      to.forEach((other, k) => {
        const j = at.get(other) as number;
        const s = siemens[k] as number;
        m[(i - 1) * size + i - 1] = (m[(i - 1) * size + i - 1] as number) + s;
        if (j > 0) m[(i - 1) * size + j - 1] = (m[(i - 1) * size + j - 1] as number) - s;
      });
    });
    for (let k = 0; k < size; k++) {
      const pivot = 1 / (m[k * size + k] as number);
      m[k * size + k] = 1;
      for (let j = 0; j < size; j++) m[k * size + j] = (m[k * size + j] as number) * pivot;
      for (let i = 0; i < size; i++) {
        const times = i === k ? 0 : (m[i * size + k] as number);
        if (times === 0) continue;
        m[i * size + k] = 0;
        for (let j = 0; j < size; j++)
          m[i * size + j] = (m[i * size + j] as number) - times * (m[k * size + j] as number);
      }
    }
    return m;
  }

  /** Takes every other node out. */
  private keepOnly(nodes: readonly number[]): void {
    const { stars } = this;
    const left = stars.map((_, node) => node).filter((node) => !nodes.includes(node));
    while (left.length > 0) {
      let least = 0;
      let fewest = Infinity;
      for (let i = 0; i < left.length && fewest > 1; i++) {
        const count = (stars[left[i] as number] as Star).to.length;
        if (count < fewest) [least, fewest] = [i, count];
      }
      const node = left[least] as number;
      left[least] = left[left.length - 1] as number;
      left.pop();
      this.takeOut(node);
    }
  }

  private add(a: number, b: number, siemens: number): void {
    const { to, siemens: known } = this.stars[a] as Star;
    const at = to.indexOf(b);
    if (at < 0) {
      to.push(b);
      known.push(siemens);
    } else known[at] = (known[at] as number) + siemens;
  }

  private takeOut(node: number): void {
    const { to, siemens } = this.stars[node] as Star;
    let sum = 0;
    for (let i = 0; i < to.length; i++) {
      sum += siemens[i] as number;
      const other = this.stars[to[i] as number] as Star;
      const at = other.to.indexOf(node);
      const [last, lastSiemens] = [other.to.pop() as number, other.siemens.pop() as number];
      if (at < other.to.length) {
        other.to[at] = last;
        other.siemens[at] = lastSiemens;
      }
    }
    for (let i = 0; i < to.length; i++)
      for (let j = i + 1; j < to.length; j++) {
        const [a, b] = [to[i] as number, to[j] as number];
        const through = ((siemens[i] as number) * (siemens[j] as number)) / sum;
        this.add(a, b, through);
        this.add(b, a, through);
      }
  }
}
