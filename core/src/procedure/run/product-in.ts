import type { RunSetup } from "./events.ts";

/** Strength of what is drawn where product is asked for: of a spring or a sanitizing it is water. */
export const productIn = ({ job = "winterize", product }: RunSetup): number =>
  job === "winterize" ? product.strength : 0;
