import { describe, expect, it } from "vitest";
import { frostVerdict, liquidIn, product, strengthOf, volumeOf } from "../../contents/index.ts";
import { caseMap } from "../../testing/cases/index.ts";
import { buildNetwork, inUseLineup } from "../../watermap/index.ts";
import { act } from "../act.ts";
import { startPhysical } from "../physical.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { type Plan, planWinterize, standardRequest, standardSetup } from "../index.ts";

/** Smallest maps on which the advice was wrong once, and what is true of each by plain physics. */
const planOf = (name: string): Plan => {
  const map = caseMap(name);
  const network = buildNetwork(map);
  const { winterLowC, marginC, basis, product: jug, trapDoseM3 } = standardSetup();
  const start = startPhysical(network, { ...inUseLineup(network), ...map.lineup });
  return planWinterize({
    network,
    start,
    winterLowC,
    marginC,
    basis,
    product: jug,
    trapDoseM3,
    cannot: [],
  });
};
const at = (plan: Plan, id: string): number => plan.steps.findIndex((s) => s.id === id);

describe("a plan", () => {
  it("has a heater switched off, cooled and drained of which it is not written down how it is heated, and asks what heats it", () => {
    const plan = planOf("d15-heater-no-energy");
    const order = ["secure:heater:off", "secure:heater:cool", "drain:heater"].map((id) =>
      at(plan, id),
    );
    expect(order).toEqual(order.toSorted((a, b) => a - b));
    expect(order[0]).toBeGreaterThanOrEqual(0);
    expect(plan.steps[order[0] ?? -1]?.title).toMatch(/^Find what heats/u);
    expect(plan.steps[order[2] ?? -1]?.needs).toEqual(
      expect.arrayContaining(["secure:heater:off", "secure:heater:cool"]),
    );
    expect(plan.holdsToC).toBeLessThan(-18);
  });

  it("shuts a low point that was found open before the pump runs", () => {
    const plan = planOf("d16-low-point-found-open");
    const running = plan.steps.findIndex((s) => s.actions.some((a) => a.type === "pump"));
    const turns = plan.steps.slice(0, running + 1).flatMap((s) => s.actions);
    const shut = turns.findIndex(
      (a) => a.type === "set-valve" && a.control === "d1" && a.position === "shut",
    );
    expect(shut).toBeGreaterThanOrEqual(0);
    expect(shut).toBeLessThan(turns.findIndex((a) => a.type === "pump"));
  });

  it.each([
    ["d5-inlet-open", 1],
    ["d5-inlet-with-check", 1],
    ["d5-p01", 30],
    ["d5-p09", 30],
    ["d5-p09-check", 30],
  ])(
    "pushes no antifreeze out of an open inlet while it fills something else: %s takes less than %d L",
    (name, most) => {
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
    },
  );

  it("does not take a dip that stands full for room for ice, whatever share of its run it is", () => {
    const plan = planOf("d17-dip");
    const network = buildNetwork(caseMap("d17-dip"));
    let drained = startPhysical(network);
    for (const a of plan.steps
      .filter((s) => s.stage === "secure" || s.stage === "drain")
      .flatMap((s) => s.actions))
      drained = act(network, drained, a, 0.5).physical;
    const dip = frostVerdict(network, drained.contents).owners.find(
      (o) => o.id === "r-regulator-out-tap-supply",
    );
    expect(dip).toMatchObject({
      holdsToC: 0,
      evidence: expect.stringMatching(/dip is full of water/u),
    });
    // Nothing but what is pushed through it from outside protects it.
    expect(plan.steps.filter((s) => s.actions.some((a) => a.type === "push-by-hand"))).not.toEqual(
      [],
    );
    expect(
      strengthOf(
        liquidIn(plan.after.contents[network.cells.findIndex((c) => c.ownerId === dip?.id)]),
      ),
    ).toBeGreaterThan(0.4);
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
    expect(volumeOf(liquidIn(startPhysical(network, map.lineup).contents[cell]))).toBeCloseTo(
      stands,
      9,
    );
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
      const labels = planOf(name).steps.flatMap((s) =>
        s.actions.flatMap((a) => ("label" in a ? [a.label] : [])),
      );
      const tags = labels.filter((label) => label.startsWith("Tag hung"));
      expect(tags.length).toBeGreaterThan(0);
      expect(tags.join()).not.toMatch(/holds antifreeze/u);
    },
  );

  it("has the tag of a heater that was filled on purpose say so, and only of one that holds the winter low", () => {
    const map = caseMap("d2-heater-hot-check");
    const network = buildNetwork(map);
    const heater = network.cells.findIndex(
      (c) => c.part?.kind.includes("heater") && c.form === "vessel",
    );
    const room = network.cells[heater]?.capacityM3 ?? 0;
    const { winterLowC, marginC, basis, product: jug, trapDoseM3 } = standardSetup();
    const tagOf = (strength: number): string => {
      const start = startPhysical(network, map.lineup);
      const contents = start.contents.map((c, i) =>
        i === heater ? { plugs: [product(room, strength)], source: "measured" as const } : c,
      );
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
      return plan.steps
        .flatMap((s) =>
          s.actions.flatMap((a) => ("label" in a && a.label.startsWith("Tag") ? [a.label] : [])),
        )
        .join();
    };
    expect(tagOf(0.45)).toMatch(/holds antifreeze/u);
    expect(tagOf(0.1)).not.toMatch(/holds antifreeze|heater empty/u);
  });

  it("calls the leg before a heater's cold check full when nothing lets air in behind it, and does not say that it is drained", () => {
    const plan = planOf("d1-leg-behind-check");
    expect(plan.holdsToC).toBe(0);
    const full = plan.unprotected.filter((u) => u.why.startsWith("full of water")).map((u) => u.id);
    expect(full).toEqual(expect.arrayContaining(["check", "vc", "r-th-b-vc-a", "r-vc-b-check-in"]));
  });

  it.each(["d2-heater-hot-check", "d2-p08-point-of-use", "d2-p16-point-of-use"])(
    "calls a heater without a drain, behind a check, full: %s",
    (name) => {
      const plan = planOf(name);
      expect(plan.unprotected).toContainEqual(
        expect.objectContaining({ id: "heater", why: expect.stringMatching(/^full of water/u) }),
      );
      const heater = buildNetwork(caseMap(name)).cells.findIndex(
        (c) => c.ownerId === "heater" && c.form === "vessel",
      );
      const cell = buildNetwork(caseMap(name)).cells[heater];
      expect(volumeOf(liquidIn(plan.after.contents[heater]))).toBeCloseTo(cell?.capacityM3 ?? 0, 9);
    },
  );

  it("puts every hot outlet in doubt while it is not known whether there is a cross-link: there may be none", () => {
    const doubted = planOf("d3-p02-bypass-unknown").cannotTell;
    for (const id of ["vx", "sink", "shower"]) expect(doubted.map((d) => d.id)).toContain(id);
    expect(planOf("d3-p02-bypass-unknown").meetsMargin).toBe(false);
    // Known not to be there: the heater is in the way, and is filled.
    const none = planOf("d3-p02-bypass-none");
    expect(none.cannotTell).toEqual([]);
    expect(none.steps.some((s) => s.id === "bypass:heater:plug")).toBe(true);
  });

  it("draws through a jug's hose on the pump's own inlet as well as on a coupling before it", () => {
    const [at, with_] = [planOf("d4-jug-at-pump-inlet"), planOf("d4-with-coupling")];
    for (const plan of [at, with_]) {
      expect(plan.steps.some((s) => s.id === "fill:tap" && s.antifreezeM3 > 0)).toBe(true);
      expect(plan.holdsToC).toBeLessThan(-18);
    }
    expect(at.entry).toBe("a jug hose in place of the line to the pump");
  });

  it("has an on-demand heater off and cool before its lever is pulled, and tagged", () => {
    const plan = planOf("d6-on-demand");
    const order = [
      "secure:heater:off",
      "secure:heater:cool",
      "drain:heater",
      "drain:lines",
      "button-up:heater:tag",
    ].map((id) => at(plan, id));
    expect(order.every((i) => i >= 0)).toBe(true);
    expect(order).toEqual(order.toSorted((a, b) => a - b));
    const drain = plan.steps[at(plan, "drain:heater")];
    expect(drain?.needs).toEqual(
      expect.arrayContaining(["secure:heater:off", "secure:heater:cool"]),
    );
    expect(drain?.actions).toContainEqual(
      expect.objectContaining({ control: "heater:drain", position: "open" }),
    );
  });

  it("takes a pressed fill line for full until it is emptied", () => {
    const network = buildNetwork(caseMap("d7-fill-branch"));
    const fill = network.cells.findIndex((c) => c.run?.service === "fill");
    const cell = network.cells[fill];
    expect(volumeOf(liquidIn(startPhysical(network).contents[fill]))).toBeCloseTo(
      cell?.capacityM3 ?? 0,
      12,
    );
    // Nothing on this map empties it: what is pushed in at the inlet fills it.
    const plan = planOf("d7-fill-branch");
    expect(strengthOf(liquidIn(plan.after.contents[fill]))).toBeGreaterThan(0.35);
  });

  it("doubts all that drains or is filled through what nobody knows", () => {
    const doubted = planOf("d8-drained-through-unknown").cannotTell.map((d) => d.id);
    for (const id of ["x", "r-x", "r-regulator-out-tap-supply", "regulator"])
      expect(doubted).toContain(id);
  });

  it("lets a tee in a waste pipe that falls empty with it", () => {
    const network = buildNetwork(caseMap("d9-waste-tee"));
    const tees = network.cells.filter((c) => c.kind?.role.joint && c.side === "waste");
    expect(tees.length).toBeGreaterThan(0);
    const plan = planOf("d9-waste-tee");
    expect(plan.unprotected).toEqual([]);
    expect(plan.holdsToC).toBeLessThan(-18);
  });

  it("goes in on the fresh side and shuts the seacock before anything behind it is opened, whatever the pumps are called", () => {
    const plan = planOf("d18-raw-pump-first");
    const network = buildNetwork(caseMap("d18-raw-pump-first"));
    const isRaw = (id: string): boolean =>
      network.cells.some((c) => c.ownerId === id && c.side === "raw");
    const first = at(plan, "secure:seacocks");
    expect(first).toBeGreaterThanOrEqual(0);
    // The raw side has its own way in: the intake's hose, off a seacock that is shut.
    const rawHoses = plan.steps.filter((s) =>
      s.actions.some(
        (a) =>
          a.type === "disconnect" &&
          network.map.runs.find((r) => r.id === a.run)?.service === "raw",
      ),
    );
    expect(rawHoses.length).toBeGreaterThan(0);
    for (const step of rawHoses) expect(plan.steps.indexOf(step)).toBeGreaterThan(first);
    plan.steps.forEach((step, i) => {
      for (const a of step.actions) {
        if (a.type === "disconnect" && a.jug)
          expect(network.map.runs.find((r) => r.id === a.run)?.service).not.toBe("raw");
        if (a.type === "pump") expect(isRaw(a.switch)).toBe(false);
        if (a.type === "set-valve" && a.position === "open" && isRaw(a.control.split(":")[0] ?? ""))
          expect(i).toBeGreaterThan(first);
      }
    });
  });

  it("does not take a tank for emptied by a pump that sends its water round, back into the tank: what lets it is shut meanwhile", () => {
    const pattern = PATTERNS.find((p) => p.id === "P10");
    if (!pattern) throw new Error("no such family");
    const network = buildNetwork(starterMap(pattern));
    const start = startPhysical(network);
    const dry = planWinterize(standardRequest(network, start)).steps.find(
      (s) => s.id === "drain:pump:dry",
    );
    const turns = (dry?.actions ?? []).flatMap((a) =>
      a.type === "set-valve" && a.control === "man:way5" ? [a.position] : [],
    );
    expect(turns).toEqual(["shut", "open"]);
    const inTanks = (contents: typeof start.contents): number =>
      network.cells.reduce(
        (sum, c, i) =>
          sum + (c.kind?.role.vessel === "fresh" ? volumeOf(liquidIn(contents[i])) : 0),
        0,
      );
    const after = (actions: NonNullable<typeof dry>["actions"]): number => {
      let now = start;
      for (const a of actions) now = act(network, now, a, 0.5).physical;
      return inTanks(now.contents);
    };
    expect(after(dry?.actions ?? [])).toBeLessThan(0.2 * inTanks(start.contents));
    // The same with the way back left open empties nothing.
    expect(
      after((dry?.actions ?? []).filter((a) => a.type !== "set-valve" || a.control !== "man:way5")),
    ).toBeCloseTo(inTanks(start.contents), 9);
  });
});
