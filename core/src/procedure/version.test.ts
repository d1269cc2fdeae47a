import { createHash } from "node:crypto";
import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { RunDevice } from "../testing/run-device.ts";
import { buildNetwork } from "../watermap/index.ts";
import { standardSetup } from "./run/index.ts";
import { ENGINE_VERSION, PLANNER_VERSION } from "./version.ts";

/** A digest of plain data; figures to nine places, so that the last digit of a computer does not count. */
const digest = (data: unknown): string =>
  createHash("sha256")
    .update(
      JSON.stringify(data, (_, value) =>
        typeof value === "number" ? Number(value.toPrecision(9)) : value,
      ),
    )
    .digest("hex")
    .slice(0, 16);

/** What planner and engine of a version come to on six demo maps. */
const TOLD = { planner: "13", engine: "11", plans: "8e589c4154cc0a3a", said: "43ce29047c86da24" };

describe("planner and engine", () => {
  it("say by their version when they come to something else than before", () => {
    const plans: unknown[] = [];
    const said: unknown[] = [];
    for (const map of EXAMPLE_MAPS.filter((m) =>
      ["teasel", "burdock", "plover", "sundew", "dipper", "yarrow"].includes(m.id),
    )) {
      const device = new RunDevice(buildNetwork(map), standardSetup());
      device.do({ type: "as-found", lineup: {} });
      plans.push(device.state.plan);
      device.doUntil(() => false);
      said.push(device.events.map((e) => e.said));
    }
    // Where this fails and the change is meant: raise the version that changed, and write down here what it comes to now.
    expect({
      planner: PLANNER_VERSION,
      engine: ENGINE_VERSION,
      plans: digest(plans),
      said: digest(said),
    }).toEqual(TOLD);
  });
});
