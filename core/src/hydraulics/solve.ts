import { ATMOSPHERE_PA, GRAVITY } from "../quantity/index.ts";
import { type Loss, pipeLaw, type PipeLaw, pipeLoss } from "./friction.ts";
import { SparseSolver } from "./sparse.ts";

/**
 * Flow in every element and pressure at every node of a full pipe system that stands still in time.
 * Newton's method on heads and flows together (global gradient: Todini and Pilati 1988, as in the EPANET 2.2 users manual,
 * chapter 12), but reckoned in pascals so that pieces of unlike density can stand side by side.
 */

/** Standard gravity, m/s2. */

export interface Liquid {
  readonly densityKgM3: number;
  /** Dynamic viscosity, Pa·s. */
  readonly viscosityPaS: number;
}

export interface HydraulicNode {
  readonly id: string;
  /** Height above the map's datum, m. */
  readonly heightM: number;
  /** Held at this pressure above the air: a vented tank, a supply. */
  readonly fixedPa?: number;
  /** Drawn off whatever the pressure, m3/s. */
  readonly drawM3PerS?: number;
}

/** Something that water passes from one node to another; flow is positive from `from` to `to`, which are numbers of nodes. */
export type HydraulicElement = { readonly id: string; readonly from: number; readonly to: number } & (
  | {
      readonly kind: "pipe";
      readonly lengthM: number;
      readonly boreM: number;
      readonly roughnessM: number;
      /** Sum of the fittings' loss factors. */
      readonly lossK: number;
      readonly liquid: Liquid;
      /** A check: passes only from `from` to `to`. */
      readonly oneWay?: boolean;
      /** What its spring takes before it opens and while it stands open, Pa. */
      readonly crackPa?: number;
      readonly shut?: boolean;
    }
  /** Gives `shutOffPa` against a shut pipe and `mostM3PerS` against none, a parabola between; nothing comes back through it. */
  | { readonly kind: "pump"; readonly shutOffPa: number; readonly mostM3PerS: number; readonly liquid: Liquid; readonly shut?: boolean }
  /** Holds the pressure behind it at no more than its setting; nothing comes back through it. */
  | { readonly kind: "regulator"; readonly setPa: number; readonly liquid: Liquid }
);

/** A tap or an open end: flow = coefficient × √(pressure at its height); lets no air in. */
export interface HydraulicOutlet {
  readonly id: string;
  readonly node: number;
  readonly heightM: number;
  /** m3/s at 1 Pa. */
  readonly coefficient: number;
  readonly densityKgM3: number;
}

export interface HydraulicNetwork {
  readonly nodes: readonly HydraulicNode[];
  readonly elements: readonly HydraulicElement[];
  readonly outlets: readonly HydraulicOutlet[];
}

export type HydraulicAnswer =
  | {
      readonly ok: true;
      /** m3/s by element, positive from `from` to `to`. */
      readonly flowsM3PerS: readonly number[];
      /** m3/s by outlet, never negative. */
      readonly outM3PerS: readonly number[];
      /** Above the air, by node; nothing where a node is closed off from every source and opening: its pressure is whatever it was. */
      readonly pressuresPa: readonly (number | undefined)[];
      /** Nodes whose fixed draw cannot be met, by id: no way leads there, or the water would boil before it came. */
      readonly unmet: readonly string[];
      readonly iterations: number;
    }
  | { readonly ok: false; readonly problem: string };

/**
 * The lowest pressure that water stands, Pa above the air: below it, it boils and parts (cavitation). Vapour pressure 1.7 kPa at 15 °C
 * (IAPWS), under an atmosphere of 101.325 kPa.
 */
export const BOILS_AT_PA = 1_700 - ATMOSPHERE_PA;

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
const SETTLED_SHARE = 1e-7;
const SETTLED_M3PERS = 1e-12;
// A cubic millimetre a second is what a shut check seems to let by, not flow.
const QUIET_M3PERS = 1e-9;
const MOST_TURNS_OF_REGULATORS = 40;
const REGULATOR_TOLERANCE_PA = 1e-3;

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
const squareLaw = (square: number): PipeLaw => ({ rePerFlow: 0, laminar: STRAIGHT, turbulent: 0, fittings: square, roughness: 0 });

// Every pipe begins at this speed, m/s.
const FIRST_SPEED = 0.3;

type Standing = "holding" | "open" | "shut";

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

const problemOf = (network: HydraulicNetwork): string | undefined => {
  const isNode = (i: number): boolean => Number.isInteger(i) && i >= 0 && i < network.nodes.length;
  // A sum is a number only if all in it are.
  const finite = (sum: number): boolean => Number.isFinite(sum);
  for (const n of network.nodes)
    if (!finite(n.heightM + (n.fixedPa ?? 0) + (n.drawM3PerS ?? 0))) return `Node ${n.id} has a figure that is not a number.`;
  for (const e of network.elements) {
    if (!isNode(e.from) || !isNode(e.to) || e.from === e.to) return `Element ${e.id} does not join two nodes.`;
    const { densityKgM3, viscosityPaS } = e.liquid;
    if (!(finite(densityKgM3 + viscosityPaS) && densityKgM3 > 0 && viscosityPaS > 0))
      return `Element ${e.id} holds a liquid without density or viscosity.`;
    if (
      e.kind === "pipe" &&
      !(
        finite(e.lengthM + e.boreM + e.roughnessM + e.lossK + (e.crackPa ?? 0)) &&
        e.lengthM > 0 &&
        e.boreM > 0 &&
        e.roughnessM >= 0 &&
        e.lossK >= 0
      )
    )
      return `Pipe ${e.id} needs a length and a bore above zero, and roughness and losses that are not negative.`;
    if (e.kind === "pump" && !(finite(e.shutOffPa + e.mostM3PerS) && e.shutOffPa > 0 && e.mostM3PerS > 0))
      return `Pump ${e.id} needs a pressure and a flow above zero.`;
    if (e.kind === "regulator" && !(finite(e.setPa) && e.setPa >= 0)) return `Regulator ${e.id} needs a setting.`;
  }
  for (const o of network.outlets)
    if (!isNode(o.node) || !(finite(o.heightM + o.coefficient + o.densityKgM3) && o.coefficient > 0 && o.densityKgM3 > 0))
      return `Outlet ${o.id} needs a node, a height and a coefficient above zero.`;
  return undefined;
};

/** One solve with the regulators standing as given. */
class Solve {
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
  private readonly loss: Loss = { lossPa: 0, slope: 0 };
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
      this.total[e.to] = e.setPa + REFERENCE_DENSITY * GRAVITY * (nodes[e.to] as HydraulicNode).heightM;
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
    for (let k = 0; k < edgeCount; k++) {
      const e = this.edges[k] as Edge;
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
    const device = e.kind === "pump" ? -e.shutOffPa : e.kind === "pipe" && e.oneWay ? (e.crackPa ?? 0) : 0;
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
    for (let o = this.network.outlets.length; o > 0; o--) this.flow[this.edges.length - o] = before.flow[before.edges.length - o] as number;
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

  run(): boolean {
    const { solver, edges, flow, unknown, total, places, rowFrom, rowTo, live, inverse, step, shut, loss } = this;
    const { diagonal, right, beside } = solver;
    shut.fill(0);
    for (this.iterations = 1; this.iterations <= MOST_ITERATIONS; this.iterations++) {
      solver.clear();
      for (const [row, draw] of this.draws) right[row] = (right[row] as number) - draw;
      for (const [i, q] of this.held) {
        const row = unknown[this.network.elements[i]?.from ?? -1] ?? -1;
        if (row >= 0) right[row] = (right[row] as number) - q;
      }
      for (const k of live) {
        const e = edges[k] as Edge;
        if (e.oneWay && this.iterations <= ONE_BY_ONE_FROM) shut[k] = (flow[k] as number) < 0 ? 1 : 0;
        if (shut[k]) {
          loss.lossPa = BACK_RESISTANCE * (flow[k] as number);
          loss.slope = BACK_RESISTANCE;
        } else pipeLoss(e.law, flow[k] as number, loss);
        const p = 1 / Math.max(loss.slope, SMALLEST_SLOPE);
        const y = (flow[k] as number) - p * (loss.lossPa + e.offset);
        inverse[k] = p;
        step[k] = y;
        const a = rowFrom[k] as number;
        const b = rowTo[k] as number;
        if (a >= 0) {
          diagonal[a] = (diagonal[a] as number) + p;
          right[a] = (right[a] as number) - y + (b < 0 ? p * (total[e.to] as number) : 0);
        }
        if (b >= 0) {
          diagonal[b] = (diagonal[b] as number) + p;
          right[b] = (right[b] as number) + y + (a < 0 ? p * (total[e.from] as number) : 0);
        }
        const place = places[k] as number;
        if (place >= 0) beside[place] = (beside[place] as number) - p;
      }
      const answer = solver.solve();
      for (let i = 0; i < this.network.nodes.length; i++) {
        const row = unknown[i] as number;
        if (row >= 0) total[i] = answer[row] as number;
      }
      let change = 0;
      let all = 0;
      for (const k of live) {
        const e = edges[k] as Edge;
        const next = (step[k] as number) + (inverse[k] as number) * ((total[e.from] as number) - (total[e.to] as number));
        change += Math.abs(next - (flow[k] as number));
        all += Math.abs(next);
        flow[k] = next;
      }
      change += this.regulate();
      if (!Number.isFinite(change)) return false;
      if (change > Math.max(SETTLED_SHARE * all, SETTLED_M3PERS * edges.length)) continue;
      if (this.iterations <= ONE_BY_ONE_FROM) return true;
      // The first that stands wrong is turned: taking them in order, no standing comes up twice (Murty's least index rule).
      const wrong = edges.findIndex(
        (e, k) =>
          e.oneWay &&
          !this.closedOff[e.from] &&
          (shut[k] ? (flow[k] as number) * BACK_RESISTANCE > OPENS_AT_PA : (flow[k] as number) < -LETS_BACK_M3PERS),
      );
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
    return (this.total[node] as number) - REFERENCE_DENSITY * GRAVITY * (this.network.nodes[node] as HydraulicNode).heightM;
  }
}

/** How a regulator ought to stand, given what came of its standing now. */
const next = (solve: Solve, network: HydraulicNetwork, index: number, now: Standing): Standing => {
  const e = network.elements[index];
  if (e?.kind !== "regulator") return now;
  const [before, behind, flow] = [solve.pressureOf(e.from), solve.pressureOf(e.to), solve.flowOf(index)];
  const rise = e.liquid.densityKgM3 * GRAVITY * ((network.nodes[e.to]?.heightM ?? 0) - (network.nodes[e.from]?.heightM ?? 0));
  const tolerance = REGULATOR_TOLERANCE_PA;
  if (solve.closedOff[e.from]) return "shut";
  if (now === "holding") return flow < -SETTLED_M3PERS ? "shut" : before - rise < e.setPa - tolerance ? "open" : "holding";
  if (now === "open") return behind > e.setPa + tolerance ? "holding" : "open";
  // Shut, and nothing behind it to hold it so: it holds.
  if (solve.closedOff[e.to]) return before - rise < e.setPa - tolerance ? "open" : "holding";
  if (before - rise > e.setPa + tolerance) return behind < e.setPa - tolerance ? "holding" : "shut";
  return before - rise > behind + tolerance ? "open" : "shut";
};

/** A network made ready: what hangs on its shape only is worked out once, and asked again it begins where it ended. */
class Prepared {
  private network: HydraulicNetwork;
  private readonly standing: Map<number, Standing>;
  private readonly dryDraws: string[] = [];
  /** By how the regulators stand. */
  private readonly solves = new Map<string, Solve>();
  private last: Solve | undefined;

  constructor(network: HydraulicNetwork) {
    this.network = network;
    this.standing = new Map(network.elements.flatMap((e, i) => (e.kind === "regulator" ? [[i, "holding"] as const] : [])));
  }

  /** Forgets what came of it last. */
  forget(): void {
    this.last = undefined;
    for (const i of this.standing.keys()) this.standing.set(i, "holding");
  }

  private current(): Solve {
    for (;;) {
      const key = [...this.standing.values()].join();
      const known = this.solves.get(key);
      if (known) return known;
      const { network } = this;
      const solve = new Solve(network, this.standing);
      const dry = new Set(network.nodes.filter((n, i) => solve.closedOff[i] && (n.drawM3PerS ?? 0) !== 0));
      if (dry.size === 0) {
        this.solves.set(key, solve);
        return solve;
      }
      // A piece without a source answers for nothing else.
      this.dryDraws.push(...[...dry].map((n) => n.id));
      this.network = { ...network, nodes: network.nodes.map((n) => (dry.has(n) ? { ...n, drawM3PerS: 0 } : n)) };
      this.solves.clear();
    }
  }

  solve(): HydraulicAnswer {
    let iterations = 0;
    for (let turn = 0; turn < MOST_TURNS_OF_REGULATORS; turn++) {
      const solve = this.current();
      if (!this.last) solve.begin();
      else if (this.last !== solve) solve.beginFrom(this.last);
      this.last = solve;
      if (!solve.run()) {
        this.forget();
        return { ok: false, problem: "The flows do not settle: two devices work against each other." };
      }
      iterations += solve.iterations;
      if (!this.turned(solve)) return this.told(solve, iterations);
    }
    this.forget();
    return { ok: false, problem: "The regulators do not settle: each turns the other." };
  }

  /** Whether a regulator had to be turned: one at a time, so that two in a row do not chase each other. */
  private turned(solve: Solve): boolean {
    for (const [i, now] of this.standing) {
      const to = next(solve, this.network, i, now);
      if (to === now) continue;
      this.standing.set(i, to);
      return true;
    }
    return false;
  }

  private told(solve: Solve, iterations: number): HydraulicAnswer {
    const { network, dryDraws } = this;
    const quiet = (q: number): number => (Math.abs(q) < QUIET_M3PERS ? 0 : q);
    const boiling = network.nodes.flatMap((n, i) =>
      (n.drawM3PerS ?? 0) > 0 && !solve.closedOff[i] && solve.pressureOf(i) < BOILS_AT_PA ? [n.id] : [],
    );
    return {
      ok: true,
      flowsM3PerS: network.elements.map((e, i) => {
        const q = quiet(solve.flowOf(i));
        return e.kind !== "pipe" || e.oneWay ? Math.max(0, q) : q;
      }),
      outM3PerS: network.outlets.map((_, i) => Math.max(0, quiet(solve.outOf(i)))),
      pressuresPa: network.nodes.map((_, i) => (solve.closedOff[i] ? undefined : solve.pressureOf(i))),
      unmet: [...dryDraws, ...boiling],
      iterations,
    };
  }
}

export interface PreparedHydraulics {
  /** Flows and pressures; from the second time on it begins where it ended. */
  readonly solve: () => HydraulicAnswer;
  /** Forgets what came of it last: it begins as the first time, with what hangs on the shape still known. */
  readonly forget: () => void;
}

/** Makes a network ready to be solved more than once; where there is something wrong with it, every answer says what. */
export const prepareHydraulics = (network: HydraulicNetwork): PreparedHydraulics => {
  const problem = problemOf(network);
  if (problem !== undefined) return { solve: () => ({ ok: false, problem }), forget: () => undefined };
  const prepared = new Prepared(network);
  return { solve: () => prepared.solve(), forget: () => prepared.forget() };
};

/** Flows and pressures of a network. Always ends; where there is no answer it says why. */
export const solveHydraulics = (network: HydraulicNetwork): HydraulicAnswer => prepareHydraulics(network).solve();
