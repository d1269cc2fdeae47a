import {
  type Dimension,
  fillIn,
  formatParts,
  formatQuantity,
  type UnitSystem,
} from "@uppershed/core/quantity";
import { useMemo } from "react";
import { useMeQuery } from "../store/api.ts";

export interface Units {
  readonly system: UnitSystem;
  readonly q: (si: number, dimension: Dimension) => string;
  readonly parts: (si: number, dimension: Dimension) => { value: string; unit: string };
  /** Sets the quantities of a text in the workshop's units. */
  readonly text: (text: string) => string;
  /** What a unit holds to; "no limit" where nothing aboard has one. */
  readonly holds: (celsius: number | null) => string;
}

/** The workshop's units, for everything shown. */
export const useUnits = (): Units => {
  const { data } = useMeQuery();
  const system = data?.workshop.units ?? "metric";
  return useMemo(
    () => ({
      system,
      q: (si, dimension) => formatQuantity(si, dimension, system),
      parts: (si, dimension) => formatParts(si, dimension, system),
      text: (text) => fillIn(text, system),
      holds: (celsius) =>
        celsius === null ? "no limit" : formatQuantity(celsius, "temperature", system),
    }),
    [system],
  );
};
