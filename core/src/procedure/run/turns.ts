import { inUseLineup, type Lineup, type Network, positionLabel } from "../../watermap/index.ts";
import type { TurnSaid } from "./said.ts";

/** What stands otherwise than in use, in words. */
export const turnsOf = (network: Network, lineup: Lineup): TurnSaid[] => {
  const use = inUseLineup(network);
  return network.controls
    .filter((c) => c.spec.role !== "check" && (lineup[c.key] ?? "") !== (use[c.key] ?? ""))
    .map((c) => ({
      control: c.key,
      tag: c.part.tag ?? "",
      name: c.spec.name === "main" ? c.part.name : `${c.part.name}, ${c.spec.label.toLowerCase()}`,
      now: positionLabel(c, lineup[c.key] ?? ""),
      inUse: positionLabel(c, use[c.key] ?? ""),
    }));
};
