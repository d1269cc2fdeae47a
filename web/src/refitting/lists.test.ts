import type { RefitKitOnFile } from "@uppershed/contract";
import { describe, expect, it } from "vitest";
import { cutLength, cutsCsv, shoppingCsv } from "./lists.ts";

const piece = (name: string, lengthM: number) => ({ id: name, name, lengthM });
const KIT: RefitKitOnFile = {
  pipes: [
    {
      key: "pipe:pex-1/2 red",
      label: "1/2 in tube, red",
      colour: "red",
      lengthM: 35.4,
      plan: {
        laid: [
          { lengthM: 3.2, isRest: true, leftM: 0.1, pieces: [piece("heater to tee", 3.1)] },
          { lengthM: 30, isRest: false, leftM: 28, pieces: [piece("tee, to tap", 2)] },
        ],
        bought: 1,
        atLeast: 1,
        tooLong: [piece("main", 30.3)],
      },
    },
  ],
  lines: [
    { key: "kind:tee", label: "=Tee", count: 3, unit: "piece", why: "", each: 2.5, sum: 7.5 },
    { key: "plug", label: "Plugs", count: 2, unit: "piece", why: "", each: null, sum: null },
  ],
  sum: 7.5,
  missing: ["Plugs"],
  tools: [],
  out: [],
  openEnds: [],
  clashes: [],
};

describe("the lists of a refit as files", () => {
  it("have every piece of pipe once, with what it is cut from, those too long for any roll first", () => {
    expect(cutsCsv(KIT).split("\r\n")).toEqual([
      "pipe,from,stock m,piece,length m,left m",
      '"1/2 in tube, red",longer than any roll,,main,30.30,',
      '"1/2 in tube, red",rest 1,3.20,heater to tee,3.10,0.10',
      '"1/2 in tube, red",new 2,30.00,"tee, to tap",2.00,28.00',
      "",
    ]);
  });

  it("leave a price empty that nobody knows, and run nothing in a spreadsheet", () => {
    expect(shoppingCsv(KIT).split("\r\n")).toEqual([
      "what,count,unit,each,in all,key",
      "'=Tee,3,piece,2.50,7.50,kind:tee",
      "Plugs,2,piece,,,plug",
      "",
    ]);
  });

  it("mark a length to the centimetre, or to a tenth of an inch", () => {
    expect(cutLength(0.1349, "metric")).toBe("0.13 m");
    expect(cutLength(0.254, "us")).toBe("10.0 in");
  });
});
