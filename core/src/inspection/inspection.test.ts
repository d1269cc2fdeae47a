import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { networkOf } from "../testing/variants.ts";
import { kindOfPart, PART_KINDS } from "../watermap/index.ts";
import { believedLevel, KNOWN_LOOKS, rodVerdict, supplyVerdict, walkRound } from "./index.ts";

const PSI = 6894.757;

describe("the walk-round", () => {
  it.each([...EXAMPLE_MAPS, ...PATTERNS.map(starterMap)].map((m) => [m.name, m] as const))(
    "of %s passes every part that has anything to look at once, place by place in walking order",
    (_, map) => {
      const stops = walkRound(map);
      const points = stops.flatMap((s) => s.points);
      expect(new Set(points.map((p) => p.key)).size).toBe(points.length);
      const wanted = map.parts
        .filter((p) => !kindOfPart(p).role.joint && kindOfPart(p).inspect.length > 0)
        .map((p) => p.id);
      expect(
        new Set(points.filter((p) => !p.key.startsWith("unit/")).map((p) => p.partId)),
      ).toEqual(new Set(wanted));
      const places = stops.map((s) => s.place).filter((p) => map.places.includes(p));
      expect(places).toEqual(map.places.filter((p) => places.includes(p)));
    },
  );

  it("has words for how every point of every kind is looked at", () => {
    const silent = [...PART_KINDS.values()].flatMap((kind) =>
      kind.inspect.filter((point) => !KNOWN_LOOKS.has(point)),
    );
    expect(silent).toEqual([]);
  });

  it("keeps what stands behind one panel together, and asks for what the map does not show", () => {
    const vintage = PATTERNS.find((p) => p.id === "P09");
    if (!vintage) throw new Error("no such family");
    const last = walkRound(starterMap(vintage)).at(-1);
    expect(last?.place).toBe("the whole unit");
    expect(last?.points.map((p) => p.key.split("/")[1])).toContain("no-regulator");
    for (const stop of walkRound(teasel)) {
      const panels = stop.points.map((p) => p.access ?? "");
      expect(panels.filter((p, i) => p !== panels[i - 1])).toHaveLength(new Set(panels).size);
    }
  });

  it("warns before a hand goes to a heater's plug, and takes three thicknesses of its rod", () => {
    const points = walkRound(teasel).flatMap((s) => s.points.filter((p) => p.partId === "heater"));
    expect(points.find((p) => p.point === "Plug threads clean")?.look.caution).toMatch(
      /Heater off/u,
    );
    expect(points.find((p) => p.point.startsWith("Anode"))?.look.reading).toEqual({
      label: "Thickness",
      is: "length",
      times: 3,
    });
  });
});

describe("a sacrificial rod", () => {
  // By hand: (15.2/19)² = 0.64 left after 365 days, so 0.36 lost; from 0.64 to 0.25 is 0.39, at 0.36 a year 395.4 days more.
  const rod = { newM: 0.019, fittedOn: "2024-04-01" };
  const year = { on: "2025-04-01", thicknessM: [0.0171, 0.0152, 0.0163] };

  it("is due on the day worked out by hand, and shows its working", () => {
    const verdict = rodVerdict(rod, [year]);
    expect(verdict).toMatchObject({ ok: true, due: false, renewBy: "2026-05-01" });
    expect(verdict.ok && verdict.left).toBeCloseTo(0.64, 12);
    expect(verdict.ok && verdict.lossPerMonth * 12).toBeCloseTo(0.36 * (365.25 / 365), 6);
    expect(verdict.ok && verdict.working.join(" ")).toMatch(
      /64 %.*2025-04-01.*a quarter left after/u,
    );
  });

  it("follows further readings, and is due when a quarter is left or the core shows", () => {
    // (9.5/19)² = 0.25.
    expect(rodVerdict(rod, [year, { on: "2026-04-01", thicknessM: [0.0095] }])).toMatchObject({
      ok: true,
      due: true,
      renewBy: "2026-04-01",
    });
    expect(rodVerdict(rod, [{ ...year, coreShows: true }])).toMatchObject({ ok: true, due: true });
    const slower = rodVerdict(rod, [year, { on: "2026-04-01", thicknessM: [0.0149] }]);
    expect(slower.ok && slower.renewBy > "2026-05-01").toBe(true);
  });

  it.each([
    ["no reading", { newM: 0.019 }, []],
    ["one reading and no day of fitting", { newM: 0.019 }, [year]],
    ["two on one day", { newM: 0.019 }, [year, year]],
    ["a rod that has grown", { newM: 0.019 }, [year, { on: "2026-04-01", thicknessM: [0.0185] }]],
  ])("with %s says that there are not enough readings instead of guessing", (_, of, readings) => {
    expect(rodVerdict(of, readings)).toEqual({
      ok: false,
      problem: expect.stringMatching(/^Not enough readings/u),
    });
  });

  it("is never due before its last reading, and a faster loss is due sooner (any readings)", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 0.99, noNaN: true }),
        fc.integer({ min: 40, max: 900 }),
        (share, days) => {
          const on = new Date(Date.parse("2024-04-01T00:00:00Z") + days * 86_400_000)
            .toISOString()
            .slice(0, 10);
          const at = (s: number) => rodVerdict(rod, [{ on, thicknessM: [0.019 * s] }]);
          const [one, worse] = [at(share), at(share * 0.9)];
          if (!one.ok || !worse.ok) return;
          expect(one.renewBy >= on).toBe(true);
          expect(worse.renewBy <= one.renewBy).toBe(true);
        },
      ),
      { seed: 1 },
    );
  });
});

describe("a supply", () => {
  const network = networkOf(teasel);

  it.each([
    [110, undefined, "unsafe"],
    [82, undefined, "unsafe"],
    [79, undefined, "regulate"],
    [70, undefined, "regulate"],
    [50, 45, "good"],
    [30, undefined, "low"],
  ] as const)("of %d psi is %s", (still, flowing, verdict) => {
    expect(
      supplyVerdict(network, still * PSI, flowing === undefined ? undefined : flowing * PSI)
        .verdict,
    ).toBe(verdict);
  });

  it("is held against the weakest pipe behind it", () => {
    const weak = {
      ...teasel,
      runs: teasel.runs.map((r) =>
        r.service === "hot" ? { ...r, pipe: "hose-13", name: "weak line" } : r,
      ),
    };
    const rating = supplyVerdict(networkOf(weak), 0).weakestPa;
    expect(supplyVerdict(networkOf(weak), rating * 1.01).verdict).toBe("unsafe");
    expect(supplyVerdict(network, 0).weakestPa).toBeGreaterThan(40 * PSI);
  });

  it("that falls below six tenths while a tap runs has something in its way", () => {
    expect(supplyVerdict(network, 50 * PSI, 25 * PSI)).toMatchObject({
      restriction: true,
      why: expect.stringMatching(/under six tenths/u),
    });
    expect(supplyVerdict(network, 50 * PSI, 35 * PSI).restriction).toBe(false);
  });
});

describe("a tank's level", () => {
  it("is believed by how it was told: overflow before sight, sight before a lamp, a black tank's sender last", () => {
    const sender = { method: "sender", level: 0.3, waste: true } as const;
    const torch = { method: "torch", level: 0.8 } as const;
    expect(believedLevel([sender, torch])).toEqual({
      level: 0.8,
      method: "torch",
      doubt: "sender says 30 %, torch 80 %",
    });
    expect(
      believedLevel([
        { method: "sight", level: 0.5 },
        { method: "overflow", level: 1 },
      ])?.method,
    ).toBe("overflow");
    expect(believedLevel([])).toBeUndefined();
  });
});
