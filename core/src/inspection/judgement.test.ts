import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { burdock, teasel } from "../examples/index.ts";
import { startingContents } from "../contents/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import {
  buildNetwork,
  inUseLineup,
  kindOfPart,
  PART_KINDS,
  readWaterMap,
  undrawnMap,
  type WaterMap,
} from "../watermap/index.ts";
import {
  buildReport,
  canBeFound,
  canBeMissing,
  estimateVisit,
  foundAnother,
  isFitted,
  JOBS,
  notFitted,
  plugVerdict,
  polarityVerdict,
  type ReportFinding,
  type ReportLook,
  serviceDue,
  SPRING_LIST,
  heatersInWords,
  walkRound,
} from "./index.ts";

describe("a pump's wires", () => {
  it.each([
    [12.6, "right"],
    [11, "right"],
    [10.2, "low"],
    [-12.4, "crossed"],
    [0.3, "cannot tell"],
    [undefined, "cannot tell"],
    [Number.NaN, "cannot tell"],
  ] as const)("at %s V are %s, by the meter alone", (volts, verdict) => {
    expect(polarityVerdict(volts).verdict).toBe(verdict);
  });
});

describe("a heater's plug", () => {
  // Sockets: 15/16 in is 23.8 mm, 1-1/16 in is 27.0 mm (by the inch's definition, 25.4 mm).
  it.each([
    [0.02381, "aluminium", "plastic, no rod", true],
    [0.027, "steel", "steel, with a rod", true],
    [0.02699, "aluminium", "steel, with a rod", false],
    [0.0238, "steel", "plastic, no rod", false],
    [0.027, "not looked at", "steel, with a rod", undefined],
    [0.027, "stainless steel", "steel, with a rod", undefined],
    [0.025, "steel", undefined, undefined],
    [undefined, "steel", undefined, undefined],
  ] as const)("of %s m in a vessel of %s is %s, fits: %s", (hex, metal, plug, fits) => {
    expect(plugVerdict(hex, metal)).toMatchObject({ plug, fits });
  });
});

describe("a piece that wears by age and by use", () => {
  it("is due on the earlier of the two, worked out by hand", () => {
    // By age: 2025-01-01 and 12 × 30.4375 = 365.25 days: 2026-01-01. By use: 600 of 1000 L in 90 days, so 150 days: 2025-05-31.
    const of = { fittedOn: "2025-01-01", lifeMonths: 12 };
    expect(serviceDue(of)).toMatchObject({ ok: true, dueOn: "2026-01-01", by: "age" });
    const used = serviceDue({ ...of, use: { unit: "L", life: 1000, used: 600, on: "2025-04-01" } });
    expect(used).toMatchObject({ ok: true, dueOn: "2025-05-31", by: "use" });
    expect(used.ok && used.working.join(" ")).toMatch(/365|12 months.*600 of 1000 L in 90 days/u);
    expect(
      serviceDue({ ...of, use: { unit: "L", life: 1000, used: 1000, on: "2025-03-01" } }),
    ).toMatchObject({ dueOn: "2025-03-01" });
  });

  it.each([
    ["the day of fitting is not known", { fittedOn: null, lifeMonths: 12 }],
    ["no life is known", { fittedOn: "2025-01-01", lifeMonths: null }],
    [
      "use was read too soon",
      {
        fittedOn: "2025-01-01",
        lifeMonths: null,
        use: { unit: "h" as const, life: 500, used: 3, on: "2025-01-05" },
      },
    ],
  ])("says that there are not enough readings where %s", (_, of) => {
    expect(serviceDue(of)).toEqual({
      ok: false,
      problem: expect.stringMatching(/^Not enough readings/u),
    });
  });

  it("is due sooner the more is used (any use)", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 1, max: 400 }), (a, b) => {
        const due = (used: number) =>
          serviceDue({
            fittedOn: "2025-01-01",
            lifeMonths: 60,
            use: { unit: "L", life: 1000, used, on: "2025-04-01" },
          });
        const [less, more] = [due(Math.min(a, b)), due(Math.max(a, b))];
        expect(less.ok && more.ok && more.dueOn <= less.dueOn).toBe(true);
      }),
      { seed: 1 },
    );
  });
});

describe("marks that correct the map", () => {
  const sound = (map: WaterMap): boolean => readWaterMap(map).ok;

  it.each([teasel, burdock, ...PATTERNS.map(starterMap)].map((m) => [m.name, m] as const))(
    "of %s: any part not fitted, or another found beside it, leaves a sound map",
    (_, map) => {
      const points = walkRound(map).flatMap((s) => s.points);
      for (const point of new Map(points.map((p) => [p.partId, p])).values()) {
        if (!canBeMissing(map, point.partId)) continue;
        const gone = notFitted(map, point.partId ?? "");
        expect(
          gone.ok && sound(gone.map) && !gone.map.parts.some((p) => p.id === point.partId),
          point.name,
        ).toBe(true);
        const more = foundAnother(map, point, "ball-valve", "Stop");
        if (more.ok)
          expect(sound(more.map) && more.map.parts.some((p) => p.name === "Stop"), point.name).toBe(
            true,
          );
      }
    },
  );

  it("a doubt is gone when the part was seen", () => {
    const map = PATTERNS.map(starterMap).find((m) => m.parts.some((p) => p.unknown));
    const doubt = map?.parts.find((p) => p.unknown);
    if (!map || !doubt) throw new Error("no family with a doubt");
    const seen = isFitted(map, doubt.id);
    expect(seen.ok && seen.map.parts.find((p) => p.id === doubt.id)?.unknown).toBeUndefined();
  });

  it("what is not there any more is said, and tanks are not found behind panels", () => {
    expect(notFitted(teasel, "nowhere")).toMatchObject({ ok: false });
    expect(foundAnother(teasel, { partId: "nowhere" }, "ball-valve")).toMatchObject({ ok: false });
    const kinds = [...PART_KINDS.values()].filter((k) => canBeFound(k.group));
    expect(kinds.some((k) => k.kind === "ball-valve")).toBe(true);
    expect(kinds.some((k) => k.kind === "fresh-tank" || k.role.vessel === "heater")).toBe(false);
  });

  it("a unit that nobody has drawn has a sound map of which nothing can be told", () => {
    const map = undrawnMap({ name: "Gorse", craft: "camper" });
    expect(sound(map)).toBe(true);
    expect(map.parts.every((p) => p.unknown !== undefined)).toBe(true);
    expect(walkRound(map).flatMap((s) => s.points).length).toBeGreaterThan(0);
  });
});

describe("how long a visit takes", () => {
  it("comes from the map and the plans where there are any, and says what is only assumed", () => {
    const points = walkRound(teasel).flatMap((s) => s.points).length;
    const [walk, winter, soak] = estimateVisit(["walk-round", "winterize", "sanitize"], teasel, {
      winterizeMinutes: 128,
    });
    expect(walk).toMatchObject({
      source: "worked out",
      working: expect.stringContaining(`${points} points`),
    });
    expect(winter).toMatchObject({ minutes: 130, source: "worked out" });
    expect(soak).toMatchObject({ alone: 240, source: "assumed" });
    expect(estimateVisit(["winterize"], teasel)).toMatchObject([{ source: "assumed" }]);
    expect(
      estimateVisit(
        JOBS.map((j) => j.id),
        teasel,
      ).map((e) => e.job),
    ).toEqual(JOBS.map((j) => j.id));
    expect(estimateVisit(["nothing of the kind"], teasel)).toEqual([]);
  });
});

describe("how the heaters stand", () => {
  it("is said in words: what holds water, what is empty, what is bypassed", () => {
    const network = buildNetwork(teasel);
    const full = startingContents(network);
    expect(heatersInWords(network, full, inUseLineup(network))).toEqual(["heater holding water"]);
    const pink = network.cells.map((c) => ({
      plugs: [{ waterM3: c.capacityM3 / 2, glycolM3: c.capacityM3 / 2 }],
      source: "worked out" as const,
    }));
    expect(heatersInWords(network, pink, inUseLineup(network))).toEqual([
      "heater holding antifreeze",
    ]);
    const empty = full.map((c, i) =>
      network.cells[i]?.ownerId === "heater" ? { ...c, plugs: [] } : c,
    );
    const valves = network.controls.filter((c) => /^v[567]$/u.test(c.key));
    const turned = Object.fromEntries(
      valves.map((c) => [
        c.key,
        c.spec.positions.find((p) => p.name !== inUseLineup(network)[c.key])?.name ?? "",
      ]),
    );
    expect(
      heatersInWords(network, empty as typeof full, { ...inUseLineup(network), ...turned }),
    ).toEqual(["heater bypassed, empty"]);
  });
});

describe("the report", () => {
  const points = walkRound(burdock).flatMap((s) => s.points);
  const look = (i: number, mark: string, at = "2026-10-14T09:00:00.000Z"): ReportLook => {
    const p = points[i];
    if (!p) throw new Error("no such point");
    return {
      key: p.key,
      point: p.point,
      partId: p.partId ?? null,
      mark,
      note: "",
      at,
      by: "R. Amadi",
    };
  };
  const finding = (more: Partial<ReportFinding>): ReportFinding => ({
    id: "f",
    visitId: "v",
    what: "Weeps",
    severity: "wears",
    partId: "pump",
    place: "",
    cause: "",
    advice: "",
    partsNeeded: "",
    minutes: null,
    state: "open",
    foundAt: "2026-10-14T09:00:00.000Z",
    foundBy: "R. Amadi",
    ...more,
  });

  it("counts every point once: looked at by its newest mark, not reached, or not looked at", () => {
    const report = buildReport(
      burdock,
      "v",
      [look(0, "bad"), look(0, "good", "2026-10-14T10:00:00.000Z"), look(1, "not-reached")],
      [],
    );
    expect([report.seen, report.good, report.inAll]).toEqual([1, 1, points.length]);
    expect(report.notReached).toHaveLength(1);
    expect(report.notLooked.flatMap((n) => n.points)).toHaveLength(points.length - 2);
    expect(report.places.flatMap((p) => p.lines.map((l) => l.mark))).toEqual(["good"]);
  });

  it("brings what is open and what is unsafe and declined with every visit, what was mended with its own", () => {
    const report = buildReport(
      burdock,
      "v",
      [],
      [
        finding({ id: "a", severity: "note" }),
        finding({
          id: "b",
          severity: "unsafe",
          state: "accepted",
          visitId: "long ago",
          answer: { answer: "no", who: "owner", at: "" },
        }),
        finding({ id: "c", state: "mended", partId: null }),
        finding({ id: "d", state: "mended", visitId: "long ago" }),
        finding({ id: "e", state: "accepted" }),
      ],
    );
    expect(report.open.map((f) => f.id)).toEqual(["b", "a"]);
    expect(report.declined.map((f) => f.id)).toEqual(["b"]);
    expect(report.mended.map((f) => f.id)).toEqual(["c"]);
    expect(report.accepted.map((f) => f.id)).toEqual(["e"]);
    expect(report.lit).toEqual(["pump"]);
  });

  it("keeps what was looked at on a part that has left the map since", () => {
    const without = notFitted(burdock, points[0]?.partId ?? "");
    if (!without.ok) throw new Error(without.problem);
    const report = buildReport(without.map, "v", [look(0, "not-fitted")], []);
    expect(report.places.at(-1)?.place).toBe("no longer on the map");
  });
});

describe("the spring list", () => {
  it("speaks of no part of the water system, names each system once, and leaves gas and mains to licensed trades", () => {
    expect(new Set(SPRING_LIST.map((i) => i.id)).size).toBe(SPRING_LIST.length);
    for (const item of SPRING_LIST.filter((i) => /gas|stove|furnace|shore/iu.test(i.system)))
      expect(item.defer === undefined && item.system !== "Gas and smoke alarms", item.system).toBe(
        false,
      );
    const kinds = new Set(
      [...PART_KINDS.values()].filter((k) => !k.role.joint).map((k) => k.label.toLowerCase()),
    );
    expect(SPRING_LIST.filter((i) => kinds.has(i.system.toLowerCase()))).toEqual([]);
    expect(kindOfPart({ kind: "tee", id: "t", name: "t", heightM: 0, params: {} }).role.joint).toBe(
      true,
    );
  });
});
