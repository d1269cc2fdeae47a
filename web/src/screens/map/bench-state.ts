import {
  addLoose,
  addOnPort,
  addOnPipeRun,
  changePart,
  connect,
  connectToPipeRun,
  type Edited,
  kindOfPart,
  nextTag,
  openPorts,
  partOf,
  type WaterMap,
} from "@uppershed/core/watermap";
import { useMemo } from "react";
import type { Drop, DrawTools } from "../../drawing/tools.ts";
import type { Edit } from "../../mapping/part-plate.tsx";
import { automaticPlace } from "../../mapping/use-chart.ts";

const letterFor = (map: WaterMap, id: string): string => {
  const part = partOf(map, id);
  const role = part && kindOfPart(part).controls[0]?.role;
  return role === "drain" ? "D" : "V";
};

/** Puts the next free tag on a part, or takes its tag away if it has one. */
export const tagNext = (map: WaterMap, id: string): Edited => {
  const part = partOf(map, id);
  return changePart(map, id, { tag: part?.tag ? null : nextTag(map, letterFor(map, id)) });
};

/** Drops a part of a kind on a pipe or an open port. */
export const dropPart = (
  map: WaterMap,
  kind: string,
  drop: Exclude<Drop, { readonly on: "empty" }>,
): Edited =>
  drop.on === "run"
    ? addOnPipeRun(map, kind, drop.run, drop.share)
    : addOnPort(map, kind, drop.end);

/** Puts a part that is joined to nothing where the hand let it go, however far from its automatic place; that is laid out beside the screen. */
const dropLoose = async (
  map: WaterMap,
  kind: string,
  { x, y }: { readonly x: number; readonly y: number },
  apply: Edit,
): Promise<void> => {
  const added = addLoose(map, kind);
  const at = added.ok && added.part ? await automaticPlace(added.map, added.part) : undefined;
  apply((now) => {
    const again = addLoose(now, kind);
    if (!again.ok || !again.part || !at) return again;
    return { ...again, map: nudge(again.map, again.part, x - at.x, y - at.y) };
  });
};

/** Moves a part on the drawing by grid units from where it stands. */
export const nudge = (map: WaterMap, id: string, dx: number, dy: number): WaterMap => ({
  ...map,
  parts: map.parts.map((p) =>
    p.id === id ? { ...p, nudge: { x: (p.nudge?.x ?? 0) + dx, y: (p.nudge?.y ?? 0) + dy } } : p,
  ),
});

/** Ports that are to be seen: those that miss their pipe always, those that may stay open when something could go on them. */
const shownPorts = (
  map: WaterMap,
  held: boolean,
  selected: string | undefined,
): Map<string, string[]> =>
  new Map(
    map.parts.map((p) => [
      p.id,
      openPorts(map, p)
        .filter((port) => !port.optional || held || p.id === selected)
        .map((port) => port.name),
    ]),
  );

export const useDrawTools = (
  map: WaterMap,
  held: string | undefined,
  selected: string | undefined,
  apply: Edit,
  hold: (kind: string | undefined) => void,
): DrawTools =>
  useMemo(
    () => ({
      openPorts: shownPorts(map, held !== undefined, selected),
      onMove: (id, dx, dy) => apply((now) => nudge(now, id, dx, dy)),
      onConnect: (from, to) => apply((now) => connect(now, from, to)),
      onConnectToRun: (from, run, share) => apply((now) => connectToPipeRun(now, from, run, share)),
      held: held !== undefined,
      onDrop: (drop) => {
        hold(undefined);
        if (held === undefined) return;
        if (drop.on === "empty") void dropLoose(map, held, drop, apply);
        else apply((now) => dropPart(now, held, drop));
      },
    }),
    [map, held, selected, apply, hold],
  );
