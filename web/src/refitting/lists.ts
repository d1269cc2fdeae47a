import type { RefitKitOnFile } from "@uppershed/contract";
import { INCH_M, type UnitSystem } from "@uppershed/core/quantity";
import { writeTable } from "@uppershed/core/formats";

/** The lists of a refit as files: what is bought, and how the pipe is cut. Lengths in metres, money in the workshop's own. */

/** A length as it is marked on a pipe: to the centimetre, or to a tenth of an inch. */
export const cutLength = (m: number, system: UnitSystem): string =>
  system === "metric" ? `${m.toFixed(2)} m` : `${(m / INCH_M).toFixed(1)} in`;

export const shoppingCsv = ({ lines }: RefitKitOnFile): string =>
  writeTable(
    ["what", "count", "unit", "each", "in all", "key"],
    lines.map((l) => [
      l.label,
      String(l.count),
      l.unit,
      l.each === null ? "" : l.each.toFixed(2),
      l.sum === null ? "" : l.sum.toFixed(2),
      l.key,
    ]),
  );

export const cutsCsv = ({ pipes }: RefitKitOnFile): string =>
  writeTable(
    ["pipe", "from", "stock m", "piece", "length m", "left m"],
    pipes.flatMap((p) => [
      ...p.plan.tooLong.map((piece) => [
        p.label,
        "longer than any roll",
        "",
        piece.name,
        piece.lengthM.toFixed(2),
        "",
      ]),
      ...p.plan.laid.flatMap((l, i) =>
        l.pieces.map((piece) => [
          p.label,
          `${l.isRest ? "rest" : "new"} ${i + 1}`,
          l.lengthM.toFixed(2),
          piece.name,
          piece.lengthM.toFixed(2),
          l.leftM.toFixed(2),
        ]),
      ),
    ]),
  );
