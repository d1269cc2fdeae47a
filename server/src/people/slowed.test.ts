import { describe, expect, it } from "vitest";
import { Slowed } from "./slowed.ts";

const MINUTE = 60_000;

describe("tries at one name", () => {
  it("wait longer with every wrong password, up to a bound, and nobody else's with them", () => {
    const slowed = new Slowed();
    const waits = Array.from({ length: 12 }, (_, i) => {
      slowed.failed("ada", i);
      return slowed.waitMs("ada", i);
    });
    expect(waits).toEqual([0, 0, 0, 0, 500, 1000, 2000, 4000, 8000, 8000, 8000, 8000]);
    expect(slowed.waitMs("bob", 12)).toBe(0);
  });
  it("are forgotten with the right password, and after a quarter of an hour", () => {
    const slowed = new Slowed();
    for (let i = 0; i < 8; i++) slowed.failed("ada", 0);
    expect(slowed.waitMs("ada", 16 * MINUTE)).toBe(0);
    slowed.succeeded("ada");
    expect(slowed.waitMs("ada", 1)).toBe(0);
  });
  it("are kept of so many names and no more", () => {
    const slowed = new Slowed();
    for (let i = 0; i < 6; i++) slowed.failed("first", 0);
    for (let i = 0; i < 10_001; i++) slowed.failed(`name ${i}`, 0);
    expect(slowed.waitMs("first", 0)).toBe(0);
  });
});
