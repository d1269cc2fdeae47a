import { totalAboard, volumeOf } from "../../contents/index.ts";
import { type Control, kindOfPart } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  controlsOf,
  has,
  inletCaps,
  rehearse,
  seaIsShut,
  setValve,
  sortedByPlace,
  turn,
  v,
} from "./context.ts";
import { planDeadEnds } from "./dead-ends.ts";
import { LINES_DRAINED, listed, mayStandOpen } from "./pump-dry.ts";
import { hotCells, isApart, isOnHotSide, postEnds } from "./secure.ts";

/** Water out of the lines, everything open at once and every valve turned through. */

// Less than this is not worth a turn of the wrist.
const WORTH_M3 = 5e-6;

/** Every outlet, low point and inlet open at once, so that air enters and water leaves; then shut again. */
export const drainLines = (context: Context): void => {
  if (!has(context, LINES_DRAINED)) {
    const low = controlsOf(context, "drain").filter((c) => !kindOfPart(c.part).role.vessel);
    // Hot water under a hand: taps and low points of a heater that is not off and cool stay shut.
    const scalds = hotCells(context).size > 0;
    const all = sortedByPlace(context, [
      ...controlsOf(context, "outlet"),
      ...inletCaps(context),
      ...low,
    ]).filter(
      (c) => !(scalds && isOnHotSide(context, c)) && (seaIsShut(context) || !isRaw(context, c)),
    );
    const turns = all.flatMap((c) => turn(context, c, "open"));
    const off = postEnds(context)
      .filter((e) => !isApart(context, e))
      .map<Action>(({ run, end, name }) => ({
        type: "disconnect",
        run,
        end,
        jug: false,
        label: `Line off at the ${name}`,
      }));
    const actions: Action[] = [
      ...turns,
      ...off,
      { type: "drain" },
      confirm(LINES_DRAINED, "Drains have stopped running; unit rocked or tilted once"),
    ];
    const { effects } = rehearse(context, actions);
    const result = effects.find((e) => e.out.size > 0 || e.drained.length > 0);
    const out = [...(result?.out ?? [])].reduce((sum, [, m]) => sum + volumeOf(m), 0);
    const stays = [
      ...new Set(
        (result?.keptWet ?? [])
          .map((c) => context.network.cells[c])
          .filter((c) => c?.part && c.form !== "vessel"),
      ),
    ];
    addStep(context, {
      id: "drain:lines",
      stage: "drain",
      title: "Open every tap, drain and inlet",
      actions,
      why: `Air must enter for water to leave: a shut tap holds its line like a straw.${
        stays.length
          ? ` Still wet afterwards: ${listed(stays.map((c) => c?.part?.name ?? "")).toLowerCase()}.`
          : ""
      }`,
      expect:
        out < WORTH_M3
          ? "Drops at the most: the lines have run out already."
          : `About ${v(out)} runs out of the drains.`,
      needs: ["secure:pump-and-supply"],
      minutes: 8 + turns.length,
    });
  }
  turnThrough(context);
  planDeadEnds(context);
  const capped = postEnds(context)
    .filter((e) => isApart(context, e))
    .map<Action>(({ run, end, name }) => ({
      type: "reconnect",
      run,
      end,
      label: `Cap on the line that was taken off the ${name}`,
    }));
  const shut = [
    ...sortedByPlace(context, mayStandOpen(context)).flatMap((c) => turn(context, c, "shut")),
    ...capped,
  ];
  const caps = new Set(inletCaps(context).map((c) => c.key));
  if (shut.length > 0)
    addStep(context, {
      id: "drain:shut",
      stage: "drain",
      title: shut.some((a) => a.type === "set-valve" && caps.has(a.control))
        ? "Shut every tap, low point and inlet"
        : "Shut every tap and low point",
      actions: shut,
      why: "An open tap, low point or inlet empties the jug unseen as soon as the pump starts.",
      expect: "Each handle shut; the tank's own drain stays open.",
      minutes: 3 + shut.length / 2,
    });
};

const isRaw = ({ network }: Context, control: Control): boolean =>
  network.openings.some(
    (o) => o.gate?.key === control.key && network.cells[o.cell]?.side === "raw",
  );

const TURNED = "valves-turned-through";

/** With everything open, each valve and selector through its positions: what it shuts off runs out too. */
const turnThrough = (context: Context): void => {
  // Not for choice: with a heater that is not off and cool no valve about it is turned, not for a moment.
  if (!has(context, LINES_DRAINED) || has(context, TURNED) || hotCells(context).size > 0) return;
  // Shut again, or filled since: then nothing runs out of the lines, and what would is to stay.
  if (!mayStandOpen(context).some((c) => context.physical.lineup[c.key] === "open")) return;
  const aboard = (physical: Context["physical"]): number =>
    volumeOf(totalAboard(physical.contents));
  const actions: Action[] = [];
  let now = context.physical;
  const raws = new Set(
    context.network.openings.filter((o) => o.use === "raw").map((o) => o.part.id),
  );
  const valves = sortedByPlace(context, [
    ...controlsOf(context, "selector"),
    ...controlsOf(context, "valve"),
  ]);
  for (const control of valves) {
    if (raws.has(control.part.id)) continue;
    const from = now.lineup[control.key] ?? control.spec.inUse;
    const through = control.spec.positions
      .filter((p) => p.name !== from)
      .flatMap<Action>((p) => {
        const there: Action[] = [
          setValve(control, from, p.name),
          { type: "drain" },
          setValve(control, p.name, from),
        ];
        const tried = rehearse({ ...context, physical: now }, there).physical;
        if (aboard(now) - aboard(tried) < WORTH_M3) return [];
        now = tried;
        return there;
      });
    actions.push(...through);
  }
  if (actions.length === 0) return;
  const out = aboard(context.physical) - aboard(now);
  addStep(context, {
    id: "drain:turn-through",
    stage: "drain",
    title: "Turn these valves through their positions",
    actions: [...actions, confirm(TURNED, "Each turned through while everything stood open")],
    why: "What a valve shuts off keeps its water until it is turned: a fill line, the house side of a selector, a bypass.",
    expect: `About ${v(out)} more runs out.`,
    needs: ["drain:lines"],
    minutes: 2 + actions.length / 3,
  });
};
