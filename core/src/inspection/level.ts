/** Of several ways in which a tank's level was told, the one that is believed. Common practice, no source. */

export const LEVEL_METHODS = ["overflow", "measured", "sight", "torch", "sender"] as const;
export type LevelMethod = (typeof LEVEL_METHODS)[number];

export interface LevelReading {
  readonly method: LevelMethod;
  /** Part of full, 0 to 1. */
  readonly level: number;
  /** A black or grey tank: its sender is believed last of all. */
  readonly waste?: boolean;
}

// Overflow and measured volume agree with the tank; sight and lamp with its wall; a sender with itself.
const TRUST: Readonly<Record<LevelMethod, number>> = {
  overflow: 5,
  measured: 5,
  sight: 4,
  torch: 3,
  sender: 2,
};
const APART = 0.15;

/** The level that is believed, and whether another way told something quite different. */
export const believedLevel = (
  readings: readonly LevelReading[],
):
  | { readonly level: number; readonly method: LevelMethod; readonly doubt: string | undefined }
  | undefined => {
  const trust = (r: LevelReading): number =>
    TRUST[r.method] - (r.waste && r.method === "sender" ? 1 : 0);
  const [best, ...others] = readings
    .filter((r) => r.level >= 0 && r.level <= 1)
    .toSorted((a, b) => trust(b) - trust(a));
  if (!best) return undefined;
  const far = others.find((r) => Math.abs(r.level - best.level) > APART);
  return {
    level: best.level,
    method: best.method,
    doubt: far
      ? `${far.method} says ${Math.round(far.level * 100)} %, ${best.method} ${Math.round(best.level * 100)} %`
      : undefined,
  };
};
