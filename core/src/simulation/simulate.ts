import {
  liquidIn,
  NOTHING,
  plus,
  pouredInto,
  product,
  push,
  remade,
  situationOf,
  take,
  turned,
  undone,
  volumeOf,
} from "../contents/index.ts";
import { controlKey, controlsOfPart, kindOfPart, type Network } from "../watermap/index.ts";
import type { SimAction } from "./act.ts";
import { airVerdict } from "./air-limit.ts";
import { blow } from "./blow.ts";
import { cellNamed, controlNamed, openingNamed, partNamed, positionNamed } from "./names.ts";
import { noticesOf } from "./notice.ts";
import {
  addLiquid,
  airFollows,
  outcome,
  type Outcome,
  type SimDone,
  type SimStep,
  withCell,
} from "./outcome.ts";
import { passTime } from "./pass-time.ts";
import { COMMON_SIM_SETTINGS, type SimSettings, type SimState } from "./state.ts";
import { addTo, newTally, type Tally } from "./tally.ts";

// What a suction hose leaves in a vessel without a drain (common practice, no source: 2.3 of 2.7 gal come).
const SUCTION_LEAVES = 0.15;
// A pump-out leaves this much of a sump (common practice, no source).
const PUMP_OUT_LEAVES = 0.1;
const CYCLE_MOST_S = 600;

type Doers = {
  readonly [K in SimAction["do"]]: (
    network: Network,
    state: SimState,
    action: Extract<SimAction, { do: K }>,
    settings: SimSettings,
    tally: Tally,
  ) => Outcome;
};

const DOERS: Doers = {
  turn: (network, state, { control, to }) => {
    const found = controlNamed(network, control);
    if (!found.ok) return found;
    const position = positionNamed(found.value, to);
    if (!position.ok) return position;
    return outcome(turned(state, found.value.key, position.value));
  },
  jug: (network, state, { at, strength, volumeM3 }) => {
    const found = openingNamed(network, situationOf(network, state), at);
    if (!found.ok) return found;
    const { id, opening, undone } = found.value;
    const gate = opening?.gate;
    const jugs = { ...state.jugs };
    if (strength === undefined) delete jugs[id];
    else jugs[id] = { strength, ...(volumeM3 === undefined ? {} : { leftM3: volumeM3 }) };
    // A hose that is put in a jug is no longer capped.
    const lineup =
      gate && strength !== undefined
        ? { ...state.lineup, [gate.key]: gate.in[0] ?? "open" }
        : state.lineup;
    const apart = state.apart.map((e) =>
      undone?.run === e.run && undone.end === e.end ? { ...e, jug: true } : e,
    );
    return outcome({ ...state, jugs, lineup, apart });
  },
  hose: (network, state, { at, pa, chlorineMgL }) => {
    const found = openingNamed(network, situationOf(network, state), at);
    if (!found.ok) return found;
    const { id, use, opening } = found.value;
    if (use !== "supply" && use !== "flush")
      return { ok: false, problem: `${at} is no inlet for a hose` };
    const hosesPa = { ...state.hosesPa };
    if (pa > 0) hosesPa[id] = pa;
    else delete hosesPa[id];
    const hosesMgL = { ...state.hosesMgL };
    if (pa > 0 && chlorineMgL !== undefined) hosesMgL[id] = chlorineMgL;
    else delete hosesMgL[id];
    const gate = opening?.gate;
    // A hose goes on where the cap was.
    return outcome({
      ...state,
      hosesPa,
      ...(Object.keys(hosesMgL).length > 0 || state.hosesMgL ? { hosesMgL } : {}),
      lineup: gate && pa > 0 ? { ...state.lineup, [gate.key]: gate.in[0] ?? "open" } : state.lineup,
    });
  },
  undo: (network, state, { run, end }) => {
    if (!network.map.runs.some((r) => r.id === run))
      return { ok: false, problem: `there is no pipe "${run}"` };
    return outcome(undone(state, { run, end, jug: false }));
  },
  remake: (_, state, { run, end }) => outcome(remade(state, { run, end })),
  wait: (network, state, { seconds, until }, settings, tally) => {
    const seen = until && openingNamed(network, situationOf(network, state), until.at);
    if (seen && !seen.ok) return seen;
    const waited = passTime(
      network,
      state,
      { seconds, ...(until && seen ? { until: { ...until, at: seen.value.id } } : {}) },
      settings,
      tally,
    );
    return outcome(waited.state, waited.seconds, { ended: waited.ended });
  },
  blow: (network, state, action, settings, tally) => {
    const entry = openingNamed(network, situationOf(network, state), action.at);
    if (!entry.ok) return entry;
    const air = airVerdict(network, state, action);
    if (air.verdict === "refused") return { ok: false, problem: air.why };
    if (air.verdict === "high") tally.airHigh = `${air.why}.`;
    const blown = blow(network, state, entry.value, action, settings, tally);
    // With the air shut off, whatever had been pressed together pushes back.
    const gate = entry.value.opening?.gate;
    const resting = Object.fromEntries(
      network.links.flatMap((l) => (l.drivenBy ? [[l.drivenBy, "off"]] : [])),
    );
    const closed = {
      ...blown.state,
      lineup: {
        ...blown.state.lineup,
        ...resting,
        ...(gate ? { [gate.key]: "taken by the air hose" } : {}),
      },
    };
    const cushioned = network.cells.some((c) => c.prechargePa !== undefined);
    const relaxed = cushioned
      ? passTime(network, closed, { seconds: 30 }, { ...settings, frames: 0 }, tally).state
      : closed;
    return outcome({ ...relaxed, lineup: state.lineup }, blown.air.seconds, { air: blown.air });
  },
  suck: (network, state, { from, volumeM3 }, _, tally) => {
    const cell = cellNamed(network, from);
    if (!cell.ok) return cell;
    const held = liquidIn(state.contents[cell.value]);
    if (!airFollows(network, state, cell.value)) {
      tally.trace.push({
        atS: state.clockS,
        at: from,
        what: "nothing comes: no air can follow",
        m3: volumeOf(held),
      });
      return outcome(state);
    }
    const stays = SUCTION_LEAVES * (network.cells[cell.value]?.capacityM3 ?? 0);
    const most = Math.max(0, volumeOf(held) - stays);
    const { taken, left } = take(held, Math.min(most, volumeM3 ?? most));
    tally.gone = plus(tally.gone, taken);
    addTo(tally.out, network.cells[cell.value]?.id ?? from, taken);
    tally.trace.push({
      atS: state.clockS,
      at: from,
      what: "sucked out; what lies below the dip stays",
      m3: volumeOf(taken),
    });
    return outcome(withCell(state, cell.value, left));
  },
  fill: (network, state, { tank, volumeM3, strength }, _, tally) => {
    const cell = cellNamed(network, tank);
    return cell.ok
      ? outcome(addLiquid(network, state, cell.value, product(volumeM3, strength), tally))
      : cell;
  },
  pour: (network, state, { into, volumeM3, strength }, _, tally) => {
    const cell = cellNamed(network, into);
    if (!cell.ok) return cell;
    const liquid = product(volumeM3, strength);
    tally.came = plus(tally.came, liquid);
    const poured = pouredInto(network, state, cell.value, liquid);
    for (const spill of poured.left) tally.gone = plus(tally.gone, spill.liquid);
    // What came and went is counted once, from the tally.
    return outcome({ ...poured.standing, came: state.came, gone: state.gone });
  },
  push: (network, state, action, _, tally) => {
    const cell = cellNamed(network, action.in);
    if (!cell.ok) return cell;
    const seen =
      action.until && openingNamed(network, situationOf(network, state), action.until.at);
    if (seen && !seen.ok) return seen;
    const pushed = push(situationOf(network, state), state.contents, {
      drive: { kind: "push", cell: cell.value },
      productStrength: action.strength,
      watch: seen?.value.id ?? "",
      ...(action.until ? { untilStrength: action.until.strength } : {}),
      maxM3: action.volumeM3,
    });
    tally.came = plus(tally.came, pushed.came);
    for (const { from, liquid } of pushed.left) {
      tally.gone = plus(tally.gone, liquid);
      addTo(tally.out, from, liquid);
    }
    return outcome(
      { ...state, contents: pushed.contents },
      0,
      pushed.outcome === "reached" ? { ended: "seen" } : {},
    );
  },
  dose: (network, state, { into, chlorineMg }) => {
    const cell = cellNamed(network, into);
    if (!cell.ok) return cell;
    const held = liquidIn(state.contents[cell.value]);
    if (volumeOf(held) <= 0)
      return { ok: false, problem: `${into} is empty: there is nothing to mix chlorine into` };
    return outcome(withCell(state, cell.value, plus(held, { ...NOTHING, chlorineMg })));
  },
  cycle: (network, state, { appliance, volumeM3 }, settings, tally) => {
    const part = partNamed(network, appliance);
    if (!part.ok) return part;
    const calls = controlsOfPart(part.value).filter((c) => c.role === "outlet");
    if (calls.length === 0) return { ok: false, problem: `${part.value.name} takes no water` };
    const at = network.openings.filter((o) => o.part.id === part.value.id && o.use === "outlet");
    let now = state;
    let seconds = 0;
    // Fill after fill, as the machine does: each of its valves for its share.
    for (const call of calls) {
      const key = controlKey(part.value.id, call.name);
      const opening = at.find((o) => o.gate?.key === key) ?? at[0];
      if (!opening) continue;
      const sofar = volumeOf(tally.out.get(opening.id) ?? NOTHING);
      const open = { ...now, lineup: { ...now.lineup, [key]: "open" } };
      const wait = {
        seconds: CYCLE_MOST_S,
        until: { at: opening.id, volumeM3: sofar + volumeM3 / calls.length },
      };
      const filled = passTime(network, open, wait, settings, tally);
      now = {
        ...filled.state,
        lineup: { ...filled.state.lineup, [key]: state.lineup[key] ?? "shut" },
      };
      seconds += filled.seconds;
    }
    const sump = network.cells.findIndex((c) => c.ownerId === part.value.id && c.form === "trap");
    if (sump >= 0) {
      const held = liquidIn(now.contents[sump]);
      const { taken, left } = take(
        held,
        volumeOf(held) - PUMP_OUT_LEAVES * (network.cells[sump]?.capacityM3 ?? 0),
      );
      now = withCell(now, sump, left);
      tally.gone = plus(tally.gone, taken);
      tally.trace.push({
        atS: now.clockS,
        at: part.value.id,
        what: "pumped out of its sump",
        m3: volumeOf(taken),
      });
    }
    return outcome(now, seconds);
  },
  hold: (network, state, { in: where, share, strength }, _, tally) => {
    const cell = cellNamed(network, where);
    if (!cell.ok) return cell;
    const now = product(share * (network.cells[cell.value]?.capacityM3 ?? 0), strength);
    // What was there is gone and what is there has come, so that the balance stays whole.
    tally.gone = plus(tally.gone, liquidIn(state.contents[cell.value]));
    tally.came = plus(tally.came, now);
    return outcome(withCell(state, cell.value, now));
  },
  heat: (network, state, { heater, watts, toC }) => {
    const part = partNamed(network, heater);
    if (!part.ok) return part;
    if (kindOfPart(part.value).group !== "heat")
      return { ok: false, problem: `${part.value.name} is not a heater` };
    const heats = { ...state.heats };
    if (watts > 0) heats[part.value.id] = { watts, toC };
    else delete heats[part.value.id];
    return outcome({ ...state, heats });
  },
};

/** Does one action to a unit. What it names and cannot be found, or makes no sense, is said, and nothing is changed. */
export const simDo = (
  network: Network,
  before: SimState,
  action: SimAction,
  settings: SimSettings = COMMON_SIM_SETTINGS,
): SimStep => {
  const tally = newTally();
  const doer = DOERS[action.do] as (
    n: Network,
    s: SimState,
    a: SimAction,
    x: SimSettings,
    t: Tally,
  ) => Outcome;
  const found = doer(network, before, action, settings, tally);
  if (!found.ok) return found;
  const { state, seconds, ended, air } = found.value;
  const after: SimState = {
    ...state,
    came: plus(before.came, tally.came),
    gone: plus(before.gone, tally.gone),
  };
  return {
    ok: true,
    done: {
      action,
      state: after,
      seconds,
      ...(ended ? { ended } : {}),
      came: tally.came,
      gone: tally.gone,
      out: tally.out,
      notices: noticesOf(network, before, after, tally, settings),
      ...(air ? { air } : {}),
      frames: tally.frames,
      trace: tally.trace,
      openingM3PerS: tally.lastOpenings,
    },
  };
};

export type Simulated =
  | { readonly ok: true; readonly after: readonly SimDone[] }
  | { readonly ok: false; readonly problem: string; readonly action: number };

/** Does a list of actions, one after another; stops at the first that cannot be done. */
export const simulate = (
  network: Network,
  start: SimState,
  actions: readonly SimAction[],
  settings: SimSettings = COMMON_SIM_SETTINGS,
): Simulated => {
  let state = start;
  const after: SimDone[] = [];
  for (const [i, action] of actions.entries()) {
    const step = simDo(network, state, action, settings);
    if (!step.ok) return { ...step, action: i };
    after.push(step.done);
    ({ state } = step.done);
  }
  return { ok: true, after };
};
