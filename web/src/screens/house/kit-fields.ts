import type { KitFacts, KitKind } from "@uppershed/core/kit";
import {
  type Dimension,
  formatQuantity,
  inMark,
  measuresOf,
  parseQuantity,
  readNumber,
  type UnitSystem,
} from "@uppershed/core/quantity";

/** What is asked of each kind of thing in the kit, and how it is read and written. */

export interface KitField {
  readonly name: string;
  readonly label: string;
  readonly is:
    | Dimension
    | "words"
    | "day"
    | "number"
    | "volumes"
    | readonly (readonly [string, string])[];
  readonly needed?: true;
  readonly hint?: string;
}

export const KIT_FIELDS: Readonly<Record<KitKind, readonly KitField[]>> = {
  antifreeze: [
    {
      name: "base",
      label: "Made of",
      is: [
        ["propylene-glycol", "Propylene glycol, potable grade"],
        ["alcohol", "Alcohol blend, potable"],
        ["ethylene-glycol", "Ethylene glycol: automotive"],
        ["unknown", "Not known"],
      ],
      needed: true,
    },
    { name: "strength", label: "Strength as sold", is: "fraction", needed: true, hint: "50 %" },
    { name: "burstC", label: "Burst protection by the maker", is: "temperature" },
    { name: "noIceC", label: "No ice to, by the maker", is: "temperature" },
    { name: "jugsM3", label: "Jugs it comes in", is: "volumes", needed: true, hint: "5 L; 20 L" },
    { name: "lot", label: "Lot", is: "words" },
    { name: "price", label: "Price of a jug", is: "number" },
  ],
  bleach: [
    { name: "strength", label: "Strength on the label", is: "fraction", needed: true },
    { name: "openedOn", label: "Opened on", is: "day" },
    { name: "volumeM3", label: "Bottle", is: "volume" },
  ],
  instrument: [
    {
      name: "what",
      label: "What it is",
      is: [
        ["gauge", "Pressure gauge"],
        ["refractometer", "Refractometer"],
        ["logger", "Logger"],
        ["meter", "Meter"],
        ["thermometer", "Thermometer"],
        ["barometer", "Barometer"],
      ],
      needed: true,
    },
    { name: "rangePa", label: "Gauge: full scale", is: "pressure" },
    { name: "stepPa", label: "Gauge or barometer: smallest step", is: "pressure" },
    { name: "stepK", label: "Thermometer: smallest step, K", is: "number" },
    {
      name: "scale",
      label: "Refractometer: its scale",
      is: [
        ["", "not one"],
        ["brix", "Brix"],
        ["percent", "Per cent of glycol"],
        ["freezing-point", "Freezing point"],
      ],
    },
    { name: "calibratedUntil", label: "Calibrated until", is: "day" },
    { name: "certificate", label: "Certificate", is: "words" },
  ],
  socket: [{ name: "size", label: "Size", is: "words", hint: "1-1/16 in, 27 mm" }],
  adapter: [{ name: "size", label: "Sizes and threads", is: "words" }],
  regulator: [
    { name: "size", label: "Threads", is: "words" },
    { name: "setPa", label: "Set to", is: "pressure" },
  ],
  compressor: [
    { name: "deliveryM3S", label: "Delivers, free air", is: "flow" },
    { name: "receiverM3", label: "Receiver", is: "volume" },
    { name: "mostPa", label: "Goes up to", is: "pressure" },
  ],
  "pump-cart": [{ name: "size", label: "Couplings", is: "words" }],
  sealant: [
    { name: "hoursAt20C", label: "Cures at 20 °C, hours", is: "number", needed: true },
    { name: "hoursAt5C", label: "Cures at 5 °C, hours", is: "number" },
    {
      name: "drinkingWater",
      label: "Mark for drinking water",
      is: [
        ["not-known", "Not looked"],
        ["yes", "It carries it"],
        ["no", "It does not"],
      ],
    },
  ],
};

type Read =
  | { readonly ok: true; readonly value: unknown }
  | { readonly ok: false; readonly problem: string };

/** A field as it was typed; nothing typed is nothing known. */
export const readKitField = (field: KitField, typed: string, units: UnitSystem): Read => {
  const text = typed.trim();
  if (text === "")
    return field.needed
      ? { ok: false, problem: "This is needed." }
      : { ok: true, value: undefined };
  if (typeof field.is !== "string" || field.is === "words" || field.is === "day")
    return { ok: true, value: text };
  if (field.is === "number") {
    const found = readNumber(text, measuresOf(units).mark);
    return found.ok && found.length === text.length
      ? { ok: true, value: found.value }
      : { ok: false, problem: found.ok ? `"${text}" is not a number.` : found.problem };
  }
  if (field.is === "volumes") {
    const all = text.split(";").map((piece) => parseQuantity(piece, "volume", units));
    const wrong = all.find((r) => !r.ok);
    return wrong && !wrong.ok
      ? { ok: false, problem: wrong.problem }
      : { ok: true, value: all.flatMap((r) => (r.ok ? [r.quantity.si] : [])) };
  }
  const found = parseQuantity(text, field.is, units);
  return found.ok ? { ok: true, value: found.quantity.si } : { ok: false, problem: found.problem };
};

/** A fact as text for its field. */
export const kitFieldText = (
  field: KitField,
  facts: Readonly<Record<string, unknown>>,
  units: UnitSystem,
): string => {
  const value = facts[field.name];
  if (value === undefined || value === null) return "";
  if (field.is === "volumes")
    return (value as number[]).map((v) => formatQuantity(v, "volume", units)).join("; ");
  // A bottle of 5.25 % is not one of 5.
  if (field.is === "fraction" && typeof value === "number")
    return inMark(`${Number((value * 100).toFixed(2))} %`, units);
  if (typeof value === "number" && typeof field.is === "string" && field.is !== "number")
    return formatQuantity(value, field.is as Dimension, units);
  if (typeof value === "number") return inMark(String(value), units);
  return typeof value === "string" ? value : "";
};

/** A thing in one line: what of it is known. */
export const kitInWords = (facts: KitFacts, units: UnitSystem): string =>
  KIT_FIELDS[facts.kind]
    .flatMap((field) => {
      const text = kitFieldText(field, facts, units);
      if (text === "") return [];
      const named =
        typeof field.is === "string"
          ? text
          : (field.is.find(([value]) => value === text)?.[1] ?? text);
      const label = field.label.toLowerCase();
      return [named.toLowerCase().startsWith(label) ? named : `${label} ${named}`];
    })
    .join("; ");
