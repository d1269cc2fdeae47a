import { describe, expect, it } from "vitest";
import { readForecastCsv } from "./forecast-csv.ts";

describe("a forecast out of a file", () => {
  it("is read in either degrees, in the order of its days", () => {
    expect(readForecastCsv("date,low C\n2026-12-02,-9.5\n2026-12-01,−3\n")).toEqual({
      ok: true,
      nights: [
        { day: "2026-12-01", lowC: -3 },
        { day: "2026-12-02", lowC: -9.5 },
      ],
    });
    const read = readForecastCsv("Date;Low F\n2026-12-01;14\n");
    expect(read).toEqual({ ok: true, nights: [{ day: "2026-12-01", lowC: -10 }] });
  });

  it.each([
    ["", "date"],
    ["date\n2026-12-01\n", "low C"],
    ["date,low C,low F\n2026-12-01,1,34\n", "Either"],
    ["date,low C\n1 December,-3\n", "no day"],
    ["date,low C\n2026-12-01,cold\n", "no temperature"],
    ["date,low C\n2026-12-01,-400\n", "no temperature"],
    ["date,low C\n2026-12-01,-3\n2026-12-01,-4\n", "twice"],
    ["date,low C,wind\n2026-12-01,-3,9\n", "wind"],
    ["date,low C\n", "no night"],
  ])("that cannot be is refused with what is wrong: %j", (text, words) => {
    const read = readForecastCsv(text);
    expect(read.ok).toBe(false);
    expect(JSON.stringify(read)).toContain(words);
  });
});
