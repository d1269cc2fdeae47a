import { type Refit, WORK_STATES, type WorkState, workStateOf } from "@uppershed/core/refit";
import type { WaterMap } from "@uppershed/core/watermap";
import type { RefitHere } from "./use-refit.ts";

/** The work on a refit: which parts and pipes it is about, and how far each has come. */

export interface WorkItem {
  readonly id: string;
  readonly name: string;
  /** Of a pipe, m. */
  readonly lengthM: number | undefined;
  readonly state: WorkState;
  /** It stands on the unit's map; else it is proposed. */
  readonly isIn: boolean;
  /** Taken out with its piece: nothing of it is installed. */
  readonly goes: boolean;
}

const nameIn = (maps: readonly WaterMap[], id: string): { name: string; lengthM?: number } => {
  for (const map of maps) {
    const part = map.parts.find((p) => p.id === id);
    if (part) return { name: part.name };
    const run = map.runs.find((r) => r.id === id);
    if (run) {
      const of = (end: string): string => map.parts.find((p) => p.id === end)?.name ?? end;
      return {
        name: run.name ?? `pipe from ${of(run.from.part)} to ${of(run.to.part)}`,
        lengthM: run.lengthM,
      };
    }
  }
  return { name: id };
};

/** What the work is about: what is in already, then what is proposed. */
export const workItems = ({ onFile, pieces, today, proposed }: RefitHere): WorkItem[] => {
  const refit = onFile.refit as Pick<Refit, "work">;
  const adopted = [...new Set(onFile.refit.adopted.flatMap((a) => a.of))];
  const there = new Set<string>([...proposed.parts, ...proposed.runs].map((x) => x.id));
  const open = pieces.flatMap((p) => [...p.parts, ...p.runs]);
  const item = (id: string, isIn: boolean): WorkItem => {
    const { name, lengthM } = nameIn([proposed, today], id);
    return { id, name, lengthM, state: workStateOf(refit, id), isIn, goes: !there.has(id) };
  };
  return [
    ...adopted.filter((id) => !open.includes(id) && there.has(id)).map((id) => item(id, true)),
    ...open.map((id) => item(id, false)),
  ];
};

const rank = (state: WorkState): number => WORK_STATES.indexOf(state);

export interface WorkSum {
  readonly state: Exclude<WorkState, "planned">;
  readonly count: number;
  readonly lengthM: number;
  /** Both ends of each pipe. */
  readonly joints: number;
}

/** How much has come so far or further, by number and by length of pipe. */
export const sumOf = (
  items: readonly WorkItem[],
): { all: WorkSum[]; of: number; lengthM: number; joints: number } => {
  const stays = items.filter((i) => !i.goes);
  const lengthOf = (of: readonly WorkItem[]): number =>
    of.reduce((sum, i) => sum + (i.lengthM ?? 0), 0);
  const jointsOf = (of: readonly WorkItem[]): number =>
    2 * of.filter((i) => i.lengthM !== undefined).length;
  return {
    of: stays.length,
    lengthM: lengthOf(stays),
    joints: jointsOf(stays),
    all: (["cut", "installed", "tested", "closed"] as const).map((state) => {
      const so = stays.filter((i) => rank(i.state) >= rank(state));
      return { state, count: so.length, lengthM: lengthOf(so), joints: jointsOf(so) };
    }),
  };
};
