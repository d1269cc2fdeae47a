import { eq, inArray, or } from "drizzle-orm";
import { customers, parts, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { searchText } from "../search.ts";

const CHUNK = 500;

/** Writes anew by which words units are found: their own, their owners', their parts', and those of their doubles. */
export const refreshSearch = async (scope: Scope, unitIds: readonly string[]): Promise<void> => {
  for (let from = 0; from < unitIds.length; from += CHUNK) {
    const ids = unitIds.slice(from, from + CHUNK);
    const family = await scope.find(
      units,
      or(inArray(units.id, ids), inArray(units.mergedInto, ids)),
    );
    const familyIds = family.map((u) => u.id);
    const ownerIds = [...new Set(family.map((u) => u.customerId))];
    const owners = await scope.find(
      customers,
      or(inArray(customers.id, ownerIds), inArray(customers.mergedInto, ownerIds)),
    );
    const aboard = await scope.find(parts, inArray(parts.unitId, familyIds));
    for (const unit of family.filter((u) => ids.includes(u.id))) {
      const same = family.filter((u) => u.id === unit.id || u.mergedInto === unit.id);
      const whose = owners.filter((c) =>
        same.some((u) => u.customerId === c.id || u.customerId === c.mergedInto),
      );
      const search = searchText(
        ...same.flatMap((u) => [u.name, u.craft, u.plate, u.hull, u.berth]),
        ...whose.flatMap((c) => [c.name, c.phone, c.email]),
        ...aboard
          .filter((p) => same.some((u) => u.id === p.unitId))
          .flatMap((p) => [p.name, p.words, p.tag, p.serial, p.description]),
      );
      if (search !== unit.search) await scope.change(units, { search }, eq(units.id, unit.id));
    }
  }
};
