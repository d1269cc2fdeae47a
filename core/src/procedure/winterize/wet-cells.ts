import { frostVerdict } from "../../contents/index.ts";
import type { Control } from "../../watermap/index.ts";
import type { Context } from "./context.ts";

/** Cells of a side that do not hold the winter low yet and that a stream, of air or of product, could reach. */
export const wetCells = (context: Context, wanted: "fresh" | "raw" = "fresh"): Set<number> => {
  const { request, network, physical } = context;
  const verdict = frostVerdict(network, physical.contents, request.basis, physical.measured);
  return new Set(
    verdict.cells.flatMap((c) => {
      const { form, side } = network.cells[c.cell] ?? {};
      return c.holdsToC !== null &&
        c.holdsToC > request.winterLowC - request.marginC &&
        form !== "vessel" &&
        form !== "trap" &&
        side === wanted
        ? [c.cell]
        : [];
    }),
  );
};

/** Where a control stands now. */
export const stands = (context: Context, control: Control): string =>
  context.physical.lineup[control.key] ?? control.spec.inUse;
