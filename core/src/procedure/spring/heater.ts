import { liquidIn, volumeOf } from "../../contents/index.ts";
import { type Control, inUseLineup } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  confirm,
  has,
  rehearse,
  setValve,
  TAP_M3_PER_S,
  turn,
  v,
} from "../winterize/context.ts";
import { heaterCells } from "../winterize/secure.ts";
import { valvesOut } from "./close.ts";
import { bestRun, nameOfSide, outletsOf } from "./flush.ts";
import type { WaterContext } from "./request.ts";
import { planRoom } from "./waste-room.ts";
import { driveOf, inTanks, type Run, sourcesOf } from "./source.ts";
import { fillTanks } from "./tank.ts";

/** Heaters back into the loop, filled, and proved full before any heat. */

// A vessel above this share is full: what is over it is the air under its top (our own).
const FULL = 0.95;

const isFull = (context: WaterContext, cell: number): boolean =>
  volumeOf(liquidIn(context.physical.contents[cell])) >=
  FULL * (context.network.cells[cell]?.capacityM3 ?? 0);

const byCold = (context: WaterContext, a: Control, b: Control): number => {
  // Shut what leads past it last: until then the hot side has water.
  const opens = (c: Control): number =>
    (inUseLineup(context.network)[c.key] ?? c.spec.inUse) === "shut" ? 1 : 0;
  return opens(a) - opens(b) || (a.key < b.key ? -1 : 1);
};

/** The heaters' own valves to where they stand in use. */
const intoLoop = (context: WaterContext): string | undefined => {
  const use = inUseLineup(context.network);
  const valves = valvesOut(context).toSorted((a, b) => byCold(context, a, b));
  const rows = valves.flatMap((c) => turn(context, c, use[c.key] ?? c.spec.inUse));
  if (rows.length === 0) return undefined;
  const id = "heater:valves";
  addStep(context, {
    id,
    stage: "heater",
    title: "Take the heater back into the loop",
    actions: rows,
    why: "The lines are clean now. With the bypass left open the shower would be lukewarm and swing: cold water crosses to the hot side.",
    cautions: ["The heater stays off."],
    expect: "Water is heard running into the heater; the bypass stands across.",
    minutes: 2 + rows.length,
  });
  return id;
};

/** The run by which a heater fills: through it to a hot outlet. */
const through = (context: WaterContext, cell: number): Run | undefined => {
  const sources = sourcesOf(context);
  return outletsOf(context)
    .flatMap((c) => bestRun(context, sources, c) ?? [])
    .filter((run) => run.cells.includes(cell))
    .toSorted((a, b) => a.wayM3 - b.wayM3)[0];
};

/** Fills each heater to a hot tap without air. */
export const planHeaters = (context: WaterContext): void => {
  const valves = intoLoop(context);
  for (const heater of heaterCells(context)) {
    const cell = context.network.cells[heater.cell];
    if (!cell || context.blocked.has(heater.id) || has(context, `full:${heater.id}`)) continue;
    const run = through(context, heater.cell);
    if (!run) continue;
    const { control, source } = run;
    const wants = { full: true, glycolAtMost: context.request.water.tasteAtMost };
    const before = volumeOf(liquidIn(context.physical.contents[heater.cell]));
    const make = (): Action[] => [
      ...turn(context, control, "open"),
      driveOf(context, run, wants, run.wayM3 * 4 + cell.capacityM3 * 4 + 0.01),
      confirm(`full:${heater.id}`, "Runs 30 seconds at full flow with no air in it"),
      setValve(control, "open", "shut"),
    ];
    let tried = rehearse(context, make());
    for (let more = 0; more < 3 && source.pump; more++) {
      const { fullM3 } = inTanks(context, source);
      const left = inTanks({ ...context, physical: tried.physical }, source).heldM3;
      const reached = tried.effects.some((e) => e.push?.outcome === "reached");
      if (
        (reached && left > 0.1 * fullM3) ||
        !fillTanks(context, source, { id: "heater", stage: "heater" })
      )
        break;
      tried = rehearse(context, make());
    }
    const push = tried.effects.find((e) => e.push)?.push;
    if (!push) continue;
    const moved = push.movedM3;
    const id = `heater:${heater.id}:fill`;
    planRoom(context, control, moved, { id, stage: "heater" });
    addStep(context, {
      id,
      stage: "heater",
      title:
        before < FULL * cell.capacityM3
          ? `Fill the ${heater.name.toLowerCase()}: open ${nameOfSide(control).toLowerCase()} until no air comes`
          : `Prove the ${heater.name.toLowerCase()} full at ${nameOfSide(control).toLowerCase()}`,
      actions: make(),
      why: "An open valve is no proof: only a hot tap that runs without spitting shows that it is full.",
      cautions: [
        "The heater stays off. Water at the relief valve now means that it must be looked at, not tightened.",
      ],
      expect:
        push.outcome === "reached"
          ? before < FULL * cell.capacityM3
            ? `Spits while about ${v(cell.capacityM3 - before)} run in, then a steady stream.`
            : "A steady stream from the first."
          : "Does not fill: look at the plug, the relief valve and the valves before it.",
      needs: [`close:${heater.id}:plug`, ...(valves ? [valves] : [])],
      parts: [heater.id, control.part.id],
      minutes: 2 + moved / TAP_M3_PER_S / 60,
    });
  }
};

/** Heat only when all of it is true; each that lacks is named by the step that is not signed. */
export const planHeat = (context: WaterContext, needs: readonly string[] = []): void => {
  for (const heater of heaterCells(context)) {
    if (context.blocked.has(heater.id) || has(context, `heat:${heater.id}`)) continue;
    const full = isFull(context, heater.cell);
    if (!full || !has(context, `full:${heater.id}`)) continue;
    addStep(context, {
      id: `prove:${heater.id}:heat`,
      stage: "prove",
      title: `Heat may go on at the ${heater.name.toLowerCase()}`,
      actions: [
        confirm(`dry:${heater.id}`, "Plug and relief valve dry under pressure"),
        confirm(`heat:${heater.id}`, "Tag off; handed to whoever switches it on"),
      ],
      why: "Plug in, relief valve down, bypass in use, a hot tap that ran without air: each is signed above.",
      cautions: ["A gas heater is lit and looked at by whoever is licensed for it."],
      expect: "Warm at a hot tap after a while; no water at the relief valve.",
      needs: [`close:${heater.id}:plug`, `heater:${heater.id}:fill`, "heater:valves", ...needs],
      parts: [heater.id],
      minutes: 3,
    });
  }
};
