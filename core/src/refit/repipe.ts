import { type PipeRun, PIPE_SYSTEMS, type WaterMap } from "../watermap/index.ts";

/** All pipes of one kind in another: each in the size whose bore is nearest. */

type Family = NonNullable<ReturnType<typeof PIPE_SYSTEMS.get>>["family"];

/** What pipe is re-piped in. */
export const REPIPE_IN = [
  "copper-size tube",
  "metric tube",
  "copper",
] as const satisfies readonly Family[];

const nearest = (pipe: string, family: Family): string | undefined => {
  const was = PIPE_SYSTEMS.get(pipe);
  return (
    was &&
    [...PIPE_SYSTEMS.values()]
      // Grey polybutylene is no longer sold.
      .filter((s) => s.family === family && !s.pipe.startsWith("pb-"))
      .toSorted((a, b) => Math.abs(a.boreM - was.boreM) - Math.abs(b.boreM - was.boreM))[0]?.pipe
  );
};

/** Families of pipe that a map has under pressure, with how much of each, m. */
export const pipeFamilies = ({
  runs,
}: Pick<WaterMap, "runs">): { family: Family; lengthM: number }[] => {
  const sum = new Map<Family, number>();
  for (const r of runs) {
    const family = PIPE_SYSTEMS.get(r.pipe)?.family;
    if (family && isPressed(r)) sum.set(family, (sum.get(family) ?? 0) + r.lengthM);
  }
  return [...sum].map(([family, lengthM]) => ({ family, lengthM }));
};

const isPressed = ({ service }: PipeRun): boolean => service === "cold" || service === "hot";

/** Every pressed pipe of one family in another; ids, lengths and all else stay. */
export const repiped = (map: WaterMap, from: Family, to: Family): WaterMap => ({
  ...map,
  runs: map.runs.map((r) => {
    if (!isPressed(r) || PIPE_SYSTEMS.get(r.pipe)?.family !== from) return r;
    return { ...r, pipe: nearest(r.pipe, to) ?? r.pipe };
  }),
});
