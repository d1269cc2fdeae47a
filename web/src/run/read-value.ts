import { type Ask } from "@uppershed/core/procedure";
import {
  type Dimension,
  displayUnit,
  measuresOf,
  parseQuantity,
  type UnitBase,
  type UnitSystem,
} from "@uppershed/core/quantity";

const DIMENSION: Record<Ask["kind"], Dimension> = {
  strength: "fraction",
  recovered: "volume",
  temperature: "temperature",
  pressure: "pressure",
  "antifreeze-in": "volume",
  "antifreeze-left": "volume",
  chlorine: "concentration",
  flow: "flow",
};

const UNIT_HINT: Record<Exclude<Dimension, "temperature">, Record<UnitBase, string>> = {
  fraction: { us: "%", metric: "%", imperial: "%" },
  volume: { us: "gal", metric: "L", imperial: "gal" },
  pressure: { us: "psi", metric: "bar", imperial: "psi" },
  length: { us: "ft", metric: "m", imperial: "ft" },
  time: { us: "min", metric: "min", imperial: "min" },
  mass: { us: "lb", metric: "kg", imperial: "lb" },
  flow: { us: "gpm", metric: "L/min", imperial: "imp gpm" },
  power: { us: "Btu/h", metric: "W", imperial: "W" },
  energy: { us: "Btu", metric: "kJ", imperial: "kJ" },
  force: { us: "lbf", metric: "N", imperial: "lbf" },
  "heat per length": { us: "W/ft", metric: "W/m", imperial: "W/ft" },
  concentration: { us: "mg/L", metric: "mg/L", imperial: "mg/L" },
};

export const dimensionOf = (kind: Ask["kind"]): Dimension => DIMENSION[kind];

/** The unit that stands beside the field of a kind of reading. */
export const unitBeside = (kind: Ask["kind"], system: UnitSystem): string => {
  const dimension = DIMENSION[kind];
  return dimension === "temperature"
    ? displayUnit(system, dimension).symbol
    : UNIT_HINT[dimension][measuresOf(system).base];
};

export type ReadValue =
  | { readonly ok: true; readonly si: number; readonly typed: string }
  | { readonly ok: false; readonly problem: string };

/** Reads what was typed for a reading; a bare number takes the unit that stands beside the field. */
export const readValue = (kind: Ask["kind"], words: string, system: UnitSystem): ReadValue => {
  const bare = /^[\s\d.,+\-−/½⅓⅔¼¾⅛⅜⅝⅞]+$/u.test(words) && words.trim() !== "";
  const typed = bare ? `${words.trim()} ${unitBeside(kind, system)}` : words.trim();
  const read = parseQuantity(typed, DIMENSION[kind], system);
  return read.ok ? { ok: true, si: read.quantity.si, typed } : { ok: false, problem: read.problem };
};
