import type { InUse, Unit, UnitStandingTold } from "@uppershed/contract";
import { beginsFrom, saidSchema } from "@uppershed/core/procedure";
import { and, desc, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { Refused } from "../errors.ts";
import { familyOf } from "../register/family.ts";
import { runEvents, runs } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { noteEntry } from "../register/history.ts";
import { refreshState, standingOf } from "./standing.ts";
import { getUnit } from "../register/units.ts";

/** A unit was filled again and is used; what its record said holds no longer. Counted from when the server learns of it. */
export const putInUse = (
  scope: Scope,
  personId: string,
  unitId: string,
  sent: InUse,
): Promise<Unit> =>
  scope.together(async (tx) => {
    const unit = await getUnit(tx, unitId);
    if (unit.state.kind === "in-work")
      throw new Refused("conflict", "A run is open on this unit. Close it first.");
    await noteEntry(tx, { unitId, personId, entry: { kind: "in-use", at: sent.at } }, sent.id);
    await refreshState(tx, unitId);
    return getUnit(tx, unitId);
  });

/** What the last signed winterizing of a unit left otherwise than in use. */
const turnedLast = async (scope: Scope, unitId: string): Promise<string[]> => {
  const closed = await scope.pick(
    runs,
    { id: runs.id },
    and(
      inArray(runs.unitId, await familyOf(scope, unitId)),
      isNotNull(runs.closedAt),
      isNull(runs.setAsideAt),
      sql`coalesce(${runs.setup} ->> 'job', 'winterize') = 'winterize'`,
    ),
    { order: sql`${runs.closedAt} desc`, limit: 1 },
  );
  const [last] = closed;
  if (!last) return [];
  const [row] = await scope.pick(
    runEvents,
    { said: runEvents.said },
    and(eq(runEvents.runId, last.id), eq(runEvents.type, "as-left")),
    { order: desc(runEvents.position), limit: 1 },
  );
  const left = saidSchema.safeParse(row?.said);
  if (!left.success) return [];
  return [
    ...(left.data.turns ?? []).map((t) => t.control),
    ...left.data.apart.map((e) => `${e.run}:${e.end}`),
  ];
};

/** How a unit stands, as it is told; or how it was known to stand at a moment. */
export const tellStanding = async (
  scope: Scope,
  unitId: string,
  asOf?: string,
): Promise<UnitStandingTold> => {
  const { standing, mapRevision } = await standingOf(
    scope,
    unitId,
    asOf === undefined ? undefined : new Date(asOf),
  );
  return {
    kind: standing.kind,
    at: standing.at,
    runId: standing.runId,
    leftAt: standing.leftAt,
    mapRevision,
    contents:
      standing.kind === "in-use"
        ? null
        : Object.fromEntries(
            [...standing.contentsByCell].map(([id, held]) => [
              id,
              { ...held, plugs: held.plugs.map((p) => ({ ...p })) },
            ]),
          ),
    measured: Object.fromEntries(standing.measured),
    lineup: { ...standing.lineup },
    apart: standing.apart.map((e) => ({ ...e })),
    holdsToC: standing.verdict.holdsToC,
    weakest: standing.verdict.weakest?.id ?? null,
    owners: standing.verdict.owners.map((o) => ({ ...o })),
    doubts: standing.doubts.map((d) => ({ ...d })),
    since: standing.since.map((s) => ({ ...s, names: [...s.names] })),
    notKnown: [...standing.notKnown],
    begins: beginsFrom(standing),
    turnedLast: await turnedLast(scope, unitId),
  };
};
