import {
  bodiesOf,
  type Body,
  bodyOf,
  type CellContents,
  type Contents,
  drain,
  type DrainResult,
  fall,
  leave,
  levelTanks,
  type Linked,
  linkedTanks,
  type Mixture,
  moveOn,
  NO_PACKET,
  NOTHING,
  Pace,
  type Packet,
  plus,
  product,
  type Station,
  stationsOf,
  strengthOf,
  sum,
  volumeOf,
} from "../contents/index.ts";
import { type FlowSettings, isDriven, isFresh, presses } from "../flows/index.ts";
import {
  kindOfPart,
  type LiveOpening,
  liveOpenings,
  type Network,
  type Situation,
} from "../watermap/index.ts";
import type { SimAction } from "./act.ts";
import { age } from "./ageing.ts";
import {
  airSources,
  type Flows,
  foundFlows,
  onlyLevels,
  runFlows,
  signature,
  spreadM,
} from "./flows-now.ts";
import { torricelli } from "./gravity-pace.ts";
import type { SimSettings, SimState } from "./state.ts";
import { addTo, type Tally } from "./tally.ts";

/** Less than this has not moved, m3. */
export const QUIET_M3 = 1e-10;
const STILL_M3PERS = 1e-8;
const LEAST_S = 1e-3;
// Linked tanks whose levels differ by less are kept level (our own).
const NEAR_LEVEL_M = 0.02;

export interface Wait {
  readonly seconds: number;
  readonly until?: Extract<SimAction, { do: "wait" }>["until"];
}

/** Contents from what is held, for the cells that something happened to: as they are now, whatever is moved on. */
const asContents = (
  before: Contents,
  held: readonly Body[][],
  touched: ReadonlySet<number>,
): Contents =>
  before.map<CellContents>((c, i) =>
    touched.has(i) ? { plugs: (held[i] as Body[]).map(bodyOf), source: "worked out" } : c,
  );

/** An opening by its id, or the one of a part that stands open. */
const openingBy = (live: readonly LiveOpening[], name: string): LiveOpening | undefined =>
  live.find((o) => o.id === name) ??
  live.find((o) => o.opening?.part.id === name && o.use !== "vent") ??
  live.find((o) => o.opening?.part.tag?.toLowerCase() === name.toLowerCase());

/** What is known while time passes; one for each wait. */
export class Passing {
  readonly held: Body[][];
  readonly touched = new Set<number>();
  readonly drawn = new Map<string, number>();
  /** What has left by openings and not yet fallen to where it goes. */
  readonly leaving = new Map<string, { at: LiveOpening; liquid: Mixture }>();
  readonly live: readonly LiveOpening[];
  readonly driven: boolean;
  readonly situation: Situation;
  readonly flow: FlowSettings;
  readonly seenAt: LiveOpening | undefined;
  private readonly linked: readonly Linked[];
  found: Flows | undefined;
  stations: Station[] = [];
  pace = new Pace([]);
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
    this.held = bodiesOf(before.contents);
    this.situation = { network, lineup: before.lineup, apart: before.apart };
    this.live = liveOpenings(this.situation);
    this.flow = { ...settings.flow, hosesPa: before.hosesPa };
    this.linked = linkedTanks(this.situation);
    this.driven = isDriven(this.situation, this.live, this.flow);
    this.seenAt = wait.until ? openingBy(this.live, wait.until.at) : undefined;
  }

  contents(): Contents {
    return asContents(this.before.contents, this.held, this.touched);
  }

  /** Takes over what has become of contents. */
  private take(given: Contents, become: Contents): void {
    become.forEach((c, i) => {
      if (c === given[i]) return;
      this.held[i] = c.plugs.map(bodyOf);
      this.touched.add(i);
    });
  }

  private cushioned(): boolean {
    return this.network.cells.some(
      (c, i) =>
        c.prechargePa !== undefined &&
        volumeOf(sum(this.held[i] as Mixture[])) > c.drainRemainder * c.capacityM3 * 1.001,
    );
  }

  /** Finds the flows again if what they depend on has changed. */
  solve(): void {
    const pressed = this.driven || this.cushioned();
    const now = pressed ? signature(this.network, this.held) : "still";
    if (now === this.standing) return;
    this.standing = now;
    this.found = undefined;
    const before = this.stations;
    this.stations = [];
    this.tally.lastRuns = {};
    this.tally.lastOpenings = {};
    this.closedOff = () => true;
    if (!pressed) return;
    const answer = foundFlows(
      this.network,
      this.situation,
      this.contents(),
      this.flow,
      this.inAir(),
    );
    if (!answer.ok) {
      if (!this.tally.problems.includes(answer.problem)) this.tally.problems.push(answer.problem);
      return;
    }
    // Cushions that neither take nor give press nothing: what moves then moves by gravity.
    if (!this.driven && [...answer.cushions.values()].every((q) => Math.abs(q) < STILL_M3PERS))
      return;
    this.closedOff = (cell) => !answer.sourced.has(cell);
    // Linked tanks that stand level but for a hair pass nothing worth a step.
    if (onlyLevels(this.network, answer, this.held)) return;
    this.found = answer;
    this.stations = stationsOf(this.network, {
      link: answer.linkM3PerS,
      holes: answer.holes.map((h) => ({ at: h.at, share: h.q })),
      forced: new Map(),
    });
    if (
      this.stations.length !== before.length ||
      this.stations.some((s, i) => s.index !== before[i]?.index)
    )
      this.pace = new Pace(this.stations);
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
      return (
        !jug || (jug.leftM3 !== undefined && jug.leftM3 - (this.drawn.get(o.id) ?? 0) <= QUIET_M3)
      );
    };
    return new Set(this.live.filter((o) => o.use === "pickup" && hangs(o)).map((o) => o.id));
  }

  /** What a way in gives when so much is drawn from it. */
  private given(volumeM3: number, opening: LiveOpening): Mixture {
    if (opening.use === "raw") return { waterM3: volumeM3, glycolM3: 0, foreignM3: volumeM3 };
    if (presses(opening, this.flow)) {
      const mgL = this.before.hosesMgL?.[opening.id];
      const plain = { waterM3: volumeM3, glycolM3: 0 };
      return mgL === undefined ? plain : { ...plain, chlorineMg: mgL * volumeM3 * 1000 };
    }
    const jug = opening.use === "pickup" ? this.before.jugs[opening.id] : undefined;
    if (!jug) return NOTHING;
    const left =
      jug.leftM3 === undefined ? volumeM3 : jug.leftM3 - (this.drawn.get(opening.id) ?? 0);
    return product(Math.min(volumeM3, Math.max(0, left)), jug.strength);
  }

  private comes(volumeM3: number, opening: LiveOpening | undefined): Packet {
    if (!opening) return { ...NO_PACKET, airM3: volumeM3 };
    const liquid = this.given(volumeM3, opening);
    const m3 = volumeOf(liquid);
    if (m3 > 0) {
      this.drawn.set(opening.id, (this.drawn.get(opening.id) ?? 0) + m3);
      this.tally.came = plus(this.tally.came, liquid);
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
        const seen = tally.pumps.get(station.index) ?? {
          airM3: 0,
          liquidM3: 0,
          by: new Set<string>(),
        };
        seen.airM3 += packet.airM3;
        seen.liquidM3 += volumeOf(packet.liquid);
        if (packet.airM3 > 0)
          for (const id of airSources(this.network, found, this.before.jugs)) seen.by.add(id);
        tally.pumps.set(station.index, seen);
      },
      leaves: ({ liquid, airM3 }, at, station) => {
        if (isFresh(this, station.index)) this.spill(station.index, volumeOf(liquid));
        this.leaves(liquid, airM3, at);
      },
    });
    this.level();
    for (const { index, cell } of this.stations) {
      const over = volumeOf(sum(this.held[index] as Mixture[])) - cell.capacityM3;
      if (over <= cell.capacityM3 * 1e-12) continue;
      const { out, rest } = leave(this.held[index] as Body[], over, false);
      this.held[index] = rest;
      this.spill(index, volumeOf(out));
      tally.gone = plus(tally.gone, out);
    }
  }

  /** Linked tanks that stand nearly level stay so, whatever is drawn from one of them. */
  private level(): void {
    const groups = this.linked.filter(
      ({ tanks }) => spreadM(this.network, tanks, this.held) < NEAR_LEVEL_M,
    );
    levelTanks(this.network, groups, this.held);
    for (const { tanks } of groups) for (const cell of tanks) this.touched.add(cell);
  }

  private spill(cell: number, m3: number): void {
    if (m3 > 0) this.tally.spilt.set(cell, (this.tally.spilt.get(cell) ?? 0) + m3);
  }

  /** Whether something stands open beside what is pressed, so that gravity may have work. */
  mayFall(): boolean {
    return this.live.some(
      (o) =>
        o.use !== "vent" && this.network.cells[o.cell]?.form !== "trap" && this.closedOff(o.cell),
    );
  }

  /** Lets gravity work for so long. Says how much came out, and how long what is in hand still takes. */
  fallFor(seconds: number): { movedM3: number; slowestS: number; kept: DrainResult["kept"] } {
    const slowest = { s: 0 };
    const given = this.contents();
    const run = drain(this.situation, given, {
      pace: torricelli(seconds, slowest),
      only: this.closedOff,
    });
    const movedM3 = [...run.out.values()].reduce((s, m) => s + volumeOf(m), 0);
    if (movedM3 > QUIET_M3) {
      this.take(given, run.contents);
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
    const given = this.contents();
    const fallen = fall(this.situation, given, [...this.leaving.values()]);
    this.leaving.clear();
    this.take(given, fallen.contents);
    for (const spill of fallen.left) this.tally.gone = plus(this.tally.gone, spill.liquid);
  }

  grow(seconds: number): void {
    for (const cell of age(
      this.network,
      this.before,
      this.held,
      seconds,
      this.settings,
      this.tally,
    ))
      this.touched.add(cell);
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

  /** Seconds until what is waited for has come out, at the flow of now; without end where that is not what is waited for. */
  leftS(): number {
    const { until } = this.wait;
    const q = this.found?.holes.find((h) => h.at.id === this.seenAt?.id)?.q ?? 0;
    if (until?.volumeM3 === undefined || q <= 0) return Number.POSITIVE_INFINITY;
    const leftM3 = until.volumeM3 - volumeOf(this.tally.out.get(this.seenAt?.id ?? "") ?? NOTHING);
    return Math.max(leftM3, QUIET_M3) / q;
  }

  /** Seconds until a cushion has given what it has; the flows are other ones from then on. */
  givesForS(): number {
    let soonest = Number.POSITIVE_INFINITY;
    for (const [cell, q] of this.found?.cushions ?? []) {
      const { capacityM3 = 0, drainRemainder = 0 } = this.network.cells[cell] ?? {};
      if (q < 0)
        soonest = Math.min(
          soonest,
          Math.max(
            LEAST_S,
            (volumeOf(sum(this.held[cell] as Mixture[])) - drainRemainder * capacityM3) / -q,
          ),
        );
    }
    return soonest;
  }

  hasShown(): boolean {
    const { until } = this.wait;
    if (!until) return false;
    const seen = volumeOf(this.seenLiquid);
    const shown =
      (until.strength !== undefined &&
        seen > this.seenAirM3 &&
        strengthOf(this.seenLiquid) >= until.strength) ||
      (until.air !== undefined &&
        this.seenAirM3 > 0 &&
        this.seenAirM3 >= until.air * (seen + this.seenAirM3)) ||
      (until.volumeM3 !== undefined &&
        volumeOf(this.tally.out.get(this.seenAt?.id ?? "") ?? NOTHING) >= until.volumeM3);
    this.seenLiquid = NOTHING;
    this.seenAirM3 = 0;
    return shown;
  }
}
