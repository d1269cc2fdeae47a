import {
  chlorineOf,
  liquidIn,
  type PushResult,
  strengthOf,
  volumeOf,
  type Wanted,
} from "../../contents/index.ts";
import { type Control, kindOfPart } from "../../watermap/index.ts";
import type { Action, Ask, Step } from "../step.ts";
import {
  addStep,
  confirm,
  controlsOf,
  rehearse,
  setValve,
  sortedByPlace,
  TAP_M3_PER_S,
  turn,
  v,
} from "../winterize/context.ts";
import { afterMachine, beforeMachine, machineCautions } from "../winterize/programme.ts";
import type { WaterContext } from "./request.ts";
import { driveOf, inTanks, type Run, runFor, type Source, sourcesOf } from "./source.ts";
import { fillTanks } from "./tank.ts";
import { planRoom } from "./waste-room.ts";

/** Every outlet run, cold then hot, until what comes is as wanted. */

// A way may take so many times its volume, and so many times each vessel on it, before it is given up.
const PATIENCE = 8;
const VESSELS = 6;
const AT_LEAST_M3 = 0.004;
// A tank is filled again rather than run below this share of it.
const LOW_SHARE = 0.12;

/** What a pass over all outlets is for. */
export interface Pass {
  readonly id: string;
  readonly stage: Step["stage"];
  readonly wants: Wanted;
  /** Run at least by this share of the pipes on the way, whatever is reckoned. */
  readonly leastShare?: number | undefined;
  /** And by so much, m3. */
  readonly leastM3?: number | undefined;
  readonly title: (name: string) => string;
  readonly row: string;
  readonly why: string;
  readonly expect: (m3: number, run: Run) => string;
  readonly asks?: (run: Run, place: { isFirst: boolean; isLast: boolean }) => Ask[];
  readonly cautions?: readonly string[];
  /** Free chlorine of what is let in where there is no tank, mg/L. */
  readonly chlorineMgL?: number | undefined;
  readonly needs?: readonly string[];
  /** Chlorine put into a tank that has to be filled again in the middle of it, mg/L. */
  readonly tankMgL?: number | undefined;
}

/** Whether all along a run is as wanted already. */
const isSo = (context: WaterContext, run: Run, wants: Wanted): boolean =>
  run.cells.every((c) => {
    const cell = context.network.cells[c];
    if (!cell || cell.capacityM3 <= 0) return true;
    const { plugs } = context.physical.contents[c] ?? { plugs: [] };
    if (
      wants.full === true &&
      volumeOf(liquidIn({ plugs, source: "assumed" })) < 0.9 * cell.capacityM3
    )
      return false;
    return plugs.every(
      (p) =>
        volumeOf(p) <= 0.02 * cell.capacityM3 ||
        ((wants.glycolAtMost === undefined || strengthOf(p) <= wants.glycolAtMost) &&
          (wants.chlorineAtLeast === undefined || chlorineOf(p) >= wants.chlorineAtLeast) &&
          (wants.chlorineAtMost === undefined || chlorineOf(p) <= wants.chlorineAtMost)),
    );
  });

const maxOf = (context: WaterContext, run: Run): number =>
  Math.max(AT_LEAST_M3, run.wayM3 * PATIENCE) +
  run.cells.reduce((sum, c) => {
    const cell = context.network.cells[c];
    return sum + (cell?.form === "vessel" ? cell.capacityM3 * VESSELS : 0);
  }, 0);

const isHot = (control: Control): number => (control.spec.name === "hot" ? 1 : 0);

/** Every outlet and low point in the order of a walk round the unit, cold before hot. */
export const outletsOf = (context: WaterContext): Control[] => {
  const all = sortedByPlace(context, controlsOf(context, "outlet"));
  const first = new Map(all.toReversed().map((c) => [c.part.id, all.indexOf(c)]));
  return all.toSorted(
    (a, b) =>
      (first.get(a.part.id) ?? 0) - (first.get(b.part.id) ?? 0) ||
      isHot(a) - isHot(b) ||
      (a.key < b.key ? -1 : 1),
  );
};

const drainsOf = (context: WaterContext): Control[] =>
  sortedByPlace(
    context,
    controlsOf(context, "drain").filter(
      (c) => !kindOfPart(c.part).role.vessel && context.physical.lineup[c.key] === "shut",
    ),
  );

/** The run of a control by the first source that brings anything to it. */
export const bestRun = (
  context: WaterContext,
  sources: readonly Source[],
  control: Control,
): Run | undefined => {
  for (const source of sources) {
    const run = runFor(context, source, control);
    if (run) return run;
  }
  return undefined;
};

export const nameOfSide = ({ part, spec }: Control): string =>
  spec.name === "main" || spec.name === "flush" ? part.name : `${part.name}, ${spec.name}`;

/** Whether any opening is still to be run for a pass. */
export const isDue = (context: WaterContext, pass: Pass): boolean => {
  const sources = sourcesOf(context);
  return [...outletsOf(context), ...drainsOf(context)].some((c) => {
    const run = bestRun(context, sources, c);
    return run !== undefined && !isSo(context, run, pass.wants);
  });
};

/** What a pass over all outlets may take through a source, m3: pipes by twice and a half, vessels by what they still hold. */
export const needOf = (context: WaterContext, source: Source): number => {
  const cells = new Set(outletsOf(context).flatMap((c) => runFor(context, source, c)?.cells ?? []));
  let need = 0;
  for (const i of cells) {
    const cell = context.network.cells[i];
    if (!cell) continue;
    const isTainted = strengthOf(liquidIn(context.physical.contents[i])) > 0.002;
    need +=
      cell.capacityM3 *
      (cell.form === "vessel" ? (isTainted ? VESSEL_RINSED : VESSEL_FILLED) : PIPE_RUN);
  }
  return need;
};
const PIPE_RUN = 2.5;
const VESSEL_FILLED = 1.2;
const VESSEL_RINSED = 3.5;

/** Runs each opening until all on the way is as wanted; tanks are filled again where they run low. Returns the runs that were written. */
export const planPass = (
  context: WaterContext,
  pass: Pass,
  skip: (run: Run) => boolean = () => false,
): Run[] => {
  const sources = sourcesOf(context);
  const runs = [...outletsOf(context), ...drainsOf(context)].flatMap(
    (c) => bestRun(context, sources, c) ?? [],
  );
  const due = runs.filter((run) => !skip(run) && !isSo(context, run, pass.wants));
  const done: Run[] = [];
  const lastOutlet = due.findLast((r) => r.control.spec.role === "outlet");
  for (const run of due) {
    // What an outlet before it has brought on the way may be enough: a low point then needs nothing.
    if (run.control.spec.role !== "outlet" && isSo(context, run, pass.wants)) continue;
    const place = { isFirst: done.length === 0, isLast: run === lastOutlet };
    if (runOne(context, pass, run, place)) done.push(run);
  }
  return done;
};

// So many tankfuls through one outlet, and it is given up.
const MOST_TANKFULS = 8;
const NEARLY_FULL_SHARE = 0.9;

const runOne = (
  context: WaterContext,
  pass: Pass,
  run: Run,
  place: { isFirst: boolean; isLast: boolean },
): boolean => {
  const { control, source } = run;
  const { part } = control;
  const outlets = controlsOf(context, "outlet").filter((c) => c.part.id === part.id);
  const isLastSide =
    outlets.length === 0 || outlets.toSorted((a, b) => isHot(a) - isHot(b)).at(-1) === control;
  const make = (maxM3: number, isWhole: boolean): Action[] => [
    ...beforeMachine(context, part, pass.id),
    ...turn(context, control, run.position),
    driveOf(
      context,
      run,
      // What stands in an outlet's own line is not known to the cup: it is run on.
      isWhole && pass.leastShare !== undefined
        ? { ...pass.wants, atLeastM3: Math.max(pass.leastM3 ?? 0, pass.leastShare * run.wayM3) }
        : pass.wants,
      maxM3,
      pass.chlorineMgL,
    ),
    ...(isWhole ? [confirm(`${pass.id}:${control.key}`, pass.row)] : []),
    setValve(control, run.position, run.rest),
    ...(isLastSide && isWhole ? afterMachine(context, part, pass.id) : []),
  ];
  const write = (actions: Action[], movedM3: number, n: number, isWhole: boolean): void => {
    const id = `${pass.id}:${control.key}${n > 0 ? `:${n + 1}` : ""}`;
    planRoom(context, control, movedM3, { id, stage: pass.stage });
    addStep(context, {
      id,
      stage: pass.stage,
      title: `${pass.title(kindOfPart(part).role.flushes ? `${part.name}, in short bursts` : nameOfSide(control))}${isWhole ? "" : ", a tankful first"}`,
      actions,
      why: pass.why,
      cautions: [...(pass.cautions ?? []), ...machineCautions(part)],
      expect: isWhole
        ? pass.expect(movedM3, run)
        : `About ${v(movedM3)}; not done yet: the tank is filled again, then on.`,
      asks: isWhole ? (pass.asks?.(run, place) ?? []) : [],
      ...(pass.needs ? { needs: [...pass.needs] } : {}),
      minutes: 1 + movedM3 / TAP_M3_PER_S / 60,
    });
  };
  for (let n = 0; n < MOST_TANKFULS; n++) {
    const actions = make(maxOf(context, run), true);
    const { physical, push } = resultOf(context, actions);
    if (!push || push.movedM3 <= 0) return false;
    const { heldM3, fullM3 } = inTanks(context, source);
    const leftM3 = inTanks({ ...context, physical }, source).heldM3;
    if (push.outcome === "reached" && (!source.pump || leftM3 >= LOW_SHARE * fullM3)) {
      write(actions, push.movedM3, n, true);
      return true;
    }
    if (!source.pump) break;
    if (heldM3 >= NEARLY_FULL_SHARE * fullM3) {
      const part = make(heldM3 - LOW_SHARE * fullM3, false);
      const moved = resultOf(context, part).push?.movedM3 ?? 0;
      if (moved <= 0) return false;
      write(part, moved, n, false);
    }
    if (!fillTanks(context, source, pass)) break;
  }
  return false;
};

const resultOf = (
  context: WaterContext,
  actions: readonly Action[],
): { physical: WaterContext["physical"]; push: PushResult | undefined } => {
  const { physical, effects } = rehearse(context, actions);
  return { physical, push: effects.find((e) => e.push)?.push };
};
