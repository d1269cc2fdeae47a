import {
  addOnPipeRun,
  addOnPort,
  type Edited,
  openPorts,
  type Part,
  partOf,
  type PipeRun,
  roleOf,
  runAtPort,
  type WaterMap,
} from "../watermap/index.ts";
import { withBypass } from "./bypass.ts";

/** What is commonly added to a system, each drawn in one go: a bypass, a pickup, a low point, an accumulator. */

export interface OneGo {
  readonly label: string;
  readonly draw: (map: WaterMap) => Edited;
}

const no = (problem: string): Edited => ({ ok: false, problem });

/** The pump that draws from the tank: not one worked by hand, nor one of the lake. */
const housePump = (map: WaterMap): Part | undefined =>
  map.parts.find((p) => {
    const run = runAtPort(map, { part: p.id, port: "in" });
    return roleOf(p).pump && !roleOf(p).byHand && run !== undefined && run.service === "suction";
  });

const heightOf = (map: WaterMap, run: PipeRun): number =>
  Math.min(
    ...[run.from, run.to].map((e) => partOf(map, e.part)?.heightM ?? Number.POSITIVE_INFINITY),
  );

/** A selector turned so that what it joins by turns is on the side of a part: its common port looks there. */
const commonTo = (map: WaterMap, selectorId: string, partId: string): WaterMap => {
  const towards = map.runs.find(
    (r) =>
      [r.from.part, r.to.part].includes(selectorId) && [r.from.part, r.to.part].includes(partId),
  );
  const end = towards?.from.part === selectorId ? towards.from : towards?.to;
  if (!end || end.port === "common") return map;
  const other = end.port;
  const swapped = (e: PipeRun["from"]): PipeRun["from"] =>
    e.part !== selectorId
      ? e
      : e.port === other
        ? { ...e, port: "common" }
        : e.port === "common"
          ? { ...e, port: other }
          : e;
  return {
    ...map,
    runs: map.runs.map((r) => ({ ...r, from: swapped(r.from), to: swapped(r.to) })),
  };
};

/** A jug hose at the pump: a selector in its suction, and the hose on the way that it does not take from the tank. */
const withPickup = (map: WaterMap): Edited => {
  const pump = housePump(map);
  const run = pump && runAtPort(map, { part: pump.id, port: "in" });
  if (!pump || !run) return no("No pump draws from a tank here.");
  const selector = addOnPipeRun(map, "selector-valve", run.id, 0.5, { name: "Pickup selector" });
  if (!selector.ok || !selector.part) return selector;
  const turned = commonTo(selector.map, selector.part, pump.id);
  const part = partOf(turned, selector.part);
  const port = part && openPorts(turned, part)[0]?.name;
  if (port === undefined) return no("The selector has no way left for the hose.");
  return addOnPort(turned, "winterizing-pickup", { part: selector.part, port });
};

/** A drain on the lowest pressed pipe of a service. */
const withLowPoint = (map: WaterMap, service: "cold" | "hot"): Edited => {
  const [lowest] = map.runs
    .filter((r) => r.service === service)
    .toSorted((a, b) => heightOf(map, a) - heightOf(map, b) || b.lengthM - a.lengthM);
  return lowest
    ? addOnPipeRun(map, "low-point-drain", lowest.id, 0.5, { name: `Low point, ${service}` })
    : no(`There is no ${service} pipe on this map.`);
};

/** An accumulator behind the pump, before the first tap. */
const withAccumulator = (map: WaterMap): Edited => {
  const pump = housePump(map);
  const run = pump && runAtPort(map, { part: pump.id, port: "out" });
  return run
    ? addOnPipeRun(map, "accumulator", run.id, run.from.part === pump.id ? 0.3 : 0.7)
    : no("No pump presses this system.");
};

/** Whatever of it this map could take. */
export const inOneGo = (map: WaterMap): OneGo[] => {
  const has = (kind: string): boolean => map.parts.some((p) => p.kind === kind);
  const carries = (service: string): boolean => map.runs.some((r) => r.service === service);
  return [
    ...map.parts.flatMap((p) =>
      roleOf(p).vessel === "heater"
        ? [
            {
              label: `A bypass round the ${p.name.toLowerCase()}`,
              draw: (of: WaterMap) => withBypass(of, p.id),
            },
          ]
        : [],
    ),
    ...(housePump(map) && !has("winterizing-pickup")
      ? [{ label: "A pickup before the pump", draw: withPickup }]
      : []),
    ...(["cold", "hot"] as const).flatMap((service) =>
      carries(service)
        ? [
            {
              label: `A low point on the ${service} side`,
              draw: (of: WaterMap) => withLowPoint(of, service),
            },
          ]
        : [],
    ),
    ...(housePump(map) && !map.parts.some((p) => roleOf(p).cushion)
      ? [{ label: "An accumulator behind the pump", draw: withAccumulator }]
      : []),
  ];
};
