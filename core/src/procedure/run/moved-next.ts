import { actOnce } from "../act.ts";
import { productIn } from "./product-in.ts";
import type { RunState } from "./state.ts";

/** The runs of the map in which liquid will move when the step in hand is done, found by doing it on the map. */
export const runsMovedNext = (state: RunState): Set<string> => {
  const moved = new Set<string>();
  let { physical } = state;
  for (const action of state.todo[0]?.actions ?? []) {
    const effect = actOnce(state.network, physical, action, productIn(state.setup));
    for (const cell of effect.push?.swept ?? []) {
      const run = state.network.cells[cell]?.run;
      if (run) moved.add(run.id);
    }
    physical = effect.physical;
  }
  return moved;
};
