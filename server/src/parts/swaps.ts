import type { Swap } from "./register.ts";
import type { Scope } from "../scope.ts";
import { noteEntry } from "../register/history.ts";
import { refreshState, standingOf } from "../standing/standing.ts";

/**
 * A part that was exchanged was opened, and the unit's state knows it; not where it was fitted before the record that the state rests on,
 * and only its day was learnt since.
 */
export const noteSwaps = async (
  scope: Scope,
  unitId: string,
  personId: string,
  swaps: readonly Swap[],
): Promise<void> => {
  if (swaps.length === 0) return;
  const { standing } = await standingOf(scope, unitId);
  const since = standing.at?.slice(0, 10) ?? "";
  for (const { partId, name, fittedOn } of swaps) {
    if (fittedOn !== null && fittedOn < since) continue;
    await noteEntry(scope, {
      unitId,
      personId,
      entry: {
        kind: "opened",
        at: new Date().toISOString(),
        ids: [partId],
        why: `${name} exchanged`,
      },
    });
  }
  await refreshState(scope, unitId);
};
