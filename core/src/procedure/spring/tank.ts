import { chlorineOf, liquidIn, sum, volumeOf } from "../../contents/index.ts";
import { type Control, roleOf } from "../../watermap/index.ts";
import type { Action, Step } from "../step.ts";
import { addStep, controlsOf, rehearse, turn, v } from "../winterize/context.ts";
import { gPerLOf } from "./dose.ts";
import type { WaterContext } from "./request.ts";
import { inTanks, runFor, type Source } from "./source.ts";
import { planRoom, roomBelow } from "./waste-room.ts";

/** Tanks filled, emptied and dosed. */

// A hose from a post gives about this (common practice, no source), m3/s.
const HOSE_M3_PER_S = 0.00017;
// Filled by the vent: the last of a tank is air (our own).
export const FULL_SHARE = 0.97;

const namesOf = (context: WaterContext, source: Source): string =>
  source.tanks
    .map((t) => context.network.cells[t]?.part?.name.toLowerCase() ?? "tank")
    .join(" and ");

/** Rows that bring the tanks of a source to a share of what they hold, all alike. */
export const fillRows = (context: WaterContext, source: Source, share: number): Action[] =>
  source.tanks.flatMap((t) => {
    const cell = context.network.cells[t];
    const lacks =
      (cell?.capacityM3 ?? 0) * share - volumeOf(liquidIn(context.physical.contents[t]));
    return cell && lacks > 1e-6
      ? [
          {
            type: "fill" as const,
            cell: cell.id,
            volumeM3: Number(lacks.toPrecision(6)),
            label: `Fill the ${cell.part?.name.toLowerCase() ?? "tank"}`,
          },
        ]
      : [];
  });

/** Chlorine that brings the tanks of a source to a strength, by what is in them; nothing where they have it. */
export const doseRows = (
  context: WaterContext,
  source: Source,
  mgL: number,
  gPerL: number,
  atShare: number,
): Action[] =>
  source.tanks.flatMap((t) => {
    const cell = context.network.cells[t];
    const held = liquidIn(context.physical.contents[t]);
    const litres = (cell?.capacityM3 ?? 0) * atShare * 1000;
    const lacksMg = mgL * litres - (held.chlorineMg ?? 0);
    return cell && lacksMg > 0
      ? [
          {
            type: "dose" as const,
            cell: cell.id,
            chlorineMg: Number(lacksMg.toPrecision(6)),
            bottleM3: Number((lacksMg / gPerL / 1e6).toPrecision(4)),
            label: `Bleach into the ${cell.part?.name.toLowerCase() ?? "tank"}`,
          },
        ]
      : [];
  });

/** The same turns the other way, last first. */
export const turnedBack = (turns: readonly Action[]): Action[] =>
  turns
    .toReversed()
    .flatMap((a) => (a.type === "set-valve" ? [{ ...a, position: a.from, from: a.position }] : []));

const again = (context: WaterContext, stem: string): string => {
  let [id, n] = [stem, 2];
  while (context.steps.some((s) => s.id === id)) id = `${stem}:${n++}`;
  return id;
};

/** Fills the tanks of a source again in the middle of a pass. */
export const fillTanks = (
  context: WaterContext,
  source: Source,
  pass: {
    readonly stage: Step["stage"];
    readonly id: string;
    readonly tankMgL?: number | undefined;
  },
): boolean => {
  const rows = fillRows(context, source, FULL_SHARE);
  const litres = rows.reduce((s, r) => s + (r.type === "fill" ? r.volumeM3 : 0), 0);
  const { fullM3 } = inTanks(context, source);
  if (litres < 0.05 * fullM3) return false;
  const { bottle } = context.request.water.chlorine;
  const dose =
    pass.tankMgL === undefined
      ? []
      : doseRows(context, source, pass.tankMgL, gPerLOf(bottle), FULL_SHARE);
  addStep(context, {
    id: again(context, `${pass.id}:fill:${source.key}`),
    stage: pass.stage,
    title: `Fill the ${namesOf(context, source)} again`,
    actions: [...dose, ...rows],
    why:
      dose.length > 0
        ? "What is left would not do for the outlets to come; the new water has its share of bleach."
        : "What is left would not do for the outlets to come: a pump that draws air shows nothing.",
    expect: `About ${v(litres)} go in; the vent blows freely.`,
    parts: source.tanks.flatMap((t) => context.network.cells[t]?.part?.id ?? []),
    minutes: 3 + litres / HOSE_M3_PER_S / 60,
  });
  return true;
};

/** The tanks of a source filled to a share of what they hold. */
export const planFill = (
  context: WaterContext,
  source: Source,
  share: number,
  step: {
    readonly id: string;
    readonly stage: Step["stage"];
    /** What is done with the tank; filling it where nothing else is said. */
    readonly title?: string;
    readonly why: string;
    readonly rows?: readonly Action[];
    readonly needs?: readonly string[];
  },
): void => {
  const rows = fillRows(context, source, share);
  if (rows.length === 0) return;
  const m3 = rows.reduce((s, r) => s + (r.type === "fill" ? r.volumeM3 : 0), 0);
  addStep(context, {
    id: again(context, step.id),
    stage: step.stage,
    title: `${step.title ?? "Fill"} the ${namesOf(context, source)}`,
    actions: [...(step.rows ?? []), ...rows],
    why: step.why,
    cautions: [
      "A hose for drinking water and no other, run for a moment before it goes in; fill slowly, the vent must blow: a shut vent swells the tank.",
    ],
    expect: `About ${v(m3)} go in. Nothing drips under the unit or in a locker.`,
    parts: source.tanks.flatMap((t) => context.network.cells[t]?.part?.id ?? []),
    ...(step.needs ? { needs: [...step.needs] } : {}),
    minutes: 3 + m3 / HOSE_M3_PER_S / 60,
  });
};

// A tank that holds no more than so many times its heel has been emptied (our own).
const NEARLY = 1.5;

/** Empties the tanks of a source: by their own drain, else with the pump through the nearest outlet. */
export const emptyTanks = (
  context: WaterContext,
  source: Source,
  step: {
    readonly id: string;
    readonly stage: Step["stage"];
    readonly why: string;
    readonly cautions?: readonly string[];
    readonly asks?: Step["asks"];
    readonly needs?: readonly string[];
  },
): void => {
  const { network } = context;
  const isHeld = (physical: WaterContext["physical"]): boolean =>
    source.tanks.some((t) => {
      const cell = network.cells[t];
      return (
        cell !== undefined &&
        volumeOf(liquidIn(physical.contents[t])) > NEARLY * cell.drainRemainder * cell.capacityM3
      );
    });
  if (!isHeld(context.physical)) return;
  const { heldM3 } = inTanks(context, source);
  const off = source.pump ? turn(context, source.pump, "off") : [];
  const drains = controlsOf(context, "drain").filter(
    (c) =>
      (context.physical.lineup[c.key] ?? c.spec.inUse) === "shut" && emptiesOne(context, c, source),
  );
  const byDrain = drains.map<readonly Action[]>((d) => [
    ...off,
    ...turn(context, d, "open"),
    { type: "drain" },
    ...turnedBack(turn(context, d, "open")),
    ...turnedBack(off),
  ]);
  // Overboard, or where there is room for it, before a waste tank that it would overfill.
  const byRoom = controlsOf(context, "outlet").toSorted(
    (a, b) => Number(roomBelow(context, b) >= heldM3) - Number(roomBelow(context, a) >= heldM3),
  );
  const byPump = byRoom.flatMap<readonly Action[]>((c) => {
    const run = source.pump && runFor(context, source, c);
    if (!run || !source.pump) return [];
    // Not through a heater: it would have to be filled again.
    if (run.cells.some((i) => roleOfCell(context, i) === "heater")) return [];
    const at = { type: "pump", switch: source.pump.key, watch: run.watch } as const;
    const dry = { ...at, untilAir: 0.5, maxM3: heldM3 * 1.3 + 0.01 };
    // Air that is in the line already is not that of an empty tank.
    const wet = { ...at, wants: { full: true }, maxM3: run.wayM3 * 8 + 0.002 };
    const opens = turn(context, c, "open");
    return [
      [...opens, dry, ...turnedBack(opens)],
      [...opens, wet, dry, ...turnedBack(opens)],
    ];
  });
  const wholly = [...byDrain, ...byPump.slice(0, 2)].find(
    (actions) => !isHeld(rehearse(context, actions).physical),
  );
  const actions = wholly ?? byPump[1] ?? byDrain[0];
  if (!actions) return;
  const byOutlet = actions.flatMap((a) =>
    a.type === "set-valve"
      ? (controlsOf(context, "outlet").find((c) => c.key === a.control) ?? [])
      : [],
  )[0];
  if (byOutlet)
    planRoom(context, byOutlet, heldM3, { id: again(context, step.id), stage: step.stage });
  const after = inTanks(
    { ...context, physical: rehearse(context, actions).physical },
    source,
  ).heldM3;
  addStep(context, {
    id: again(context, step.id),
    stage: step.stage,
    title: `Empty the ${namesOf(context, source)}`,
    actions: [...actions],
    why: step.why,
    cautions: [...(step.cautions ?? [])],
    expect: `About ${v(heldM3 - after)} out${after > 0 ? `, ${v(after)} stay in it` : ""}.`,
    asks: [...(step.asks ?? [])],
    parts: source.tanks.flatMap((t) => network.cells[t]?.part?.id ?? []),
    ...(step.needs ? { needs: [...step.needs] } : {}),
    minutes: 4 + (heldM3 - after) / 0.0002 / 60,
  });
};

const roleOfCell = (context: WaterContext, cell: number): string | undefined => {
  const part = context.network.cells[cell]?.part;
  return part && roleOf(part).vessel;
};

/** Whether a drain empties one of the tanks: by looking at what drains when it is open. */
const emptiesOne = (context: WaterContext, drain: Control, source: Source): boolean => {
  const { physical } = context;
  const trial = rehearse(context, [...turn(context, drain, "open"), { type: "drain" }]).physical;
  return source.tanks.some(
    (t) => volumeOf(liquidIn(trial.contents[t])) < 0.9 * volumeOf(liquidIn(physical.contents[t])),
  );
};

/** Free chlorine in the tanks of a source, mg/L. */
export const tankMgL = (context: WaterContext, source: Source): number =>
  chlorineOf(sum(source.tanks.map((t) => liquidIn(context.physical.contents[t]))));
