import { describe, expect, it } from "vitest";
import { volumeOf, water } from "../../contents/index.ts";
import { EXAMPLE_MAPS, teasel, turnstone } from "../../examples/index.ts";
import { networkOf } from "../../testing/variants.ts";
import type { Network } from "../../watermap/index.ts";
import { act } from "../act.ts";
import {
  type Physical,
  type Plan,
  planSanitize,
  standardRequest,
  startPhysical,
  WATER_SETTINGS,
} from "../index.ts";

const wasteCells = (network: Network): number[] =>
  network.cells.flatMap((c, i) =>
    c.form === "vessel" && c.kind?.role.vessel === "waste" ? [i] : [],
  );

const capacityOf = (network: Network, cell: number): number => network.cells[cell]?.capacityM3 ?? 0;

/** In use, every waste tank filled to a share of it. */
const withWaste = (network: Network, share: number): Physical => {
  const start = startPhysical(network);
  const contents = [...start.contents];
  for (const i of wasteCells(network))
    contents[i] = { plugs: [water(share * capacityOf(network, i))], source: "measured" };
  return { ...start, contents };
};

const sanitized = (network: Network, from: Physical): Plan =>
  planSanitize({ ...standardRequest(network, from), water: WATER_SETTINGS });

/** Whether a cell has any waste tank among all that it is joined to: a plain search that knows nothing of valves or traps. */
const isOverTank = (network: Network, from: number): boolean => {
  const seen = new Set([from]);
  for (const at of seen)
    for (const l of network.links)
      if (
        (l.a === at || l.b === at) &&
        (at === from ||
          (network.cells[at]?.side !== "fresh" && network.cells[at]?.form !== "vessel"))
      )
        seen.add(l.a === at ? l.b : l.a);
  return wasteCells(network).some((i) => seen.has(i));
};

/** What left the unit while outlets were run, m3: what is let out at drains and dump valves is meant to. */
const overRim = (network: Network, from: Physical, plan: Plan, withRoom: boolean): number => {
  let now = from;
  let spilledM3 = 0;
  for (const step of plan.steps) {
    const isRoom = step.id.startsWith("room:");
    if (isRoom && !withRoom) continue;
    const isRun = step.actions.some(
      (a) =>
        a.type === "set-valve" &&
        network.openings.some(
          (o) =>
            o.part.id === a.control.split(":")[0] &&
            o.use === "outlet" &&
            o.fallsTo !== undefined &&
            isOverTank(network, o.fallsTo),
        ),
    );
    const before = volumeOf(now.gone);
    for (const action of step.actions) now = act(network, now, action, 0).physical;
    if (isRun && !isRoom) spilledM3 += volumeOf(now.gone) - before;
  }
  return spilledM3;
};

describe("room below the outlets (E46)", () => {
  const tanked = EXAMPLE_MAPS.filter(
    (m) => m.id !== "yarrow" && wasteCells(networkOf(m)).length > 0,
  );

  it.each(tanked.map((m) => [m.name, m] as const))(
    "%s: nothing runs over the rim of a waste tank that was nearly full, and without its emptying it would",
    (_, map) => {
      const network = networkOf(map);
      const from = withWaste(network, 0.985);
      const plan = sanitized(network, from);
      expect(plan.steps.filter((s) => s.id.startsWith("room:")).length).toBeGreaterThan(0);
      expect(overRim(network, from, plan, true)).toBeLessThan(1e-6);
      expect(overRim(network, from, plan, false)).toBeGreaterThan(1e-5);
    },
  );

  it("asks nothing where there is room", () => {
    const network = networkOf(teasel);
    const rooms = (from: Physical): number =>
      sanitized(network, from).steps.filter((s) => s.id.startsWith("room:")).length;
    expect(rooms(withWaste(network, 0.2))).toBe(0);
  });

  it("a tank that has to be emptied through an outlet goes overboard, not into a sump of 30 L", () => {
    const network = networkOf(turnstone);
    const plan = sanitized(network, startPhysical(network));
    const emptied = plan.steps.find((s) => s.id.startsWith("rinse:empty"));
    expect(emptied).toBeDefined();
    expect(plan.steps.some((s) => s.id.startsWith("room:"))).toBe(false);
  });
});
