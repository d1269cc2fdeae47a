import { describe, expect, it } from "vitest";
import { teasel } from "../examples/index.ts";
import { RunDevice } from "../testing/run-device.ts";
import { networkOf } from "../testing/variants.ts";
import {
  addOnPipeRun,
  buildNetwork,
  changePart,
  changePipeRun,
  removePart,
  type WaterMap,
} from "../watermap/index.ts";
import {
  asLeft,
  inUse,
  type LeftRecord,
  sinceInWords,
  sinceLast,
  standardSetup,
  type UnitEntry,
} from "./index.ts";

const network = networkOf(teasel);
const device = new RunDevice(network, standardSetup());
device.do({ type: "as-found", lineup: {} });
device.doUntil(() => false);
const { unit } = device.state;
if (!unit) throw new Error("no words");
const CLOSED = "2025-10-14T12:00:00.000Z";
const record: LeftRecord = { runId: "r", at: CLOSED, basis: "by-part", said: unit, network };
const REVISED: UnitEntry = {
  kind: "map-revised",
  at: "2025-11-02T10:00:00.000Z",
  revision: 2,
  why: "Ice maker found",
};

const edited = (made: { ok: boolean } & Partial<{ map: WaterMap }>): WaterMap => {
  if (!made.ok || !made.map) throw new Error("not edited");
  return made.map;
};
const longest =
  teasel.runs.filter((r) => r.service === "cold").toSorted((a, b) => b.lengthM - a.lengthM)[0]
    ?.id ?? "";

describe("how a unit stands", () => {
  it("is what was signed, to the word, while nothing came after", () => {
    const now = asLeft(record, network, []);
    expect(now.verdict).toBe(unit.verdict);
    expect(now.verdict.holdsToC).toBeLessThan(-18);
    expect(now.since).toEqual([]);
    expect(now.contents).toEqual(device.state.physical.contents);
  });

  it("is not changed by new words, tags, places or where a part is drawn", () => {
    const map = edited(
      changePart(teasel, "pump", {
        name: "Main pump",
        tag: "P9",
        place: "bow",
        nudge: { x: 3, y: 1 },
      }),
    );
    const now = asLeft(record, buildNetwork(map), [REVISED]);
    expect([now.verdict, now.since, now.notKnown]).toEqual([unit.verdict, [], []]);
  });

  it("covers today's map: a line added to a winterized boat holds 0 °C, by name, and is not known to hold", () => {
    const map = edited(addOnPipeRun(teasel, "ice-maker", longest, 0.5));
    const today = buildNetwork(map);
    const now = asLeft(record, today, [REVISED]);
    expect(now.verdict.holdsToC).toBe(0);
    expect(now.verdict.weakest?.evidence).toContain("not known to hold");
    expect(now.notKnown.length).toBeGreaterThan(1);
    expect(now.doubts.map((d) => d.name)).toContain("Ice maker");
    // The tee and the pipes that it hangs on go by its name.
    expect(sinceInWords(now.since)).toEqual(["map changed since: Ice maker, not known to hold"]);
    expect(new Set(now.doubts.map((d) => d.becauseName))).toEqual(new Set(["Ice maker"]));
    // The picture draws them: full of water, assumed; what was not touched is as it was.
    const ice = today.cells.findIndex((c) => c.part?.kind === "ice-maker");
    expect(now.contents[ice]).toMatchObject({ source: "assumed", plugs: [{ glycolM3: 0 }] });
    expect(now.contents[today.cellIndex.get("galley:hot") ?? -1]).toEqual(
      unit.contents.get("galley:hot"),
    );
  });

  it("says of several changes when the last was made, names three and counts the rest", () => {
    const cold = teasel.runs.filter((r) => r.service === "cold").slice(0, 4);
    const measured = (count: number): WaterMap =>
      cold
        .slice(0, count)
        .reduce((map, r) => edited(changePipeRun(map, r.id, { lengthM: r.lengthM + 1 })), teasel);
    const after = (count: number) =>
      asLeft(record, buildNetwork(measured(count)), [
        REVISED,
        { ...REVISED, at: "2025-11-09T10:00:00.000Z", revision: 3, why: "Measured" },
      ]).since;
    const nameOf = (id: string | undefined): string =>
      teasel.parts.find((p) => p.id === id)?.name ?? "?";
    expect(after(1)[0]?.names).toEqual([
      `pipe from ${nameOf(cold[0]?.from.part)} to ${nameOf(cold[0]?.to.part)}`,
    ]);
    expect(after(3).map((s) => [s.at, s.why])).toEqual([["2025-11-09T10:00:00.000Z", "Measured"]]);
    expect(sinceInWords(after(3))[0]).not.toContain("more");
    expect(sinceInWords(after(4))[0]).toMatch(
      /^map changed since: ([^,]+, ){2}[^,]+ and 1 more, not known to hold$/u,
    );
  });

  it("does not believe a pipe that was measured anew, a part that was taken out, or one of another size", () => {
    const longer = asLeft(
      record,
      buildNetwork(edited(changePipeRun(teasel, longest, { lengthM: 9 }))),
      [REVISED],
    );
    expect([longer.verdict.holdsToC, longer.notKnown]).toEqual([0, [longest]]);
    const without = asLeft(record, buildNetwork(edited(removePart(teasel, "deck-shower"))), [
      REVISED,
    ]);
    expect(without.since.length).toBeGreaterThan(0);
    const heater = asLeft(
      record,
      buildNetwork(edited(changePart(teasel, "heater", { params: { volumeL: 50 } }))),
      [REVISED],
    );
    expect(heater.verdict.weakest?.id).toBe("heater");
    expect(heater.verdict.holdsToC).toBe(0);
  });

  it("does not believe a part of which it is only now in doubt whether it is as drawn; a doubt that is cleared costs nothing", () => {
    const doubted = edited(changePart(teasel, "pump", { unknown: { of: "fitted" } }));
    const now = asLeft(record, buildNetwork(doubted), [REVISED]);
    expect([now.verdict.holdsToC, now.notKnown]).toEqual([0, ["pump"]]);
    const onDoubt: LeftRecord = { ...record, network: buildNetwork(doubted) };
    const cleared = asLeft(onDoubt, network, [REVISED]);
    expect([cleared.verdict, cleared.notKnown]).toEqual([unit.verdict, []]);
  });

  it("does not know what a part holds that was swapped, or whose joint was undone to mend it", () => {
    const entry: UnitEntry = {
      kind: "opened",
      at: "2025-12-01T10:00:00.000Z",
      ids: ["pump"],
      why: "Pump head renewed",
    };
    const now = asLeft(record, network, [entry]);
    expect(now.verdict.holdsToC).toBe(0);
    expect(sinceInWords(now.since)).toEqual(["opened since: Pump, not known to hold"]);
    expect(now.doubts.map((d) => d.id)).toEqual(["pump"]);
    expect([...now.measured.keys()].some((cell) => cell.startsWith("pump:"))).toBe(false);
  });

  it("keeps a strength that was read only where nothing was opened", () => {
    const read = [...unit.measured.keys()][0] ?? "";
    const owner = network.cells[network.cellIndex.get(read) ?? -1]?.ownerId ?? "";
    expect(asLeft(record, network, []).measured.has(read)).toBe(true);
    expect(
      asLeft(record, network, [
        { kind: "opened", at: CLOSED, ids: [owner], why: "x" },
      ]).measured.has(read),
    ).toBe(false);
  });

  it("says when its valves were left otherwise, which empties and fills nothing", () => {
    const now = asLeft(record, network, [
      { kind: "left", at: "2025-11-01T09:00:00.000Z", lineup: { v5: "open" }, visitId: "v" },
    ]);
    expect(now.verdict).toBe(unit.verdict);
    expect(now.lineup["v5"]).toBe("open");
    expect(sinceInWords(now.since)).toEqual([expect.stringMatching(/^left otherwise since: V5/u)]);
  });

  it("rests on the newest record or filling in the server's order, whatever the clocks said", () => {
    const closed: UnitEntry = { kind: "run-closed", at: "2025-10-14T15:00:00.000Z", runId: "r" };
    const filled: UnitEntry = { kind: "in-use", at: "2025-10-14T12:00:00.000Z" };
    expect(sinceLast([closed, filled]).base).toBe(filled);
    expect(sinceLast([filled, closed, REVISED])).toEqual({ base: closed, after: [REVISED] });
    expect(sinceLast([REVISED]).base).toBeUndefined();
    expect(inUse(network, null, []).verdict.holdsToC).toBe(0);
    expect(
      inUse(network, null, [{ kind: "left", at: CLOSED, lineup: { pump: "off" }, visitId: "v" }])
        .lineup["pump"],
    ).toBe("off");
  });
});
