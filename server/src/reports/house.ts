import type { ReportData } from "@uppershed/contract";
import type { Scope } from "../scope.ts";

/** What a report says of the workshop. */
export const houseOf = async (scope: Scope): Promise<ReportData["workshop"]> => {
  const { name, place, units } = await scope.workshop();
  return { name, place, units };
};
