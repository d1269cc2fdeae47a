import type { WinterizeRequest } from "@uppershed/core/procedure";
import {
  auditMap,
  type AuditSettings,
  besideOf,
  habitsSchema,
  KIT_POLICY,
  piecesOf,
  refitKit,
  savingOf,
  type Solve,
} from "@uppershed/core/refit";
import type { WaterMap } from "@uppershed/core/watermap";

/** A system that is, or is to be: what is to be said of it, and what it takes to get there. Field names stay as they are: scripts lean on them. */

/** The audit of one map, or of two beside each other. */
export const auditAnswer = (
  before: WaterMap,
  after: WaterMap | undefined,
  winter: Partial<Pick<WinterizeRequest, "winterLowC" | "marginC" | "product" | "basis">>,
): object => {
  const settings: AuditSettings = { winter, habits: habitsSchema.parse({}), limits: [] };
  const now = auditMap(before, settings);
  if (!after) return { map: before.id, audit: now };
  const then = auditMap(after, settings);
  return {
    map: before.id,
    before: now,
    after: then,
    beside: besideOf(now, then),
    saving: now.methods.flatMap(({ method }) => savingOf(now, then, method, {}) ?? []),
  };
};

/** What it takes to make one map of another: parts with the same id are the same part. */
export const partsAnswer = (
  before: WaterMap,
  after: WaterMap,
  solve: Solve | undefined,
): object => ({
  map: before.id,
  pieces: piecesOf(before, after).map(({ id, name, parts, runs }) => ({ id, name, parts, runs })),
  ...refitKit(before, after, KIT_POLICY, solve),
});
