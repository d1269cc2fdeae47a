import { z } from "zod";
import { freezingPointC, strengthForFreezing } from "../fluid/index.ts";
import { dayNumber, monthsBetween } from "../quantity/index.ts";

/** What a workshop owns and works with: products, bottles, instruments, tools. */

export const KIT_KINDS = [
  "antifreeze",
  "bleach",
  "instrument",
  "socket",
  "adapter",
  "regulator",
  "compressor",
  "pump-cart",
  "sealant",
] as const;
export type KitKind = (typeof KIT_KINDS)[number];

export const KIT_WORDS: Readonly<Record<KitKind, string>> = {
  antifreeze: "Antifreeze",
  bleach: "Bleach",
  instrument: "Instrument",
  socket: "Socket or key",
  adapter: "Adapter or hose",
  regulator: "Regulator",
  compressor: "Compressor",
  "pump-cart": "Pump cart",
  sealant: "Sealant or bedding",
};

const INSTRUMENTS = [
  "gauge",
  "refractometer",
  "logger",
  "meter",
  "thermometer",
  "barometer",
] as const;
const ANTIFREEZE_BASES = ["propylene-glycol", "alcohol", "ethylene-glycol", "unknown"] as const;

const day = z.iso.date("a day as 2026-10-14");
const words = (most: number) => z.string().trim().max(most);
const celsius = z.number().min(-90, "colder than any product goes").max(0, "at or below freezing");

/** Not for choice: what may go into a drinking-water system. */
const baseSchema = z.enum(ANTIFREEZE_BASES).superRefine((base, context) => {
  const no =
    base === "ethylene-glycol"
      ? "Automotive antifreeze is poison, and no part of it is ever safe in a drinking-water system. It is not kept here."
      : base === "unknown"
        ? "Read the label first. Only potable-grade propylene glycol, or a potable alcohol blend, may go into a drinking-water system."
        : undefined;
  if (no) context.addIssue({ code: "custom", message: no });
});

const antifreezeSchema = z.strictObject({
  kind: z.literal("antifreeze"),
  base: baseSchema,
  /** Glycol or alcohol by volume as it is sold. */
  strength: z.number().min(0.05, "at least 5 %").max(1, "100 % at most"),
  /** As the maker says. */
  burstC: celsius.optional(),
  noIceC: celsius.optional(),
  jugsM3: z
    .array(z.number().min(0.0005, "half a litre at least").max(0.25, "250 L at most"))
    .min(1, "say in which jugs it comes")
    .max(6),
  lot: words(60).default(""),
  /** Of the first jug size, in the workshop's own money. */
  price: z.number().min(0).max(100_000).optional(),
});

const bleachSchema = z.strictObject({
  kind: z.literal("bleach"),
  /** Sodium hypochlorite by weight as the label says. */
  strength: z.number().min(0.005, "at least half a per cent").max(0.15, "15 % at most"),
  openedOn: day.optional(),
  volumeM3: z.number().min(0.0001).max(0.25).optional(),
});

const instrumentSchema = z.strictObject({
  kind: z.literal("instrument"),
  what: z.enum(INSTRUMENTS),
  /** Of a gauge or a barometer: full scale and smallest step, Pa. */
  rangePa: z.number().min(100).max(1e8).optional(),
  stepPa: z.number().min(0.1).max(1e7).optional(),
  /** Of a thermometer: smallest step, K. */
  stepK: z.number().min(0.001).max(10).optional(),
  /** Of a refractometer: what its scale shows. */
  scale: z.enum(["brix", "percent", "freezing-point"]).optional(),
  calibratedUntil: day.optional(),
  certificate: words(80).default(""),
});

const toolSchema = z.strictObject({
  kind: z.enum(["socket", "adapter", "regulator", "pump-cart"]),
  /** "1-1/16 in, 27 mm"; "3/4 in garden hose to 1/2 in". */
  size: words(80).default(""),
  /** Of a regulator, Pa. */
  setPa: z.number().min(1e4).max(1e6).optional(),
});

const compressorSchema = z.strictObject({
  kind: z.literal("compressor"),
  /** Free air at its working pressure, m3/s. */
  deliveryM3S: z.number().min(1e-5).max(0.1).optional(),
  receiverM3: z.number().min(0).max(1).optional(),
  mostPa: z.number().min(1e5).max(2e6).optional(),
});

const sealantSchema = z.strictObject({
  kind: z.literal("sealant"),
  /** How long it cures before it may get wet or be closed in, h, at 20 °C and at 5 °C, as its maker says. */
  hoursAt20C: z.number().min(0.1).max(2000),
  hoursAt5C: z.number().min(0.1).max(5000).optional(),
  /** Whether it carries the mark for drinking water. */
  drinkingWater: z.enum(["yes", "no", "not-known"]).default("not-known"),
});

export const kitFactsSchema = z.discriminatedUnion("kind", [
  antifreezeSchema,
  bleachSchema,
  instrumentSchema,
  toolSchema,
  compressorSchema,
  sealantSchema,
]);

/**
 * How long a sealant cures at a temperature, h: as its maker says at 20 °C and at 5 °C, between them by equal steps of temperature in its
 * logarithm (Arrhenius, near enough); colder than 5 °C, or colder than 20 °C where nothing is said of 5, nobody knows.
 */
export const curesIn = (
  {
    hoursAt20C,
    hoursAt5C,
  }: { readonly hoursAt20C: number; readonly hoursAt5C?: number | undefined },
  temperatureC: number,
): number | undefined => {
  if (temperatureC >= 20) return hoursAt20C;
  if (hoursAt5C === undefined || temperatureC < 5) return undefined;
  const share = (20 - temperatureC) / 15;
  return hoursAt20C * (Math.max(hoursAt5C, hoursAt20C) / hoursAt20C) ** share;
};
export type KitFacts = z.output<typeof kitFactsSchema>;
export type KitFactsGiven = z.input<typeof kitFactsSchema>;

// What a label says and what the table says of the same mix may differ by so much before it is said (our own).
const LABEL_DIFFERS_K = 6;

/** What is to be said of a thing before it is used; empty where nothing is. */
export const kitWarnings = (facts: KitFacts, today: string, bleachMonths: number): string[] => {
  const said: string[] = [];
  if (facts.kind === "antifreeze" && facts.base === "alcohol")
    said.push(
      "Alcohol blend: it dries and swells rubber seals, burns when warm and undiluted, and a refractometer made for glycol reads it wrong. Plans reckon with glycol's tables, so none is made with it.",
    );
  if (
    facts.kind === "antifreeze" &&
    facts.base === "propylene-glycol" &&
    facts.noIceC !== undefined
  ) {
    const table = freezingPointC(facts.strength);
    if (table.ok && Math.abs(table.value - facts.noIceC) > LABEL_DIFFERS_K) {
      const needs = strengthForFreezing(facts.noIceC);
      said.push(
        `Its label says no ice to {c:${facts.noIceC}}, but the tables give {c:${Math.round(table.value)}} for ${Math.round(facts.strength * 100)} %${needs.ok ? `; {c:${facts.noIceC}} takes ${Math.round(needs.value * 100)} %` : ""}. Is it the burst figure?`,
      );
    }
  }
  if (facts.kind === "bleach") {
    const age = facts.openedOn === undefined ? undefined : monthsBetween(facts.openedOn, today);
    if (age === undefined)
      said.push("When it was opened is not written down: its strength is a guess.");
    else if (age >= bleachMonths)
      said.push(
        `Opened ${age} months ago: it has lost strength. Open a new bottle, or measure it.`,
      );
  }
  if (facts.kind === "instrument") {
    if (facts.calibratedUntil === undefined) said.push("Not known to be calibrated.");
    else if (dayNumber(facts.calibratedUntil) < dayNumber(today))
      said.push(`Calibrated until ${facts.calibratedUntil}: past.`);
  }
  return said;
};

/** Whether plans can be made with it: the tables are propylene glycol's, and end at 60 %. */
export const canBePlannedWith = (facts: KitFacts): boolean =>
  facts.kind === "antifreeze" && facts.base === "propylene-glycol" && facts.strength <= 0.6;

const sizesIn = (text: string): string[] =>
  [...text.toLowerCase().matchAll(/\d+(?:[-\s]\d+\/\d+|\/\d+|\.\d+)?\s*(?:in|mm)\b/gu)].map(([m]) =>
    m.replaceAll(/\s+/gu, " "),
  );

/**
 * Which lines of what is to be carried the workshop has nothing for.
 * A line that names sizes is met by a socket or adapter of one of them; jugs by an antifreeze; a refractometer or thermometer by itself.
 */
export const lackingFor = (
  carry: readonly string[],
  kit: readonly { readonly name: string; readonly facts: KitFacts }[],
): string[] => {
  const owns = (what: string): boolean =>
    kit.some((k) => k.facts.kind === "instrument" && k.facts.what === what);
  const sizes = new Set(
    kit.flatMap((k) =>
      k.facts.kind === "socket" || k.facts.kind === "adapter"
        ? sizesIn(`${k.name} ${k.facts.size}`)
        : [],
    ),
  );
  return carry.filter((line) => {
    if (/^refractometer/iu.test(line)) return !owns("refractometer");
    if (/^thermometer/iu.test(line)) return !owns("thermometer");
    const wanted = sizesIn(line);
    return wanted.length > 0 && !wanted.some((s) => sizes.has(s));
  });
};
