import type { Job } from "@uppershed/core/procedure";
import { addDays, startOfDay } from "date-fns";
import { useMemo, useState } from "react";
import { useVisitsQuery } from "../store/api.ts";

/**
 * The visit that work belongs to: the one named, or one that the unit is here for and that asks for it.
 * @param job asked for; a winterizing belongs to any visit of today that has no run yet
 */
export const useVisitFor = (unitId: string, job: Job, named: string | null): string | null => {
  const [today] = useState(() => startOfDay(new Date()).getTime());
  const span = useMemo(
    () => ({
      from: new Date(today).toISOString(),
      to: addDays(today, 1).toISOString(),
      unit: unitId,
      // What soaks has often been here since before today.
      ...(job === "winterize" ? {} : { here: "yes" as const }),
    }),
    [today, unitId, job],
  );
  const { data = [] } = useVisitsQuery(span);
  const isHere = data.filter((v) => v.state !== "ready" && v.state !== "gone");
  return (
    named ??
    isHere.find((v) => (job === "winterize" ? v.run === null : v.jobs.includes(job)))?.id ??
    null
  );
};
