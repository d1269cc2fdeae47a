import { liquidIn, type Mixture, NOTHING, plus, strengthOf, volumeOf } from "../contents/index.ts";
import {
  act,
  type Action,
  type Physical,
  planWinterize,
  standardRequest,
  startPhysical,
} from "../procedure/index.ts";
import { asTrial } from "../procedure/trial.ts";
import { COMMON_SIM_SETTINGS, simActions, type SimDone, simulate } from "../simulation/index.ts";
import { buildNetwork, type WaterMap } from "../watermap/index.ts";
import { asSimulated } from "./simulated.ts";

/**
 * The planner's engine held against the sandbox: every action of a plan is done by both from the same state, and what moved is compared.
 * The planner forces its flow at a set rate; the sandbox solves pump, pipes and springs as time passes.
 */

const LEAST_M3 = 2e-4;
const ON_M3 = 5e-4;

export interface Disagreement {
  readonly step: string;
  readonly action: string;
  /** Volume that one moved and the other did not, as a share of what moved. */
  readonly volumeShare: number;
  /** Strength of what came out, as a share, one less the other. */
  readonly strengthPoints: number;
}

const sumOf = (out: ReadonlyMap<string, Mixture>): Mixture =>
  [...out.values()].reduce((all, m) => plus(all, m), NOTHING);

/** How far both are apart after one action, by what moved. */
const apart = (
  before: Physical,
  planned: Physical,
  out: Mixture,
  done: SimDone | undefined,
  watch: string | undefined,
): { volumeShare: number; strengthPoints: number } => {
  const after = done?.state.contents ?? before.contents;
  const held = (contents: Physical["contents"]): number =>
    contents.reduce((sum, c) => sum + volumeOf(liquidIn(c)), 0);
  const came = volumeOf(planned.came) - volumeOf(before.came);
  const gone = volumeOf(planned.gone) - volumeOf(before.gone);
  const moved = Math.max(
    LEAST_M3,
    came,
    gone,
    Math.abs(held(planned.contents) - held(before.contents)),
    volumeOf(out),
  );
  const volumeShare = Math.abs(held(planned.contents) - held(after)) / moved;
  const theirs =
    watch === undefined ? sumOf(done?.out ?? new Map()) : (done?.out.get(watch) ?? NOTHING);
  const bothRan = volumeOf(out) > LEAST_M3 && volumeOf(theirs) > LEAST_M3;
  return {
    volumeShare,
    strengthPoints: bothRan ? Math.abs(strengthOf(out) - strengthOf(theirs)) : 0,
  };
};

/**
 * A run that spits before it is this side's, run on for a while: so much liquid comes before the air as after it, and ended by what has
 * come out the one would stop on this side of the air and the other on that.
 */
const ranOn = (action: Action, { push }: ReturnType<typeof act>): Action =>
  action.type === "pump" && push?.shown
    ? { ...action, untilStrength: 1, maxM3: push.drawnM3 + ON_M3 }
    : action;

/** Every action of a map's plan, done by both. */
export const disagreements = (map: WaterMap): Disagreement[] => {
  const network = buildNetwork(map);
  const start = startPhysical(network);
  const request = standardRequest(network, start);
  const strength = request.product.strength;
  let physical: Physical = start;
  return planWinterize(request).steps.flatMap((step) =>
    step.actions.map((action) => {
      const before = physical;
      const meant = act(network, before, action, strength);
      physical = meant.physical;
      const effect = act(network, before, ranOn(action, meant), strength);
      const out = effect.push?.watched ?? sumOf(effect.out);
      const outM3 = volumeOf(effect.push?.watched ?? NOTHING);
      const actions = asTrial(action, strength, outM3);
      const result = simulate(
        network,
        asSimulated(network, before, strength),
        simActions.parse(actions),
        {
          ...COMMON_SIM_SETTINGS,
          frames: 0,
        },
      );
      const done = result.ok ? result.after.at(-1) : undefined;
      const watch =
        action.type === "pump" || action.type === "push-by-hand" ? action.watch : undefined;
      return {
        step: step.id,
        action: action.type,
        ...apart(before, effect.physical, out, done, watch),
      };
    }),
  );
};
