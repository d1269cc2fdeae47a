import { kindOfPart, type Network, positionLabel } from "../../watermap/index.ts";
import { type Action, type Row, rowsOf, type Step } from "../step.ts";

/**
 * Inside a step some rows wait for others: pressure off and the relief lifted before a plug, valves shut before a hose comes off, valves
 * set before a pump runs or air is let in, and what is opened for it left so until it has run.
 */

const HOLES = new Set(["plug", "bowl", "relief", "low-point"]);

/** A hole of a heater, or a bowl: what stands behind it comes out by itself. */
const isHole = (network: Network, key: string): boolean =>
  network.openings.some(
    (o) =>
      o.gate?.key === key &&
      HOLES.has(o.use) &&
      (o.use === "plug" || o.use === "bowl" || kindOfPart(o.part).role.energies !== undefined),
  );

/** Whether a row waits for all before it, and all after it for this. */
const isTurningPoint = (network: Network, action: Action): boolean =>
  action.type === "set-valve"
    ? isHole(network, action.control)
    : action.type !== "confirm" && action.type !== "wait" && action.type !== "pour";

const later = (network: Network, rows: readonly Row[], row: Row): readonly Row[] => {
  const at = rows.indexOf(row);
  const before = rows.slice(0, at);
  return isTurningPoint(network, row.action)
    ? before
    : before.filter((r) => isTurningPoint(network, r.action));
};

/** The first row that must be ticked before this one; nothing where it may be. */
export const waitsFor = (
  network: Network,
  step: Step,
  ticked: readonly string[],
  key: string,
): Row | undefined => {
  const rows = rowsOf(step);
  const row = rows.find((r) => r.key === key);
  return row && later(network, rows, row).find((r) => !ticked.includes(r.key));
};

/** What a row is called where another waits for it. */
export const rowName = (network: Network, action: Action): string => {
  switch (action.type) {
    case "set-valve": {
      const control = network.controls.find((c) => c.key === action.control);
      const to = control ? positionLabel(control, action.position) : action.position;
      return `${action.tag ? `${action.tag} ` : ""}${action.label}: ${to}`;
    }
    case "pump":
      return "run the pump";
    case "drain":
      return "let it drain";
    default:
      return action.label;
  }
};
