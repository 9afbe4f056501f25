/**
 * A network of resistors, solved for what a meter shows between two of its nodes: every node that nobody touches is
 * taken out in turn, its star of conductances becoming the mesh that is equal to it (Rosen 1924); what is left is
 * solved once for all that is touched, less what hangs there by one resistor.
 */
export class ResistorNetwork {
  private nodes = 0;
  /** Resistor after resistor: its two nodes, and its conductance. */
  private readonly ends: number[] = [];
  private readonly siemens: number[] = [];

  /** A new node; its number. */
  node(): number {
    return this.nodes++;
  }

  /** A resistor between two nodes; of next to nothing counts as a tenth of a milliohm. */
  join(a: number, b: number, ohm: number): void {
    if (a === b || ohm === Infinity) return;
    this.ends.push(a, b);
    this.siemens.push(1 / Math.max(ohm, 1e-4));
  }

  /** Ohms between two nodes, Infinity where nothing leads across. */
  between(from: number, to: number): number {
    return this.betweenEach([[from, to]])[0] as number;
  }

  /** Ohms between the two nodes of each couple, Infinity where nothing leads across. */
  betweenEach(couples: readonly (readonly [number, number])[]): number[] {
    const { at, ohm, isCut } = this.hanging([...new Set(couples.flat())]);
    const solvedAt = [...new Set(couples.flat().map((node) => at[node] as number))];
    const count = solvedAt.length;
    const { island, ohms } = solveIslands(this.reducedTo(solvedAt, isCut), count);
    return couples.map(([from, to]) => {
      if (from === to) return 0;
      const [a, b] = [from, to].map((node) => solvedAt.indexOf(at[node] as number)) as [number, number];
      if (island[a] !== island[b]) return Infinity;
      const across =
        (ohms[a * count + a] as number) +
        (ohms[b * count + b] as number) -
        2 * (ohms[a * count + b] as number);
      return (ohm[from] as number) + across + (ohm[to] as number);
    });
  }

  /**
   * Most contacts hang on the rest by one resistor alone: those are cut off, and the network is solved where they hung.
   * @returns for each node where it is solved, and by how many ohms it hangs there; which resistors are cut off
   */
  private hanging(touched: readonly number[]): { at: Int32Array; ohm: Float64Array; isCut: Uint8Array } {
    const { nodes: size, ends, siemens } = this;
    const at = Int32Array.from({ length: size }, (_, node) => node);
    const ohm = new Float64Array(size);
    const isCut = new Uint8Array(siemens.length);
    const degree = new Int32Array(size);
    // Of a node with one resistor, that one.
    const last = new Int32Array(size);
    for (let i = 0; i < ends.length; i++) {
      const node = ends[i] as number;
      degree[node] = (degree[node] as number) + 1;
      last[node] = i >> 1;
    }
    // What others hang on stays: they are counted from there.
    const isHeld = new Uint8Array(size);
    for (const node of touched) {
      const only = last[node] as number;
      if (degree[node] !== 1 || isHeld[node] === 1 || isCut[only] === 1) continue;
      const other = (ends[2 * only] as number) + (ends[2 * only + 1] as number) - node;
      isCut[only] = 1;
      isHeld[other] = 1;
      at[node] = other;
      ohm[node] = 1 / (siemens[only] as number);
    }
    return { at, ohm, isCut };
  }

  /** Conductances between some nodes, row by row, when all others are taken out. */
  private reducedTo(kept: readonly number[], isCut: Uint8Array): Float64Array {
    const { ends, siemens } = this;
    const count = kept.length;
    // Kept ones come first; what hangs on nothing any more has no place at all.
    const place = new Int32Array(this.nodes).fill(-1);
    kept.forEach((node, i) => (place[node] = i));
    let size = count;
    for (let i = 0; i < ends.length; i++) {
      const node = ends[i] as number;
      if (isCut[i >> 1] === 0 && place[node] === -1) place[node] = size++;
    }
    const all = new Float64Array(size * size);
    for (let i = 0; i < siemens.length; i++) {
      if (isCut[i] === 1) continue;
      const [a, b] = [place[ends[2 * i] as number] as number, place[ends[2 * i + 1] as number] as number];
      all[a * size + b] = (all[a * size + b] as number) + (siemens[i] as number);
      all[b * size + a] = all[a * size + b] as number;
    }
    const beside = new Int32Array(size);
    for (let node = size - 1; node >= count; node--) {
      let found = 0;
      let sum = 0;
      for (let other = 0; other < node; other++) {
        const s = all[node * size + other] as number;
        if (s === 0) continue;
        beside[found++] = other;
        sum += s;
      }
      for (let i = 0; i < found; i++) {
        const a = beside[i] as number;
        const share = (all[node * size + a] as number) / sum;
        for (let j = i + 1; j < found; j++) {
          const b = beside[j] as number;
          const through = (all[a * size + b] as number) + share * (all[node * size + b] as number);
          all[a * size + b] = through;
          all[b * size + a] = through;
        }
      }
    }
    const left = new Float64Array(count * count);
    for (let i = 0; i < count; i++)
      for (let j = 0; j < count; j++) left[i * count + j] = all[i * size + j] as number;
    return left;
  }
}

/** What hangs together, and for each two of it the volts at one for an ampere put in at the other. */
interface Solved {
  /** Node -> the first node of its island, where the ampere is taken out and no volts are. */
  island: Int32Array;
  /** Row by row; nothing between islands. */
  ohms: Float64Array;
}

/** Solves conductances between `count` nodes: each island's matrix without its first node, inverted in place. */
function solveIslands(conductances: Float64Array, count: number): Solved {
  const island = new Int32Array(count).fill(-1);
  const ohms = new Float64Array(count * count);
  for (let first = 0; first < count; first++) {
    if (island[first] !== -1) continue;
    island[first] = first;
    const members = [first];
    for (const node of members)
      for (let other = 0; other < count; other++)
        if (island[other] === -1 && conductances[node * count + other] !== 0) {
          island[other] = first;
          members.push(other);
        }
    for (let i = 1; i < members.length; i++) {
      const node = members[i] as number;
      for (const other of members) {
        const s = conductances[node * count + other] as number;
        ohms[node * count + node] = (ohms[node * count + node] as number) + s;
        if (other !== first && other !== node) ohms[node * count + other] = -s;
      }
    }
    invert(ohms, count, members.slice(1));
  }
  return { island, ohms };
}

/** Inverts some rows and columns of a matrix in place (Gauss and Jordan; symmetric, positive). */
function invert(m: Float64Array, width: number, rows: readonly number[]): void {
  for (const k of rows) {
    const pivot = 1 / (m[k * width + k] as number);
    m[k * width + k] = 1;
    for (const j of rows) m[k * width + j] = (m[k * width + j] as number) * pivot;
    for (const i of rows) {
      const times = i === k ? 0 : (m[i * width + k] as number);
      if (times === 0) continue;
      m[i * width + k] = 0;
      for (const j of rows)
        m[i * width + j] = (m[i * width + j] as number) - times * (m[k * width + j] as number);
    }
  }
}
