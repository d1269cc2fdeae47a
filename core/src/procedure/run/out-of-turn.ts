import { type Contents, liquidIn, strengthOf, volumeOf } from "../../contents/index.ts";
import { cellName, type Network } from "../../watermap/index.ts";
import { actOnce } from "../act.ts";
import { type Physical } from "../physical.ts";
import { type Step, STAGES } from "../step.ts";
import { productIn } from "./product-in.ts";
import { refuse, type Refused, type RunState } from "./state.ts";

/**
 * Whether a later step may be done now. It may where what it needs is signed, every handle stands as it takes it, and all the steps come to
 * the same in that order as in the sheet's; else the reason is said.
 */

const SAME_SHARE = 0.02;
const SAME_M3 = 1e-5;
const SAME_STRENGTH = 0.02;

const after = ({ network, setup }: RunState, start: Physical, steps: readonly Step[]): Physical =>
  steps.reduce(
    (now, step) =>
      step.actions.reduce(
        (so, action) => actOnce(network, so, action, productIn(setup)).physical,
        now,
      ),
    start,
  );

const PRESSES: ReadonlySet<Step["stage"]> = new Set(["air", "fill"]);
const STAGE_ORDER: readonly Step["stage"][] = STAGES.map((s) => s.stage);

/** The first cell that would hold something else. */
const differing = (network: Network, a: Contents, b: Contents): number => {
  const of = (contents: Contents, i: number) => {
    const liquid = liquidIn(contents[i]);
    return { m3: volumeOf(liquid), strength: strengthOf(liquid) };
  };
  return network.cells.findIndex((cell, i) => {
    const [x, y] = [of(a, i), of(b, i)];
    const isWet = Math.min(x.m3, y.m3) > SAME_M3;
    return (
      Math.abs(x.m3 - y.m3) > Math.max(SAME_M3, SAME_SHARE * cell.capacityM3) ||
      (isWet && Math.abs(x.strength - y.strength) > SAME_STRENGTH)
    );
  });
};

/** A handle that stands otherwise than a step takes it. */
const otherwise = ({ network, physical }: RunState, step: Step): string | undefined => {
  const lineup: Record<string, string> = { ...physical.lineup };
  for (const a of step.actions) {
    if (a.type !== "set-valve") continue;
    const stands =
      lineup[a.control] ?? network.controls.find((c) => c.key === a.control)?.spec.inUse;
    if (stands !== a.from) return a.label;
    lineup[a.control] = a.position;
  }
  return undefined;
};

const firstOf = (steps: readonly Step[]): string => steps.at(-1)?.title ?? "the step in hand";

/** Why a step cannot come first, or nothing. Asked by the engine when it is entered, and never of what is kept. */
export const outOfTurn = (state: RunState, stepId: string): Refused | undefined => {
  const at = state.todo.findIndex((s) => s.id === stepId);
  const step = state.todo[at];
  if (!step || at === 0) return undefined;
  const between = state.todo.slice(0, at);
  const missing = between.find((s) => step.needs.includes(s.id));
  if (missing) return refuse("out-of-order", `Not before this is signed: ${missing.title}.`);
  // Under pressure nothing is left open that a step before was to shut: not for choice.
  const earlier = PRESSES.has(step.stage)
    ? between.find((s) => STAGE_ORDER.indexOf(s.stage) < STAGE_ORDER.indexOf(step.stage))
    : undefined;
  if (earlier)
    return refuse("out-of-order", `Nothing is pressed before this is signed: ${earlier.title}.`);
  const handle = otherwise(state, step);
  if (handle !== undefined)
    return refuse(
      "out-of-order",
      `${handle} does not stand yet as this step takes it. First: ${firstOf(between.filter((s) => s.actions.some((a) => a.type === "set-valve" && a.label === handle)))}.`,
    );
  const inOrder = after(state, state.physical, state.todo);
  const brought = after(state, state.physical, [step, ...state.todo.toSpliced(at, 1)]);
  const cell = differing(state.network, inOrder.contents, brought.contents);
  if (cell >= 0)
    return refuse(
      "out-of-order",
      `Done now it comes to something else: the ${cellName(state.network, cell).toLowerCase()} would hold {m3:${Number(volumeOf(liquidIn(brought.contents[cell])).toPrecision(3))}} in the end instead of {m3:${Number(volumeOf(liquidIn(inOrder.contents[cell])).toPrecision(3))}}, or not as strong. First: ${firstOf(between)}.`,
    );
  return undefined;
};
