import { kindOfPart, type Network, paramsOf } from "../../watermap/index.ts";
import type { Step } from "../step.ts";
import type { AntifreezeFigure } from "./antifreeze.ts";

/**
 * What the drain plug of a storage heater wants (common practice, no source): an aluminium vessel has a plastic plug of 15/16 in across
 * the flats, one of steel a plug with a rod of 1-1/16 in, which a 27 mm socket fits too.
 */
const socketFor = (metal: unknown): string =>
  metal === "aluminium"
    ? "15/16 in socket (plastic plug: by hand first, no long lever)"
    : metal === "not looked at"
      ? "1-1/16 in (27 mm) and 15/16 in sockets: nobody has looked which plug it has"
      : "1-1/16 in or 27 mm socket with its long lever";

/** Tools and seals that the openings of this map want. */
const forPlugs = (network: Network, steps: readonly Step[]): string[] => {
  const opened = new Set(
    steps.flatMap((s) =>
      s.actions.flatMap((a) =>
        a.type === "set-valve" && a.position === "open" ? [a.control] : [],
      ),
    ),
  );
  return network.controls
    .filter((c) => c.spec.name === "plug" && opened.has(c.key) && kindOfPart(c.part).role.vessel)
    .flatMap(({ part }) => {
      const { metal, anode } = paramsOf(part);
      return [
        `For the ${part.name.toLowerCase()}: ${socketFor(metal)}; thread tape${anode === true ? ", a rod in case it is used up" : ""}`,
      ];
    });
};

const forEnds = (steps: readonly Step[]): string[] => {
  const actions = steps.flatMap((s) => s.actions);
  return [
    ...(actions.some((a) => a.type === "push-by-hand")
      ? ["Hand pump with a hose for the inlet, 3/4 in garden hose adapter, flat washer"]
      : []),
    ...(actions.some((a) => a.type === "disconnect" && a.jug)
      ? ["Jug hose with a 1/2 in coupling for the pump's inlet, spare washer"]
      : []),
    ...(actions.some((a) => a.type === "disconnect" && !a.jug)
      ? ["Wrenches for the joints that are undone, new washers"]
      : []),
    ...(actions.some((a) => a.type === "blow")
      ? [
          "Compressor with its hose; regulator and gauge for the unit's side",
          "3/4 in garden hose adapter with a ball valve, for the air",
        ]
      : []),
    ...(actions.some((a) => a.type === "suck")
      ? ["Suction pump or wet vacuum with a thin hose, through a ground-fault outlet"]
      : []),
  ];
};

/** What is taken along, by what the steps ask for. */
export const carryList = (
  network: Network,
  steps: readonly Step[],
  antifreeze: AntifreezeFigure,
  product: string,
): string[] => {
  const asks = (kind: string): boolean => steps.some((s) => s.asks.some((a) => a.kind === kind));
  return [
    ...(antifreeze.jugs > 0 ? [`${antifreeze.jugs} jugs of ${product}`] : []),
    ...(asks("strength") ? ["Refractometer, wiped and zeroed on water"] : []),
    ...(asks("recovered") ? ["Bucket or measure for what comes out"] : []),
    ...(asks("temperature") ? ["Thermometer"] : []),
    ...forPlugs(network, steps),
    ...forEnds(steps),
    ...(steps.some((s) => s.id.endsWith(":tag")) ? ["Tag: heater, do not switch on"] : []),
    "Gloves, eye protection, rags",
  ];
};
