import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { PATTERNS, starterMap } from "@uppershed/core/patterns";
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { runShed } from "./run.ts";

const ROOT = fileURLToPath(new URL("../..", import.meta.url));
const SHED = join(ROOT, "scripts", "shed.mjs");
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "shed-"));
  expect(shed("examples", folder).status).toBe(0);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** In this process: what the command says, without waiting for a new one each time. */
const shed = (...args: string[]) => {
  vi.stubEnv("CALLED_FROM", folder);
  return runShed(args);
};
const asProcess = (...args: string[]) =>
  spawnSync("node", [SHED, ...args], {
    encoding: "utf8",
    cwd: ROOT,
    env: { ...process.env, CALLED_FROM: folder },
  });
const write = (name: string, data: unknown): string => {
  writeFileSync(join(folder, name), typeof data === "string" ? data : JSON.stringify(data));
  return name;
};

describe("shed", () => {
  it("writes the demo maps, one file a unit", () => {
    expect(readdirSync(folder).sort()).toEqual(EXAMPLE_MAPS.map((m) => `${m.id}.json`).toSorted());
    expect(JSON.parse(readFileSync(join(folder, "teasel.json"), "utf8"))).toEqual(EXAMPLE_MAPS[0]);
  });

  it("as a process of its own says the same, with its exit codes", () => {
    const good = asProcess("verdict", "teasel.json");
    expect([good.status, good.stdout, good.stderr]).toEqual([
      0,
      shed("verdict", "teasel.json").stdout,
      "",
    ]);
    const bad = asProcess("verdict", "nowhere.json");
    expect([bad.status, bad.stdout, bad.stderr]).toEqual([
      2,
      "",
      "shed: nowhere.json: cannot be read\n",
    ]);
    expect(asProcess("check", write("hollow.json", { format: "x" })).status).toBe(1);
  }, 60_000);

  it("audits a map alone, and two beside each other, and says what it takes from one to the other", () => {
    const audit = JSON.parse(shed("audit", "wagtail.json").stdout);
    expect(audit.audit.methods.map((m: { method: string }) => m.method)).toHaveLength(5);
    const then = structuredClone(EXAMPLE_MAPS.find((m) => m.id === "wagtail"));
    const run = then?.runs.find((r) => r.service === "cold");
    if (!run) throw new Error("no Wagtail");
    run.lengthM += 4;
    write("longer.json", then);
    const both = JSON.parse(shed("audit", "wagtail.json", "longer.json").stdout);
    expect(both.before.methods).toEqual(audit.audit.methods);
    expect(both.beside.some((l: { change: string }) => l.change !== "same")).toBe(true);
    expect(JSON.parse(shed("refit", "parts", "wagtail.json", "longer.json").stdout)).toMatchObject({
      map: "wagtail",
      pieces: [{ runs: [run.id] }],
      pipes: [{ plan: { bought: 1 } }],
    });
    expect(shed("refit", "wagtail.json").stderr).toContain("refit what?");
    // As a process it has its solver with it.
    const cut = asProcess("refit", "parts", "wagtail.json", "longer.json");
    expect([cut.status, cut.stderr]).toEqual([0, ""]);
    expect(JSON.parse(cut.stdout).lines.length).toBeGreaterThan(1);
  }, 60_000);

  it("plans a spring from how a winterizing leaves it, and a sanitizing by bottle and target", () => {
    const spring = JSON.parse(shed("plan", "spring", "plover.json", "--after", "air").stdout);
    expect(spring).toMatchObject({ map: "plover", job: "spring", after: "air" });
    expect(spring.steps.at(-1).id).toBe("prove:heater:heat");
    const unknown = JSON.parse(shed("plan", "spring", "plover.json", "--after", "unknown").stdout);
    expect(unknown.steps.some((s: { id: string }) => s.id === "heater:heater:fill")).toBe(true);
    const bleach = (...more: string[]): number =>
      JSON.parse(shed("plan", "sanitize", "plover.json", ...more).stdout).water.bleachM3;
    const usual = bleach();
    expect(usual).toBeGreaterThan(5e-5);
    expect(bleach("--target", "100 mg/L")).toBeCloseTo(2 * usual, 5);
    expect(bleach("--bleach", "8.25%")).toBeLessThan(0.7 * usual);
    expect(bleach("--bleach-age", "426 d")).toBeGreaterThan(1.3 * usual);
    expect(shed("plan", "sanitize", "plover.json", "--bleach", "90%").stderr).toMatch(
      /--bleach: 90% lies outside 0.5 % to 15 %/u,
    );
    expect(shed("plan", "spring", "plover.json", "--after", "hope").status).toBe(2);
    expect(shed("plan", "summer", "plover.json").stderr).toMatch(/winterize\|spring\|sanitize/u);
  });

  it("plans a winterizing, with the names that scripts lean on, in the units asked for", () => {
    const done = shed("plan", "winterize", "teasel.json", "--winter-low", "-18C", "--units", "us");
    const plan = JSON.parse(done.stdout);
    expect(done.status).toBe(0);
    expect(plan.steps[0]).toMatchObject({
      id: "secure:heater:off",
      stage: "secure",
      title: "Turn the heater off",
      where: expect.any(String),
      why: expect.any(String),
      cautions: [expect.any(String)],
      expect: expect.any(String),
    });
    expect(plan.steps[0].actions[0]).toMatchObject({ type: "confirm" });
    expect(plan.antifreeze.p90M3).toBeGreaterThan(plan.antifreeze.medianM3);
    expect(plan.holdsToC).toBeLessThan(-18);
    expect(plan.unprotected).toEqual([]);
    expect(plan.weakestPart).toEqual(expect.any(String));
    expect(done.stdout).toContain("US gal");
    expect(done.stdout).not.toMatch(/\{m3:|\{c:/u);
  });

  it.each(["antifreeze", "air-antifreeze", "air", "suction", "dry"])(
    "plans by %s, and says what it leaves wet",
    (method) => {
      const done = shed("plan", "winterize", "teasel.json", "--method", method);
      const plan = JSON.parse(done.stdout);
      expect(plan.method).toBe(method);
      const stages = new Set(plan.steps.map((s: { stage: string }) => s.stage));
      expect(stages.has("air")).toBe(method.startsWith("air"));
      expect(stages.has("fill")).toBe(!["air", "dry"].includes(method));
      expect(plan.unprotected.length > 0).toBe(["air", "dry"].includes(method));
      expect(done.stdout).not.toMatch(/\{m3:|\{c:|\{pa:/u);
    },
  );

  it("puts the methods side by side, and refuses one that nobody knows", () => {
    const { methods, proposed } = JSON.parse(
      shed("plan", "winterize", "burdock.json", "--method", "compare").stdout,
    );
    expect(methods.map((m: { method: string }) => m.method)).toHaveLength(5);
    expect(proposed.method).toBe("air-antifreeze");
    const bad = shed("plan", "winterize", "burdock.json", "--method", "hope");
    expect([bad.status, bad.stdout]).toEqual([2, ""]);
    expect(bad.stderr).toContain("--method must be one of");
  });

  it("says how long what is wet lasts in a night, the soonest first", () => {
    const { night } = JSON.parse(shed("verdict", "teasel.json", "--night", "-8C").stdout);
    expect(night.length).toBeGreaterThan(30);
    expect(night[0]).toMatchObject({ id: expect.any(String), name: expect.any(String) });
    expect(night[0].throughS).toBeGreaterThan(night[0].firstIceS);
    expect(night.at(-1).throughS).toBeGreaterThan(night[0].throughS);
  });

  it("makes the walk-round of a unit, place by place", () => {
    const { stops } = JSON.parse(shed("walk", "teasel.json").stdout);
    const points = stops.flatMap((s: { points: unknown[] }) => s.points);
    expect(points.length).toBeGreaterThan(40);
    expect(points).toContainEqual(
      expect.objectContaining({ partId: "heater", point: "Relief valve lifts and seats" }),
    );
  });

  it("simulates a list of actions: what everything holds after each, what came and went, what is worth a word", () => {
    const actions = [
      { do: "turn", control: "V2", to: "pickup" },
      { do: "jug", at: "pickup:mouth", strength: 0.5 },
      { do: "turn", control: "galley:hot", to: "open" },
      { do: "wait", seconds: 60 },
    ];
    const done = JSON.parse(
      shed("simulate", "teasel.json", write("draw.json", actions), "--trace").stdout,
    );
    expect(done.after).toHaveLength(4);
    const [, , , last] = done.after;
    expect(last).toMatchObject({
      seconds: 60,
      ended: "time",
      contents: { pump: { volumeM3: expect.any(Number), strength: expect.any(Number) } },
    });
    expect(last.contents.pump.strength).toBeGreaterThan(0.45);
    expect(done.inM3).toBeCloseTo(last.in.volumeM3, 12);
    expect(last.warnings).toContainEqual(
      expect.objectContaining({ code: "antifreeze-in-heater", parts: ["heater"] }),
    );
    expect(last.trace).toContainEqual(
      expect.objectContaining({ at: "galley:hot", what: "came out here" }),
    );
    const blown = {
      start: "water everywhere",
      lineup: { pump: "off", "galley:cold": "open" },
      actions: [{ do: "blow", at: "shore-inlet:mouth" }],
    };
    const { air, contents } = JSON.parse(
      shed("simulate", "teasel.json", write("blow.json", blown)).stdout,
    ).after[0];
    expect(air.swept).toContain("galley:cold");
    expect(air.pressedOnly).toContain("galley:hot");
    expect(air.notReached).toContain("r-strainer-out-pump-in");
    expect(contents["galley:hot"].volumeM3).toBeCloseTo(contents["galley:hot"].capacityM3, 12);
  }, 60_000);

  it("judges a map with the contents that it states", () => {
    const drained = { ...EXAMPLE_MAPS[0], contents: { heater: { waterM3: 0.001, glycolM3: 0 } } };
    const verdict = JSON.parse(shed("verdict", write("drained.json", drained)).stdout);
    expect(verdict.holdsToC).toBe(0);
    expect(verdict.parts.find((p: { id: string }) => p.id === "heater")).toMatchObject({
      state: "room for ice",
      holdsToC: null,
      evidence: expect.stringContaining("3 % full"),
    });
    expect(verdict.parts.find((p: { id: string }) => p.id === "pump")).toMatchObject({
      state: "water",
      holdsToC: 0,
    });
  });

  it("solves for flows by run and pressures by part, valves and taps named by tag or id", () => {
    const solve = (...more: string[]) => JSON.parse(shed("solve", "teasel.json", ...more).stdout);
    const open = solve("--open", "galley:cold");
    expect(open.outM3PerS["galley:cold"]).toBeGreaterThan(5e-5);
    const drawn = EXAMPLE_MAPS[0]?.runs.find(
      (r) => r.from.part === "fresh-tank" && r.from.port === "outlet",
    );
    expect(open.flowsM3PerS[drawn?.id ?? ""]).toBeCloseTo(open.outM3PerS["galley:cold"], 7);
    expect(open.pressuresPa.pump).toBeGreaterThan(open.pressuresPa.galley);
    expect(solve("--open=galley:hot=0.5", "--set", "V6=shut").outM3PerS["galley:hot"]).toBe(0);
    const shore = solve(
      "--set",
      "pump=off",
      "--set",
      "shore-inlet=open",
      "--supply",
      "30psi",
      "--temperature",
      "5C",
    );
    expect(shore.pressuresPa["shore-inlet"]).toBeCloseTo(30 * 6894.757, -2);
  });

  it("reckons with units said, and names what it can reckon", () => {
    const loss = JSON.parse(
      shed(
        "reckon",
        "pipe-loss",
        "flow=2gpm",
        "bore=0.475in",
        "length=10ft",
        "temperature=60F",
        "--units",
        "us",
      ).stdout,
    );
    expect(loss.answer).toMatchObject({ unit: "Pa", shownUnit: "psi" });
    // 0.664 psi, worked by hand from the Swamee-Jain formula.
    expect(loss.answer.shown).toBeCloseTo(0.664, 2);
    expect(loss.working.at(-1)).toMatchObject({ formula: expect.any(String), with: { L: 3.048 } });
    expect(loss.source).toContain("Darcy");
    const { calculations } = JSON.parse(shed("reckon", "--list").stdout);
    expect(calculations.map((c: { name: string }) => c.name)).toContain("night");
  });

  it("checks a map: problems with code, message and parts, in the units asked for", () => {
    const found = JSON.parse(shed("check", "foxglove.json", "--units", "us").stdout);
    expect(found.problems.map((p: { code: string }) => p.code)).toContain("not-known");
    expect(found.problems[0]).toMatchObject({
      code: expect.any(String),
      message: expect.any(String),
      parts: [expect.any(String)],
    });
    expect(JSON.parse(shed("check", "teasel.json").stdout).problems).toEqual([]);
    const unsound = shed(
      "check",
      write("unsound.json", {
        ...EXAMPLE_MAPS[0],
        parts: [{ id: "x", kind: "teapot", name: "X", heightM: 0 }],
      }),
    );
    expect(unsound.status).toBe(1);
    expect(JSON.parse(unsound.stdout).problems[0]).toMatchObject({
      code: "not-sound",
      message: expect.stringMatching(/^line \d+, parts/u),
    });
  });

  it("converts by file ending, there and back, and says what could not be carried", () => {
    const inp = JSON.parse(shed("convert", "teasel.json", "teasel.inp").stdout);
    expect(inp.report.join()).toContain("waste side is not carried");
    expect(shed("convert", "teasel.inp", "again.json", "--onto", "teasel.json").status).toBe(0);
    expect(JSON.parse(readFileSync(join(folder, "again.json"), "utf8")).runs).toHaveLength(
      EXAMPLE_MAPS[0]?.runs.length ?? 0,
    );
    expect(shed("convert", "teasel.json", "teasel.svg").status).toBe(0);
    expect(readFileSync(join(folder, "teasel.svg"), "utf8")).toContain("</svg>");
    expect(shed("convert", "teasel.json", "teasel.csv").status).toBe(0);
    expect(shed("convert", "teasel.csv", "fromcsv.json", "--onto", "teasel.json").status).toBe(0);
    expect(JSON.parse(readFileSync(join(folder, "fromcsv.json"), "utf8"))).toEqual(EXAMPLE_MAPS[0]);
  });

  it("ships the schema and the families as files that are current", () => {
    const docs = (path: string): unknown =>
      JSON.parse(readFileSync(join(ROOT, "docs", path), "utf8"));
    expect(JSON.parse(shed("schema").stdout)).toEqual(docs("water-map.schema.json"));
    for (const pattern of PATTERNS)
      expect(docs(`families/${pattern.id.toLowerCase()}.json`)).toEqual(
        JSON.parse(JSON.stringify(starterMap(pattern))),
      );
  });

  it.each([
    [
      "a parts list without its map",
      () => shed("convert", write("p.csv", "id,kind,name\nx,tee,X\n"), "out.json"),
      "--onto",
    ],
    [
      "a format that is none",
      () => shed("convert", "teasel.json", "teasel.dwg"),
      "only .json, .csv, .inp and .svg",
    ],
    [
      "a wrong file: nothing is written",
      () => shed("convert", write("bad.inp", "hello"), "never.json"),
      "no EPANET input file",
    ],
    [
      "no such file",
      () => shed("plan", "winterize", "nowhere.json"),
      "nowhere.json: cannot be read",
    ],
    ["a file that is not JSON", () => shed("verdict", write("bad.json", "{")), "not JSON"],
    [
      "an unsound map",
      () => shed("verdict", write("unsound.json", { ...EXAMPLE_MAPS[0], colour: 1 })),
      "colour",
    ],
    [
      "a winter low without a unit",
      () => shed("plan", "winterize", "teasel.json", "--winter-low", "-18"),
      "needs a unit",
    ],
    [
      "a winter low in summer",
      () => shed("plan", "winterize", "teasel.json", "--winter-low", "18C"),
      "not between",
    ],
    [
      "a product of 140 %",
      () => shed("plan", "winterize", "teasel.json", "--product", "140%"),
      "between 5 and 60 %",
    ],
    [
      "units that are not known",
      () => shed("verdict", "teasel.json", "--units", "cubits"),
      "must be one of",
    ],
    [
      "a valve that is not there",
      () => shed("solve", "teasel.json", "--set", "V99=shut"),
      'no control "V99"',
    ],
    [
      "a position that it has not",
      () => shed("solve", "teasel.json", "--set", "V5=ajar"),
      "open, shut",
    ],
    [
      "a tap with two sides",
      () => shed("solve", "teasel.json", "--open", "galley"),
      "galley:cold, galley:hot",
    ],
    [
      "a tap open twice over",
      () => shed("solve", "teasel.json", "--open", "galley:cold=2"),
      "from 0 to 1",
    ],
    [
      "actions that are no list",
      () => shed("simulate", "teasel.json", write("no.json", "7")),
      "no.json",
    ],
    [
      "an action that is not known",
      () => shed("simulate", "teasel.json", write("odd.json", [{ do: "sing" }])),
      "odd.json: 0.do",
    ],
    [
      "a field that is not known",
      () =>
        shed(
          "simulate",
          "teasel.json",
          write("field.json", [{ do: "wait", seconds: 1, hours: 2 }]),
        ),
      "hours",
    ],
    [
      "an action on what is not there",
      () =>
        shed(
          "simulate",
          "teasel.json",
          write("v9.json", [
            { do: "wait", seconds: 1 },
            { do: "turn", control: "V99", to: "open" },
          ]),
        ),
      'action 2: there is no control "V99"',
    ],
    [
      "a night that does not freeze",
      () => shed("verdict", "teasel.json", "--night", "4C"),
      "outside",
    ],
    ["a supply of 4,000 psi", () => shed("solve", "teasel.json", "--supply", "4000psi"), "outside"],
    ["a calculation that is none", () => shed("reckon", "tea-time"), "shed reckon --list"],
    ["what it does not ask for", () => shed("reckon", "brix", "salt=1"), "asks for brix"],
    ["a figure without its unit", () => shed("reckon", "tank-fill", "volume=60"), "needs a unit"],
    ["an option that is not known", () => shed("verdict", "teasel.json", "--loud"), "--loud"],
    ["a verb that is not known", () => shed("dance"), "not known"],
  ])("answers %s with one line and code 2", (_, call, words) => {
    const done = call();
    expect(done.status).toBe(2);
    expect(done.stdout).toBe("");
    expect(done.stderr.trim().split("\n")).toHaveLength(1);
    expect(done.stderr).toContain(words);
  });

  it("judges a hold from a logger's file: cooling is no leak, a leak has its range", () => {
    const rows = (fall: number): string =>
      `time min,pressure psi,temperature F,barometer inHg\n${Array.from(
        { length: 25 },
        (_, i) => `${i * 5},${(1.5 - (0.0306 + fall) * (i / 12)).toFixed(3)},${70 - i / 12},29.92`,
      ).join("\n")}\n`;
    const of = (name: string, text: string) =>
      shed(
        "hold",
        write(name, text),
        "--volume",
        "60 usgal",
        "--medium",
        "air",
        "--step",
        "0.002psi",
      );
    // Two degrees of cooling take 0.061 psi from the gauge (gas law, 0.0306 psi a degree).
    const cooled = of("cooled.csv", rows(0));
    expect(cooled.stderr).toBe("");
    expect(JSON.parse(cooled.stdout)).toMatchObject({ verdict: "tight" });
    const leaking = JSON.parse(of("leaking.csv", rows(0.1)).stdout) as {
      verdict: string;
      leak: { low: number; mid: number; high: number };
    };
    expect(leaking.verdict).toBe("leaking");
    // 0.1 psi an hour of 227 L are 1.545 L of free air an hour at the start.
    const worked = (0.2271 * 0.1 * 6894.757) / 101_325 / 3600;
    expect(leaking.leak.low).toBeLessThanOrEqual(worked);
    expect(leaking.leak.high).toBeGreaterThanOrEqual(worked);
    expect(of("mixed.csv", "time s,pressure psi\n0,1.5\n60,0.1 bar\n")).toMatchObject({
      status: 2,
      stderr: expect.stringContaining("line 3") as string,
    });
    expect(shed("hold", write("x.csv", rows(0)), "--medium", "air")).toMatchObject({ status: 2 });
  });
});
