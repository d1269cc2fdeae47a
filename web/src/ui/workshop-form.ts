import { parseQuantity, type UnitSystem } from "@uppershed/core/quantity";
import { z } from "zod";

/** How a workshop measures, in words. */
export const UNITS_WORDS: Readonly<Record<UnitSystem, string>> = {
  metric: "litres, metres, bar, °C",
  us: "US gallons, feet, psi, °F",
  imperial: "imperial gallons, feet, psi, °C",
};

/** The workshop's own facts as they are typed; the winter low is read in the units that are chosen. */
export const workshopFormSchema = z
  .object({
    name: z.string().trim().min(1, "Give the workshop a name.").max(80),
    place: z.string().trim().max(80),
    units: z.enum(["metric", "us", "imperial"]),
    winterLow: z.string().trim().min(1, "How cold does it get?"),
  })
  .transform(({ winterLow, ...rest }, context) => {
    // A bare figure is in the degrees that are chosen.
    const bare = /^[-−+]?[\d.,]+$/u.test(winterLow);
    const words = bare ? `${winterLow} ${rest.units === "us" ? "°F" : "°C"}` : winterLow;
    const read = parseQuantity(words, "temperature", rest.units);
    const low = read.ok ? read.quantity.si : Number.NaN;
    if (read.ok && low >= -50 && low <= 0) return { ...rest, winterLowC: low };
    context.addIssue({
      code: "custom",
      path: ["winterLow"],
      message: read.ok
        ? "At or below freezing, and no lower than −50 °C, where the antifreeze tables end."
        : read.problem,
    });
    return z.NEVER;
  });
