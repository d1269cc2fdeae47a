import type { KitFacts } from "@uppershed/core/kit";
import { kit, places, ruleRevisions } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { demoId } from "./winterizing.ts";

/** The made-up workshop's places, kit and rules. */

const PLACES = [
  {
    name: "Upper yard",
    kind: "yard",
    winterLowC: -18,
    firstFrost: "10-14",
    lastFrost: "05-02",
    heightM: 212,
    wasteTo: "the yard's own drain to the sewer",
    antifreezeTo: "the drum by bay 1; nothing into the basin",
    chlorineTo: "the sewer, thinned; never the basin",
  },
  {
    name: "Upper basin",
    kind: "mooring",
    winterLowC: -18,
    firstFrost: "10-21",
    lastFrost: "04-24",
    heightM: 208,
    wasteTo: "pump-out at stage 1",
    antifreezeTo: "caught and carried to the yard's drum",
    chlorineTo: "pump-out at stage 1",
  },
  {
    name: "Reservoir moorings",
    kind: "mooring",
    winterLowC: -14,
    firstFrost: "11-02",
    lastFrost: "04-11",
    heightM: 240,
    wasteTo: "pump-out at the dam",
    antifreezeTo: "caught; the reservoir is drunk from",
    chlorineTo: "nowhere here: back in the yard",
  },
  {
    name: "Dinghy park",
    kind: "customers",
    winterLowC: -20,
    firstFrost: "10-08",
    lastFrost: "05-10",
    heightM: 305,
    wasteTo: "",
    antifreezeTo: "carried away",
    chlorineTo: "",
  },
] as const;

export const demoPlaceId = (name: (typeof PLACES)[number]["name"]): string =>
  demoId(`place ${name}`);

const glycol = (strength: number, lot: string, price: number): KitFacts => ({
  kind: "antifreeze",
  base: "propylene-glycol",
  strength,
  jugsM3: [0.005, 0.02],
  lot,
  price,
});

const day = (now: Date, days: number): string =>
  new Date(now.getTime() + days * 86_400_000).toISOString().slice(0, 10);

const kitOf = (
  now: Date,
): readonly {
  name: string;
  note?: string;
  here?: number;
  least?: number;
  facts: KitFacts;
}[] => [
  { name: "Shed antifreeze 50", here: 64, least: 20, facts: glycol(0.5, "lot 25-07", 14) },
  {
    name: "Shed antifreeze 35",
    note: "for the bilge drum only",
    facts: glycol(0.35, "lot 24-11", 9),
  },
  {
    name: "Rinse blend, violet",
    note: "left by a customer",
    facts: { kind: "antifreeze", base: "alcohol", strength: 0.4, jugsM3: [0.00378], lot: "" },
  },
  {
    name: "Bleach, bay 1",
    facts: { kind: "bleach", strength: 0.06, openedOn: day(now, -70), volumeM3: 0.005 },
  },
  {
    name: "Bleach, van",
    facts: { kind: "bleach", strength: 0.0525, openedOn: day(now, -190), volumeM3: 0.002 },
  },
  {
    name: "Refractometer 1",
    facts: {
      kind: "instrument",
      what: "refractometer",
      scale: "brix",
      calibratedUntil: day(now, 210),
      certificate: "RF-118",
    },
  },
  {
    name: "Fine gauge, 1 bar",
    facts: {
      kind: "instrument",
      what: "gauge",
      rangePa: 1e5,
      stepPa: 1000,
      calibratedUntil: day(now, -12),
      certificate: "GA-042",
    },
  },
  {
    name: "Test gauge, 6 bar",
    facts: {
      kind: "instrument",
      what: "gauge",
      rangePa: 6e5,
      stepPa: 2000,
      calibratedUntil: day(now, 190),
      certificate: "GA-051",
    },
  },
  {
    name: "Tank gauge, 160 mbar",
    facts: {
      kind: "instrument",
      what: "gauge",
      rangePa: 16_000,
      stepPa: 25,
      calibratedUntil: day(now, 120),
      certificate: "GA-060",
    },
  },
  {
    name: "Pressure logger 1",
    facts: {
      kind: "instrument",
      what: "logger",
      rangePa: 1e6,
      stepPa: 100,
      calibratedUntil: day(now, 250),
      certificate: "PL-007",
    },
  },
  {
    name: "Thermometer with a wire",
    facts: {
      kind: "instrument",
      what: "thermometer",
      stepK: 0.1,
      calibratedUntil: day(now, 300),
      certificate: "",
    },
  },
  {
    name: "Barometer in the shed",
    facts: {
      kind: "instrument",
      what: "barometer",
      stepPa: 50,
      calibratedUntil: day(now, 160),
      certificate: "BA-003",
    },
  },
  {
    name: "Bedding compound, grey",
    facts: { kind: "sealant", hoursAt20C: 24, hoursAt5C: 72, drinkingWater: "no" },
  },
  {
    name: "Thread paste",
    facts: { kind: "sealant", hoursAt20C: 2, hoursAt5C: 8, drinkingWater: "yes" },
  },
  { name: "Heater key", facts: { kind: "socket", size: "1-1/16 in, 27 mm" } },
  { name: "Inlet adapters", facts: { kind: "adapter", size: "3/4 in garden hose to 1/2 in" } },
  {
    name: "Brass regulator",
    facts: { kind: "regulator", size: "3/4 in garden hose", setPa: 310_000 },
  },
  {
    name: "Bay compressor",
    facts: { kind: "compressor", deliveryM3S: 0.0021, receiverM3: 0.024, mostPa: 830_000 },
  },
];

/** What the workshop owns and where its customers' units stand. */
export const addHouse = async (scope: Scope, now: Date): Promise<void> => {
  await scope.add(
    places,
    PLACES.map((p) => ({ ...p, id: demoPlaceId(p.name) })),
  );
  await scope.add(
    kit,
    kitOf(now).map((k) => ({ id: demoId(`kit ${k.name}`), kind: k.facts.kind, ...k })),
  );
};

/** The rules as the lead has changed them since. */
const RULES_NOW = {
  revision: 1,
  values: { "bleach.age": 4, "test.minHold": 1800, "antifreeze.order": "nearest" },
};

export const addRules = (scope: Scope, leadId: string, at: Date): Promise<void> =>
  scope.add(ruleRevisions, {
    id: demoId("rules 1"),
    ...RULES_NOW,
    personId: leadId,
    why: "Two bottles were found weak in spring; and a quarter of an hour missed a weeping joint.",
    at,
  });
