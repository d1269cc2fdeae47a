import type { KitChange, KitItem } from "@uppershed/contract";
import { type KitFacts, kitWarnings } from "@uppershed/core/kit";
import { and, eq, isNotNull, sql } from "drizzle-orm";
import { idTaken, notFound, Refused } from "../errors.ts";
import { kit } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { ruleOf } from "./rules.ts";

/** What the workshop owns. */

export const listKit = async (scope: Scope, now = new Date()): Promise<KitItem[]> => {
  const months = Number(await ruleOf(scope, "bleach.age"));
  const rows = await scope.find(kit, undefined, {
    order: sql`${kit.givenUp}, ${kit.kind}, lower(${kit.name})`,
  });
  return rows.map(({ workshopId: _workshop, ...item }) => ({
    ...item,
    warnings: item.givenUp
      ? []
      : [
          ...(item.here !== null && item.least !== null && item.here < item.least
            ? [`${Number(item.here.toFixed(1))} here, fewer than ${item.least}: to be bought.`]
            : []),
          ...kitWarnings(item.facts, now.toISOString().slice(0, 10), months),
        ],
  }));
};

interface Asked {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly givenUp: boolean;
  readonly here: number | null;
  readonly least: number | null;
  readonly facts: KitFacts;
}

export const addKit = async (scope: Scope, asked: Asked): Promise<KitItem[]> => {
  await scope.addOnce(kit, { ...asked, kind: asked.facts.kind });
  if (!(await scope.first(kit, eq(kit.id, asked.id)))) throw idTaken();
  return listKit(scope);
};

/** Takes off what a closed run used of a product that is counted, by its name. */
export const takeFromKit = async (
  scope: Scope,
  product: { readonly name: string; readonly jugM3: number },
  usedM3: number,
): Promise<void> => {
  const items = await scope.find(
    kit,
    and(eq(kit.kind, "antifreeze"), eq(kit.name, product.name), isNotNull(kit.here)),
    { lock: true },
  );
  for (const item of items)
    await scope.change(
      kit,
      { here: Math.max(0, (item.here ?? 0) - usedM3 / product.jugM3) },
      eq(kit.id, item.id),
    );
};

export const changeKit = async (
  scope: Scope,
  id: string,
  { facts, ...change }: Omit<KitChange, "facts"> & { facts?: KitFacts | undefined },
): Promise<KitItem[]> => {
  const item = await scope.first(kit, eq(kit.id, id));
  if (!item) throw notFound("thing in the kit");
  if (facts && facts.kind !== item.kind)
    throw new Refused("conflict", "It is of another kind: enter it anew. Nothing was changed.");
  await scope.change(kit, { ...change, ...(facts ? { facts } : {}) }, eq(kit.id, id));
  return listKit(scope);
};
