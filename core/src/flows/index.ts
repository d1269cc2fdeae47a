export {
  COMMON_FLOW_SETTINGS,
  cushionPa,
  type FlowSettings,
  mapFlows,
  type MapFlows,
  mapHydraulics,
  type MapHydraulics,
  presses,
  wetCells,
} from "./map-flows.ts";
export { cushionsAtRest } from "./cushions.ts";
export { isDriven, isFresh, liveFlows, type LiveFlows } from "./live-flows.ts";
