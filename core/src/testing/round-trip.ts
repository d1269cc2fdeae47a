import { chlorineOf, liquidIn, NOTHING, strengthOf, volumeOf } from "../contents/index.ts";
import {
  act,
  type Method,
  type Physical,
  type Plan,
  planSanitize,
  planSpring,
  planWinterize,
  standardRequest,
  startPhysical,
  type Step,
  WATER_SETTINGS,
  type WaterSettings,
} from "../procedure/index.ts";
import { asTrial } from "../procedure/trial.ts";
import {
  COMMON_SIM_SETTINGS,
  type Notice,
  simActions,
  type SimAction,
  simDo,
  type SimState,
} from "../simulation/index.ts";
import { asSimulated } from "./simulated.ts";
import {
  buildNetwork,
  heatersOf,
  inUseLineup,
  type Network,
  type WaterMap,
} from "../watermap/index.ts";

/**
 * A unit from autumn to summer and back: winterized, de-winterized from how it was left, sanitized. Plans are made by the planner's engine and
 * done by the sandbox, which solves pump, pipes and springs as time passes and knows nothing of the plan's expectations.
 */

/** What the sandbox showed at a step. */
export interface Shown {
  readonly step: Step;
  /** Liquid that came at what was watched, m3, and what was expected there. */
  readonly cameM3: number;
  readonly expectedM3: number;
  readonly notices: readonly Notice[];
  readonly state: SimState;
  readonly physical: Physical;
  /** The way in which something was wanted to come did not give it in the time. */
  readonly isShort: boolean;
}

const MOST_WAITS = 12;
const QUIET = { ...COMMON_SIM_SETTINGS, frames: 0 };

/**
 * Does a plan in the sandbox.
 * @param skips rows that whoever does it leaves out, though they are ticked
 */
export const replayed = (
  network: Network,
  start: Physical,
  plan: Pick<Plan, "steps">,
  skips: (step: Step, action: Step["actions"][number]) => boolean = () => false,
): Shown[] => {
  let physical = start;
  let state = asSimulated(network, start, 0);
  return plan.steps.map((step) => {
    let [cameM3, expectedM3, isShort] = [0, 0, false];
    const notices: Notice[] = [];
    for (const action of step.actions) {
      const effect = act(network, physical, action, 0);
      ({ physical } = effect);
      if (skips(step, action)) continue;
      const wantedM3 = effect.push ? volumeOf(effect.push.watched) : 0;
      expectedM3 += wantedM3;
      for (const trial of asTrial(action, 0, wantedM3)) {
        let leftM3 = wantedM3;
        // Whoever waits for a large tank waits on; no longer where nothing comes any more.
        for (let more = 0; more < MOST_WAITS; more++) {
          const until =
            trial.do === "wait" && trial.until?.volumeM3 !== undefined
              ? { ...trial, until: { ...trial.until, volumeM3: Math.max(leftM3, 1e-9) } }
              : trial;
          const done = simDo(network, state, simActions.parse([until])[0] as SimAction, QUIET);
          if (!done.ok) throw new Error(`${step.id}: ${done.problem}`);
          ({ state } = done.done);
          notices.push(...done.done.notices);
          if (!("watch" in action)) break;
          const cameNow = volumeOf(done.done.out.get(action.watch) ?? NOTHING);
          cameM3 += cameNow;
          leftM3 -= cameNow;
          const isWaiting = trial.do === "wait" && done.done.ended !== "seen";
          if (isWaiting && cameNow > 1e-4) continue;
          if (isWaiting && effect.push?.outcome === "reached") isShort = true;
          break;
        }
      }
    }
    return { step, cameM3, expectedM3, notices, state, physical, isShort };
  });
};

/** Outlets of the drinking side, with the cell that each gives from. */
const drinking = (network: Network): { id: string; cell: number; name: string }[] =>
  network.openings.flatMap((o) =>
    o.use === "outlet" && network.cells[o.cell]?.side === "fresh"
      ? [{ id: o.id, cell: o.cell, name: `${o.part.name}, ${o.label}` }]
      : [],
  );

export interface RoundTrip {
  readonly unit: string;
  readonly method: Method;
  readonly failures: readonly string[];
  readonly steps: number;
  /** Dose at the outlet that gets least: by the plan and by the sandbox, mg/L. */
  readonly far?: { readonly planned: number; readonly shown: number };
}

// The sandbox and the planner part by so much where a heater's last is rinsed (our own bound; the engines agree to 2 %).
const BESIDE = 1.25;

/** One unit by one method, all the way round. */
export const roundTrip = (
  map: WaterMap,
  method: Method,
  water: WaterSettings = WATER_SETTINGS,
): RoundTrip => {
  const network = buildNetwork(map);
  const failures: string[] = [];
  const start = startPhysical(network);
  const autumn = planWinterize({ ...standardRequest(network, start), method });
  const left: Physical = { ...autumn.after, facts: [], drawnM3: 0 };
  const request = { ...standardRequest(network, left), method, water };
  const spring = planSpring(request);
  failures.push(...uncalledFor(network, left, spring));
  const shown = replayed(network, left, spring);
  const last = shown.at(-1);
  failures.push(...springFailures(network, shown, water));
  const filled: Physical = { ...spring.after, facts: [] };
  const sanitize = planSanitize({ ...request, start: filled });
  const soaked = replayed(network, filled, sanitize);
  const { failures: dosed, far } = doseFailures(network, soaked, water);
  failures.push(...dosed);
  return {
    unit: map.name,
    method,
    failures,
    steps: spring.steps.length + sanitize.steps.length,
    ...(last && far ? { far } : {}),
  };
};

/** What stands on the sheet although nothing of it was left so. */
export const uncalledFor = (
  network: Network,
  left: Physical,
  plan: Pick<Plan, "steps">,
): string[] => {
  let physical = left;
  return plan.steps.flatMap((step) =>
    step.actions.flatMap((action) => {
      const before = physical;
      ({ physical } = act(network, before, action, 0));
      if (action.type === "set-valve") {
        const stands =
          before.lineup[action.control] ??
          network.controls.find((c) => c.key === action.control)?.spec.inUse;
        return stands === action.from && action.from !== action.position
          ? []
          : [`${step.id}: ${action.control} stands ${stands}`];
      }
      if (action.type === "reconnect")
        return before.apart.some((e) => e.run === action.run && e.end === action.end)
          ? []
          : [`${step.id}: ${action.run} was not undone`];
      return [];
    }),
  );
};

const springFailures = (
  network: Network,
  shown: readonly Shown[],
  water: WaterSettings,
): string[] => {
  const last = shown.at(-1);
  if (!last) return ["no step at all"];
  const use = inUseLineup(network);
  const otherwise = network.controls.filter(
    (c) =>
      (last.state.lineup[c.key] ?? c.spec.inUse) !== (use[c.key] ?? c.spec.inUse) &&
      c.part.kind !== "supply-post",
  );
  const tasting = drinking(network).filter(
    (o) => strengthOf(liquidIn(last.state.contents[o.cell])) > water.tasteAtMost * BESIDE,
  );
  const heat = shown.find((s) => s.step.id.endsWith(":heat"));
  const notFull = heatersOf(network).filter(({ cell }) => {
    const at = heat?.state ?? last.state;
    return volumeOf(liquidIn(at.contents[cell])) < 0.95 * (network.cells[cell]?.capacityM3 ?? 0);
  });
  const unheated = heatersOf(network).filter(
    ({ part }) => !shown.some((s) => s.step.id === `prove:${part.id}:heat`),
  );
  return [
    ...otherwise.map((c) => `${c.key} is left ${last.state.lineup[c.key]}`),
    ...last.state.apart.map((e) => `${e.run} is left undone`),
    ...tasting.map(
      (o) =>
        `${o.name} tastes: ${(100 * strengthOf(liquidIn(last.state.contents[o.cell]))).toFixed(2)} %`,
    ),
    ...notFull.map(({ part }) => `${part.name} is not full when heat may go on`),
    ...unheated.map(({ part }) => `${part.name} never gets heat`),
    ...shown.filter((s) => s.isShort).map((s) => `${s.step.id}: less came than it should`),
    ...shown
      .flatMap((s) => s.notices.map((n) => ({ n, s })))
      .filter(({ n }) => n.code === "heater-on-empty")
      .map(({ n, s }) => `${s.step.id}: ${n.message}`),
  ];
};

const doseFailures = (
  network: Network,
  shown: readonly Shown[],
  water: WaterSettings,
): { failures: string[]; far?: { planned: number; shown: number } } => {
  const strip = shown.find((s) => s.step.id.startsWith("stand:strip"));
  const ask = strip?.step.asks[0];
  const cell = network.cellIndex.get(ask?.cell ?? "");
  if (!strip || ask?.expected === undefined || cell === undefined)
    return { failures: ["no strip is read where least comes"] };
  const far = { planned: ask.expected, shown: chlorineOf(liquidIn(strip.state.contents[cell])) };
  const last = shown.at(-1);
  const strong = drinking(network).filter(
    (o) => chlorineOf(liquidIn(last?.state.contents[o.cell])) > water.chlorine.limitMgL * BESIDE,
  );
  const weak = drinking(network).filter(
    (o) => chlorineOf(liquidIn(strip.state.contents[o.cell])) < 0.9 * water.chlorine.targetMgL,
  );
  return {
    far,
    failures: [
      ...(Math.abs(far.shown / far.planned - 1) > 0.05
        ? [`the far outlet has ${far.shown.toFixed(1)} mg/L, ${far.planned.toFixed(1)} by the plan`]
        : []),
      ...weak.map(
        (o) =>
          `${o.name} has only ${chlorineOf(liquidIn(strip.state.contents[o.cell])).toFixed(1)} mg/L`,
      ),
      ...strong.map(
        (o) =>
          `${o.name} still has ${chlorineOf(liquidIn(last?.state.contents[o.cell])).toFixed(1)} mg/L`,
      ),
    ],
  };
};
