import {
  DATE_STYLES,
  displayUnit,
  formatQuantity,
  measuresOf,
  parseQuantity,
  systemOf,
  UNIT_BASES,
  type UnitBase,
} from "@uppershed/core/quantity";
import type { Workshop } from "@uppershed/contract";
import { z } from "zod";

/** How a workshop measures, in words; degrees are chosen apart. */
export const UNITS_WORDS: Readonly<Record<UnitBase, string>> = {
  metric: "litres, metres, bar",
  us: "US gallons, feet, psi",
  imperial: "imperial gallons, feet, psi",
};

/** The workshop's own facts as they are typed; the winter low is read in the units that are chosen. */
export const workshopFormSchema = z
  .object({
    name: z.string().trim().min(1, "Give the workshop a name.").max(80),
    place: z.string().trim().max(80),
    base: z.enum(UNIT_BASES),
    degrees: z.enum(["C", "F"]),
    mark: z.enum(["point", "comma"]),
    dates: z.enum(DATE_STYLES),
    winterLow: z.string().trim().min(1, "How cold does it get?"),
  })
  .transform(({ winterLow, base, degrees, mark, ...rest }, context) => {
    const units = systemOf(base, degrees, mark);
    // A bare figure is in the degrees that are chosen.
    const bare = /^[-−+]?[\d.,]+$/u.test(winterLow);
    const words = bare ? `${winterLow} ${displayUnit(units, "temperature").symbol}` : winterLow;
    const read = parseQuantity(words, "temperature", units);
    const low = read.ok ? read.quantity.si : Number.NaN;
    if (read.ok && low >= -50 && low <= 0) return { ...rest, units, winterLowC: low };
    context.addIssue({
      code: "custom",
      path: ["winterLow"],
      message: read.ok
        ? "At or below freezing, and no lower than −50 °C, where the antifreeze tables end."
        : read.problem,
    });
    return z.NEVER;
  });

export type WorkshopTyped = z.input<typeof workshopFormSchema>;

/** What whoever sets up probably writes: a decimal comma where this device's own numbers have one. */
const markHere = (): "point" | "comma" =>
  new Intl.NumberFormat().format(1.5).includes(",") ? "comma" : "point";

export const NEW_WORKSHOP = (): WorkshopTyped => ({
  name: "",
  place: "",
  base: "metric",
  degrees: "C",
  mark: markHere(),
  dates: "day-month-year",
  winterLow: "",
});

/** A workshop's facts as they stand in its form. */
export const workshopTyped = (workshop: Workshop): WorkshopTyped => {
  const { base, degrees, mark } = measuresOf(workshop.units);
  return {
    name: workshop.name,
    place: workshop.place,
    base,
    degrees,
    mark: mark ?? "point",
    dates: workshop.dates,
    winterLow: formatQuantity(workshop.winterLowC, "temperature", workshop.units),
  };
};
