/** Numbers as people type them: with fractions, with either decimal mark, with thousands set apart. Understood or asked about, never guessed. */

/** Which mark a reader takes for the decimal one; where nothing is said, neither. */
export type NumberStyle = "point" | "comma";

export type ReadNumber =
  | { readonly ok: true; readonly value: number; readonly length: number }
  | { readonly ok: false; readonly problem: string };

const FRACTIONS: Readonly<Record<string, number>> = {
  "½": 1 / 2,
  "⅓": 1 / 3,
  "⅔": 2 / 3,
  "¼": 1 / 4,
  "¾": 3 / 4,
  "⅕": 1 / 5,
  "⅖": 2 / 5,
  "⅗": 3 / 5,
  "⅘": 4 / 5,
  "⅙": 1 / 6,
  "⅚": 5 / 6,
  "⅛": 1 / 8,
  "⅜": 3 / 8,
  "⅝": 5 / 8,
  "⅞": 7 / 8,
};

const SIGN = /^[+\-−]?\s*/u;
const VULGAR = new RegExp(`^(\\d*)\\s?([${Object.keys(FRACTIONS).join("")}])`, "u");
const MIXED = /^(?:(\d+)(?:\s+|-))?(\d+)\s*[/⁄]\s*(\d+)/u;
const SPACED = /^\d{1,3}(?:[ \u00A0\u202F]\d{3})+(?![\d/⁄])(?:[.,]\d+)?/u;
const MARKED = /^(?:\d[\d.,]*|[.,]\d+)/u;

const notANumber = (text: string): ReadNumber => ({
  ok: false,
  problem: `"${text}" is not a number.`,
});

/** Digits with marks among them. */
const readMarked = (given: string, style: NumberStyle | undefined): ReadNumber => {
  // A mark at the end belongs to the sentence.
  const text = given.replace(/[.,]+$/u, "");
  const read = (thousands: "." | "," | "", decimal: "." | "," | ""): ReadNumber => {
    const groups = thousands === "" ? [] : text.split(decimal || "\n")[0]?.split(thousands);
    if (groups && groups.length > 1) {
      const [first = "", ...rest] = groups;
      if (first.length > 3 || first.length === 0 || rest.some((g) => g.length !== 3))
        return notANumber(given);
    }
    const plain = (thousands === "" ? text : text.replaceAll(thousands, "")).replace(",", ".");
    const value = Number(plain);
    return Number.isFinite(value) ? { ok: true, value, length: text.length } : notANumber(given);
  };
  const [points, commas] = [text.split(".").length - 1, text.split(",").length - 1];
  if (points > 0 && commas > 0) {
    const decimal = text.lastIndexOf(".") > text.lastIndexOf(",") ? "." : ",";
    if ((decimal === "." ? points : commas) > 1) return notANumber(given);
    return read(decimal === "." ? "," : ".", decimal);
  }
  if (points + commas === 0) return read("", "");
  const mark = points > 0 ? "." : ",";
  if (points + commas > 1) return read(mark, "");
  const isThousand = /^[1-9]\d{0,2}[.,]\d{3}$/u.test(text);
  if (!isThousand) return read("", mark);
  if (style === undefined) {
    const [whole = "", part = ""] = text.split(mark);
    return {
      ok: false,
      problem: `"${text}" can be ${whole}${part} or ${whole} and a bit: write ${whole}${part}, or ${whole}.${part.replace(/0+$/u, "") || "0"}.`,
    };
  }
  return (style === "point") === (mark === ".") ? read("", mark) : read(mark, "");
};

/**
 * Reads the number with which a text begins.
 * @returns its value and how much of the text it takes, or what is wrong or to be asked, in words
 */
export const readNumber = (text: string, style: NumberStyle | undefined): ReadNumber => {
  const sign = SIGN.exec(text)?.[0] ?? "";
  const rest = text.slice(sign.length);
  const times = /[-−]/u.test(sign) ? -1 : 1;
  const done = (value: number, length: number): ReadNumber => ({
    ok: true,
    value: times * value,
    length: sign.length + length,
  });
  const vulgar = VULGAR.exec(rest);
  if (vulgar)
    return done(Number(vulgar[1] || 0) + (FRACTIONS[vulgar[2] ?? ""] ?? 0), vulgar[0].length);
  const mixed = MIXED.exec(rest);
  if (mixed) {
    const bottom = Number(mixed[3]);
    if (bottom === 0) return notANumber(mixed[0]);
    return done(Number(mixed[1] ?? 0) + Number(mixed[2]) / bottom, mixed[0].length);
  }
  const spaced = SPACED.exec(rest)?.[0];
  if (spaced)
    return done(
      Number(spaced.replaceAll(/[ \u00A0\u202F]/gu, "").replace(",", ".")),
      spaced.length,
    );
  const marked = MARKED.exec(rest)?.[0];
  if (!marked) return { ok: false, problem: `"${text.trim()}" does not start with a number.` };
  const read = readMarked(marked, style);
  return read.ok ? done(read.value, read.length) : read;
};
