import { EXAMPLE_MAPS } from "../src/examples/index.ts";
import { leftOut } from "../src/testing/left-out.ts";

/** Leaves out each step and row of every demo plan and prints what stands on a sheet for show. npm run --silent figures:left-out */
for (const map of EXAMPLE_MAPS)
  for (const method of ["antifreeze", "air-antifreeze", "air"] as const) {
    const { steps, rows, forShow } = leftOut(map, method);
    console.log(JSON.stringify({ unit: map.name, method, steps, rows, forShow }));
  }
