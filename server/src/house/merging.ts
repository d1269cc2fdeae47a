import type { Me } from "@uppershed/contract";
import { and, eq, isNull } from "drizzle-orm";
import { Refused } from "../errors.ts";
import { proposals } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { ruleOf } from "./rules.ts";

/** Not answered yet. */
export const OPEN = and(isNull(proposals.doneAt), isNull(proposals.withdrawnAt));

interface MergeAsked {
  readonly kind: "merge-unit" | "merge-customer";
  readonly keptId: string;
  readonly doubleId: string;
  /** What is asked for, in words. */
  readonly what: string;
}

/** Where merging waits for a countersign, what was asked for is kept, and done only then. @throws Refused, code "waits" */
export const waitToMerge = async (
  scope: Scope,
  me: Me["person"],
  { kind, keptId, doubleId, what }: MergeAsked,
): Promise<void> => {
  if ((await ruleOf(scope, "countersign.merges")) !== "yes") return;
  const same = (await scope.find(proposals, and(OPEN, eq(proposals.kind, kind)))).some(
    (p) => p.body["keptId"] === keptId && p.body["doubleId"] === doubleId,
  );
  if (!same)
    await scope.add(proposals, {
      id: crypto.randomUUID(),
      kind,
      what,
      body: { keptId, doubleId },
      personId: me.id,
    });
  throw new Refused(
    "waits",
    "Asked for. By the house rules it is done when somebody else has countersigned it; it waits on the Bench.",
  );
};
