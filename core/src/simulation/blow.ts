import { ATMOSPHERE_PA, GRAVITY } from "../quantity/index.ts";
import {
  bodiesOf,
  type Body,
  bodyOf,
  type CellContents,
  fall,
  findFlow,
  type FlowResult,
  liquidIn,
  liquidVolume,
  type Mixture,
  moveOn,
  NO_PACKET,
  NOTHING,
  plus,
  stationsOf,
  sum,
  take,
  volumeIn,
  volumeOf,
} from "../contents/index.ts";
import { liveFlows } from "../flows/index.ts";
import {
  kindOfPart,
  type LiveOpening,
  type Network,
  passableLinks,
  PIPE_SYSTEMS,
  reach,
  reachInOrder,
  type Situation,
  withChecks,
} from "../watermap/index.ts";
import type { SimAction } from "./act.ts";
import type { SimSettings, SimState } from "./state.ts";
import { addTo, type Tally } from "./tally.ts";

/** What air does when it is let in at an opening. */
export interface AirResult {
  /** Cells on the way from the air's inlet to an opening, wet or dry. */
  readonly swept: readonly number[];
  /** Joined to the source but dead ends: they feel the pressure and keep their water. */
  readonly pressedOnly: readonly number[];
  /** Behind a shut valve or against a check, and wet. */
  readonly notReached: readonly number[];
  /** Beside another way to the one outlet that stands open, and wet: the air takes the easier way, and what lies here stays. */
  readonly beside: readonly number[];
  readonly seconds: number;
  /** How often the receiver was emptied to the regulator's pressure and had to be filled again, the first time counted. */
  readonly rounds: number;
  /** Liquid carried out. */
  readonly outM3: number;
  /** Liquid left on the swept way. */
  readonly remainsM3: number;
}

const AIR_KG_M3 = 1.225;
// A tap passes 6 L/min at 2 bar, so its hole times its coefficient is this, m2; as in the hydraulics.
const TAP_HOLE_M2 = (0.1e-3 / Math.sqrt(200_000)) * Math.sqrt(1000 / 2);
const OPEN_HOLE_M2 = 0.6 * (Math.PI / 4) * 0.01 ** 2;
// Choked flow of air through a hole: 0.0404 · Cd A · P0 / √T0 (textbook, as in White, Fluid Mechanics; from memory).
const CHOKED = 0.0404;
const STEP_SHARE = 1 / 80;
const SMALLEST_STEP_M3 = 1e-5;
const LARGEST_STEP_M3 = 2.5e-4;
const MOST_STEPS = 8000;
const QUIET_M3 = 1e-9;
const WORTH_TELLING_M3 = 5e-7;
// After the last slug this much air goes on carrying mist before the tap is shut (common practice, no source).
const MIST_S = 10;
const STILL_STEPS = 5;

/**
 * Free air through a hole, m3/s of air at 15 °C, where the flow is choked: above about 90 kPa.
 * @param holeM2 its area times its coefficient @param pa above the air
 */
export const airThroughHole = (holeM2: number, pa: number, temperatureC: number): number =>
  (CHOKED * holeM2 * (pa + ATMOSPHERE_PA)) / Math.sqrt(temperatureC + 273.15) / AIR_KG_M3;

/** Free air through the open holes at a pressure, m3/s. */
const freeAir = (openings: readonly LiveOpening[], pa: number, temperatureC: number): number => {
  const hole = openings.reduce((s, o) => s + (o.use === "outlet" ? TAP_HOLE_M2 : OPEN_HOLE_M2), 0);
  return airThroughHole(hole, pa, temperatureC);
};

/** Part of a dip's water that stays at an air speed: none at the speed at which air holds up a film (Wallis, C = 1; from memory). */
const sagKept = (boreM: number, speedMS: number, pa: number): number => {
  const density = (AIR_KG_M3 * (pa + ATMOSPHERE_PA)) / ATMOSPHERE_PA;
  const lifts = Math.sqrt((GRAVITY * boreM * (1000 - density)) / density);
  return Math.min(1, Math.max(0, 1 - speedMS / lifts));
};

/** Everything joined to a cell through open links that pass that way. */
const joined = (situation: Situation, start: number): Set<number> =>
  new Set(
    reachInOrder(
      situation.network,
      [start],
      withChecks(situation.network, passableLinks(situation)),
    ),
  );

export interface Blown {
  readonly state: SimState;
  readonly air: AirResult;
}

const SHARE_THAT_COUNTS = 0.005;

/**
 * Where one outlet alone stands open and ways part before it: the cells of each, those that the air could go round. It takes the dry
 * way, and a slug in the other stays, so that neither counts as swept; a check's spring is not counted on to keep it out.
 */
const partedWays = (situation: Situation, entry: number, found: FlowResult): Set<number> => {
  const { network } = situation;
  if (!found.ok) return new Set();
  const [exit, ...more] = found.flow.opening.filter((o) => o.share > SHARE_THAT_COUNTS);
  if (!exit || more.length > 0) return new Set();
  const onward = withChecks(network, passableLinks(situation));
  const out = exit.at.cell;
  const goesRound = (cell: number): boolean =>
    cell !== entry &&
    cell !== out &&
    network.cells[cell]?.form !== "trap" &&
    reach(
      network,
      [entry],
      (link, from, to) => to !== cell && from !== cell && onward(link, from, to),
    )[out] === 1;
  return new Set(found.flow.order.filter(goesRound));
};

/** The cells that hold something, by what air does to them: swept through, pressed only, or not reached. */
const reached = (
  situation: Situation,
  state: SimState,
  entry: LiveOpening,
  found: FlowResult,
  parted: ReadonlySet<number>,
): Pick<AirResult, "swept" | "pressedOnly" | "notReached" | "beside"> => {
  const { network } = situation;
  const reach = joined(situation, entry.cell);
  const isWet = (cell: number): boolean => liquidVolume(state.contents[cell]) > QUIET_M3;
  const ofWaste = (cell: number): boolean => {
    const c = network.cells[cell];
    return (
      c?.form === "trap" ||
      c?.form === "waste-pipe" ||
      (c?.part !== undefined && kindOfPart(c.part).group === "waste")
    );
  };
  const sweptSet = new Set(found.ok ? found.flow.order : []);
  const cells = network.cells.map((_, i) => i).filter((i) => !ofWaste(i));
  const holds = (cell: number): boolean => (network.cells[cell]?.capacityM3 ?? 0) > 0;
  const swept = cells.filter((i) => sweptSet.has(i) && holds(i) && !parted.has(i));
  const beside = cells.filter((i) => parted.has(i) && isWet(i));
  const pressedOnly = cells.filter((i) => !sweptSet.has(i) && reach.has(i) && isWet(i));
  const notReached = cells.filter((i) => !sweptSet.has(i) && !reach.has(i) && isWet(i));
  return { swept, pressedOnly, notReached, beside };
};

/** A compressor's receiver: it gives what the compressor does not, and when it is down to the regulator's pressure, work waits for it. */
class Receiver {
  seconds = 0;
  rounds = 1;
  #pa: number;
  readonly #how: Extract<SimAction, { do: "blow" }>;
  readonly #m3: number;

  constructor(how: Extract<SimAction, { do: "blow" }>) {
    this.#how = how;
    this.#pa = how.fullPa;
    this.#m3 = Math.max(how.receiverM3, 1e-4);
  }

  /** @param freeM3 air at the pressure of the open air */
  spend(freeM3: number, inSeconds: number): void {
    const { fullPa, regulatorPa, deliveryM3PerS } = this.#how;
    this.#pa -= ((freeM3 - deliveryM3PerS * inSeconds) * ATMOSPHERE_PA) / this.#m3;
    this.#pa = Math.min(this.#pa, fullPa);
    this.seconds += inSeconds;
    if (this.#pa >= regulatorPa) return;
    this.seconds += ((fullPa - this.#pa) * this.#m3) / (ATMOSPHERE_PA * deliveryM3PerS);
    this.#pa = fullPa;
    this.rounds++;
  }
}

type Leaving = Map<string, { at: LiveOpening; liquid: Mixture }>;

/**
 * What lies in ways that part is there as before; what came into them meanwhile and finds no room has gone on.
 * @returns how much of it has, m3
 */
const putBack = (
  network: Network,
  stays: ReadonlyMap<number, Body[]>,
  held: Body[][],
  at: LiveOpening | undefined,
  leaving: Leaving,
): number => {
  let outM3 = 0;
  for (const [cell, before] of stays) {
    const came = sum(held[cell] as Mixture[]);
    const room = Math.max(0, (network.cells[cell]?.capacityM3 ?? 0) - volumeIn(before));
    const { taken, left } = take(came, Math.min(room, volumeOf(came)));
    held[cell] = volumeOf(taken) > 0 ? [...before, bodyOf(taken)] : before;
    if (!at || volumeOf(left) <= 0) continue;
    outM3 += volumeOf(left);
    leaving.set(at.id, { at, liquid: plus(leaving.get(at.id)?.liquid ?? NOTHING, left) });
  }
  return outM3;
};

/** What became of the cells, in the order of the trace. */
const tellOfCells = (
  network: Network,
  { contents, clockS }: SimState,
  of: Pick<AirResult, "swept" | "beside" | "pressedOnly" | "notReached">,
  tally: Tally,
): void => {
  const tell = (list: readonly number[], what: string): void => {
    for (const cell of list)
      tally.trace.push({
        atS: clockS,
        at: network.cells[cell]?.id ?? "",
        what,
        m3: volumeOf(liquidIn(contents[cell])),
      });
  };
  tell(
    of.swept.filter((c) => volumeOf(liquidIn(contents[c])) > WORTH_TELLING_M3),
    "swept: film, dips and what lies below its outlet stay",
  );
  tell(of.beside, "beside another way: the air takes the easier one, and this keeps its water");
  tell(of.pressedOnly, "pressed only: a dead end keeps its water");
  tell(of.notReached, "not reached: behind a shut valve or against a check");
};

/**
 * Blows air in at an opening until it carries nothing more out, or for a time. The regulator holds the pressure while the
 * receiver has it; below that the compressor has to fill it again first.
 */
export const blow = (
  network: Network,
  state: SimState,
  entry: LiveOpening,
  how: Extract<SimAction, { do: "blow" }>,
  settings: SimSettings,
  tally: Tally,
): Blown => {
  const situation: Situation = {
    network,
    lineup: state.lineup,
    apart: state.apart,
    stopped: [entry.id],
  };
  const found = findFlow(situation, { kind: "push", cell: entry.cell });
  const parted = partedWays(situation, entry.cell, found);
  const { swept, pressedOnly, notReached, beside } = reached(
    situation,
    state,
    entry,
    found,
    parted,
  );
  const nothing: AirResult = {
    swept: [],
    pressedOnly,
    notReached,
    beside,
    seconds: 0,
    rounds: 0,
    outM3: 0,
    remainsM3: 0,
  };
  if (!found.ok) {
    tally.trace.push({
      atS: state.clockS,
      at: entry.id,
      what: "no way out: everything joined is pressed only",
      m3: 0,
    });
    return { state, air: nothing };
  }

  const held = bodiesOf(state.contents);
  const stays = new Map([...parted].map((cell) => [cell, held[cell] ?? []]));
  for (const cell of parted) held[cell] = [];
  const stations = stationsOf(network, {
    link: found.flow.link,
    holes: found.flow.opening,
    forced: new Map([[entry.cell, 1]]),
  });
  const wayM3 = stations.reduce((v, s) => v + Math.min(s.cell.capacityM3, 0.02), 0);
  const step = Math.min(LARGEST_STEP_M3, Math.max(SMALLEST_STEP_M3, wayM3 * STEP_SHARE));
  const out = found.flow.opening.filter((o) => o.share > 0).map((o) => o.at);
  const airM3PerS = freeAir(out, how.regulatorPa, settings.flow.temperatureC);
  const squeezed = (how.regulatorPa + ATMOSPHERE_PA) / ATMOSPHERE_PA;
  const waterM3PerS = slugRate(situation, state, entry, how.regulatorPa, settings, out);

  const leaving: Leaving = new Map();
  const receiver = new Receiver(how);
  let [outM3, still] = [0, 0];
  const sagShare = (station: (typeof stations)[number]): number => {
    const system = station.cell.run && PIPE_SYSTEMS.get(station.cell.run.pipe);
    if (!system) return 1;
    const share = station.in.reduce((s, w) => s + w.share, station.forced);
    const speed = (share * airM3PerS) / squeezed / ((Math.PI / 4) * system.boreM ** 2);
    return sagKept(system.boreM, speed, how.regulatorPa);
  };
  const levels = stations.map((s) => volumeIn(held[s.index] as Mixture[]));
  for (let i = 0; i < MOST_STEPS; i++) {
    let carried = 0;
    moveOn(stations, held, step, {
      comes: (volumeM3) => ({ ...NO_PACKET, airM3: volumeM3 }),
      leaves: ({ liquid }, at) => {
        carried += volumeOf(liquid);
        leaving.set(at.id, { at, liquid: plus(leaving.get(at.id)?.liquid ?? NOTHING, liquid) });
      },
      sagShare,
    });
    outM3 += carried;
    // A slug goes as fast as water runs out of the open ends, air as fast as it escapes.
    const slugS = carried / Math.max(waterM3PerS, 1e-7);
    const freeM3 = (step - carried) * squeezed;
    const airS = freeM3 / Math.max(airM3PerS, 1e-7);
    receiver.spend(freeM3 + carried * squeezed, slugS + airS);
    let stirred = 0;
    stations.forEach((s, k) => {
      const now = volumeIn(held[s.index] as Mixture[]);
      stirred += Math.abs(now - (levels[k] as number));
      levels[k] = now;
    });
    still = carried + stirred > QUIET_M3 ? 0 : still + 1;
    if (how.seconds !== undefined && receiver.seconds >= how.seconds) break;
    if (still < STILL_STEPS) continue;
    // Nothing more is carried: what is left of the time goes on air alone.
    const restS = how.seconds === undefined ? MIST_S : how.seconds - receiver.seconds;
    receiver.spend(airM3PerS * restS, restS);
    break;
  }
  outM3 += putBack(network, stays, held, out[0], leaving);
  const { seconds, rounds } = receiver;
  const touched = new Set(stations.map((s) => s.index));
  const contents = state.contents.map<CellContents>((c, i) =>
    touched.has(i) ? { plugs: held[i] as Mixture[], source: "worked out" } : c,
  );
  const fallen = fall(situation, contents, [...leaving.values()]);
  for (const spill of fallen.left) tally.gone = plus(tally.gone, spill.liquid);
  for (const [id, { liquid }] of leaving) {
    addTo(tally.out, id, liquid);
    tally.trace.push({
      atS: state.clockS + seconds,
      at: id,
      what: "blown out here",
      m3: volumeOf(liquid),
    });
  }
  const after = { ...state, contents: fallen.contents, clockS: state.clockS + seconds };
  tellOfCells(network, after, { swept, beside, pressedOnly, notReached }, tally);
  return {
    state: after,
    air: {
      swept,
      pressedOnly,
      notReached,
      beside,
      seconds,
      rounds,
      outM3,
      remainsM3: volumeOf(sum(swept.map((c) => liquidIn(fallen.contents[c])))),
    },
  };
};

/** How fast water runs out of the open ends at the regulator's pressure, m3/s. */
const slugRate = (
  situation: Situation,
  state: SimState,
  entry: LiveOpening,
  regulatorPa: number,
  settings: SimSettings,
  out: readonly LiveOpening[],
): number => {
  if (entry.use === "supply" && entry.opening?.gate) {
    const gate = entry.opening.gate;
    const { network, apart } = situation;
    const pressed: Situation = {
      network,
      apart,
      lineup: { ...state.lineup, [gate.key]: gate.in[0] ?? "open" },
    };
    // Pushed by air as by a supply that gives as much as is asked.
    const flows = liveFlows(pressed, state.contents, {
      ...settings.flow,
      hosesPa: { ...state.hosesPa, [entry.id]: regulatorPa },
      supplyMostM3PerS: 1e-2,
    });
    const gone = flows.ok ? flows.holes.reduce((s, h) => s + Math.max(0, h.q), 0) : 0;
    if (gone > 0) return gone;
  }
  const hole = out.reduce(
    (s, o) => s + (o.use === "vent" ? 0 : o.use === "outlet" ? TAP_HOLE_M2 : OPEN_HOLE_M2),
    0,
  );
  return hole * Math.sqrt((2 * regulatorPa) / 1000);
};
