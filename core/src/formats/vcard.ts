import ICAL from "ical.js";
import type { CustomerFields, RegisterImport, RegisterRow } from "./customers-csv.ts";
import { type FileProblem, MOST_BYTES } from "./text.ts";

/** Customers as vCards: written in version 4.0 (RFC 6350), read in 3.0 (RFC 2426) and 4.0. */

/** One card for each customer. */
export const writeVcards = (customers: readonly CustomerFields[]): string =>
  customers
    .map((c) => {
      const card = new ICAL.Component(["vcard", [], []]);
      card.addPropertyWithValue("version", "4.0");
      card.addPropertyWithValue("fn", c.name);
      if (c.phone) {
        const tel = new ICAL.Property("tel", card);
        tel.resetType("text");
        tel.setValue(c.phone);
        card.addProperty(tel);
      }
      if (c.email) card.addPropertyWithValue("email", c.email);
      if (c.address) {
        // Post box, extension, street, town, region, code, country: what was written in one line stays in one.
        const adr = new ICAL.Property("adr", card);
        // Readers take a backslash before the next semicolon for a sign that belongs to it: a space keeps them apart.
        adr.setValue([
          "",
          "",
          c.address.endsWith("\\") ? `${c.address} ` : c.address,
          "",
          "",
          "",
          "",
        ]);
        card.addProperty(adr);
      }
      if (c.note) card.addPropertyWithValue("note", c.note);
      return card.toString();
    })
    .join("\r\n")
    .concat("\r\n");

const TAKEN = new Set([
  "version",
  "fn",
  "n",
  "tel",
  "email",
  "adr",
  "note",
  "prodid",
  "rev",
  "uid",
]);
const MOST_CARDS = 5000;

const textOf = (value: unknown): string =>
  Array.isArray(value)
    ? value
        .flat()
        .map(String)
        .filter((v) => v.trim() !== "")
        .join(", ")
    : typeof value === "string"
      ? value
      : "";

export type VcardImport = RegisterImport & {
  /** What the cards hold and the register does not keep: "Jo Tarrant: bday". */
  readonly notTaken?: readonly string[];
};

/** Reads customers from vCards. What is not taken over is said, card by card. */
export const readVcards = (text: string): VcardImport => {
  const fail = (problem: string, where = "file"): VcardImport => ({
    ok: false,
    problems: [{ where, problem }],
  });
  if (text.length > MOST_BYTES)
    return fail(`the file is longer than ${MOST_BYTES / 1024 / 1024} MB.`);
  let components: ICAL.Component[];
  try {
    const parsed = ICAL.parse(text.replace(/^\uFEFF/u, "").trim()) as unknown[];
    const list = (typeof parsed[0] === "string" ? [parsed] : parsed) as ConstructorParameters<
      typeof ICAL.Component
    >[0][];
    components = list.map((one) => new ICAL.Component(one));
  } catch (error) {
    return fail(
      `this is no vCard file: ${error instanceof Error ? error.message.slice(0, 120) : "it cannot be read"}.`,
    );
  }
  if (components.length > MOST_CARDS) return fail(`more than ${MOST_CARDS} cards.`);
  const problems: FileProblem[] = [];
  const notTaken: string[] = [];
  const rows = components.flatMap<RegisterRow>((card, i) => {
    const where = `card ${i + 1}`;
    if (card.name !== "vcard") {
      problems.push({ where, problem: `is a ${card.name}, not a vCard.` });
      return [];
    }
    const all = (name: string): string[] =>
      card
        .getAllProperties(name)
        .map((p) => textOf(p.getValues().length > 1 ? p.getValues() : p.getFirstValue()));
    const name = (all("fn")[0] ?? all("n")[0] ?? "").trim().slice(0, 80);
    if (name === "") {
      problems.push({ where, problem: "has no name." });
      return [];
    }
    const strange = card
      .getAllProperties()
      .map((p) => p.name.toLowerCase())
      .filter((n) => !TAKEN.has(n));
    const more = (["tel", "email", "adr"] as const)
      .filter((n) => all(n).length > 1)
      .map((n) => `a second ${n}`);
    for (const what of [...new Set(strange), ...more]) notTaken.push(`${name}: ${what}`);
    const owner: CustomerFields = {
      name,
      phone: (all("tel")[0] ?? "").replace(/^tel:/u, "").trim().slice(0, 40),
      email: (all("email")[0] ?? "").trim().slice(0, 120),
      address: (all("adr")[0] ?? "").trim().slice(0, 300),
      note: all("note").join("\n").trim().slice(0, 1000),
    };
    return [{ line: i + 1, owner, unit: undefined }];
  });
  if (problems.length > 0) return { ok: false, problems: problems.slice(0, 50) };
  return { ok: true, rows, notTaken };
};
