import {
  controlKey,
  inUseLineup,
  type Lineup,
  type Network,
  positionLabel,
} from "../../watermap/index.ts";
import type { Physical } from "../physical.ts";

/** Something left in a way that spring must know of. */
export interface LooseEnd {
  readonly id: string;
  readonly text: string;
  /** Must be tagged before the job can be closed: a pipe end undone, a plug out, a jug hose in place. */
  readonly mustTag: boolean;
}

/** What differs from use and would be forgotten, read from the lineup and the undone ends. */
export const looseEnds = (
  network: Network,
  physical: Pick<Physical, "apart">,
  lineup: Lineup,
): LooseEnd[] => {
  const use = inUseLineup(network);
  const name = (id: string): string => network.map.parts.find((p) => p.id === id)?.name ?? id;
  const undone = physical.apart.map((end) => {
    const run = network.map.runs.find((r) => r.id === end.run);
    const at = run ? name(run[end.end].part) : end.run;
    return {
      id: `${end.run}:${end.end}`,
      text: `Line undone at the ${at.toLowerCase()}`,
      mustTag: true,
    };
  });
  const turned = network.controls.flatMap((control) => {
    const now = lineup[control.key] ?? control.spec.inUse;
    if (now === (use[control.key] ?? control.spec.inUse)) return [];
    const open =
      control.spec.role === "plug" ||
      control.spec.role === "cap" ||
      control.spec.role === "bowl" ||
      control.spec.role === "hose";
    const label =
      control.spec.name === "main"
        ? control.part.name
        : `${control.part.name}, ${control.spec.label.toLowerCase()}`;
    return [
      {
        id: controlKey(control.part.id, control.spec.name),
        text: `${control.part.tag ? `${control.part.tag} ` : ""}${label}: ${positionLabel(control, now)}`,
        mustTag: open,
      },
    ];
  });
  return [...undone, ...turned];
};
