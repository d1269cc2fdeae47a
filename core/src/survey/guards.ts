import {
  kindOfPart,
  paramsOf,
  type Part,
  portsOf,
  type PipeRun,
  roleOf,
  runAtPort,
  runsAt,
  type WaterMap,
} from "../watermap/index.ts";
import type { Mend, Problem, ProblemCode } from "./problem.ts";
import { nearEnd, stretchFrom, usesOf } from "./walk.ts";

/** Guards that should stand and do not. */

const insert = (
  label: string,
  run: PipeRun,
  near: string,
  kind: string,
  towards?: string,
): Mend => ({
  do: "insert",
  label,
  run: run.id,
  kind,
  share: nearEnd(run, near) === run.from ? 0.3 : 0.7,
  ...(towards === undefined ? {} : { towards }),
});

const guard = (
  code: ProblemCode,
  part: Part,
  message: string,
  mends: readonly Mend[],
): Problem => ({
  code,
  severity: "guard",
  message,
  parts: [part.id],
  mends,
});

const hasGuard = (parts: readonly Part[], wanted: string): boolean =>
  parts.some((p) => roleOf(p).guard === wanted || roleOf(p).mystery);

const atHeaters = (map: WaterMap): Problem[] =>
  map.parts.flatMap((part) => {
    if (kindOfPart(part).group !== "heat") return [];
    const run = runAtPort(map, { part: part.id, port: "cold" });
    if (!run) return [];
    const { parts } = stretchFrom(map, { part: part.id, port: "cold" });
    // A check at the hot outlet (a one-lever bypass) holds hot water back on its own way only.
    // Behind another heater, that one's guard counts.
    if (hasGuard(parts, "check") || parts.some((p) => kindOfPart(p).group === "heat")) return [];
    return [
      guard(
        "no-check-at-heater",
        part,
        `No check valve at the cold inlet of ${part.name}: hot water can run back out of the cold line, enough to scald. With a check fitted, expansion needs room.`,
        [insert("Put a check before the heater", run, part.id, "check-valve", part.id)],
      ),
    ];
  });

const atInlets = (map: WaterMap): Problem[] =>
  map.parts.flatMap((part) => {
    if (!usesOf(part).has("supply")) return [];
    const run = runAtPort(map, { part: part.id, port: "out" });
    if (!run) return [];
    const { parts } = stretchFrom(map, { part: part.id, port: "out" });
    const found: Problem[] = [];
    if (paramsOf(part)["builtInCheck"] !== true && !hasGuard(parts, "check"))
      found.push(
        guard(
          "no-check-at-inlet",
          part,
          `No check valve behind ${part.name}: the pump can push out of it. Look in its fitting, or draw the check.`,
          [
            insert(
              "Put a check behind the inlet",
              run,
              part.id,
              "check-valve",
              otherSide(run, part.id),
            ),
          ],
        ),
      );
    if (!hasGuard(parts, "regulator"))
      found.push(
        guard(
          "no-regulator",
          part,
          `No regulator behind ${part.name}: everything after it bears the site's pressure. A portable one at the tap counts only while it is there.`,
          [
            insert(
              "Put a regulator behind the inlet",
              run,
              part.id,
              "pressure-regulator",
              otherSide(run, part.id),
            ),
          ],
        ),
      );
    return found;
  });

const otherSide = (run: PipeRun, near: string): string =>
  run.from.part === near ? run.to.part : run.from.part;

const atFlushes = (map: WaterMap): Problem[] =>
  map.parts.flatMap((part) => {
    const run = runAtPort(map, { part: part.id, port: "out" });
    if (!usesOf(part).has("flush") || !run) return [];
    const { parts } = stretchFrom(map, { part: part.id, port: "out" });
    if (hasGuard(parts, "breaker")) return [];
    return [
      guard(
        "no-breaker",
        part,
        `No vacuum breaker on the way from ${part.name} to the black tank: foul water could be drawn back.`,
        [
          insert(
            "Put a vacuum breaker in the line",
            run,
            part.id,
            "vacuum-breaker",
            otherSide(run, part.id),
          ),
        ],
      ),
    ];
  });

const atPumps = (map: WaterMap): Problem[] =>
  map.parts.flatMap((part) => {
    const run = runAtPort(map, { part: part.id, port: "in" });
    if (!roleOf(part).pump || roleOf(part).byHand || !run) return [];
    const { parts } = stretchFrom(map, { part: part.id, port: "in" });
    if (hasGuard(parts, "strainer")) return [];
    return [
      guard(
        "no-strainer",
        part,
        `No strainer before ${part.name}: one chip in its valves and it no longer holds.`,
        [insert("Put a strainer before the pump", run, part.id, "strainer", part.id)],
      ),
    ];
  });

const atTanks = (map: WaterMap): Problem[] =>
  map.parts.flatMap((part) => {
    const vessel = roleOf(part).vessel;
    if ((vessel !== "fresh" && vessel !== "waste") || paramsOf(part)["vented"] !== false) return [];
    const breathes = runsAt(map, part.id).some((run) => {
      const { parts } = stretchFrom(map, nearEnd(run, part.id), runsAt);
      return parts.some((p) => roleOf(p).guard === "vent");
    });
    if (breathes) return [];
    const port = portsOf(part).find(
      (p) => (p === "air" || p === "overflow") && !runAtPort(map, { part: part.id, port: p }),
    );
    return [
      guard(
        "no-vent",
        part,
        `${part.name} has no vent: it can neither fill nor empty without sucking itself flat.`,
        port
          ? [
              {
                do: "attach",
                label: "Put a vent on it",
                at: { part: part.id, port },
                kind: "waste-vent",
              },
            ]
          : [],
      ),
    ];
  });

export const guardProblems = (map: WaterMap): Problem[] => [
  ...atInlets(map),
  ...atHeaters(map),
  ...atFlushes(map),
  ...atPumps(map),
  ...atTanks(map),
];
