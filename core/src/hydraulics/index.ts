export { frictionFactor, type Loss, pipeLaw, type PipeLaw, pipeLoss } from "./friction.ts";
export {
  GRAVITY,
  type HydraulicAnswer,
  type HydraulicElement,
  type HydraulicNetwork,
  type HydraulicNode,
  type HydraulicOutlet,
  type Liquid,
  solveHydraulics,
} from "./solve.ts";
export { COMMON_FLOW_SETTINGS, cushionPa, type FlowSettings, mapFlows, type MapFlows, mapHydraulics, type MapHydraulics, presses } from "./of-map.ts";
export { isDriven, isFresh, liveFlows, type LiveFlows } from "./live.ts";
