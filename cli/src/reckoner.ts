import { displayUnit, parseQuantity, type UnitSystem } from "@uppershed/core/quantity";
import { CALCULATIONS, type Figure, reckon, type ReckonInput } from "@uppershed/core/reckon";
import type { Answer } from "./flows.ts";

/** The calculations that stand alone, for the command line: figures in SI beside the reader's own units. */

const bad = (problem: string): { ok: false; problem: string } => ({ ok: false, problem });

const SI: Readonly<Record<string, string>> = {
  volume: "m3",
  pressure: "Pa",
  temperature: "°C",
  length: "m",
  time: "s",
  mass: "kg",
  fraction: "",
  flow: "m3/s",
  power: "W",
  energy: "J",
  force: "N",
};

const told = ({ label, value, is, unit }: Figure, units: UnitSystem): object => {
  if (is === "number") return { label, value, unit: unit ?? "" };
  const shown = displayUnit(units, is);
  return {
    label,
    value,
    unit: SI[is],
    shown: (value - shown.offset) / shown.factor,
    shownUnit: shown.symbol,
  };
};

const asked = ({ name, label, is, unit, standard, low, high }: ReckonInput): object => ({
  name,
  label,
  is,
  unit: is === "number" ? (unit ?? "") : SI[is],
  standard,
  low,
  high,
});

/** All calculations with what they ask for. */
export const reckonList = (): object => ({
  calculations: CALCULATIONS.map(({ name, title, inputs }) => ({
    name,
    title,
    inputs: inputs.map(asked),
  })),
});

const read = (input: ReckonInput, text: string, units: UnitSystem): Answer<number> => {
  const plain = Number(text);
  // A number of its own kind, and a share, may stand without a unit.
  if (
    (input.is === "number" || input.is === "fraction") &&
    text.trim() !== "" &&
    Number.isFinite(plain)
  )
    return { ok: true, value: plain };
  if (input.is === "number")
    return bad(`${input.name}: a number is asked for${input.unit ? `, in ${input.unit}` : ""}`);
  const found = parseQuantity(text, input.is, units);
  return found.ok ? { ok: true, value: found.quantity.si } : bad(`${input.name}: ${found.problem}`);
};

/** One calculation: "reckon pipe-loss flow=2gpm length=10ft". */
export const reckonAnswer = (
  name: string | undefined,
  pairs: readonly string[],
  units: UnitSystem,
): Answer<object> => {
  const calculation = CALCULATIONS.find((c) => c.name === name);
  if (!calculation)
    return bad(`there is no calculation "${name ?? ""}"; "shed reckon --list" names them`);
  const given: Record<string, number> = {};
  for (const pair of pairs) {
    const at = pair.indexOf("=");
    const key = pair.slice(0, Math.max(0, at));
    const input = calculation.inputs.find((i) => i.name === key);
    if (!input)
      return bad(
        `"${pair}": ${calculation.name} asks for ${calculation.inputs.map((i) => i.name).join(", ")}`,
      );
    const value = read(input, pair.slice(at + 1), units);
    if (!value.ok) return value;
    given[key] = value.value;
  }
  const result = reckon(calculation, given);
  if (!result.ok) return bad(result.problem);
  return {
    ok: true,
    value: {
      name: calculation.name,
      title: calculation.title,
      answer: told(result.answer, units),
      // What was not said has the usual value: it is no measurement.
      assumed: calculation.inputs
        .filter((i) => given[i.name] === undefined)
        .map((i) => ({
          input: i.name,
          ...told(
            {
              label: i.label,
              value: i.standard,
              is: i.is,
              ...(i.unit === undefined ? {} : { unit: i.unit }),
            },
            units,
          ),
        })),
      also: result.also.map((f) => told(f, units)),
      working: result.working.map((w) => ({ ...told(w, units), formula: w.formula, with: w.with })),
      source: calculation.source,
      ...(calculation.thumb === undefined ? {} : { thumb: calculation.thumb }),
      ...(calculation.caution === undefined ? {} : { caution: calculation.caution }),
    },
  };
};
