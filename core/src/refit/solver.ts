import type { Solve } from "./cuts.ts";

/** What is used of the solver: one model in, its values out. */
export interface LoadedSolver {
  readonly solve: (
    model: string,
    options?: Readonly<Record<string, unknown>>,
  ) => {
    readonly Status: string;
    readonly Columns: Readonly<Record<string, { readonly Primal?: number } | object>>;
  };
}

// A cut list is not worth more of anybody's time, s.
const LONGEST_S = 3;

/** HiGHS as a cut list asks for it. */
export const solverOf =
  (loaded: LoadedSolver): Solve =>
  (model) => {
    const found = loaded.solve(model, { time_limit: LONGEST_S, output_flag: false });
    return found.Status === "Optimal"
      ? new Map(
          Object.entries(found.Columns).map(([name, column]) => [
            name,
            "Primal" in column ? Number(column.Primal) : 0,
          ]),
        )
      : undefined;
  };
