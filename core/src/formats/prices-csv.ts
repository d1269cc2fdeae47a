import { oddCells, readTable, unguarded, writeTable } from "./table.ts";
import type { FileProblem } from "./text.ts";

/** The workshop's own list of what a refit takes, as CSV: what each thing costs, how long a roll is, which rest pieces lie in the stores. */

export interface PriceLine {
  /** "kind:tee", "pipe:pex-1/2 red", "joint:pex-1/2"; as a kit names it. */
  readonly key: string;
  readonly label: string;
  /** In the workshop's own money, each piece or roll. */
  readonly price: number | null;
  /** Of a pipe: how long a new roll or length is, m. */
  readonly rollM: number | null;
  /** Of a pipe: rest pieces in the stores, m. */
  readonly restsM: readonly number[];
}

const COLUMNS = ["key", "label", "price", "roll m", "rests m"] as const;
const MOST_LINES = 5000;
const MOST_RESTS = 200;

export const writePricesCsv = (lines: readonly PriceLine[]): string =>
  writeTable(
    COLUMNS,
    lines.map((l) => [
      l.key,
      l.label,
      l.price === null ? "" : String(l.price),
      l.rollM === null ? "" : String(l.rollM),
      l.restsM.join("; "),
    ]),
  );

export type PricesRead =
  | { readonly ok: true; readonly lines: readonly PriceLine[] }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

const number = (text: string, least: number, most: number): number | null | "bad" => {
  if (text.trim() === "") return null;
  const value = Number(text.trim().replace(",", "."));
  return Number.isFinite(value) && value >= least && value <= most ? value : "bad";
};

/** Reads a list; one cell that cannot be read, and nothing of it is taken. */
export const readPricesCsv = (text: string): PricesRead => {
  const table = readTable(text, {
    columns: COLUMNS,
    needed: ["key"],
    what: "a list of prices",
    most: MOST_LINES,
  });
  if (!table.ok) return table;
  const at = new Map(table.columns.map((c, i) => [c, i]));
  const problems: FileProblem[] = [];
  const seen = new Set<string>();
  const lines = table.rows.flatMap((row, i): PriceLine[] => {
    problems.push(...oddCells(table.columns, row, i + 2));
    const cell = (name: (typeof COLUMNS)[number]): string => row[at.get(name) ?? -1] ?? "";
    const wrong = (where: string, problem: string): void =>
      void problems.push({ line: i + 2, where, problem });
    const key = unguarded(cell("key").trim());
    if (key === "" || key.length > 120) wrong("key", "is needed, of at most 120 characters.");
    if (seen.has(key)) wrong("key", `"${key}" stands there twice.`);
    seen.add(key);
    const price = number(cell("price"), 0, 1e6);
    const rollM = number(cell("roll m"), 0.1, 500);
    const rests = cell("rests m")
      .split(/[;\s]+/u)
      .filter(Boolean)
      .map((r) => number(r, 0.05, 500));
    if (price === "bad") wrong("price", `"${cell("price")}" is no price.`);
    if (rollM === "bad") wrong("roll m", `"${cell("roll m")}" is no length from 0.1 to 500 m.`);
    if (rests.some((r) => r === "bad" || r === null) || rests.length > MOST_RESTS)
      wrong("rests m", "lengths of at least 0.05 m, parted by semicolons, at most 200.");
    return [
      {
        key,
        label: unguarded(cell("label").trim()).slice(0, 120),
        price: price === "bad" ? null : price,
        rollM: rollM === "bad" ? null : rollM,
        restsM: rests.filter((r): r is number => typeof r === "number"),
      },
    ];
  });
  return problems.length > 0 ? { ok: false, problems } : { ok: true, lines };
};
