import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  displayUnit,
  type Dimension,
  formatQuantity,
  inUnit,
  type MeasureUnit,
  parseQuantity,
  UNIT_SYSTEMS,
  UNITS,
  type UnitSystem,
} from "./index.ts";

/** Quantities as people type them. Factors: NIST SP 811 Appendix B, from memory. */
const [L, GAL, IMP, PSI, FT, INCH, LB] = [
  1e-3, 3.785411784e-3, 4.54609e-3, 6894.757293168, 0.3048, 0.0254, 0.45359237,
];

type Row = readonly [text: string, dimension: Dimension, expected: number, system?: UnitSystem];

const READ: readonly Row[] = [
  // Litres and their parts.
  ["8.7 L", "volume", 8.7 * L],
  ["8,7 L", "volume", 8.7 * L],
  ["8.7l", "volume", 8.7 * L],
  ["8.7 litres", "volume", 8.7 * L],
  ["8.7 liters", "volume", 8.7 * L],
  ["1 litre", "volume", L],
  [".5 L", "volume", 0.5 * L],
  [",5 L", "volume", 0.5 * L],
  ["½ L", "volume", 0.5 * L],
  ["1½ L", "volume", 1.5 * L],
  ["1 ½ L", "volume", 1.5 * L],
  ["1 1/2 L", "volume", 1.5 * L],
  ["1-1/2 L", "volume", 1.5 * L],
  ["3/4 L", "volume", 0.75 * L],
  ["¾ litre", "volume", 0.75 * L],
  ["250 mL", "volume", 0.25 * L],
  ["250ml", "volume", 0.25 * L],
  ["33 cl", "volume", 0.33 * L],
  ["2 dl", "volume", 0.2 * L],
  ["60 cc", "volume", 0.06 * L],
  ["60 cm3", "volume", 0.06 * L],
  ["60 cm³", "volume", 0.06 * L],
  ["1 m3", "volume", 1],
  ["1 m³", "volume", 1],
  ["2 ft3", "volume", 2 * FT ** 3],
  ["+4 L", "volume", 4 * L],
  ["0.125 L", "volume", 0.125 * L],
  ["0,125 L", "volume", 0.125 * L],
  ["1000 L", "volume", 1],
  ["1 000 L", "volume", 1],
  ["1\u00A0000 L", "volume", 1],
  ["12 500 L", "volume", 12.5],
  ["1 000,5 L", "volume", 1.0005],
  ["1.000,5 L", "volume", 1.0005],
  ["1,000.5 L", "volume", 1.0005],
  ["1,000,000 mL", "volume", 1],
  ["1.000.000 mL", "volume", 1],
  ["1,000 L", "volume", 1, "us"],
  ["1,000 L", "volume", 1, "imperial"],
  ["12,345 L", "volume", 12.345, "us"],
  ["1.000 L", "volume", L, "us"],
  ["1.250 L", "volume", 1.25 * L, "imperial"],
  ["1,5 L", "volume", 1.5 * L, "us"],
  // Gallons and kitchens.
  ["2.3 gal", "volume", 2.3 * GAL, "us"],
  ["2.3 gal", "volume", 2.3 * IMP, "imperial"],
  ["2.3 gallons", "volume", 2.3 * GAL, "us"],
  ["1 gallon", "volume", IMP, "imperial"],
  ["2.3 US gal", "volume", 2.3 * GAL],
  ["2.3 us gallons", "volume", 2.3 * GAL],
  ["2.3 imp gal", "volume", 2.3 * IMP],
  ["2.3 imperial gallons", "volume", 2.3 * IMP],
  ["2.3 uk gal", "volume", 2.3 * IMP],
  ["2½ gal", "volume", 2.5 * GAL, "us"],
  ["5 gal 2 qt", "volume", 5.5 * GAL, "us"],
  ["5 gal 2 qt", "volume", 5.5 * IMP, "imperial"],
  ["5 gal. 2 qt.", "volume", 5.5 * GAL, "us"],
  ["5 gal and 2 qt", "volume", 5.5 * GAL, "us"],
  ["1 gal 1 pt", "volume", 1.125 * GAL, "us"],
  ["1 gal 2 qt 1 pt", "volume", 1.625 * GAL, "us"],
  ["3 qt", "volume", 0.75 * GAL, "us"],
  ["3 quarts", "volume", 0.75 * IMP, "imperial"],
  ["1 US qt", "volume", GAL / 4],
  ["1 pt", "volume", GAL / 8, "us"],
  ["1 pint", "volume", IMP / 8, "imperial"],
  ["1 imp pt", "volume", IMP / 8],
  ["1/4 cup", "volume", GAL / 64],
  ["¼ cup", "volume", GAL / 64],
  ["1 1/2 cups", "volume", (1.5 * GAL) / 16],
  ["2 tbsp", "volume", GAL / 128],
  ["3 tsp", "volume", GAL / 256],
  ["16 fl oz", "volume", GAL / 8, "us"],
  ["20 fl oz", "volume", IMP / 8, "imperial"],
  ["8 US fl oz", "volume", GAL / 16],
  ["5 imp fl oz", "volume", IMP / 32],
  ["1 L 500 mL", "volume", 1.5 * L],
  // Pressure.
  ["55 psi", "pressure", 55 * PSI],
  ["55psi", "pressure", 55 * PSI],
  ["55 psig", "pressure", 55 * PSI],
  ["55 PSI", "pressure", 55 * PSI],
  ["2.8 bar", "pressure", 2.8e5],
  ["2,8 bar", "pressure", 2.8e5],
  ["280 kPa", "pressure", 2.8e5],
  ["1013 mbar", "pressure", 101_300],
  ["1013 hPa", "pressure", 101_300],
  ["101325 Pa", "pressure", 101_325],
  ["101 325 Pa", "pressure", 101_325],
  ["1 atm", "pressure", 101_325],
  ["30 inHg", "pressure", 30 * 3386.389],
  ["29.92 in Hg", "pressure", 29.92 * 3386.389],
  ["760 mmHg", "pressure", 760 * 133.3224],
  ["12 ft of water", "pressure", 12 * FT * 9806.65],
  ["12 feet of water", "pressure", 12 * FT * 9806.65],
  ["12 ftH2O", "pressure", 12 * FT * 9806.65],
  ["10 in of water", "pressure", 10 * INCH * 9806.65],
  ["10 inH2O", "pressure", 10 * INCH * 9806.65],
  ["10 m of water", "pressure", 98_066.5],
  ["10 mH2O", "pressure", 98_066.5],
  // Temperature.
  ["-18 °C", "temperature", -18],
  ["−18 °C", "temperature", -18],
  ["-18C", "temperature", -18],
  ["- 18 C", "temperature", -18],
  ["-18 degC", "temperature", -18],
  ["-18 deg C", "temperature", -18],
  ["-18 Celsius", "temperature", -18],
  ["0 °F", "temperature", -17.7778],
  ["0F", "temperature", -17.7778],
  ["-40 F", "temperature", -40],
  ["212 degF", "temperature", 100],
  ["32 Fahrenheit", "temperature", 0],
  ["4.5 °C", "temperature", 4.5],
  ["4,5 °C", "temperature", 4.5],
  // Length.
  ["1 m", "length", 1],
  ["1.5 metres", "length", 1.5],
  ["1.5 meters", "length", 1.5],
  ["150 cm", "length", 1.5],
  ["1500 mm", "length", 1.5],
  ["1 m 20 cm", "length", 1.2],
  ["5 ft", "length", 5 * FT],
  ["5'", "length", 5 * FT],
  ["5 feet", "length", 5 * FT],
  [`5' 6"`, "length", 5.5 * FT],
  [`5'6"`, "length", 5.5 * FT],
  ["5′ 6″", "length", 5.5 * FT],
  ["5’ 6”", "length", 5.5 * FT],
  ["5 ft 6 in", "length", 5.5 * FT],
  ["5ft 6in", "length", 5.5 * FT],
  ["5' 6", "length", 5.5 * FT],
  [`5' 6-1/2"`, "length", 66.5 * INCH],
  [`5' 6½"`, "length", 66.5 * INCH],
  ["1-1/16 in", "length", (17 / 16) * INCH],
  ["1 1/16 in", "length", (17 / 16) * INCH],
  [`1-1/16"`, "length", (17 / 16) * INCH],
  [`15/16"`, "length", (15 / 16) * INCH],
  ["1½ in", "length", 1.5 * INCH],
  [`1½"`, "length", 1.5 * INCH],
  [`½"`, "length", 0.5 * INCH],
  ["⅜ in", "length", 0.375 * INCH],
  ["3/8 inch", "length", 0.375 * INCH],
  ["27 mm", "length", 0.027],
  ["2 yd", "length", 6 * FT],
  // Time.
  ["90 s", "time", 90],
  ["90 sec", "time", 90],
  ["15 min", "time", 900],
  ["15 minutes", "time", 900],
  ["2 h", "time", 7200],
  ["2 hours", "time", 7200],
  ["1 h 30 min", "time", 5400],
  ["1 hr 30 min", "time", 5400],
  ["1½ h", "time", 5400],
  ["1 min 30 s", "time", 90],
  ["2 days", "time", 172_800],
  ["1 d 12 h", "time", 129_600],
  // Mass.
  ["12 kg", "mass", 12],
  ["500 g", "mass", 0.5],
  ["1 kg 250 g", "mass", 1.25],
  ["25 lb", "mass", 25 * LB],
  ["25 lbs", "mass", 25 * LB],
  ["25 pounds", "mass", 25 * LB],
  ["2 lb 8 oz", "mass", 2.5 * LB],
  ["8 oz", "mass", LB / 2],
  ["2 t", "mass", 2000],
  ["2 tonnes", "mass", 2000],
  ["2 metric tons", "mass", 2000],
  ["2 short tons", "mass", 4000 * LB],
  ["2 long tons", "mass", 4480 * LB],
  ["1,500 lb", "mass", 1500 * LB, "us"],
  // Shares.
  ["32 %", "fraction", 0.32],
  ["32%", "fraction", 0.32],
  ["32 percent", "fraction", 0.32],
  ["8,25 %", "fraction", 0.0825],
  ["8.25%", "fraction", 0.0825],
  // Flow.
  ["11 L/min", "flow", (11 * L) / 60],
  ["11 lpm", "flow", (11 * L) / 60],
  ["2 L/h", "flow", (2 * L) / 3600],
  ["2 lph", "flow", (2 * L) / 3600],
  ["0.2 L/s", "flow", 0.2 * L],
  ["1 m3/h", "flow", 1 / 3600],
  ["3 gpm", "flow", (3 * GAL) / 60, "us"],
  ["3 gpm", "flow", (3 * IMP) / 60, "imperial"],
  ["3 us gpm", "flow", (3 * GAL) / 60],
  ["2.5 cfm", "flow", (2.5 * FT ** 3) / 60],
  ["2.5 scfm", "flow", (2.5 * FT ** 3) / 60],
  // Heat and work.
  ["600 W", "power", 600],
  ["1.4 kW", "power", 1400],
  ["12,000 Btu/h", "power", (12_000 * 1055.05585262) / 3600, "us"],
  ["12000 Btu/h", "power", (12_000 * 1055.05585262) / 3600],
  ["12 000 btuh", "power", (12_000 * 1055.05585262) / 3600],
  ["0.5 W/ft", "heat per length", 0.5 / FT],
  ["10 W/m", "heat per length", 10],
  ["3 kWh", "energy", 1.08e7],
  ["250 kJ", "energy", 2.5e5],
  ["100 Btu", "energy", 105_505.585262],
  ["40 N", "force", 40],
  ["10 lbf", "force", 44.4822],
];

/** What can be read in two ways is asked; what cannot be read is said. */
const NOT: readonly (readonly [string, Dimension, RegExp, UnitSystem?])[] = [
  ["1,000 L", "volume", /can be 1000 or 1 and a bit/u],
  ["1.000 L", "volume", /can be 1000 or 1 and a bit/u],
  ["1,250 L", "volume", /write 1250, or 1\.25/u],
  ["12,000 Btu/h", "power", /can be 12000/u],
  ["2 gal", "volume", /US gal or imp gal/u],
  ["2 qt", "volume", /US qt or imp qt/u],
  ["2 pints", "volume", /US pt or imp pt/u],
  ["16 fl oz", "volume", /US fl oz or imp fl oz/u],
  ["3 gpm", "flow", /US gal\/min or imp gal\/min/u],
  ["2 tons", "mass", /short ton, long ton or t/u],
  ["2 ton", "mass", /short ton, long ton or t/u, "us"],
  ["1,00 0 L", "volume", /.+/u],
  ["1,00,000 L", "volume", /not a number/u],
  ["1.000,500.5 L", "volume", /not a number/u],
  ["12,3456,789 L", "volume", /not a number/u],
  ["1,000", "volume", /needs a unit|can be/u],
  ["8.7", "volume", /needs a unit/u],
  ["8.7 psi", "volume", /is a pressure/u],
  ["8 oz", "volume", /is a mass/u],
  ["5 ft 6 lb", "length", /not one quantity/u],
  ["6 in 5 ft", "length", /not one quantity/u],
  ["20 °C 5 °C", "temperature", /not one quantity/u],
  ["1/0 in", "length", /not a number/u],
  ["lots", "volume", /does not start with a number/u],
  ["", "volume", /does not start with a number/u],
  ["5 hogsheads", "volume", /not a unit/u],
  ["5 litresx", "volume", /not a unit/u],
  ["5 ft plus", "length", /not a unit/u],
];

describe("quantities as people type them", () => {
  it("are two hundred spellings and more", () => {
    expect(READ.length + NOT.length).toBeGreaterThanOrEqual(200);
  });

  const read = READ.map(([text, dimension, si, system]) => ({ text, dimension, si, system }));
  it.each(read)("$text as $dimension is $si", ({ text, dimension, si: expected, system }) => {
    const read = parseQuantity(text, dimension, system);
    expect(read.ok ? "" : read.problem).toBe("");
    if (read.ok)
      expect(Math.abs(read.quantity.si - expected)).toBeLessThanOrEqual(
        Math.max(Math.abs(expected) * 1e-6, 1e-9, dimension === "temperature" ? 1e-3 : 0),
      );
  });

  const not = NOT.map(([text, dimension, problem, system]) => ({
    text,
    dimension,
    problem,
    system,
  }));
  it.each(not)("$text as $dimension is not guessed", ({ text, dimension, problem, system }) => {
    const read = parseQuantity(text, dimension, system);
    expect(read.ok ? `read as ${read.quantity.si}` : read.problem).toMatch(problem);
  });

  it("take the decimal comma where the shop writes so", () => {
    for (const [text, litres] of [
      ["1,000 L", 1],
      ["1.000 L", 1000],
      ["1.000,5 L", 1000.5],
      ["12,5 L", 12.5],
    ] as const)
      expect(parseQuantity(text, "volume", "metric", "comma")).toMatchObject({
        ok: true,
        quantity: { si: litres / 1000 },
      });
  });

  it("are read back as they are written, in every system", () => {
    const dimensions = [
      ...new Set(Object.values<MeasureUnit>(UNITS).map((u) => u.dimension)),
    ] as Dimension[];
    fc.assert(
      fc.property(
        fc.constantFrom(...UNIT_SYSTEMS),
        fc.constantFrom(...dimensions),
        fc.double({ min: -300, max: 50_000, noNaN: true }),
        (system, dimension, shown) => {
          const unit = displayUnit(system, dimension);
          const written = formatQuantity(shown * unit.factor + unit.offset, dimension, system);
          const read = parseQuantity(written, dimension, system);
          expect(read.ok ? "" : `${written}: ${read.problem}`).toBe("");
          if (read.ok)
            expect(Math.abs(inUnit(read.quantity.si, unit) - shown)).toBeLessThanOrEqual(
              0.5 + 1e-6,
            );
        },
      ),
      { seed: 13, numRuns: 500 },
    );
  });
});
