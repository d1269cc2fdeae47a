import { strengthOf } from "../../contents/index.ts";
import type { Plan } from "../plan.ts";
import { v } from "../winterize/context.ts";
import { planBegin, planClose } from "./close.ts";
import { needOf, type Pass, planPass } from "./flush.ts";
import { planHeat, planHeaters } from "./heater.ts";
import { asPlan } from "./plan.ts";
import { planCartridges, planInUse, planProve, planPumpOn } from "./prove.ts";
import { waterContext, type WaterContext, type WaterRequest } from "./request.ts";
import { inTanks, sourcesOf } from "./source.ts";
import { FULL_SHARE, planFill } from "./tank.ts";

/** The first filling, by share of a tank: a fifth is enough to see what leaks (our own). */
const FIRST_SHARE = 0.2;
// Left in the tank at the end, and for the heater besides (our own).
const LEFT_SHARE = 0.2;
const AT_HAND_M3 = 0.01;

export const flushPass = (context: WaterContext, id = "flush"): Pass => {
  const held = context.physical.contents.some((c, i) => {
    const cell = context.network.cells[i];
    return (
      cell?.side === "fresh" &&
      c.plugs.some((p) => strengthOf(p) > context.request.water.tasteAtMost)
    );
  });
  return {
    id,
    stage: "flush",
    wants: { glycolAtMost: context.request.water.tasteAtMost, full: true },
    title: (name) => (held ? `${name}: run until clear` : `${name}: run until no air comes`),
    row: held ? "Clear: no colour, no foam, no air" : "A steady stream, no air",
    why: held
      ? "Antifreeze first, chlorine after: it would eat the dose."
      : "Air in the lines hammers, and a heater must not be heated with it.",
    expect: (m3) => `About ${v(m3)}, then clear.`,
    ...(held
      ? {
          cautions: [
            "Antifreeze goes where this place lets it go, not on the ground by a well or overboard.",
          ],
        }
      : {}),
    asks: ({ control }) =>
      held
        ? [
            {
              key: `strength:${control.key}`,
              kind: "strength",
              label: "Antifreeze left in what comes",
              required: false,
              atMost: context.request.water.tasteAtMost,
              expected: 0,
            },
          ]
        : [],
  };
};

/** Water in, by a first filling and a first pressure, and every outlet clear. */
export const planFlush = (context: WaterContext): void => {
  for (const source of sourcesOf(context)) {
    if (!source.pump) continue;
    planFill(context, source, FIRST_SHARE, {
      id: `tank:first:${source.key}`,
      stage: "tank",
      title: "A little water into",
      why: "A little first: what was left open shows now, and not with all of it aboard.",
    });
    const { fullM3 } = inTanks(context, source);
    const share = (needOf(context, source) + AT_HAND_M3) / fullM3 + LEFT_SHARE;
    planFill(context, source, Math.min(FULL_SHARE, Math.max(share, FIRST_SHARE)), {
      id: `tank:full:${source.key}`,
      stage: "tank",
      title: "Fill on",
      why: "For flushing every outlet.",
      needs: [`tank:first:${source.key}`],
    });
  }
  planPumpOn(context);
  planPass(context, flushPass(context));
};

/**
 * From how the unit was left to use on tank: what to close, refit, reconnect and turn, in an order that spills nothing; every outlet clear;
 * the heater full before heat. Nothing that its winter did not call for.
 */
export const planSpring = (request: WaterRequest): Plan => {
  const context = waterContext(request);
  planBegin(context);
  planClose(context);
  planFlush(context);
  planHeaters(context);
  // What the heater and its own legs brought on the way.
  planPass(context, { ...flushPass(context, "again"), id: "again" });
  planProve(context);
  if (!request.water.sanitizeNext) planCartridges(context);
  planInUse(context);
  planHeat(context);
  return asPlan(context, request);
};
