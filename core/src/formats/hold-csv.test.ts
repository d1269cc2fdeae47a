import { describe, expect, it } from "vitest";
import { PSI_PA } from "../quantity/index.ts";
import { MOST_HOLD_ROWS, readHoldCsv, writeHoldCsv } from "./hold-csv.ts";

const told = (text: string): string => JSON.stringify(readHoldCsv(text));

describe("a logger's file", () => {
  it("is read in the units of its headings, whatever stands beside it said", () => {
    const read = readHoldCsv(
      "Time (min),Pressure (psi),Temperature (F),Barometer (inHg),Battery V\n0,1.5,70,29.92,3.1\n5,1.45,65,29.90,3.1\n",
    );
    if (!read.ok) throw new Error(told(""));
    expect(read.passedBy).toEqual(["Battery V"]);
    expect(read.readings[1]?.atS).toBe(300);
    expect(read.readings[0]?.pressurePa).toBeCloseTo(1.5 * PSI_PA, 6);
    expect(read.readings[1]?.temperatureC).toBeCloseTo(18.333, 3);
    expect(read.readings[0]?.barometerPa).toBeCloseTo(29.92 * 3386.389, 1);
  });

  it("with moments counts from its first", () => {
    const read = readHoldCsv(
      "time,pressure mbar\n2026-05-12T09:00:00Z,103.4\n2026-05-12 09:10:00Z,103.1\n",
    );
    expect(read).toMatchObject({ ok: true, begunAt: "2026-05-12T09:00:00.000Z" });
    expect(read.ok && read.readings.map((r) => r.atS)).toEqual([0, 600]);
  });

  it("comes back as it was written", () => {
    const readings = [
      { atS: 0, pressurePa: 10_342, temperatureC: 21.5 },
      { atS: 60, pressurePa: 10_330, barometerPa: 101_200 },
    ];
    expect(readHoldCsv(writeHoldCsv(readings))).toMatchObject({ ok: true, readings });
  });

  it.each([
    ["", "has no column"],
    ["time s,pressure psi\n", "no reading"],
    ["time s,pressure\n0,1\n", "has no unit"],
    ["time s,pressure furlongs\n0,1\n", "has no unit"],
    ["pressure psi\n1\n", 'no column \\"time\\"'],
    ["time s,pressure psi\n0,1.5\n60,-0.2\n", "below nothing"],
    ["time s,pressure psi\n0,1.5\n60,1.4\n30,1.3\n", "backwards"],
    ["time s,pressure psi\n0,1.5\n0,1.4\n", "same as in the line before"],
    ["time s,pressure psi\n0,1.5\n60,0.1 bar\n", "unit stands in the heading"],
    ["time s,pressure psi,temperature C\n0,1.5,-400\n", "outside what can be"],
    ["time s,pressure psi\n0,1.5\n60,\n", "is not a number"],
    ["time s,pressure psi,pressure bar\n0,1.5,0.1\n", "twice"],
  ])("that cannot be is refused with what is wrong: %j", (text, words) => {
    expect(readHoldCsv(text).ok).toBe(false);
    expect(told(text)).toContain(words);
  });

  it("names the line of each fault, and how many more there are", () => {
    const rows = Array.from({ length: 60 }, (_, i) => `${i},x`).join("\n");
    const read = readHoldCsv(`time s,pressure psi\n${rows}\n`);
    if (read.ok) throw new Error("read");
    expect(read.problems[0]).toMatchObject({ line: 2, where: "pressure" });
    expect(read.problems.at(-1)?.problem).toBe("and 40 more.");
  });

  it("of 200,000 readings is refused whole, with what to do", () => {
    const rows = Array.from({ length: 200_000 }, (_, i) => `${i},1.5`).join("\n");
    expect(told(`time s,pressure psi\n${rows}\n`)).toContain(
      `more than ${MOST_HOLD_ROWS.toLocaleString("en")} readings`,
    );
  });
});
