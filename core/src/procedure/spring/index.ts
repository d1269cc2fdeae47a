export { planSpring } from "./spring.ts";
export { planSanitize, STRONG_ENOUGH } from "./sanitize.ts";
export { gPerLOf } from "./dose.ts";
export { perhapsWinterized } from "./discovery.ts";
export type { Strips, WaterRequest } from "./request.ts";
