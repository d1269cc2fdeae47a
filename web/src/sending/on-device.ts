import type {
  FindingOnFile,
  Note,
  Picture,
  PointLook,
  Reading,
  Snapshot,
  SpringLook,
} from "@uppershed/contract";
import {
  addToFinding,
  byUrgency,
  type FindingEntry,
  findingBodySchema,
  readingKey,
} from "@uppershed/core/inspection";
import {
  type TestAstray,
  type TestEntry,
  testBodySchema,
  testNow,
  type PressureTest,
} from "@uppershed/core/hold";
import { turnsOf } from "@uppershed/core/procedure";
import { inUseLineup, type Network } from "@uppershed/core/watermap";
import { useMemo } from "react";
import {
  useFindingsOfUnitQuery,
  useLooksQuery,
  useNotesQuery,
  usePicturesQuery,
  usePressureTestQuery,
  useReadingsQuery,
  useSnapshotsQuery,
  useSpringQuery,
} from "../store/api.ts";
import type { OutboxBodies, OutboxKind } from "../device/entry.ts";
import { type Held, useHeld } from "../device/outbox.ts";

/** What the server has, and over it what waits on this device: the screens show both alike. */

const waitingOf = <K extends OutboxKind>(
  held: readonly Held[],
  kind: K,
  unitId: string,
): { entry: Held; body: OutboxBodies[K] }[] =>
  held.flatMap((e) =>
    e.kind === kind && e.unitId === unitId && e.refused === undefined
      ? [{ entry: e, body: e.body as OutboxBodies[K] }]
      : [],
  );

/** The newest look at each point, with those that are not sent yet. */
export const useLooksNow = (unitId: string): readonly PointLook[] | undefined => {
  const { data } = useLooksQuery(unitId);
  const held = useHeld();
  return useMemo(() => {
    if (!data) return undefined;
    const newest = new Map(data.map((l) => [l.key, l]));
    for (const { entry, body } of waitingOf(held, "looks", unitId))
      for (const look of body.looks)
        newest.set(look.key, {
          ...look,
          pointId: look.pointId ?? "",
          note: look.note ?? "",
          readings: look.readings ?? [],
          visitId: look.visitId ?? null,
          by: entry.personName,
        });
    return [...newest.values()];
  }, [data, held, unitId]);
};

export const useFindingsNow = (unitId: string): readonly FindingOnFile[] | undefined => {
  const { data } = useFindingsOfUnitQuery(unitId);
  const held = useHeld();
  return useMemo(() => {
    if (!data) return undefined;
    const all = new Map(data.map((f) => [f.id, f]));
    for (const { entry, body } of waitingOf(held, "finding", unitId)) {
      const id = entry.findingId ?? body.id;
      const before = all.get(id);
      const parsed = findingBodySchema.safeParse(body.body);
      if (!parsed.success || before?.entries.some((e) => e.id === body.id)) continue;
      const said: FindingEntry = {
        id: body.id,
        at: body.at,
        by: entry.personName,
        body: parsed.data,
      };
      const next = addToFinding(before, said);
      if (!next.ok) continue;
      all.set(id, {
        id,
        unitId,
        unitName: before?.unitName ?? "",
        visitId: before?.visitId ?? body.visitId ?? null,
        mapRevision: before?.mapRevision ?? body.mapRevision,
        ...next.finding,
        entries: [...(before?.entries ?? []), said],
        ...(before?.withoutEffect ? { withoutEffect: before.withoutEffect } : {}),
      });
    }
    return [...all.values()].map((f) => ({ ...f, at: f.foundAt })).toSorted(byUrgency);
  }, [data, held, unitId]);
};

export interface PictureNow extends Picture {
  /** Bytes on this device, until the server has them. */
  readonly bytesHere?: ArrayBuffer;
}

export const usePicturesNow = (unitId: string): readonly PictureNow[] => {
  const { data } = usePicturesQuery(unitId);
  const held = useHeld();
  return useMemo(() => {
    const known = new Set(data?.map((p) => p.id));
    const waiting = waitingOf(held, "picture", unitId)
      .filter(({ body }) => !known.has(body.id))
      .map<PictureNow>(({ entry, body }) => ({
        ...body,
        unitId,
        caption: body.caption ?? "",
        marks: [],
        bytes: entry.bytes?.byteLength ?? 0,
        by: entry.personName,
        ...(entry.bytes ? { bytesHere: entry.bytes } : {}),
      }));
    return [...(data ?? []), ...waiting];
  }, [data, held, unitId]);
};

/** How the unit was found and left on a visit; what waits here is told in words by the map that it was written on. */
export const useSnapshotsNow = (
  unitId: string,
  visitId: string,
  network: Network | undefined,
): readonly Snapshot[] => {
  const { data } = useSnapshotsQuery(visitId, { skip: visitId === "" });
  const held = useHeld();
  return useMemo(() => {
    const known = new Set(data?.map((s) => s.id));
    const waiting = waitingOf(held, "snapshot", unitId).filter(
      ({ entry, body }) => entry.url.includes(visitId) && !known.has(body.id),
    );
    return [
      ...(data ?? []),
      ...waiting.map(({ entry, body }) => ({
        ...body,
        kind: body.kind,
        turns: network ? turnsOf(network, { ...inUseLineup(network), ...body.lineup }) : [],
        note: body.note ?? "",
        by: entry.personName,
      })),
    ];
  }, [data, held, unitId, visitId, network]);
};

export const useReadingsNow = (unitId: string): readonly Reading[] => {
  const { data } = useReadingsQuery({ unitId });
  const held = useHeld();
  return useMemo(() => {
    const known = new Set(data?.readings.map((r) => r.id));
    const waiting = waitingOf(held, "reading", unitId).flatMap(({ entry, body }) =>
      body.readings
        .filter((r) => !known.has(r.id))
        .map(({ key = "", kind = key, spot = "", ...r }) => ({
          ...r,
          spot,
          kind,
          key: readingKey({ partId: r.partId ?? null, spot, kind }),
          partId: r.partId ?? null,
          typed: r.typed ?? "",
          method: r.method ?? "",
          instrument: r.instrument ?? "",
          by: entry.personName,
        })),
    );
    return [...waiting, ...(data?.readings ?? [])].toSorted((a, b) => (a.at < b.at ? 1 : -1));
  }, [data, held, unitId]);
};

/** The notes on a unit, newest first; what waits on this device says so. */
export const useNotesNow = (
  unitId: string,
): readonly (Note & { readonly waits?: boolean })[] | undefined => {
  const { data } = useNotesQuery(unitId);
  const held = useHeld();
  return useMemo(() => {
    const known = new Set(data?.map((n) => n.id));
    const waiting = waitingOf(held, "note", unitId).filter(({ body }) => !known.has(body.id));
    if (!data && waiting.length === 0) return undefined;
    return [
      ...waiting
        .map(({ entry, body }) => ({
          id: body.id,
          unitId,
          text: body.text,
          tried: null,
          at: entry.at,
          by: entry.personName,
          waits: entry.sentAt === undefined,
        }))
        .toReversed(),
      ...(data ?? []),
    ];
  }, [data, held, unitId]);
};

export const useSpringNow = (unitId: string): ReadonlyMap<string, SpringLook> => {
  const { data } = useSpringQuery(unitId);
  const held = useHeld();
  return useMemo(() => {
    const newest = new Map((data ?? []).map((l) => [l.item, l]));
    for (const { entry, body } of waitingOf(held, "spring", unitId))
      newest.set(body.item, {
        item: body.item,
        mark: body.mark,
        note: body.note ?? "",
        at: body.at,
        by: entry.personName,
      });
    return newest;
  }, [data, held, unitId]);
};

export interface TestHere {
  readonly test: PressureTest;
  readonly title: string;
  readonly mapRevision: number;
  readonly visitId: string | null;
  readonly openedSince: string | null;
  readonly astray: readonly TestAstray[];
  /** Entries that wait on this device. */
  readonly waits: number;
}

/** A pressure test with what waits on this device: no reading is lost between the two. */
export const useTestNow = (
  unitId: string,
  testId: string,
): { here: TestHere | undefined; error: unknown } => {
  const { data, error } = usePressureTestQuery({ unitId, testId });
  const held = useHeld();
  const here = useMemo(() => {
    const known = new Set(data?.entries.map((e) => e.id));
    const waiting = waitingOf(held, "test", unitId).filter(
      ({ entry, body }) => entry.testId === testId && !known.has(body.id),
    );
    const mine = waiting.flatMap(({ entry, body }): TestEntry[] => {
      const parsed = testBodySchema.safeParse(body.body);
      return parsed.success
        ? [{ id: body.id, at: body.at, by: entry.personName, body: parsed.data }]
        : [];
    });
    const { test, astray } = testNow([...(data?.entries ?? []), ...mine]);
    if (!test) return undefined;
    const first = waiting[0]?.body;
    return {
      test,
      title: test.plan.title,
      mapRevision: data?.mapRevision ?? first?.mapRevision ?? 1,
      visitId: data?.visitId ?? first?.visitId ?? null,
      openedSince: data?.openedSince ?? null,
      astray: [...(data?.withoutEffect ?? []), ...astray.filter((a) => !known.has(a.id))],
      waits: waiting.filter(({ entry }) => entry.sentAt === undefined).length,
    };
  }, [data, held, unitId, testId]);
  return { here, error };
};
