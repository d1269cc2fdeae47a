import type { UnitId } from "@uppershed/contract";
import type { RefitHere } from "../../refitting/use-refit.ts";

/** What every view of a refit is given. */
export interface OfRefit {
  readonly unitId: UnitId;
  readonly refitId: string;
  readonly here: RefitHere;
  readonly mayWork: boolean;
}
