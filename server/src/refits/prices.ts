import type { PriceList } from "@uppershed/contract";
import { type PriceLine, readPricesCsv } from "@uppershed/core/formats";
import { sql } from "drizzle-orm";
import { Refused } from "../errors.ts";
import { priceLines } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

/** The workshop's own list of prices, rolls and rest pieces. */
export const listPrices = async (scope: Scope): Promise<PriceLine[]> =>
  (await scope.find(priceLines, undefined, { order: sql`${priceLines.key}` })).map(
    ({ key, label, price, rollM, restsM }) => ({ key, label, price, rollM, restsM }),
  );

/** Takes a list in the place of the one before; one line that cannot be read, and the old one stays. */
export const takePrices = (scope: Scope, text: string): Promise<PriceList> => {
  const read = readPricesCsv(text);
  if (!read.ok)
    throw new Refused(
      "impossible",
      "The list cannot be read. Nothing was changed.",
      read.problems.map((p) => ({
        where: p.line === undefined ? p.where : `line ${p.line}, ${p.where}`,
        problem: p.problem,
      })),
    );
  return scope.together(async (tx) => {
    await tx.remove(priceLines, sql`true`);
    for (const line of read.lines) await tx.add(priceLines, { ...line, restsM: [...line.restsM] });
    return { lines: await listPrices(tx) };
  });
};
