export { frictionFactor, type Loss, pipeLaw, pipeLoss } from "./friction.ts";
export {
  BOILS_AT_PA,
  type HydraulicAnswer,
  type HydraulicElement,
  type HydraulicNetwork,
  type HydraulicNode,
  type HydraulicOutlet,
  type Liquid,
} from "./network.ts";
export { prepareHydraulics, solveHydraulics } from "./solve.ts";
export {
  AIR,
  END_LOSS_K,
  HOLE_COEFFICIENT,
  INSIDE,
  ROUGHNESS_M,
  TAP_COEFFICIENT,
} from "./aboard.ts";
