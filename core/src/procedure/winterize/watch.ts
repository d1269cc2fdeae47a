import { type Drive, findFlow, type Flow, situationOf } from "../../contents/index.ts";
import { type Control, roleOf } from "../../watermap/index.ts";
import type { Ask } from "../step.ts";
import { houseOf, type Context } from "./context.ts";

/**
 * What would leave, and how much lies on the way, if one more control were opened and the drive ran.
 * @returns the opening to watch and the volume of the way without vessels, or nothing if no flow would come of it
 */
export const watchedBy = (
  context: Context,
  control: Control,
  drive: Drive,
  position = "open",
):
  | { watch: string; wayM3: number; cells: number[]; flow: Flow; order: readonly number[] }
  | undefined => {
  const lineup = {
    ...context.physical.lineup,
    [control.key]: position,
    ...(drive.kind === "pump" ? { [drive.switchKey]: "on" } : {}),
  };
  const situation = situationOf(context.network, { ...context.physical, lineup });
  const found = findFlow(situation, drive);
  if (!found.ok) return undefined;
  const leaving = found.flow.opening.find(
    (o) => o.share > 0.01 && o.at.opening?.part.id === control.part.id,
  );
  if (!leaving) return undefined;
  const cells = found.flow.order.filter((c) => {
    const part = context.network.cells[c]?.part;
    return !(part && roleOf(part).vessel);
  });
  const wayM3 = cells.reduce((sum, c) => sum + (context.network.cells[c]?.capacityM3 ?? 0), 0);
  return { watch: leaving.at.id, wayM3, cells, flow: found.flow, order: found.flow.order };
};

/**
 * What is asked where product is watched: its strength, which stands for the cell that it is read at, the cartridge of a mixer's side.
 * @param watch id of the opening
 */
export const strengthAsk = (
  context: Context,
  { key, part, spec }: Control,
  watch: string,
  expected: number,
): Ask => {
  const { cells, cellIndex, openings } = context.network;
  const at = cellIndex.get(`${part.id}:${spec.name}`) ?? openings.find((o) => o.id === watch)?.cell;
  const cell = at === undefined ? undefined : cells[at]?.id;
  return {
    key: `strength:${key}`,
    kind: "strength",
    label: spec.role === "outlet" ? "Strength at the outlet" : "Strength of what runs out",
    ...(cell ? { cell } : {}),
    required: houseOf(context).strengthEverywhere,
    expected,
  };
};
