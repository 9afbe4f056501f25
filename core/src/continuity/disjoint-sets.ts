/** Disjoint sets with path halving; elements come into being when first named. */
export class DisjointSets<T> {
  readonly #parent = new Map<T, T>();

  find(element: T): T {
    let node = element;
    for (;;) {
      const parent = this.#parent.get(node);
      if (parent === undefined) {
        this.#parent.set(node, node);
        return node;
      }
      if (parent === node) return node;
      const grand = this.#parent.get(parent) as T;
      this.#parent.set(node, grand);
      node = grand;
    }
  }

  join(a: T, b: T): void {
    const rootA = this.find(a);
    const rootB = this.find(b);
    if (rootA !== rootB) this.#parent.set(rootB, rootA);
  }

  joined(a: T, b: T): boolean {
    return this.find(a) === this.find(b);
  }
}
