import {
  addOnPipeRun,
  addOnPort,
  changePart,
  connect,
  type Edited,
  openPorts,
  type Part,
  partOf,
  type PipeRun,
  runAtPort,
  runsAt,
  type WaterMap,
} from "../watermap/index.ts";

/** A way round a heater, so that antifreeze need not fill it: a valve each side, and a third between them, shut in use. */

const BALL = "ball-valve";
const no = (problem: string): Edited => ({ ok: false, problem });

/** How near its end a piece goes onto a pipe: the valve close to the heater, the tee just beyond it. */
const nearTo = (run: PipeRun, partId: string, share: number): number =>
  run.from.part === partId ? share : 1 - share;

const freeTag = (map: WaterMap): string => {
  const taken = new Set(map.parts.map((p) => p.tag));
  for (let n = 1; ; n++) if (!taken.has(`V${n}`)) return `V${n}`;
};

interface Side {
  readonly map: WaterMap;
  readonly tee: string;
}

/** A valve and, beyond it, a tee on one side of the heater. */
const onSide = (
  map: WaterMap,
  heater: Part,
  port: "cold" | "hot",
): Side | { readonly problem: string } => {
  const run = runAtPort(map, { part: heater.id, port });
  if (!run) return { problem: `${heater.name} has no pipe on its ${port} side.` };
  const named = { name: `${heater.name} ${port} valve`.slice(0, 60), tag: freeTag(map) };
  const valved = addOnPipeRun(map, BALL, run.id, nearTo(run, heater.id, 0.3), named);
  if (!valved.ok || !valved.part)
    return { problem: valved.ok ? "no valve was made" : valved.problem };
  const valve = valved.part;
  const beyond = runsAt(valved.map, valve).find(
    (r) => r.from.part !== heater.id && r.to.part !== heater.id,
  );
  if (!beyond) return { problem: "There is no pipe beyond the valve." };
  const teed = addOnPipeRun(valved.map, "tee", beyond.id, nearTo(beyond, valve, 0.3));
  return teed.ok && teed.part
    ? { map: teed.map, tee: teed.part }
    : { problem: teed.ok ? "no tee was made" : teed.problem };
};

/** Draws a bypass of three valves round a heater. */
export const withBypass = (map: WaterMap, heaterId: string): Edited => {
  const heater = partOf(map, heaterId);
  if (!heater) return no("There is no such heater.");
  const cold = onSide(map, heater, "cold");
  if ("problem" in cold) return no(cold.problem);
  const hot = onSide(cold.map, heater, "hot");
  if ("problem" in hot) return no(hot.problem);
  const open = (of: WaterMap, id: string): string | undefined => {
    const part = partOf(of, id);
    return part && openPorts(of, part)[0]?.name;
  };
  const from = open(hot.map, cold.tee);
  if (from === undefined) return no("The cold tee has no branch left.");
  const added = addOnPort(
    hot.map,
    BALL,
    { part: cold.tee, port: from },
    {
      name: `${heater.name} bypass`.slice(0, 60),
      tag: freeTag(hot.map),
    },
  );
  if (!added.ok || !added.part) return added;
  const bypass = added.part;
  const [out, to] = [open(added.map, bypass), open(added.map, hot.tee)];
  if (out === undefined || to === undefined) return no("The way round has no end left.");
  const pipe = runAtPort(map, { part: heaterId, port: "hot" })?.pipe;
  const joined = connect(
    added.map,
    { part: bypass, port: out },
    { part: hot.tee, port: to },
    { service: "hot", ...(pipe === undefined ? {} : { pipe }) },
  );
  if (!joined.ok) return joined;
  const placed =
    heater.place === undefined ? joined : changePart(joined.map, bypass, { place: heater.place });
  return placed.ok
    ? {
        ok: true,
        map: { ...placed.map, lineup: { ...placed.map.lineup, [bypass]: "shut" } },
        part: bypass,
      }
    : placed;
};
