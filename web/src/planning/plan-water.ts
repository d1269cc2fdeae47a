import { type Job, type Plan, planSanitize, planSpring } from "@uppershed/core/procedure";

/** Plans of a spring or a sanitizing: fetched when one is wanted. */
export const planWater = (
  job: Exclude<Job, "winterize">,
  request: Parameters<typeof planSpring>[0],
): Plan => (job === "spring" ? planSpring(request) : planSanitize(request));
