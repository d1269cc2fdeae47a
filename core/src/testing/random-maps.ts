import fc from "fast-check";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { completed, mapFromPattern, PATTERNS, QUESTIONS, UNKNOWN } from "../patterns/index.ts";
import {
  addLoose,
  addOnPort,
  addOnPipeRun,
  changePart,
  changePipeRun,
  connect,
  connectToPipeRun,
  duplicate,
  openPorts,
  PART_KINDS,
  PIPE_SYSTEMS,
  removePart,
  removePipeRun,
  type Edited,
  type WaterMap,
} from "../watermap/index.ts";

/** Random maps for property tests: a family with random answers, or a demo unit, put through random edits. */

const answers = fc.record(
  Object.fromEntries(
    QUESTIONS.map((q) => [q.id, fc.constantFrom(...q.options.map((o) => o.value), UNKNOWN)]),
  ),
);

export const patternMaps: fc.Arbitrary<WaterMap> = fc
  .tuple(fc.constantFrom(...PATTERNS), answers)
  .map(([pattern, given]) =>
    mapFromPattern(pattern, completed(pattern, given as Record<string, string>), {
      id: "random",
      name: "Random",
      craft: "bench",
    }),
  );

const KINDS = [...PART_KINDS.keys()];
const PIPES = [...PIPE_SYSTEMS.keys()];

/** One random edit, told by numbers so that it means something on any map. */
export type RandomEdit = readonly [what: number, a: number, b: number, share: number];
export const randomEdit: fc.Arbitrary<RandomEdit> = fc.tuple(
  fc.nat({ max: 9 }),
  fc.nat({ max: 9999 }),
  fc.nat({ max: 9999 }),
  fc.double({ min: 0, max: 1, noNaN: true }),
);

const pick = <T>(list: readonly T[], n: number): T | undefined =>
  list[n % Math.max(1, list.length)];

/** Does a random edit; one that cannot be done leaves the map as it was. */
export const doEdit = (map: WaterMap, [what, a, b, share]: RandomEdit): WaterMap => {
  const kind = pick(KINDS, a) ?? "tee";
  const part = pick(map.parts, a);
  const run = pick(map.runs, b);
  const ends = map.parts.flatMap((p) =>
    openPorts(map, p).map((port) => ({ part: p.id, port: port.name })),
  );
  const [one, two] = [pick(ends, a), pick(ends, b)];
  const edits: (() => Edited | undefined)[] = [
    () => run && addOnPipeRun(map, kind, run.id, share),
    () => addLoose(map, kind),
    () => two && addOnPort(map, kind, two),
    () => one && two && connect(map, one, two),
    () => one && run && connectToPipeRun(map, one, run.id, share),
    () => part && removePart(map, part.id),
    () => run && removePipeRun(map, run.id),
    () => part && duplicate(map, part.id),
    () => part && changePart(map, part.id, { kind, heightM: Number((share * 2).toFixed(2)) }),
    () =>
      run &&
      changePipeRun(map, run.id, { pipe: pick(PIPES, a) ?? "pex-1/2", lengthM: 0.1 + share }),
  ];
  const done = edits[what % edits.length]?.();
  return done?.ok ? done.map : map;
};

/** A map somebody has been at: a family or a demo unit, and up to a dozen edits. */
export const anyMap: fc.Arbitrary<WaterMap> = fc
  .tuple(
    fc.oneof(patternMaps, fc.constantFrom(...EXAMPLE_MAPS)),
    fc.array(randomEdit, { maxLength: 12 }),
  )
  .map(([map, edits]) => edits.reduce(doEdit, map));
