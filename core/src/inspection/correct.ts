import {
  addOnPipeRun,
  changePart,
  type Edited,
  kindOfPart,
  removePart,
  runsAt,
  type WaterMap,
} from "../watermap/index.ts";
import type { InspectionPoint } from "./walk.ts";

/** Marks of a walk-round that correct the map on the spot; the caller saves what comes out as the next revision. */

export type Correction =
  | { readonly ok: true; readonly map: WaterMap; readonly why: string; readonly part?: string }
  | { readonly ok: false; readonly problem: string };

const of = (edited: Edited, why: string): Correction =>
  edited.ok
    ? { ok: true, map: edited.map, why, ...(edited.part ? { part: edited.part } : {}) }
    : edited;

/** "Not fitted": the part comes off the map; where pipe passed through it, the pipe is healed. */
export const notFitted = (map: WaterMap, partId: string): Correction => {
  const part = map.parts.find((p) => p.id === partId);
  if (!part) return { ok: false, problem: "That part is not on the map any more." };
  return of(removePart(map, partId), `Walk-round: ${part.name} is not fitted`);
};

/** A part that was in doubt has been seen: it is there. */
export const isFitted = (map: WaterMap, partId: string): Correction => {
  const part = map.parts.find((p) => p.id === partId);
  if (!part) return { ok: false, problem: "That part is not on the map any more." };
  return of(
    changePart(map, partId, { unknown: null, assumed: null }),
    `Walk-round: ${part.name} found`,
  );
};

/** Kinds worth offering as "found another": what one meets behind a panel, not a tank or a way in. */
const FOUND_GROUPS: ReadonlySet<string> = new Set([
  "control",
  "line",
  "conditioning",
  "drains",
  "outlets",
]);

/** "Found another": a part of a kind goes onto the pipe beside the point, in the point's place. */
export const foundAnother = (
  map: WaterMap,
  beside: Pick<InspectionPoint, "partId">,
  kind: string,
  name?: string,
): Correction => {
  const part = map.parts.find((p) => p.id === beside.partId);
  if (!part) return { ok: false, problem: "That part is not on the map any more." };
  // A new part must not come between a part and the pipe that drains it, so the longest of its pipes is cut.
  const run = runsAt(map, part.id).toSorted((a, b) => b.lengthM - a.lengthM)[0];
  if (!run)
    return { ok: false, problem: `No pipe is drawn at ${part.name}: draw it on the map bench.` };
  const share = run.from.part === part.id ? 0.2 : 0.8;
  const more = {
    ...(name ? { name } : {}),
    ...(part.place ? { place: part.place } : {}),
    ...(part.access ? { access: part.access } : {}),
  };
  const added = addOnPipeRun(map, kind, run.id, share, more);
  if (!added.ok) return added;
  const made = added.map.parts.find((p) => p.id === added.part);
  return of(added, `Walk-round: found ${made?.name ?? kind} beside ${part.name}`);
};

/** Whether a part may be marked "not-fitted" with an effect on the map: what everything hangs from is drawn again instead. */
export const canBeMissing = (map: WaterMap, partId: string | undefined): boolean => {
  const part = map.parts.find((p) => p.id === partId);
  return part !== undefined && map.parts.length > 1 && kindOfPart(part).role.joint !== true;
};

export const canBeFound = (group: string): boolean => FOUND_GROUPS.has(group);
