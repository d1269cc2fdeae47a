import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS, foxglove, teasel, yarrow } from "../examples/index.ts";
import { anyMap } from "../testing/random-maps.ts";
import { shuffled } from "../testing/variants.ts";
import { compareMaps } from "../survey/index.ts";
import { paramsOf, readWaterMap } from "../watermap/index.ts";
import {
  decodeText,
  escapeXml,
  lifeKey,
  mapJsonSchema,
  NO_LIFE,
  type PartLife,
  readInp,
  readMapJson,
  readPartsCsv,
  writeInp,
  writeMapJson,
  writePartsCsv,
  writeSvg,
} from "./index.ts";
import { monthsBetween } from "../quantity/index.ts";
import { dueOn } from "./register.ts";

const problems = (read: {
  ok: boolean;
  problems?: readonly { line?: number; where: string; problem: string }[];
}): string =>
  (read.problems ?? []).map((p) => `${p.line ?? ""}|${p.where}|${p.problem}`).join("\n");

describe("the map document as JSON", () => {
  it("written and read is the same map", () => {
    fc.assert(
      fc.property(anyMap, (map) => {
        const read = readMapJson(writeMapJson(map));
        expect(read.ok && read.map).toEqual(map);
      }),
      { seed: 61, numRuns: 80 },
    );
  });

  it("names the line and the field of what is wrong", () => {
    const text = writeMapJson(teasel).replace('"kind": "strainer"', '"kind": "teapot"');
    const line = text.slice(0, text.indexOf("teapot")).split("\n").length;
    expect(problems(readMapJson(text))).toMatch(
      new RegExp(`^${line}\\|parts\\[\\d+\\]\\.kind\\|no part kind is called "teapot"`, "u"),
    );
    expect(problems(readMapJson("{\n\n  oops"))).toMatch(/^\d*\|file\|not JSON/u);
  });

  it("reports fields that it does not know, and keeps nothing of them", () => {
    expect(problems(readMapJson(JSON.stringify({ ...teasel, colour: "green" })))).toContain(
      "colour",
    );
  });

  it("of version 1 comes up by its numbered migration; of a version to come is refused", () => {
    const { modes: _modes, ...old } = teasel;
    const read = readMapJson(JSON.stringify({ ...old, version: 1 }));
    expect(read.ok && read.map).toEqual(teasel);
    expect(problems(readMapJson(JSON.stringify({ ...teasel, version: 9 })))).toContain("version");
  });

  it("has a schema that says what a map is", () => {
    const schema = mapJsonSchema() as {
      properties: Record<string, unknown>;
      additionalProperties: boolean;
    };
    expect(Object.keys(schema.properties)).toEqual(
      expect.arrayContaining(["parts", "runs", "lineup", "modes", "version"]),
    );
    expect(schema.additionalProperties).toBe(false);
  });
});

describe("hostile files", () => {
  const mb = (n: number, text: string): string =>
    text.repeat(Math.ceil((n * 1024 * 1024) / text.length));
  it.each([
    ["10 MB of brackets", () => readMapJson(mb(10, "[")), "MB"],
    ["a megabyte of brackets", () => readMapJson(mb(1, "[")), "nested deeper"],
    [
      "brackets inside a text do not count",
      () => readMapJson(JSON.stringify({ ...teasel, name: "[".repeat(70) })),
      "",
    ],
    [
      "a prototype key",
      () => readMapJson('{"format":1,"__proto__":{"polluted":true}}'),
      "not allowed",
    ],
    [
      "a constructor key in parameters",
      () => readMapJson('{"parts":[{"params":{"constructor":1}}]}'),
      "not allowed",
    ],
    [
      "ten thousand parts",
      () =>
        readMapJson(
          JSON.stringify({ ...teasel, parts: Array.from({ length: 10_000 }, () => ({ id: "x" })) }),
        ),
      "parts",
    ],
    ["numbers without end", () => readMapJson('{"version":1e999}'), "version"],
    ["nothing", () => readMapJson(""), "not JSON"],
    ["a list", () => readMapJson("[1,2]"), "document"],
    [
      "a parameter named like an object's own",
      () =>
        readMapJson(
          writeMapJson({
            ...teasel,
            parts: teasel.parts.map((p, i) => (i === 0 ? { ...p, params: { toString: 1 } } : p)),
          }),
        ),
      "no parameter",
    ],
  ] as const)("%s", (_, read, words) => {
    const text = problems(read());
    if (words === "") expect(text).toBe("");
    else expect(text).toContain(words);
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
  });

  it.each([
    ["more than 2 MB", new Uint8Array(3 * 1024 * 1024), "at most 2 MB"],
    ["bytes that are no text", new Uint8Array([0x80, 0xff, 0xfe, 0x00]), "UTF-8"],
    ["zero bytes", new TextEncoder().encode("a\u0000b"), "zero bytes"],
  ] as const)("%s are refused before they are read", (_, bytes, words) => {
    expect(problems(decodeText(bytes))).toContain(words);
  });

  it("UTF-8 and marked UTF-16 are read, with or without the mark", () => {
    const text = "Évier, −3 °C";
    const utf16 = new Uint8Array([
      0xff,
      0xfe,
      ...Array.from(text).flatMap((c) => [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8]),
    ]);
    expect(decodeText(new TextEncoder().encode(text))).toEqual({ ok: true, text });
    expect(decodeText(utf16)).toEqual({ ok: true, text });
    expect(readMapJson(`\uFEFF${writeMapJson(teasel)}`).ok).toBe(true);
  });

  it("tanks linked in a circle are a map like any other: drawn, surveyed and written without end", () => {
    const ring = ["a", "b", "c"].map((id) => ({
      id,
      kind: "fresh-tank",
      name: id,
      heightM: 0,
      params: {},
    }));
    const link = (from: string, to: string) => ({
      id: `${from}${to}`,
      from: { part: from, port: "link" },
      to: { part: to, port: "link2" },
      pipe: "hose-19",
      lengthM: 1,
      service: "suction" as const,
      heated: false,
      insulated: false,
    });
    const read = readWaterMap({
      ...teasel,
      parts: ring,
      runs: [link("a", "b"), link("b", "c"), link("c", "a")],
      lineup: {},
      places: [],
    });
    if (!read.ok) throw new Error(problems(read));
    expect(writeSvg(read.map)).toContain("</svg>");
    expect(writeInp(read.map).text).toContain("[TANKS]");
  });
});

describe("parts as CSV", () => {
  const life: PartLife = {
    ...NO_LIFE,
    fittedOn: "2024-03-31",
    expectedLifeMonths: 24,
    condition: "watch",
    serial: "=1+1",
    note: 'says "no", then\nyes',
  };
  it("written and read onto its map changes nothing", () => {
    const lives = new Map([["heater", life]]);
    const read = readPartsCsv(writePartsCsv(teasel, lives), teasel, lives);
    expect(read.ok && compareMaps(teasel, read.map)).toEqual([]);
    expect(read.ok && read.lives.get("heater")).toEqual(life);
  });

  it("of any map comes back as it was", () => {
    fc.assert(
      fc.property(anyMap, (map) => {
        const read = readPartsCsv(writePartsCsv(map), map);
        expect(read.ok ? compareMaps(map, read.map) : read.problems).toEqual([]);
      }),
      { seed: 71, numRuns: 40 },
    );
  });

  it("guards cells that a spreadsheet would run, and refuses them unguarded", () => {
    expect(writePartsCsv(teasel, new Map([["heater", life]]))).toContain("'=1+1");
    const csv = "id,kind,name\r\nx,ball-valve,=HYPERLINK(1)\r\n";
    expect(problems(readPartsCsv(csv, teasel))).toBe(
      '2|name|"=HYPERLINK(1)" looks like a formula. Put an apostrophe before it to keep it as text.',
    );
  });

  it("changes what is named, adds what is new, leaves the rest, and keeps a part's wearing pieces", () => {
    const csv =
      'id,item,kind,name,tag,parameters,fitted on\nheater,,storage-heater,Boiler,H1,"volumeL=45; anode=yes",2020-05-01\nheater,anode,,,,,2023-05-01\nspare,,ball-valve,Spare valve,,,\n';
    const read = readPartsCsv(csv, teasel);
    if (!read.ok) throw new Error(problems(read));
    expect(read.map.parts.find((p) => p.id === "heater")).toMatchObject({
      name: "Boiler",
      tag: "H1",
      params: { volumeL: 45, anode: true },
    });
    expect(read.map.parts).toHaveLength(teasel.parts.length + 1);
    expect(read.lives.get(lifeKey("heater", "anode"))?.fittedOn).toBe("2023-05-01");
    expect(read.lives.get("heater")?.fittedOn).toBe("2020-05-01");
  });

  it.each([
    ["a column that is none", "id,kind,name,colour\n", "1|colour|is not a column"],
    ["a column twice", "id,kind,name,name\n", "1|name|stands there twice"],
    ["no id", "kind,name\n", "1|id|is missing"],
    ["an unknown kind", "id,kind,name\nx,teapot,X\n", '2|kind|no part kind is called "teapot"'],
    ["an id twice", "id,kind,name\nx,tee,X\nx,tee,Y\n", '3|id|"x" stands there twice'],
    [
      "a parameter out of range",
      "id,kind,name,parameters\nx,fresh-tank,X,volumeL=-4\n",
      "2|parameters|Volume",
    ],
    [
      "a parameter that the kind lacks",
      "id,kind,name,parameters\nx,tee,X,volumeL=4\n",
      '2|parameters|a tee has no parameter "volumeL"',
    ],
    ["a day that is none", "id,kind,name,fitted on\nx,tee,X,31.3.2024\n", "2|fitted on|"],
    [
      "a condition that is none",
      "id,kind,name,condition\nx,tee,X,splendid\n",
      '2|condition|"splendid" is not one of',
    ],
    ["an id with blanks", "id,kind,name\nmy part,tee,X\n", "2|id|"],
    [
      "a piece of a part that has none",
      "id,item,kind,name\nv5,anode,,\n",
      '2|item|Heater cold in has no "anode"',
    ],
    [
      "too many parts",
      `id,kind,name\n${Array.from({ length: 500 }, (_, i) => `x${i},tee,X`).join("\n")}\n`,
      "more than 400 lines",
    ],
  ])("refuses %s, says line and column, and changes nothing", (_, csv, words) => {
    expect(problems(readPartsCsv(csv, teasel))).toContain(words);
  });
});

describe("the register's dates", () => {
  it.each([
    ["2024-03-31", 24, "2026-03-31"],
    // The last of a month stays the last.
    ["2023-08-31", 6, "2024-02-29"],
    ["2024-12-15", 1, "2025-01-15"],
  ])("fitted on %s with %d months of life is due on %s", (fittedOn, expectedLifeMonths, due) => {
    expect(dueOn({ fittedOn, expectedLifeMonths })).toBe(due);
  });
  it("cannot be told without both figures", () => {
    expect(dueOn({ fittedOn: null, expectedLifeMonths: 12 })).toBeNull();
    expect(dueOn({ fittedOn: "2024-01-01", expectedLifeMonths: null })).toBeNull();
  });
  it("counts whole months of age", () => {
    expect(monthsBetween("2024-01-15", "2024-02-14")).toBe(0);
    expect(monthsBetween("2024-01-15", "2026-01-15")).toBe(24);
  });
});

describe("the water side as an EPANET input file, read back", () => {
  it.each(EXAMPLE_MAPS.map((m) => [m.name, m] as const))(
    "of %s, onto its own map, changes nothing",
    (_, map) => {
      const read = readInp(writeInp(map).text, map);
      expect(read.ok && compareMaps(map, read.map)).toEqual([]);
    },
  );

  it("takes over a length, a pipe and a tank that were changed in the file", () => {
    const { text } = writeInp(teasel);
    const changed = text.replace(
      /^(r-t-gc-b-galley-cold \S+ \S+) 0\.9 (\S+)(.*)"metric-15"$/mu,
      '$1 1.75 $2$3"metric-22"',
    );
    expect(changed).not.toBe(text);
    const read = readInp(changed, teasel);
    expect(read.ok && compareMaps(teasel, read.map).map((d) => d.details)).toEqual([
      ["length {m:0.9} → {m:1.75}", "pipe 15 mm tube → 22 mm tube"],
    ]);
  });

  it("becomes a sound map of its own without one", () => {
    for (const map of [teasel, yarrow, foxglove]) {
      const read = readInp(writeInp(map).text);
      expect(read.ok && read.map.runs.length).toBeGreaterThan(20);
      expect(read.ok && read.report.join(" ")).toContain("all is cold");
    }
  });

  it("of somebody else: US units, a loop, a check, a closed pipe, a pump, valves; what is not carried is told", () => {
    const text = `[TITLE]\nBench net\n[JUNCTIONS]\nA 10 0\nB 10 0\nC 12 1.5\nD 11\n[RESERVOIRS]\nR 100\n[TANKS]\nT 0 3 0 6 4 0\n[PIPES]\n1 R A 20 0.475 0.1 0 Open\n2 A B 30 0.475 0.1 0 CV\n3 B C 30 0.671 0.1\n4 A C 10 0.475 0.1 0 Closed\n5 D A 5 0.475 0.1\n[PUMPS]\n6 T D HEAD 1\n[VALVES]\n7 B D 0.475 PRV 40 0\n8 C D 0.475 TCV 3 0\n[PATTERNS]\n1 1 1 1\n[OPTIONS]\nUNITS GPM\n[END]\n`;
    const read = readInp(text);
    if (!read.ok) throw new Error(problems(read));
    const kinds = read.map.parts.map((p) => p.kind);
    for (const kind of [
      "supply-post",
      "fresh-tank",
      "check-valve",
      "diaphragm-pump",
      "pressure-regulator",
      "ball-valve",
      "single-tap",
    ])
      expect(kinds, kind).toContain(kind);
    expect(read.map.runs.find((r) => r.id === "r-1")).toMatchObject({
      pipe: "pex-1/2",
      lengthM: 6.096,
    });
    expect(Object.values(read.map.lineup)).toContain("shut");
    expect(read.report.join("\n")).toMatch(/PATTERNS.*not carried/u);
    expect(read.report.join("\n")).toContain("8: a TCV became a ball valve");
    // What changes the answer is named: heads, demands, roughness.
    expect(read.report.join("\n")).toMatch(/Heads of R are not carried/u);
    expect(read.report.join("\n")).toMatch(/Demands at C are not carried/u);
    expect(read.report.join("\n")).toMatch(/Roughness of 5 pipes is not carried/u);
    expect(read.report.join("\n")).not.toMatch(/Emitter|Loss factors/u);
  });

  it.each([
    ["no sections", "hello", "this is no EPANET input file"],
    ["a pipe to nowhere", "[JUNCTIONS]\nA 0\n[PIPES]\n1 A B 1 10 1\n", '4|1|leads to "B"'],
    [
      "a length that is no number",
      "[JUNCTIONS]\nA 0\nB 0\n[PIPES]\n1 A B long 10 1\n",
      '5|length|"long" is not a number',
    ],
    ["a node twice", "[JUNCTIONS]\nA 0\nA 1\n", "3|A|is there twice"],
    [
      "words before the first section",
      "A 0\n[JUNCTIONS]\nB 0\n",
      "1|A|stands before the first section",
    ],
    [
      "a thousand nodes",
      `[JUNCTIONS]\n${Array.from({ length: 1000 }, (_, i) => `N${i} 0`).join("\n")}\n`,
      "at most 200",
    ],
    ["10 MB", "[JUNCTIONS]\n".repeat(1024 * 1024), "MB"],
  ])("refuses %s and says where", (_, text, words) => {
    expect(problems(readInp(text))).toContain(words);
  });
});

describe("the drawing as SVG", () => {
  it("has every part and every pipe, nothing to fetch and nothing to run", () => {
    const svg = writeSvg(teasel);
    for (const p of teasel.parts) expect(svg).toContain(`data-part="${p.id}"`);
    for (const r of teasel.runs) expect(svg).toContain(`data-run="${r.id}"`);
    expect(svg).not.toMatch(/<script|href=|<image|onload|javascript:/iu);
  });
  it("is the same however the map is stored", () => {
    expect(writeSvg(shuffled(foxglove))).toBe(writeSvg(foxglove));
  });
  it("takes a name with signs as a name", () => {
    const svg = writeSvg({
      ...teasel,
      name: '</title><script>alert("x")</script>',
      parts: teasel.parts.map((p, i) => (i === 0 ? { ...p, name: "<b>&\u0001" } : p)),
    });
    expect(svg).not.toContain("<script>");
    expect(svg).not.toContain("\u0001");
    expect(escapeXml(`<a b="c">&\u0000`)).toBe("&lt;a b=&quot;c&quot;&gt;&amp;");
  });
});

describe("a pump in an EPANET file", () => {
  it("has the head that EPANET's one-point curve makes of its cut-out: four thirds of the design head (users manual, EPA/600/R-20/133)", () => {
    const curve = /^curve~pump (\S+) (\S+)$/mu.exec(writeInp(teasel).text);
    const [flowLps, headM] = [Number(curve?.[1]), Number(curve?.[2])];
    const pump = teasel.parts.find((p) => p.id === "pump");
    const params = pump ? paramsOf(pump) : {};
    // Metres of the water itself: 999.1 kg/m3 at 15 °C (IAPWS).
    expect((4 / 3) * headM * 9806.65 * 0.9991).toBeCloseTo(Number(params["cutOutPa"]), -1);
    expect(2 * flowLps).toBeCloseTo(1000 * Number(params["flowM3PerS"]), 4);
  });
});
