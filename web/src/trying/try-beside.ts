import {
  contentsToStart,
  judge,
  type Notice,
  type SimAction,
  simDo,
  simStart,
  type SimState,
  type SimStep,
  type StartContents,
} from "@uppershed/core/simulation";
import { buildNetwork, type Lineup, type WaterMap } from "@uppershed/core/watermap";

/** What is tried on a map is worked out beside the screen. */
const LOOK_AHEAD_S = 120;

export const beside = {
  begin: (map: WaterMap, start: StartContents, lineup: Lineup): SimState => {
    const network = buildNetwork(map);
    return simStart(network, { lineup, contents: contentsToStart(network, start) });
  },
  act: (map: WaterMap, state: SimState, action: SimAction): SimStep =>
    simDo(buildNetwork(map), state, action),
  /** What would come of letting a little time pass as things stand. */
  ahead: (map: WaterMap, state: SimState): Notice[] =>
    judge(buildNetwork(map), state, { do: "wait", seconds: LOOK_AHEAD_S }),
};

export type TryBeside = typeof beside;
