import { judge, simStart } from "../../simulation/index.ts";
import { liveOpenings } from "../../watermap/index.ts";
import { situationOf } from "../../contents/index.ts";
import { rowsOf } from "../step.ts";
import type { RunState } from "./state.ts";
import { lineupNow } from "./said-now.ts";

/**
 * What would come of turning the valve of a row now, before the hand moves: found by doing it on a copy of the unit as it stands and letting
 * two minutes pass. Nothing where nothing would, and for rows that turn nothing.
 */
export const turnSays = (state: RunState, row: string): string[] => {
  const [step] = state.todo;
  const action = step && rowsOf(step).find((r) => r.key === row)?.action;
  if (action?.type !== "set-valve") return [];
  const { network, physical, setup } = state;
  const lineup = lineupNow(state);
  const pickups = liveOpenings(situationOf(network, { ...physical, lineup })).filter(
    (o) => o.use === "pickup",
  );
  const start = {
    ...simStart(network, { lineup, contents: physical.contents }),
    apart: physical.apart,
    jugs: Object.fromEntries(pickups.map((o) => [o.id, { strength: setup.product.strength }])),
  };
  return judge(network, start, {
    do: "turn",
    control: action.control,
    to: action.position,
  }).map((n) => n.message);
};
