/** A node's neighbours, and the conductance to each. */
interface Star {
  to: number[];
  siemens: number[];
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
    const { stars } = this;
    const left = stars.map((_, node) => node).filter((node) => node !== from && node !== to);
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
    const star = stars[from] as Star;
    const direct = star.to.indexOf(to);
    return direct < 0 ? Infinity : 1 / (star.siemens[direct] as number);
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
