export { flag, num } from "../kind.ts";
export * from "./parts.ts";
