import {
  addLoose,
  addOnPort,
  addOnPipeRun,
  changePart,
  connect,
  connectToPipeRun,
  type Edited,
  kindOfPart,
  layOut,
  nextTag,
  openPorts,
  partOf,
  type WaterMap,
} from "@uppershed/core";
import { useMemo } from "react";
import type { Drop, DrawTools } from "../../drawing/tools.ts";
import type { Edit } from "../../mapping/part-plate.tsx";

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

/** Drops a part of a kind where the hand let it go. */
export const dropPart = (map: WaterMap, kind: string, drop: Drop): Edited => {
  switch (drop.on) {
    case "run":
      return addOnPipeRun(map, kind, drop.run, drop.share);
    case "port":
      return addOnPort(map, kind, drop.end);
    case "empty": {
      const added = addLoose(map, kind);
      const laid = added.ok ? layOut(added.map).parts.find((p) => p.id === added.part) : undefined;
      if (!added.ok || !added.part || !laid) return added;
      // It stays where it was let go, however far from its automatic place.
      return {
        ...added,
        map: nudge(added.map, added.part, drop.x - laid.at.x, drop.y - laid.at.y),
      };
    }
  }
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
  letGo: () => void,
): DrawTools =>
  useMemo(
    () => ({
      openPorts: shownPorts(map, held !== undefined, selected),
      onMove: (id, dx, dy) => apply((now) => nudge(now, id, dx, dy)),
      onConnect: (from, to) => apply((now) => connect(now, from, to)),
      onConnectToRun: (from, run, share) => apply((now) => connectToPipeRun(now, from, run, share)),
      held: held !== undefined,
      onDrop: (drop) => {
        if (held !== undefined) apply((now) => dropPart(now, held, drop));
        letGo();
      },
    }),
    [map, held, selected, apply, letGo],
  );
