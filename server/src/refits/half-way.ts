import { piecesOf } from "@uppershed/core/refit";
import { surveyMap } from "@uppershed/core/survey";
import { Refused } from "../errors.ts";
import type { Scope } from "../scope.ts";
import { refitMaps, refitsOfUnit } from "./store.ts";

/** A unit that is half-way through a refit is put back into use only if its map as it stands now is sound: no end open, nothing that no source reaches. */
export const refuseHalfWay = async (scope: Scope, unitId: string): Promise<void> => {
  for (const { id, name, withdrawnAt, unitId: of } of await refitsOfUnit(scope, unitId)) {
    if (withdrawnAt !== null) continue;
    const maps = await refitMaps(scope, of, id).catch((error: unknown) => {
      // What no longer fits its unit's map is not half-way on it.
      if (error instanceof Refused) return undefined;
      throw error;
    });
    if (!maps || maps.refit.adopted.length === 0) continue;
    if (piecesOf(maps.today, maps.proposed).length === 0) continue;
    const wrong = surveyMap(maps.today).problems.filter((p) => p.severity === "wrong");
    if (wrong.length > 0)
      throw new Refused(
        "conflict",
        `Half-way through "${name}" it is not put back into use: ${wrong
          .slice(0, 3)
          .map((p) => p.message)
          .join(" ")}`,
      );
  }
};
