import type { End } from "../watermap/index.ts";

export type ProblemCode =
  | "open-port"
  | "loose-part"
  | "no-fit"
  | "measure-fit"
  | "outlet-not-reached"
  | "nothing-clears"
  | "no-check-at-heater"
  | "no-check-at-inlet"
  | "no-regulator"
  | "no-breaker"
  | "no-strainer"
  | "no-vent"
  | "dead-leg"
  | "carbon-before-tank"
  | "cross-connection"
  | "pressure-on-weak-pipe"
  | "tag-twice"
  | "not-known";

/**
 * wrong: the map cannot be right so. guard: something that protects is missing. standing: water stands where nothing moves it.
 * unknown: not answered yet. note: worth a look.
 */
export type Severity = "wrong" | "guard" | "standing" | "unknown" | "note";

/** A mend that one tap can do; data, so that it can travel and be told in words. */
export type Mend =
  | { readonly do: "join"; readonly label: string; readonly from: End; readonly to: End }
  | { readonly do: "join-run"; readonly label: string; readonly from: End; readonly run: string }
  | { readonly do: "attach"; readonly label: string; readonly at: End; readonly kind: string }
  | {
      readonly do: "insert";
      readonly label: string;
      readonly run: string;
      readonly kind: string;
      readonly towards?: string;
      /** The piece between this part and what is put in is of this pipe from then on. */
      readonly piece?: { readonly at: string; readonly pipe: string };
      readonly share: number;
    }
  | { readonly do: "remove"; readonly label: string; readonly parts: readonly string[] }
  | { readonly do: "known"; readonly label: string; readonly part: string }
  | { readonly do: "untag"; readonly label: string; readonly part: string };

export interface Problem {
  readonly code: ProblemCode;
  readonly severity: Severity;
  /** In words, with what to do. */
  readonly message: string;
  /** Parts and runs that it is about, the one to look at first. */
  readonly parts: readonly string[];
  readonly mends: readonly Mend[];
}
