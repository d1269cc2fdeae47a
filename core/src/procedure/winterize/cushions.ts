import { frostVerdict } from "../../contents/index.ts";
import type { Control } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  controlsOf,
  rehearse,
  setValve,
  TAP_M3_PER_S,
  turn,
  v,
} from "./context.ts";
import type { Entry } from "./entry.ts";
import { watchedBy } from "./watch.ts";

/**
 * An accumulator hangs beside the line: product only comes into it and its pipe as it is pressed, and mixes there with what it held. It is
 * let out and pressed again until it holds.
 */

const MOST_TIMES = 4;
const PATIENCE = 6;
const AT_LEAST_M3 = 0.003;

const tooWarm = (context: Context, physical: Context["physical"]): Set<number> => {
  const { request, network } = context;
  const { cells } = frostVerdict(network, physical.contents, request.basis, physical.measured);
  const limit = request.winterLowC - request.marginC;
  return new Set(
    cells.flatMap((c) =>
      c.holdsToC !== null && c.holdsToC > limit && network.cells[c.cell]?.side === "fresh"
        ? [c.cell]
        : [],
    ),
  );
};

/** Cells of a cushion and of the pipe that leads to nothing but it. */
const cellsOf = ({ network }: Context, cushion: number): number[] => {
  const pipes = (network.linksOf[cushion] ?? []).flatMap((l) => {
    const link = network.links[l];
    return link ? [link.a === cushion ? link.b : link.a] : [];
  });
  return [cushion, ...pipes];
};

export const planCushions = (context: Context, entry: Entry, strength: number): void => {
  const { pump } = entry;
  if (!pump) return;
  context.network.cells.forEach((cell, i) => {
    if (cell.prechargePa === undefined || !cell.part || context.blocked.has(cell.part.id)) return;
    const mine = cellsOf(context, i);
    const now = tooWarm(context, context.physical);
    if (!mine.some((c) => now.has(c))) return;
    const near = nearestTap(context, pump);
    if (near) work(context, { id: cell.part.id, name: cell.part.name, mine }, pump, near, strength);
  });
};

const nearestTap = (
  context: Context,
  pump: Control,
): { control: Control; watch: string; wayM3: number } | undefined =>
  controlsOf(context, "outlet")
    .flatMap((control) => {
      const watched = watchedBy(context, control, { kind: "pump", switchKey: pump.key });
      return watched ? [{ control, watch: watched.watch, wayM3: watched.wayM3 }] : [];
    })
    .toSorted((a, b) => a.wayM3 - b.wayM3)[0];

const work = (
  context: Context,
  cushion: { id: string; name: string; mine: readonly number[] },
  pump: Control,
  near: { control: Control; watch: string; wayM3: number },
  strength: number,
): void => {
  const once: Action[] = [
    ...turn(context, near.control, "open"),
    ...(context.physical.lineup[pump.key] === "on" ? [setValve(pump, "on", "off")] : []),
    { type: "drain" },
    setValve(pump, "off", "on"),
    {
      type: "pump",
      switch: pump.key,
      watch: near.watch,
      untilStrength: strength,
      maxM3: Math.max(AT_LEAST_M3, near.wayM3 * PATIENCE),
    },
    setValve(near.control, "open", "shut"),
  ];
  const before = tooWarm(context, context.physical);
  for (let times = 1; times <= MOST_TIMES; times++) {
    const actions: Action[] = [
      ...Array.from({ length: times }, () => once).flat(),
      confirm(
        `worked:${cushion.id}`,
        `Let out and pressed ${times === 1 ? "once" : `${times} times`}`,
      ),
    ];
    const tried = rehearse(context, actions).physical;
    const after = tooWarm(context, tried);
    const holds = cushion.mine.every((c) => !after.has(c));
    const lost = [...after].some((c) => !before.has(c));
    if (lost) return;
    if (!holds && times < MOST_TIMES) continue;
    if (
      cushion.mine.filter((c) => after.has(c)).length >=
      cushion.mine.filter((c) => before.has(c)).length
    )
      return;
    const drawn = tried.drawnM3 - context.physical.drawnM3;
    addStep(context, {
      id: `fill:${cushion.id}:work`,
      stage: "fill",
      title: `Work the ${cushion.name.toLowerCase()}: let it out at the ${near.control.part.name.toLowerCase()}, press it again`,
      actions,
      why: "It hangs beside the line: antifreeze comes into it only as it is pressed, and mixes with the water that it kept.",
      expect: `About ${v(drawn)}; with the pump off the tap runs on until the accumulator is out.`,
      parts: [cushion.id, near.control.part.id],
      minutes: times * 2 + drawn / TAP_M3_PER_S / 60,
    });
    return;
  }
};
