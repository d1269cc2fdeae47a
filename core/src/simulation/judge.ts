import { reachOf } from "../survey/index.ts";
import { kindOfPart, liveOpenings, type Network } from "../watermap/index.ts";
import { isDriven } from "../flows/index.ts";
import type { SimAction } from "./act.ts";
import { type Notice, nothingAt } from "./notice.ts";
import { simDo } from "./simulate.ts";
import { COMMON_SIM_SETTINGS, type SimSettings, type SimState } from "./state.ts";

/** What would come of an action, before the hand moves: found by doing it to a copy of the unit and letting it run on. */

// As long as a person watches after turning something; a heater's element burns out sooner, a small tank is not yet full.
const LOOK_AHEAD_S = 120;

/**
 * @returns what is worth a word that is not so already; "cannot be done" reasons come as one notice
 */
export const judge = (
  network: Network,
  state: SimState,
  action: SimAction,
  settings: SimSettings = COMMON_SIM_SETTINGS,
): Notice[] => {
  const quiet: SimSettings = { ...settings, frames: 0 };
  const first = simDo(network, state, action, quiet);
  if (!first.ok)
    return [{ code: "cannot-solve", message: `That cannot be done: ${first.problem}.`, parts: [] }];
  const on = ["wait", "blow", "suck"].includes(action.do)
    ? undefined
    : simDo(network, first.done.state, { do: "wait", seconds: LOOK_AHEAD_S }, quiet);
  const found = [
    ...first.done.notices,
    ...(on?.ok ? on.done.notices : []),
    ...sidesWithout(network, first.done.state),
  ];
  // What would happen anyway, without the action, is not its consequence.
  const anyway =
    action.do === "wait"
      ? undefined
      : simDo(network, state, { do: "wait", seconds: LOOK_AHEAD_S }, quiet);
  const known = new Set(
    anyway?.ok ? [...anyway.done.notices, ...sidesWithout(network, state)].map(keyOf) : [],
  );
  const seen = new Set<string>();
  return found.filter((n) => {
    const key = keyOf(n);
    if (known.has(key) || seen.has(key)) return false;
    seen.add(key);
    return true;
  });
};

const keyOf = (n: Notice): string => `${n.code} ${n.parts.join(" ")}`;

/** With product in a jug and something pressing: the outlets that none of it could come to, whichever were opened. */
const sidesWithout = (network: Network, state: SimState): Notice[] => {
  const situation = { network, lineup: state.lineup, apart: state.apart };
  const inJug = liveOpenings(situation).some(
    (o) => o.use === "pickup" && (state.jugs[o.id]?.strength ?? 0) > 0,
  );
  if (!inJug || !isDriven(situation, liveOpenings(situation), { hosesPa: state.hosesPa }))
    return [];
  const outlets = network.openings.filter((o) => o.use === "outlet");
  const raw = new Set(
    network.map.runs.filter((r) => r.service === "raw").flatMap((r) => [r.from.part, r.to.part]),
  );
  const ways = reachOf(
    network,
    {
      ...state.lineup,
      ...Object.fromEntries(
        outlets.flatMap((o) => (o.gate ? [[o.gate.key, o.gate.in[0] ?? "open"]] : [])),
      ),
    },
    outlets
      .filter((o) => o.gate && !raw.has(o.part.id) && kindOfPart(o.part).group === "outlets")
      .map((o) => o.id),
  );
  return nothingAt(
    network,
    state,
    ways.filter((w) => w.source === undefined),
  );
};
