import {
  NO_LIFE,
  type PartLife,
  writeInp,
  writeMapJson,
  writePartsCsv,
} from "@uppershed/core/formats";
import { type Mend, type Problem, reachOf, surveyMap } from "@uppershed/core/survey";
import {
  addOnPipeRun,
  buildNetwork,
  type Edited,
  inUseLineup,
  layOut,
  PART_KINDS,
  partOf,
  pipeRunOf,
  type WaterMap,
} from "@uppershed/core/watermap";
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { shareAlong } from "../drawing/share.ts";
import { inHouse, mapOf } from "../testing/house.tsx";
import { Differences } from "./differences.tsx";
import { differenceHalos, surveyHalos } from "./halos.ts";
import { LineupPanel } from "./lineup-panel.tsx";
import { correctMode, lineupOf, nextPosition } from "./lineups.ts";
import { fit } from "./palette.tsx";
import { PartPlate } from "./part-plate.tsx";
import { ProblemMargin } from "./problem-margin.tsx";
import { ReachList } from "./reach-list.tsx";
import { readOnto } from "./read-file.ts";
import { RunPlate } from "./run-plate.tsx";

afterEach(cleanup);
const teasel = mapOf("teasel");
const foxglove = mapOf("foxglove");
const network = buildNetwork(teasel);

const nothing = (): void => undefined;

/** A bench that does what it is told and remembers it. */
const bench = (map: WaterMap) => {
  let now = map;
  return {
    edit: (how: (m: WaterMap) => Edited | WaterMap) => {
      const done = how(now);
      now = "ok" in done ? (done.ok ? done.map : now) : done;
    },
    map: () => now,
  };
};
const type = (label: string, value: string): void => {
  const input = screen.getByLabelText(label);
  fireEvent.change(input, { target: { value } });
  fireEvent.blur(input);
};

describe("the palette", () => {
  const best = (typed: string): string =>
    [...PART_KINDS.values()].toSorted(
      (a, b) => fit(b.label, typed, b.also) - fit(a.label, typed, a.also),
    )[0]?.kind ?? "";
  it.each([
    ["outs", "outside-shower"],
    ["ice", "ice-maker"],
    ["ball", "ball-valve"],
    ["faucet", "mixer-tap"],
    ["seac", "raw-intake"],
    ["check", "check-valve"],
    ["accu", "accumulator"],
    ["?", "unknown-part"],
  ])("typing %s finds %s first", (typed, kind) => {
    expect(best(typed)).toBe(kind);
  });
  it("finds nothing for what no part is called", () => {
    for (const k of PART_KINDS.values()) expect(fit(k.label, "zzz", k.also)).toBe(0);
  });
});

describe("a place along a pipe", () => {
  it("is measured from the pipe's beginning, to the nearest point", () => {
    const laid = {
      points: [
        { x: 0, y: 0 },
        { x: 10, y: 0 },
        { x: 10, y: 10 },
      ],
    };
    expect(shareAlong(laid, { x: 5, y: 1 })).toBeCloseTo(0.25);
    expect(shareAlong(laid, { x: 12, y: 5 })).toBeCloseTo(0.75);
    expect(shareAlong(laid, { x: -4, y: 0 })).toBe(0);
    expect(shareAlong({ points: [{ x: 1, y: 1 }] }, { x: 0, y: 0 })).toBe(0.5);
  });
});

describe("a part's plate", () => {
  const open = async (map: WaterMap, id: string) => {
    const at = bench(map);
    const part = partOf(map, id);
    if (!part) throw new Error(id);
    render(
      <PartPlate
        map={map}
        part={part}
        edit={at.edit}
        onClose={() => undefined}
        onSelect={() => undefined}
      />,
      {
        wrapper: await inHouse(),
      },
    );
    return at;
  };

  it("takes name, tag, place, access, height and volume, in the units that they are typed in", async () => {
    const at = await open(teasel, "heater");
    type("Name", "Boiler");
    type("Tag", "H1");
    type("Place", "locker");
    type("Access", "six screws");
    type("Height", "35 cm");
    type("Volume", "6 US gal");
    expect(partOf(at.map(), "heater")).toMatchObject({
      name: "Boiler",
      tag: "H1",
      place: "locker",
      access: "six screws",
      heightM: 0.35,
    });
    expect(partOf(at.map(), "heater")?.params["volumeL"]).toBeCloseTo(22.71, 2);
  });

  it("says beside the field what cannot be, and changes nothing", async () => {
    const at = await open(teasel, "heater");
    type("Volume", "three buckets");
    expect(screen.getByRole("alert").textContent).toContain("three buckets");
    type("Volume", "9000 L");
    expect(screen.getByRole("alert").textContent).toContain("500");
    expect(at.map()).toBe(teasel);
  });

  it("marks what is not known, with how to find out", async () => {
    const at = await open(teasel, "v7");
    fireEvent.change(screen.getByLabelText("Known?"), { target: { value: "role" } });
    expect(partOf(at.map(), "v7")?.unknown).toEqual({ of: "role" });
  });

  it("pipes an open port to another without a mouse", async () => {
    const two = ["a", "b"].reduce<WaterMap>((map) => {
      const added = addOnPipeRun(map, "tee", "r-t-gc-b-galley-cold");
      return added.ok ? added.map : map;
    }, teasel);
    const tees = two.parts.filter((p) => p.kind === "tee").slice(-2);
    const at = await open(two, tees[0]?.id ?? "");
    fireEvent.change(screen.getByLabelText("c"), { target: { value: `${tees[1]?.id}.c` } });
    expect(at.map().runs.at(-1)).toMatchObject({
      from: { part: tees[0]?.id, port: "c" },
      to: { part: tees[1]?.id, port: "c" },
    });
  });

  it("takes the part out, and another like it in", async () => {
    const at = await open(teasel, "v5");
    fireEvent.click(screen.getByRole("button", { name: "Duplicate" }));
    expect(at.map().parts.at(-1)?.name).toBe("Heater cold in 2");
    fireEvent.click(screen.getByRole("button", { name: "Take out" }));
    expect(partOf(at.map(), "v5")).toBeUndefined();
  });
});

describe("a pipe's plate", () => {
  const RUN = "r-t-gc-c-t-bc-a";
  const open = async () => {
    const at = bench(teasel);
    const run = pipeRunOf(teasel, RUN);
    if (!run) throw new Error(RUN);
    render(
      <RunPlate
        map={teasel}
        network={network}
        run={run}
        edit={at.edit}
        onClose={() => undefined}
        onSelect={() => undefined}
      />,
      {
        wrapper: await inHouse(),
      },
    );
    return at;
  };
  it("takes length, pipe, heights at both ends and the dip", async () => {
    const at = await open();
    type("Length", "8 ft");
    type("Dip depth", "7 cm");
    fireEvent.change(screen.getByLabelText("Pipe"), { target: { value: "pex-3/4" } });
    fireEvent.change(screen.getByLabelText("Warm?"), { target: { value: "heated" } });
    type("At Galley tee, cold", "0.4 m");
    expect(pipeRunOf(at.map(), RUN)).toMatchObject({
      lengthM: 2.438,
      pipe: "pex-3/4",
      heated: true,
      insulated: true,
      sag: { depthM: 0.07 },
    });
    expect(partOf(at.map(), "t-gc")?.heightM).toBe(0.4);
  });
  it("says what it holds and how that was worked out; a length of 300 m is refused", async () => {
    await open();
    expect(screen.getByRole("complementary").textContent).toMatch(
      /Holds .* \(worked out: bore 11\.7 mm by length\)/u,
    );
    type("Length", "300 m");
    expect(screen.getByRole("alert").textContent).toContain("200 m");
  });
});

describe("problems in the margin", () => {
  it("are told in words; a tap lights the part, a button mends", async () => {
    const { problems } = surveyMap(foxglove);
    const onChoose = vi.fn<(problem: Problem | undefined) => void>();
    const onMend = vi.fn<(mend: Mend) => void>();
    render(
      <ProblemMargin problems={problems} chosen={undefined} onChoose={onChoose} onMend={onMend} />,
      { wrapper: await inHouse() },
    );
    fireEvent.click(
      screen.getByRole("button", { name: /Heater bypass: which position does what/u }),
    );
    expect(onChoose).toHaveBeenCalledWith(problems.find((p) => p.parts[0] === "vx"));
    fireEvent.click(screen.getByRole("button", { name: "Tried: it does what the map says" }));
    expect(onMend).toHaveBeenCalledWith({
      do: "known",
      label: "Tried: it does what the map says",
      part: "vx",
    });
    fireEvent.click(screen.getByRole("button", { name: /^guard missing 1$/u }));
    expect(within(screen.getByRole("list")).getAllByRole("listitem")).toHaveLength(1);
  });
});

describe("reach in words", () => {
  it("names the source, the volume and what stands in the way", async () => {
    const lineup = {
      ...inUseLineup(network),
      "galley:cold": "open",
      "basin:hot": "open",
      v6: "shut",
    };
    render(<ReachList network={network} lineup={lineup} reaches={reachOf(network, lineup)} />, {
      wrapper: await inHouse(),
    });
    const [basin, galley] = screen.getAllByRole("listitem").map((li) => li.textContent);
    expect(galley).toMatch(
      /Galley tap, cold.*from Fresh tank: .* L over .* m \(worked out\), past V2/u,
    );
    expect(basin).toMatch(/Basin tap, hot.*Nothing comes: needs V7 open \(now shut\)/u);
  });
});

describe("lineups", () => {
  it("list the turns from one to another in their order", async () => {
    render(
      <LineupPanel
        map={teasel}
        network={network}
        known={{ left: undefined, found: undefined }}
        leftAt={undefined}
        found={{ at: undefined, by: undefined, tapped: 0, keep: "" }}
        from="in use"
        to="draw antifreeze"
        onFrom={nothing}
        onTo={nothing}
        onProposal={nothing}
      />,
      { wrapper: await inHouse() },
    );
    expect(screen.getAllByRole("listitem").map((li) => li.textContent)).toEqual([
      expect.stringContaining("V5, Heater cold in: open → shut"),
      expect.stringContaining("V6, Heater hot out: open → shut"),
      expect.stringContaining("V2, Suction selector: tank → pickup"),
      expect.stringContaining("V7, Bypass: shut → open"),
      expect.stringContaining("Winterizing pickup: capped → in the jug"),
    ]);
  });
  it("as left goes over use, and as found over as left", () => {
    const known = { left: { v5: "shut", v6: "shut" }, found: { v6: "open" } };
    expect(lineupOf(network, "as left", known)).toEqual({
      ...inUseLineup(network),
      v5: "shut",
      v6: "shut",
    });
    expect(lineupOf(network, "as found", known)).toEqual({
      ...inUseLineup(network),
      v5: "shut",
      v6: "open",
    });
  });
  it("a correction is kept only where it differs from the proposal", () => {
    const corrected = correctMode(teasel, network, "drain", "v5", "shut");
    expect(corrected.modes).toEqual({ drain: { v5: "shut" } });
    expect(
      lineupOf(buildNetwork(corrected), "drain", { left: undefined, found: undefined })["v5"],
    ).toBe("shut");
    expect(correctMode(corrected, network, "drain", "v5", "open").modes).toEqual({});
  });
  it("a handle goes round its positions", () => {
    const v2 = network.controls.find((c) => c.key === "v2");
    expect(v2 && [nextPosition(v2, "a"), nextPosition(v2, "b")]).toEqual(["b", "a"]);
  });
});

describe("a file put on the bench", () => {
  const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
  const read = (name: string, text: string, lives = new Map<string, PartLife>()) =>
    readOnto(name, bytes(text), teasel, lives);

  it("says what it would change before it does: a map, a parts list, a water side", () => {
    const other = {
      ...teasel,
      id: "other",
      name: "Other",
      parts: teasel.parts.map((p) => (p.id === "v5" ? { ...p, tag: "V50" } : p)),
    };
    const json = read("other.json", writeMapJson(other));
    expect(json.ok && json.differences.map((d) => d.details)).toEqual([["tag V5 → V50"]]);
    expect(json.ok && json.map.name).toBe("Teasel");
    const csv = read(
      "parts.csv",
      writePartsCsv(teasel, new Map([["pump", { ...NO_LIFE, serial: "P1" }]])),
    );
    expect(csv.ok && [csv.differences, Object.keys(csv.lives)]).toEqual([[], ["pump"]]);
    const inp = read("a.inp", writeInp(teasel).text);
    expect(inp.ok && inp.differences).toEqual([]);
    expect(inp.ok && inp.report.join()).toContain("this unit's own map");
  });

  it.each([
    ["a.json", "{", "not JSON"],
    ["a.csv", "id,kind,name\nx,teapot,X\n", "teapot"],
    ["a.inp", "hello", "EPANET"],
    ["a.exe", "MZ", ".json, .csv and .inp are"],
  ])("%s that is wrong changes nothing and says where", (name, text, words) => {
    const found = read(name, text);
    expect(found.ok ? "" : found.problems.map((p) => p.problem).join()).toContain(words);
  });
});

describe("differences", () => {
  it("carry a sign and a word, and light what is still there", async () => {
    const added = addOnPipeRun(teasel, "ball-valve", "r-t-gc-b-galley-cold", 0.5, {
      name: "Galley stop",
    });
    const list = [
      { what: "part", change: "added", id: "galley-stop", name: "Galley stop", details: [] },
      { what: "part", change: "removed", id: "v5", name: "Heater cold in", details: [] },
      {
        what: "run",
        change: "changed",
        id: "r-t-gc-b-galley-cold",
        name: "branch",
        details: ["length {m:0.9} → {m:0.45}"],
      },
    ] as const;
    expect(added.ok).toBe(true);
    const onChoose = vi.fn<(id: string) => void>();
    render(<Differences list={list} onChoose={onChoose} />, { wrapper: await inHouse() });
    const lines = screen.getAllByRole("listitem").map((li) => li.textContent);
    expect(lines).toEqual([
      "+Galley stop added",
      "−Heater cold in taken out",
      expect.stringMatching(/^~Branch changed.*length 0\.9 m → /u),
    ]);
    fireEvent.click(screen.getByRole("button", { name: /Galley stop/u }));
    expect(onChoose).toHaveBeenCalledWith("galley-stop");
    expect([...differenceHalos(list).keys()]).toEqual(["galley-stop", "r-t-gc-b-galley-cold"]);
  });
});

describe("what else the drawing shows", () => {
  it("sections by their number, standing water by a word", () => {
    const survey = surveyMap(teasel);
    const sections = surveyHalos(survey, "sections");
    expect(new Set([...sections.values()].map((h) => h.text)).size).toBe(survey.sections.length);
    expect(surveyHalos(survey, "contents").size).toBe(0);
    expect(surveyHalos(survey, "standing water").get("pump")?.text).toBe("push");
    expect(layOut(teasel).parts).toHaveLength(teasel.parts.length);
  });
});
