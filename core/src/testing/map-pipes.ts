import { startingContents } from "../contents/index.ts";
import { mapHydraulics } from "../flows/index.ts";
import { type HydraulicNetwork, solveHydraulics } from "../hydraulics/index.ts";
import { buildNetwork, inUseLineup, type WaterMap } from "../watermap/index.ts";
import { forReference } from "./epanet.ts";

// EPANET counts whole seconds: pipes so many times as long as aboard make a second short beside the travel time.
const LONGER = 120;

/**
 * The pressure side of a map as bare pipes, every cold tap and every hot one a little open, its pump a source that holds the pump's own
 * pressure; lengths stretched for whoever counts whole seconds.
 * @returns the network, and the node at which a tracer is let in: the pump's outlet
 */
export const mapPipes = (map: WaterMap): { network: HydraulicNetwork; from: number } => {
  const network = buildNetwork(map);
  const lineup: Record<string, string> = { ...inUseLineup(network) };
  for (const o of network.openings)
    if (o.use === "outlet" && o.gate && network.cells[o.cell]?.side === "fresh")
      lineup[o.gate.key] = o.gate.in[0] ?? "open";
  const made = mapHydraulics({ network, lineup, apart: [] }, startingContents(network));
  const whole = made.network;
  const solved = solveHydraulics(whole);
  if (!solved.ok) throw new Error(solved.problem);
  const pump = whole.elements.findIndex((e) => e.kind === "pump");
  const outlet = whole.elements[pump]?.to ?? -1;
  const pressedPa = solved.pressuresPa[outlet];
  if (pressedPa === undefined) throw new Error("the pump presses nothing");
  // Only what water flows along is compared; a check that stands open is a pipe.
  const elements = whole.elements.flatMap((e, i) => {
    if (e.kind !== "pipe" || Math.abs(solved.flowsM3PerS[i] ?? 0) < 1e-9) return [];
    const { oneWay: _, crackPa: __, ...plain } = e;
    return [{ ...plain, lengthM: Math.max(plain.lengthM, 0.05) * LONGER }];
  });
  const reached = new Set([outlet]);
  for (let more = true; more;) {
    const next = elements.filter((e) => reached.has(e.from) !== reached.has(e.to));
    for (const e of next) for (const n of [e.from, e.to]) reached.add(n);
    more = next.length > 0;
  }
  const onward = elements.filter((e) => reached.has(e.from) && reached.has(e.to));
  const reference = forReference({
    nodes: whole.nodes.map((n, i) => ({
      id: n.id,
      heightM: n.heightM,
      ...(i === outlet ? { fixedPa: pressedPa } : {}),
    })),
    elements: onward,
    outlets: whole.outlets.filter((o) => reached.has(o.node)),
  });
  return { network: reference, from: reference.nodes.findIndex((n) => n.fixedPa !== undefined) };
};
