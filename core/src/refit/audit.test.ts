import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { type Method, planWinterize, standardRequest, startPhysical } from "../procedure/index.ts";
import { applyMend, surveyMap } from "../survey/index.ts";
import { buildNetwork, changePart, type Network, type WaterMap } from "../watermap/index.ts";
import {
  auditMap,
  besideOf,
  expansions,
  growthOf,
  habitsSchema,
  savingOf,
  slackMoment,
  takesShare,
} from "./index.ts";

const demo = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(id);
  return found;
};
const settings = { winter: {}, habits: habitsSchema.parse({}), limits: [] };
const PSI = 6894.757;

const planOf = (network: Network, method: Method) =>
  planWinterize({ ...standardRequest(network, startPhysical(network)), method });

describe("an audit", () => {
  // Of the largest only what is no plan: each of theirs takes seconds.
  it.each(EXAMPLE_MAPS.map((m) => m.id))(
    "of %s as it is says what the unit's own plan and survey say, to the digit",
    (id) => {
      const map = demo(id);
      const network = buildNetwork(map);
      const audit = auditMap(map, settings, map.parts.length > 40 ? [] : undefined);
      for (const of of audit.methods) {
        const plan = planOf(network, of.method);
        expect(of.holdsToC).toBe(plan.holdsToC);
        expect(of.antifreeze.medianM3).toBe(plan.antifreeze.medianM3);
        expect(of.minutes).toBe(plan.minutes);
        expect(of.wet.map((w) => w.id)).toEqual(plan.unprotected.map((u) => u.id));
      }
      expect(audit.problems).toEqual(surveyMap(map).problems);
      // Beside itself nothing is better or worse.
      for (const line of besideOf(audit, audit)) expect(line.change).toBe("same");
    },
  );

  it("names a drain behind a fixed wall, and not one behind a panel", () => {
    const dipper = demo("dipper");
    const drain = dipper.parts.find((p) => p.kind === "low-point-drain")?.id ?? "";
    const behind = (access: string): WaterMap => {
      const done = changePart(dipper, drain, { access });
      if (!done.ok) throw new Error(done.problem);
      return done.map;
    };
    const buried = (map: WaterMap) => auditMap(map, settings, []).buried.map((b) => b.part);
    expect(buried(behind("behind a fixed wall"))).toEqual([drain]);
    expect(buried(behind("behind a removable panel, 4 screws"))).toEqual([]);
  });

  it("a check put before the heater by one tap raises the question of expansion, and sizes what takes it", () => {
    const found = EXAMPLE_MAPS.flatMap((map) =>
      surveyMap(map)
        .problems.filter((p) => p.code === "no-check-at-heater")
        .map((problem) => ({ map, problem })),
    )[0];
    if (!found) throw new Error("no demo unit lacks its check");
    const mend = found.problem.mends[0];
    const done = mend ? applyMend(found.map, mend) : undefined;
    if (!done?.ok) throw new Error("not mended");
    expect(surveyMap(done.map).problems.some((p) => p.code === "no-check-at-heater")).toBe(false);
    const heater = found.problem.parts[0];
    const now = expansions(buildNetwork(done.map)).find((e) => e.heater === heater);
    expect(now?.closed).toBe(true);
    expect(now?.takenM3).toBeLessThan(now?.growsM3 ?? 0);
    const [before, after] = [found.map, done.map].map((m) => auditMap(m, settings, []));
    if (!before || !after) throw new Error("no audit");
    const line = besideOf(before, after).find((l) => l.label === "protections missing");
    expect(line?.change).toBe("better");
    expect(line?.gone.join(" ")).toContain("No check valve at the cold inlet");
  });

  it("sizes by the tables: 6 gal from 10 to 60 °C grow by 0.38 L, which 0.33 gal takes from 45 to 75 psi", () => {
    // Density of water: IAPWS-95 table; Boyle's law on absolute pressures. Worked by hand: handbook example.
    const gallon = 0.003785411784;
    const grows = 6 * gallon * growthOf(10, 60);
    expect(grows * 1000).toBeCloseTo(0.38, 2);
    const accumulator = grows / takesShare(40 * PSI, 45 * PSI, 75 * PSI);
    expect(accumulator / gallon).toBeCloseTo(0.33, 2);
  });

  it("gives between two starts what Boyle says: one gallon at 28 psi, 30 to 50, gives 0.295", () => {
    // Boyle's law, absolute pressures; worked by hand: handbook example.
    expect(takesShare(28 * PSI, 30 * PSI, 50 * PSI)).toBeCloseTo(0.295, 3);
    const yarrow = auditMap(demo("yarrow"), settings, []);
    expect(yarrow.cushionM3).toBeGreaterThan(0);
    expect(auditMap(demo("plover"), settings, []).cushionM3).toBe(0);
  });

  it("knows what a slack tank takes: 5 ft by 3 ft is 0.07 ft of 10,000 lb; of a square one by its own sides", () => {
    // Principles of Naval Architecture, free surface: l b³ / 12 over the displacement; worked by hand for 1.25 m² and 0.5 m.
    const side = 1.25;
    expect(slackMoment(side * side * 0.4, 0.4)).toBeCloseTo((1000 * side ** 4) / 12, 6);
  });

  it("tells what a change saves each autumn, and when it has paid for itself; nothing where no price is known", () => {
    const audit = auditMap(demo("burdock"), settings);
    const cheaper = {
      ...audit,
      methods: audit.methods.map((m) => ({
        ...m,
        minutes: m.minutes - 30,
        antifreeze: { ...m.antifreeze, jugs: m.antifreeze.jugs - 2 },
      })),
    };
    const saving = savingOf(audit, cheaper, "antifreeze", { jug: 10, hour: 60, cost: 100 });
    expect(saving).toMatchObject({ jugs: 2, minutes: 30, money: 50, paysBackYears: 2 });
    expect(savingOf(audit, cheaper, "antifreeze", { hour: 60 })?.money).toBeNull();
    expect(
      savingOf(cheaper, audit, "antifreeze", { jug: 10, cost: 100 })?.paysBackYears,
    ).toBeNull();
  });

  it("lasts by habits: 100 L of grey for two people at 30 L each is not two days", () => {
    const days = auditMap(demo("haywain"), settings, []).days;
    // 110 L of grey, two people with 20 L of shower and 10 L besides.
    expect(days.grey).toBeCloseTo(110 / 60, 6);
    expect(days.cannotTakeAFill).toEqual(["Grey tank"]);
    expect(days.black).toBeNull();
  });

  it("sets full tanks against what a limit still bears: fresh or waste, whichever is heavier, with the heater", () => {
    const limits = [
      { name: "Payload", places: [], leftKg: 320 },
      { name: "Hitch", places: ["nowhere"], leftKg: 1 },
    ];
    const audit = auditMap(demo("haywain"), { ...settings, limits }, []);
    // 300 kg fresh, 110 kg grey, 15 kg in the heater; 15.1 L by its label.
    expect(audit.limits.map((l) => [l.name, Math.round(l.fullKg), l.over])).toEqual([
      ["Payload", 315, false],
      ["Hitch", 0, false],
    ]);
    const less = auditMap(
      demo("haywain"),
      { ...settings, limits: [{ name: "Payload", places: [], leftKg: 310 }] },
      [],
    );
    expect(less.limits[0]?.over).toBe(true);
  });

  it("lists every hole through the hull with what stands behind it", () => {
    const [seacock, sink] = auditMap(demo("dipper"), settings, []).hull;
    expect(seacock).toMatchObject({
      name: "Seacock",
      takesIn: true,
      valves: ["Seacock"],
      strainer: true,
      pumps: ["Wash-down pump"],
    });
    expect(sink).toMatchObject({ name: "Sink discharge", takesIn: false, valves: [], pumps: [] });
    expect(auditMap(demo("teasel"), settings, []).hull).toEqual([]);
  });

  it("knows what comes and presses at each outlet while another runs: never more than alone", () => {
    for (const o of auditMap(demo("haywain"), settings, []).outlets) {
      expect(o.worstM3S).toBeGreaterThan(0);
      expect(o.worstM3S).toBeLessThanOrEqual(o.aloneM3S);
      // A jet through a tap: its flow goes with the root of the pressure behind it.
      expect(o.worstPa).toBeGreaterThan(0);
      expect(o.worstPa).toBeLessThan(4e5);
    }
  });

  it("names a fixture that drains into its tank past no trap", () => {
    const teasel = demo("teasel");
    const trap = teasel.parts.find((p) => p.name === "Galley trap");
    const [into, on] = [
      teasel.runs.find((r) => r.to.part === trap?.id),
      teasel.runs.find((r) => r.from.part === trap?.id),
    ];
    if (!into || !on) throw new Error("no trap");
    const bare: WaterMap = {
      ...teasel,
      parts: teasel.parts.filter((p) => p !== trap),
      runs: teasel.runs.flatMap((r) => (r === on ? [] : r === into ? [{ ...r, to: on.to }] : [r])),
    };
    expect(auditMap(teasel, settings, []).withoutTrap).toEqual([]);
    expect(auditMap(bare, settings, []).withoutTrap).toEqual(["Galley tap"]);
  });

  it("reckons each waste pipe's fall towards its tank: none climbs on a sound map but what is drawn so", () => {
    const falls = auditMap(demo("haywain"), settings, []).falls;
    expect(falls.every((f) => f.ok)).toBe(true);
    const turned = demo("haywain");
    const waste = turned.runs.find((r) => r.service === "waste");
    const flipped = {
      ...turned,
      runs: turned.runs.map((r) => (r === waste ? { ...r, from: r.to, to: r.from } : r)),
    };
    const same = auditMap(flipped, settings, []).falls;
    // Which end was drawn first says nothing of which way water runs.
    expect(same.find((f) => f.run === waste?.id)?.fall).toBeCloseTo(
      falls.find((f) => f.run === waste?.id)?.fall ?? Number.NaN,
      9,
    );
  });
});
