import { findingBodySchema, type RunEvent, type RunState } from "@uppershed/core";
import { takeEntry } from "../findings/store.ts";
import { keepReadings } from "../readings/store.ts";
import type { runs } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

const DIMENSIONS: Readonly<Record<string, string>> = { strength: "fraction", temperature: "temperature" };

/**
 * What a run leaves beside its own record: a fault noticed on the way is a finding of the unit; when the run is closed, its readings
 * stand among the unit's.
 */
export const carryOver = async (
  scope: Scope,
  run: typeof runs.$inferSelect,
  fresh: readonly RunEvent[],
  state: RunState,
): Promise<void> => {
  for (const event of fresh) {
    const { body } = event;
    if (body.type !== "noticed") continue;
    const part = state.network.map.parts.find((p) => p.id === body.part);
    await takeEntry(scope, event.by, run.unitId, event.id, {
      id: event.id,
      at: event.at,
      mapRevision: run.mapRevision,
      visitId: run.visitId,
      body: findingBodySchema.parse({
        type: "found",
        what: body.text.slice(0, 300),
        severity: body.severity,
        partId: part?.id ?? null,
        place: part?.place ?? "",
        ...(body.text.length > 300 ? { cause: body.text.slice(300, 800) } : {}),
      }),
    });
  }
  const closed = fresh.find((e) => e.body.type === "closed");
  if (!closed) return;
  await keepReadings(
    scope,
    state.readings.map((r) => ({
      id: r.event,
      unitId: run.unitId,
      visitId: run.visitId,
      personId: closed.by.id,
      partId: null,
      key: `run/${r.kind}/${r.label}`.slice(0, 240),
      label: r.label,
      dimension: DIMENSIONS[r.kind] ?? "volume",
      value: r.si,
      typed: r.typed,
      method: "winterizing",
      at: new Date(r.by.at),
    })),
  );
};
