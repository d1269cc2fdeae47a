import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { addOnPipeRun, changePart, readWaterMap, type WaterMap } from "../watermap/index.ts";
import {
  addToRefit,
  adopt,
  heldOpen,
  piecesOf,
  progressOf,
  rebase,
  type Refit,
  refitBodySchema,
  refitNow,
  withIdentities,
} from "./index.ts";

const demo = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(id);
  return found;
};
const TEST = "3f0e2f5e-0a1b-4a57-9c6f-0e6b8f3a2d11";
const entry = (body: object, n = 0) => ({
  id: `e${n}`,
  at: `2026-12-01T09:0${n % 10}:00.000Z`,
  by: "R. Amadi",
  body: refitBodySchema.parse(body),
});
const made = { type: "made", name: "Bypass", from: "map", document: demo("haywain"), basedOn: 2 };
const after = (...bodies: object[]): Refit => {
  const { refit, astray } = refitNow([made, ...bodies].map(entry));
  expect(astray).toEqual([]);
  if (!refit) throw new Error("no refit");
  return refit;
};
const refused = (refit: Refit, body: object): string => {
  const next = addToRefit(refit, entry(body));
  return next.ok ? "" : next.problem;
};

describe("a refit on the record", () => {
  it("is closed only after it was tested, and only with all that lies behind the same panel", () => {
    const held = after(
      { type: "hold-point", what: "wall behind the heater", at: ["r1", "r2"] },
      { type: "work", of: ["r1", "r2"], state: "installed" },
      { type: "work", of: ["r1"], state: "tested", testId: TEST },
    );
    expect(heldOpen(held).map((h) => h.what)).toEqual(["wall behind the heater"]);
    expect(refused(held, { type: "work", of: ["r2"], state: "closed" })).toContain("tested");
    expect(refused(held, { type: "work", of: ["r1"], state: "closed" })).toContain("stays open");
    expect(refused(held, { type: "work", of: ["r2"], state: "tested" })).toContain("Name the");
    const passed = refitNow([
      entry(made),
      entry({ type: "hold-point", what: "wall", at: ["r1"] }),
      entry({ type: "work", of: ["r1"], state: "tested", testId: TEST }),
      entry({ type: "work", of: ["r1"], state: "closed" }),
    ]);
    expect(passed.astray).toEqual([]);
    expect(passed.refit?.work["r1"]?.state).toBe("closed");
  });

  it("is neither tested nor closed while what beds it still cures", () => {
    const bedded = after(
      { type: "work", of: ["r1"], state: "installed" },
      { type: "bedded", of: ["r1"], product: "Bedding", hours: 24, temperatureC: 12 },
    );
    const tested = { type: "work", of: ["r1"], state: "tested", testId: TEST };
    expect(refused(bedded, tested)).toContain("still cures: not before 2026-12-02 09:02");
    expect(refused(bedded, { ...tested, of: ["r2"] })).toBe("");
    const later = addToRefit(bedded, { ...entry(tested), at: "2026-12-02T09:03:00.000Z" });
    expect(later.ok).toBe(true);
  });

  it("undone again, it is held open again", () => {
    const again = after(
      { type: "hold-point", what: "floor", at: ["r1"] },
      { type: "work", of: ["r1"], state: "tested", testId: TEST },
      { type: "work", of: ["r1"], state: "installed" },
    );
    expect(heldOpen(again)).toHaveLength(1);
    expect(progressOf(again, ["r1", "r2"]).map((p) => p.count)).toEqual([1, 1, 0, 0]);
  });

  it("is not withdrawn once some of it is in, and takes nothing but notes once it is", () => {
    const some = after({ type: "adopted", pieces: ["v9"], revision: 3 });
    expect(refused(some, { type: "withdrawn", why: "too dear" })).toContain("already");
    const gone = after({ type: "withdrawn", why: "too dear" });
    expect(refused(gone, { type: "named", name: "x" })).toContain("withdrawn");
    expect(refused(gone, { type: "note", text: "asked again" })).toBe("");
    expect(refused(gone, made)).not.toBe("");
  });

  it("keeps the order of the same entries whatever passes through JSON", () => {
    const bodies = [
      { type: "named", name: "Two bypasses" },
      { type: "note", text: "rang" },
    ];
    const once = after(...bodies);
    expect(JSON.parse(JSON.stringify(once))).toEqual(once);
  });
});

describe("a proposal brought up to today's map", () => {
  const base = demo("haywain");
  const run = base.runs.find((r) => r.service === "cold")?.id ?? "";
  const withCheck = addOnPipeRun(base, "check-valve", run, 0.5);
  if (!withCheck.ok) throw new Error(withCheck.problem);
  const proposed = withCheck.map;

  it("keeps what was corrected since, and has only its own difference left", () => {
    const corrected = changePart(base, base.parts[0]?.id ?? "", { name: "As it is called now" });
    if (!corrected.ok) throw new Error(corrected.problem);
    const now = rebase(base, corrected.map, proposed);
    if (!now.ok) throw new Error(now.problem);
    expect(now.clashes).toEqual([]);
    expect(now.map.parts[0]?.name).toBe("As it is called now");
    const left = piecesOf(corrected.map, now.map);
    expect(left).toHaveLength(1);
    expect(left[0]?.parts).toHaveLength(1);
  });

  it("has nothing left of what was installed", () => {
    const pieces = piecesOf(base, proposed).map((p) => p.id);
    const done = adopt(base, proposed, pieces);
    if (!done.ok) throw new Error(done.problem);
    const now = rebase(base, done.map, proposed);
    expect(now.ok && piecesOf(done.map, now.map)).toEqual([]);
  });

  it("names what both changed, and keeps the proposal's", () => {
    const id = base.parts[0]?.id ?? "";
    const [here, there] = ["one", "other"].map((name) => {
      const changed = changePart(base, id, { name });
      if (!changed.ok) throw new Error(changed.problem);
      return changed.map;
    });
    if (!here || !there) throw new Error("none");
    const now = rebase(base, here, there);
    expect(now.ok && now.clashes.join()).toContain("changed on both");
    expect(now.ok && now.map.parts[0]?.name).toBe("other");
  });
});

describe("a family laid onto a unit", () => {
  it.each(PATTERNS.map((p): [string, WaterMap] => [p.id, starterMap(p)]))(
    "%s is sound, and gives no id of the unit to anything that is not of its kind",
    (_, family) => {
      for (const today of EXAMPLE_MAPS) {
        const map = withIdentities(today, family);
        const read = readWaterMap(map);
        expect(read.ok ? [] : read.problems).toEqual([]);
        const known = new Map(today.parts.map((p) => [p.id as string, p.kind]));
        for (const part of map.parts)
          if (known.has(part.id)) expect(part.kind).toBe(known.get(part.id));
        expect(map.parts).toHaveLength(family.parts.length);
      }
    },
  );

  it("of the unit itself changes nothing", () => {
    const today = demo("teasel");
    expect(piecesOf(today, withIdentities(today, { ...today, id: "other" }))).toEqual([]);
  });
});
