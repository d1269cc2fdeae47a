import { planBowls } from "./bowls.ts";
import type { Context } from "./context.ts";
import { drainHeater } from "./drain-heater.ts";
import { drainLines } from "./drain-lines.ts";
import { drainFresh, emptyWaste, REFILLED_SHARE } from "./drain-tanks.ts";
import { planPickups } from "./pickups.ts";
import { pumpDry } from "./pump-dry.ts";
import { heaterCells } from "./secure.ts";

/** Water out by gravity: waste tanks, fresh tanks, the suction line, heaters, then every line. */
export const planDrain = (context: Context): void => {
  emptyWaste(context);
  drainFresh(context);
  pumpDry(context);
  // A tank that had to be pumped out through a sink has filled the waste tank again.
  emptyWaste(context, "again", REFILLED_SHARE);
  for (const heater of heaterCells(context)) drainHeater(context, heater);
  planBowls(context);
  planPickups(context);
  drainLines(context);
};
