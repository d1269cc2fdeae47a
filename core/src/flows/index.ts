export { COMMON_FLOW_SETTINGS, type FlowSettings, presses } from "./flow-settings.ts";
export { cushionPa } from "./standing-liquid.ts";
export { mapHydraulics, type MapHydraulics, wetCells } from "./map-hydraulics.ts";
export { mapFlows, type MapFlows } from "./map-flows.ts";
export { cushionsAtRest } from "./cushions.ts";
export { isDriven, isFresh, liveFlows, type LiveFlows } from "./live-flows.ts";
