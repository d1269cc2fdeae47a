import {
  kindOfPart,
  mate,
  type Part,
  PIPE_SYSTEMS,
  type PipeRun,
  roleOf,
  runsAt,
  type WaterMap,
} from "../watermap/index.ts";
import type { Mend, Problem } from "./problem.ts";
import { farEnd, nearEnd, stretchFrom, usesOf } from "./walk.ts";

/** Pipes and threads that do not mate. */

const adapterOn = (run: PipeRun, part: Part, pipe: string): Mend => ({
  do: "insert",
  label: `Put an adapter before the ${part.name.toLowerCase()}`,
  run: run.id,
  kind: "adapter",
  share: run.from.part === part.id ? 0.1 : 0.9,
  ...(PIPE_SYSTEMS.has(pipe) ? { piece: { at: part.id, pipe } } : {}),
});

const VERB = { measure: "measure-fit", never: "no-fit", adapter: "no-fit" } as const;

const atStatedEnds = (map: WaterMap, part: Part): Problem[] =>
  runsAt(map, part.id).flatMap((run) => {
    const stated = part.ends?.[nearEnd(run, part.id).port];
    if (stated === undefined) return [];
    const { answer, why } = mate(stated, run.pipe);
    const beyond = map.parts.find((p) => p.id === farEnd(run, part.id).part);
    if (answer === "fits" || (beyond && roleOf(beyond).adapts)) return [];
    return [
      {
        code: VERB[answer],
        severity: answer === "measure" ? "note" : "wrong",
        message: `${part.name}: ${why}`,
        parts: [part.id, run.id],
        mends: [adapterOn(run, part, stated)],
      },
    ];
  });

/** A joint grips one size of tube: two tubes that look alike cannot both be right in it. */
const atJoint = (map: WaterMap, part: Part): Problem[] => {
  const role = roleOf(part);
  const tight = role.joint || kindOfPart(part).group === "control" || role.guard === "check";
  if (!tight || role.adapts || role.mystery) return [];
  const runs = runsAt(map, part.id).filter(
    (r) => part.ends?.[nearEnd(r, part.id).port] === undefined,
  );
  const [first] = runs;
  return runs.slice(1).flatMap((run) => {
    if (!first) return [];
    const { answer, why } = mate(first.pipe, run.pipe);
    // Another size or a hose at a joint is what reducers and tails are for: only look-alikes are called out.
    if (answer !== "never" && answer !== "measure") return [];
    return [
      {
        code: VERB[answer],
        severity: answer === "measure" ? "note" : "wrong",
        message: `${part.name}: ${why}`,
        parts: [part.id, run.id, first.id],
        mends: [adapterOn(run, part, first.pipe)],
      },
    ];
  });
};

/** Pipe that bears no pressure on the pressed side. */
const weakPipes = (map: WaterMap): Problem[] =>
  map.runs.flatMap((run) => {
    const system = PIPE_SYSTEMS.get(run.pipe);
    if (run.service === "waste" || run.service === "fill" || run.service === "suction" || !system)
      return [];
    const weak = system.ratingPa === undefined || system.ratingPa < 300_000;
    return weak
      ? [
          {
            code: "pressure-on-weak-pipe",
            severity: "wrong",
            message: `${system.label} bears no pressure, and this is a ${run.service} line. Measure the pipe again, or change it.`,
            parts: [run.id],
            mends: [],
          },
        ]
      : [];
  });

/** Carbon takes the chlorine that keeps the water of a tank behind it. */
const carbonBeforeTank = (map: WaterMap): Problem[] =>
  map.parts.flatMap((part) => {
    if (!kindOfPart(part).role.takesChlorine?.(part.params)) return [];
    const out = stretchFrom(map, { part: part.id, port: "out" });
    const tank = out.parts.find((p) => roleOf(p).vessel === "fresh");
    const fills = out.runs.some((r) => r.service === "fill");
    if (!tank && !fills) return [];
    return [
      {
        code: "carbon-before-tank",
        severity: "note",
        message: `${part.name} takes the chlorine out of water that then stands in ${tank?.name ?? "the tank"}. Carbon belongs at the drinking tap; sediment may stand here.`,
        parts: [part.id, ...(tank ? [tank.id] : [])],
        mends: [],
      },
    ];
  });

/** Drinking water and raw or rinse water joined by pipe. */
const crossConnections = (map: WaterMap): Problem[] => {
  const foul = (part: Part): boolean => usesOf(part).has("raw") || usesOf(part).has("flush");
  const clean = (part: Part): boolean =>
    roleOf(part).vessel === "fresh" || usesOf(part).has("supply");
  return map.parts.filter(foul).flatMap((start) => {
    const seen = new Set([start.id]);
    const todo = [start.id];
    for (let at = todo.pop(); at !== undefined; at = todo.pop())
      for (const run of runsAt(map, at)) {
        const next = farEnd(run, at).part;
        const part = map.parts.find((p) => p.id === next);
        if (run.service === "waste" || !part || seen.has(next) || roleOf(part).vessel === "waste")
          continue;
        seen.add(next);
        if (clean(part))
          return [
            {
              code: "cross-connection" as const,
              severity: "wrong" as const,
              message: `${start.name} and ${part.name} are joined: foul water can get into the drinking water. Find the pipe that joins them.`,
              parts: [start.id, part.id],
              mends: [],
            },
          ];
        todo.push(next);
      }
    return [];
  });
};

export const jointProblems = (map: WaterMap): Problem[] => [
  ...map.parts.flatMap((part) => [...atStatedEnds(map, part), ...atJoint(map, part)]),
  ...weakPipes(map),
  ...carbonBeforeTank(map),
  ...crossConnections(map),
];
