export * from "./contents/index.ts";
export { EXAMPLE_MAPS } from "./examples/index.ts";
export * from "./fluid/index.ts";
export * from "./procedure/index.ts";
export * from "./quantity/index.ts";
export * from "./watermap/index.ts";
