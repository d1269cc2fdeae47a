export * from "./people.ts";
export * from "./problems.ts";
export * from "./runs.ts";
export * from "./units.ts";
export * from "./visits.ts";
export * from "./parts.ts";
export * from "./notes.ts";
export * from "./looks.ts";
