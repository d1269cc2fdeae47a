import type {
  FindingOnFile,
  NewFindingEntry,
  NewLook,
  NewPicture,
  NewReading,
  NewSnapshot,
  NewSpringLook,
  Picture,
  PointLook,
  Reading,
  Snapshot,
  SpringLook,
} from "@uppershed/contract";
import { addToFinding, byUrgency, type FindingEntry, findingBodySchema } from "@uppershed/core";
import { useMemo } from "react";
import {
  useFindingsOfUnitQuery,
  useLooksQuery,
  usePicturesQuery,
  useReadingsQuery,
  useSnapshotsQuery,
  useSpringQuery,
} from "../store/api.ts";
import type { Errand } from "./db.ts";
import { useHeld } from "./errands.ts";

/** What the server has, and over it what waits on this device: the screens show both alike. */

interface Bodies {
  readonly looks: { readonly looks: readonly NewLook[] };
  readonly finding: NewFindingEntry;
  readonly picture: NewPicture & { readonly width: number; readonly height: number };
  readonly snapshot: NewSnapshot;
  readonly reading: { readonly readings: readonly NewReading[] };
  readonly spring: NewSpringLook;
}

const waitingOf = <K extends keyof Bodies>(errands: readonly Errand[], kind: K, unitId: string): { errand: Errand; body: Bodies[K] }[] =>
  errands.flatMap((e) =>
    e.kind === kind && e.unitId === unitId && e.refused === undefined ? [{ errand: e, body: e.body as Bodies[K] }] : [],
  );

/** The newest look at each point, with those that are not sent yet. */
export const useLooksNow = (unitId: string): readonly PointLook[] | undefined => {
  const { data } = useLooksQuery(unitId);
  const errands = useHeld();
  return useMemo(() => {
    if (!data) return undefined;
    const newest = new Map(data.map((l) => [l.key, l]));
    for (const { errand, body } of waitingOf(errands, "looks", unitId))
      for (const look of body.looks)
        newest.set(look.key, {
          ...look,
          note: look.note ?? "",
          readings: look.readings ?? [],
          visitId: look.visitId ?? null,
          by: errand.personName,
        });
    return [...newest.values()];
  }, [data, errands, unitId]);
};

export const useFindingsNow = (unitId: string): readonly FindingOnFile[] | undefined => {
  const { data } = useFindingsOfUnitQuery(unitId);
  const errands = useHeld();
  return useMemo(() => {
    if (!data) return undefined;
    const all = new Map(data.map((f) => [f.id, f]));
    for (const { errand, body } of waitingOf(errands, "finding", unitId)) {
      const id = errand.url.split("/").at(-1) ?? "";
      const before = all.get(id);
      const parsed = findingBodySchema.safeParse(body.body);
      if (!parsed.success || before?.entries.some((e) => e.id === body.id)) continue;
      const entry: FindingEntry = { id: body.id, at: body.at, by: errand.personName, body: parsed.data };
      const next = addToFinding(before, entry);
      if (!next.ok) continue;
      all.set(id, {
        id,
        unitId,
        unitName: before?.unitName ?? "",
        visitId: before?.visitId ?? body.visitId ?? null,
        mapRevision: before?.mapRevision ?? body.mapRevision,
        ...next.finding,
        entries: [...(before?.entries ?? []), entry],
      });
    }
    return [...all.values()].map((f) => ({ ...f, at: f.foundAt })).toSorted(byUrgency);
  }, [data, errands, unitId]);
};

export interface PictureNow extends Picture {
  /** Bytes on this device, until the server has them. */
  readonly bytesHere?: ArrayBuffer;
}

export const usePicturesNow = (unitId: string): readonly PictureNow[] => {
  const { data } = usePicturesQuery(unitId);
  const errands = useHeld();
  return useMemo(() => {
    const known = new Set(data?.map((p) => p.id));
    const waiting = waitingOf(errands, "picture", unitId)
      .filter(({ body }) => !known.has(body.id))
      .map<PictureNow>(({ errand, body }) => ({
        ...body,
        unitId,
        caption: body.caption ?? "",
        marks: [],
        bytes: errand.bytes?.byteLength ?? 0,
        by: errand.personName,
        ...(errand.bytes ? { bytesHere: errand.bytes } : {}),
      }));
    return [...(data ?? []), ...waiting];
  }, [data, errands, unitId]);
};

export const useSnapshotsNow = (unitId: string, visitId: string): readonly Snapshot[] => {
  const { data } = useSnapshotsQuery(visitId, { skip: visitId === "" });
  const errands = useHeld();
  return useMemo(() => {
    const known = new Set(data?.map((s) => s.id));
    const waiting = waitingOf(errands, "snapshot", unitId).filter(
      ({ errand, body }) => errand.url.includes(visitId) && !known.has(body.id),
    );
    return [...(data ?? []), ...waiting.map(({ errand, body }) => ({ ...body, note: body.note ?? "", by: errand.personName }))];
  }, [data, errands, unitId, visitId]);
};

export const useReadingsNow = (unitId: string): readonly Reading[] => {
  const { data } = useReadingsQuery({ unitId });
  const errands = useHeld();
  return useMemo(() => {
    const known = new Set(data?.readings.map((r) => r.id));
    const waiting = waitingOf(errands, "reading", unitId).flatMap(({ errand, body }) =>
      body.readings
        .filter((r) => !known.has(r.id))
        .map((r) => ({ ...r, partId: r.partId ?? null, typed: r.typed ?? "", method: r.method ?? "", by: errand.personName })),
    );
    return [...waiting, ...(data?.readings ?? [])].toSorted((a, b) => (a.at < b.at ? 1 : -1));
  }, [data, errands, unitId]);
};

export const useSpringNow = (unitId: string): ReadonlyMap<string, SpringLook> => {
  const { data } = useSpringQuery(unitId);
  const errands = useHeld();
  return useMemo(() => {
    const newest = new Map((data ?? []).map((l) => [l.item, l]));
    for (const { errand, body } of waitingOf(errands, "spring", unitId))
      newest.set(body.item, { item: body.item, mark: body.mark, note: body.note ?? "", at: body.at, by: errand.personName });
    return newest;
  }, [data, errands, unitId]);
};
