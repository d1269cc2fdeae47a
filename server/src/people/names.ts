import { inArray } from "drizzle-orm";
import { people } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

/** The names of people, by id. */
export const namesOf = async (
  scope: Scope,
  ids: readonly string[],
): Promise<Map<string, string>> => {
  const found =
    ids.length > 0
      ? await scope.pick(
          people,
          { id: people.id, name: people.name },
          inArray(people.id, [...new Set(ids)]),
        )
      : [];
  return new Map(found.map((p) => [p.id, p.name]));
};
