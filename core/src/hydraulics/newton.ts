import { GRAVITY } from "../quantity/index.ts";
import { type Loss, pipeLaw, type PipeLaw, PipeLaws } from "./friction.ts";
import type { HydraulicElement, HydraulicNetwork, HydraulicNode } from "./network.ts";
import { SparseSolver } from "./sparse.ts";

/**
 * Flow in every element and pressure at every node of a full pipe system that stands still in time.
 * Newton's method on heads and flows together (global gradient: Todini and Pilati 1988, as in the EPANET 2.2 users manual,
 * chapter 12), but reckoned in pascals so that pieces of unlike density can stand side by side.
 */

const REFERENCE_DENSITY = 1000;
// What a shut check lets back, Pa·s/m3: 5 bar against it pass 5 mm3/s, set to nothing at the end.
const BACK_RESISTANCE = 1e14;
// A little straight resistance gives √-shaped laws a slope at no flow; at 6 L/min it is 1 Pa (our own).
const STRAIGHT = 1e4;
const SMALLEST_SLOPE = 1;
const MOST_ITERATIONS = 3000;
// From here on each check stands open or shut until the rest has settled, and then one at a time is turned.
const ONE_BY_ONE_FROM = 25;
// A shut check with more than this across it opens, Pa.
const OPENS_AT_PA = 0.01;
const LETS_BACK_M3PERS = 1e-10;
// Newton's steps shrink by their square: after a change of this share of all flow the next would be rounding. So is one of a thousandth of a cubic millimetre a second.
const SETTLED_SHARE = 1e-5;
export const SETTLED_M3PERS = 1e-12;

interface Edge {
  readonly from: number;
  readonly to: number;
  /** Pressure that its own weight and the datum make up, Pa. */
  readonly offset: number;
  readonly law: PipeLaw;
  readonly oneWay: boolean;
  readonly first: number;
}

/** Loss that goes with the square of the flow, in the form of a pipe that is all fittings. */
const squareLaw = (square: number): PipeLaw => ({
  rePerFlow: 0,
  laminar: STRAIGHT,
  turbulent: 0,
  fittings: square,
  roughness: 0,
  friction: NO_PIPE.friction,
});
const NO_PIPE = pipeLaw(
  { lengthM: 0, boreM: 1, roughnessM: 0, lossK: 0 },
  { densityKgM3: 0, viscosityPaS: 1 },
);

// Every pipe begins at this speed, m/s.
const FIRST_SPEED = 0.3;

/** How a regulator stands. */
export type Standing = "holding" | "open" | "shut";

/** Joins nodes through what is open; the answer names a node of each piece. */
const pieces = (size: number, joins: readonly Edge[]): Int32Array => {
  const root = new Int32Array(size);
  for (let i = 0; i < size; i++) root[i] = i;
  const find = (i: number): number => {
    let at = i;
    while (root[at] !== at) at = root[at] = root[root[at] as number] as number;
    return at;
  };
  for (const e of joins) root[find(e.from)] = find(e.to);
  for (let i = 0; i < size; i++) root[i] = find(i);
  return root;
};
/** One solve with the regulators standing as given. */
export class Solve {
  private readonly edges: Edge[] = [];
  /** By element, its edge or -1. */
  private readonly edgeOf: Int32Array;
  /** Total pressure p + ρ₀gz, by node; the last node is the air, by outlet. */
  readonly total: Float64Array;
  readonly flow: Float64Array;
  private readonly unknown: Int32Array;
  private readonly solver: SparseSolver;
  private readonly places: Int32Array;
  /** Rows of each edge's ends, or -1 where the pressure there is known. */
  private readonly rowFrom: Int32Array;
  private readonly rowTo: Int32Array;
  /** Edges that are not closed off. */
  private readonly live: number[] = [];
  private readonly draws: [row: number, m3PerS: number][] = [];
  private readonly inverse: Float64Array;
  private readonly step: Float64Array;
  private readonly shut: Uint8Array;
  /** Of each edge, one beside the other: read in the innermost loop. */
  private readonly laws: PipeLaws;
  private readonly ends: Int32Array;
  private readonly offsets: Float64Array;
  private readonly checked: Uint8Array;
  private readonly held = new Map<number, number>();
  readonly closedOff: boolean[];
  iterations = 0;

  private readonly network: HydraulicNetwork;
  private readonly standing: ReadonlyMap<number, Standing>;

  constructor(network: HydraulicNetwork, standing: ReadonlyMap<number, Standing>) {
    this.network = network;
    this.standing = standing;
    const { nodes, elements, outlets } = network;
    const size = nodes.length;
    this.edgeOf = new Int32Array(elements.length).fill(-1);
    for (let i = 0; i < elements.length; i++) this.add(elements[i] as HydraulicElement, i);
    outlets.forEach((o, i) => {
      const rise = o.heightM - (nodes[o.node] as HydraulicNode).heightM;
      this.edges.push({
        from: o.node,
        to: size + i,
        offset: (o.densityKgM3 - REFERENCE_DENSITY) * GRAVITY * rise,
        law: squareLaw(1 / o.coefficient ** 2),
        oneWay: true,
        first: o.coefficient * 100,
      });
    });
    this.total = new Float64Array(size + outlets.length);
    const known = new Uint8Array(size + outlets.length);
    nodes.forEach((n, i) => {
      if (n.fixedPa === undefined) return;
      this.total[i] = n.fixedPa + REFERENCE_DENSITY * GRAVITY * n.heightM;
      known[i] = 1;
    });
    outlets.forEach((o, i) => {
      this.total[size + i] = REFERENCE_DENSITY * GRAVITY * o.heightM;
      known[size + i] = 1;
    });
    for (const [i, how] of standing) {
      const e = elements[i];
      if (how !== "holding" || e?.kind !== "regulator" || known[e.to]) continue;
      this.total[e.to] =
        e.setPa + REFERENCE_DENSITY * GRAVITY * (nodes[e.to] as HydraulicNode).heightM;
      known[e.to] = 1;
      this.held.set(i, 0);
    }
    const piece = pieces(size + outlets.length, this.edges);
    const sourced = new Uint8Array(size + outlets.length);
    for (let i = 0; i < known.length; i++) if (known[i]) sourced[piece[i] as number] = 1;
    this.closedOff = nodes.map((_, i) => sourced[piece[i] as number] === 0);
    this.unknown = new Int32Array(size + outlets.length).fill(-1);
    let count = 0;
    for (let i = 0; i < size; i++) if (!known[i] && !this.closedOff[i]) this.unknown[i] = count++;
    const edgeCount = this.edges.length;
    this.rowFrom = new Int32Array(edgeCount);
    this.rowTo = new Int32Array(edgeCount);
    this.flow = new Float64Array(edgeCount);
    this.inverse = new Float64Array(edgeCount);
    this.step = new Float64Array(edgeCount);
    this.shut = new Uint8Array(edgeCount);
    this.laws = new PipeLaws(this.edges.map((e) => e.law));
    this.ends = new Int32Array(2 * edgeCount);
    this.offsets = new Float64Array(edgeCount);
    this.checked = new Uint8Array(edgeCount);
    for (let k = 0; k < edgeCount; k++) {
      const e = this.edges[k] as Edge;
      this.ends[2 * k] = e.from;
      this.ends[2 * k + 1] = e.to;
      this.offsets[k] = e.offset;
      this.checked[k] = Number(e.oneWay);
      this.rowFrom[k] = this.unknown[e.from] as number;
      this.rowTo[k] = this.unknown[e.to] as number;
      if (!this.closedOff[e.from]) this.live.push(k);
    }
    this.begin();
    this.solver = new SparseSolver(count, this.rowFrom, this.rowTo);
    this.places = new Int32Array(edgeCount).fill(-1);
    for (const k of this.live) {
      const a = this.rowFrom[k] as number;
      const b = this.rowTo[k] as number;
      if (a >= 0 && b >= 0) this.places[k] = this.solver.entry(a, b);
    }
    nodes.forEach((n, i) => {
      const row = this.unknown[i] as number;
      if (row >= 0 && n.drawM3PerS) this.draws.push([row, n.drawM3PerS]);
    });
  }

  /** An edge for what water may pass; none for what is shut, or holds. */
  private add(e: HydraulicElement, index: number): void {
    let law: PipeLaw;
    let first: number;
    let oneWay = true;
    if (e.kind === "regulator") {
      if (this.standing.get(index) !== "open") return;
      law = squareLaw(0);
      first = 1e-4;
    } else if (e.shut) return;
    else if (e.kind === "pump") {
      law = squareLaw(e.shutOffPa / e.mostM3PerS ** 2);
      first = e.mostM3PerS / 2;
    } else {
      law = pipeLaw(e, e.liquid);
      first = (Math.PI / 4) * e.boreM * e.boreM * FIRST_SPEED;
      oneWay = e.oneWay === true;
    }
    const { nodes } = this.network;
    const rise = (nodes[e.to] as HydraulicNode).heightM - (nodes[e.from] as HydraulicNode).heightM;
    const device =
      e.kind === "pump" ? -e.shutOffPa : e.kind === "pipe" && e.oneWay ? (e.crackPa ?? 0) : 0;
    const offset = (e.liquid.densityKgM3 - REFERENCE_DENSITY) * GRAVITY * rise + device;
    this.edgeOf[index] = this.edges.length;
    this.edges.push({ from: e.from, to: e.to, offset, law, oneWay, first });
  }

  /** Begins as if nothing were known. */
  begin(): void {
    for (const k of this.live) this.flow[k] = (this.edges[k] as Edge).first;
    for (const i of this.held.keys()) this.held.set(i, 0);
  }

  /** Begins where another solve of the same network ended. */
  beginFrom(before: Solve): void {
    for (let i = 0; i < this.edgeOf.length; i++) {
      const [mine, its] = [this.edgeOf[i] as number, before.edgeOf[i] as number];
      if (mine >= 0 && its >= 0) this.flow[mine] = before.flow[its] as number;
    }
    for (let o = this.network.outlets.length; o > 0; o--)
      this.flow[this.edges.length - o] = before.flow[before.edges.length - o] as number;
    for (const i of this.held.keys()) this.held.set(i, before.held.get(i) ?? 0);
  }

  /** What each regulator that holds lets through: what its outlet node gives on. */
  private regulate(): number {
    let change = 0;
    for (const [i, before] of this.held) {
      const e = this.network.elements[i] as HydraulicElement;
      let out = this.network.nodes[e.to]?.drawM3PerS ?? 0;
      for (const k of this.live) {
        if (this.edges[k]?.from === e.to) out += this.flow[k] as number;
        if (this.edges[k]?.to === e.to) out -= this.flow[k] as number;
      }
      for (const [j, q] of this.held) if (this.network.elements[j]?.from === e.to) out += q;
      this.held.set(i, out);
      change += Math.abs(out - before);
    }
    return change;
  }

  /** Fills the matrix with what each edge says at its flow. */
  private assemble(): void {
    const {
      solver,
      flow,
      total,
      places,
      rowFrom,
      rowTo,
      live,
      inverse,
      step,
      shut,
      laws,
      ends,
      offsets,
      checked,
    } = this;
    const { diagonal, right, beside } = solver;
    const follows = this.iterations <= ONE_BY_ONE_FROM;
    const loss: Loss = { lossPa: 0, slope: 0 };
    for (let n = 0; n < live.length; n++) {
      const k = live[n] as number;
      const q = flow[k] as number;
      if (follows && checked[k] === 1) shut[k] = q < 0 ? 1 : 0;
      if (shut[k] === 1) {
        loss.lossPa = BACK_RESISTANCE * q;
        loss.slope = BACK_RESISTANCE;
      } else laws.loss(k, q, loss);
      const p = 1 / Math.max(loss.slope, SMALLEST_SLOPE);
      const y = q - p * (loss.lossPa + (offsets[k] as number));
      inverse[k] = p;
      step[k] = y;
      const a = rowFrom[k] as number;
      const b = rowTo[k] as number;
      if (a >= 0) {
        diagonal[a] = (diagonal[a] as number) + p;
        right[a] =
          (right[a] as number) - y + (b < 0 ? p * (total[ends[2 * k + 1] as number] as number) : 0);
      }
      if (b >= 0) {
        diagonal[b] = (diagonal[b] as number) + p;
        right[b] =
          (right[b] as number) + y + (a < 0 ? p * (total[ends[2 * k] as number] as number) : 0);
      }
      const place = places[k] as number;
      if (place >= 0) beside[place] = (beside[place] as number) - p;
    }
  }

  /** Takes over what the matrix says; whether the flows have settled, or nothing where they run away. */
  private follow(): boolean | undefined {
    const { flow, unknown, total, live, inverse, step, ends, solver } = this;
    const answer = solver.solve();
    for (let i = 0; i < this.network.nodes.length; i++) {
      const row = unknown[i] as number;
      if (row >= 0) total[i] = answer[row] as number;
    }
    let change = 0;
    let all = 0;
    for (let n = 0; n < live.length; n++) {
      const k = live[n] as number;
      const rise =
        (total[ends[2 * k] as number] as number) - (total[ends[2 * k + 1] as number] as number);
      const to = (step[k] as number) + (inverse[k] as number) * rise;
      change += Math.abs(to - (flow[k] as number));
      all += Math.abs(to);
      flow[k] = to;
    }
    if (this.held.size > 0) change += this.regulate();
    if (!Number.isFinite(change)) return undefined;
    return change <= Math.max(SETTLED_SHARE * all, SETTLED_M3PERS * flow.length);
  }

  /** The first check that stands wrong; below 0 where none does. */
  private wrongCheck(): number {
    const { edges, flow, shut } = this;
    return edges.findIndex(
      (e, k) =>
        e.oneWay &&
        !this.closedOff[e.from] &&
        (shut[k]
          ? (flow[k] as number) * BACK_RESISTANCE > OPENS_AT_PA
          : (flow[k] as number) < -LETS_BACK_M3PERS),
    );
  }

  run(): boolean {
    const { solver, unknown, shut } = this;
    const { right } = solver;
    shut.fill(0);
    for (this.iterations = 1; this.iterations <= MOST_ITERATIONS; this.iterations++) {
      solver.clear();
      for (const [row, draw] of this.draws) right[row] = (right[row] as number) - draw;
      if (this.held.size > 0)
        for (const [i, q] of this.held) {
          const row = unknown[this.network.elements[i]?.from ?? -1] ?? -1;
          if (row >= 0) right[row] = (right[row] as number) - q;
        }
      this.assemble();
      const settled = this.follow();
      if (settled === undefined) return false;
      if (!settled) continue;
      if (this.iterations <= ONE_BY_ONE_FROM) return true;
      // The first that stands wrong is turned: taking them in order, no standing comes up twice (Murty's least index rule).
      const wrong = this.wrongCheck();
      if (wrong < 0) return true;
      shut[wrong] = shut[wrong] ? 0 : 1;
    }
    return false;
  }

  flowOf(element: number): number {
    const held = this.held.get(element);
    if (held !== undefined) return held;
    const edge = this.edgeOf[element] as number;
    return edge < 0 ? 0 : (this.flow[edge] as number);
  }

  outOf(outlet: number): number {
    return this.flow[this.edges.length - this.network.outlets.length + outlet] as number;
  }

  pressureOf(node: number): number {
    return (
      (this.total[node] as number) -
      REFERENCE_DENSITY * GRAVITY * (this.network.nodes[node] as HydraulicNode).heightM
    );
  }
}
