import { type MayGo, wayTo, withChecks } from "../watermap/graph.ts";
import { passableLinks, type Situation } from "../watermap/situation.ts";
import { downstream, findFlow, pumpOf } from "./flow.ts";
import { type Drive, type Flow } from "./flow-ways.ts";
import type { Body } from "./mixture.ts";
import { type Carriers, moveOn, volumeIn } from "./move.ts";
import { Pace } from "./pace.ts";
import { type Passage, stationsOf } from "./stations.ts";

/** Accumulators beside a forced flow: they take or give until the air behind their bladder stands at the pressure of the line. */

export interface CushionRest {
  /** What it holds once the pressure at it stands still, m3. */
  readonly restM3: number;
  /** Pumped for each m3 that it takes or gives as it stands now; 0 where it is there at once. */
  readonly pumpedPerTakenM3: number;
}

/** Asked of whoever can solve pressures, by cell. */
export type AtRest = (held: readonly (readonly Body[])[]) => ReadonlyMap<number, CushionRest>;

// Less than this is neither taken nor given, m3.
const STILL_M3 = 1e-8;
// Pressures are asked for again when so much has been pumped since, and as long again as before.
const ASK_AGAIN_M3 = 1e-5;
const ASK_AGAIN_SHARE = 0.2;

/** The pump's whole flow into a cushion; nothing where no way leads there. */
const taking = (
  situation: Situation,
  flow: Flow,
  pump: number,
  cushion: number,
): Passage | undefined => {
  const { network } = situation;
  const outlet = network.links[pump]?.b;
  if (outlet === undefined) return undefined;
  const onward = withChecks(network, passableLinks(situation));
  const may: MayGo = (i, from, to) => i !== pump && onward(i, from, to);
  const way = wayTo(network, outlet, may, (cell) => cell === cushion);
  if (!way) return undefined;
  const beyond = downstream(network, flow, outlet, pump);
  const isBefore = (i: number): boolean =>
    i === pump || !(beyond[network.links[i]?.a ?? -1] && beyond[network.links[i]?.b ?? -1]);
  const shares = flow.link.map((q, i) => (isBefore(i) ? q : 0));
  way.links.forEach((i, k) => (shares[i] = network.links[i]?.a === way.cells[k] ? 1 : -1));
  return { link: shares, holes: flow.opening.filter((o) => o.share < 0), forced: new Map() };
};

/** What a cushion presses out by whatever stands open. */
const giving = (situation: Situation, cushion: number): Passage | undefined => {
  const found = findFlow(situation, { kind: "push", cell: cushion });
  return found.ok
    ? { link: found.flow.link, holes: found.flow.opening, forced: new Map() }
    : undefined;
};

interface Moving extends CushionRest {
  readonly cell: number;
  readonly beganM3: number;
}

/** Cushions beside one push. The rows of `held` are changed in place. */
export class Cushions {
  /** Cells through which something moved on the way to or from one. */
  readonly touched = new Set<number>();
  private moving: readonly Moving[] = [];
  private isMoved = false;
  private askedAtM3 = 0;
  private readonly situation: Situation;
  private readonly flow: Flow;
  private readonly held: Body[][];
  private readonly carriers: Carriers;
  private readonly atRest: AtRest | undefined;
  private readonly pump: number;

  constructor(
    situation: Situation,
    drive: Drive,
    flow: Flow,
    held: Body[][],
    carriers: Carriers,
    atRest: AtRest | undefined,
  ) {
    this.situation = situation;
    this.flow = flow;
    this.held = held;
    this.carriers = carriers;
    this.pump = pumpOf(situation.network, drive, flow);
    this.atRest = this.pump < 0 ? undefined : atRest;
    this.ask(0);
  }

  private ask(pumpedM3: number): void {
    this.askedAtM3 = pumpedM3;
    this.moving = [...(this.atRest?.(this.held) ?? [])].map(([cell, rest]) => ({
      ...rest,
      cell,
      beganM3: volumeIn(this.held[cell] ?? []),
    }));
  }

  /** Whether any of them has taken or given since this was last asked. */
  haveMoved(): boolean {
    const is = this.isMoved;
    this.isMoved = false;
    return is;
  }

  /**
   * Lets them take or give what is due when so much has been pumped.
   * @returns how much of the pump's flow they took, m3
   */
  follow(pumpedM3: number): number {
    if (this.moving.length === 0) return 0;
    let tookM3 = 0;
    const since = pumpedM3 - this.askedAtM3;
    for (const { cell, beganM3, restM3, pumpedPerTakenM3 } of this.moving) {
      const wholeM3 = restM3 - beganM3;
      const fold = Math.abs(wholeM3) * pumpedPerTakenM3;
      const share = fold > 0 ? 1 - Math.exp(-since / fold) : 1;
      tookM3 += this.move(cell, beganM3 + wholeM3 * share - volumeIn(this.held[cell] ?? []));
    }
    if (since > ASK_AGAIN_M3 + ASK_AGAIN_SHARE * this.askedAtM3) this.ask(pumpedM3 + tookM3);
    return tookM3;
  }

  /** With the pressure gone each presses out all that it can. */
  empty(): void {
    this.situation.network.cells.forEach((c, cell) => {
      if (c.prechargePa === undefined || this.pump < 0) return;
      this.move(cell, c.drainRemainder * c.capacityM3 - volumeIn(this.held[cell] ?? []));
    });
  }

  private move(cushion: number, dueM3: number): number {
    if (Math.abs(dueM3) < STILL_M3) return 0;
    const passage =
      dueM3 > 0
        ? taking(this.situation, this.flow, this.pump, cushion)
        : giving(this.situation, cushion);
    if (!passage) return 0;
    this.isMoved = true;
    const stations = stationsOf(this.situation.network, passage);
    const pace = new Pace(stations);
    for (let moved = 0; moved < Math.abs(dueM3) - 1e-12;) {
      const step = Math.min(pace.next(this.held, moved), Math.abs(dueM3) - moved);
      moveOn(stations, this.held, step, this.carriers);
      moved += step;
    }
    for (const s of stations) this.touched.add(s.index);
    return Math.max(0, dueM3);
  }
}
