import { describe, expect, it } from "vitest";
import { type PriceLine, readPricesCsv, writePricesCsv } from "./index.ts";

const LINES: PriceLine[] = [
  {
    key: "pipe:pex-1/2 red",
    label: "1/2 in tube, red",
    price: 38.5,
    rollM: 30,
    restsM: [2.4, 1.1],
  },
  { key: "kind:tee", label: "=Tee", price: null, rollM: null, restsM: [] },
];

describe("a list of prices", () => {
  it("comes back as it went out", () => {
    expect(readPricesCsv(writePricesCsv(LINES))).toEqual({ ok: true, lines: LINES });
  });

  it.each([
    ["a price that is none", "key,price\nkind:tee,dear\n", "price"],
    ["a price below nothing", "key,price\nkind:tee,-1\n", "price"],
    ["a key that stands there twice", "key,price\nkind:tee,1\nkind:tee,2\n", "key"],
    ["no key", "key,price\n,1\n", "key"],
    ["a rest that is no length", "key,rests m\npipe:pex-1/2,2; long\n", "rests m"],
    ["a column that nobody knows", "key,colour\nkind:tee,red\n", "colour"],
    ["a formula", "key,label\nkind:tee,=1+1\n", "label"],
    ["no heading of keys", "price\n1\n", "key"],
  ])("with %s is refused with the place of it, and nothing taken", (_, text, where) => {
    const read = readPricesCsv(text);
    expect(read.ok ? [] : read.problems.map((p) => p.where)).toContain(where);
  });
});
