export { planSpring } from "./spring.ts";
export { planSanitize } from "./sanitize.ts";
export { STRONG_ENOUGH } from "./standing.ts";
export { perhapsWinterized } from "./discovery.ts";
export type { Strips } from "./request.ts";
