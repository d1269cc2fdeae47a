import type { RunBegins } from "@uppershed/core/procedure";
import { useStandingQuery } from "../store/api.ts";

/**
 * How a unit is known to stand: as its last record or visit left it. Whatever begins on it begins from there.
 * @returns null where nobody has written down how it was left; undefined while that is being asked
 */
export const useBegins = (unitId: string): RunBegins | null | undefined => {
  const { data, error } = useStandingQuery({ id: unitId }, { skip: unitId === "" });
  if (data) return data.begins;
  return error === undefined ? undefined : null;
};
