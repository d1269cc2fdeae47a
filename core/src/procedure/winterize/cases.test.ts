import { describe, expect, it } from "vitest";
import { frostVerdict, liquidIn, product, strengthOf, volumeOf } from "../../contents/index.ts";
import { caseMap } from "../../testing/cases/index.ts";
import { buildNetwork, inUseLineup } from "../../watermap/index.ts";
import { act, startPhysical } from "../physical.ts";
import { type Plan, planWinterize, standardSetup } from "../index.ts";

/** Smallest maps on which the advice was wrong once, and what is true of each by plain physics. */
const planOf = (name: string): Plan => {
  const map = caseMap(name);
  const network = buildNetwork(map);
  const { winterLowC, marginC, basis, product: jug, trapDoseM3 } = standardSetup();
  const start = startPhysical(network, { ...inUseLineup(network), ...map.lineup });
  return planWinterize({ network, start, winterLowC, marginC, basis, product: jug, trapDoseM3, cannot: [] });
};
const at = (plan: Plan, id: string): number => plan.steps.findIndex((s) => s.id === id);

describe("a plan", () => {
  it("has a heater switched off, cooled and drained of which it is not written down how it is heated, and asks what heats it", () => {
    const plan = planOf("d15-heater-no-energy");
    const order = ["secure:heater:off", "secure:heater:cool", "drain:heater"].map((id) => at(plan, id));
    expect(order).toEqual(order.toSorted((a, b) => a - b));
    expect(order[0]).toBeGreaterThanOrEqual(0);
    expect(plan.steps[order[0] ?? -1]?.title).toMatch(/^Find what heats/u);
    expect(plan.steps[order[2] ?? -1]?.needs).toEqual(expect.arrayContaining(["secure:heater:off", "secure:heater:cool"]));
    expect(plan.holdsToC).toBeLessThan(-18);
  });

  it("shuts a low point that was found open before the pump runs", () => {
    const plan = planOf("d16-low-point-found-open");
    const running = plan.steps.findIndex((s) => s.actions.some((a) => a.type === "pump"));
    const turns = plan.steps.slice(0, running + 1).flatMap((s) => s.actions);
    const shut = turns.findIndex((a) => a.type === "set-valve" && a.control === "d1" && a.position === "shut");
    expect(shut).toBeGreaterThanOrEqual(0);
    expect(shut).toBeLessThan(turns.findIndex((a) => a.type === "pump"));
  });

  it.each([
    ["d5-inlet-open", 1],
    ["d5-inlet-with-check", 1],
    ["d5-p01", 30],
    ["d5-p09", 30],
    ["d5-p09-check", 30],
  ])("pushes no antifreeze out of an open inlet while it fills something else: %s takes less than %d L", (name, most) => {
    const plan = planOf(name);
    const capsOpen = new Set<string>();
    for (const step of plan.steps)
      for (const action of step.actions) {
        if (action.type === "set-valve" && /^inlet|supply|shore|city/u.test(action.control))
          if (action.position === "open") capsOpen.add(action.control);
          else capsOpen.delete(action.control);
        // An inlet that stands open while something is pumped is the one that the step is about.
        if (action.type === "pump" && step.stage === "fill")
          for (const cap of capsOpen)
            expect(
              step.parts.some((part) => cap === part || cap.startsWith(`${part}:`)),
              step.id,
            ).toBe(true);
      }
    // Whoever loosens a cap with the pump on is warned of what presses behind it.
    const loosened = plan.steps.filter((s) => s.title.includes("loosen its cap"));
    for (const step of loosened) expect(step.cautions.join(" "), step.id).toMatch(/slowly/u);
    expect(loosened).toHaveLength(name.includes("check") ? 0 : 1);
    expect(1000 * plan.steps.reduce((sum, s) => sum + s.antifreezeM3, 0)).toBeLessThan(most);
    expect(plan.holdsToC).toBeLessThan(-18);
  });

  it("does not take a dip that stands full for room for ice, whatever share of its run it is", () => {
    const plan = planOf("d17-dip");
    const network = buildNetwork(caseMap("d17-dip"));
    let drained = startPhysical(network);
    for (const a of plan.steps.filter((s) => s.stage === "secure" || s.stage === "drain").flatMap((s) => s.actions))
      drained = act(network, drained, a, 0.5).physical;
    const dip = frostVerdict(network, drained.contents).owners.find((o) => o.id === "r-regulator-out-tap-supply");
    expect(dip).toMatchObject({ holdsToC: 0, evidence: expect.stringMatching(/dip is full of water/u) });
    // Nothing but what is pushed through it from outside protects it.
    expect(plan.steps.filter((s) => s.actions.some((a) => a.type === "push-by-hand"))).not.toEqual([]);
    expect(strengthOf(liquidIn(plan.after.contents[network.cells.findIndex((c) => c.ownerId === dip?.id)]))).toBeGreaterThan(0.4);
  });

  it("does not take a dip in a waste pipe for empty: it stands full until what falls through it is strong enough", () => {
    const plan = planOf("d12-waste-dip");
    const map = caseMap("d12-waste-dip");
    const dip = map.runs.find((r) => r.service === "waste" && r.sag);
    if (!dip) throw new Error("no dip");
    const network = buildNetwork(map);
    const cell = network.cells.findIndex((c) => c.ownerId === dip.id);
    const stands = network.cells[cell]?.sagM3 ?? 0;
    // Full at first; never less than full afterwards, whatever was poured.
    expect(volumeOf(liquidIn(startPhysical(network, map.lineup).contents[cell]))).toBeCloseTo(stands, 9);
    const after = liquidIn(plan.after.contents[cell]);
    expect(volumeOf(after)).toBeCloseTo(stands, 9);
    // What it holds at the end is what the verdict rests on.
    const said = plan.verdict.owners.find((o) => o.id === dip.id);
    expect(said?.strength).toBeCloseTo(strengthOf(after), 9);
    expect(said?.holdsToC).not.toBeNull();
    expect(plan.holdsToC ?? -99).toBeGreaterThanOrEqual(said?.holdsToC ?? 0);
  });

  it.each(["d2-heater-hot-check", "d2-p08-point-of-use", "d2-p16-point-of-use"])(
    "has no tag say that a heater holds antifreeze where none came in: %s",
    (name) => {
      const labels = planOf(name).steps.flatMap((s) => s.actions.flatMap((a) => ("label" in a ? [a.label] : [])));
      const tags = labels.filter((label) => label.startsWith("Tag hung"));
      expect(tags.length).toBeGreaterThan(0);
      expect(tags.join()).not.toMatch(/holds antifreeze/u);
    },
  );

  it("has the tag of a heater that was filled on purpose say so, and only of one that holds the winter low", () => {
    const map = caseMap("d2-heater-hot-check");
    const network = buildNetwork(map);
    const heater = network.cells.findIndex((c) => c.part?.kind.includes("heater") && c.form === "vessel");
    const room = network.cells[heater]?.capacityM3 ?? 0;
    const { winterLowC, marginC, basis, product: jug, trapDoseM3 } = standardSetup();
    const tagOf = (strength: number): string => {
      const start = startPhysical(network, map.lineup);
      const contents = start.contents.map((c, i) => (i === heater ? { plugs: [product(room, strength)], source: "measured" as const } : c));
      const plan = planWinterize({
        network,
        start: { ...start, contents },
        winterLowC,
        marginC,
        basis,
        product: jug,
        trapDoseM3,
        cannot: [],
      });
      return plan.steps.flatMap((s) => s.actions.flatMap((a) => ("label" in a && a.label.startsWith("Tag") ? [a.label] : []))).join();
    };
    expect(tagOf(0.45)).toMatch(/holds antifreeze/u);
    expect(tagOf(0.1)).not.toMatch(/holds antifreeze|heater empty/u);
  });
});
