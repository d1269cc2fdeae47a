import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { burdock } from "../examples/index.ts";
import {
  type CustomerFields,
  litMapSvg,
  readRegisterCsv,
  readVcards,
  writeRegisterCsv,
  writeVcards,
} from "./index.ts";

/** Any text that a register may hold: signs, commas, quotes, other scripts, leading signs that a spreadsheet would run. */
const text = (max: number) =>
  fc
    .oneof(
      fc.string({ maxLength: max }),
      fc.constantFrom(
        "=1+1",
        "+44 555 0101",
        "@x",
        'a,b;"c"',
        "Žofie",
        "李",
        "\\",
        "-5",
        "line\nline",
      ),
    )
    .map((t) =>
      t
        .replaceAll(/(?!\n)\p{Cc}/gu, "")
        .trim()
        .slice(0, max),
    );
const owner = fc.record({
  name: text(60).filter((t) => t !== ""),
  phone: text(30),
  email: fc.constantFrom("", "a@example.invalid", "x.y+z@example.invalid"),
  address: text(80),
  note: text(80),
});
const unit = fc.record({
  name: text(60).filter((t) => t !== ""),
  craft: fc.constantFrom("camper", "river cabin boat"),
  plate: text(20),
  hull: text(20),
  berth: text(40),
  accessNote: text(80),
});

describe("the register as a table", () => {
  it("reads what it wrote, whatever stands in it", () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ owner, unit: fc.option(unit, { nil: undefined }) }), {
          minLength: 1,
          maxLength: 5,
        }),
        (rows) => {
          const read = readRegisterCsv(writeRegisterCsv(rows));
          expect(
            read.ok
              ? read.rows.map(({ owner: o, unit: u }) => ({ owner: o, unit: u }))
              : read.problems,
          ).toEqual(rows);
        },
      ),
      { seed: 1 },
    );
  });

  it.each([
    ["an unknown column", "owner,colour\nA,red", "line 1 colour"],
    ["no owner's column", "unit\nA", "line 1 owner"],
    ["a line without an owner", "owner,unit\n,Bramble", "line 2 owner"],
    ["a unit's plate without its name", "owner,plate\nA,X 1", "line 2 unit"],
    ["a mail that is none", "owner,email\nA,nowhere", "line 2 email"],
    ["a formula", "owner,phone\n=cmd(),1", "line 2 owner"],
    ["too many cells", "owner\nA,B", "line 2 line"],
  ])("names %s", (_, file, where) => {
    const read = readRegisterCsv(file);
    expect(read.ok ? [] : read.problems.map((p) => `line ${p.line} ${p.where}`)).toContain(where);
  });
});

describe("customers as cards", () => {
  it("are read as they were written", () => {
    fc.assert(
      fc.property(
        fc.array(owner, { minLength: 1, maxLength: 4 }),
        (customers: CustomerFields[]) => {
          const read = readVcards(writeVcards(customers));
          expect(read.ok ? read.rows.map((r) => r.owner) : read.problems).toEqual(customers);
          expect(read.notTaken).toEqual([]);
        },
      ),
      { numRuns: 150, seed: 1 },
    );
  });

  it("of version 3.0 are read too, folded lines and all; what is not kept is named", () => {
    // Forms of RFC 2426: a folded line (5.8.1), an escaped comma, a grouped address.
    const card = [
      "BEGIN:VCARD",
      "VERSION:3.0",
      "N:Orme;Nils;;;",
      "FN:Nils Orme",
      "TEL;TYPE=CELL,VOICE:+44 555 0402",
      "TEL;TYPE=HOME:+44 555 0403",
      "ADR;TYPE=HOME:;;Lock Lane 1;Upper Basin;;UB1;",
      "NOTE:rings late\\, likes tea and a very long",
      "  story",
      "BDAY:1971-02-03",
      "END:VCARD",
      "",
    ].join("\r\n");
    const read = readVcards(card);
    expect(read.ok && read.rows[0]?.owner).toEqual({
      name: "Nils Orme",
      phone: "+44 555 0402",
      email: "",
      address: "Lock Lane 1, Upper Basin, UB1",
      note: "rings late, likes tea and a very long story",
    });
    expect(read.notTaken).toEqual(["Nils Orme: bday", "Nils Orme: a second tel"]);
  });

  it.each([
    ["no card at all", "hello"],
    ["half a card", "BEGIN:VCARD\r\nFN:x"],
    ["a calendar", "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nEND:VCALENDAR\r\n"],
    ["a card without a name", "BEGIN:VCARD\r\nVERSION:4.0\r\nFN:\r\nEND:VCARD\r\n"],
  ])("%s is refused with a reason", (_, file) => {
    expect(readVcards(file)).toMatchObject({ ok: false });
  });
});

describe("a small map with parts lit", () => {
  it("has a numbered ring for each part that it has, and none for one that it has not", () => {
    const svg = litMapSvg(burdock, ["pump", "nowhere", "heater"]);
    expect(svg.match(/stroke-width="7"/gu)).toHaveLength(2);
    expect(svg).toContain(">1</text>");
    expect(svg).toContain(">3</text>");
    expect(svg.trim().endsWith("</svg>")).toBe(true);
  });
});
