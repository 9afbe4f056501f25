import type { Frame } from './frame.js';
import { FINE, LOOSE, OPEN, type LinkState } from './link-state.js';

/**
 * Which contacts of a link are metallically joined, to an instrument that takes a path for closed
 * up to some resistance. One object is used over and over: `solve` overwrites what it said before.
 */
export class Metal {
  /** Contact -> a label; two contacts are joined exactly when their labels are equal. */
  readonly near: Int16Array;
  readonly far: Int16Array;
  /** Near contact -> the one far contact it reaches, -1 for none; valid while `simple`. */
  readonly to: Int16Array;
  /** No two contacts of one end are joined. */
  simple = true;
  private readonly parent: Int16Array;
  private readonly farOf: Int16Array;

  constructor(private readonly frame: Frame) {
    const { contacts, conductors } = frame;
    const [n, f, w] = [contacts.near.length, contacts.far.length, conductors.length];
    this.near = new Int16Array(n);
    this.far = new Int16Array(f);
    this.to = new Int16Array(n);
    this.farOf = new Int16Array(w);
    this.parent = new Int16Array(n + f + 2 * w);
  }

  /**
   * @param openFrom the first condition of poor joints that reads open; above all of them for none
   * @param openLoose bits: which loose joints are open just now, in the order of the state's cells
   */
  solve(state: LinkState, openFrom: number, openLoose: number): this {
    const { cells } = state;
    this.simple = state.shorts.length === 0 && cells[this.frame.at.equipment] === 0;
    if (this.simple) this.solveSimple(cells, openFrom, openLoose);
    else this.solveJoined(state, openFrom, openLoose);
    return this;
  }

  private solveSimple(cells: Int16Array, openFrom: number, openLoose: number): void {
    const { at, contacts, conductors } = this.frame;
    const [n, f, w] = [contacts.near.length, contacts.far.length, conductors.length];
    const { near, far, to, farOf } = this;
    let bits = openLoose;
    const conducts = (condition: number): boolean => {
      if (condition !== LOOSE) return condition === FINE || (condition !== OPEN && condition < openFrom);
      const open = (bits & 1) === 1;
      bits >>= 1;
      return !open;
    };
    for (let c = 0; c < n; c++) {
      near[c] = c;
      to[c] = conducts(cells[at.nearSeat + c] as number) ? (cells[at.near + c] as number) : -1;
    }
    for (let v = 0; v < w; v++) farOf[v] = -1;
    for (let c = 0; c < f; c++) {
      far[c] = n + c;
      const v = cells[at.far + c] as number;
      if (conducts(cells[at.farSeat + c] as number) && v >= 0) farOf[v] = c;
    }
    const absent = cells[at.absent] !== 0;
    // A conductor's own condition is kept as -2 in `parent`, so that loose bits run in order.
    for (let v = 0; v < w; v++) this.parent[v] = conducts(cells[at.core + v] as number) ? v : -2;
    for (let c = 0; c < n; c++) {
      const v = to[c] as number;
      const reached =
        v < 0 || absent || this.parent[v] === -2 ? -1 : (farOf[cells[at.splice + v] as number] as number);
      to[c] = reached;
      if (reached >= 0) far[reached] = c;
    }
  }

  private solveJoined(state: LinkState, openFrom: number, openLoose: number): void {
    const { frame, parent, near, far } = this;
    const { at, contacts, conductors } = frame;
    const { cells } = state;
    const [n, f, w] = [contacts.near.length, contacts.far.length, conductors.length];
    for (let i = 0; i < n + f + 2 * w; i++) parent[i] = i;
    let bits = openLoose;
    const conducts = (condition: number): boolean => {
      if (condition !== LOOSE) return condition === FINE || (condition !== OPEN && condition < openFrom);
      const open = (bits & 1) === 1;
      bits >>= 1;
      return !open;
    };
    const absent = cells[at.absent] !== 0;
    const nearStretch = n + f;
    const farStretch = n + f + w;
    for (let c = 0; c < n; c++) {
      const v = cells[at.near + c] as number;
      if (conducts(cells[at.nearSeat + c] as number) && v >= 0) this.join(c, nearStretch + v);
    }
    for (let c = 0; c < f; c++) {
      const v = cells[at.far + c] as number;
      if (conducts(cells[at.farSeat + c] as number) && v >= 0 && !absent) this.join(n + c, farStretch + v);
    }
    for (let v = 0; v < w; v++) {
      if (conducts(cells[at.core + v] as number))
        this.join(nearStretch + v, farStretch + (cells[at.splice + v] as number));
    }
    for (const short of state.shorts) {
      if (short.where === 'near') this.join(short.a, short.b);
      else if (short.where === 'far') this.join(n + short.a, n + short.b);
      else this.join(this.stretchAt(state, short.a, short.atM), this.stretchAt(state, short.b, short.atM));
    }
    const equipment = cells[at.equipment] as number;
    if (equipment & 1) for (const { a, b } of frame.pairs.near) this.join(a, b);
    if (equipment & 2 && !absent) for (const { a, b } of frame.pairs.far) this.join(n + a, n + b);
    for (let c = 0; c < n; c++) near[c] = this.find(c);
    for (let c = 0; c < f; c++) far[c] = this.find(n + c);
  }

  /** The stretch of a conductor that passes a place: before its break or behind it. */
  private stretchAt(state: LinkState, conductor: number, atM: number): number {
    const { contacts, conductors, at } = this.frame;
    const nearStretch = contacts.near.length + contacts.far.length;
    const broken = state.cells[at.core + conductor] === OPEN;
    const behind = broken && atM >= (state.coreAtM[conductor] as number);
    return nearStretch + (behind ? conductors.length : 0) + conductor;
  }

  /** Joins two contacts that are labelled already, as a clip lead would. */
  clip(a: number, b: number): void {
    if (a === b) return;
    for (let c = 0; c < this.near.length; c++) if (this.near[c] === b) this.near[c] = a;
    for (let c = 0; c < this.far.length; c++) if (this.far[c] === b) this.far[c] = a;
  }

  private find(node: number): number {
    const { parent } = this;
    let n = node;
    while (parent[n] !== n) {
      parent[n] = parent[parent[n] as number] as number;
      n = parent[n] as number;
    }
    return n;
  }

  private join(a: number, b: number): void {
    this.parent[this.find(b)] = this.find(a);
  }
}
