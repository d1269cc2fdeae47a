import { findingBodySchema } from "@uppershed/core/inspection";
import {
  jobOf,
  antifreezeUse,
  jobWork,
  type RunEvent,
  type RunReading,
  type RunState,
  readingOf,
} from "@uppershed/core/procedure";
import { wholeLetters } from "@uppershed/core/quantity";
import { eq } from "drizzle-orm";
import { takeEntry } from "../findings/take.ts";
import { takeFromKit } from "../house/kit.ts";
import { keepReadings } from "../readings/store.ts";
import type { runs } from "../schema/index.ts";
import { readings } from "../schema/index.ts";
import type { Scope } from "../scope.ts";

const DIMENSIONS: Readonly<Record<string, string>> = {
  strength: "fraction",
  temperature: "temperature",
  pressure: "pressure",
  chlorine: "concentration",
  flow: "flow",
};

const FIRST_WORDS = 300;
const MORE_WORDS = 500;
/** A text as a finding takes it: what it is, and what more was said. */
const cut = (text: string): readonly [string, string] => {
  const first = wholeLetters(text, FIRST_WORDS);
  return [first, wholeLetters(text.slice(first.length), MORE_WORDS)];
};

/**
 * What a run leaves beside its own record: a fault noticed on the way is a finding of the unit; when the run is closed, its readings
 * stand among the unit's, and one that is corrected afterwards stands there corrected.
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
    const [what, more] = cut(body.text);
    await takeEntry(scope, event.by, run.unitId, event.id, {
      id: event.id,
      at: event.at,
      mapRevision: run.mapRevision,
      visitId: run.visitId,
      body: findingBodySchema.parse({
        type: "found",
        what,
        severity: body.severity,
        partId: part?.id ?? null,
        place: part?.place ?? "",
        ...(more ? { cause: more } : {}),
      }),
    });
  }
  if (state.phase !== "closed") return;
  const work = jobWork(run.setup.job);
  const rowOf = (r: RunReading, personId: string) => ({
    unitId: run.unitId,
    visitId: run.visitId,
    personId,
    ...readingOf(state.network, r),
    label: r.label,
    dimension: DIMENSIONS[r.kind] ?? "volume",
    value: r.si,
    typed: r.typed,
    method: work,
    instrument: r.instrument ?? "",
    at: new Date(r.by.at),
  });
  const closed = fresh.find((e) => e.body.type === "closed");
  if (closed) {
    const { usedM3, workedOutM3 } = antifreezeUse(state);
    if (jobOf(run.setup) === "winterize")
      await takeFromKit(scope, run.setup.product, usedM3 ?? workedOutM3);
    await keepReadings(
      scope,
      state.readings.map((r) => ({ ...rowOf(r, closed.by.id), id: r.event })),
    );
    return;
  }
  for (const event of fresh) {
    const { body } = event;
    if (body.type !== "corrected") continue;
    const reading = state.readings.find((r) => r.event === body.event);
    if (!reading) continue;
    const earlier = await scope.find(readings, eq(readings.id, reading.event));
    const last = await latestCorrection(scope, reading.event);
    await keepReadings(scope, [
      {
        ...rowOf(reading, event.by.id),
        id: event.id,
        ...(earlier.length > 0 ? { supersedes: last } : {}),
        method: `${work}, corrected`,
      },
    ]);
  }
};

/** The newest row that stands for a reading: itself, or its last correction. */
const latestCorrection = async (scope: Scope, id: string): Promise<string> => {
  let now = id;
  for (;;) {
    const next = await scope.first(readings, eq(readings.supersedes, now));
    if (!next) return now;
    now = next.id;
  }
};
