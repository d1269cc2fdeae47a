import { kindOfPart, type Network, placeRank, roleOf, runAtPort } from "../watermap/index.ts";
import { outletFlows } from "./outlets.ts";

/** The sheet by which a changed system is put into use: each thing proved by the one look that proves it, flows against what the engine says. */

export interface CommissionRow {
  /** Stands by this name on the record. */
  readonly key: string;
  readonly text: string;
  /** Of an outlet alone, m3/s, by the engine. */
  readonly forecastM3S?: number;
}

export interface CommissionPart {
  readonly title: string;
  readonly rows: readonly CommissionRow[];
}

/** What proves a check, by where it stands. */
const proofOf = (network: Network, partId: string): string => {
  const { map } = network;
  const heaters = map.parts.filter((p) => kindOfPart(p).group === "heat");
  const run = (port: string) => runAtPort(map, { part: partId, port });
  const next = [run("in"), run("out")].flatMap((r) => (r ? [r.from.part, r.to.part] : []));
  if (heaters.some((h) => next.includes(h.id)))
    return "heater hot and every tap shut for ten minutes: the cold pipe before it stays cold, felt with the back of a finger and carefully: where the check passes, it scalds";
  if (network.openings.some((o) => o.use === "supply" && next.includes(o.part.id)))
    return "pump on, hose off, cap off: nothing comes out of the inlet";
  return "pressed from behind, a tap before it open: nothing comes back";
};

/** The sheet of a map, in the order in which it is safe. */
export const commissioning = (network: Network): CommissionPart[] => {
  const { map, openings } = network;
  const rank = (part: { place?: string | undefined }): number => placeRank(map, part.place ?? "");
  const flows = outletFlows(network);
  const reliefs = openings.filter((o) => o.use === "relief");
  const checks = map.parts.filter((p) => roleOf(p).guard === "check");
  const pumps = map.parts.filter(
    (p) =>
      roleOf(p).pump &&
      !roleOf(p).byHand &&
      network.cells.some((c) => c.ownerId === p.id && c.side === "fresh"),
  );
  const inOrder = flows.toSorted((a, b) => {
    const of = (id: string) => map.parts.find((p) => p.id === id) ?? {};
    return rank(of(a.part)) - rank(of(b.part)) || (a.name < b.name ? -1 : 1);
  });
  const part = (title: string, rows: readonly CommissionRow[]): CommissionPart[] =>
    rows.length > 0 ? [{ title, rows }] : [];
  return [
    ...part("First pressure", [
      {
        key: "low",
        text: "Low, somebody inside, a hand on the valve: every new joint looked at dry",
      },
      { key: "full", text: "In use pressure: looked at again, and after an hour" },
    ]),
    ...part(
      "Air out",
      inOrder.map((f) => ({ key: `air ${f.id}`, text: `${f.name}: runs without spitting` })),
    ),
    ...part(
      "Pump",
      pumps.map((p) => ({
        key: `pump ${p.id}`,
        text: `${p.name}: stops by itself with every tap shut, and is silent for ten minutes`,
      })),
    ),
    ...part(
      "Relief",
      reliefs.map((o) => ({
        key: `relief ${o.part.id}`,
        text: `${o.part.name}: lifted by hand, with everything cold, it flows outside, and shuts dry`,
      })),
    ),
    ...part(
      "Checks, each by its one proof",
      checks.map((p) => ({ key: `check ${p.id}`, text: `${p.name}: ${proofOf(network, p.id)}` })),
    ),
    ...part(
      "Flows, each alone",
      inOrder.map((f) => ({
        key: `flow ${f.id}`,
        text: f.name,
        forecastM3S: f.aloneM3S,
      })),
    ),
    ...part("Before it is handed over", [
      { key: "sanitized", text: "Sanitized, and flushed until no chlorine is left" },
      { key: "left", text: "Every handle as it is to be left, pictures taken" },
      { key: "told", text: "Handed over: how it is used, what is new, where it is shut off" },
    ]),
  ];
};

// A jug and a watch tell a flow to a tenth; the engine's fittings are a guess of a quarter (our own).
const FAR_LOW = 0.65;
const FAR_HIGH = 1.5;

/** What a flow that was read says beside what the engine reckons; nothing where both agree. */
export const flowSaid = (readM3S: number, forecastM3S: number): string | undefined => {
  if (forecastM3S <= 0)
    return readM3S > 0
      ? "By the map nothing should come here: a valve stands otherwise than drawn, or a pipe is missing on it."
      : undefined;
  const share = readM3S / forecastM3S;
  if (readM3S <= 0)
    return "Nothing comes: a valve shut, a check the wrong way round, or air in the line.";
  if (share < FAR_LOW)
    return "Far less than reckoned: a screen or aerator full of chips, a pipe squeezed or bent shut, a ring that narrows, a valve half shut.";
  return share > FAR_HIGH
    ? "Far more than reckoned: the pipe is wider or shorter than drawn, or the pressure higher."
    : undefined;
};
