import type { Customer } from "@uppershed/contract";
import { and, eq, inArray, or, sql } from "drizzle-orm";
import { notFound, Refused } from "../errors.ts";
import { ACCEPTED_TITLE } from "../reports/data.ts";
import { refreshSearch } from "../register/search.ts";
import {
  customers,
  findingEntries,
  findings,
  ownerLinks,
  refitEntries,
  refits,
  reportEditions,
  units,
  visits,
} from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { getCustomer } from "./store.ts";

const ERASED = "erased on request";

interface EditionData {
  readonly unit: object;
  readonly visit: object;
  readonly findings?: readonly { readonly answer?: object | null }[];
  readonly winterizing?: {
    readonly sections: readonly { readonly title: string; readonly lines: readonly string[] }[];
  } | null;
}

/** A report that was handed over, without the person to whom. */
const withoutOwner = (data: EditionData): EditionData => ({
  ...data,
  unit: { ...data.unit, owner: ERASED },
  visit: { ...data.visit, ownerSaid: "" },
  findings: (data.findings ?? []).map((f) =>
    f.answer ? { ...f, answer: { ...f.answer, who: ERASED } } : f,
  ),
  ...(data.winterizing
    ? {
        winterizing: {
          ...data.winterizing,
          sections: data.winterizing.sections.map((s) =>
            s.title === ACCEPTED_TITLE ? { ...s, lines: [`${ERASED}.`] } : s,
          ),
        },
      }
    : {}),
});

/**
 * Takes a customer out as a person: name and how they are reached, what they said, who answered, their name on reports that were handed
 * over, and the links by which they read them. The units' technical record stays: maps, runs, readings, findings.
 */
export const eraseCustomer = (scope: Scope, id: string, name: string): Promise<Customer> =>
  scope.together(async (tx) => {
    await tx.alone();
    const customer = await tx.first(customers, eq(customers.id, id));
    if (!customer) throw notFound("customer");
    if (customer.name.trim() !== name.trim())
      throw new Refused("conflict", "The name that was typed is another. Nothing was changed.");
    const same = await tx.find(customers, or(eq(customers.id, id), eq(customers.mergedInto, id)));
    const ids = same.map((c) => c.id);
    const theirs = await tx.pick(units, { id: units.id }, inArray(units.customerId, ids));
    const unitIds = theirs.map((u) => u.id);
    await tx.change(
      customers,
      { name: ERASED, phone: "", email: "", address: "", note: "", search: ERASED },
      inArray(customers.id, ids),
    );
    const editions = await tx.pick(
      reportEditions,
      { id: reportEditions.id },
      inArray(reportEditions.customerId, ids),
    );
    const editionIds = editions.map((e) => e.id);
    await tx.erasing();
    if (editionIds.length > 0) {
      for (const id of editionIds) {
        const edition = await tx.first(reportEditions, eq(reportEditions.id, id));
        if (edition)
          await tx.change(
            reportEditions,
            { data: withoutOwner(edition.data as EditionData) },
            eq(reportEditions.id, id),
          );
      }
      await tx.change(
        ownerLinks,
        { withdrawnAt: new Date() },
        and(inArray(ownerLinks.editionId, editionIds), sql`${ownerLinks.withdrawnAt} is null`) ??
          sql`false`,
      );
    }
    if (unitIds.length > 0) {
      await tx.change(visits, { ownerSaid: "" }, inArray(visits.unitId, unitIds));
      await tx.change(
        visits,
        { acceptedWho: ERASED },
        and(inArray(visits.unitId, unitIds), sql`${visits.acceptedWho} <> ''`) ?? sql`false`,
      );
      const found = await tx.pick(findings, { id: findings.id }, inArray(findings.unitId, unitIds));
      if (found.length > 0)
        await tx.change(
          findingEntries,
          {
            body: sql`jsonb_set(${findingEntries.body}, '{who}', ${JSON.stringify(ERASED)}::jsonb)`,
          } as never,
          and(
            inArray(
              findingEntries.findingId,
              found.map((f) => f.id),
            ),
            sql`${findingEntries.body} ? 'who'`,
          ) ?? sql`false`,
        );
      const thought = await tx.pick(refits, { id: refits.id }, inArray(refits.unitId, unitIds));
      if (thought.length > 0)
        await tx.change(
          refitEntries,
          {
            byName: ERASED,
            body: sql`jsonb_set(${refitEntries.body}, '{who}', ${JSON.stringify(ERASED)}::jsonb)`,
          } as never,
          and(
            inArray(
              refitEntries.refitId,
              thought.map((r) => r.id),
            ),
            sql`${refitEntries.body} ? 'who'`,
          ) ?? sql`false`,
        );
      await refreshSearch(tx, unitIds);
    }
    return getCustomer(tx, id);
  });
