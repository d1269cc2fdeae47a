/**
 * Factors a symmetric, positive definite matrix whose pattern stays while its values change: the pattern is worked out once
 * (least degree first, so that the nearly tree-like graph of a pipe system fills hardly at all), then every solve is plain loops.
 */
export class SparseSolver {
  readonly size: number;
  /** Node eliminated at each turn, and the turn of each node. */
  private readonly order: Int32Array;
  /** Where each node's later neighbours begin, by turn. */
  private readonly start: Int32Array;
  private readonly later: Int32Array;
  /** For each pair of later neighbours of a turn: the entry where the product goes. */
  private readonly target: Int32Array;
  private readonly turnOf: Int32Array;
  readonly diagonal: Float64Array;
  /** Entries beside the diagonal, by the number that `entry` gives. */
  readonly beside: Float64Array;
  readonly right: Float64Array;

  /** @param size number of unknowns @param one @param other unknowns that stand in one equation, pair by pair; below 0, no unknown */
  constructor(size: number, one: ArrayLike<number>, other: ArrayLike<number>) {
    this.size = size;
    const near: number[][] = [];
    for (let i = 0; i < size; i++) near.push([]);
    const join = (a: number, b: number): void => {
      const of = near[a] as number[];
      if (!of.includes(b)) of.push(b);
    };
    for (let i = 0; i < one.length; i++) {
      const a = one[i] as number;
      const b = other[i] as number;
      if (a < 0 || b < 0 || a === b) continue;
      join(a, b);
      join(b, a);
    }
    this.order = new Int32Array(size);
    this.turnOf = new Int32Array(size).fill(-1);
    this.start = new Int32Array(size + 1);
    const later: number[] = [];
    // Nodes by their degree, least first; a node that has changed since it was put stands elsewhere too.
    const buckets: number[][] = [];
    const put = (node: number): void =>
      void (buckets[(near[node] as number[]).length] ??= []).push(node);
    for (let i = 0; i < size; i++) put(i);
    for (let turn = 0, least = 0; turn < size;) {
      const node = buckets[least]?.pop();
      if (node === undefined) {
        least++;
        continue;
      }
      const around = near[node] as number[];
      if (this.turnOf[node] !== -1 || around.length !== least) continue;
      this.order[turn] = node;
      this.turnOf[node] = turn;
      for (const a of around) {
        later.push(a);
        const of = near[a] as number[];
        of[of.indexOf(node)] = of.at(-1) as number;
        of.pop();
      }
      if (around.length > 1)
        for (const a of around) for (const b of around) if (a !== b) join(a, b);
      for (const a of around) {
        put(a);
        least = Math.min(least, (near[a] as number[]).length);
      }
      this.start[++turn] = later.length;
    }
    this.later = Int32Array.from(later);
    const target: number[] = [];
    for (let turn = 0; turn < size; turn++)
      for (let i = this.start[turn] as number; i < (this.start[turn + 1] as number); i++)
        for (let j = i + 1; j < (this.start[turn + 1] as number); j++)
          target.push(this.entry(later[i] as number, later[j] as number));
    this.target = Int32Array.from(target);
    this.diagonal = new Float64Array(size);
    this.beside = new Float64Array(later.length);
    this.right = new Float64Array(size);
  }

  /** Number of the entry that couples two unknowns. */
  entry(a: number, b: number): number {
    const [first, other] =
      (this.turnOf[a] as number) < (this.turnOf[b] as number) ? [a, b] : [b, a];
    const turn = this.turnOf[first] as number;
    for (let i = this.start[turn] as number; i < (this.start[turn + 1] as number); i++)
      if (this.later[i] === other) return i;
    throw new Error(`Unknowns ${a} and ${b} stand in no equation together.`);
  }

  clear(): void {
    this.diagonal.fill(0);
    this.beside.fill(0);
    this.right.fill(0);
  }

  /** Solves for the values given; uses them up. The answer stands in `right`. */
  solve(): Float64Array {
    const { order, start, later, target, diagonal, beside, right } = this;
    let at = 0;
    for (let turn = 0; turn < order.length; turn++) {
      const node = order[turn] as number;
      const pivot = diagonal[node] as number;
      const [from, to] = [start[turn] as number, start[turn + 1] as number];
      // Entries of a turn are numbered like its later neighbours.
      for (let i = from; i < to; i++) {
        const factor = (beside[i] as number) / pivot;
        const a = later[i] as number;
        diagonal[a] = (diagonal[a] as number) - factor * (beside[i] as number);
        right[a] = (right[a] as number) - factor * (right[node] as number);
        for (let j = i + 1; j < to; j++) {
          const entry = target[at++] as number;
          beside[entry] = (beside[entry] as number) - factor * (beside[j] as number);
        }
      }
    }
    for (let turn = order.length - 1; turn >= 0; turn--) {
      const node = order[turn] as number;
      let value = right[node] as number;
      for (let i = start[turn] as number; i < (start[turn + 1] as number); i++)
        value -= (beside[i] as number) * (right[later[i] as number] as number);
      right[node] = value / (diagonal[node] as number);
    }
    return right;
  }
}
