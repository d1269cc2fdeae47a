import type { Visit } from "@uppershed/contract";
import { useVisitsQuery } from "../store/api.ts";

/** Years of a unit's life, in one span that never ends. */
export const EVER = { from: "2000-01-01T00:00:00.000Z", to: "2100-01-01T00:00:00.000Z" } as const;

/** The visit that a unit is here for: the one named, or the newest that has come and has not gone. */
export const useVisitHere = (unitId: string, named: string | null): Visit | undefined => {
  const { data } = useVisitsQuery({ ...EVER, unit: unitId, here: "yes" });
  return data?.find((v) => v.id === named) ?? data?.at(-1);
};
