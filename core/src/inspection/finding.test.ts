import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  addToFinding,
  byUrgency,
  type Finding,
  type FindingBody,
  findingBodySchema,
  type FindingEntry,
  findingNow,
  SEVERITIES,
  staysOnSheets,
} from "./index.ts";

const AT = "2026-10-14T09:00:00.000Z";
let n = 0;
const entry = (body: unknown): FindingEntry => ({
  id: `e${n++}`,
  at: AT,
  by: "R. Amadi",
  body: findingBodySchema.parse(body),
});
const found = (severity: string): FindingEntry =>
  entry({ type: "found", what: "Hose cracked", severity });
const now = (...entries: FindingEntry[]): Finding => {
  const result = findingNow(entries);
  if (!result.whole) throw new Error(result.astray.map((a) => a.problem).join(" "));
  return result.finding;
};

describe("a finding", () => {
  it("is what its entries say, one after the other; a correction is an entry too", () => {
    const finding = now(
      found("wears"),
      entry({ type: "changed", severity: "will-fail", advice: "Renew it" }),
      entry({ type: "answered", answer: "do-it", who: "owner" }),
      entry({ type: "mended", how: "renewed", proof: "dry after an hour" }),
    );
    expect(finding).toMatchObject({
      what: "Hose cracked",
      severity: "will-fail",
      advice: "Renew it",
      state: "mended",
      foundBy: "R. Amadi",
    });
    expect(finding.mended).toEqual({
      how: "renewed",
      proof: "dry after an hour",
      at: AT,
      by: "R. Amadi",
    });
  });

  it.each([
    ["nothing found yet", [], { type: "mended", how: "a", proof: "b" }],
    ["found twice", [found("note")], { type: "found", what: "again", severity: "note" }],
    [
      "mended twice",
      [found("note"), entry({ type: "mended", how: "a", proof: "b" })],
      { type: "mended", how: "a", proof: "b" },
    ],
    [
      "accepted after mending",
      [found("note"), entry({ type: "mended", how: "a", proof: "b" })],
      { type: "accepted", why: "c" },
    ],
    ["opened while open", [found("note")], { type: "reopened", why: "c" }],
    ["unsafe and accepted unasked", [found("unsafe")], { type: "accepted", why: "c" }],
    [
      "unsafe and accepted while the owner wants it done",
      [found("unsafe"), entry({ type: "answered", answer: "do-it", who: "owner" })],
      { type: "accepted", why: "c" },
    ],
  ])("refuses what cannot be: %s", (_, before, body) => {
    const last = entry(body);
    const kept = findingNow([...before, last]);
    expect(kept).toMatchObject({
      whole: false,
      astray: [{ id: last.id, by: "R. Amadi", problem: expect.stringMatching(/\.$/u) }],
    });
    // What does not depend on it counts as before.
    expect(!kept.whole && kept.findingWithout).toEqual(
      before.length > 0 ? now(...before) : undefined,
    );
  });

  it("has every entry in effect or listed (any entries, in any order)", () => {
    const bodies = fc.constantFrom<unknown>(
      { type: "found", what: "x", severity: "unsafe" },
      { type: "answered", answer: "no", who: "owner" },
      { type: "accepted", why: "x" },
      { type: "reopened", why: "x" },
      { type: "mended", how: "x", proof: "y" },
    );
    fc.assert(
      fc.property(fc.array(bodies, { maxLength: 9 }), (said) => {
        const entries = said.map(entry);
        const all = findingNow(entries);
        const listed = new Set(all.whole ? [] : all.astray.map((a) => a.id));
        const inEffect = entries.filter((e) => !listed.has(e.id));
        expect(listed.size + inEffect.length).toBe(entries.length);
        // Those that are not listed make the same finding without the others.
        if (inEffect.length > 0)
          expect(now(...inEffect)).toEqual(all.whole ? all.finding : all.findingWithout);
      }),
      { seed: 10 },
    );
  });

  it.each([
    ["mended without a proof", { type: "mended", how: "a", proof: " " }],
    ["answered by nobody", { type: "answered", answer: "no", who: "" }],
    ["of no severity that there is", { type: "found", what: "x", severity: "bad" }],
    ["with a field that is not known", { type: "accepted", why: "x", colour: "red" }],
  ])("is not taken %s", (_, body) => {
    expect(findingBodySchema.safeParse(body).success).toBe(false);
  });

  it("that is unsafe stands on every sheet until it is mended, whatever else is said of it (any entries)", () => {
    const bodies = fc.constantFrom<FindingBody>(
      entry({ type: "answered", answer: "no", who: "owner" }).body,
      entry({ type: "answered", answer: "later", who: "owner" }).body,
      entry({ type: "accepted", why: "x" }).body,
      entry({ type: "reopened", why: "x" }).body,
      entry({ type: "changed", advice: "x" }).body,
      entry({ type: "mended", how: "x", proof: "y" }).body,
    );
    fc.assert(
      fc.property(fc.array(bodies, { maxLength: 8 }), (said) => {
        let finding = now(found("unsafe"));
        for (const body of said) {
          const next = addToFinding(finding, { ...entry({ type: "reopened", why: "-" }), body });
          if (next.ok) finding = next.finding;
        }
        expect(staysOnSheets(finding)).toBe(finding.state !== "mended");
      }),
      { seed: 1 },
    );
  });

  it("comes after what is more urgent, and after what is older", () => {
    const some = SEVERITIES.flatMap((severity) => [
      { severity, at: "2026-02-01" },
      { severity, at: "2026-01-01" },
    ]);
    const sorted = some.toReversed().toSorted(byUrgency);
    expect(sorted.map((f) => f.severity)).toEqual(SEVERITIES.flatMap((s) => [s, s]));
    expect(sorted[0]?.at).toBe("2026-01-01");
  });
});
