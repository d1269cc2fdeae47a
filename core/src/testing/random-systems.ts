import fc from "fast-check";
import { mapFromPattern, PATTERNS, QUESTIONS, UNKNOWN } from "../patterns/index.ts";
import {
  addOnPipeRun,
  changePart,
  changePipeRun,
  connectToPipeRun,
  addLoose,
  controlsOfPart,
  type Edited,
  kindOfPart,
  openPorts,
  readWaterMap,
  removePart,
  type WaterMap,
} from "../watermap/index.ts";

/**
 * Hostile systems: a family with random answers, and things done to it that are met in the field. Drains gone, checks turned or
 * failed, dead legs, dips, one more outlet, one more heater, what is not known, a pickup that is missing, long hoses.
 */

/** One thing done to a system, told by numbers so that it means something on any map. */
type Mutation = readonly [what: number, which: number, share: number];

const pick = <T>(list: readonly T[], n: number): T | undefined =>
  list[n % Math.max(1, list.length)];
const two = (x: number): number => Number(x.toFixed(2));

type Mutator = (map: WaterMap, which: number, share: number) => Edited | WaterMap | undefined;

const partsOf = (
  map: WaterMap,
  wanted: (kind: ReturnType<typeof kindOfPart>) => boolean,
): WaterMap["parts"] => map.parts.filter((p) => wanted(kindOfPart(p)));
const wetRuns = (map: WaterMap): WaterMap["runs"] =>
  map.runs.filter((r) => r.service === "cold" || r.service === "hot" || r.service === "suction");

const added = (before: WaterMap, after: Edited): string | undefined =>
  after.ok ? after.map.parts.find((p) => !before.parts.some((q) => q.id === p.id))?.id : undefined;

const MUTATORS: readonly Mutator[] = [
  // A drain is gone.
  (map, n) => {
    const drain = pick(
      partsOf(map, (k) => k.group === "drains"),
      n,
    );
    return drain && removePart(map, drain.id);
  },
  // A check stands the wrong way round: its ports change places.
  (map, n) => {
    const check = pick(
      partsOf(map, (k) => k.role.guard === "check"),
      n,
    );
    if (!check) return undefined;
    const swap = (end: WaterMap["runs"][number]["from"]): WaterMap["runs"][number]["from"] =>
      end.part === check.id ? { ...end, port: end.port === "in" ? "out" : "in" } : end;
    return { ...map, runs: map.runs.map((r) => ({ ...r, from: swap(r.from), to: swap(r.to) })) };
  },
  // A check that has failed passes both ways: it is a joint.
  (map, n) => {
    const check = pick(
      partsOf(map, (k) => k.role.guard === "check"),
      n,
    );
    return check && removePart(map, check.id);
  },
  // One more check in a line.
  (map, n, share) => {
    const run = pick(wetRuns(map), n);
    return run && addOnPipeRun(map, "check-valve", run.id, 0.2 + 0.6 * share);
  },
  // A dip.
  (map, n, share) => {
    const run = pick(wetRuns(map), n);
    return (
      run &&
      changePipeRun(map, run.id, {
        sag: { depthM: two(0.05 + 0.4 * share), lengthM: two(Math.max(0.05, run.lengthM * 0.6)) },
      })
    );
  },
  // A dead leg with a plug at its end.
  (map, n, share) => deadEnd(map, "end-plug", n, share),
  // One more tap.
  (map, n, share) => deadEnd(map, "single-tap", n, share),
  // One more low point.
  (map, n, share) => deadEnd(map, "low-point-drain", n, 0.3 * share),
  // A part that may not be there.
  (map, n) => {
    const part = pick(
      partsOf(map, (k) => k.group === "control" || k.group === "conditioning"),
      n,
    );
    return part && changePart(map, part.id, { unknown: { of: "fitted", ask: "Look." } });
  },
  // A valve of which nobody knows what it does.
  (map, n) => {
    const valve = pick(
      map.parts.filter((p) =>
        controlsOfPart(p).some((c) => c.role === "valve" || c.role === "selector"),
      ),
      n,
    );
    return valve && changePart(map, valve.id, { unknown: { of: "role", ask: "Turn it and see." } });
  },
  // The pickup is missing.
  (map) => {
    const pickup = map.parts.find((p) => kindOfPart(p).kind === "winterizing-pickup");
    return pickup && removePart(map, pickup.id);
  },
  // A long hose.
  (map, n, share) => {
    const run = pick(wetRuns(map), n);
    return run && changePipeRun(map, run.id, { lengthM: two(5 + 15 * share) });
  },
  // A part stands higher or lower.
  (map, n, share) => {
    const part = pick(map.parts, n);
    return part && changePart(map, part.id, { heightM: two(share * 1.4) });
  },
  // A valve in a line, shut in use.
  (map, n, share) => {
    const run = pick(wetRuns(map), n);
    const after = run && addOnPipeRun(map, "ball-valve", run.id, 0.5);
    const id = after && added(map, after);
    return after?.ok && id
      ? {
          ...after.map,
          lineup: share > 0.5 ? { ...after.map.lineup, [id]: "shut" } : after.map.lineup,
        }
      : after;
  },
  // A second heater, in the hot line behind the first.
  (map, n) => {
    const run = pick(
      map.runs.filter((r) => r.service === "hot"),
      n,
    );
    return run && addOnPipeRun(map, "storage-heater", run.id, 0.5);
  },
  // A heater of another kind in a line.
  (map, n) => {
    const run = pick(
      map.runs.filter((r) => r.service === "hot"),
      n,
    );
    return (
      run &&
      addOnPipeRun(map, n % 2 === 0 ? "point-of-use-heater" : "on-demand-heater", run.id, 0.5)
    );
  },
];

const deadEnd = (
  map: WaterMap,
  kind: string,
  n: number,
  share: number,
): Edited | WaterMap | undefined => {
  const run = pick(wetRuns(map), n);
  if (!run) return undefined;
  const loose = addLoose(map, kind);
  const id = added(map, loose);
  if (!loose.ok || !id) return undefined;
  const raised = changePart(loose.map, id, { heightM: two(0.1 + share) });
  if (!raised.ok) return undefined;
  const part = raised.map.parts.find((p) => p.id === id);
  const [port] = part ? openPorts(raised.map, part) : [];
  return port && connectToPipeRun(raised.map, { part: id, port: port.name }, run.id, 0.5);
};

const isEdited = (x: Edited | WaterMap): x is Edited => "ok" in x;

/** Does something to a system; what cannot be done, or leaves no sound map, leaves it as it was. */
const mutated = (map: WaterMap, [what, which, share]: Mutation): WaterMap => {
  const done = pick(MUTATORS, what)?.(map, which, share);
  if (!done || (isEdited(done) && !done.ok)) return map;
  const next = isEdited(done) ? (done.ok ? done.map : map) : done;
  return readWaterMap(next).ok ? next : map;
};

// One answer in ten is "don't know".
const answers = fc.record(
  Object.fromEntries(
    QUESTIONS.map((q) => [
      q.id,
      fc.oneof(
        { weight: 9, arbitrary: fc.constantFrom(...q.options.map((o) => o.value)) },
        { weight: 1, arbitrary: fc.constant(UNKNOWN) },
      ),
    ]),
  ),
);

const mutation: fc.Arbitrary<Mutation> = fc.tuple(
  fc.nat({ max: MUTATORS.length - 1 }),
  fc.nat({ max: 9999 }),
  fc.double({ min: 0, max: 1, noNaN: true }),
);

const randomSystems: fc.Arbitrary<WaterMap> = fc
  .tuple(fc.constantFrom(...PATTERNS), answers, fc.array(mutation, { maxLength: 6 }))
  .map(([pattern, given, mutations]) =>
    mutations.reduce(
      mutated,
      mapFromPattern(pattern, given as Record<string, string>, {
        id: "random",
        name: "Random",
        craft: "bench",
      }),
    ),
  );

/** The system of a seed; the same seed gives the same system. */
export const systemOf = (seed: number): WaterMap => {
  const [map] = fc.sample(randomSystems, { seed, numRuns: 1 });
  if (!map) throw new Error("no system");
  return map;
};
