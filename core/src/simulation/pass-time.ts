import {
  type CellContents,
  type Contents,
  drain,
  type DrainResult,
  emptyingTimeS,
  fall,
  leave,
  liquidIn,
  type Mixture,
  moveOn,
  NO_PACKET,
  NOTHING,
  type Packet,
  plus,
  product,
  type Station,
  stationsOf,
  strengthOf,
  sum,
  volumeOf,
  warmthOf,
} from "../contents/index.ts";
import { type FlowSettings, isDriven, isFresh, liveFlows, type LiveFlows, presses } from "../flows/index.ts";
import { type Cell, kindOfPart, type LiveOpening, liveOpenings, type Network, type Situation } from "../watermap/index.ts";
import type { SimAction } from "./act.ts";
import { heldM3, type SimSettings, type SimState } from "./state.ts";
import { addTo, newTally, type Tally } from "./tally.ts";

/** Lets time pass over a unit as it stands. */

// A step moves this share of what the way holds, between these bounds, m3: finer changes arrival by less than a hundredth.
const STEP_SHARE = 1 / 100;
const SMALLEST_STEP_M3 = 5e-6;
const LARGEST_STEP_M3 = 2.5e-4;
const LONGEST_STEP_S = 60;
// Enough for a tank of a cubic metre through a tap; a wait that needs more ends early and says so.
const MOST_STEPS = 20_000;
// Flows are found again when a pipe has become emptier, fuller or of other strength by this share.
const STRENGTH_STEP = 0.1;
const LEVEL_STEPS = 40;
const CUSHION_STEPS = 200;
const QUIET_M3 = 1e-10;
// Water's heat by volume, J/m3K, at 40 °C (IAPWS, from memory).
const HEAT_J_PER_M3K = 4.15e6;
// An element must stand under water: below half full a storage heater's is bare (common practice, no source).
const BARE_BELOW = 0.5;
const TANK_DRAIN_BORE_M = 0.012;
const PLUG_BORE_M = 0.019;
const DRAIN_BORE_M = 0.01;
const GRAVITY_STEPS = 50;
// Pipes run out in about this time (common practice, no source).
const PIPES_DRAIN_S = 5;

export interface Wait {
  readonly seconds: number;
  readonly until?: Extract<SimAction, { do: "wait" }>["until"];
  /** Gravity works to its end, however long that takes. */
  readonly toRest?: boolean;
}

export interface Waited {
  readonly state: SimState;
  readonly tally: Tally;
  readonly seconds: number;
  readonly ended: "time" | "seen" | "at rest" | "too many steps";
}

/** What changes the flows: which pipes are dry, how strong what they hold is, how high tanks and cushions stand. */
const signature = (network: Network, held: readonly Mixture[][]): string => {
  let text = "";
  network.cells.forEach((c, i) => {
    const steps = c.prechargePa === undefined ? LEVEL_STEPS : CUSHION_STEPS;
    if (c.form === "pipe") {
      const liquid = sum(held[i] as Mixture[]);
      text += volumeOf(liquid) < 0.3 * c.capacityM3 ? "a" : String(Math.round(strengthOf(liquid) / STRENGTH_STEP));
    } else if (c.prechargePa !== undefined || c.form === "vessel")
      text += `.${Math.round((steps * volumeOf(sum(held[i] as Mixture[]))) / Math.max(c.capacityM3, 1e-12))};`;
  });
  return text;
};

const boreOf = (network: Network, exit: LiveOpening): number => {
  if (exit.use === "plug") return PLUG_BORE_M;
  const part = network.cells[exit.cell]?.part;
  return part && kindOfPart(part).role.vessel === "fresh" ? TANK_DRAIN_BORE_M : DRAIN_BORE_M;
};

/** Of what could leave a vessel by a hole, what does in so many seconds: the root of the head falls evenly (Torricelli). */
const torricelli =
  (network: Network, seconds: number, slowest: { s: number }) =>
  (cell: Cell, exit: LiveOpening, couldM3: number): number => {
    if (cell.form !== "vessel") return couldM3;
    const depth = Math.max(cell.topM - cell.bottomM, 1e-6);
    const level = (couldM3 / Math.max(cell.capacityM3, 1e-12)) * depth;
    const whole = emptyingTimeS(cell.capacityM3, depth, level, boreOf(network, exit));
    slowest.s = Math.max(slowest.s, whole);
    return seconds >= whole ? couldM3 : couldM3 * (1 - (1 - seconds / whole) ** 2);
  };

/** Heat, its loss, and the fading of chlorine, over so many seconds; on what is held, in place. Says which cells changed. */
const age = (network: Network, state: SimState, held: Mixture[][], seconds: number, settings: SimSettings, tally: Tally): number[] => {
  const changed: number[] = [];
  const faded = 0.5 ** (seconds / settings.chlorineHalfLifeS);
  const surroundings = settings.flow.temperatureC;
  network.cells.forEach((cell, i) => {
    const heat = cell.part && cell.form !== "trap" ? state.heats[cell.part.id] : undefined;
    const plugs = held[i] as Mixture[];
    if (heat && heat.watts > 0 && isHeatedCell(network, i)) {
      const liquid = sum(plugs);
      const volume = volumeOf(liquid);
      if (volume < BARE_BELOW * cell.capacityM3) tally.dryHeated.add(cell.part?.id ?? "");
      const most = Math.max(0, heat.toC - surroundings) * volume;
      const gained = Math.min((heat.watts * seconds) / HEAT_J_PER_M3K, Math.max(0, most - (liquid.warmthM3K ?? 0)));
      if (volume > 0 && gained > 0) {
        held[i] = [plus(liquid, { ...NOTHING, warmthM3K: gained })];
        changed.push(i);
      }
      return;
    }
    if (!plugs.some((p) => p.warmthM3K !== undefined || p.chlorineMg !== undefined)) return;
    const kept = Math.exp(-seconds / (cell.form === "vessel" ? settings.coolsVesselS : settings.coolsPipeS));
    held[i] = plugs.map((p) =>
      p.warmthM3K === undefined && p.chlorineMg === undefined
        ? p
        : { ...p, warmthM3K: (p.warmthM3K ?? 0) * kept, chlorineMg: (p.chlorineMg ?? 0) * faded },
    );
    changed.push(i);
  });
  return changed;
};

/** The vessel of a storage heater, or the tubes of one that heats as water passes. */
const isHeatedCell = (network: Network, index: number): boolean => {
  const cell = network.cells[index];
  if (!cell?.part || kindOfPart(cell.part).group !== "heat") return false;
  const biggest = network.cells.filter((c) => c.ownerId === cell.ownerId).reduce((a, b) => (b.capacityM3 > a.capacityM3 ? b : a));
  return biggest === cell;
};

/** Contents from what is held, for the cells that something happened to. */
const asContents = (before: Contents, held: readonly Mixture[][], touched: ReadonlySet<number>): Contents =>
  before.map<CellContents>((c, i) => (touched.has(i) ? { plugs: [...(held[i] as Mixture[])], source: "worked out" } : c));

const runFlows = (network: Network, flows: Extract<LiveFlows, { ok: true }>): Record<string, number> => {
  const found: Record<string, number> = {};
  network.cells.forEach((c, i) => {
    const first = network.linksOf[i]?.[0];
    const link = first === undefined ? undefined : network.links[first];
    const q = first === undefined ? 0 : (flows.linkM3PerS[first] ?? 0);
    if (c.run && link && q !== 0) found[c.run.id] = link.a === i ? -q : q;
  });
  return found;
};

const foundFlows = (
  network: Network,
  situation: Situation,
  contents: Contents,
  settings: FlowSettings,
  air: ReadonlySet<string>,
): LiveFlows => {
  const solve = (extra: readonly string[]): LiveFlows =>
    liveFlows(situation, contents, { ...settings, dry: true, cushions: true, inAir: new Set([...air, ...extra]) });
  const first = solve([]);
  if (!first.ok) return first;
  // A cushion with nothing to give does not give.
  const spent = [...first.cushions].flatMap(([cell, q]) => {
    const c = network.cells[cell] as Cell;
    return q < 0 && heldM3({ contents }, cell) <= c.drainRemainder * c.capacityM3 * 1.001 ? [c.id] : [];
  });
  return spent.length > 0 ? solve(spent) : first;
};

/** What is known while time passes; one for each wait. */
class Passing {
  readonly held: Mixture[][];
  readonly touched = new Set<number>();
  readonly drawn = new Map<string, number>();
  /** What has left by openings and not yet fallen to where it goes. */
  readonly leaving = new Map<string, { at: LiveOpening; liquid: Mixture }>();
  readonly live: readonly LiveOpening[];
  readonly driven: boolean;
  readonly situation: Situation;
  readonly flow: FlowSettings;
  readonly seenAt: LiveOpening | undefined;
  found: Extract<LiveFlows, { ok: true }> | undefined;
  stations: Station[] = [];
  stepM3 = 0;
  closedOff: (cell: number) => boolean = () => true;
  passedS = 0;
  seenLiquid: Mixture = NOTHING;
  seenAirM3 = 0;
  private standing = "";
  private lastFrameS = Number.NEGATIVE_INFINITY;
  readonly network: Network;
  readonly before: SimState;
  readonly wait: Wait;
  readonly settings: SimSettings;
  readonly tally: Tally;

  constructor(network: Network, before: SimState, wait: Wait, settings: SimSettings, tally: Tally) {
    this.network = network;
    this.before = before;
    this.wait = wait;
    this.settings = settings;
    this.tally = tally;
    this.held = before.contents.map((c) => [...c.plugs]);
    this.situation = { network, lineup: before.lineup, apart: before.apart };
    this.live = liveOpenings(this.situation);
    this.flow = { ...settings.flow, hosesPa: before.hosesPa };
    this.driven = isDriven(this.situation, this.live, this.flow);
    this.seenAt = wait.until ? openingBy(this.live, wait.until.at) : undefined;
  }

  contents(): Contents {
    return asContents(this.before.contents, this.held, this.touched);
  }

  private take(contents: Contents): void {
    contents.forEach((c, i) => {
      const now = this.held[i] as Mixture[];
      if (c.plugs.length === now.length && c.plugs.every((p, k) => p === now[k])) return;
      this.held[i] = [...c.plugs];
      this.touched.add(i);
    });
  }

  private cushioned(): boolean {
    return this.network.cells.some(
      (c, i) => c.prechargePa !== undefined && volumeOf(sum(this.held[i] as Mixture[])) > c.drainRemainder * c.capacityM3 * 1.001,
    );
  }

  /** Finds the flows again if what they depend on has changed. */
  solve(): void {
    const pressed = this.driven || this.cushioned();
    const now = pressed ? signature(this.network, this.held) : "still";
    if (now === this.standing) return;
    this.standing = now;
    this.found = undefined;
    this.stations = [];
    this.tally.lastRuns = {};
    this.tally.lastOpenings = {};
    this.closedOff = () => true;
    if (!pressed) return;
    const answer = foundFlows(this.network, this.situation, this.contents(), this.flow, this.inAir());
    if (!answer.ok) {
      if (!this.tally.problems.includes(answer.problem)) this.tally.problems.push(answer.problem);
      return;
    }
    this.closedOff = (cell) => !answer.sourced.has(cell);
    // Linked tanks that stand level but for a hair pass nothing worth a step.
    if (onlyLevels(this.network, answer, this.held)) return;
    this.found = answer;
    this.stations = stationsOf(this.network, {
      link: answer.linkM3PerS,
      holes: answer.holes.map((h) => ({ at: h.at, share: h.q })),
      forced: new Map(),
    });
    const wayM3 = this.stations.reduce((v, s) => v + Math.min(s.cell.capacityM3, 0.02), 0);
    this.stepM3 = Math.min(LARGEST_STEP_M3, Math.max(SMALLEST_STEP_M3, wayM3 * STEP_SHARE));
    this.tally.lastRuns = runFlows(this.network, answer);
    this.tally.lastOpenings = Object.fromEntries(answer.holes.map((h) => [h.at.id, h.q]));
    for (const s of this.stations) {
      this.tally.flowed.add(s.index);
      this.touched.add(s.index);
    }
  }

  /** Ways in that hang in the air: no jug, or an empty one. */
  private inAir(): Set<string> {
    const hangs = (o: LiveOpening): boolean => {
      const jug = this.before.jugs[o.id];
      return !jug || (jug.leftM3 !== undefined && jug.leftM3 - (this.drawn.get(o.id) ?? 0) <= QUIET_M3);
    };
    return new Set(this.live.filter((o) => o.use === "pickup" && hangs(o)).map((o) => o.id));
  }

  /** What a way in gives when so much is drawn from it. */
  private given(volumeM3: number, opening: LiveOpening): Mixture {
    if (opening.use === "raw") return { waterM3: volumeM3, glycolM3: 0, foreignM3: volumeM3 };
    if (presses(opening, this.flow)) return { waterM3: volumeM3, glycolM3: 0 };
    const jug = opening.use === "pickup" ? this.before.jugs[opening.id] : undefined;
    if (!jug) return NOTHING;
    const left = jug.leftM3 === undefined ? volumeM3 : jug.leftM3 - (this.drawn.get(opening.id) ?? 0);
    return product(Math.min(volumeM3, Math.max(0, left)), jug.strength);
  }

  private comes(volumeM3: number, opening: LiveOpening | undefined): Packet {
    if (!opening) return { ...NO_PACKET, airM3: volumeM3 };
    const liquid = this.given(volumeM3, opening);
    const m3 = volumeOf(liquid);
    if (m3 > 0) {
      this.drawn.set(opening.id, (this.drawn.get(opening.id) ?? 0) + m3);
      this.tally.came = plus(this.tally.came, liquid);
      addTo(this.tally.comeBy, opening.id, liquid);
    }
    if (opening.use === "pickup" && m3 < volumeM3 && m3 > 0) this.standing = "";
    return { liquid, airM3: Math.max(0, volumeM3 - m3) };
  }

  private leaves(liquid: Mixture, airM3: number, at: LiveOpening): void {
    const sofar = this.leaving.get(at.id);
    this.leaving.set(at.id, { at, liquid: plus(sofar?.liquid ?? NOTHING, liquid) });
    addTo(this.tally.out, at.id, liquid);
    if (at.id !== this.seenAt?.id) return;
    this.seenLiquid = plus(this.seenLiquid, liquid);
    this.seenAirM3 += airM3;
  }

  /** Carries contents along the flows for so long. */
  carry(seconds: number): void {
    const { tally, found } = this;
    if (!found) return;
    moveOn(this.stations, this.held, seconds, {
      comes: (volumeM3, _, opening) => this.comes(volumeM3, opening),
      passes: (station, packet) => {
        const part = station.cell.part;
        if (!part || !kindOfPart(part).role.pump) return;
        const seen = tally.pumps.get(station.index) ?? { airM3: 0, liquidM3: 0, by: new Set<string>() };
        seen.airM3 += packet.airM3;
        seen.liquidM3 += volumeOf(packet.liquid);
        if (packet.airM3 > 0) for (const id of airSources(this.network, found, this.before.jugs)) seen.by.add(id);
        tally.pumps.set(station.index, seen);
      },
      leaves: ({ liquid, airM3 }, at, station) => {
        if (isFresh(this, station.index)) this.spill(station.index, volumeOf(liquid));
        this.leaves(liquid, airM3, at);
      },
    });
    for (const { index, cell } of this.stations) {
      const over = volumeOf(sum(this.held[index] as Mixture[])) - cell.capacityM3;
      if (over <= cell.capacityM3 * 1e-12) continue;
      const { out, rest } = leave(this.held[index] as Mixture[], over, false);
      this.held[index] = rest;
      this.spill(index, volumeOf(out));
      tally.gone = plus(tally.gone, out);
    }
  }

  private spill(cell: number, m3: number): void {
    if (m3 > 0) this.tally.spilt.set(cell, (this.tally.spilt.get(cell) ?? 0) + m3);
  }

  /** Whether something stands open beside what is pressed, so that gravity may have work. */
  mayFall(): boolean {
    return this.live.some((o) => o.use !== "vent" && this.network.cells[o.cell]?.form !== "trap" && this.closedOff(o.cell));
  }

  /** Lets gravity work for so long. Says how much came out, and how long what is in hand still takes. */
  fallFor(seconds: number): { movedM3: number; slowestS: number; kept: DrainResult["kept"] } {
    const slowest = { s: 0 };
    const run = drain(this.situation, this.contents(), { pace: torricelli(this.network, seconds, slowest), only: this.closedOff });
    const movedM3 = [...run.out.values()].reduce((s, m) => s + volumeOf(m), 0);
    if (movedM3 > QUIET_M3) {
      this.take(run.contents);
      for (const spill of run.left) this.tally.gone = plus(this.tally.gone, spill.liquid);
      for (const [id, liquid] of run.out) {
        addTo(this.tally.out, id, liquid);
        if (id === this.seenAt?.id) this.seenLiquid = plus(this.seenLiquid, liquid);
        this.tally.lastOpenings = { ...this.tally.lastOpenings, [id]: volumeOf(liquid) / seconds };
      }
    }
    return { movedM3, slowestS: slowest.s, kept: run.kept };
  }

  /** What has left falls to its waste, its tank or the ground. */
  settle(): void {
    if (this.leaving.size === 0) return;
    const fallen = fall(this.situation, this.contents(), [...this.leaving.values()]);
    this.leaving.clear();
    this.take(fallen.contents);
    for (const spill of fallen.left) this.tally.gone = plus(this.tally.gone, spill.liquid);
  }

  grow(seconds: number): void {
    for (const cell of age(this.network, this.before, this.held, seconds, this.settings, this.tally)) this.touched.add(cell);
  }

  frame(force = false): void {
    const every = Math.max(this.wait.seconds, 1) / this.settings.frames;
    if (this.settings.frames <= 0 || (!force && this.passedS - this.lastFrameS < every)) return;
    this.lastFrameS = this.passedS;
    this.settle();
    this.tally.frames.push({
      atS: this.before.clockS + this.passedS,
      contents: this.contents(),
      lineup: this.before.lineup,
      runM3PerS: this.tally.lastRuns,
      openingM3PerS: this.tally.lastOpenings,
    });
  }

  hasShown(): boolean {
    const { until } = this.wait;
    if (!until) return false;
    const seen = volumeOf(this.seenLiquid);
    const shown =
      (until.strength !== undefined && seen > this.seenAirM3 && strengthOf(this.seenLiquid) >= until.strength) ||
      (until.air !== undefined && this.seenAirM3 > 0 && this.seenAirM3 >= until.air * (seen + this.seenAirM3)) ||
      (until.volumeM3 !== undefined && volumeOf(this.tally.out.get(this.seenAt?.id ?? "") ?? NOTHING) >= until.volumeM3);
    this.seenLiquid = NOTHING;
    this.seenAirM3 = 0;
    return shown;
  }
}

/**
 * Lets so many seconds pass, or fewer when what is waited for shows or nothing moves any more.
 * While a pump runs or a supply presses, contents are carried along the solved flows; what is closed off from them, and
 * everything when nothing presses, follows gravity.
 */
export const passTime = (network: Network, before: SimState, wait: Wait, settings: SimSettings, tally: Tally = newTally()): Waited => {
  const p = new Passing(network, before, wait, settings, tally);
  const whole = wait.toRest ? Number.POSITIVE_INFINITY : wait.seconds;
  let ended: Waited["ended"] = "time";
  let fellAtS = Number.NEGATIVE_INFINITY;
  p.frame(true);
  for (let steps = 0; p.passedS < whole; steps++) {
    if (steps > MOST_STEPS) {
      ended = "too many steps";
      break;
    }
    p.solve();
    const left = whole - p.passedS;
    let stepS = Math.min(left, LONGEST_STEP_S);
    let still = false;
    if (p.found && p.stations.length > 0) {
      const fastest = p.found.linkM3PerS.reduce((m, q) => Math.max(m, Math.abs(q)), 0);
      stepS = Math.min(stepS, p.stepM3 / fastest);
      p.carry(stepS);
      // What is closed off falls by itself, looked at every second.
      if (p.passedS - fellAtS >= 1 && p.mayFall()) {
        p.fallFor(Math.max(stepS, Math.min(1, left)));
        fellAtS = p.passedS;
      }
    } else {
      const paceS = wait.toRest ? LONGEST_STEP_S : Math.min(left, Math.max(1, whole / GRAVITY_STEPS));
      const { movedM3, slowestS, kept } = p.fallFor(paceS);
      still = movedM3 <= QUIET_M3;
      stepS = still ? left : Math.min(paceS, Math.max(slowestS, PIPES_DRAIN_S), left);
      if (still) {
        tally.lastOpenings = {};
        for (const { cell, why } of kept)
          tally.trace.push({
            atS: before.clockS + p.passedS,
            at: network.cells[cell]?.id ?? "",
            what: why,
            m3: volumeOf(sum(p.held[cell] ?? [])),
          });
        if (wait.toRest || (wait.until && Object.keys(before.heats).length === 0)) {
          ended = "at rest";
          break;
        }
      }
    }
    p.grow(stepS);
    p.passedS += stepS;
    p.frame();
    if (p.hasShown()) {
      ended = "seen";
      break;
    }
    // Nothing moves any more: the rest of the time has passed at once.
    if (still) break;
  }
  p.settle();
  for (const [id, liquid] of tally.out)
    tally.trace.push({ atS: before.clockS + p.passedS, at: id, what: "came out here", m3: volumeOf(liquid) });
  p.frame(true);
  const jugs = Object.fromEntries(
    Object.entries(before.jugs).map(([id, jug]) => [
      id,
      jug.leftM3 === undefined ? jug : { ...jug, leftM3: Math.max(0, jug.leftM3 - (p.drawn.get(id) ?? 0)) },
    ]),
  );
  return { state: { ...before, contents: p.contents(), jugs, clockS: before.clockS + p.passedS }, tally, seconds: p.passedS, ended };
};

/** Openings by which air comes in on the suction side: a pickup that hangs in the air, a tank run dry. */
const airSources = (network: Network, found: Extract<LiveFlows, { ok: true }>, jugs: SimState["jugs"]): string[] =>
  found.holes.flatMap((h) => {
    if (h.q >= 0) return [];
    if (h.at.use === "pickup") return jugs[h.at.id] ? [] : [h.at.id];
    return isFresh({ network }, h.at.cell) ? [h.at.id] : [];
  });

// Two millimetres between linked tanks are level (our own).
const LEVEL_M = 0.002;

/** Whether all that moves is water between tanks that stand level. */
const onlyLevels = (network: Network, found: Extract<LiveFlows, { ok: true }>, held: readonly Mixture[][]): boolean => {
  if (found.holes.length === 0 || found.holes.some((h) => h.at.use !== "vent" || !isFresh({ network }, h.at.cell))) return false;
  const levels = found.holes.map(({ at: { cell } }) => {
    const c = network.cells[cell] as Cell;
    return c.bottomM + ((c.topM - c.bottomM) * volumeOf(sum(held[cell] as Mixture[]))) / c.capacityM3;
  });
  return Math.max(...levels) - Math.min(...levels) < LEVEL_M;
};

/** An opening by its id, or the one of a part that stands open. */
export const openingBy = (live: readonly LiveOpening[], name: string): LiveOpening | undefined =>
  live.find((o) => o.id === name) ??
  live.find((o) => o.opening?.part.id === name && o.use !== "vent") ??
  live.find((o) => o.opening?.part.tag?.toLowerCase() === name.toLowerCase());

/** Temperature of what a cell holds, °C. */
export const temperatureIn = (contents: Contents, cell: number, surroundingsC: number): number =>
  surroundingsC + warmthOf(liquidIn(contents[cell]));
