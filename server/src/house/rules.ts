import type { Me, NewRules, RuleRevision, Rules, RulesChanged } from "@uppershed/contract";
import { mayDo } from "@uppershed/contract";
import type { RulesInForce } from "@uppershed/core/procedure";
import { RULE_STANDARDS, type RuleValue, type RuleValues } from "@uppershed/core/rules";
import { eq, isNull, sql } from "drizzle-orm";
import { Refused } from "../errors.ts";
import { namesOf } from "../people/names.ts";
import { people, proposals, ruleRevisions } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

/** The house rules of a workshop: revisions, of which the newest is in force. */

const MOST = 100;

type Row = typeof ruleRevisions.$inferSelect;

const SHIPPED: RuleRevision = {
  revision: 0,
  values: {},
  by: "",
  why: "As they were shipped",
  at: null,
  countersignedBy: null,
};

const newest = async (scope: Scope): Promise<Row | undefined> =>
  (
    await scope.find(ruleRevisions, undefined, {
      order: sql`${ruleRevisions.revision} desc`,
      limit: 1,
    })
  )[0];

export const rulesInForce = async (scope: Scope): Promise<RulesInForce> => {
  const row = await newest(scope);
  return row ? { revision: row.revision, values: row.values } : { revision: 0, values: {} };
};

export const ruleOf = async (scope: Scope, key: string): Promise<RuleValue> =>
  (await rulesInForce(scope)).values[key] ?? RULE_STANDARDS[key] ?? "";

export const listRules = async (scope: Scope): Promise<Rules> => {
  const rows = await scope.find(ruleRevisions, undefined, {
    order: sql`${ruleRevisions.revision} desc`,
    limit: MOST,
  });
  const names = await namesOf(
    scope,
    rows.flatMap((r) => [r.personId, ...(r.countersignedBy ? [r.countersignedBy] : [])]),
  );
  const before = [
    ...rows.map((r) => ({
      revision: r.revision,
      values: r.values,
      by: names.get(r.personId) ?? "",
      why: r.why,
      at: r.at.toISOString(),
      countersignedBy: r.countersignedBy ? (names.get(r.countersignedBy) ?? "") : null,
    })),
    SHIPPED,
  ];
  return { now: before[0] ?? SHIPPED, before };
};

const CHANGED_SINCE =
  "Somebody has changed the rules since. Look at them as they are now. Nothing was changed.";

/** Nobody is shut out by their own rule: with one person alone nothing could be countersigned. */
const refuseLoneCountersign = async (scope: Scope, values: RuleValues): Promise<void> => {
  if (values["countersign.rules"] !== "yes" && values["countersign.merges"] !== "yes") return;
  const here = await scope.find(people, isNull(people.leftAt));
  if (here.filter((p) => mayDo(p.role, "house")).length < 2)
    throw new Refused(
      "conflict",
      "Only one person here may countersign it, so nothing could be changed any more. Invite a second lead first. Nothing was changed.",
    );
};

/** Keeps a change as the next revision. */
export const addRevision = async (
  tx: Scope,
  personId: string,
  { id, why, values, basedOn }: { id: string; why: string; values: RuleValues; basedOn: number },
  countersignedBy: string | null,
): Promise<void> => {
  const now = await newest(tx);
  if ((now?.revision ?? 0) !== basedOn) throw new Refused("conflict", CHANGED_SINCE);
  await tx.add(ruleRevisions, {
    id,
    revision: basedOn + 1,
    values,
    personId,
    why,
    countersignedBy,
  });
};

/** Changes the rules, or asks for it where that waits for a countersign. */
export const changeRules = (
  scope: Scope,
  me: Me["person"],
  asked: NewRules & { values: RuleValues },
): Promise<RulesChanged> =>
  scope.together(async (tx) => {
    await tx.alone();
    if (await tx.first(ruleRevisions, eq(ruleRevisions.id, asked.id)))
      return { ...(await listRules(tx)), waits: false };
    const now = await rulesInForce(tx);
    if (now.revision !== asked.basedOn) throw new Refused("conflict", CHANGED_SINCE);
    await refuseLoneCountersign(tx, asked.values);
    if (now.values["countersign.rules"] !== "yes") {
      await addRevision(tx, me.id, asked, null);
      return { ...(await listRules(tx)), waits: false };
    }
    await tx.addOnce(proposals, {
      id: asked.id,
      kind: "rules",
      what: `House rules, revision ${asked.basedOn + 1}: ${asked.why}`,
      body: { why: asked.why, values: asked.values, basedOn: asked.basedOn },
      personId: me.id,
    });
    return { ...(await listRules(tx)), waits: true };
  });
