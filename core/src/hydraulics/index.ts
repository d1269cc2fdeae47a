export { frictionFactor, type Loss, pipeLaw, type PipeLaw, pipeLoss } from "./friction.ts";
export {
  type HydraulicAnswer,
  type HydraulicElement,
  type HydraulicNetwork,
  type HydraulicNode,
  type HydraulicOutlet,
  type Liquid,
  prepareHydraulics,
  type PreparedHydraulics,
  solveHydraulics,
  BOILS_AT_PA,
} from "./solve.ts";
export { AIR, END_LOSS_K, HOLE_COEFFICIENT, INSIDE, ROUGHNESS_M, TAP_COEFFICIENT } from "./aboard.ts";
