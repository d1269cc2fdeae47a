import { EXAMPLE_MAPS } from "@uppershed/core";
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, describe, expect, it } from "vitest";

const SHED = fileURLToPath(new URL("shed.ts", import.meta.url));
const ROOT = fileURLToPath(new URL("../../..", import.meta.url));
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "shed-"));
  expect(shed("examples", folder).status).toBe(0);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const shed = (...args: string[]) =>
  spawnSync("node", ["--import", "tsx", SHED, ...args], { encoding: "utf8", cwd: ROOT, env: { ...process.env, CALLED_FROM: folder } });
const write = (name: string, data: unknown): string => {
  writeFileSync(join(folder, name), typeof data === "string" ? data : JSON.stringify(data));
  return name;
};

describe("shed", () => {
  it("writes the demo maps, one file a unit", () => {
    expect(readdirSync(folder).sort()).toEqual(["burdock.json", "plover.json", "teasel.json"]);
    expect(JSON.parse(readFileSync(join(folder, "teasel.json"), "utf8"))).toEqual(EXAMPLE_MAPS[0]);
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

  it("judges a map with the contents that it states", () => {
    const drained = { ...EXAMPLE_MAPS[0], contents: { heater: { waterM3: 0.001, glycolM3: 0 } } };
    const verdict = JSON.parse(shed("verdict", write("drained.json", drained)).stdout);
    expect(verdict.holdsToC).toBe(0);
    expect(verdict.parts.find((p: { id: string }) => p.id === "heater")).toMatchObject({
      state: "room for ice",
      holdsToC: null,
      evidence: expect.stringContaining("3 % full"),
    });
    expect(verdict.parts.find((p: { id: string }) => p.id === "pump")).toMatchObject({ state: "water", holdsToC: 0 });
  });

  it.each([
    ["no such file", () => shed("plan", "winterize", "nowhere.json"), "nowhere.json: cannot be read"],
    ["a file that is not JSON", () => shed("verdict", write("bad.json", "{")), "not JSON"],
    ["an unsound map", () => shed("verdict", write("unsound.json", { ...EXAMPLE_MAPS[0], colour: 1 })), "colour"],
    ["a winter low without a unit", () => shed("plan", "winterize", "teasel.json", "--winter-low", "-18"), "needs a unit"],
    ["a winter low in summer", () => shed("plan", "winterize", "teasel.json", "--winter-low", "18C"), "not between"],
    ["a product of 140 %", () => shed("plan", "winterize", "teasel.json", "--product", "140%"), "between 5 and 60 %"],
    ["units that are not known", () => shed("verdict", "teasel.json", "--units", "cubits"), "must be one of"],
    ["an option that is not known", () => shed("verdict", "teasel.json", "--loud"), "--loud"],
    ["a verb that is not known", () => shed("dance"), "not known"],
  ])("answers %s with one line and code 2", (_, call, words) => {
    const done = call();
    expect(done.status).toBe(2);
    expect(done.stdout).toBe("");
    expect(done.stderr.trim().split("\n")).toHaveLength(1);
    expect(done.stderr).toContain(words);
  });
});
