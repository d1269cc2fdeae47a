import { KNOWN_LOOKS, lookFor, type ReadingOf } from "@uppershed/core/inspection";

/** What looks and readings of before were of: they were followed by their words. Devices of then may still send them so. */

/** The id that a point of the walk-round has, of the words that it was kept under before points had ids. */
export const pointIdOf = (words: string): string =>
  words
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/gu, "-")
    .replaceAll(/^-|-$/gu, "");

/** What a reading of then was of, by the key that it was followed under. */
export const ofOldKey = (key: string, partId: string | null): ReadingOf => {
  const tail = partId !== null && key.startsWith(`${partId}/`) ? key.slice(partId.length + 1) : key;
  const point = pointIdOf(tail);
  if (KNOWN_LOOKS.has(point))
    return { partId, spot: point, kind: lookFor(point).reading?.is ?? "fraction" };
  if (partId === null) {
    const [spot = "", ...kind] = tail.split("/");
    return { partId, spot: pointIdOf(spot), kind: pointIdOf(kind.join(" ")) || "figure" };
  }
  const [kind = "", ...spot] = tail.split("/");
  return { partId, spot: pointIdOf(spot.join(" ")), kind: pointIdOf(kind) || "figure" };
};
