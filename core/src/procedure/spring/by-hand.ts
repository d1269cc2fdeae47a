import { paramsOf, roleOf } from "../../watermap/index.ts";
import { addStep, confirm, has, heldIn, rehearse, turn, v } from "../winterize/context.ts";
import { heaterCells } from "../winterize/secure.ts";
import type { WaterContext } from "./request.ts";
import { sourcesOf } from "./source.ts";
import { emptyTanks, turnedBack } from "./tank.ts";

/** What no chlorine does: grit out of a tank by hand, scale out of a heater by acid, each before the dose. */

/** Every tank with a hatch emptied, opened, wiped, and shut on a seal that was looked at. */
export const planHandClean = (context: WaterContext): void => {
  if (context.request.water.handClean !== true) return;
  for (const source of sourcesOf(context)) {
    const tanks = source.tanks.flatMap((t) => {
      const part = context.network.cells[t]?.part;
      return part && Number(paramsOf(part)["hatches"] ?? 0) > 0 && !has(context, `wiped:${part.id}`)
        ? [part]
        : [];
    });
    if (tanks.length === 0) continue;
    emptyTanks(context, source, {
      id: `dose:open:${source.key}`,
      stage: "dose",
      why: "A tank is opened empty.",
    });
    for (const tank of tanks)
      addStep(context, {
        id: `dose:${tank.id}:by-hand`,
        stage: "dose",
        title: `Open the ${tank.name.toLowerCase()} and clean it by hand`,
        actions: [
          confirm(`opened:${tank.id}`, "Hatch off, picture of it as it was"),
          confirm(
            `wiped:${tank.id}`,
            "Walls and floor wiped with clean cloths, grit and slime out, the outlet's dip tube looked at",
          ),
          confirm(
            `shut:${tank.id}`,
            "Seal looked at, hatch tightened crosswise, picture of it as it is",
          ),
        ],
        why: "Chlorine does not reach under sediment: what can be wiped is wiped first.",
        cautions: [
          "Nobody goes into a tank with head and shoulders: air, and a way out, first.",
          "No cleaner with scent or ammonia in it: chlorine comes next.",
        ],
        expect: "Clean to the finger; the hatch dry once it is full.",
        parts: [tank.id],
        minutes: 30,
      });
  }
};

/** Heaters rinsed at the plug and descaled; proved rinsed before any chlorine may follow. Says which steps the dose must wait for. */
export const planDescale = (context: WaterContext): string[] => {
  if (context.request.water.descale !== true) return [];
  return heaterCells(context).flatMap((heater) => {
    const part = context.network.map.parts.find((p) => p.id === heater.id);
    const plug = context.network.controls.find(
      (c) => c.part.id === heater.id && c.spec.role === "plug",
    );
    const relief = context.network.controls.find(
      (c) => c.part.id === heater.id && c.spec.role === "relief",
    );
    const id = `dose:${heater.id}:rinsed`;
    if (!part || !plug || roleOf(part).vessel !== "heater" || context.blocked.has(heater.id))
      return [];
    if (has(context, `acid-out:${heater.id}`)) return [];
    const pumps = sourcesOf(context).flatMap((s) => (s.pump ? turn(context, s.pump, "off") : []));
    const opens = [...turn(context, relief, "open"), ...turn(context, plug, "open")];
    const actions = [
      ...pumps,
      ...opens,
      { type: "drain" } as const,
      confirm(
        `rinsed:${heater.id}`,
        "Rinsed through the plug hole until it runs clear; flakes caught and looked at",
      ),
      ...turnedBack(opens),
      ...turnedBack(pumps),
    ];
    const before = heldIn(context, heater.cell);
    const after = heldIn(
      { ...context, physical: rehearse(context, actions).physical },
      heater.cell,
    );
    addStep(context, {
      id: `dose:${heater.id}:rinse`,
      stage: "dose",
      title: `Rinse the ${heater.name.toLowerCase()} at its plug`,
      actions,
      why: "Sediment feeds the smell, and hides what is under it from any chlorine.",
      cautions: ["Heater off and cool, pressure off, relief valve before the plug."],
      expect: `About ${v(before - after)} out, then clear.`,
      parts: [heater.id],
      needs: [`dose:${heater.id}:off`],
      minutes: 12,
    });
    addStep(context, {
      id,
      stage: "dose",
      title: `Descale the ${heater.name.toLowerCase()}, rinse, and prove the rinse`,
      actions: [
        confirm(
          `acid-in:${heater.id}`,
          "Descaler that its maker allows for this vessel, as its label says, stood so long",
        ),
        confirm(`acid-out:${heater.id}`, "Let out, filled and let out twice more"),
        confirm(
          `acid-proved:${heater.id}`,
          "A pH strip of what comes at a hot tap reads as the source does",
        ),
      ],
      why: "Acid and chlorine make a gas that kills: no bleach aboard before this is proved.",
      cautions: [
        "Gloves and eyes; air the place. Never together with bleach, nor on the same day without this proof.",
        "An aluminium vessel bears few of them: look at its maker's sheet, or leave it out.",
      ],
      expect: "pH as the source's.",
      parts: [heater.id],
      needs: [`dose:${heater.id}:rinse`, `dose:${heater.id}:off`],
      minutes: 45,
    });
    return [id];
  });
};
