export { planSpring } from "./spring.ts";
export { planSanitize, STRONG_ENOUGH } from "./sanitize.ts";
export { perhapsWinterized } from "./discovery.ts";
export type { Strips } from "./request.ts";
