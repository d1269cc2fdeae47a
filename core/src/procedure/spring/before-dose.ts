import { situationOf } from "../../contents/index.ts";
import { heatersOf, kindOfPart, paramsOf } from "../../watermap/index.ts";
import { findFillLineup, forcedReach } from "../fill-lineup.ts";
import {
  addStep,
  confirm,
  controlsOf,
  has,
  heldIn,
  houseOf,
  t,
  turn,
} from "../winterize/context.ts";
import { coolFact, heaterCells, offFact } from "../winterize/secure.ts";
import { type WaterContext } from "./request.ts";
import { sourcesOf } from "./source.ts";
import { turnedBack } from "./tank.ts";

/** What is done before any bleach is aboard: heat off, heaters out that are not dosed, carbon out. */

/** Whether a heater is dosed too: as the house has it; as its maker allows where it is known what it is made of. */
const isDosed = (context: WaterContext, partId: string): boolean => {
  const { heater } = context.request.water.chlorine;
  if (heater !== "by-maker") return heater === "in";
  const part = context.network.map.parts.find((p) => p.id === partId);
  const { metal } = part ? paramsOf(part) : {};
  return metal === undefined || metal === "steel" || metal === "stainless steel";
};

/** Heaters that are to stay out of it are taken out of the loop, where there is a way round them. */
export const planOut = (context: WaterContext): void => {
  const out = new Set(
    heatersOf(context.network)
      .filter(({ part }) => !isDosed(context, part.id))
      .map(({ part }) => part.id),
  );
  if (out.size === 0) return;
  const valves = [...controlsOf(context, "valve"), ...controlsOf(context, "selector")];
  const source = sourcesOf(context)[0];
  if (!source) return;
  // Of the valves those that what is pressed can come to, were they all open: not what stands before a pump.
  const opened = Object.fromEntries(
    valves.flatMap((c) =>
      c.spec.positions.some((p) => p.name === "open") ? [[c.key, "open"] as const] : [],
    ),
  );
  const met = forcedReach(
    situationOf(context.network, {
      lineup: { ...context.physical.lineup, ...opened },
      apart: context.physical.apart,
    }),
    source.start,
  );
  const pressed = valves.filter((c) =>
    context.network.cells.some((cell, k) => cell.ownerId === c.part.id && met.has(k)),
  );
  const found = findFillLineup(
    context.network,
    context.physical,
    source.start,
    pressed,
    false,
    out,
  );
  // Where there is no way round it, it is dosed after all: the hot side is not left out for its sake.
  const reachedBy = (lineup: Readonly<Record<string, string>>): number => {
    const met = forcedReach(
      situationOf(context.network, { lineup, apart: context.physical.apart }),
      source.start,
    );
    return context.network.openings.filter((o) => o.use === "outlet" && met.has(o.cell)).length;
  };
  const lineupOut = { ...context.physical.lineup, ...found.turns };
  if (reachedBy(lineupOut) < reachedBy(context.physical.lineup)) return;
  const rows = valves.flatMap((c) =>
    turn(context, c, found.turns[c.key] ?? context.physical.lineup[c.key] ?? c.spec.inUse),
  );
  if (rows.length === 0) return;
  addStep(context, {
    id: "dose:heater-out",
    stage: "dose",
    title: "Take the heater out of the loop",
    actions: rows,
    why: "It is not dosed: its maker does not allow it, or nobody has looked what it is made of. It stays as it was, and feeds the hot side next day.",
    expect: "Handles as shown.",
    minutes: 2 + rows.length,
  });
};

/** Heat off before chlorine: it eats hot metal, and gasses out. */
export const planHeatOff = (context: WaterContext): void => {
  for (const heater of heaterCells(context)) {
    if (context.blocked.has(heater.id) || has(context, offFact(heater.id))) continue;
    const isWet = heldIn(context, heater.cell) > 0;
    const openAt = houseOf(context).openAtC;
    addStep(context, {
      id: `dose:${heater.id}:off`,
      stage: "dose",
      title: `Heat off at the ${heater.name.toLowerCase()}, and cool`,
      actions: [
        confirm(offFact(heater.id), "Breaker, gas and switch off, tag on"),
        ...(isWet ? [confirm(coolFact(heater.id), `Water at a hot tap ${t(openAt)} or less`)] : []),
      ],
      why: "Chlorine in hot water eats the vessel and is gone within the hour.",
      cautions: ["Gas and mains belong to licensed people: switch off only, open nothing."],
      expect: "Off, and nobody can turn it on unseen.",
      asks: isWet
        ? [
            {
              key: `temperature:${heater.id}`,
              kind: "temperature",
              label: "Temperature at a hot tap",
              required: true,
              atMost: openAt,
            },
          ]
        : [],
      parts: [heater.id],
      minutes: 3,
    });
  }
};

export const planCarbonOut = (context: WaterContext): void => {
  const parts = context.network.map.parts.filter(
    (p) => kindOfPart(p).role.takesChlorine?.(paramsOf(p)) === true && !context.blocked.has(p.id),
  );
  for (const part of parts) {
    if (has(context, `carbon-out:${part.id}`)) continue;
    const bowl = context.network.controls.find(
      (c) => c.part.id === part.id && c.spec.role === "bowl",
    );
    const pumps = sourcesOf(context).flatMap((s) => (s.pump ? turn(context, s.pump, "off") : []));
    addStep(context, {
      id: `dose:${part.id}:carbon`,
      stage: "dose",
      title: `Carbon out of the ${part.name.toLowerCase()}`,
      actions: [
        ...pumps,
        ...turn(context, bowl, "open"),
        confirm(`carbon-out:${part.id}`, "Cartridge out, housing refitted empty"),
        ...turnedBack(turn(context, bowl, "open")),
        ...turnedBack(pumps),
      ],
      why: "Carbon takes the chlorine out: nothing would come behind it.",
      cautions: ["Pressure off before the housing is opened."],
      expect: "Housing empty, hand tight.",
      parts: [part.id],
      minutes: 4,
    });
  }
};
