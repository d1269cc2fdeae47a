import { buildNetwork, kindOfPart, type Network, type WaterMap } from "../watermap/index.ts";
import { type Clearing, clearingOf } from "./clearing.ts";
import { type DeadLeg, deadLegs } from "./dead-legs.ts";
import { endProblems } from "./ends.ts";
import { guardProblems } from "./guards.ts";
import { jointProblems } from "./joints.ts";
import type { Problem, Severity } from "./problem.ts";
import { type Section, sectionsOf } from "./sections.ts";
import { couldReach, isJoined } from "./walk.ts";

/** What the graph says of a map: problems in words, sections, dead legs, what nothing reaches, what nothing clears. */
export interface Survey {
  readonly problems: readonly Problem[];
  readonly sections: readonly Section[];
  readonly deadLegs: readonly DeadLeg[];
  /** Outlets that no source reaches, whatever is turned. */
  readonly notReached: readonly string[];
  /** Parts and runs by how their water can be got out. */
  readonly clearing: ReadonlyMap<string, Clearing>;
}

const notReached = (network: Network): string[] => {
  const tanks = network.cells.flatMap((c, i) =>
    c.part && kindOfPart(c.part).role.vessel === "fresh" ? [i] : [],
  );
  const ways = network.openings
    .filter((o) => o.use === "supply" || o.use === "raw")
    .map((o) => o.cell);
  const reached = couldReach(network, [...tanks, ...ways]);
  const outlets = network.map.parts.filter(
    (p) => kindOfPart(p).group === "outlets" && isJoined(network.map, p),
  );
  return outlets
    .filter((p) => {
      // A side that may stay without a pipe, and has none, is not waited for.
      const piped = (cell: number): boolean =>
        (network.linksOf[cell] ?? []).some(
          (l) =>
            network.cells[network.links[l]?.a ?? -1]?.run ??
            network.cells[network.links[l]?.b ?? -1]?.run,
        );
      const cells = network.openings
        .filter((o) => o.part.id === p.id && o.use === "outlet" && piped(o.cell))
        .map((o) => o.cell);
      return cells.length > 0 && !cells.every((c) => reached.has(c));
    })
    .map((p) => p.id);
};

const nameOf = (network: Network, id: string): string =>
  network.map.parts.find((p) => p.id === id)?.name ??
  network.map.runs.find((r) => r.id === id)?.name ??
  "a pipe";

const reachProblems = (
  network: Network,
  ids: readonly string[],
  found: readonly Problem[],
): Problem[] =>
  ids
    // A side that leads nowhere has been named already.
    .filter((id) => !found.some((p) => p.code === "open-port" && p.parts.includes(id)))
    .map((id) => ({
      code: "outlet-not-reached",
      severity: "wrong",
      message: `No source reaches ${nameOf(network, id)}, whatever is turned: a check stands the wrong way, or a pipe is missing.`,
      parts: [id],
      mends: [],
    }));

const clearingProblems = (
  network: Network,
  clearing: ReadonlyMap<string, Clearing>,
  legs: readonly DeadLeg[],
): Problem[] =>
  [...clearing].flatMap(([id, how]) => {
    const part = network.map.parts.find((p) => p.id === id);
    if (
      how !== "nothing clears it" ||
      !part ||
      kindOfPart(part).role.joint ||
      !isJoined(network.map, part)
    )
      return [];
    // A dead leg is named as such; a cushion empties itself when the pressure falls, a waste tank by its dump or pump-out.
    if (
      kindOfPart(part).role.cushion ||
      kindOfPart(part).role.vessel === "waste" ||
      legs.some((leg) => leg.parts.includes(id))
    )
      return [];
    return [
      {
        code: "nothing-clears" as const,
        severity: "standing" as const,
        message: `${part.name}: no drain empties it and nothing can be pushed through it. It will need suction, or to be taken out.`,
        parts: [id],
        mends: [],
      },
    ];
  });

const deadLegProblems = (network: Network, legs: readonly DeadLeg[]): Problem[] =>
  legs
    .filter((leg) => leg.runs.length > 0)
    .map((leg) => ({
      code: "dead-leg",
      severity: "standing",
      message: `Dead leg to ${nameOf(network, leg.end)}, {m:${Number(leg.lengthM.toFixed(2))}}, holds {m3:${Number(leg.volumeM3.toPrecision(3))}}: water stands in it and nothing pushed leaves by it.`,
      parts: [leg.end, ...leg.runs],
      mends: [{ do: "remove", label: "Take the dead leg out", parts: leg.parts }],
    }));

const unknownProblems = (map: WaterMap): Problem[] =>
  map.parts.flatMap((part) => {
    const mystery = kindOfPart(part).role.mystery;
    if (!part.unknown && !mystery) return [];
    const question = mystery
      ? "what is it?"
      : part.unknown?.of === "role"
        ? "which position does what?"
        : "is it fitted?";
    const how = part.unknown?.ask ?? "Look behind it.";
    return [
      {
        code: "not-known",
        severity: "unknown",
        message: `${part.name}: ${question} ${how}`,
        parts: [part.id],
        mends:
          mystery || !part.unknown
            ? []
            : part.unknown.of === "fitted"
              ? [
                  { do: "known", label: "It is fitted", part: part.id },
                  { do: "remove", label: "Not fitted", parts: [part.id] },
                ]
              : [{ do: "known", label: "Tried: it does what the map says", part: part.id }],
      },
    ];
  });

const ORDER: Record<Severity, number> = { wrong: 0, unknown: 1, guard: 2, standing: 3, note: 4 };

/** Surveys a map. The order of problems does not depend on how the map is stored. */
export const surveyMap = (map: WaterMap, network: Network = buildNetwork(map)): Survey => {
  const joints = [...endProblems(map), ...jointProblems(map)];
  const unreached = notReached(network);
  const clearing = clearingOf(network);
  const legs = deadLegs(network);
  const problems = [
    ...joints,
    ...reachProblems(network, unreached, joints),
    ...unknownProblems(map),
    ...guardProblems(map),
    ...clearingProblems(network, clearing, legs),
    ...deadLegProblems(network, legs),
  ].toSorted(
    (a, b) =>
      ORDER[a.severity] - ORDER[b.severity] ||
      (a.code < b.code ? -1 : a.code > b.code ? 1 : 0) ||
      ((a.parts[0] ?? "") < (b.parts[0] ?? "")
        ? -1
        : (a.parts[0] ?? "") > (b.parts[0] ?? "")
          ? 1
          : a.message < b.message
            ? -1
            : 1),
  );
  return {
    problems,
    sections: sectionsOf(network),
    deadLegs: legs,
    notReached: unreached,
    clearing,
  };
};
