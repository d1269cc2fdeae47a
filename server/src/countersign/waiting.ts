import type { Me, Proposal, ProposalKind, Waiting } from "@uppershed/contract";
import { mayDo } from "@uppershed/contract";
import type { RuleValues } from "@uppershed/core/rules";
import { and, eq, inArray, sql } from "drizzle-orm";
import { mergeCustomers } from "../customers/store.ts";
import { notFound, Refused } from "../errors.ts";
import { namesOf } from "../people/names.ts";
import { proposals, runEvents, runs } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { mergeUnits } from "../units/merge.ts";
import { addRevision } from "../house/rules.ts";
import { OPEN } from "../house/merging.ts";

/** What waits until somebody else has looked at it and countersigned. */

const MOST = 100;

const listProposals = async (scope: Scope): Promise<Proposal[]> => {
  const rows = await scope.find(proposals, OPEN, { order: sql`${proposals.at}`, limit: MOST });
  const names = await namesOf(
    scope,
    rows.map((r) => r.personId),
  );
  return rows.map(({ id, kind, what, personId, at }) => ({
    id,
    kind,
    what,
    personId,
    by: names.get(personId) ?? "",
    at: at.toISOString(),
  }));
};

export const listWaiting = async (scope: Scope): Promise<Waiting> => {
  const rows = await scope.find(
    runs,
    and(sql`${runs.closedAt} is not null`, sql`(${runs.summary}->>'waits')::boolean`),
    { order: sql`${runs.closedAt}`, limit: MOST },
  );
  // Who signed it, under the name of that day; who began it may be somebody else.
  const signed = await scope.pick(
    runEvents,
    { runId: runEvents.runId, byName: runEvents.byName },
    and(
      eq(runEvents.type, "closed"),
      inArray(
        runEvents.runId,
        rows.map((r) => r.id),
      ),
    ),
  );
  return {
    proposals: await listProposals(scope),
    records: rows.map((r) => ({
      runId: r.id as Waiting["records"][number]["runId"],
      unitId: r.unitId as Waiting["records"][number]["unitId"],
      unit: r.unitName,
      by: signed.find((e) => e.runId === r.id)?.byName ?? "",
      closedAt: r.closedAt?.toISOString() ?? "",
    })),
  };
};

const carryOut = async (
  tx: Scope,
  kind: ProposalKind,
  row: typeof proposals.$inferSelect,
  countersigner: string,
): Promise<void> => {
  const { keptId, doubleId } = row.body as { keptId: string; doubleId: string };
  switch (kind) {
    case "rules": {
      const { why, values, basedOn } = row.body as {
        why: string;
        values: RuleValues;
        basedOn: number;
      };
      await addRevision(tx, row.personId, { id: row.id, why, values, basedOn }, countersigner);
      return;
    }
    case "merge-unit":
      await mergeUnits(tx, row.personId, keptId, doubleId);
      return;
    case "merge-customer":
      await mergeCustomers(tx, row.personId, keptId, doubleId);
      return;
  }
};

/** Countersigns what somebody else asked for, and does it; or takes it back. */
export const answerProposal = (
  scope: Scope,
  me: Me["person"],
  id: string,
  answer: "countersign" | "withdraw",
): Promise<Waiting> =>
  scope.together(async (tx) => {
    await tx.alone();
    const row = await tx.first(proposals, eq(proposals.id, id));
    if (!row) throw notFound("proposal");
    if (row.doneAt || row.withdrawnAt)
      throw new Refused("conflict", "That was answered already. Nothing was changed.");
    if (!mayDo(me.role, row.kind === "rules" ? "house" : "merge"))
      throw new Refused(
        "not-allowed",
        `As ${me.role} one cannot answer that. Nothing was changed.`,
      );
    if (answer === "withdraw") {
      await tx.change(proposals, { withdrawnAt: new Date() }, eq(proposals.id, id));
      return listWaiting(tx);
    }
    if (row.personId === me.id)
      throw new Refused(
        "not-allowed",
        "Nobody countersigns what they asked for themselves. Nothing was changed.",
      );
    await carryOut(tx, row.kind, row, me.id);
    await tx.change(proposals, { doneAt: new Date(), doneBy: me.id }, eq(proposals.id, id));
    return listWaiting(tx);
  });
