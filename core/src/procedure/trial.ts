import type { SimActionInput } from "../simulation/index.ts";
import type { Action } from "./step.ts";

/** Long enough for anything aboard to run out or through. */
const PATIENCE_S = 4 * 3600;

/**
 * A step's action in the words of a trial: the same deed, done there as time passes. Nothing for what only a person can vouch for.
 * Steps keep words of their own because records hold them.
 * @param strength of the antifreeze in hand @param outM3 what is to come out where it is watched, where strength ends it
 */
export const asTrial = (action: Action, strength: number, outM3: number): SimActionInput[] => {
  switch (action.type) {
    case "set-valve":
      return [{ do: "turn", control: action.control, to: action.position }];
    case "drain":
      return [{ do: "wait", seconds: PATIENCE_S }];
    case "disconnect":
      return [{ do: "undo", run: action.run, end: action.end }];
    case "reconnect":
      return [{ do: "remake", run: action.run, end: action.end }];
    case "pour":
      return [{ do: "pour", into: action.cell, volumeM3: action.volumeM3, strength }];
    case "pump": {
      const seen = action.untilAir === undefined ? { volumeM3: outM3 } : { air: action.untilAir };
      return [{ do: "wait", seconds: PATIENCE_S, until: { at: action.watch, ...seen } }];
    }
    case "supply":
      return [
        {
          do: "hose",
          at: action.inlet,
          ...(action.chlorineMgL === undefined ? {} : { chlorineMgL: action.chlorineMgL }),
        },
        { do: "wait", seconds: PATIENCE_S, until: { at: action.watch, volumeM3: outM3 } },
        { do: "hose", at: action.inlet, pa: 0 },
        ...(action.cap === undefined
          ? []
          : [{ do: "turn" as const, control: action.cap, to: "shut" }]),
      ];
    case "fill":
      return [{ do: "fill", tank: action.cell, volumeM3: action.volumeM3 }];
    case "dose":
      return [
        { do: "fill", tank: action.cell, volumeM3: action.bottleM3 },
        { do: "dose", into: action.cell, chlorineMg: action.chlorineMg },
      ];
    case "blow":
      return [{ do: "blow", at: action.opening, regulatorPa: action.pa }];
    case "suck":
      return [{ do: "suck", from: action.cell }];
    case "push-by-hand": {
      const until =
        action.untilStrength < 1
          ? { until: { at: action.watch, strength: action.untilStrength } }
          : {};
      return [{ do: "push", in: action.cell, volumeM3: action.maxM3, strength, ...until }];
    }
    case "stand":
      return [{ do: "wait", seconds: action.seconds }];
    case "confirm":
    case "wait":
      return [];
  }
};
