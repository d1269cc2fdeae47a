import { frostVerdict } from "../contents/index.ts";
import {
  act,
  type Method,
  type Physical,
  planWinterize,
  rowsOf,
  standardRequest,
  startPhysical,
  type Step,
} from "../procedure/index.ts";
import { buildNetwork, type Network, type WaterMap } from "../watermap/index.ts";
import { judgePlan } from "./checker/index.ts";

/**
 * A sheet with one of its steps, or one of its rows, left out: whether the unit then holds otherwise, stands otherwise, takes otherwise, or a
 * hazard is passed. What changes nothing and is not marked as good practice stands on the sheet for show.
 */

const STRENGTH = 0.5;
const WINTER_LOW_C = -18;
const SAME_M3 = 2e-5;

interface Outcome {
  readonly told: string;
  readonly drawnM3: number;
}

const replayed = (network: Network, start: Physical, steps: readonly Step[]): Physical =>
  steps.reduce(
    (now, step) =>
      step.actions.reduce((so, action) => act(network, so, action, STRENGTH).physical, now),
    start,
  );

const outcomeOf = (map: WaterMap, network: Network, steps: readonly Step[]): Outcome => {
  const start = startPhysical(network);
  const after = replayed(network, start, steps);
  const verdict = frostVerdict(network, after.contents, "by-part");
  const { hazards, falseProtected } = judgePlan(
    map,
    start.lineup,
    { steps, verdict, cannotTell: [] },
    { winterLowC: WINTER_LOW_C, strength: STRENGTH, burst: true },
  );
  return {
    told: JSON.stringify([
      verdict.owners.map((o) => (o.holdsToC === null ? null : Math.round(o.holdsToC))),
      hazards.length,
      falseProtected.length,
      Object.entries(after.lineup).toSorted(([a], [b]) => (a < b ? -1 : 1)),
      after.apart,
    ]),
    drawnM3: after.drawnM3,
  };
};

const isSame = (a: Outcome, b: Outcome): boolean =>
  a.told === b.told && Math.abs(a.drawnM3 - b.drawnM3) <= SAME_M3;

export interface LeftOut {
  readonly steps: number;
  readonly rows: number;
  /** What can be left out without any difference and is not marked as good practice. */
  readonly forShow: readonly string[];
}

/** Leaves out each step, and each row of a step that is not marked as good practice; what only a person can vouch for is passed by. */
export const leftOut = (map: WaterMap, method: Method): LeftOut => {
  const network = buildNetwork(map);
  const { steps } = planWinterize({
    ...standardRequest(network, startPhysical(network)),
    method,
  });
  const whole = outcomeOf(map, network, steps);
  const forShow: string[] = [];
  let rows = 0;
  steps.forEach((step, i) => {
    // What only a person can vouch for locks other steps, and changes nothing that is worked out.
    const vouched = step.actions.every((a) => a.type === "confirm" || a.type === "wait");
    if (step.practice !== undefined || vouched) return;
    if (isSame(whole, outcomeOf(map, network, steps.toSpliced(i, 1)))) forShow.push(step.id);
    // A pump left running dry wears; no frost verdict and no hazard to people shows it.
    const isStop = (a: Step["actions"][number]): boolean =>
      a.type === "set-valve" &&
      a.position === "off" &&
      network.controls.some((c) => c.key === a.control && c.spec.role === "switch");
    // What the step itself turned goes back: the next step's lineup counts on it, and an opening left so runs out in time, which a replay
    // that drains only where the sheet says so does not show.
    const found = new Map<string, string>();
    const isTurnedBack = (a: Step["actions"][number]): boolean => {
      if (a.type !== "set-valve") return false;
      if (found.get(a.control) === a.position) return true;
      if (!found.has(a.control)) found.set(a.control, a.from);
      return false;
    };
    const all = rowsOf(step).filter(
      ({ action }) =>
        action.type !== "confirm" &&
        action.type !== "wait" &&
        !isStop(action) &&
        !isTurnedBack(action),
    );
    if (all.length < 2) return;
    for (const { action, key } of all) {
      rows++;
      const less = { ...step, actions: step.actions.filter((a) => a !== action) };
      if (isSame(whole, outcomeOf(map, network, steps.with(i, less))))
        forShow.push(`${step.id} ${key}`);
    }
  });
  return { steps: steps.length, rows, forShow };
};
