import type { Workshop } from "@uppershed/contract";
import { type RunSetup, standardSetup } from "@uppershed/core/procedure";

/** The house's settings for a winterizing where nobody has said otherwise. */
export const houseSetup = (workshop: Pick<Workshop, "winterLowC">): RunSetup =>
  standardSetup(workshop.winterLowC);
