import { readWaterMap, type WaterMap } from "@uppershed/core/watermap";
import { useMemo } from "react";
import { useMapQuery } from "../store/api.ts";

/** A unit's map, read by core's own reader: what the server sends is not trusted either. */
export const useUnitMap = (
  unitId: string,
): { map: WaterMap | undefined; revision: number; error: unknown } => {
  const { data, error } = useMapQuery(unitId, { skip: unitId === "" });
  const read = useMemo(() => (data ? readWaterMap(data.document) : undefined), [data]);
  return {
    map: read?.ok ? read.map : undefined,
    revision: data?.revision ?? 0,
    error:
      read && !read.ok ? { data: { error: { message: "This unit's map is not sound." } } } : error,
  };
};
