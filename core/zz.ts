import { teasel } from "./src/examples/index.ts";
import { RunDevice } from "./src/testing/run-device.ts";
import { networkOf } from "./src/testing/variants.ts";
import { standardSetup, verdictNow } from "./src/index.ts";
for (const parts of [["heater"], ["fresh-tank"]]) {
  const d = new RunDevice(networkOf(teasel), standardSetup());
  d.do({ type: "as-found", lineup: {} });
  d.doUntil((s) => s.id === "secure:heater:off");
  d.do({ type: "step-cannot", stepId: "secure:heater:off", parts, reason: "breaker is locked away" } as never);
  console.log(parts, d.state.plan?.holdsToC, d.state.plan?.unprotected, d.state.plan?.antifreeze.medianM3);
  console.log(d.state.todo.map((s) => `${s.id}${s.antifreezeM3 ? " " + (s.antifreezeM3 * 1000).toFixed(1) : ""}`).join(", "));
}
