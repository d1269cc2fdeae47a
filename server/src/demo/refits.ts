import { readPricesCsv } from "@uppershed/core/formats";
import { type RefitBody, withBypass } from "@uppershed/core/refit";
import { roleOf } from "@uppershed/core/watermap";
import { takePrices } from "../refits/prices.ts";
import { takeRefitEntry } from "../refits/store.ts";
import { getMap } from "../register/maps.ts";
import type { Scope } from "../scope.ts";
import { demoId } from "./winterizing.ts";

/** Refits of the demo: a bypass thought of for a launch whose heater is filled with antifreeze each autumn; and the workshop's list of prices. */

// Invented, like all of the demo.
const PRICES = `key,label,price,roll m,rests m
pipe:metric-15 red,"15 mm tube, red",36,25,3.2; 1.4
pipe:metric-15 blue,"15 mm tube, blue",36,25,2.6
pipe:pex-1/2 red,"1/2 in tube, red",42,30,
pipe:pex-1/2 blue,"1/2 in tube, blue",42,30,4.5; 0.9
kind:ball-valve,Ball valve,14.5,,
kind:tee,Tee,3.2,,
kind:check-valve,Check valve,11,,
joint:metric-15,"Insert, 15 mm tube",0.45,,
joint:pex-1/2,"Ring, 1/2 in tube",0.35,,
clip:metric-15,"Clip, 15 mm tube",0.2,,
`;

export const addRefits = async (
  scope: Scope,
  unitOf: (map: string) => string,
  by: { id: string; name: string },
  now: Date,
): Promise<void> => {
  if (!readPricesCsv(PRICES).ok) throw new Error("the demo's prices cannot be read");
  await takePrices(scope, PRICES);
  const unitId = unitOf("dipper");
  const { document: map, revision } = await getMap(scope, unitId);
  const heater = map.parts.find((p) => roleOf(p).vessel === "heater");
  const drawn = withBypass(map, heater?.id ?? "");
  if (!drawn.ok) throw new Error("the demo's launch has no heater to go round");
  const refitId = demoId("refit dipper bypass");
  const say = (n: number, body: RefitBody): Promise<unknown> =>
    takeRefitEntry(scope, by, unitId, refitId, {
      id: demoId(`refit dipper bypass ${n}`),
      at: new Date(now.getTime() - (3 - n) * 86_400_000).toISOString(),
      body,
    });
  await say(0, {
    type: "made",
    name: "A bypass round the heater",
    from: "map",
    document: drawn.map,
    basedOn: revision,
  });
  await say(1, {
    type: "reckoned-with",
    limits: [{ name: "Stern locker", places: [], leftKg: 400 }],
    cost: 140,
    hour: 48,
  });
  await say(2, {
    type: "hold-point",
    what: "lining beside the heater",
    at: drawn.map.parts.flatMap((p) => (map.parts.some((x) => x.id === p.id) ? [] : [p.id])),
  });
};
