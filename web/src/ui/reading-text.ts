import type { Reading } from "@uppershed/contract";
import { type Dimension, type UnitSystem } from "@uppershed/core/quantity";
import { showFigure } from "@uppershed/core/reckon";

const KNOWN = new Set(["length", "volume", "pressure", "temperature", "fraction"]);

/** A reading as it was typed, or in the workshop's units. */
export const readingText = (
  r: Pick<Reading, "typed" | "dimension" | "value">,
  system: UnitSystem,
): string => {
  if (r.typed) return r.typed;
  if (KNOWN.has(r.dimension))
    return showFigure({ value: r.value, is: r.dimension as Dimension }, system);
  return `${r.value} ${r.dimension === "volts" ? "V" : r.dimension === "minutes" ? "min" : ""}`.trim();
};
