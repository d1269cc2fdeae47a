import type { Plan } from "../plan.ts";
import { isLeftUndone } from "../winterize/context.ts";
import { planDescale, planHandClean } from "./by-hand.ts";
import { planClose } from "./close.ts";
import { isDue, planPass } from "./flush.ts";
import { missedWarnings } from "./missed.ts";
import { asPlan } from "./plan.ts";
import { planCartridges, planInUse, planPumpOn } from "./prove.ts";
import { waterContext, type WaterRequest } from "./request.ts";
import { flushPass, planFlush } from "./spring.ts";
import { linesOf, warningsOf } from "./dose-words.ts";
import { planRinse, planHeatAgain } from "./rinse.ts";
import { planDose, spreadPass } from "./dosing.ts";
import { planOut, planHeatOff, planCarbonOut } from "./before-dose.ts";
import { roundsOf, hasHeld, weakest, planStand } from "./standing.ts";

/** The sanitizing of a unit as it stands. */
export const planSanitize = (request: WaterRequest): Plan => {
  const context = waterContext(request);
  planHeatOff(context);
  planClose(context);
  const out = { ...flushPass(context), wants: { glycolAtMost: request.water.tasteAtMost } };
  if (isDue(context, out)) planFlush(context);
  const rounds = roundsOf(context);
  let refills = 0;
  let far: number | undefined;
  let missed: readonly string[] = [];
  if (rounds === 0 || !hasHeld(context)) {
    planPumpOn(context);
    planCarbonOut(context);
    planHandClean(context);
    const first = planDescale(context);
    planOut(context);
    // An acid that nobody proved gone: no bleach comes aboard, whatever else is done.
    const mayDose = !first.some((id) => isLeftUndone(context, id) || context.closed.has(id));
    if (mayDose) {
      planDose(context, first);
      planPass(context, spreadPass(context));
      far = weakest(context)?.mgL;
      missed = missedWarnings(context);
      planStand(context);
    }
  }
  const bleachM3 = context.steps.reduce(
    (s, step) => s + step.actions.reduce((t, a) => t + (a.type === "dose" ? a.bottleM3 : 0), 0),
    0,
  );
  const lines = linesOf(context, bleachM3, far);
  if (context.physical.facts.some((f) => f.startsWith("stood:")))
    ({ refills } = planRinse(context));
  planCartridges(context);
  planInUse(context);
  planHeatAgain(context);
  return asPlan(context, request, {
    refills,
    lines,
    warnings: [...warningsOf(context), ...missed],
  });
};
