import type { Workshop } from "@uppershed/contract";
import type { RunSetup } from "@uppershed/core";

/** The house's settings for a winterizing where nobody has said otherwise. */
export const houseSetup = (workshop: Pick<Workshop, "winterLowC">): RunSetup => ({
  method: "antifreeze",
  winterLowC: workshop.winterLowC,
  marginC: 5,
  basis: "by-part",
  product: { name: "Propylene glycol antifreeze", strength: 0.5, jugM3: 0.005 },
  trapDoseM3: 0.0005,
});
