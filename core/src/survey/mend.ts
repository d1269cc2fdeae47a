import {
  addOnPort,
  addOnPipeRun,
  changePart,
  connect,
  connectToPipeRun,
  type Edited,
  partOf,
  removePart,
  pipeRunOf,
  type WaterMap,
} from "../watermap/index.ts";
import type { Mend } from "./problem.ts";

/** Turns a part just spliced in round, so that what passes one way passes toward a given part. */
const towards = (map: WaterMap, partId: string, runId: string, target: string): WaterMap => {
  const run = pipeRunOf(map, runId);
  if (!run) return map;
  // The run's first piece enters the part by its "in"; where the target lies at that end, the two ports change places.
  if (run.from.part !== target) return map;
  const swapped = (port: string): string => (port === "in" ? "out" : port === "out" ? "in" : port);
  const end = (e: { part: string; port: string }) =>
    e.part === partId ? { part: partId, port: swapped(e.port) } : e;
  return { ...map, runs: map.runs.map((r) => ({ ...r, from: end(r.from), to: end(r.to) })) };
};

const withPiece = (
  map: WaterMap,
  madeId: string,
  { at, pipe }: { at: string; pipe: string },
): WaterMap => ({
  ...map,
  runs: map.runs.map((r) => {
    const ends = [r.from.part, r.to.part];
    return ends.includes(madeId) && ends.includes(at) ? { ...r, pipe } : r;
  }),
});

/** Does a mend. The result is a sound map, or the reason why it cannot be done. */
export const applyMend = (map: WaterMap, mend: Mend): Edited => {
  switch (mend.do) {
    case "join":
      return connect(map, mend.from, mend.to);
    case "join-run":
      return connectToPipeRun(map, mend.from, mend.run);
    case "attach":
      return addOnPort(map, mend.kind, mend.at);
    case "insert": {
      const done = addOnPipeRun(map, mend.kind, mend.run, mend.share);
      if (!done.ok || !done.part) return done;
      const turned =
        mend.towards === undefined
          ? done.map
          : towards(done.map, done.part, mend.run, mend.towards);
      return { ...done, map: mend.piece ? withPiece(turned, done.part, mend.piece) : turned };
    }
    case "remove":
      return mend.parts.reduce<Edited>(
        (sofar, id) => (sofar.ok && partOf(sofar.map, id) ? removePart(sofar.map, id) : sofar),
        {
          ok: true,
          map,
        },
      );
    case "known":
      return changePart(map, mend.part, { unknown: null });
    case "untag":
      return changePart(map, mend.part, { tag: null });
  }
};
