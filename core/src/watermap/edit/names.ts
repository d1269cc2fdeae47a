import type { WaterMap } from "../document.ts";
import { PART_KINDS } from "../kinds/index.ts";

/** A short id from words: small letters, digits and hyphens, not longer than an id may be. */
export const slug = (words: string): string =>
  words
    .normalize("NFKD")
    .replaceAll(/\p{M}/gu, "")
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/gu, "-")
    .replaceAll(/^-+|-+$/gu, "")
    .slice(0, 40)
    .replace(/-+$/u, "") || "part";

/** An id that the map does not have yet. */
export const freshId = (map: Pick<WaterMap, "parts" | "runs">, wanted: string): string => {
  const taken = new Set([...map.parts, ...map.runs].map((x) => x.id));
  const base = slug(wanted);
  if (!taken.has(base)) return base;
  for (let n = 2; ; n++) if (!taken.has(`${base}-${n}`)) return `${base}-${n}`;
};

/** A name that no other part carries: "Ball valve", "Ball valve 2". */
export const freshName = (map: Pick<WaterMap, "parts">, kind: string): string => {
  const base = PART_KINDS.get(kind)?.label ?? kind;
  const taken = new Set(map.parts.map((p) => p.name));
  if (!taken.has(base)) return base;
  for (let n = 2; ; n++) if (!taken.has(`${base} ${n}`)) return `${base} ${n}`;
};

/** The next tag of a series that is free: V1, V2, … for valves, D1, D2, … for drains. */
export const nextTag = (map: Pick<WaterMap, "parts">, letter: string): string => {
  const taken = new Set(map.parts.flatMap((p) => (p.tag ? [p.tag.toUpperCase()] : [])));
  for (let n = 1; ; n++) if (!taken.has(`${letter}${n}`)) return `${letter}${n}`;
};
