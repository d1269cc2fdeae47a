import { GRAVITY } from "../quantity/index.ts";
import {
  BOILS_AT_PA,
  type HydraulicAnswer,
  type HydraulicElement,
  type HydraulicNetwork,
  type HydraulicNode,
  problemOf,
} from "./network.ts";
import { SETTLED_M3PERS, Solve, type Standing } from "./newton.ts";

/** Flows and pressures of a pipe system, its regulators standing as they come to stand. */

// A cubic millimetre a second is what a shut check seems to let by, not flow.
const QUIET_M3PERS = 1e-9;
const MOST_TURNS_OF_REGULATORS = 40;
const REGULATOR_TOLERANCE_PA = 1e-3;

/** How a regulator ought to stand, given what came of its standing now. */
const next = (solve: Solve, network: HydraulicNetwork, index: number, now: Standing): Standing => {
  const e = network.elements[index];
  if (e?.kind !== "regulator") return now;
  const [before, behind, flow] = [
    solve.pressureOf(e.from),
    solve.pressureOf(e.to),
    solve.flowOf(index),
  ];
  const rise =
    e.liquid.densityKgM3 *
    GRAVITY *
    ((network.nodes[e.to]?.heightM ?? 0) - (network.nodes[e.from]?.heightM ?? 0));
  const tolerance = REGULATOR_TOLERANCE_PA;
  if (solve.closedOff[e.from]) return "shut";
  if (now === "holding")
    return flow < -SETTLED_M3PERS
      ? "shut"
      : before - rise < e.setPa - tolerance
        ? "open"
        : "holding";
  if (now === "open") return behind > e.setPa + tolerance ? "holding" : "open";
  // Shut, and nothing behind it to hold it so: it holds.
  if (solve.closedOff[e.to]) return before - rise < e.setPa - tolerance ? "open" : "holding";
  if (before - rise > e.setPa + tolerance) return behind < e.setPa - tolerance ? "holding" : "shut";
  return before - rise > behind + tolerance ? "open" : "shut";
};

const NONE: ReadonlySet<HydraulicNode> = new Set();

/** Nodes that are drawn from and closed off from every source. */
const drawnDry = ({ nodes }: HydraulicNetwork, { closedOff }: Solve): ReadonlySet<HydraulicNode> =>
  new Set(nodes.filter((n, i) => closedOff[i] && (n.drawM3PerS ?? 0) !== 0));

/** A network made ready: what hangs on its shape only is worked out once, and asked again it begins where it ended. */
class Prepared {
  private network: HydraulicNetwork;
  private readonly standing: Map<number, Standing>;
  private readonly dryDraws: string[] = [];
  /** By how the regulators stand. */
  private readonly solves = new Map<string, Solve>();
  private last: Solve | undefined;
  /** The one for the regulators as they stand. */
  private now: Solve | undefined;

  constructor(network: HydraulicNetwork) {
    this.network = network;
    this.standing = new Map(
      network.elements.flatMap((e, i) => (e.kind === "regulator" ? [[i, "holding"] as const] : [])),
    );
  }

  /** Forgets what came of it last. */
  forget(): void {
    this.last = undefined;
    if (this.standing.size === 0) return;
    this.now = undefined;
    for (const i of this.standing.keys()) this.standing.set(i, "holding");
  }

  /** The solve for the regulators as they stand. */
  private current(): Solve {
    if (this.now) return this.now;
    for (;;) {
      const key = [...this.standing.values()].join();
      const { network } = this;
      const solve = this.solves.get(key) ?? new Solve(network, this.standing);
      const dry = this.solves.has(key) ? NONE : drawnDry(network, solve);
      if (dry.size === 0) {
        this.solves.set(key, solve);
        this.now = solve;
        return solve;
      }
      // A piece without a source answers for nothing else.
      this.dryDraws.push(...[...dry].map((n) => n.id));
      this.network = {
        ...network,
        nodes: network.nodes.map((n) => (dry.has(n) ? { ...n, drawM3PerS: 0 } : n)),
      };
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
        return {
          ok: false,
          problem: "The flows do not settle: two devices work against each other.",
        };
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
      this.now = undefined;
      return true;
    }
    return false;
  }

  private told(solve: Solve, iterations: number): HydraulicAnswer {
    const { nodes, elements, outlets } = this.network;
    const quiet = (q: number): number => (Math.abs(q) < QUIET_M3PERS ? 0 : q);
    const flowsM3PerS: number[] = [];
    for (let i = 0; i < elements.length; i++) {
      const e = elements[i] as HydraulicElement;
      const q = quiet(solve.flowOf(i));
      flowsM3PerS.push(e.kind !== "pipe" || e.oneWay ? Math.max(0, q) : q);
    }
    const outM3PerS: number[] = [];
    for (let i = 0; i < outlets.length; i++) outM3PerS.push(Math.max(0, quiet(solve.outOf(i))));
    const pressuresPa: (number | undefined)[] = [];
    const unmet = [...this.dryDraws];
    for (let i = 0; i < nodes.length; i++) {
      const n = nodes[i] as HydraulicNode;
      const p = solve.closedOff[i] ? undefined : solve.pressureOf(i);
      pressuresPa.push(p);
      if (p !== undefined && p < BOILS_AT_PA && (n.drawM3PerS ?? 0) > 0) unmet.push(n.id);
    }
    return { ok: true, flowsM3PerS, outM3PerS, pressuresPa, unmet, iterations };
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
  if (problem !== undefined)
    return { solve: () => ({ ok: false, problem }), forget: () => undefined };
  const prepared = new Prepared(network);
  return { solve: () => prepared.solve(), forget: () => prepared.forget() };
};

/** Flows and pressures of a network. Always ends; where there is no answer it says why. */
export const solveHydraulics = (network: HydraulicNetwork): HydraulicAnswer =>
  prepareHydraulics(network).solve();
