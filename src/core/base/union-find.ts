/** Disjoint sets of names: union–find with path halving and union by size (Tarjan 1975). */
export class UnionFind {
  private readonly up = new Map<string, string>()
  private readonly size = new Map<string, number>()

  /** The representative of the set a name is in; a name never seen is a set of its own. */
  root(name: string): string {
    let at = name
    for (let above = this.up.get(at); above !== undefined; above = this.up.get(at)) {
      const next = this.up.get(above)
      if (next === undefined) return above
      this.up.set(at, next)
      at = next
    }
    return at
  }

  join(a: string, b: string): void {
    const [x, y] = [this.root(a), this.root(b)]
    if (x === y) return
    const [sizeX, sizeY] = [this.size.get(x) ?? 1, this.size.get(y) ?? 1]
    const [small, large] = sizeX < sizeY ? [x, y] : [y, x]
    this.up.set(small, large)
    this.size.set(large, sizeX + sizeY)
  }

  joined(a: string, b: string): boolean {
    return this.root(a) === this.root(b)
  }
}
