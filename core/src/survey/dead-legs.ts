import { kindOfPart, type Network, type Part } from "../watermap/index.ts";
import { usesOf, wetRuns, farEnd } from "./walk.ts";

/** A stretch that leads nowhere: water stands in it, nothing pushed ever leaves by it. */
export interface DeadLeg {
  /** The part at its end. */
  readonly end: string;
  readonly parts: readonly string[];
  readonly runs: readonly string[];
  readonly lengthM: number;
  readonly volumeM3: number;
}

const endsNowhere = (part: Part): boolean => {
  const { role, group } = kindOfPart(part);
  return !role.vessel && !role.cushion && group !== "waste" && usesOf(part).size === 0;
};

/** Every stretch from a blind end back to the first branch. */
export const deadLegs = (network: Network): DeadLeg[] => {
  const { map } = network;
  return map.parts.flatMap<DeadLeg>((end) => {
    const first = wetRuns(map, end.id);
    if (first.length !== 1 || !endsNowhere(end)) return [];
    const parts = [end.id];
    const runs: string[] = [];
    let lengthM = 0;
    let at = end.id;
    for (let run = first[0]; run;) {
      runs.push(run.id);
      lengthM += run.lengthM;
      const next = map.parts.find((p) => p.id === farEnd(run as NonNullable<typeof run>, at).part);
      const onward = next ? wetRuns(map, next.id).filter((r) => r !== run) : [];
      if (!next || onward.length !== 1 || !endsNowhere(next) || parts.includes(next.id)) break;
      parts.push(next.id);
      at = next.id;
      run = onward[0];
    }
    const owners = new Set([...parts, ...runs]);
    return [
      {
        end: end.id,
        parts,
        runs,
        lengthM,
        volumeM3: network.cells.reduce(
          (sum, c) => sum + (owners.has(c.ownerId) ? c.capacityM3 : 0),
          0,
        ),
      },
    ];
  });
};
