import type { Lineup } from "../watermap/index.ts";

export const UNIT_ENTRY_KINDS = ["run-closed", "in-use", "left", "map-revised", "opened"] as const;

/** Something that happened to a unit, in the order in which the server learnt of it. */
export type UnitEntry =
  | { readonly kind: "run-closed"; readonly at: string; readonly runId: string }
  /** Filled again and used: what a record said holds no longer. */
  | { readonly kind: "in-use"; readonly at: string }
  /** Left so at the end of a visit; says how the valves stand, not what the unit holds. */
  | {
      readonly kind: "left";
      readonly at: string;
      readonly lineup: Lineup;
      readonly visitId: string;
    }
  | {
      readonly kind: "map-revised";
      readonly at: string;
      readonly revision: number;
      readonly why: string;
    }
  /** A part was exchanged, or a joint undone: what it held is not known any more. */
  | {
      readonly kind: "opened";
      readonly at: string;
      readonly ids: readonly string[];
      readonly why: string;
    };

/** What came after a record and touches what it says. */
export interface Since {
  readonly at: string;
  readonly what: "map changed" | "opened" | "left otherwise";
  /** Names of the parts and pipes of which it is no longer known what they hold. */
  readonly names: readonly string[];
  readonly why: string;
}
