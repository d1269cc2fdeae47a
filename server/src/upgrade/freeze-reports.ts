import { and, eq, isNull } from "drizzle-orm";
import type { Tx } from "../db.ts";
import { idFrom } from "../ids.ts";
import { makeEdition } from "../reports/editions.ts";
import { ownerLinks, visits, workshops } from "../schema/index.ts";
import { scopeFor } from "../scope.ts";

/** Links of before showed the report as it was on the day of looking: from now on the one that it is at this moment. */
export const freezeReports = async (tx: Tx): Promise<void> => {
  for (const { id } of await tx.select({ id: workshops.id }).from(workshops)) {
    const scope = scopeFor(tx, id);
    for (const link of await scope.find(ownerLinks, isNull(ownerLinks.editionId))) {
      const visit = await scope.first(visits, eq(visits.id, link.visitId));
      if (!visit) continue;
      const edition = await makeEdition(
        scope,
        link.personId,
        link.visitId,
        { id: idFrom(`edition of link ${link.id}`), how: "link" },
        new Date(),
      );
      await scope.change(
        ownerLinks,
        { editionId: edition.id },
        and(eq(ownerLinks.id, link.id), isNull(ownerLinks.editionId)) ?? eq(ownerLinks.id, link.id),
      );
    }
  }
};
