import type { NewRefitEntry, RefitOnFile } from "@uppershed/contract";
import { type Piece, piecesOf, rebase } from "@uppershed/core/refit";
import { compareMaps, type Difference } from "@uppershed/core/survey";
import { readWaterMap, type WaterMap } from "@uppershed/core/watermap";
import { useCallback, useMemo } from "react";
import { uuid } from "../device/uuid.ts";
import { useUnitMap } from "../planning/use-map.ts";
import { problemText, useAddToRefitMutation, useRefitQuery } from "../store/api.ts";

/** A refit as it is looked at: today's map, the proposal brought up to it, and what still differs. */
export interface RefitHere {
  readonly onFile: RefitOnFile;
  readonly today: WaterMap;
  readonly revision: number;
  readonly proposed: WaterMap;
  /** What was changed on both since it was drawn; the proposal's own stays. */
  readonly clashes: readonly string[];
  readonly differences: readonly Difference[];
  readonly pieces: readonly Piece[];
}

const mapOf = (document: unknown): WaterMap | undefined => {
  const read = readWaterMap(document);
  return read.ok ? read.map : undefined;
};

export const useRefit = (
  unitId: string,
  refitId: string,
): { readonly here: RefitHere | undefined; readonly error: unknown } => {
  const { data: onFile, error } = useRefitQuery({ unitId, refitId });
  const { map: today, revision, error: mapError } = useUnitMap(unitId);
  const { document, base } = onFile ?? {};
  const maps = useMemo(() => ({ drawn: mapOf(document), base: mapOf(base) }), [document, base]);
  const brought = useMemo(
    () => (maps.drawn && maps.base && today ? rebase(maps.base, today, maps.drawn) : undefined),
    [maps, today],
  );
  const here = useMemo(() => {
    if (!onFile || !today || !brought || !maps.drawn) return undefined;
    // What no longer fits today's map is shown as it was drawn, and says so: on the bench it can be put right.
    const proposed = brought.ok ? brought.map : { ...maps.drawn, id: today.id };
    return {
      onFile,
      today,
      revision,
      proposed,
      clashes: brought.ok ? brought.clashes : [`it no longer fits it (${brought.problem})`],
      differences: compareMaps(today, proposed),
      pieces: piecesOf(today, proposed),
    };
  }, [onFile, today, revision, brought, maps.drawn]);
  return { here, error: error ?? mapError };
};

/** Adds an entry to a refit; says why it was not taken, or nothing. */
export const useRefitEntry = (
  unitId: string,
  refitId: string,
): ((body: NewRefitEntry["body"]) => Promise<string | undefined>) => {
  const [add] = useAddToRefitMutation();
  return useCallback(
    async (body) => {
      const reply = await add({
        unitId,
        refitId,
        entry: { id: uuid(), at: new Date().toISOString(), body },
      });
      return reply.error ? problemText(reply.error) : undefined;
    },
    [add, unitId, refitId],
  );
};
