import { PSI_PA } from "../quantity/index.ts";
import { amountM3, type Filled } from "./held.ts";
import { type OutcomeName, outcomeOf, type PressureTest } from "./record.ts";
import { aDay } from "./words.ts";

/** What a test came to, in words for whoever owns the unit; quantities as marks for the reader's units. */

const DIGITS = 2;
// A pump starts again 15 to 20 psi under its cut-out (common practice, no source).
const BAND_PA = 17.5 * PSI_PA;

/**
 * What a pump says with every tap shut: how fast it leaks, from what the lines give between cut-out and cut-in over the time between two
 * starts, and whether it is the house or the pump's own check, told apart by the valve behind it.
 */
export const pumpRunInWords = (
  test: Pick<PressureTest, "plan" | "pumpRun">,
): { readonly words: string; readonly leakM3S?: number } | undefined => {
  const { pumpRun, plan } = test;
  if (!pumpRun) return undefined;
  if (!pumpRun.stops)
    return {
      words:
        "The pump does not stop: an outlet or a drain stands open, the tank is empty, it draws air, or its switch is wrong.",
    };
  if (pumpRun.intervalS === undefined) return { words: "The pump stops and keeps silent." };
  const at = (pressurePa: number): Filled => ({
    atS: 0,
    pressurePa,
    temperatureC: 20,
    barometerPa: 101_325,
  });
  const high = at(plan.pressurePa);
  const given =
    amountM3(plan.held, high, high) -
    amountM3(plan.held, at(Math.max(0, plan.pressurePa - BAND_PA)), high);
  const leakM3S = given / pumpRun.intervalS;
  const where = {
    "not-tried":
      "Shut the valve behind the pump: silent then, it is the house; not so, its own check.",
    silent: "With the valve behind it shut it is silent: the leak is in the house.",
    "starts-again":
      "With the valve behind it shut it starts all the same: its own check passes back to the tank.",
  }[pumpRun.behindValve];
  return {
    words: `It starts by itself every {s:${Math.round(pumpRun.intervalS)}}, about ${aDay(leakM3S, DIGITS)}. ${where}`,
    leakM3S,
  };
};

const IN_WORDS: Readonly<Record<OutcomeName, string>> = {
  running: "still running",
  tight: "tight",
  leaking: "leaking",
  settling: "settling, to be held again",
  "cannot-tell": "not to be told from this test",
};

/** What a test came to, for whoever owns the unit; quantities as marks for the reader's units. */
export const testInWords = (test: PressureTest): string[] => {
  const { plan, ended } = test;
  const outcome = outcomeOf(test);
  const found = ended?.concluded;
  const pumped = pumpRunInWords(test);
  const seconds = (test.readings.at(-1)?.atS ?? 0) - (test.readings[0]?.atS ?? 0);
  return [
    `${plan.title}: ${IN_WORDS[outcome]}.`,
    ...(seconds > 0
      ? [
          `Held {s:${Math.round(seconds)}} from {g:${plan.pressurePa}}, ${test.readings.length} readings, ${test.gauge.name}.`,
        ]
      : []),
    ...(found && outcome === "leaking"
      ? [
          `It lost between ${aDay(found.leak.low, DIGITS)} and ${aDay(found.leak.high, DIGITS)} of ${plan.held.medium === "air" ? "free air" : "water"}.`,
        ]
      : []),
    ...(found
      ? [`The smallest leak that it would have shown: ${aDay(found.smallestDetectable, DIGITS)}.`]
      : []),
    ...(pumped ? [pumped.words] : []),
    ...(test.leakAt ? [`The place: ${test.leakAt.label}.`] : []),
    ...(ended?.early ? [`It was ended before its time: ${ended.early}.`] : []),
    ...(plan.leftOut.length > 0
      ? [`It says nothing of: ${plan.leftOut.join(", ").toLowerCase()}.`]
      : []),
    ...(test.isSimulated ? ["Its readings were simulated: it proves nothing."] : []),
  ];
};
