import type { AtRest } from "./cushions.ts";
import type { Drive } from "./flow-ways.ts";

/** What everything from the source to the watched opening is to be before it is shut again; all that is said. */
export interface Wanted {
  /** Glycol by volume, at most. */
  readonly glycolAtMost?: number | undefined;
  /** Free chlorine, mg/L. */
  readonly chlorineAtLeast?: number | undefined;
  readonly chlorineAtMost?: number | undefined;
  /** Full, with no air in what comes. */
  readonly full?: boolean | undefined;
  /** Not before so much has come, m3. */
  readonly atLeastM3?: number | undefined;
}

export interface Push {
  readonly drive: Drive;
  /** What a jug at a pickup, or the source of a push, gives. Strength by volume. */
  readonly productStrength: number;
  /** Free chlorine in it, mg/L. */
  readonly chlorineMgL?: number | undefined;
  /** Stop when what comes, and everything on the way, is so. */
  readonly wants?: Wanted | undefined;
  /** Where arrival and strength are watched. */
  readonly watch: string;
  /**
   * Stop when what leaves at the watched opening has at least this strength, 0 to 1, and everything on the way holds it too:
   * a hose already full from the other side of a mixer shows strength at once and proves nothing.
   */
  readonly untilStrength?: number;
  /** Whoever runs it goes by what comes out and by this volume, m3, and cannot see what is on the way. */
  readonly byEyeM3?: number;
  /** Stop when the watched opening gives this share of air ("it spits"). */
  readonly untilAir?: number;
  /** Stop at this volume at the latest, m3. */
  readonly maxM3: number;
  /** How each accumulator stands to the pressure of the line. */
  readonly cushions?: AtRest;
  /** In steps so many times as large: quicker, and near enough to see whether anything is worth a closer look. */
  readonly rough?: boolean;
}
